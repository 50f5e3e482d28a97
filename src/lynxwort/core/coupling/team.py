"""A team that shares one race: who rides which laps (or, with several stages, which stages)."""

from dataclasses import dataclass
from math import inf
from typing import TYPE_CHECKING

import numpy as np

from lynxwort.core.cache import Key
from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.physics.reach.legs import Member, Stint, assign

if TYPE_CHECKING:
    from lynxwort.core.coupling.stages import Work


def _unit_times(work: "Work", rider: int, laps: int) -> tuple[float, ...]:
    rides = work.rides_by(rider)
    if len(rides) == 1:
        return (rides[0].lap_time_s,) * laps
    return tuple(r.lap_time_s * s.laps for r, s in zip(rides, work.inputs.race.stages, strict=True))


def team_lap_time(work: "Work") -> float:
    """A team's mean lap time [s] with its hand-overs: each rides about as many laps."""
    relay = work.inputs.race.relay
    assert relay is not None
    mean = float(np.mean([work.rides_by(r)[0].lap_time_s for r in range(len(work.inputs.riders))]))
    hours = work.inputs.race.stages[0].hours_s or 0.0
    longest = min([relay.longest_stint_s or inf, *(r.longest_stint_s or inf for r in work.inputs.riders)])
    laps_a_stint = max(min(longest // mean, -(-(hours // mean) // len(work.inputs.riders))), 1.0)
    return mean + relay.hand_over_s / laps_a_stint


def stints_of(work: "Work") -> tuple[Stint, ...]:
    """The stints with the least time in all under the team's rules. Raises InputRefused when the rules leave a lap to nobody."""
    relay, riders, laps = work.inputs.race.relay, work.inputs.riders, work.laps
    assert relay is not None
    team = [
        Member(times_s=_unit_times(work, r, laps), rest_s=relay.rest_s, longest_s=min(relay.longest_stint_s or inf, rider.longest_stint_s or inf))
        for r, rider in enumerate(riders)
    ]
    found = work.cache.get("stints", Key(tuple(team), relay.hand_over_s), lambda: assign(team, hand_over_s=relay.hand_over_s))
    if found is None:
        raise InputRefused(Refusal(path="race.relay", code="relay_nobody"))
    return tuple(found)


@dataclass(frozen=True, slots=True, kw_only=True)
class RiddenStint:
    """A stint of one rider, the time [s] and the amount of fuel [m3] or charge [J] that it takes, rear sag [m] under the rider, half the fill in."""

    stint: Stint
    time_s: float
    amount: float
    sag_m: float


def ridden_stints(work: "Work") -> list[RiddenStint]:
    """Every stint of a relay, in order; empty without one."""
    found, setup = [], work.inputs.setup
    for stint in work.relay or ():
        stages = range(stint.first, stint.last + 1)
        laps = [(0, 1)] * len(stages) if len(work.courses) == 1 else [(i, work.inputs.race.stages[i].laps) for i in stages]
        time = sum(work.rides_by(stint.rider)[i].lap_time_s * n for i, n in laps)
        used = sum(float(work.use_by(stint.rider)[i][-1]) * n for i, n in laps) * work.factor.median
        sag = work.sag_at("rear", setup, work.inputs.riders[stint.rider], 0.5 * setup.fill_m3, work.offsets.mean)
        found.append(RiddenStint(stint=stint, time_s=time, amount=used, sag_m=sag))
    return found
