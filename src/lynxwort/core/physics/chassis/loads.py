"""Masses on each wheel and where the weight sits. All loads are masses in kg at the wheel; multiply by gravity for
newtons.

References: statics; tilted weighing after [cossalter2006] V. Cossalter, Motorcycle Dynamics, 2nd ed., section 3.2.
"""

from collections.abc import Iterable
from dataclasses import dataclass
from math import sqrt

from lynxwort.core.errors import require_range
from lynxwort.core.model.bike.electric import Electric
from lynxwort.core.model.bike.engine import Engine
from lynxwort.core.model.bike.frame import Frame
from lynxwort.core.model.bike.kit import Aboard
from lynxwort.core.model.defaults import FUEL_DENSITY_KG_PER_M3, GRAVITY_M_PER_S2, PACK_REAR_SHARE, REAR_SHARE_OF_RIDER
from lynxwort.core.model.fitted import pack_kg_of, pack_of, tank_of
from lynxwort.core.model.setup.chassis import ChassisSetup, LoadedSetup

#: height of a rider's centre of gravity above the ground by posture [m] (assumption); asked only where the
#: bike's own
#: height was weighed
RIDER_CG_M = {"seated": 1.15, "standing": 1.35, "attack": 1.25}


@dataclass(frozen=True, slots=True, kw_only=True)
class AxleLoads:
    """front_kg, rear_kg: mass carried by each wheel on level ground."""

    front_kg: float
    rear_kg: float

    @property
    def total_kg(self) -> float:
        return self.front_kg + self.rear_kg


@dataclass(frozen=True, slots=True, kw_only=True)
class Extras:
    """What the setup adds to the bike as weighed [kg]: items and pack on each wheel; wheels heavier than its own are
    not sprung.

    height_moment_kg_m: mass x height of the items [kg m], height_kg: their mass; fuel_front_share: of another tank,
    None = its own.
    """

    front_kg: float = 0.0
    rear_kg: float = 0.0
    front_wheel_kg: float = 0.0
    rear_wheel_kg: float = 0.0
    height_moment_kg_m: float = 0.0
    height_kg: float = 0.0
    fuel_front_share: float | None = None


NOTHING = Extras()


def pack_change_kg(engine: Engine, pack_energy_j: float | None) -> float:
    """How much heavier the fitted pack is [kg] than the one the bike was weighed with; 0 for engines that burn fuel."""
    # asked thousands of times an evaluation: the cheap question first
    if pack_energy_j is None or not isinstance(engine, Electric) or engine.weighed_pack_j is None:
        return 0.0
    return pack_kg_of(engine, pack_energy_j) - pack_kg_of(engine, engine.weighed_pack_j)


def wheel_change_kg(frame: Frame, setup: ChassisSetup, end: str) -> float:
    """How much heavier the wheel that is in is [kg] than the bike's own."""
    slot = getattr(setup, f"{end}_wheel") or 1
    return 0.0 if slot <= 1 else getattr(frame, f"other_{end}_wheels")[slot - 2].heavier_kg  # type: ignore[no-any-return]


def on_wheel_kg(aboard: Aboard, end: str) -> float:
    """Mass [kg] of what rides along on a wheel and moves with it: no payload, and not sprung."""
    return sum(p.mass_kg for p in aboard if p.on == f"{end}_wheel") if aboard else 0.0


def extras_of(frame: Frame, engine: Engine, setup: LoadedSetup, aboard: Aboard) -> Extras:
    """What the setup adds: a heavier pack, heavier wheels. aboard: what rides along, or rode along when something was
    read.
    """
    pack = pack_change_kg(engine, setup.pack_energy_j)
    wheels = [wheel_change_kg(frame, setup, end) + on_wheel_kg(aboard, end) for end in ("front", "rear")]
    tank = tank_of(frame, setup) if frame.other_tanks else None
    if not aboard and tank is None and pack == wheels[0] == wheels[1] == 0.0:
        return NOTHING
    carried = [p for p in aboard if not p.on.endswith("_wheel")]
    on_front = sum(p.mass_kg * p.ahead_m / frame.wheelbase_m for p in carried)
    fitted = pack_of(engine, setup.pack_energy_j) if pack else None
    behind = PACK_REAR_SHARE if fitted is None else fitted.rear_share
    heavier, share = (0.0, None) if tank is None else (tank.heavier_kg, tank.front_share)
    return Extras(
        front_kg=on_front + pack * (1.0 - behind) + heavier * (share or 0.0),
        rear_kg=sum(p.mass_kg for p in carried) - on_front + pack * behind + heavier * (1.0 - (share or 0.0)),
        fuel_front_share=share,
        front_wheel_kg=wheels[0],
        rear_wheel_kg=wheels[1],
        height_moment_kg_m=sum(p.mass_kg * p.height_m for p in aboard),
        height_kg=sum(p.mass_kg for p in aboard),
    )


