"""Charging between two rides: how full the pack is again after a break of so long."""

from dataclasses import dataclass
from math import isinf

from lynxwort.core.derived.supply import charger_of
from lynxwort.core.model.bike import Electric
from lynxwort.core.physics.reach import charge, heat
from lynxwort.core.stations.range import heat as warm
from lynxwort.core.stations.range.input import RangeInput

#: breaks that are told [s]
BREAKS_S = tuple(60.0 * m for m in (15, 30, 45, 60, 90, 120, 180, 240))


@dataclass(frozen=True, slots=True, kw_only=True)
class Break:
    """share: of the charge [1] after a break [s]; enough: for the same leg again at the median use."""

    break_s: float
    share: float
    enough: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Breaks:
    """left_share: left by the longest leg [1]; rest_s: until it may be charged, None = the air is too warm for it;
    power_w: into the pack; by_generator: held down by it; full_s: until it is full, rest counted in;
    rows: none without a charger.
    """

    left_share: float
    rest_s: float | None
    power_w: float | None
    by_generator: bool
    full_s: float | None
    rows: tuple[Break, ...]


def breaks(given: RangeInput) -> Breaks:
    """What the charger gives in a break after the longest leg, at the median use. Raises ValueError for fuel."""
    engine, supply = given.engine, given.supply
    if not isinstance(engine, Electric):
        raise ValueError("no pack")
    store, unit = supply.store, charger_of(engine)
    pack = store.capacity
    left = max(store.aboard - supply.largest_leg, 0.0) / pack
    hot = warm.both(given)["pack"].hottest_k
    rest = max(engine.pack_rest_s, heat.rest_until(hot, given.day.temperature_high_k))
    if unit is None or isinf(rest):
        still = None if isinf(rest) else rest
        return Breaks(left_share=left, rest_s=still, power_w=None, by_generator=False, full_s=None, rows=())
    # enough: the same leg again, the part that is not to be drawn left in it
    need = (supply.largest_leg + store.unusable) / pack
    shares = [(b, charge.charged(left, pack, unit, b - rest)) for b in BREAKS_S]
    return Breaks(
        left_share=left,
        rest_s=rest,
        power_w=unit.power_w,
        by_generator=unit.power_w < (engine.charger_w or 0.0) - 1e-9,
        full_s=rest + charge.time_to(left, charge.FULL_SHARE, pack, unit),
        rows=tuple(Break(break_s=b, share=s, enough=s >= need) for b, s in shares),
    )
