"""Everything that Trials says."""

from lynxwort.words import N_

FINDINGS: dict[str, tuple[str, str, str]] = {
    "no_trial": (
        N_("Nothing on trial"),
        N_("nothing on trial"),
        N_(
            "Change one thing on the bench, then plan a trial of it: how many runs it takes to see anything at all, in "
            "which order, and what to hold meanwhile."
        ),
    ),
    "trial_open": (
        N_("On trial: {done} of {runs} runs ridden"),
        N_("{done} of {runs} runs ridden"),
        N_(
            "The answer waits for the next planned look: who looks earlier, and stops when he likes it, finds what is "
            "not there. The order was thrown by coin; keep to it."
        ),
    ),
    "change_keep": (
        N_("Keep it: {size_of_lap} of the lap quicker"),
        N_("keep: {size_of_lap} quicker"),
        N_(
            "{pairs} pairs, {low_of_lap} to {high_of_lap} of the lap. A small trial that says keep exaggerates: the "
            "size told is what the runs and the model say together, where the model was asked."
        ),
    ),
    "change_put_back": (
        N_("Put it back: {effect_of_lap} of the lap slower"),
        N_("put back: {effect_of_lap} slower"),
        N_("{pairs} pairs, {low_of_lap} to {high_of_lap} of the lap. What stood before is quicker."),
    ),
    "change_even": (
        N_("Even: neither is quicker by anything that counts"),
        N_("even"),
        N_("{pairs} pairs, {low_of_lap} to {high_of_lap} of the lap. Keep what is lighter, cheaper, safer or liked."),
    ),
    "not_proven": (
        N_("Not proven: about {more} pairs more would show it"),
        N_("not proven, {more} pairs more"),
        N_(
            "{pairs} pairs, {low_of_lap} to {high_of_lap} of the lap: it may be either. Ride on in the order, or put "
            "back what is dearer, heavier or less safe. It is not counted as a gain."
        ),
    ),
    "not_proven_ever": (
        N_("Not proven, and no day's riding would show it"),
        N_("not proven, too small to see"),
        N_(
            "{pairs} pairs, {low_of_lap} to {high_of_lap} of the lap. The watch cannot see this one: ride it blind and "
            "score it, or put back what is dearer, heavier or less safe."
        ),
    ),
    "one_of_several": (
        N_("Not proven: one of {count} tried on the day"),
        N_("not proven, one of {count}"),
        N_(
            "Alone it would be called a difference. Of {count} changes of the same thing one shows as much by chance "
            "alone {together_share} of the time, so it is not. Ride this one again, against what stood."
        ),
    ),
    "conditions_moved": (
        N_("Not held: {what} moved while it was ridden"),
        N_("not held: {what}"),
        N_("What moved may be what made the difference. Ride it again under the same, or look at a pair at a time."),
    ),
    "timing_coarse": (
        N_("Timing hides it: a time may lie {off_seconds} off"),
        N_("timing off by {off_seconds}"),
        N_(
            "That is more than half of what this rider's own runs spread. Time where the bike is fast and straight, or "
            "let a helper tap at the line."
        ),
    ),
    "trial_blind_to_it": (
        N_("The watch cannot see this: only {seen_of_lap} of the lap or more"),
        N_("the watch cannot see this"),
        N_("What the model expects is smaller than these runs can show. More runs, or ride it blind and score it."),
    ),
    "two_things_changed": (
        N_("{count} things change at once"),
        N_("{count} things change at once"),
        N_("The answer is of all of them together: none of them is proven alone."),
    ),
    "noisy": (
        N_("Laps spread more than planned: {sd_of_lap}"),
        N_("laps spread {sd_of_lap}"),
        N_("The plan took {taken_of_lap}. Traffic, a botched lap not called, another line? More runs are needed."),
    ),
    "peeked": (
        N_("Looked at after {pairs} pairs, between the planned looks"),
        N_("an unplanned look"),
        N_("So the range shown is wider: one that holds whenever one looks. At the planned looks it narrows again."),
    ),
    "felt_blind": (
        N_("Felt: {right} of {runs} blind runs told apart"),
        N_("felt blind, {right} of {runs}"),
        N_("Guessing alone is hardly ever right so often. Whether it is quicker is another question."),
    ),
    "not_felt": (
        N_("Not felt: {right} of {runs} blind runs guessed"),
        N_("not felt, {right} of {runs}"),
        N_("{runs} runs could not show that it is felt: guessing does as well. The scores say nothing then."),
    ),
    "model_surprised": (
        N_("Not expected: the trial lies {apart} spreads from the model"),
        N_("the model did not expect it"),
        N_("The model said {model_of_lap} of the lap, the runs {seen_of_lap}. Check bike, order, then the model."),
    ),
    "riders_differ": (
        N_("Suits {suits}, not {not}"),
        N_("suits {suits}, not {not}"),
        N_("The same change does not do the same for both. A setup for each rider."),
    ),
}

