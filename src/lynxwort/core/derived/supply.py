"""What is aboard against what the race takes: the bike's own factor, the stops as planned, the legs between two
fillings.
"""

from collections.abc import Mapping
from dataclasses import replace
from functools import cached_property
from math import log

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.cache import keyed
from lynxwort.core.derived.clock import Clock
from lynxwort.core.derived.fillups import Refilled
from lynxwort.core.derived.use import Burn, Store, store_of
from lynxwort.core.evidence import LogNormal
from lynxwort.core.learned.consumption import learn_factor, prior_factor
from lynxwort.core.model.bike import Electric
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.model.setup import StopFill
from lynxwort.core.physics.reach.charge import Charger, Swap, into_pack, swaps
from lynxwort.core.physics.reach.finish import Piece, legs_over, sections_over
from lynxwort.core.physics.reach.stops import Fill

Array = NDArray[np.float64]
#: what is said at most of a bike whose consumption was never measured (HANDBOOK 5: no 99 % there); the figure itself:
#: assumption
UNMEASURED_MOST = 0.98
#: of a factor that is known: what is left to the scatter of the laps
KNOWN_LOG_SD = 1e-4


def charger_of(engine: Electric) -> Charger | None:
    """The charger as it is said; None without one."""
    if engine.charger_w is None:
        return None
    power = into_pack(engine.charger_w, engine.generator_w)
    return Charger(power_w=power, taper_share=engine.charge_taper_share, rest_s=engine.pack_rest_s)


