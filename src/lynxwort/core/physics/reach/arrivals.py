"""What hours on the course say of the hours to come: one pace of the day that all legs share, and how each lap differs.

A leg of likely riding time r takes r exp(c + e): c is the day's, normal with the pace's standard deviation; e is the
leg's own, its variance that of a lap times lap / r. Both are of the logarithm, as lap times are doubted everywhere
here. c given the legs ridden is then normal (conjugate; [bishop2006] 2.3.6), exactly so in the logarithm.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import exp, log, sqrt

from lynxwort.core.model.defaults import Z90

#: a leg that is further off than this many standard deviations is likely to have held what is no pace: a fall, a flat
#: (assumption)
MOST_SD = 2.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Pace:
    """What is believed of the day's pace: log mean and log sd; told_mean: the mean if no leg held anything but pace;
    lap_log_s: log variance of a lap times its riding time [s].
    """

    mean: float
    sd: float
    told_mean: float
    lap_log_s: float

    def ahead(self, riding_s: float) -> tuple[float, float, float]:
        """Early, likely and late time [s] that a stretch of this likely riding time takes (central 90 %); where a leg
        was far off, whether it stood or was that slow is left open: early and late hold both.
        """
        if riding_s <= 0.0:
            return 0.0, 0.0, 0.0
        wide = Z90 * sqrt(self.sd**2 + self.lap_log_s / riding_s)
        low, high = min(self.mean, self.told_mean), max(self.mean, self.told_mean)
        return riding_s * exp(low - wide), riding_s * exp(self.mean), riding_s * exp(high + wide)


def pace_given(
    ridden_s: Sequence[float], took_s: Sequence[float], *, pace_sd: float, lap_sd: float, lap_s: float
) -> Pace:
    """The pace after legs were ridden. ridden_s: their likely riding times, took_s: what they took, standing left out
    [s], both positive; pace_sd, lap_sd: log sd of the day's pace and from lap to lap; lap_s: riding time of a lap.

    A leg off by more than MOST_SD counts as that much: what is beyond is likely to have been a stand, not pace.
    """
    lap_log_s = lap_sd**2 * lap_s
    weights, sum_off, told_off = 1.0 / pace_sd**2, 0.0, 0.0
    for ridden, took in zip(ridden_s, took_s, strict=True):
        variance = lap_log_s / ridden
        most = MOST_SD * sqrt(pace_sd**2 + variance)
        weights += 1.0 / variance
        off = log(took / ridden)
        sum_off += min(max(off, -most), most) / variance
        told_off += off / variance
    return Pace(mean=sum_off / weights, sd=sqrt(1.0 / weights), told_mean=told_off / weights, lap_log_s=lap_log_s)
