"""The race as it goes: how many laps, who rides which, in which pieces."""

import itertools
from dataclasses import replace
from functools import cached_property

from lynxwort.core.cache import keyed
from lynxwort.core.derived.team import stints_of, team_lap_time
from lynxwort.core.derived.use import Riders
from lynxwort.core.model.defaults import LAP_TIME_LOG_SD
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.model.race import Relay, Stage
from lynxwort.core.physics.reach.finish import Piece, lap_chances
from lynxwort.core.physics.reach.legs import Stint


@keyed
class Clock:
    """riders: what each stage takes of each of them; stages: their laps, hours and refuel points."""

    riders: Riders
    stages: tuple[Stage, ...]
    relay: Relay | None

    @classmethod
    def of(cls, inputs: Inputs, riders: Riders) -> "Clock":
        return cls(riders=riders, stages=inputs.race.stages, relay=inputs.race.relay)

    @property
    def lap_time_s(self) -> float:
        """Of the round [s]: of who is entered, or of the team with its hand-overs."""
        return self.riders.lap().whole.lap_time_s if self.relay is None else team_lap_time(self.riders, self.relay, self.stages[0].hours_s or 0.0)

    @cached_property
    def lap_chances(self) -> tuple[tuple[int, float], ...]:
        """How many times the round is ridden, with the chance of each: one number by laps, a distribution by hours."""
        stage = self.stages[0]
        if stage.hours_s is None:
            return ((stage.laps if len(self.stages) == 1 else 1, 1.0),)
        return lap_chances(stage.hours_s, self.lap_time_s, common_sd=self.riders.lap().pace_log_sd, lap_sd=LAP_TIME_LOG_SD)

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
        """The most laps that are likely at all."""
        return max(laps for laps, _chance in self.lap_chances)

    @cached_property
    def stints(self) -> tuple[Stint, ...] | None:
        """Who rides which laps (or stages) of a team that shares the race; None of one rider. Raises InputRefused when the rules leave one to nobody."""
        return None if self.relay is None else stints_of(self.riders, self.relay, self.stages, self.laps)

    def rider_of(self, unit: int) -> int:
        """Who rides a lap of the race (with several stages, a stage), counted from 0; laps beyond the plan are the last rider's."""
        if self.stints is None:
            return self.riders.entered
        return next((s.rider for s in self.stints if s.first <= unit <= s.last), self.stints[-1].rider)

    def pieces(self, laps: int) -> list[Piece]:
        """The race as pieces in order: each stage with its laps (`laps` of a single stage); of a relay, each rider's laps in a row."""
        stages, found, courses = self.stages, list[Piece](), self.riders.use.road.around.courses
        for i, stage in enumerate(stages):
            count = laps if len(stages) == 1 else stage.laps
            riders = [self.rider_of(lap if len(stages) == 1 else i) for lap in range(count)]
            for rider, run in itertools.groupby(riders):
                found.append(
                    Piece(used=self.riders.along(rider)[i], distance_m=courses[i].distance_m, laps=len(list(run)), stage=i, rider=rider,
                          refuel_at_m=tuple(p.at_m for p in stage.refuel_points))
                )  # fmt: skip
            found[-1] = replace(found[-1], refuel_after=stage.refuel_after)
        return found

    @property
    def race_m(self) -> float:
        """All laps of all stages [m], at the median number of laps."""
        return sum(float(p.distance_m[-1]) * p.laps for p in self.pieces(self.laps))
