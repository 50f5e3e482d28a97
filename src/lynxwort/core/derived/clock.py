"""The race as it goes: how many laps, who of a team rides which, in which pieces."""

import itertools
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from math import inf

import numpy as np

from lynxwort.core.cache import StageCache, keyed
from lynxwort.core.derived.ride import Lap
from lynxwort.core.derived.road import Road
from lynxwort.core.derived.track import Round
from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.defaults import LAP_TIME_LOG_SD
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.model.race import Relay, Stage
from lynxwort.core.model.rider import Rider
from lynxwort.core.model.setup import QUICK, Setup
from lynxwort.core.physics.reach.finish import lap_chances
from lynxwort.core.physics.reach.legs import Member, Stint, assign
from lynxwort.core.tunables import current_value


@dataclass(frozen=True, slots=True, kw_only=True)
class Run:
    """Laps of one stage in a row by one rider on one of his legs; last: whether the stage ends with them."""

    stage: int
    rider: int
    leg: int
    laps: int
    last: bool


@keyed
class Clock:
    """ridden: the round as each who rides it rides it, then on those of his legs for which he has something else;
    guises: rider's number and leg of each, leg 0 = any other; riders: who they are, numbers: theirs in the document;
    entered: number of who is entered; stages: laps, hours, refuel points; turning_s: how long it takes to turn the
    settings of each guise to those of each other [s].
    """

    ridden: tuple[Lap, ...]
    guises: tuple[tuple[int, int], ...]
    numbers: tuple[int, ...]
    riders: tuple[Rider, ...]
    entered: int
    stages: tuple[Stage, ...]
    relay: Relay | None
    turning_s: tuple[tuple[float, ...], ...]

    @classmethod
    def of(cls, inputs: Inputs, road: Road) -> "Clock":
        """At half the fill: the mean of the race. Of a team all ride, else who is entered."""
        numbers = tuple(range(len(inputs.riders))) if inputs.race.relay is not None else (inputs.race.entries[0].rider,)
        riders, half = tuple(inputs.riders[n] for n in numbers), 0.5 * inputs.setup.fill_m3
        shared, setup = inputs.race.relay is not None, inputs.setup
        own = ((n, leg) for n in numbers if shared for leg in setup.own_legs(inputs.riders[n].name))
        guises = (*((n, 0) for n in numbers), *own)
        as_ridden = tuple(setup.for_rider(inputs.riders[n].name, leg) if shared else setup for n, leg in guises)
        ridden = tuple(road.lap(s, inputs.riders[n], half) for s, (n, _leg) in zip(as_ridden, guises, strict=True))
        return cls(
            ridden=ridden,
            guises=guises,
            numbers=numbers,
            riders=riders,
            entered=inputs.race.entries[0].rider,
            stages=inputs.race.own_stages,
            relay=inputs.race.relay,
            turning_s=tuple(tuple(turning_time(a, b) for b in as_ridden) for a in as_ridden),
        )

    def guise(self, rider: int, leg: int = 0) -> int:
        """Place among `ridden` of a rider on one of his legs."""
        return self.guises.index((rider, leg) if (rider, leg) in self.guises else (rider, 0))

    def lap(self, rider: int, leg: int = 0) -> Lap:
        """The round as one of the riders rides it on one of his legs."""
        return self.ridden[self.guise(rider, leg)]

    def who(self, rider: int) -> Rider:
        """One of those who ride, by his number in the document."""
        return self.riders[self.numbers.index(rider)]

    def hand_over_time(self, before: tuple[int, int], after: tuple[int, int]) -> float:
        """How long one rider's hand-over to another takes [s], each with his leg: no less than what is turned."""
        turning = self.turning_s[self.guise(*before)][self.guise(*after)]
        return max(self.relay.hand_over_s if self.relay is not None else 0.0, turning)

    @property
    def turning_most_s(self) -> float:
        """The longest that is turned at any hand-over of the stints as they stand [s]."""
        met = itertools.pairwise(self.guise(s.rider, leg) for s, leg in zip(self.stints or (), self.legs, strict=True))
        return max((self.turning_s[a][b] for a, b in met), default=0.0)

    @property
    def own(self) -> Lap:
        """The round as who is entered rides it."""
        return self.lap(self.entered)

    @property
    def around(self) -> Round:
        return self.ridden[0].around

    @property
    def lap_time_s(self) -> float:
        """Of the round [s]: of who is entered, or of the team with its hand-overs."""
        if self.relay is None:
            return self.own.whole.lap_time_s
        return team_lap_time(
            [self.lap(n).rides[0].lap_time_s for n in self.numbers],
            self.riders,
            self.relay,
            self.stages[0].hours_s or 0.0,
        )

    @cached_property
    def lap_chances(self) -> tuple[tuple[int, float], ...]:
        """How many times the round is ridden, with the chance of each: one number by laps, a distribution by hours."""
        stage = self.stages[0]
        if stage.hours_s is None:
            return ((stage.laps if len(self.stages) == 1 else 1, 1.0),)
        return lap_chances(stage.hours_s, self.lap_time_s, common_sd=self.pace_log_sd, lap_sd=LAP_TIME_LOG_SD)

    @property
    def pace_log_sd(self) -> float:
        """How far the day's pace may lie off [1], of its logarithm."""
        return self.own.pace_log_sd

    @cached_property
    def laps(self) -> int:
        """The likeliest middle: the median number of laps of the first stage (of the round, with one stage)."""
        total = 0.0
        for laps, chance in self.lap_chances:
            total += chance
            if total >= 0.5 - 1e-12:
                return laps
        return self.lap_chances[-1][0]

    @property
    def most_laps(self) -> int:
        """The most laps that are likely at all: passings of refuel points are counted up to there. Stops are planned
        and clocked for `laps`.
        """
        return max(laps for laps, _chance in self.lap_chances)

    @cached_property
    def stints(self) -> tuple[Stint, ...] | None:
        """Who rides which laps (or stages) of a team that shares the race, each as on any other of his legs; None of
        one rider. Raises InputRefused when the rules leave one to nobody.
        """
        if self.relay is None:
            return None
        times = [[r.lap_time_s for r in self.lap(n).rides] for n in self.numbers]
        return stints_of(times, self.riders, self.relay, self.stages, self.laps, self.around.cache)

    @cached_property
    def legs(self) -> tuple[int, ...]:
        """Of each stint, which of its rider's legs it is, the first is 1; none of one rider."""
        counted, found, before = dict[int, int](), list[int](), None
        for s in self.stints or ():
            # two stints of one rider in a row are one leg: nobody hands over
            counted[s.rider] = counted.get(s.rider, 0) + (s.rider != before)
            before = s.rider
            found.append(counted[s.rider])
        return tuple(found)

    def whose(self, unit: int) -> tuple[int, int]:
        """Who rides a lap of the race (with several stages, a stage), counted from 0, and on which of his legs; laps
        beyond the plan are the last rider's.
        """
        if self.stints is None:
            return self.entered, 0
        ridden = zip(self.stints, self.legs, strict=True)
        return next(
            ((s.rider, n) for s, n in ridden if s.first <= unit <= s.last), (self.stints[-1].rider, self.legs[-1])
        )

    def runs(self, laps: int) -> list[Run]:
        """The race in order: each stage with its laps (`laps` of a single stage); of a relay, each rider's laps in a
        row.
        """
        stages, found = self.stages, list[Run]()
        for i, stage in enumerate(stages):
            count = laps if len(stages) == 1 else stage.laps
            riders = [
                (*whose, len(list(run)))
                for whose, run in itertools.groupby(self.whose(lap if len(stages) == 1 else i) for lap in range(count))
            ]
            found += [
                Run(stage=i, rider=rider, leg=leg, laps=n, last=k + 1 == len(riders))
                for k, (rider, leg, n) in enumerate(riders)
            ]
        return found

    @property
    def race_m(self) -> float:
        """All laps of all stages [m], at the median number of laps."""
        return sum(self.around.courses[r.stage].length_m * r.laps for r in self.runs(self.laps))

    @property
    def race_laps(self) -> int:
        """Laps of all stages, at the median."""
        return sum(r.laps for r in self.runs(self.laps))


def turned_between(before: Setup, after: Setup) -> list[tuple[str, float, float]]:
    """What is turned from one rider's settings to another's: field, its value [SI] before and after."""
    pairs = ((t, current_value(before, t), current_value(after, t)) for t in QUICK if _there(before, after, t))
    return [(t, a, b) for t, a, b in pairs if abs(a - b) > 1e-12]


def _there(before: Setup, after: Setup, field: str) -> bool:
    return getattr(before, field) != getattr(after, field)


def turning_time(before: Setup, after: Setup) -> float:
    """How long it takes to turn one rider's settings to another's [s], one thing after the other."""
    return sum(QUICK[t] for t, _a, _b in turned_between(before, after))


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
