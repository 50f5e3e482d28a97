"""The lap metre by metre: what the ribbon shows, as rows."""

from dataclasses import dataclass

import numpy as np

from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.model.race import GROUNDS
from lynxwort.core.physics.course.prepare import rise_over_run
from lynxwort.core.physics.drive.kernel import LIMITS

#: lengths of a row that one may ask for [m]; 0 = every step of the simulation
ROW_LENGTHS_M = (0.0, 20.0, 100.0, 500.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class MetreRow:
    """A stretch of the round: means over its time, but what limits it longest. speed is its length over its time; throttle_share: of full
    opening, None of a motor; power_share: of what full throttle gives there.
    """

    from_m: float
    to_m: float
    ground: str
    grade: float
    speed_m_per_s: float
    gear: int
    rpm: float
    throttle_share: float | None
    power_share: float
    limit: str


def metre_rows(work: Upstream, *, length_m: float, from_m: float = 0.0, most: int = 1_000_000) -> list[MetreRow]:
    """Rows of this length [m] from a place of the round on."""
    course, ride, lift = work.around.whole, work.lap.whole, work.lap.lift
    per = max(round(length_m / float(ride.step_m[0])), 1)
    first = work.around.step_at(from_m) // per * per
    last = min(first + per * most, course.sine.size)
    cut = slice(first, last)
    time, row = ride.time_s[cut], np.arange(last - first) // per
    count = int(row[-1]) + 1
    total = np.bincount(row, weights=time, minlength=count)

    def mean(values: np.ndarray, weights: np.ndarray = time) -> np.ndarray:
        return np.bincount(row, weights=values[cut] * weights, minlength=count) / np.bincount(row, weights=weights, minlength=count)

    def longest(codes: np.ndarray, kinds: int) -> np.ndarray:
        spent = np.zeros((count, kinds))
        np.add.at(spent, (row, codes[cut]), time)
        return spent.argmax(axis=1)

    starts = first + per * np.arange(count)
    ends = np.minimum(starts + per, course.sine.size)
    low, high = course.distance_m[starts], course.distance_m[ends]
    # where stages meet heights jump, so the grade is the mean of the steps' own
    sine = mean(course.sine, np.ones(time.size))
    ground, gear, limit = longest(course.ground, len(GROUNDS)), longest(ride.gear, 16), longest(ride.limit, len(LIMITS))
    rpm, power = mean(ride.crank_rad_per_s) * 60.0 / (2.0 * np.pi), mean(ride.throttle_share)
    opened = None if lift is None else mean(lift)
    return [
        MetreRow(
            from_m=float(low[i]), to_m=float(high[i]), ground=GROUNDS[int(ground[i])], grade=float(rise_over_run(sine[i])),
            speed_m_per_s=float((high[i] - low[i]) / total[i]), gear=int(gear[i]), rpm=float(rpm[i]),
            throttle_share=None if opened is None else float(opened[i]), power_share=float(power[i]), limit=LIMITS[int(limit[i])],
        )
        for i in range(count)
    ]  # fmt: skip