CAUTIONS: dict[str, str] = {
    "change_keep": N_(
        "Quicker is not safer. No answer here overrides a warning of another station: a mixture too lean, a brake, a "
        "tyre or a part that is due comes first."
    ),
    "trial_open": N_(
        "Ride within yourself and to the rules of the place; helmet and marshal as for any practice. Stop the engine "
        "and let it cool before anything is changed; lift the wheel, check axle, chain and brake before the next run."
    ),
}

_SECTORS = (
    N_("Sector 1, change less before"), N_("Sector 2, change less before"), N_("Sector 3, change less before"),
    N_("Sector 4, change less before"), N_("Sector 5, change less before"), N_("Sector 6, change less before"),
    N_("Sector 7, change less before"), N_("Sector 8, change less before"), N_("Sector 9, change less before"),
    N_("Sector 10, change less before"), N_("Sector 11, change less before"), N_("Sector 12, change less before"),
)  # fmt: skip
FIGURE_NAMES: dict[str, str] = {
    "trials.noise": N_("Spread of the rider's laps"),
    "trials.smallest_seen": N_("Smallest difference seen"),
    "trials.pairs_needed": N_("Pairs needed"),
    "trials.minutes_needed": N_("Time for all runs"),
    "trials.pairs_done": N_("Pairs ridden"),
    "trials.timing_error": N_("Timing, likely off by"),
    "trials.effect": N_("Lap time, change less before"),
    "trials.effect_share": N_("The same, of the lap"),
    "trials.p_exact": N_("By chance alone as often"),
    "trials.drift_per_lap": N_("Drift from lap to lap"),
    "trials.model_effect": N_("What the model expected"),
    "trials.updated_effect": N_("Model and trial together"),
    "trials.model_z": N_("Trial from model, in spreads"),
    "trials.riders_apart": N_("Riders apart"),
    "trials.blind_right": N_("Blind runs told apart"),
    "trials.blind_p": N_("Guessed as well by chance"),
    "trials.agreement": N_("Riders agree, 1 is wholly"),
    **{f"trials.sector.{n}.effect": name for n, name in enumerate(_SECTORS, start=1)},
    "trials.day.passes": N_("Bikes past by the finish"),
    "trials.day.whoop_depth": N_("Whoops at the finish"),
    "trials.day.clicks.front.compression": N_("Your log: fork compression, clicks in"),
    "trials.day.clicks.front.rebound": N_("Your log: fork rebound, clicks in"),
    "trials.day.clicks.rear.compression": N_("Your log: shock compression, clicks in"),
    "trials.day.clicks.rear.rebound": N_("Your log: shock rebound, clicks in"),
    "trials.factor.gearing": N_("The model's differences, gearing, times"),
    "trials.factor.clicks": N_("The model's differences, clicks, times"),
    "trials.factor.springs": N_("The model's differences, springs, times"),
    "trials.factor.geometry": N_("The model's differences, geometry, times"),
    "trials.factor.mixture": N_("The model's differences, mixture, times"),
    "trials.factor.power": N_("The model's differences, power, times"),
    "trials.factor.mass": N_("The model's differences, mass, times"),
    "trials.factor.tyre": N_("The model's differences, tyres, times"),
    "trials.factor.other": N_("The model's differences, else, times"),
}

