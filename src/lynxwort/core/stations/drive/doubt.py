"""What figures that rest on the ride may lie off: the ride done again with all that is not known drawn at once, and the
quantiles of what comes out.

A threshold (a run-up, metres where it will not pull, a longest stretch) gets its range from such rides, never from a
percentage: one thing moved at a time misses what two do together. The draws are stratified and always the same. Too
slow for a notch, so it is a job of its own, done for what is kept.

Reference: [mckay1979] M. D. McKay, R. J. Beckman, W. J. Conover, Technometrics 21 (1979) 239 (Latin hypercube).
"""

from dataclasses import replace

import numpy as np
from scipy.special import ndtri

from lynxwort.core.learned.truth import moved
from lynxwort.core.model.defaults import DRAG_LOG_SD, GRIP_LOG_SD, ROLLING_LOG_SD
from lynxwort.core.physics.drive.hills import MOST_RUN_UP_M_PER_S, climber, ramp_of, run_up
from lynxwort.core.physics.drive.kernel import STUCK_POWER
from lynxwort.core.physics.drive.pull import top_speed
from lynxwort.core.physics.drive.simulation import RideInput
from lynxwort.core.stations.drive.hills import MOST_HILLS, hills
from lynxwort.core.stations.drive.input import DriveInput
from lynxwort.core.stations.drive.pulls import limiter_log_sd, way_log_sd

#: rides drawn
DRAWS = 64


def log_sds(given: DriveInput) -> dict[str, float]:
    """Standard deviation of the logarithm of each of them."""
    return {
        "rolling": ROLLING_LOG_SD,
        "power": given.learned.power.log_sd,
        "grip": GRIP_LOG_SD,
        "pace": given.lap.pace_log_sd,
        "radius": way_log_sd(given),
        "drag": DRAG_LOG_SD,
        "limiter": limiter_log_sd(given.engine),
    }


def reckoned(given: DriveInput, ride_input: RideInput) -> dict[str, float]:
    """The figures in doubt with another ride's input [SI]; a run-up that no speed does stands at the most that is
    looked for.
    """
    lap = replace(given.lap, ride_input=ride_input)
    found = {
        "drive.metres_short": lap.whole.metres(STUCK_POWER),
        "drive.longest_full_throttle": lap.longest_full_throttle_s,
        "drive.top_speed": top_speed(
            ride_input, ground="hardpack", power_share=float(given.lap.power_share.mean())
        ).speed_m_per_s,
    }
    for h in hills(given)[:MOST_HILLS]:
        ramp = ramp_of(
            given.lap.around.courses[h.stage],
            given.lap.power_shares[h.stage],
            ride_input,
            at_m=h.hill.at_m,
            length_m=h.hill.length_m,
        )
        speed = run_up(climber(ramp, ride_input))
        found[f"drive.hill.{h.number}.run_up_speed"] = MOST_RUN_UP_M_PER_S if speed is None else speed
    return found


def drawn(sds: dict[str, float], count: int, seed: int) -> list[dict[str, float]]:
    """Factors of so many rides, each quantity's strata used once."""
    rng = np.random.default_rng(seed)
    strata = ndtri((np.arange(count) + 0.5) / count)
    columns = {name: np.exp(sd * rng.permutation(strata)) for name, sd in sds.items()}
    return [{name: float(c[i]) for name, c in columns.items()} for i in range(count)]


def sensitivities(given: DriveInput) -> dict[str, tuple[float, float]]:
    """How far below and above its value each figure in doubt may lie [SI]: to the ends of the central 90 % range."""
    base = reckoned(given, given.lap.ride_input)
    found = [reckoned(given, moved(given.lap.ride_input, f)) for f in drawn(log_sds(given), DRAWS, seed=1)]
    ends = {name: np.quantile([f[name] for f in found], (0.05, 0.95), method="weibull") for name in base}
    return {
        name: (max(value - float(ends[name][0]), 0.0), max(float(ends[name][1]) - value, 0.0))
        for name, value in base.items()
    }
