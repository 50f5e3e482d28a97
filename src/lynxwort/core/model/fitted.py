"""What a setup's slots stand for on an engine."""

from lynxwort.core.model.bike import (
    Bike,
    Combustion,
    Electric,
    Engine,
    Fitting,
    Frame,
    HeadInsert,
    IgnitionMap,
    OtherTank,
    Pack,
    TwoStroke,
)
from lynxwort.core.model.bike.frame import Aboard
from lynxwort.core.model.setup import FuellingSetup, LoadedSetup
from lynxwort.core.model.setup.filled import FilledSetup


def fitting_on(engine: Combustion, setup: FuellingSetup, place: str) -> Fitting | None:
    """What is on at one place; None = its own."""
    slot = getattr(setup, place) or 1
    return None if slot == 1 else engine.fittings_of(place)[slot - 2]


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


def seat_up_of(engine: Engine, setup: LoadedSetup) -> float:
    """How much higher the seat sits [m]: foam, and the fitted pack."""
    pack = pack_of(engine, setup.pack_energy_j)
    return (setup.seat_up_m or 0.0) + (pack.seat_up_m if pack else 0.0)


def payload_of(frame: Frame, setup: LoadedSetup) -> Aboard:
    """What rides along: the bike's payload but what the setup leaves at home."""
    return frame.payload[: max(len(frame.payload) - (setup.payload_left or 0), 0)]
