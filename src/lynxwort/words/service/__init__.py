"""Everything that service and the gate say. The first word tells checks, parts and measures from other terms."""

from lynxwort.words import N_
from lynxwort.words.service.checks import CHECKS
from lynxwort.words.service.names import FIGURE_NAMES
from lynxwort.words.service.parts import MEASURES, PARTS

__all__ = ["CAUTIONS", "FIGURE_NAMES", "FINDINGS", "INPUT_NAMES", "MESSAGES", "REASONS", "TERMS"]

#: how the names of checks, parts and measures begin among the terms
KINDS = ("check.", "part.", "measure.")
TERMS: dict[str, str] = (
    {f"check.{k}": v[0] for k, v in CHECKS.items()}
    | {f"part.{k}": v[0] for k, v in PARTS.items()}
    | {f"measure.{k}": v[0] for k, v in MEASURES.items()}
    | {"run_in": N_("run the engine in, an hour")}
)

FINDINGS: dict[str, tuple[str, str, str]] = {
    "gate_no_riding": (
        N_("Do not ride: {check}"),
        N_("do not ride: {check}"),
        N_("It failed. Nobody rides this bike until it is mended and checked again; nothing is judged until then."),
    ),
    "gate_failed": (
        N_("{check}: failed"),
        N_("failed: {check}"),
        N_("What rests on it is not judged. Mend it and check again: everything returns as it was."),
    ),
    "gate_look": (N_("{check}: look again"), N_("look: {check}"), N_("What rests on it is said with a doubt.")),
    "gate_unchecked": (
        N_("{count} of {of} checks done"),
        N_("{count} of {of} checks done"),
        N_("A tired bike cannot be tuned. What is not checked withdraws nothing, and proves nothing."),
    ),
    "overdue": (
        N_("Overdue by {left_s}: {part}"),
        N_("overdue: {part}"),
        N_("It has run {run_s}. The manual goes first: type its interval if it differs."),
    ),
    "exceeds_during_race": (
        N_("Due during the race: {part}"),
        N_("due in the race: {part}"),
        N_("{left_s} are left of it now, and the race takes more. Do it before the start, or plan it for a stop."),
    ),
    "soon": (
        N_("{part}: {left_s} left after the race"),
        N_("soon: {part}"),
        N_("Less than a fifth of its interval is left at the finish."),
    ),
    "aged": (
        N_("{part}: {months} months old"),
        N_("too old: {part}"),
        N_("It ages whether it is ridden or not. Change it before the race."),
    ),
    "ages_soon": (
        N_("{part}: {months} months old"),
        N_("ageing: {part}"),
        N_("Look at its colour and smell; it is changed by the calendar, too."),
    ),
    "boiled_once": (
        N_("{part} boiled once"),
        N_("boiled: {part}"),
        N_("Fluid that boiled holds gas and water. Change it and bleed."),
    ),
    "age_unsaid": (
        N_("{part}: age not known"),
        N_("age not known: {part}"),
        N_("Say when it was done; until then nobody knows."),
    ),
    "risk_high": (
        N_("About 1 in {one_in} that a part ends the race"),
        N_("1 in {one_in}: a part fails"),
        N_("Most of it is {part}. By rule of thumb, not this engine: nobody knows one engine's day."),
    ),
    "worn_out": (
        N_("{measure}: at its limit"),
        N_("at its limit: {measure}"),
        N_("Change it before it is ridden again."),
    ),
    "worn": (
        N_("{measure}: look again"),
        N_("worn: {measure}"),
        N_("Near its limit by practice; the manual's own goes first."),
    ),
    "worn_faster": (
        N_("{measure}: wears faster than before"),
        N_("faster: {measure}"),
        N_("The last step was more than twice the steps before it. Look why before it is ridden."),
    ),
    "limit_before_race_end": (
        N_("{measure} may reach its limit before the finish"),
        N_("limit near: {measure}"),
        N_("By its own trend as early as {earliest_s} of the bike. Measure again, or change it before."),
    ),
    "spokes_uneven": (
        N_("{measure}: {off_share} uneven"),
        N_("uneven: {measure}"),
        N_(
            "Of one side and length. A tone hardly tells tension, only evenness; a dead one is "
            "tightened or changed first."
        ),
    ),
    "chain_worn": (
        N_("Chain worn"),
        N_("chain worn"),
        N_("{measure}: replace the chain with both sprockets; a new one on old teeth is soon gone."),
    ),
    "torque_open": (
        N_("{what} is not tightened"),
        N_("not tight: {what}"),
        N_("It stands on the torque list and nobody said that it is tight."),
    ),
    "retorque_due": (
        N_("{what} wants the spanner again"),
        N_("again: {what}"),
        N_("New or newly coated, it settles: after one hour and after three. Bare the seats of coating first."),
    ),
    "mark_moved": (
        N_("{what}: its paint mark moved"),
        N_("mark moved: {what}"),
        N_("Out, clean the threads, lock anew if it was locked, a new bolt where the manual says, a new mark."),
    ),
    "locker_locked_there": (
        N_("{what}: no threadlocker there"),
        N_("no locker: {what}"),
        N_("None on axles, spokes or a brake's banjo: it eats seals and hides torque."),
    ),
    "locker_high_strength": (
        N_("{what}: high strength locker"),
        N_("strong locker: {what}"),
        N_("Only where the manual says so: it comes off with heat alone."),
    ),
    "locker_unlocked": (
        N_("{what}: usually locked"),
        N_("usually locked: {what}"),
        N_("Rotor, sprocket and stand usually have a removable (medium) locker. The manual goes first."),
    ),
    "hours_gap": (
        N_("Rides and meter differ by {off_share}"),
        N_("hours differ by {off_share}"),
        N_("The meter counts. Was a ride forgotten, typed twice, or the meter changed?"),
    ),
    "part_late": (
        N_("{part}: its part comes too late"),
        N_("too late: {part}"),
        N_(
            "It comes on {comes}, and the work on it must begin on {needed}. Another source, or the plan without it: "
            "what is on stays on, by its own clock. Nothing new on the day of the race."
        ),
    ),
    "mending_late": (
        N_("{part}: what mends it comes too late"),
        N_("mends too late: {part}"),
        N_(
            "It comes on {comes}, and the work must begin on {needed}. A failed check is never left out of a plan: "
            "nobody rides this bike until it is mended and checked again. Another source, or another bike."
        ),
    ),
    "week_short": (
        N_("The evenings do not hold the work"),
        N_("the evenings are too short"),
        N_(
            "All of it takes longer than is left before the race. Begin earlier, work longer, or leave out what is "
            "only nice."
        ),
    ),
    "week_tight": (
        N_("{service.week.slack} in hand before the race"),
        N_("{service.week.slack} in hand"),
        N_("Less than one evening. Work takes longer than one says: keep one free."),
    ),
    "week_circle": (
        N_("What comes after what goes round in a circle"),
        N_("the order goes round"),
        N_("Say anew what must be on before what, under Kit."),
    ),
}
_SEAL = N_("Engine cold and off, bike stood firmly. The manual's way goes first.")
CAUTIONS: dict[str, str] = {
    "gate_no_riding": N_(
        "Do not ride, not even slowly to the pits. If you do not know how it is mended, a licensed workshop does."
    ),
    "gate_failed": _SEAL,
    "overdue": _SEAL,
    "exceeds_during_race": _SEAL,
    "boiled_once": N_("Brake fluid eats paint and skin; bleed by the manual, and try the brake before riding."),
    "worn_out": _SEAL,
    "worn_faster": _SEAL,
    "torque_open": N_("By the manual's torque, threads as it says. In aluminium only the manual's figure."),
    "retorque_due": N_("Cold, in the manual's order. A locked bolt is never turned to check it."),
    "mark_moved": N_("Do not just tighten it: it may be stretched or its lock broken."),
}

