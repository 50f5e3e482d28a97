"""Engines: what they are fed by, what torque they give."""

import itertools
from typing import Annotated, Literal

from pydantic import Field, field_validator

from lynxwort.core.model.base import Part, choice, quantity
from lynxwort.core.model.bike.carburettor import Carburettor, MeteringRodCarburettor
from lynxwort.core.model.bike.electric import Electric
from lynxwort.core.model.bike.fittings import Fitting, HeadInsert, IgnitionMap
from lynxwort.core.model.bike.injection import Injection


class TorquePoint(Part):
    """One line of a typed torque table: full throttle, at the crank, corrected to a standard day."""

    rpm: float = quantity(500, 17000, "rpm", "rpm")
    torque_nm: float = quantity(0.0, 400.0, "N*m", "torque")


class Combustion(Part):
    """What engines that burn fuel have in common."""

    displacement_m3: float = quantity(4.5e-5, 8e-4, "m^3", "engine_size")
    """swept volume of all cylinders"""
    peak_power_w: float = quantity(1.5e3, 8e4, "W", "power")
    """highest power at the crank on a standard day"""
    peak_power_rpm: float = quantity(3000, 15000, "rpm", "rpm")
    """engine speed of the highest power"""
    limiter_rpm: float | None = quantity(
        3000, 17000, "rpm", "rpm", None, source="assumption: 1.10 x the speed of peak power"
    )
    """revs the engine will not pass"""
    idle_rpm: float = quantity(600, 3000, "rpm", "rpm", 1600.0, source="assumption")
    """idle speed"""
    shake_rpm: float | None = quantity(1500, 15000, "rpm", "rpm", None, source="to be felt")
    """revs from which it shakes the hands"""
    engagement_rpm: float | None = quantity(
        1000, 8000, "rpm", "rpm", None, source="assumption: 0.38 x the speed of peak power"
    )
    """lowest revs from which the engine pulls with the clutch home; of an automatic clutch the revs at which it grips
    """
    clutch: Literal["manual", "automatic"] = choice("manual", source="assumption")
    """manual: slipped by hand in first gear only; automatic: slips by itself in every gear below its engagement speed
    """
    torque_table: Annotated[tuple[TorquePoint, ...], Field(max_length=60)] = ()
    """measured torque at full throttle; left out = a usual shape through the highest power"""
    compression_ratio: float | None = quantity(4.0, 16.0, "1", "number", None, source="from the manual")
    """swept + clearance volume / clearance volume, the whole stroke, as it came"""
    squish_m: float | None = quantity(3e-4, 6e-3, "m", "bore", None, source="to measure with solder")
    """squish clearance as it came"""
    power_valve: Literal["none", "adjustable"] = choice("none", source="assumption")
    """two-stroke: whether a power valve with a preload that a hand can turn opens the exhaust"""
    fittings: Annotated[tuple[Fitting, ...], Field(max_length=20)] = ()
    """airboxes, exhausts, inserts, reeds, filters, cylinders that fit besides its own; the setup says which are on"""
    head_inserts: Annotated[tuple[HeadInsert, ...], Field(max_length=6)] = ()
    """other heads or inserts that fit; the setup says which is in"""
    ignition_maps: Annotated[tuple[IgnitionMap, ...], Field(max_length=7)] = ()
    """other ignition maps; the setup says which is on"""

    def fittings_of(self, place: str) -> tuple[Fitting, ...]:
        """What else fits at one place."""
        return tuple(f for f in self.fittings if f.place == place)

    @field_validator("torque_table")
    @classmethod
    def _table(cls, value: tuple[TorquePoint, ...]) -> tuple[TorquePoint, ...]:
        if value and len(value) < 3:
            raise ValueError("too_few")
        if any(b.rpm <= a.rpm for a, b in itertools.pairwise(value)):
            raise ValueError("rpm_not_rising")
        return value


class TwoStroke(Combustion):
    """What two-strokes have besides: where their oil comes from."""

    pipe_rpm: float | None = quantity(3000, 15000, "rpm", "rpm", None, source="assumption: the speed of peak power")
    """engine speed that the exhaust pipe is tuned to"""
    lubrication: Literal["premix", "oil_tank"] | None = choice(
        None, source="to be said: premix when the setup says a ratio"
    )
    """how it gets its oil: mixed into the fuel, or from an oil tank of its own"""
    oil_tank_m3: float | None = quantity(1e-4, 5e-3, "m^3", "oil", None, source="not said")
    """own oil tank: what it holds"""
    oil_tank_ratio: float = quantity(
        10, 200, "1", "number", 50.0, source="common practice, no source: about one to fifty over a race"
    )
    """own oil tank: litres of fuel burnt to a litre of oil"""


class TwoStrokeJetted(TwoStroke):
    """Two-stroke with a jetted carburettor."""

    kind: Literal["jetted_two_stroke"] = "jetted_two_stroke"
    carburettor: Carburettor = Field(default_factory=Carburettor)


class FourStrokeJetted(Combustion):
    """Four-stroke with a jetted carburettor."""

    kind: Literal["jetted_four_stroke"] = "jetted_four_stroke"
    carburettor: Carburettor = Field(default_factory=Carburettor)


class TwoStrokeRod(TwoStroke):
    """Two-stroke with a metering-rod carburettor."""

    kind: Literal["rod_two_stroke"] = "rod_two_stroke"
    carburettor: MeteringRodCarburettor = Field(default_factory=MeteringRodCarburettor)


class FourStrokeRod(Combustion):
    """Four-stroke with a metering-rod carburettor."""

    kind: Literal["rod_four_stroke"] = "rod_four_stroke"
    carburettor: MeteringRodCarburettor = Field(default_factory=MeteringRodCarburettor)


class TwoStrokeInjected(TwoStroke):
    """Two-stroke with fuel injection."""

    kind: Literal["injected_two_stroke"] = "injected_two_stroke"
    injection: Injection = Field(default_factory=Injection)


class FourStrokeInjected(Combustion):
    """Four-stroke with fuel injection."""

    kind: Literal["injected_four_stroke"] = "injected_four_stroke"
    injection: Injection = Field(default_factory=Injection)


Jetted = TwoStrokeJetted | FourStrokeJetted
Rod = TwoStrokeRod | FourStrokeRod
Injected = TwoStrokeInjected | FourStrokeInjected
Engine = Annotated[Jetted | Rod | Injected | Electric, Field(discriminator="kind")]
ENGINE_KINDS: tuple[str, ...] = (
    "jetted_two_stroke",
    "jetted_four_stroke",
    "rod_two_stroke",
    "rod_four_stroke",
    "injected_two_stroke",
    "injected_four_stroke",
    "electric",
)
ENGINE_OF = {
    m.model_fields["kind"].default: m
    for m in (
        TwoStrokeJetted,
        FourStrokeJetted,
        TwoStrokeRod,
        FourStrokeRod,
        TwoStrokeInjected,
        FourStrokeInjected,
        Electric,
    )
}


def metering_of(kind: str) -> str:
    """How an engine kind is fed: "jetted", "rod", "injected" or "electric"."""
    return kind.split("_")[0]
