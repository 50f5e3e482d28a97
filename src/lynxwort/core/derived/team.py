"""A team that shares one race: who rides which laps (or, with several stages, which stages)."""

from collections.abc import Sequence
from math import inf

import numpy as np

from lynxwort.core.derived.use import Riders
from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.race import Relay, Stage
from lynxwort.core.physics.reach.legs import Member, Stint, assign


def team_lap_time(riders: Riders, relay: Relay, hours_s: float) -> float:
    """A team's mean lap time [s] with its hand-overs: each rides about as many laps."""
    count = len(riders.riders)
    mean = float(np.mean([riders.lap(r).rides[0].lap_time_s for r in range(count)]))
    longest = min([relay.longest_stint_s or inf, *(r.longest_stint_s or inf for r in riders.riders)])
    laps_a_stint = max(min(longest // mean, -(-(hours_s // mean) // count)), 1.0)
    return mean + relay.hand_over_s / laps_a_stint


def _unit_times(riders: Riders, rider: int, stages: Sequence[Stage], laps: int) -> tuple[float, ...]:
    rides = riders.lap(rider).rides
    if len(rides) == 1:
        return (rides[0].lap_time_s,) * laps
    return tuple(r.lap_time_s * s.laps for r, s in zip(rides, stages, strict=True))


def stints_of(riders: Riders, relay: Relay, stages: Sequence[Stage], laps: int) -> tuple[Stint, ...]:
    """The stints with the least time in all under the team's rules. Raises InputRefused when the rules leave a lap to nobody."""
    team = tuple(
        Member(times_s=_unit_times(riders, r, stages, laps), rest_s=relay.rest_s, longest_s=min(relay.longest_stint_s or inf, rider.longest_stint_s or inf))
        for r, rider in enumerate(riders.riders)
    )
    cache = riders.use.road.cache
    found = cache.get("stints", (team, relay.hand_over_s), lambda: assign(list(team), hand_over_s=relay.hand_over_s))
    if found is None:
        raise InputRefused(Refusal(path="race.relay", code="relay_nobody"))
    return tuple(found)