REASONS: dict[str, str] = {
    "no_log": N_("nothing was written down of its service"),
    "unsaid": N_("nothing was said of it"),
    "nothing_to_do": N_("nothing is left to do on the bike"),
    "week_unsaid": N_("nobody said which evening is the first"),
    "week_circle": N_("what comes after what goes round in a circle"),
} | {f"gate.{k}": N_("not judged: a check of the gate failed") for k in CHECKS}
INPUT_NAMES: dict[str, str] = {
    "race.week.evening_s": N_("work that an evening has"),
    "service.rides": N_("rides and readings of the meter"),
    "service.parts": N_("parts and when they were fitted"),
    "service.checks": N_("checks of the gate"),
    "service.wear": N_("measurements of wear"),
    "service.practice_s": N_("still to be ridden before the start"),
}
MESSAGES: dict[str, str] = {
    "not_an_hour": N_("An hour of the day, like 18:00."),
    "photo_too_large": N_("The photo is too large: at most {high} MB and 60 million points."),
    "not_a_photo": N_("This is no photo that can be read: JPEG, PNG or WebP, please."),
    "not_tones": N_("Not numbers. Write tones apart by spaces, like 402 398 405."),
    "tones_few": N_("Three tones at least, of one side and one length."),
    "ride_says_nothing": N_("Say how long it was ridden, or what the hour meter reads."),
    "life_unsaid": N_("What came off has hours that it ran; what is on has none yet."),
    "no_such_part": N_("That bike has no such part."),
    "not_measured": N_("Type what was measured."),
}
