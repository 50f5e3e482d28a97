"""What a setup's slots stand for on a bike, and what is bolted on."""

from functools import lru_cache

from lynxwort.core.model.bike import (
    Bike,
    Combustion,
    Electric,
    Engine,
    Fitting,
    Frame,
    HeadInsert,
    IgnitionMap,
    OnWheel,
    OtherTank,
    Pack,
    TwoStroke,
)
from lynxwort.core.model.bike.kit import Aboard, Item, Kit, Rode
from lynxwort.core.model.defaults import PACK_J_PER_KG
from lynxwort.core.model.setup import CarriedSetup, ChassisSetup, FuellingSetup, LoadedSetup
from lynxwort.core.model.setup.filled import FilledSetup

#: where another wheel is heavier: in its tyre and what fills it (assumption)
OTHER_WHEEL_GYRATION = 0.85


def fitting_on(engine: Combustion, setup: FuellingSetup, place: str) -> Fitting | None:
    """What is on at one place; None = its own."""
    slot = getattr(setup, place) or 1
    return None if slot == 1 else engine.fittings_of(place)[slot - 2]


def swept_of(engine: Combustion, setup: FuellingSetup) -> float:
    """Swept volume [m3] with the cylinder that is on."""
    cylinder = fitting_on(engine, setup, "cylinder")
    return engine.displacement_m3 if cylinder is None else cylinder.displacement_m3 or engine.displacement_m3


def insert_in(engine: Combustion, setup: FuellingSetup) -> HeadInsert | None:
    """The head or insert that is in; None = its own."""
    slot = setup.head_insert or 1
    return None if slot == 1 else engine.head_inserts[slot - 2]


def ignition_on(engine: Combustion, setup: FuellingSetup) -> IgnitionMap | None:
    """The ignition map that is on; None = its own."""
    slot = setup.ignition_map or 1
    return None if slot == 1 else engine.ignition_maps[slot - 2]


def compression_of(engine: Combustion, setup: FuellingSetup) -> float | None:
    """Compression ratio [1] as set; None when it is not known."""
    insert = insert_in(engine, setup)
    return insert.compression_ratio if insert else engine.compression_ratio


def squish_of(engine: Combustion, setup: FuellingSetup) -> float | None:
    """Squish clearance [m] as set; None when it is not known."""
    insert = insert_in(engine, setup)
    return insert.squish_m if insert else engine.squish_m


def oil_way(engine: Engine, setup: FuellingSetup) -> str:
    """Where a two-stroke's oil comes from: "premix", "oil_tank", or "unsaid"; empty for an engine whose oil is not in
    its fuel.
    """
    if not isinstance(engine, TwoStroke):
        return ""
    if engine.lubrication == "oil_tank":
        return "oil_tank"
    return "premix" if setup.premix_ratio is not None else "unsaid"


def tyres_of(bike: Bike, setup: LoadedSetup) -> tuple[str, str]:
    """Markings of the tyres on the fitted wheels, front and rear."""
    own = bike.frame.front_tyre, bike.tyre.marking
    others = bike.frame.other_front_wheels, bike.frame.other_rear_wheels
    slots = setup.front_wheel or 1, setup.rear_wheel or 1
    front, rear = (
        mine if slot == 1 else more[slot - 2].marking for mine, more, slot in zip(own, others, slots, strict=True)
    )
    return front, rear


def level_of(setup: FilledSetup) -> float | None:
    """How full the tank stands [1]; None when what it holds, or what is in it, is not said."""
    held, filled = setup.tank_capacity_m3, setup.fuel_fill_m3
    return None if not held or filled is None else filled / held


def tank_of(frame: Frame, setup: FilledSetup) -> OtherTank | None:
    """The fitted tank among the others that fit, told by what it holds; None = its own."""
    held = setup.tank_capacity_m3
    return None if held is None else next((t for t in frame.other_tanks if abs(t.capacity_m3 - held) < 1e-6), None)


def unusable_of(frame: Frame, setup: FilledSetup) -> float:
    """Fuel [m3] of the fitted tank that never reaches the engine."""
    tank = tank_of(frame, setup)
    return frame.unusable_fuel_m3 if tank is None else tank.unusable_m3


def pack_of(engine: Engine, energy_j: float | None) -> Pack | None:
    """A pack among those that fit, told by its energy; None when it is not among them."""
    if energy_j is None or not isinstance(engine, Electric):
        return None
    return next((p for p in engine.packs if abs(p.energy_j - energy_j) < 1e3), None)


