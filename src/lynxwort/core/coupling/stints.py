"""The stints of a team, as they are ridden."""

from dataclasses import dataclass

from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.physics.reach.legs import Stint


@dataclass(frozen=True, slots=True, kw_only=True)
class RiddenStint:
    """A stint of one rider, the time [s] and the amount of fuel [m3] or charge [J] that it takes, rear sag [m] under the rider, half the fill in."""

    stint: Stint
    time_s: float
    amount: float
    sag_m: float


def ridden_stints(work: Upstream) -> list[RiddenStint]:
    """Every stint of a relay, in order; empty without one."""
    found, setup = [], work.inputs.setup
    for stint in work.clock.stints or ():
        stages = range(stint.first, stint.last + 1)
        laps = [(0, 1)] * len(stages) if len(work.around.courses) == 1 else [(i, work.inputs.race.stages[i].laps) for i in stages]
        time = sum(work.clock.lap(stint.rider).rides[i].lap_time_s * n for i, n in laps)
        used = sum(float(work.supply.along(stint.rider)[i][-1]) * n for i, n in laps) * work.supply.factor.median
        sag = work.springs.sag("rear", setup, work.inputs.riders[stint.rider], 0.5 * setup.fill_m3, work.springs.offsets.mean)
        found.append(RiddenStint(stint=stint, time_s=time, amount=used, sag_m=sag))
    return found
