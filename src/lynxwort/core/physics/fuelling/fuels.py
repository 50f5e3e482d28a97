"""Fuels: how much air they want, how they flow through a jet, how they resist knocking, and oil in them.

Stoichiometric air/fuel ratios from the balance of elements in dry air [heywood2018] ch. 3; a mixture is weighed by
mass. Octane numbers and densities from memory; a pump's own figure rules.
"""

from dataclasses import dataclass
from math import sqrt

from lynxwort.core.errors import require_range

#: molar masses [g/mol] and mole fraction of oxygen in dry air, as in the shared check values
CARBON, HYDROGEN, OXYGEN = 12.011, 1.008, 15.999
AIR_MOLAR_MASS, AIR_OXYGEN = 28.965241896, 0.20946
PETROL_DENSITY, ETHANOL_DENSITY, METHANOL_DENSITY = 745.0, 789.0, 792.0  #: kg/m3 at 15 °C, from memory
PETROL_HEAT, ETHANOL_HEAT, METHANOL_HEAT = 43.4e6, 26.8e6, 19.9e6  #: lower heating value [J/kg], from memory
US_FLUID_OUNCE_M3 = 2.95735295625e-5  #: NIST SP 811


def stoichiometric(carbon: float, hydrogen: float, oxygen: float = 0.0) -> float:
    """Mass of dry air per mass of a fuel CxHyOz for complete burning [1]."""
    oxygen_moles = carbon + hydrogen / 4.0 - oxygen / 2.0
    air_g = oxygen_moles / AIR_OXYGEN * AIR_MOLAR_MASS
    return air_g / (carbon * CARBON + hydrogen * HYDROGEN + oxygen * OXYGEN)


PETROL_AFR = stoichiometric(1.0, 1.85)
ETHANOL_AFR = stoichiometric(2.0, 6.0, 1.0)
METHANOL_AFR = stoichiometric(1.0, 4.0, 1.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class Fuel:
    """afr: stoichiometric mass of air / fuel [1]; density [kg/m3]; heat: lower heating value [J/kg]; octane: research
    octane number.
    """

    name: str
    afr: float
    density_kg_per_m3: float
    heat_j_per_kg: float
    octane: float


def ethanol_blend(name: str, share: float, octane: float) -> Fuel:
    """Petrol CH1.85 with a share of ethanol by volume [1]; ratio and heat weighed by mass."""
    require_range("share", share, 0.0, 1.0, "1")
    density = (1.0 - share) * PETROL_DENSITY + share * ETHANOL_DENSITY
    mass = share * ETHANOL_DENSITY / density
    return Fuel(
        name=name,
        afr=(1.0 - mass) * PETROL_AFR + mass * ETHANOL_AFR,
        density_kg_per_m3=density,
        heat_j_per_kg=(1.0 - mass) * PETROL_HEAT + mass * ETHANOL_HEAT,
        octane=octane,
    )


#: in the order in which a setup counts them, from 1
FUELS: tuple[Fuel, ...] = (
    ethanol_blend("petrol", 0.0, 95.0),
    ethanol_blend("e5", 0.05, 95.0),
    ethanol_blend("e10", 0.10, 95.0),
    ethanol_blend("e20", 0.20, 98.0),
    ethanol_blend("e85", 0.85, 106.0),
    Fuel(
        name="methanol", afr=METHANOL_AFR, density_kg_per_m3=METHANOL_DENSITY, heat_j_per_kg=METHANOL_HEAT, octane=108.0
    ),
    Fuel(name="race", afr=14.6, density_kg_per_m3=730.0, heat_j_per_kg=43.5e6, octane=110.0),
)


def fuel_of(slot: int | None) -> Fuel:
    """The fuel of a setup's slot; petrol when it is not said."""
    return FUELS[(slot or 1) - 1]


def jet_richness(fuel: Fuel, proven: Fuel) -> float:
    """Richness [1] that another fuel brings through the same jets: equal pressure passes mass as sqrt(density), and it
    wants other air.
    """
    return fuel.afr / proven.afr * sqrt(fuel.density_kg_per_m3 / proven.density_kg_per_m3) - 1.0


def volume_factor(fuel: Fuel) -> float:
    """Volume of a fuel / volume of petrol for the same air at the same lambda [1]."""
    petrol = FUELS[0]
    return petrol.afr / fuel.afr * petrol.density_kg_per_m3 / fuel.density_kg_per_m3


def oil_in_mix(mix_m3: float, ratio: float) -> float:
    """Oil that is in a volume of ready mixture [m3] at R : 1."""
    return mix_m3 / (ratio + 1.0)