def pack_kg_of(engine: Electric, energy_j: float) -> float:
    """Mass of a pack [kg]: as said of it, else by its energy."""
    pack = pack_of(engine, energy_j)
    if pack is not None:
        return pack.mass_kg
    own = engine.weighed_pack_j is None or abs(energy_j - engine.weighed_pack_j) < 1e3
    return engine.pack_kg if own and engine.pack_kg is not None else energy_j / PACK_J_PER_KG


def seat_up_of(bike: Bike, setup: LoadedSetup) -> float:
    """How much higher the seat sits [m]: foam, the fitted pack, and what is bolted on."""
    pack = pack_of(bike.engine, setup.pack_energy_j)
    return (setup.seat_up_m or 0.0) + (pack.seat_up_m if pack else 0.0) + shift_of(bike, setup, "seat_up_m")


def items_on(bike: Bike, setup: CarriedSetup) -> tuple[Item, ...]:
    """What is bolted on, in the order of the bike's list: what was put on, and what the bike was weighed with unless it
    was taken off.
    """
    if not bike.kit.items:
        return ()
    return tuple(i for i in bike.kit.items if (i.id not in setup.kit_off if i.weighed_with else i.id in setup.kit_on))


def put_on(bike: Bike, setup: CarriedSetup) -> tuple[Item, ...]:
    """What was put on since the bike was weighed, done or still to do."""
    return tuple(i for i in items_on(bike, setup) if not i.weighed_with)


def shift_of(bike: Bike, setup: CarriedSetup, field: str) -> float:
    """What the items that are on add to a fact or a setting [its unit], against the bike as its facts have it: of what
    it was weighed and measured with, what is off takes it away.
    """
    return (
        sum(sign * getattr(item.shifts, field) for item, sign in _against_weighed(bike.kit.items, setup))
        if bike.kit.items
        else 0.0
    )


def _against_weighed(items: tuple[Item, ...], setup: CarriedSetup) -> list[tuple[Item, int]]:
    """Items that are on beyond what the bike was weighed with (+1), and those of them that are off (-1)."""
    return [(i, -1) for i in items if i.weighed_with and i.id in setup.kit_off] + [
        (i, 1) for i in items if not i.weighed_with and i.id in setup.kit_on
    ]


@lru_cache(maxsize=256)
def _aboard(frame: Frame, kit: Kit, left: int, setup: CarriedSetup) -> Aboard:
    """Each thing with its mass against the bike as weighed; left: at home, of the payload's last."""
    carried = [Rode(**p.model_dump()) for p in frame.payload[: max(len(frame.payload) - left, 0)]]
    return tuple(carried) + tuple(
        Rode(name=i.name, mass_kg=sign * i.net_kg, ahead_m=i.ahead_m, height_m=i.height_m, on=i.on)
        for i, sign in _against_weighed(kit.items, setup)
        if i.net_kg
    )


def aboard_of(bike: Bike, setup: LoadedSetup) -> Aboard:
    """What rides along beyond the bike as it was weighed: its payload but what the setup leaves at home, and what is
    bolted on.
    """
    if not bike.frame.payload and not bike.kit.items:
        return ()
    carried = CarriedSetup.model_construct(kit_on=setup.kit_on, kit_off=setup.kit_off)
    return _aboard(bike.frame, bike.kit, setup.payload_left or 0, carried)


def tyre_on(bike: Bike, setup: ChassisSetup, end: str) -> OnWheel:
    """What stands on the wheel that is in: "front" or "rear"."""
    slot = getattr(setup, f"{end}_wheel") or 1
    return (  # type: ignore[no-any-return]
        getattr(bike.kit, f"{end}_tyre") if slot == 1 else getattr(bike.frame, f"other_{end}_wheels")[slot - 2]
    )


def inside_of(bike: Bike, setup: ChassisSetup, end: str) -> str:
    """What fills the tyre of the wheel that is in: as said of it, else as the bike's own."""
    own = getattr(bike.kit, f"{end}_tyre").inside or (bike.tyre.inside if end == "rear" else "tube")
    return tyre_on(bike, setup, end).inside or own  # type: ignore[no-any-return]


def turning_kg(bike: Bike, setup: LoadedSetup, end: str) -> list[tuple[float, float]]:
    """What turns with a wheel beyond the bike's own: mass [kg], and its radius of gyration against the wheel's [1]."""
    slot, wheel = getattr(setup, f"{end}_wheel") or 1, f"{end}_wheel"
    heavier = 0.0 if slot == 1 else getattr(bike.frame, f"other_{end}_wheels")[slot - 2].heavier_kg
    items = [
        (sign * i.net_kg, i.gyration_share)
        for i, sign in _against_weighed(bike.kit.items, setup)
        if i.on == wheel and i.gyration_share
    ]
    return ([(heavier, OTHER_WHEEL_GYRATION)] if heavier else []) + items
