"""What every reading is, and what it was taken under."""

from typing import Annotated, ClassVar

from pydantic import Field

from lynxwort.core.model.base import Part, quantity
from lynxwort.core.model.bike.kit import Rode
from lynxwort.core.model.rider import Rider
from lynxwort.core.model.setup import Setup
from lynxwort.core.model.tunable import BURNS


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
    aboard: Annotated[tuple[Rode, ...], Field(max_length=60)] | None = None
    """what rode along then, each with its mass at its place; left out: what the bike's facts and the setup say"""


FUEL, AIR = "fuel_aboard_m3", "air"


class BaseReading(Part):
    """asked: fields that a person types, none where a tool of its own takes it; also: what of its conditions is asked
    too (FUEL, AIR); engines: how an engine is fed that it makes sense on; figure: the figure whose range it narrows.
    """

    asked: ClassVar[tuple[str, ...]] = ()
    also: ClassVar[tuple[str, ...]] = ()
    engines: ClassVar[tuple[str, ...]] = (*BURNS, "electric")
    figure: ClassVar[str] = ""

    @property
    def narrows(self) -> str:
        """The figure whose range it narrows."""
        return self.figure

    id: str = Field(min_length=1, max_length=40)
    struck_out: bool = False
    under: Under
