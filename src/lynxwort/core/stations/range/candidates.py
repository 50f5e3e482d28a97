"""What would carry it further."""

from lynxwort.core.model.base import field_facts
from lynxwort.core.model.bike import Frame
from lynxwort.core.model.defaults import PACK_J_PER_KG
from lynxwort.core.model.setup import Setup
from lynxwort.core.model.setup.range import FULL_M3, level_at
from lynxwort.core.physics.reach.stops import Fill
from lynxwort.core.report import Move
from lynxwort.core.stations.range.input import RangeInput
from lynxwort.core.stations.range.passings import best_plan, chance_by, passed
from lynxwort.core.tunables import TUNABLES, is_owned, stop_tunable

#: largest that is sold for a bike, by its own weight: a tank [m3/kg], a pack as a share of it (assumption: a desert
#: tank for a bike of 100 kg holds 25 L, and no pack is half of its bike)
TANK_M3_PER_KG, PACK_SHARE = 0.25e-3, 0.45


def most_sold(tunable: str, frame: Frame) -> float:
    """The largest tank [m3] or pack [J] that is sold for such a bike."""
    by_weight = {"tank_capacity_m3": TANK_M3_PER_KG, "pack_energy_j": PACK_SHARE * PACK_J_PER_KG}
    return min(by_weight[tunable] * frame.mass_dry_kg, field_facts(Setup, tunable).high or 0.0)


def _next_size(tunable: str, need: float, frame: Frame) -> list[float]:
    """The smallest tank or pack on the common steps of at least this size; empty beyond what is sold."""
    step_size = TUNABLES[tunable].step
    bought = round(-(-need * (1.0 - 1e-9) // step_size) * step_size, 6)
    return [bought] if bought <= most_sold(tunable, frame) else []


def _tanks(given: RangeInput, usable_m3: float) -> list[tuple[float, float]]:
    """The smallest owned tank [m3] that gives this much usable fuel, without one the smallest known to fit or on the
    common steps; with it the filling [m3] wanted in it. Each tank keeps its own share back.
    """
    frame, step_m3 = given.frame, TUNABLES["fuel_fill_m3"].step
    known = {t.capacity_m3: t.unusable_m3 for t in frame.other_tanks}

    def fill_in(held_m3: float) -> float:
        unusable = next((u for v, u in known.items() if abs(v - held_m3) < 1e-6), frame.unusable_fuel_m3)
        return round(-(-(usable_m3 + unusable - 1e-9) // step_m3) * step_m3, 6)

    owned = sorted(v for v in given.box.owned("tank_capacity_m3") if usable_m3 + 1e-9 < v and fill_in(v) <= v + 1e-6)
    to_buy = [
        v
        for v in (*known, *_next_size("tank_capacity_m3", usable_m3 + frame.unusable_fuel_m3, frame))
        if fill_in(v) <= v + 1e-6
    ]
    return [(v, min(fill_in(v), v)) for v in (owned[:1] or sorted(to_buy)[:1])]


def more_aboard(given: RangeInput, need: float) -> tuple[tuple[Move, ...], ...]:
    """Fill or charge more when the tank or pack holds it; else the smallest one that does, in the box first."""
    setup, parts = given.setup, given.box
    if given.supply.store.kind == "energy":
        # a pack gives only its usable share, and that share of a larger pack too
        usable_need = (need - given.supply.store.unusable) / (
            1.0 - given.supply.store.unusable / given.supply.store.capacity
        )
        step_size = TUNABLES["charge_share"].step
        share = -(-(need / given.supply.store.capacity - 1e-9) // step_size) * step_size
        if share <= 1.0 + 1e-9:
            return ((Move(tunable="charge_share", value=round(min(share, 1.0), 6)),),)
        full = () if setup.charge_share in (None, 1.0) else (Move(tunable="charge_share", value=1.0),)
        owned = sorted(v for v in parts.owned("pack_energy_j") if v >= usable_need * (1.0 - 1e-9))
        packs = owned[:1] or _next_size("pack_energy_j", usable_need, given.frame)
        return tuple(
            (Move(tunable="pack_energy_j", value=v, owned=is_owned(parts, "pack_energy_j", v)), *full) for v in packs
        )
    step_m3 = TUNABLES["fuel_fill_m3"].step
    fill = -(-(need - 1e-9) // step_m3) * step_m3
    if fill <= given.supply.store.capacity + 1e-9:
        return ((Move(tunable="fuel_fill_m3", value=round(fill, 6)),),)
    return tuple(
        (
            Move(tunable="tank_capacity_m3", value=v, owned=is_owned(parts, "tank_capacity_m3", v)),
            Move(tunable="fuel_fill_m3", value=filled),
        )
        for v, filled in _tanks(given, need - given.supply.store.unusable)
    )


def _to_levels(given: RangeInput, levels: dict[int, float]) -> tuple[Move, ...]:
    """What to do otherwise at the passings, so that it is filled to these levels there [m3] and nowhere else."""
    stops = given.supply.stops or ()
    now = {s.passing: level_at(stops, s.passing) for s in stops}
    return tuple(
        Move(tunable=stop_tunable(n), value=levels.get(n, 0.0))
        for n in sorted(now.keys() | levels.keys())
        if abs(levels.get(n, 0.0) - now.get(n, 0.0)) > 1e-9
    )


def other_stops(given: RangeInput) -> tuple[tuple[Move, ...], ...]:
    """Where the stops as planned do not do: filled up at each of them where that holds, and the quickest stops that
    hold; what changes less first.
    """
    taken, fuel = given.supply.taken or {}, given.supply.store.kind == "fuel"
    full = {n: Fill(amount=given.supply.store.capacity) for n in taken}
    ways = []
    if fuel and chance_by(given, given.supply.store.aboard, full) >= given.certainty:
        ways.append(_to_levels(given, dict.fromkeys(full, FULL_M3)))
    best = best_plan(given)
    if best is not None:
        ways.append(_to_levels(given, {s.opening + 1: round(s.level, 6) if fuel else FULL_M3 for s in best.stops}))
    return tuple(sorted(dict.fromkeys(w for w in ways if w), key=len))


def stops_beyond(given: RangeInput) -> tuple[Move, ...]:
    """The stops that the race does not have, taken out."""
    passings = len(passed(given, given.clock.most_laps))
    return tuple(Move(tunable=stop_tunable(n), value=0.0) for n in sorted(given.supply.taken or {}) if n > passings)
