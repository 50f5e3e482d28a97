"""The bike: everything a hand does not change on race day. What can be swapped or turned is in Setup."""

from typing import Annotated

from pydantic import Field

from lynxwort.core.model.base import Part, choice
from lynxwort.core.model.bike.carburettor import Carburettor, MeteringRodCarburettor, Needle, NeedlePoint, OtherNeedle
from lynxwort.core.model.bike.electric import Electric, Pack
from lynxwort.core.model.bike.engine import (
    ENGINE_KINDS,
    ENGINE_OF,
    Combustion,
    Engine,
    FourStrokeInjected,
    FourStrokeJetted,
    FourStrokeRod,
    Injected,
    Jetted,
    Rod,
    TorquePoint,
    TwoStroke,
    TwoStrokeInjected,
    TwoStrokeJetted,
    TwoStrokeRod,
    metering_of,
)
from lynxwort.core.model.bike.fittings import FITTING_PLACES, Fitting, FittingPlace, HeadInsert, IgnitionMap
from lynxwort.core.model.bike.frame import Frame, LinkPoint, OtherTank, Payload
from lynxwort.core.model.bike.injection import AXIS_RPM, AXIS_THROTTLE, MAP_RPM, MAP_THROTTLE, Injection, Sensors
from lynxwort.core.model.bike.kit import ITEM_GROUPS, ITEM_ON, Brake, Item, Kit, Rode, Shifts
from lynxwort.core.model.bike.patterns import PatternKey
from lynxwort.core.model.bike.transmission import Gearbox, Transmission
from lynxwort.core.model.bike.tyre import (
    SPEED_SYMBOLS,
    TYRE_INSIDES,
    TYRE_KINDS,
    TYRE_MARKING,
    OnWheel,
    OtherWheel,
    SpeedSymbol,
    Tyre,
    TyreInside,
)
from lynxwort.core.model.damper import STOCK_FACTS, DamperFacts

__all__ = [
    "AXIS_RPM",
    "AXIS_THROTTLE",
    "ENGINE_KINDS",
    "ENGINE_OF",
    "FITTING_PLACES",
    "ITEM_GROUPS",
    "ITEM_ON",
    "MAP_RPM",
    "MAP_THROTTLE",
    "SPEED_SYMBOLS",
    "TYRE_INSIDES",
    "TYRE_KINDS",
    "TYRE_MARKING",
    "Bike",
    "Brake",
    "Carburettor",
    "Combustion",
    "Electric",
    "Engine",
    "Fitting",
    "FittingPlace",
    "FourStrokeInjected",
    "FourStrokeJetted",
    "FourStrokeRod",
    "Frame",
    "Gearbox",
    "HeadInsert",
    "IgnitionMap",
    "Injected",
    "Injection",
    "Item",
    "Jetted",
    "Kit",
    "LinkPoint",
    "MeteringRodCarburettor",
    "Needle",
    "NeedlePoint",
    "OnWheel",
    "OtherNeedle",
    "OtherTank",
    "OtherWheel",
    "Pack",
    "Payload",
    "Rod",
    "Rode",
    "Sensors",
    "Shifts",
    "SpeedSymbol",
    "TorquePoint",
    "Transmission",
    "TwoStroke",
    "TwoStrokeInjected",
    "TwoStrokeJetted",
    "TwoStrokeRod",
    "Tyre",
    "TyreInside",
    "metering_of",
]


class Bike(Part):
    """One bike."""

    name: str = Field(min_length=1, max_length=60, json_schema_extra={"unit": "", "kind": "text"})
    """what you call it"""
    engine: Engine
    transmission: Transmission
    tyre: Tyre = Field(default_factory=Tyre)
    frame: Frame
    kit: Kit = Kit()
    """what is bolted on, and on what it stands"""
    pattern: PatternKey | None = choice(None, source="none: every fact was said, or is as on any bike")
    """which kind of bike it is like, where its own facts are not known"""
    assumed: Annotated[tuple[str, ...], Field(max_length=120)] = ()
    """paths of the facts that are as such a bike usually has them, and nobody said of this one"""
    fork_damper: DamperFacts | None = None
    """insides of each fork leg; left out = a stock one, which stands for both legs"""
    shock_damper: DamperFacts = STOCK_FACTS["shock"]

    def says(self, path: str) -> bool:
        """Whether the fact at a dotted path was said of this bike: neither left out nor as such a bike usually has
        it.
        """
        item: object = self
        for step in path.split("."):
            if not isinstance(item, Part) or step not in item.model_fields_set:
                return False
            item = getattr(item, step)
        return path not in self.assumed

    def damper(self, end: str) -> DamperFacts:
        """What stays in the damper of "fork" or "shock"; stock when nobody described it."""
        return (self.fork_damper or STOCK_FACTS["fork"]) if end == "fork" else self.shock_damper

    @property
    def is_two_stroke(self) -> bool:
        return self.engine.kind.endswith("two_stroke")

    @property
    def metering(self) -> str:
        """How the engine is fed: "jetted", "rod", "injected" or "electric"."""
        return metering_of(self.engine.kind)
