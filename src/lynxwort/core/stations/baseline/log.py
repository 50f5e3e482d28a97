"""The bike's log in line: hours at every line of it, what every part has run, how the race wears it."""

from dataclasses import dataclass
from functools import cached_property

from lynxwort.core.cache import keyed
from lynxwort.core.model.bike import Bike
from lynxwort.core.model.service import ClockedPart, Ride, Service
from lynxwort.core.model.service.intervals import HOUR_S, NEW_SPOKES_H, SMALL_M3, Lasts, lasts_of
from lynxwort.core.physics.service.hours import Ridden, Timeline, run_since, timeline, use_factor

#: from so large a share of full throttle on a piston wears faster [1] (assumption)
MUCH_FULL = 0.25


@dataclass(frozen=True, slots=True, kw_only=True)
class RaceUse:
    """The race as it wears a bike: how long it takes one [s], shares of its time in sand, in mud, at full throttle;
    start: its day; lap_s: the time of a lap [s].
    """

    takes_s: float
    sand_share: float
    mud_share: float
    full_share: float
    start: str
    lap_s: float = 0.0


@keyed
class Log:
    """service: what was written down; begun: whether anything was; stroke: kind of engine; small: whether it is one of
    the small ones; bore_m, cooled, battery: what some checks ask for.
    """

    service: Service
    begun: bool
    stroke: str
    small: bool
    bore_m: float | None
    cooled: bool
    battery: bool

    @classmethod
    def of(cls, bike: Bike, service: Service | None) -> "Log":
        """Of a bike and what was written down of it, if anything was."""
        engine = bike.engine
        electric, size = bike.metering == "electric", getattr(engine, "displacement_m3", 0.0)
        stroke = "electric" if electric else "two_stroke" if bike.is_two_stroke else "four_stroke"
        return cls(
            service=service or Service(),
            begun=service is not None,
            stroke=stroke,
            small=not electric and size <= SMALL_M3[stroke],
            bore_m=getattr(engine, "bore_m", None),
            cooled=not electric and bike.kit.cooling.radiators > 0,
            battery=bike.kit.electrics.battery != "none",
        )

    @cached_property
    def rides(self) -> tuple[Ride, ...]:
        """In the order they were written down."""
        return tuple(sorted(self.service.rides, key=lambda r: r.seq))

    @cached_property
    def line(self) -> Timeline:
        return timeline([Ridden(time_s=r.time_s, meter_s=r.meter_s) for r in self.rides])

    def hours_at(self, seq: int) -> float:
        """Hours of the bike [s] when a line was written."""
        return max((a for r, a in zip(self.rides, self.line.after_s, strict=True) if r.seq < seq), default=0.0)

    def lasts(self, kind: str) -> Lasts | None:
        """What practice says of a part."""
        return lasts_of(kind, self.stroke)

    @cached_property
    def parts(self) -> dict[str, ClockedPart]:
        """The one of each kind that is on the bike: the last one written down."""
        return {p.kind: p for p in sorted(self.service.parts, key=lambda p: p.seq) if p.fate == "fitted"}

    def factor(self, kind: str, use: Ride | RaceUse) -> float:
        """By how much a ride wears a part more than plain hours."""
        lasts = self.lasts(kind) or Lasts()
        full = 1.0 if use.full_share > MUCH_FULL else 0.0
        return use_factor(
            ((use.sand_share, lasts.sand_factor), (use.mud_share, lasts.mud_factor), (full, lasts.full_factor))
        )

    def run_s(self, part: ClockedPart) -> float:
        """What a part has run [s], weighted by use; what it had when it came off."""
        if part.ended_s is not None:
            return part.ended_s
        return part.carried_s + run_since(self.line, part.fitted_s, [self.factor(part.kind, r) for r in self.rides])

    def interval_s(self, part: ClockedPart) -> float | None:
        """Between two of them [s]: by the manual, else by practice; None where only the calendar counts."""
        lasts = self.lasts(part.kind)
        if part.interval_s is not None or lasts is None:
            return part.interval_s
        if part.new_build and lasts.first_h is not None:
            return self._first(part, lasts)
        race = self.service.ridden == "race"
        small = lasts.small_race_h if race else lasts.small_trail_h
        hours = small if self.small and small is not None else lasts.race_h if race else lasts.trail_h
        return None if hours is None else hours * HOUR_S

    def _first(self, part: ClockedPart, lasts: Lasts) -> float:
        """The first one of what is new; a wheel's spokes are gone over several times, the next one after what they had
        run when it was last done.
        """
        steps = NEW_SPOKES_H if part.kind == "spokes" else (lasts.first_h or 0.0,)
        done_h = part.carried_s / HOUR_S
        ahead = [s for s in steps if s > done_h + 1e-9]
        return (ahead[0] if ahead else done_h + (lasts.race_h or 0.0)) * HOUR_S