REASONS: dict[str, str] = {
    "no_trial": N_("nothing is on trial"),
    "no_whoops": N_("the course has no whoops"),
    "no_click_logged": N_("no click of it was logged on such ground"),
    "too_few_runs": N_("there are no runs of both yet"),
    "no_run_timed": N_("no run says how it was timed"),
    "none_of_the_kind": N_("none of the kind was tried that the model knows"),
    "look_not_due": N_("the next planned look is not due yet"),
    "model_not_asked": N_("the model was not asked"),
    "not_cut": N_("the runs are not cut into six sectors or more"),
    "no_such_sector": N_("the lap has fewer sectors"),
    "few_scored": N_("fewer than six runs of both riders are scored"),
    "one_rider_tried": N_("one rider tried it"),
    "not_blind": N_("the trial is not blind"),
}

TERMS: dict[str, str] = {
    "moved_temperature_k": N_("the air"),
    "moved_pressure_pa": N_("air pressure"),
    "moved_fuel_m3": N_("fuel aboard"),
    "moved_tyre_pa": N_("tyre pressure"),
}
#: what is scored, 1 to 10
ASPECTS: dict[str, str] = {
    "turns_in": N_("Turns in"),
    "holds_line": N_("Holds its line"),
    "drive": N_("Drive"),
    "comfort": N_("Comfort"),
    "arms": N_("Fresh arms"),
}
#: what kind of thing changes
KINDS: dict[str, str] = {
    "gearing": N_("gearing"),
    "clicks": N_("clicks"),
    "springs": N_("springs and preload"),
    "geometry": N_("geometry"),
    "mixture": N_("mixture"),
    "power": N_("power"),
    "mass": N_("mass"),
    "tyre": N_("tyres"),
    "other": N_("something else"),
}
ORDERS: dict[str, str] = {
    "blocks": N_("in blocks: first, second, second, first"),
    "pairs": N_("in pairs, each by coin"),
    "there_and_back": N_("once there and back"),
}
OUTCOMES: dict[str, str] = {"open": N_("open"), "kept": N_("kept"), "put_back": N_("put back"), "left": N_("left")}
VERDICTS: dict[str, str] = {
    "keep": N_("Keep"),
    "put_back": N_("Put back"),
    "even": N_("Even"),
    "not_proven": N_("Not proven"),
    "too_few": N_("Too few runs"),
}
#: why an adjuster was turned
WHYS: dict[str, str] = {
    "bottoms": N_("bottoms"),
    "blows_through": N_("blows through"),
    "packs": N_("packs down"),
    "harsh": N_("harsh"),
    "tired": N_("tired arms"),
    "other": N_("something else"),
}
SOILS: dict[str, str] = {
    "whoops": N_("not said, as loam"),
    "loam": N_("loam"),
    "sand": N_("sand"),
    "gravel": N_("gravel"),
    "rock": N_("rock"),
}
WEATHERS: dict[str, str] = {"dry": N_("dry"), "damp": N_("damp"), "rain": N_("rain"), "mud": N_("mud")}
ENDED: dict[str, str] = {
    "riding": N_("still riding"),
    "finished": N_("finished"),
    "part": N_("stopped by a part"),
    "crash": N_("stopped by a crash"),
    "fuel": N_("out of fuel or charge"),
    "rider": N_("stopped by the rider"),
    "time_limit": N_("out of time"),
}
#: of two sessions, the second against the first
SIDE_BY_SIDE: dict[str, str] = {
    "quicker": N_("The second is quicker"),
    "slower": N_("The second is slower"),
    "even": N_("Even"),
    "not_proven": N_("Not proven"),
    "too_few": N_("Too few laps"),
}
MESSAGES: dict[str, str] = {
    "another_trial": N_("This run belongs to another trial."),
    "one_setting": N_("The order has runs of one setting alone."),
    "not_a_lap_time": N_("Not a lap time, write it like 5:01.4: {message}"),
    "not_a_setting": N_("Not a setting, write A, B or nothing: {message}"),
    "not_a_session": N_("Neither a GPX file nor a sheet of laps."),
    "not_a_tap": N_("Not a tap at the line."),
    "not_turned": N_("No clicks are no turn."),
    "beyond_order": N_("A run stands beyond the end of the order."),
}