def axle_loads(
    frame: Frame,
    *,
    fuel_m3: float,
    rider_kg: float = 0.0,
    posture: str = "standing",
    share_offset: float = 0.0,
    extras: Extras = NOTHING,
) -> AxleLoads:
    """Mass on each wheel [kg] with this fuel [m3] and rider [kg]; share_offset [1] is added to the rider's rear
    share.
    """
    fuel_kg, ahead = (
        fuel_m3 * FUEL_DENSITY_KG_PER_M3,
        frame.fuel_front_share if extras.fuel_front_share is None else extras.fuel_front_share,
    )
    rider_rear = rider_kg * (REAR_SHARE_OF_RIDER[posture] + share_offset)
    front = frame.mass_dry_kg * frame.front_share + fuel_kg * ahead + rider_kg - rider_rear
    rear = frame.mass_dry_kg * (1.0 - frame.front_share) + fuel_kg * (1.0 - ahead) + rider_rear
    return AxleLoads(
        front_kg=front + extras.front_kg + extras.front_wheel_kg, rear_kg=rear + extras.rear_kg + extras.rear_wheel_kg
    )


def with_axle_back(loads: AxleLoads, *, wheelbase_m: float, unsprung_rear_kg: float, back_m: float) -> AxleLoads:
    """Loads with the rear axle moved back in its adjusters by back_m [m]: everything but what moves with the axle comes
    forward against it.

    Moments about the rear axle: front' (L + d) = front L + (whole - unsprung rear) d; wheelbase_m: with the axle in the
    middle.
    """
    front = (loads.front_kg * wheelbase_m + (loads.total_kg - unsprung_rear_kg) * back_m) / (wheelbase_m + back_m)
    return AxleLoads(front_kg=front, rear_kg=loads.total_kg - front)


def with_axle_forward(loads: AxleLoads, *, wheelbase_m: float, unsprung_rear_kg: float, back_m: float) -> AxleLoads:
    """Loads [kg] as they would be with the axle in the middle: the inverse of with_axle_back."""
    front = (loads.front_kg * (wheelbase_m + back_m) - (loads.total_kg - unsprung_rear_kg) * back_m) / wheelbase_m
    return AxleLoads(front_kg=front, rear_kg=loads.total_kg - front)


def bare(frame: Frame, *, front_kg: float, rear_kg: float, fuel_m3: float, extras: Extras) -> AxleLoads:
    """What is left of a weighed bike [kg] once its fuel and extras are taken off: the inverse of axle_loads without a
    rider.
    """
    fuel_kg, ahead = (
        fuel_m3 * FUEL_DENSITY_KG_PER_M3,
        frame.fuel_front_share if extras.fuel_front_share is None else extras.fuel_front_share,
    )
    return AxleLoads(
        front_kg=front_kg - fuel_kg * ahead - extras.front_kg - extras.front_wheel_kg,
        rear_kg=rear_kg - fuel_kg * (1.0 - ahead) - extras.rear_kg - extras.rear_wheel_kg,
    )


def cg_to_front_axle(loads: AxleLoads, wheelbase_m: float) -> float:
    """Horizontal distance [m] from the front axle to the centre of gravity."""
    return wheelbase_m * loads.rear_kg / loads.total_kg


def tilted_cg_height(
    level: AxleLoads,
    *,
    raised: str,
    raised_m: float,
    load_kg: float,
    wheelbase_m: float,
    front_radius_m: float,
    rear_radius_m: float,
) -> float:
    """Height of the centre of gravity [m] from the scale under the wheel that stays down while the other axle stands
    raised_m [m] higher.

    Moments about the raised axle: H = (load - level load) L / (m tan), above the line of the axles. Suspension
    strapped, wheels free to roll. Raises OutOfModelRange when the axle cannot stand so high.
    """
    require_range("raised_m", raised_m, 0.02, 0.8 * wheelbase_m, "m")
    tangent = raised_m / sqrt(wheelbase_m**2 - raised_m**2)
    before = level.front_kg if raised == "rear" else level.rear_kg
    above = (load_kg - before) * wheelbase_m / (level.total_kg * tangent)
    line = rear_radius_m + (front_radius_m - rear_radius_m) * level.front_kg / level.total_kg
    return above + line


def joint_height(parts: Iterable[tuple[float, float]]) -> float:
    """Height [m] of the centre of gravity of parts, each (mass [kg], height [m])."""
    known = list(parts)
    return sum(m * h for m, h in known) / sum(m for m, _ in known)


def front_share_under(
    loads: AxleLoads, *, slope_share: float, forward_m_per_s2: float, cg_height_m: float, wheelbase_m: float
) -> float:
    """Share of the weight that the front wheel carries [1] on a slope_share [rise / run] while speeding up by
    forward_m_per_s2 (negative: braking).

    Moments about the rear contact. Below 0 the front wheel lifts, above 1 the rear one.
    """
    cosine = 1.0 / sqrt(1.0 + slope_share**2)
    behind = wheelbase_m * loads.front_kg / loads.total_kg
    return (behind * cosine - cg_height_m * (slope_share * cosine + forward_m_per_s2 / GRAVITY_M_PER_S2)) / (
        wheelbase_m * cosine
    )
