"""Motors and their packs."""

import itertools
from math import pi
from typing import Annotated, Literal

from pydantic import Field, field_validator

from lynxwort.core.model.base import Part, quantity


class Pack(Part):
    """Another battery pack that fits, told by its energy."""

    name: str = Field(min_length=1, max_length=40, json_schema_extra={"unit": "", "kind": "text"})
    energy_j: float = quantity(1e6, 1.2e8, "J", "energy")
    """nominal energy: volts x ampere hours"""
    mass_kg: float = quantity(3.0, 150.0, "kg", "mass")
    rear_share: float = quantity(0.0, 1.0, "1", "share", 0.52, source="assumption")
    """share of its mass on the rear wheel"""
    seat_up_m: float = quantity(-0.05, 0.15, "m", "travel", 0.0, source="assumption: the seat stays")
    """how much higher the seat sits over it"""
    cost: float | None = quantity(0.0, 1e6, "1", "number", None, source="not said")
    """what it costs, in one's own money"""
    fitting_s: float | None = quantity(0.0, 360_000.0, "s", "minutes", None, source="not said")
    """time to fit it"""


class Electric(Part):
    """Electric motor with its controller; the pack stands in the setup."""

    kind: Literal["electric"] = "electric"
    peak_power_w: float = quantity(1.5e3, 1.2e5, "W", "power")
    """highest power at the motor shaft"""
    peak_torque_nm: float = quantity(5.0, 600.0, "N*m", "torque")
    """highest torque at the motor shaft, held up to the speed of highest power"""
    limiter_rpm: float = quantity(1000, 25000, "rpm", "rpm")
    """highest motor speed"""
    nominal_voltage_v: float = quantity(24.0, 800.0, "V", "voltage", 96.0, source="assumption")
    """nominal voltage of the pack"""
    mode_power_shares: tuple[Annotated[float, Field(ge=0.1, le=1.0)], ...] = Field(
        (1.0,),
        min_length=1,
        max_length=8,
        json_schema_extra={"unit": "1", "kind": "shares", "source": "assumption: one mode"},
    )
    """share of the highest power that each power mode gives, the strongest first"""
    usable_share: float = quantity(0.5, 1.0, "1", "share", 0.90, source="assumption")
    """share of the pack's nominal energy that may be drawn"""
    regeneration_share: float = quantity(0.0, 0.9, "1", "share", 0.0, source="assumption: none off road")
    """share of the closed-throttle braking that returns to the pack"""
    cold_share_per_k: float = quantity(
        0.0, 0.03, "1", "share", 0.006, source="from memory: about a fifth less at -10 °C"
    )
    """share of the usable energy lost per kelvin under 20 °C"""
    internal_ohm: float | None = quantity(
        0.0, 1.0, "ohm", "factor", None, source="from memory: by the pack's voltage squared over its energy"
    )
    """inner resistance of the pack: what it gets warm with under load"""
    packs: Annotated[tuple[Pack, ...], Field(max_length=8)] = ()
    """other packs that fit"""
    weighed_pack_j: float | None = quantity(
        1e6, 1.2e8, "J", "energy", None, source="assumption: weighed with the pack that is fitted"
    )
    """energy of the pack that was in the bike when it was weighed"""

    pack_kg: float | None = quantity(
        3.0, 150.0, "kg", "mass", None, source="assumption: 150 Wh for each kilogram, case and all"
    )
    """mass of the pack that was in the bike when it was weighed"""
    packs_alike: int | None = quantity(1, 8, "1", "count", None, source="assumption: a full one for every swap")
    """how many packs like the fitted one there are, the one aboard counted"""
    charger_w: float | None = quantity(50.0, 25_000.0, "W", "power", None, source="not said: none at the race")
    """power that the charger puts into a pack"""
    generator_w: float | None = quantity(100.0, 50_000.0, "W", "power", None, source="assumption: from the mains")
    """power of the generator that the charger runs from"""
    charge_taper_share: float = quantity(0.3, 0.95, "1", "share", 0.80, source="common practice, no source")
    """share of the charge from which the charger gives less and less"""
    pack_rest_s: float = quantity(
        0.0, 14_400.0, "s", "minutes", 900.0, source="common practice, no source; the maker's sheet says better"
    )
    """how long a pack that was ridden cools before it goes on the charger"""
    continuous_power_w: float | None = quantity(
        500.0, 1.0e5, "W", "power", None, source="assumption: half of its highest power"
    )
    """power that the motor holds for hours, by its plate or sheet"""
    motor_kg: float | None = quantity(2.0, 80.0, "kg", "mass", None, source="assumption: 0.4 kg for each kilowatt")
    """mass of the motor"""

    @property
    def peak_power_rpm(self) -> float:
        """Motor speed [rpm] from which power, not torque, is the limit."""
        return min(self.peak_power_w / self.peak_torque_nm * 60.0 / (2.0 * pi), self.limiter_rpm)

    @field_validator("mode_power_shares")
    @classmethod
    def _weaker(cls, value: tuple[float, ...]) -> tuple[float, ...]:
        if any(b > a for a, b in itertools.pairwise(value)):
            raise ValueError("modes_not_falling")
        return value
