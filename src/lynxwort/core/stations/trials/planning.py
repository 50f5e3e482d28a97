"""What may be tried, whether blind, what the model expects of it, and what a plan can show."""

from dataclasses import dataclass
from math import sqrt

from lynxwort.core.judging import LEAN_MARGINS, leaned
from lynxwort.core.model.setup import FuellingSetup, Setup
from lynxwort.core.model.trials import Trial
from lynxwort.core.physics.trials import design, effects, learning
from lynxwort.core.report import Report
from lynxwort.core.tunables import TUNABLES, current_value, item_of

#: the kind of thing that a change is, by the station of its notch
_BY_STATION = {
    "chassis": "geometry",
    "damping": "clicks",
    "fuelling": "mixture",
    "drive": "gearing",
    "range": "mass",
    "kit": "mass",
}
#: a clicker may be turned blind by so many; anything else is seen, or is nothing to be surprised by
BLIND_CLICKS = 4
BLIND_FIELDS = (
    "shock_compression_clicks", "shock_rebound_clicks", "fork_compression_clicks", "fork_rebound_clicks",
)  # fmt: skip
#: what Fuelling says to act on that ends an engine while it is timed
SEIZES = (
    "too_lean_jetted", "too_lean_rod", "too_lean_injected", "lean_below_half", "oil_tank_short", "detonation_near",
    "flow_short",
)  # fmt: skip
#: a margin that falls by more is leaner [1]
LEANER = 1e-6
#: smaller differences of the lap the model does not know about [1 of a lap]
UNKNOWN_SHARE = 1e-7


def kind_of_change(fields: list[str]) -> str:
    """What kind of thing changes: of the first of several."""
    first = fields[0]
    if item_of(first) or first not in TUNABLES:
        return "mass" if item_of(first) else "clicks" if first.endswith("_stack") else "other"
    if "tyre" in first or first.endswith("_wheel"):
        return "tyre"
    if "spring" in first or "preload" in first or "_rate_" in first or "pressure" in first or "spacer" in first:
        return "springs"
    if first in ("power_mode", "map_slot"):
        return "power"
    return _BY_STATION.get(TUNABLES[first].station, "other")


def may_be_blind(kept: Setup, draft: Setup, fields: list[str]) -> bool:
    """Whether a friend may turn it without the rider knowing: one clicker of a damper, by a few clicks. Never brakes,
    steering, mixture, pressures, shims.
    """
    if len(fields) != 1 or fields[0] not in BLIND_FIELDS:
        return False
    before, after = (current_value(s, fields[0]) for s in (kept, draft))
    return abs(after - before) <= BLIND_CLICKS + 1e-9


def refused(kept: Report, draft: Report, fields: list[str]) -> str:
    """Why a draft is not to be tried; empty when it may: nothing that runs lean, or that nobody knows not to, is
    ridden to see whether it is quicker.
    """
    if "trials" in draft.not_judged:
        return "trial_gate"
    if leaned(kept, draft) or any(f.code in SEIZES and f.severity == "act" for f in draft.of("fuelling")):
        return "trial_lean"
    margins = [draft.figures[n] for n in LEAN_MARGINS if n in draft.figures]
    mixes = any(name in FuellingSetup.model_fields for name in fields)
    # kept or praised for its lap nothing may be that is leaner anywhere than what stood
    both = [(kept.figures[m.id].value, m.value) for m in margins if m.id in kept.figures]
    if mixes and any(b is not None and a is not None and a < b - LEANER for b, a in both):
        return "trial_lean"
    if mixes and any(m.value is None and m.status != "not_applicable" for m in margins):
        return "trial_unproven"
    return ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Expected:
    """What the model expects: lap as it stands [s], and by what share the draft changes it, None where it does not
    know the change.
    """

    lap_s: float
    share: float | None


def expected(kept: Report, draft: Report) -> Expected:
    """The model's lap of the kept setup and of the draft."""
    before, after = (r.value("drive.lap_time") for r in (kept, draft))
    if not before or after is None:
        return Expected(lap_s=before or 300.0, share=None)
    share = (after - before) / before
    return Expected(lap_s=before, share=share if abs(share) > UNKNOWN_SHARE else None)


@dataclass(frozen=True, slots=True, kw_only=True)
class Planned:
    """What a plan can show before anyone rides. smallest_share: seen four times in five; needed: pairs that see what
    is hoped for, None = more than anyone rides; even_pairs: that would prove even; blind_to_it: neither what is hoped
    nor what the model expects is large enough to be seen.
    """

    pairs: int
    smallest_share: float
    needed: int | None
    even_pairs: int
    time_s: float
    changes: int
    blind_to_it: bool


def planned(
    order: str,
    *,
    noise_sd: float,
    hoped_share: float,
    even_share: float,
    model_share: float | None,
    lap_s: float,
    turn_round_s: float,
    change_s: float,
) -> Planned:
    """What an order of runs can show of a rider whose laps spread by noise_sd [1 of a lap]."""
    pairs = len(design.pairs_of(order))
    smallest = _smallest(order, noise_sd)
    model_far = abs(model_share or 0.0) + learning.model_sd(model_share or 0.0, even_share)
    return Planned(
        pairs=pairs,
        smallest_share=smallest,
        needed=design.pairs_needed(noise_sd, hoped_share),
        even_pairs=design.pairs_for_even(noise_sd, even_share),
        time_s=design.time_needed(order, lap_s=lap_s, turn_round_s=turn_round_s, change_s=change_s),
        changes=design.changes_in(order),
        blind_to_it=smallest > even_share and smallest > model_far,
    )


def _smallest(order: str, noise_sd: float) -> float:
    """The smallest difference seen four times in five [1 of a lap]."""
    if order == "ABA":
        # one between two, the spread all borrowed
        return noise_sd * sqrt(1.5) * design.seen_at(effects.PRIOR_DF)
    pairs = len(order) // 2
    if pairs < effects.LEAST_PAIRS:
        own = max(len(order) - 3, 0)
        return noise_sd * sqrt(2.0 / pairs) * design.seen_at(effects.PRIOR_DF + own)
    return sqrt(2.0) * noise_sd * design.smallest_seen(pairs)


def planned_of(trial: Trial) -> Planned:
    """The same of a trial as it was planned."""
    return planned(
        trial.order, noise_sd=trial.noise_sd, hoped_share=trial.hoped_share, even_share=trial.even_share,
        model_share=trial.model_share, lap_s=trial.lap_s, turn_round_s=trial.turn_round_s, change_s=trial.change_s,
    )  # fmt: skip
