"""Jets, needles, slides and metering rods."""

import itertools
from typing import Annotated, Literal

from pydantic import Field, field_validator, model_validator

from lynxwort.core.model.base import Part, choice, quantity


class NeedlePoint(Part):
    """One place of a measured needle."""

    distance_m: float = quantity(0.0, 0.1, "m", "bore")
    """from the top groove towards the tip"""
    diameter_m: float = quantity(5e-4, 6e-3, "m", "bore")
    """needle diameter there"""


class Needle(Part):
    """A measured needle and its jet: as a straight part with one taper (half angle, not full taper), or as a table of
    diameters.
    """

    jet_bore_m: float = quantity(1e-3, 6e-3, "m", "bore", 2.90e-3, source="assumption")
    """bore of the needle jet"""
    straight_diameter_m: float = quantity(1e-3, 6e-3, "m", "bore", 2.74e-3, source="assumption")
    """needle diameter above the taper"""
    taper_start_lift_m: float = quantity(0.0, 0.05, "m", "bore", 10e-3, source="assumption")
    """lift at which the taper reaches the jet with the clip in the middle groove"""
    taper_half_angle_rad: float = quantity(0.0, 0.1, "rad", "angle", 0.01309, source="assumption: 0.75 degrees")
    """half of the included angle of the taper"""
    clip_pitch_m: float = quantity(2e-4, 3e-3, "m", "bore", 0.9e-3, source="common practice, no source: 0.9 to 1.0 mm")
    """distance between two clip grooves"""
    table: Annotated[tuple[NeedlePoint, ...], Field(max_length=40)] = ()
    """diameter at distances from the top groove, for two tapers; left out = straight part and one taper"""
    groove_above_jet_m: float = quantity(0.0, 0.09, "m", "bore", 0.028, source="assumption")
    """with a table: the clip's groove above the mouth of the needle jet, slide shut"""

    @field_validator("table")
    @classmethod
    def _tapered(cls, value: tuple[NeedlePoint, ...]) -> tuple[NeedlePoint, ...]:
        if value and len(value) < 2:
            raise ValueError("too_few")
        if any(b.distance_m <= a.distance_m for a, b in itertools.pairwise(value)):
            raise ValueError("distances_not_rising")
        if any(b.diameter_m > a.diameter_m for a, b in itertools.pairwise(value)):
            raise ValueError("needle_not_tapered")
        return value


class OtherNeedle(Part):
    """Another needle that fits this carburettor, measured."""

    name: str = Field(min_length=1, max_length=40, json_schema_extra={"unit": "", "kind": "text"})
    """what is stamped on it"""
    needle: Needle


class Carburettor(Part):
    """A slide carburettor with pilot, needle and main jet."""

    jet_numbering: Literal["diameter", "flow"] = choice("diameter", source="assumption: ask, it decides the exponent")
    """what the number on a main jet means: hole diameter in 1/100 mm, or flow"""
    full_lift_m: float = quantity(0.02, 0.06, "m", "bore", 0.036, source="assumption: bore of the carburettor")
    """slide lift at full throttle"""
    clip_positions: int = quantity(1, 12, "1", "count", 5, source="common practice, no source")
    """number of clip grooves on the needle"""
    needle: Needle | None = None
    """the measured needle; left out = not measured, and every step is judged on its lean side"""
    needles: Annotated[tuple[OtherNeedle, ...], Field(max_length=8)] = ()
    """other needles that fit; the setup says which is in"""
    screw: Literal["air", "fuel"] = choice("air", source="assumption: ask, it decides which way is richer")
    """air screw: in is richer; fuel screw: out is richer"""
    screw_turn: float = quantity(
        0.005, 0.3, "1", "richness", 0.10, source="assumption: .05 to .20; a turn is about a pilot size"
    )
    """how much one turn of the screw changes the mixture at small throttle"""
    cutaway_step: float = quantity(0.005, 0.15, "1", "richness", 0.04, source="assumption")
    """how much leaner one size more of slide cutaway makes it at a quarter throttle"""
    float_height_m: float | None = quantity(0.002, 0.05, "m", "bore", None, source="to measure")
    """float height as measured"""
    float_height_right_m: float | None = quantity(0.002, 0.05, "m", "bore", None, source="from the manual")
    """float height as the manual has it"""
    pump: Literal["none", "pump"] = choice("none", source="assumption")
    """whether it has an accelerator pump"""

    @model_validator(mode="before")
    @classmethod
    def _no_longer_asked(cls, data: object) -> object:
        """Facts of 0.8.0 that nothing was reckoned from: read and dropped."""
        return (
            {k: v for k, v in data.items() if k not in ("pump_squirt_s", "leak_jet")}
            if isinstance(data, dict)
            else data
        )


class MeteringRodCarburettor(Part):
    """A slide carburettor with one metering rod and one knob, which evens out most of the air's change by itself."""

    knob_click: float = quantity(0.002, 0.05, "1", "richness", 0.01, source="assumption")
    """how much richer one click of the knob makes it"""
    rod_step: float = quantity(0.005, 0.15, "1", "richness", 0.03, source="assumption")
    """how much richer the next rod makes it"""
    compensation: float = quantity(0.0, 1.0, "1", "share", 0.85, source="assumption")
    """share of a change of air that it evens out by itself"""
    compensated_change: float = quantity(
        0.0, 0.5, "1", "share", 0.24, source="common practice, no source: no change of rod from 300 to 3000 m"
    )
    """largest change of air density that it evens out; beyond it nothing is"""
