"""What a symptom may come from, most likely first, and what to look at before any jet.

Naive Bayes over a small table: how common a cause is, how well it fits what was felt, at which throttle, hot or cold,
under load, and the plug. Every number is common practice put into figures by us (assumption). A symptom, a plug or a
feeling is never evidence for going leaner, so no cause leads to a leaner step.
"""

from dataclasses import dataclass

ZONES = ("closed", "eighth", "quarter", "half", "full")


@dataclass(frozen=True, slots=True, kw_only=True)
class Cause:
    """One cause. common: how often it is it [1]; fits: symptom -> how well; zones: throttle -> how well (the rest
    0.15); side: "lean", "rich" or ""; engine, load: when it shows most; plugs that speak for it; fed: engines it can be
    of; richer: (tunable, steps) that would enrich it.
    """

    code: str
    common: float
    fits: dict[str, float]
    zones: dict[str, float]
    side: str = ""
    engine: str = "any"
    load: str = "any"
    plugs: tuple[str, ...] = ()
    fed: tuple[str, ...] = ("jetted", "rod", "injected")
    strokes: tuple[int, ...] = (2, 4)
    richer: tuple[str, int] | None = None


EVERYWHERE = dict.fromkeys(ZONES, 1.0)
LEAN_PLUG, RICH_PLUG = ("white", "speckled"), ("black_dry", "black_oily")
#: what is looked at first whatever is felt; in this order
BEFORE_ANY_JET = ("air_leak", "filter", "fuel_height", "reeds", "plug", "cable")
CAUSES: tuple[Cause, ...] = (
    Cause(
        code="air_leak",
        common=1.2,
        fits={
            "hangs_idle": 1.0,
            "surges": 0.7,
            "gasps": 0.6,
            "runs_hot": 0.6,
            "hard_to_start": 0.4,
            "pops_closed": 0.5,
        },
        zones={"closed": 1.0, "eighth": 1.0, "quarter": 0.6, "half": 0.3, "full": 0.3},
        side="lean",
        engine="hot",
        plugs=LEAN_PLUG,
    ),
    Cause(
        code="filter",
        common=0.9,
        fits={"flat_at_top": 0.9, "blubbers": 0.6, "fouls_plugs": 0.5, "stutters_at_top": 0.4},
        zones={"half": 0.8, "full": 1.0},
        side="rich",
        load="hard",
        plugs=RICH_PLUG,
    ),
    Cause(
        code="fuel_low",
        common=0.6,
        fits={"gasps": 0.7, "surges": 0.6, "bogs_then_clears": 0.6, "flat_at_top": 0.4},
        zones=EVERYWHERE,
        side="lean",
        plugs=LEAN_PLUG,
        fed=("jetted", "rod"),
    ),
    Cause(
        code="fuel_high",
        common=0.6,
        fits={"blubbers": 0.7, "fouls_plugs": 0.7, "hard_to_start": 0.4},
        zones=EVERYWHERE,
        side="rich",
        engine="hot",
        plugs=RICH_PLUG,
        fed=("jetted", "rod"),
    ),
    Cause(
        code="flow",
        common=0.9,
        fits={"stutters_at_top": 1.0, "flat_at_top": 0.8, "surges": 0.3},
        zones={"half": 0.4, "full": 1.0},
        side="lean",
        load="hard",
        plugs=LEAN_PLUG,
    ),
    Cause(
        code="reeds",
        common=0.5,
        fits={"hard_to_start": 0.7, "blubbers": 0.5, "flat_at_top": 0.5, "bogs_then_clears": 0.5},
        zones=EVERYWHERE,
        strokes=(2,),
    ),
    Cause(
        code="plug",
        common=0.7,
        fits={"stutters_at_top": 0.6, "hard_to_start": 0.7, "fouls_plugs": 0.5, "hesitates": 0.4},
        zones=EVERYWHERE,
    ),
    Cause(code="cable", common=0.3, fits={"hangs_idle": 0.6, "snatches": 0.4}, zones={"closed": 1.0, "eighth": 0.7}),
    Cause(
        code="pilot_lean",
        common=0.8,
        fits={"gasps": 1.0, "hangs_idle": 0.8, "surges": 0.8, "pops_closed": 0.8, "snatches": 0.6, "hesitates": 0.6},
        zones={"closed": 1.0, "eighth": 1.0, "quarter": 0.4},
        side="lean",
        engine="cold",
        load="light",
        plugs=LEAN_PLUG,
        fed=("jetted",),
        richer=("screw_turns", 1),
    ),
    Cause(
        code="pilot_rich",
        common=0.7,
        fits={"blubbers": 0.8, "fouls_plugs": 0.8, "bogs_then_clears": 0.8},
        zones={"closed": 1.0, "eighth": 1.0, "quarter": 0.4},
        side="rich",
        engine="hot",
        load="light",
        plugs=RICH_PLUG,
        fed=("jetted",),
    ),
    Cause(
        code="cutaway_lean",
        common=0.3,
        fits={"gasps": 0.8, "hesitates": 0.7},
        zones={"eighth": 0.8, "quarter": 1.0},
        side="lean",
        plugs=LEAN_PLUG,
        fed=("jetted",),
        richer=("slide_cutaway", -1),
    ),
    Cause(
        code="needle_lean",
        common=0.6,
        fits={"surges": 0.6, "gasps": 0.6, "rattles": 0.5, "runs_hot": 0.5, "hesitates": 0.5},
        zones={"quarter": 0.8, "half": 1.0, "full": 0.3},
        side="lean",
        plugs=LEAN_PLUG,
        fed=("jetted",),
        richer=("needle_clip", 1),
    ),
    Cause(
        code="needle_rich",
        common=0.6,
        fits={"blubbers": 1.0, "bogs_then_clears": 0.7, "fouls_plugs": 0.5},
        zones={"quarter": 0.8, "half": 1.0, "full": 0.3},
        side="rich",
        engine="hot",
        plugs=RICH_PLUG,
        fed=("jetted",),
    ),
    Cause(
        code="main_lean",
        common=0.6,
        fits={"flat_at_top": 0.7, "rattles": 0.8, "runs_hot": 0.8, "stutters_at_top": 0.2},
        zones={"half": 0.4, "full": 1.0},
        side="lean",
        load="hard",
        plugs=LEAN_PLUG,
        fed=("jetted",),
        richer=("main_jet", 1),
    ),
    Cause(
        code="main_rich",
        common=0.6,
        fits={"stutters_at_top": 0.7, "flat_at_top": 0.4, "blubbers": 0.4},
        zones={"half": 0.3, "full": 1.0},
        side="rich",
        plugs=RICH_PLUG,
        fed=("jetted",),
    ),
    Cause(
        code="rod_lean",
        common=0.7,
        fits={"gasps": 0.8, "surges": 0.7, "rattles": 0.6, "runs_hot": 0.6, "hangs_idle": 0.5},
        zones=EVERYWHERE,
        side="lean",
        plugs=LEAN_PLUG,
        fed=("rod",),
        richer=("knob_clicks", 2),
    ),
    Cause(
        code="rod_rich",
        common=0.7,
        fits={"blubbers": 1.0, "fouls_plugs": 0.7, "bogs_then_clears": 0.7},
        zones=EVERYWHERE,
        side="rich",
        plugs=RICH_PLUG,
        fed=("rod",),
    ),
    Cause(
        code="pump",
        common=0.7,
        fits={"bogs_then_clears": 0.9, "gasps": 0.7, "hesitates": 0.5},
        zones={"closed": 1.0, "eighth": 1.0, "quarter": 0.6},
        fed=("jetted", "rod"),
        strokes=(4,),
    ),
    Cause(
        code="map_lean",
        common=0.9,
        fits={"snatches": 0.9, "hesitates": 1.0, "gasps": 0.7, "surges": 0.8, "pops_closed": 0.6, "runs_hot": 0.4},
        zones=EVERYWHERE,
        side="lean",
        plugs=LEAN_PLUG,
        fed=("injected",),
        richer=("fuel_trim", 2),
    ),
    Cause(
        code="map_rich",
        common=0.7,
        fits={"blubbers": 1.0, "fouls_plugs": 0.7, "bogs_then_clears": 0.4},
        zones=EVERYWHERE,
        side="rich",
        plugs=RICH_PLUG,
        fed=("injected",),
    ),
    Cause(
        code="overrun_fuel",
        common=0.7,
        fits={"snatches": 1.0, "pops_closed": 0.9},
        zones={"closed": 1.0, "eighth": 0.6},
        fed=("injected",),
    ),
    Cause(code="exhaust_leak", common=0.6, fits={"pops_closed": 1.0}, zones={"closed": 1.0}),
    Cause(
        code="valve_stuck",
        common=0.5,
        fits={"flat_at_top": 0.8, "bogs_then_clears": 0.3, "fouls_plugs": 0.3},
        zones={"half": 0.7, "full": 1.0},
        strokes=(2,),
    ),
    Cause(
        code="detonation",
        common=0.5,
        fits={"rattles": 1.0, "runs_hot": 0.6, "flat_at_top": 0.3},
        zones={"half": 0.8, "full": 1.0},
        load="hard",
        engine="hot",
        plugs=("speckled",),
    ),
    Cause(
        code="cooling", common=0.6, fits={"runs_hot": 1.0, "rattles": 0.4}, zones=EVERYWHERE, load="hard", engine="hot"
    ),
)
ELSEWHERE, NO_FIT = 0.15, 0.03


