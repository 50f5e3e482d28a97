"""The sag clinic: tape readings from topped out to sags, friction, true rate and preload, and what they say of the
spring.

With race sag set, a spring that is too soft shows too little free sag (it is squeezed hard), one too stiff too much:
what tells is how far apart the two are. A tape reading is good to 3 mm, so a difference within what the tape can do is
no verdict. Common practice, no source.
"""

from collections.abc import Callable
from dataclasses import dataclass
from math import hypot, sqrt
from typing import Literal

from lynxwort.core.learned.sag import TAPE_SD_M
from lynxwort.core.model.defaults import Z90
from lynxwort.core.physics.chassis.sag import SagTargets, rate_for_both

Verdict = Literal["right", "preload", "soft", "stiff", "unsure", "impossible"]
#: lifted it stands higher than pushed down; by less than nothing it was misread
SWAPPED_M = 0.006
#: settling further apart than this share of the sag is a bent or dry leg (assumption)
STUCK_SHARE = 0.5


@dataclass(frozen=True, slots=True, kw_only=True)
class Taken:
    """Tape readings [m] of one end between the same two marks: topped out, and settled after pushing down and after
    lifting.
    """

    topped_out_m: float
    pushed_m: float
    lifted_m: float

    @property
    def sag_m(self) -> float:
        return self.topped_out_m - 0.5 * (self.pushed_m + self.lifted_m)

    @property
    def apart_m(self) -> float:
        """How far apart the two settled [m]; negative when they were swapped."""
        return self.lifted_m - self.pushed_m


@dataclass(frozen=True, slots=True, kw_only=True)
class Clinic:
    """What two sags of one end say. free_at_target_m: free sag that this spring shows once race sag is set; rate [N/m]
    as of the sag lines, preload [m] as it works now; half_...: half of the 90 % interval.
    """

    verdict: Verdict
    because: str
    rate_n_per_m: float | None = None
    half_rate_n_per_m: float | None = None
    preload_m: float | None = None
    free_at_target_m: float | None = None
    half_free_m: float | None = None


def impossible(taken: Taken, travel_m: float) -> str:
    """Why a set of tape readings cannot be; empty when it can."""
    if taken.apart_m < -SWAPPED_M:
        return "swapped"
    if taken.sag_m < -SWAPPED_M:
        return "above_topped_out"
    if taken.sag_m > travel_m:
        return "beyond_travel"
    if taken.apart_m > max(STUCK_SHARE * abs(taken.sag_m), 0.02):
        return "sticks"
    return ""


def judge(
    race: Taken,
    free: Taken,
    *,
    targets: SagTargets,
    travel_m: float,
    line: Callable[[bool, float], tuple[float, float]],
) -> Clinic:
    """What race and free sag say of the spring. line: (race?, sag [m]) -> load along the spring [N] and its stroke [m]
    there.
    """
    for taken in (race, free):
        why = impossible(taken, travel_m)
        if why:
            return Clinic(verdict="impossible", because=why)
    if race.sag_m - free.sag_m < 0.01:
        return Clinic(verdict="impossible", because="rider_weighs_nothing")
    if free.sag_m < 0.002:
        return Clinic(verdict="unsure", because="topped_out_free")
    sd = TAPE_SD_M / sqrt(2.0)  # each sag is a mean of two settlings

    def identified(race_m: float, free_m: float) -> tuple[float, float]:
        return rate_for_both(line(True, race_m), line(False, free_m))

    rate, preload = identified(race.sag_m, free.sag_m)
    slope = (
        (identified(race.sag_m + 1e-4, free.sag_m)[0] - rate) / 1e-4,
        (identified(race.sag_m, free.sag_m + 1e-4)[0] - rate) / 1e-4,
    )
    half_rate = Z90 * hypot(slope[0] * sd, slope[1] * sd)
    free_then, half_free = _free_at(rate, targets.race_m, race, free, sd, line)
    made = {
        "rate_n_per_m": rate,
        "half_rate_n_per_m": half_rate,
        "preload_m": preload,
        "free_at_target_m": free_then,
        "half_free_m": half_free,
    }
    # over the whole race band, so that a spring that fits anywhere in it is no fault
    low_then = _free_at(rate, targets.race_low_m, race, free, sd, line)[0]
    high_then = _free_at(rate, targets.race_high_m, race, free, sd, line)[0]
    if high_then < targets.free_low_m:
        sure = high_then + half_free < targets.free_low_m
        return Clinic(verdict="soft" if sure else "unsure", because="little_free" if sure else "near_soft", **made)
    if low_then > targets.free_high_m:
        sure = low_then - half_free > targets.free_high_m
        return Clinic(verdict="stiff" if sure else "unsure", because="much_free" if sure else "near_stiff", **made)
    in_band = (
        targets.race_low_m <= race.sag_m <= targets.race_high_m
        and targets.free_low_m <= free.sag_m <= targets.free_high_m
    )
    return Clinic(
        verdict="right" if in_band else "preload", because="both_in_band" if in_band else "turn_the_ring", **made
    )


def _free_at(
    rate: float,
    target_m: float,
    race: Taken,
    free: Taken,
    sd: float,
    line: Callable[[bool, float], tuple[float, float]],
) -> tuple[float, float]:
    """Free sag [m] once the preload sets race sag to target_m, by the slope of the sag lines, and half of its 90 %
    interval.
    """
    load, stroke = line(True, target_m)
    preload = load / rate - stroke
    low, high = 0.0, max(free.sag_m * 4.0, 0.12)
    for _ in range(50):  # the line's left side falls with the sag: bisect
        middle = 0.5 * (low + high)
        there, stroked = line(False, middle)
        low, high = (middle, high) if rate * (stroked + preload) < there else (low, middle)
    return 0.5 * (low + high), Z90 * hypot(sd, sd)
