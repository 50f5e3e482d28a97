"""Drive grip of a ground by the hills that were tried on it."""

from collections.abc import Sequence
from dataclasses import dataclass

from lynxwort.core.physics.drive.hills import grip_range


@dataclass(frozen=True, slots=True, kw_only=True)
class Tried:
    """A climb that was tried. needed: grip it takes from that speed [1], None when the engine gives out; outcome:
    climbed, spun, stalled.
    """

    reading_id: str
    needed: float | None
    outcome: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Grip:
    """Drive grip of a ground after the climbs that were tried [1]. readings used; questioned: those that cannot all be
    true.
    """

    low: float
    high: float
    readings: tuple[str, ...] = ()
    questioned: tuple[str, ...] = ()

    def likely(self, table: float) -> float:
        """The table's grip, moved into the range when a climb says so."""
        return min(max(table, self.low), self.high) if self.readings else table


def learn_grip(ground: str, tried: Sequence[Tried]) -> Grip:
    """A climbed hill gave at least the grip it takes, one that spun gave less; stalls say nothing of grip. Climbs and
    spins that cross are questioned.
    """
    low, high = grip_range(ground)
    climbed = [t for t in tried if t.outcome == "climbed" and t.needed is not None]
    spun = [t for t in tried if t.outcome == "spun" and t.needed is not None]
    floor = max((t.needed or 0.0 for t in climbed), default=0.0)
    ceiling = min((t.needed or 9.0 for t in spun), default=9.0)
    impossible = tuple(t.reading_id for t in tried if t.outcome == "climbed" and t.needed is None)
    if floor > ceiling:
        return Grip(low=low, high=high, questioned=tuple(t.reading_id for t in (*climbed, *spun)) + impossible)
    used = tuple(t.reading_id for t in (*climbed, *spun))
    # a climb beyond the range stretches it: it was seen
    new_low, new_high = max(low, floor), min(max(high, floor), max(ceiling, 0.05))
    return Grip(low=min(new_low, new_high), high=new_high, readings=used, questioned=impossible)
