"""A team that shares one race: who rides which laps (or, with several stages, which stages)."""

from collections.abc import Sequence
from math import inf

import numpy as np

from lynxwort.core.cache import StageCache
from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.race import Relay, Stage
from lynxwort.core.model.rider import Rider
from lynxwort.core.physics.reach.legs import Member, Stint, assign


def team_lap_time(lap_times_s: Sequence[float], riders: Sequence[Rider], relay: Relay, hours_s: float) -> float:
    """A team's mean lap time [s] with its hand-overs: each rides about as many laps. lap_times_s: of each rider."""
    count = len(riders)
    mean = float(np.mean(lap_times_s))
    longest = min([relay.longest_stint_s or inf, *(r.longest_stint_s or inf for r in riders)])
    laps_a_stint = max(min(longest // mean, -(-(hours_s // mean) // count)), 1.0)
    return mean + relay.hand_over_s / laps_a_stint


def _unit_times(times_s: Sequence[float], stages: Sequence[Stage], laps: int) -> tuple[float, ...]:
    if len(times_s) == 1:
        return (times_s[0],) * laps
    return tuple(t * s.laps for t, s in zip(times_s, stages, strict=True))


def stints_of(
    times_s: Sequence[Sequence[float]],
    riders: Sequence[Rider],
    relay: Relay,
    stages: Sequence[Stage],
    laps: int,
    cache: StageCache,
) -> tuple[Stint, ...]:
    """The stints with the least time in all under the team's rules. times_s: of each rider on each stage [s].

    Raises InputRefused when the rules leave a lap to nobody.
    """
    team = tuple(
        Member(
            times_s=_unit_times(times, stages, laps),
            rest_s=relay.rest_s,
            longest_s=min(relay.longest_stint_s or inf, rider.longest_stint_s or inf),
        )
        for times, rider in zip(times_s, riders, strict=True)
    )
    found = cache.get("stints", (team, relay.hand_over_s), lambda: assign(list(team), hand_over_s=relay.hand_over_s))
    if found is None:
        raise InputRefused(Refusal(path="race.relay", code="relay_nobody"))
    return tuple(found)
