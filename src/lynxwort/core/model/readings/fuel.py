"""Readings of fuel, charge and mixture, of the engine and of a dynamometer."""

import itertools
from typing import Annotated, Literal

from pydantic import Field, field_validator, model_validator

from lynxwort.core.model.base import Part, choice, quantity
from lynxwort.core.model.bike import AXIS_RPM, AXIS_THROTTLE
from lynxwort.core.model.readings.base import AIR, BaseReading
from lynxwort.core.model.tunable import BURNS


class FillUpReading(BaseReading):
    """Fuel put back after a known number of laps of a known course."""

    kind: Literal["fill_up"] = "fill_up"
    asked = ("fuel_m3", "laps")
    also = (AIR,)
    engines = BURNS
    figure = "range.fuel_race"
    fuel_m3: float = quantity(0.0002, 0.06, "m^3", "fuel")
    """fuel put back to the same level"""
    laps: float = quantity(0.1, 200, "1", "number")
    """laps ridden between the two levels"""
    from_m: float | None = quantity(0, 5_000_000, "m", "ribbon", None, source="assumption: whole laps")
    """race distance at the level before, when it was filled up during the race"""
    to_m: float | None = quantity(0, 5_000_000, "m", "ribbon", None, source="assumption: whole laps")
    """race distance at which it was filled"""
    level_m3: float | None = quantity(0.0, 0.04, "m^3", "fuel", None, source="assumption: the starting level")
    """level it was filled to, when it was filled during the race"""


class ChargeReading(BaseReading):
    """Energy put back into the pack after a known number of laps of a known course."""

    kind: Literal["charge"] = "charge"
    asked = ("energy_j", "laps")
    engines = ("electric",)
    figure = "range.energy_race"
    energy_j: float = quantity(1e5, 2e8, "J", "energy")
    """energy put back to the same level, at the pack"""
    laps: float = quantity(0.1, 200, "1", "number")
    """laps ridden between the two levels"""


class KnownGoodReading(BaseReading):
    """A mixture known to run right, in the air it ran right in. `under.air` and `under.setup` hold both."""

    kind: Literal["known_good"] = "known_good"
    asked = ("longest_full_throttle_s",)
    also = (AIR,)
    engines = BURNS
    figure = "fuelling.richness_full_densest"
    longest_full_throttle_s: float | None = quantity(
        0.0, 900.0, "s", "seconds", None, source="not noted: as if it was never held open for long"
    )
    """longest full throttle it ran right with, shifts counted in"""


class FlowReading(BaseReading):
    """What runs out of the hose at the carburettor or pump, tank nearly empty, cap as ridden."""

    kind: Literal["flow"] = "flow"
    asked = ("volume_m3", "duration_s")
    engines = BURNS
    figure = "fuelling.flow_margin"
    volume_m3: float = quantity(5e-5, 0.01, "m^3", "fuel")
    """what ran out"""
    duration_s: float = quantity(5.0, 900.0, "s", "seconds")
    """in this time"""


Symptom = Literal[
    "bogs_then_clears",
    "gasps",
    "blubbers",
    "hangs_idle",
    "surges",
    "stutters_at_top",
    "flat_at_top",
    "pops_closed",
    "runs_hot",
    "rattles",
    "fouls_plugs",
    "hard_to_start",
    "snatches",
    "hesitates",
]
Zone = Literal["closed", "eighth", "quarter", "half", "full"]


class FeelReading(BaseReading):
    """What was felt or what the plug looked like. It ranks causes; it is never a reason to go leaner."""

    kind: Literal["feel"] = "feel"
    engines = BURNS
    figure = "fuelling.richness_full_densest"
    symptom: Symptom = choice()
    zone: Zone = choice("quarter", source="assumption")
    """throttle opening at which it happens"""
    engine: Literal["cold", "hot", "any"] = choice("any", source="assumption")
    load: Literal["light", "hard", "any"] = choice("any", source="assumption")
    plug: Literal["unseen", "white", "tan", "black_dry", "black_oily", "speckled"] = choice(
        "unseen", source="not looked at"
    )
    """the plug after a chop at that opening"""


DynoStandard = Literal["none", "sae_j1349", "iso_1585", "din_70020"]


class DynoPoint(Part):
    """One line of a dynamometer run."""

    rpm: float = quantity(500, 17000, "rpm", "rpm")
    torque_nm: float = quantity(0.0, 1200.0, "N*m", "torque")
    """as the sheet has it, at the place of measurement"""
    lambda_seen: float | None = quantity(0.5, 1.6, "1", "ratio", None, source="not logged")


class DynoReading(BaseReading):
    """A run on a dynamometer."""

    kind: Literal["dyno"] = "dyno"
    figure = "drive.top_speed"
    label: str = Field("run", max_length=60, json_schema_extra={"unit": "", "kind": "text", "source": "assumption"})
    points: Annotated[tuple[DynoPoint, ...], Field(min_length=4, max_length=400)]
    place: Literal["crank", "wheel"] = choice("wheel", source="assumption: most are measured at the wheel")
    """where it was measured"""
    standard: DynoStandard = choice("none", source="assumption: as measured; needs the air of the run")
    """what the sheet corrected it to already"""
    chosen: bool = False
    """whether this run is the bike's curve from now on"""

    @field_validator("points")
    @classmethod
    def _rising(cls, value: tuple[DynoPoint, ...]) -> tuple[DynoPoint, ...]:
        if any(b.rpm <= a.rpm for a, b in itertools.pairwise(value)):
            raise ValueError("rpm_not_rising")
        return value

    @model_validator(mode="after")
    def _air(self) -> "DynoReading":
        if self.standard == "none" and self.under.air is None:
            raise ValueError("under.air:missing")
        return self


class LogCell(Part):
    """One cell of a binned mixture log."""

    rpm: float = quantity(300, 17000, "rpm", "rpm")
    throttle: float = quantity(0.0, 1.0, "1", "share")
    hits: float = quantity(0.0, 1e9, "1", "number")
    """samples that count for it, weighted"""
    error: float = quantity(-0.6, 1.0, "1", "richness")
    """mean richness against the target there, + = rich"""
    sd: float = quantity(0.0, 1.0, "1", "richness")
    """spread of the samples"""


class LogReading(BaseReading):
    """A mixture log, cleaned, binned on the map's axes. `under.setup` holds the map and trims it was ridden with."""

    kind: Literal["afr_log"] = "afr_log"
    engines = ("injected",)
    figure = "fuelling.trim_rms"
    cells: Annotated[tuple[LogCell, ...], Field(min_length=1, max_length=AXIS_RPM * AXIS_THROTTLE)]
    delay_s: float = quantity(0.0, 3.0, "s", "seconds", 0.0, source="assumption: none found")
    """by how much the gauge lagged"""
    samples: float = quantity(1, 1e8, "1", "number", 1.0, source="assumption")
    """rows of the file"""
