"""Three schools of choosing a spring side by side: two sags, a chart by the rider's weight, ride frequency with
bottoming reserve.
"""

from dataclasses import dataclass, replace

from scipy.optimize import brentq

from lynxwort.core.physics.chassis import ride_quality
from lynxwort.core.physics.chassis.fitted import leg_rate, legs_rate
from lynxwort.core.physics.chassis.sag import Fork, Shock
from lynxwort.core.stations.chassis.attitude import DROP_LOOK_M, sags
from lynxwort.core.stations.chassis.input import ChassisInput
from lynxwort.core.stations.chassis.springs import RATE_FIELD, spring_choices, wanted
from lynxwort.core.tunables import TUNABLES

#: a chart's line: N/m per kg of rider in gear, and N/m at none; of the shock at a ratio of 2.75 (common practice, no
#: source; a check only)
CHART = {"front": (22.0, 2500.0), "rear": (520.0, 8000.0)}
CHART_RATIO = 2.75
#: ride frequencies aimed at [1/s] (assumption)
FREQUENCY = {"front": 2.0, "rear": 1.5}
#: how far from the two-sag rate a school still agrees, in steps of its spring (assumption)
AGREES_STEPS = 1.5


@dataclass(frozen=True, slots=True, kw_only=True)
class School:
    """What one school would fit at one end. rate: of one fork leg or the shock [N/m]; says: agrees, softer or stiffer
    than the two sags; because: what parts them.
    """

    name: str
    end: str
    rate_n_per_m: float
    low_n_per_m: float
    high_n_per_m: float
    says: str
    because: str


def chart_rate(given: ChassisInput, end: str) -> float:
    """Rate [N/m] by the rider's weight alone."""
    per_kg, at_none = CHART[end]
    rate = per_kg * given.rider.mass_in_gear_kg + at_none
    if end == "front":
        return rate
    frame = given.bike.frame
    return rate * (0.5 * (frame.link_ratio_start + frame.link_ratio_end) / CHART_RATIO) ** 2


def _with_rate(given: ChassisInput, end: str, rate: float) -> Fork | Shock:
    setup = given.setup
    if end == "front":
        return replace(
            given.springs.fork(setup, given.springs.offsets.mean),
            rate_n_per_m=legs_rate(given.bike.frame, setup, rate),
            spring=None,
        )
    return replace(given.springs.shock(setup, given.springs.offsets.mean), rate_n_per_m=rate, spring=None)


def frequency_rate(given: ChassisInput, end: str) -> tuple[float, bool]:
    """Rate [N/m] that gives the ride frequency at race sag, and whether the bottoming reserve asked for more."""
    kg = given.loaded.sprung(end)[0]
    at = sags(given)[0 if end == "front" else 1]

    def over(rate_n_per_m: float) -> float:
        made = _with_rate(given, end, rate_n_per_m)
        if isinstance(made, Fork):
            return ride_quality.front_frequency(made, kg, at) - FREQUENCY[end]
        return ride_quality.rear_frequency(made, kg, at) - FREQUENCY[end]

    def reserve(rate_n_per_m: float) -> float:
        made = _with_rate(given, end, rate_n_per_m)
        drop = (
            ride_quality.front_bottoming_drop(made, kg)
            if isinstance(made, Fork)
            else ride_quality.rear_bottoming_drop(made, kg)
        )
        return drop - DROP_LOOK_M[end]

    now = getattr(given.setup, RATE_FIELD[end])
    low, high = 0.2 * now, 4.0 * now
    by_frequency = low if over(low) > 0 else high if over(high) < 0 else float(brentq(over, low, high, rtol=1e-6))
    by_reserve = (
        low if reserve(low) > 0 else high if reserve(high) < 0 else float(brentq(reserve, low, high, rtol=1e-6))
    )
    return max(by_frequency, by_reserve), by_reserve > by_frequency


def schools(given: ChassisInput, end: str) -> list[School]:
    """The three schools at one end; none for a fork that stands on air."""
    if end == "front" and given.bike.frame.fork_springing == "air":
        return []
    base = wanted(given, end)[0]
    fit = [c.rate_n_per_m for c in spring_choices(given, end)] or [base]
    step = TUNABLES[RATE_FIELD[end]].step
    setup = given.setup

    def school(name: str, rate_n_per_m: float, softer: str, stiffer: str) -> School:
        off = (rate_n_per_m - base) / step
        says = "agrees" if abs(off) <= AGREES_STEPS else "softer" if off < 0 else "stiffer"
        because = "" if says == "agrees" else softer if says == "softer" else stiffer
        return School(
            name=name,
            end=end,
            rate_n_per_m=rate_n_per_m,
            low_n_per_m=rate_n_per_m - step,
            high_n_per_m=rate_n_per_m + step,
            says=says,
            because=because,
        )

    chart = chart_rate(given, end)
    if end == "front":  # a chart speaks of two springs alike
        chart = leg_rate(given.bike.frame, setup, 2.0 * chart)
    by_ride, reserve = frequency_rate(given, end)
    two = School(
        name="two_sag",
        end=end,
        rate_n_per_m=base,
        low_n_per_m=min(fit),
        high_n_per_m=max(fit),
        says="agrees",
        because="",
    )
    return [
        two,
        school("chart", chart, "chart_knows_weight_only", "chart_knows_weight_only"),
        school(
            "frequency", by_ride, "sag_wants_free_travel", "reserve_asks_more" if reserve else "sag_is_soft_on_purpose"
        ),
    ]
