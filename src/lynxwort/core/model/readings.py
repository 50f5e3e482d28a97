"""Readings: what was measured, with all it was measured under."""

from typing import Annotated, Literal

from pydantic import Field

from lynxwort.core.model.base import Part, choice, quantity
from lynxwort.core.model.rider import Rider
from lynxwort.core.model.setup import Setup


class Air(Part):
    """Air at one place and time."""

    pressure_pa: float = quantity(45_000, 110_000, "Pa", "pressure")
    """station pressure"""
    temperature_k: float = quantity(243.15, 323.15, "K", "temperature")
    relative_humidity: float = quantity(0, 1, "1", "share", 0.5, source="assumption")


class Under(Part):
    """The conditions of a reading."""

    setup: Setup
    rider: Rider | None = None
    fuel_aboard_m3: float = quantity(0, 0.04, "m^3", "volume", 0.0, source="assumption: empty")
    air: Air | None = None
    course_key: str | None = None


class _Reading(Part):
    id: str = Field(min_length=1, max_length=40)
    struck_out: bool = False
    under: Under


class SagReading(_Reading):
    """Free or race sag of one end: front along the leg, rear vertical at the axle."""

    kind: Literal["sag"] = "sag"
    end: Literal["front", "rear"] = choice()
    state: Literal["free", "race"] = choice()
    """free: bike alone; race: rider in position, in gear"""
    value_m: float = quantity(0.0, 0.25, "m", "travel")
    """how far it sank from topped out"""


class FillUpReading(_Reading):
    """Fuel put back after a known number of laps of a known course."""

    kind: Literal["fill_up"] = "fill_up"
    fuel_m3: float = quantity(0.0002, 0.06, "m^3", "fuel")
    """fuel put back to the same level"""
    laps: float = quantity(0.1, 200, "1", "number")
    """laps ridden between the two levels"""


class ChargeReading(_Reading):
    """Energy put back into the pack after a known number of laps of a known course."""

    kind: Literal["charge"] = "charge"
    energy_j: float = quantity(1e5, 2e8, "J", "energy")
    """energy put back to the same level, at the pack"""
    laps: float = quantity(0.1, 200, "1", "number")
    """laps ridden between the two levels"""


class KnownGoodReading(_Reading):
    """A mixture known to run right, in the air it ran right in. `under.air` and `under.setup` hold both."""

    kind: Literal["known_good"] = "known_good"


Reading = Annotated[SagReading | FillUpReading | ChargeReading | KnownGoodReading, Field(discriminator="kind")]
