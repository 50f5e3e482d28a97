"""Masses on each wheel. All loads are masses in kg at the wheel; multiply by gravity for newtons."""

from dataclasses import dataclass

from lynxwort.core.model.bike import Electric, Engine, Frame
from lynxwort.core.model.defaults import FUEL_DENSITY_KG_PER_M3, PACK_J_PER_KG, PACK_REAR_SHARE, REAR_SHARE_OF_RIDER


@dataclass(frozen=True, slots=True, kw_only=True)
class AxleLoads:
    """front_kg, rear_kg: mass carried by each wheel on level ground."""

    front_kg: float
    rear_kg: float

    @property
    def total_kg(self) -> float:
        return self.front_kg + self.rear_kg


def axle_loads(
    frame: Frame, *, fuel_m3: float, rider_kg: float = 0.0, posture: str = "standing", share_offset: float = 0.0, pack_change_kg: float = 0.0
) -> AxleLoads:
    """Mass on each wheel [kg] with this fuel [m3] and rider [kg]; share_offset [1] is added to the rider's rear share.

    pack_change_kg: how much heavier the fitted pack is than the one the bike was weighed with.
    """
    fuel_kg = fuel_m3 * FUEL_DENSITY_KG_PER_M3
    rider_rear = rider_kg * (REAR_SHARE_OF_RIDER[posture] + share_offset)
    front = frame.mass_dry_kg * frame.front_share + fuel_kg * frame.fuel_front_share + rider_kg - rider_rear + pack_change_kg * (1.0 - PACK_REAR_SHARE)
    rear = frame.mass_dry_kg * (1.0 - frame.front_share) + fuel_kg * (1.0 - frame.fuel_front_share) + rider_rear + pack_change_kg * PACK_REAR_SHARE
    return AxleLoads(front_kg=front, rear_kg=rear)


def pack_change_kg(engine: Engine, pack_energy_j: float | None) -> float:
    """How much heavier the fitted pack is [kg] than the one the bike was weighed with; 0 for engines that burn fuel."""
    # asked thousands of times an evaluation: the cheap question first
    if pack_energy_j is None or not isinstance(engine, Electric) or engine.weighed_pack_j is None:
        return 0.0
    return (pack_energy_j - engine.weighed_pack_j) / PACK_J_PER_KG


def cg_to_front_axle(loads: AxleLoads, wheelbase_m: float) -> float:
    """Horizontal distance [m] from the front axle to the centre of gravity."""
    return wheelbase_m * loads.rear_kg / loads.total_kg