@dataclass(frozen=True, slots=True, kw_only=True)
class Suspect:
    """A cause with its share of the suspicion [1]."""

    cause: Cause
    share: float


def _fit(cause: Cause, *, symptom: str, zone: str, engine: str, load: str, plug: str) -> float:
    likely = cause.common * cause.fits.get(symptom, NO_FIT) * cause.zones.get(zone, ELSEWHERE)
    for felt, shows in ((engine, cause.engine), (load, cause.load)):
        if felt != "any" and shows != "any":
            likely *= 1.5 if felt == shows else 0.6
    if plug != "unseen" and cause.plugs:
        likely *= 2.0 if plug in cause.plugs else 0.8 if plug == "tan" else 0.4
    return likely


def suspects(
    *,
    metering: str,
    two_stroke: bool,
    symptom: str,
    zone: str,
    engine: str = "any",
    load: str = "any",
    plug: str = "unseen",
) -> list[Suspect]:
    """Causes of one engine by how well they fit, most likely first; shares sum to 1."""
    able = [c for c in CAUSES if metering in c.fed and (2 if two_stroke else 4) in c.strokes]
    fits = [_fit(c, symptom=symptom, zone=zone, engine=engine, load=load, plug=plug) for c in able]
    whole = sum(fits)
    return sorted((Suspect(cause=c, share=f / whole) for c, f in zip(able, fits, strict=True)), key=lambda s: -s.share)


def side_of(ranked: list[Suspect]) -> str:
    """ "lean" or "rich" when one side holds at least three times the suspicion of the other; "" otherwise."""
    lean, rich = (sum(s.share for s in ranked if s.cause.side == side) for side in ("lean", "rich"))
    return "lean" if lean >= 3.0 * rich else "rich" if rich >= 3.0 * lean else ""