@keyed
class Supply:
    """clock: the race as it goes; burn: what a ride takes; store: what is aboard; stops: as planned, None = filled to
    the starting level at every refuel point; refilled: what fill-ups or charges say; drawn:
    the bike's own factor in the place of what is learned of it.
    """

    clock: Clock
    burn: Burn
    store: Store
    stops: tuple[StopFill, ...] | None
    refilled: Refilled
    drawn: LogNormal | None = None

    @classmethod
    def of(cls, inputs: Inputs, clock: Clock, burn: Burn, refilled: Refilled, coldest_k: float) -> "Supply":
        store = store_of(inputs.bike, inputs.setup, coldest_k)
        return cls(clock=clock, burn=burn, store=store, stops=inputs.setup.stops, refilled=refilled)

    @cached_property
    def _uses(self) -> dict[int, tuple[Array, ...]]:
        return {}

    def along(self, rider: int | None = None, leg: int = 0) -> tuple[Array, ...]:
        """Cumulative use over one lap of each stage at factor 1 by one of the riders on one of his legs, each shape
        (n + 1,). None: who is entered.
        """
        guise = self.clock.guise(self.clock.entered if rider is None else rider, leg)
        if guise not in self._uses:
            self._uses[guise] = self.burn.along(self.clock.ridden[guise])
        return self._uses[guise]

    def pieces(self, laps: int) -> list[Piece]:
        """The race as pieces in order, with what each takes."""
        courses = self.clock.around.courses
        return [
            Piece(
                used=self.along(run.rider, run.leg)[run.stage],
                distance_m=courses[run.stage].distance_m,
                laps=run.laps,
                stage=run.stage,
                rider=run.rider,
                leg=run.leg,
                refuel_at_m=tuple(p.at_m for p in self.clock.stages[run.stage].refuel_points),
                refuel_after=run.last and self.clock.stages[run.stage].refuel_after,
            )
            for run in self.clock.runs(laps)
        ]

    @property
    def round_use(self) -> float:
        """Use of the round, each stage once, at factor 1."""
        return float(sum(u[-1] for u in self.along()))

    @cached_property
    def prior(self) -> LogNormal:
        """The factor before any fill-up."""
        if self.store.kind == "energy":
            return prior_factor(0.0)
        ride = self.clock.own.whole
        return prior_factor(float((ride.time_s * (ride.throttle_share > 0.97)).sum() / ride.time_s.sum()))

    @cached_property
    def factor(self) -> LogNormal:
        """This bike's factor on the computed use."""
        return self.drawn or learn_factor(self.prior, self.refilled.usable)

    def where(self, deviation_sd: float, known: "Supply") -> "Supply":
        """With the bike's own factor where it truly is against what is known [standard deviations of its logarithm].
        Its spread is that of what a race takes in all, so that a ride and an air that are drawn take no more than those
        that were learned.
        """
        mean = known.factor.log_mean + deviation_sd * known.factor.log_sd + log(known.round_use / self.round_use)
        return replace(self, drawn=replace(known.factor, log_mean=mean, log_sd=KNOWN_LOG_SD))

    @property
    def most_sure(self) -> float:
        """The highest chance [1] that may be said of this bike: one never measured is never called sure."""
        return 1.0 if self.factor.used else UNMEASURED_MOST

    @cached_property
    def rounds(self) -> tuple[Swap, ...] | None:
        """What goes round of a few packs alike at every passing up to the most laps that are likely, at the median use;
        None where a full one is at hand for every swap, or nothing is swapped at all.
        """
        engine = self.burn.engine
        if not isinstance(engine, Electric) or engine.packs_alike is None:
            return None
        laps = self.clock.most_laps
        uses = sections_over(self.pieces(laps))[:-1]
        if not uses:
            return None
        times = sections_over([replace(p, used=self._clocked(p)) for p in self.pieces(laps)])[:-1]
        wanted = None if self.stops is None else {s.passing for s in self.stops}
        return tuple(
            swaps(
                [(sum(t), sum(u) * self.factor.median) for t, u in zip(times, uses, strict=True)],
                [wanted is None or n in wanted for n in range(1, len(uses) + 1)],
                aboard_j=self.store.aboard,
                pack_j=self.store.capacity,
                count=engine.packs_alike,
                charger=charger_of(engine),
            )
        )

    def _clocked(self, piece: Piece) -> Array:
        return np.concatenate([[0.0], np.cumsum(self.clock.lap(piece.rider, piece.leg).rides[piece.stage].time_s)])

    @cached_property
    def taken(self) -> dict[int, Fill] | None:
        """What is done at which passing of a refuel point, as planned; None without a plan: filled to the starting
        level at each.
        """
        if self.rounds is not None:
            return {n: Fill(amount=s.level_j) for n, s in enumerate(self.rounds, start=1) if s.swapped}
        if self.stops is None:
            return None
        fuel, full = self.store.kind == "fuel", self._full
        fills = {}
        for s in self.stops:
            adds = fuel and s.add_m3 is not None
            amount = s.add_m3 if adds else s.to_level_m3 if fuel and s.to_level_m3 is not None else full
            fills[s.passing] = Fill(amount=min(amount or 0.0, full), add=adds)
        return fills

    @property
    def _full(self) -> float:
        return self.store.capacity if self.store.kind == "fuel" else self.store.aboard

    def fills_of_extra(self, laps: int) -> dict[int, Fill]:
        """What is done at the passings beyond the likely laps, when there is time for more: filled up. Nothing without
        a plan, or for fewer laps.
        """
        if self.taken is None or self.rounds is not None or laps <= self.clock.laps:
            return {}
        planned, whole = (len(sections_over(self.pieces(n))) - 1 for n in (self.clock.laps, laps))
        return {n: Fill(amount=self._full) for n in range(planned + 1, whole + 1)}

    def _taken_of(self, laps: int) -> Mapping[int, Fill] | None:
        """What is done at which passing of a race of so many laps; None without a plan."""
        return None if self.taken is None else self.taken | self.fills_of_extra(laps)

    @cached_property
    def cases(self) -> tuple[tuple[float, tuple[tuple[float, ...], ...]], ...]:
        """How the race may go: the chance of each number of laps, and its legs between two fillings."""
        return tuple(
            (chance, tuple(tuple(leg) for leg in legs_over(self.pieces(laps), self._taken_of(laps)) if leg))
            for laps, chance in self.clock.lap_chances
        )

    @cached_property
    def legs(self) -> tuple[tuple[float, ...], ...]:
        """The legs at the median number of laps."""
        return tuple(tuple(leg) for leg in legs_over(self.pieces(self.clock.laps), self.taken) if leg)

    @cached_property
    def largest_leg(self) -> float:
        """Likely use of the longest leg."""
        return max(sum(leg) for leg in self.legs) * self.factor.median
