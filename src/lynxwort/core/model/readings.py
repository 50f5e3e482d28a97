"""Readings: what was measured, with all it was measured under."""

import itertools
from typing import Annotated, ClassVar, Literal, get_args

from pydantic import Field, field_validator, model_validator

from lynxwort.core.model.base import Part, choice, quantity
from lynxwort.core.model.bike import AXIS_RPM, AXIS_THROTTLE
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


FUEL, AIR = "fuel_aboard_m3", "air"


class _Reading(Part):
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


class SagReading(_Reading):
    """Free or race sag of one end: front along the leg, rear vertical at the axle."""

    kind: Literal["sag"] = "sag"
    asked = ("end", "state", "value_m")
    also = (FUEL,)
    end: Literal["front", "rear"] = choice()
    state: Literal["free", "race"] = choice()
    """free: bike alone; race: rider in position, in gear"""
    value_m: float = quantity(0.0, 0.25, "m", "travel")
    """how far it sank from topped out, mean of settling from above and from below"""
    apart_m: float | None = quantity(0.0, 0.1, "m", "travel", None, source="measured one way only")
    """how far apart the two settled: twice the friction's share"""

    @property
    def narrows(self) -> str:
        """The same sag, reckoned."""
        return f"chassis.{self.end}.{self.state}_sag"


class WeighingReading(_Reading):
    """Each wheel on a scale, bike upright and level."""

    kind: Literal["weighing"] = "weighing"
    asked = ("front_kg", "rear_kg", "rider_aboard")
    also = (FUEL,)
    figure = "chassis.axle_load.front"
    front_kg: float = quantity(5.0, 250.0, "kg", "mass")
    """front wheel's scale"""
    rear_kg: float = quantity(5.0, 350.0, "kg", "mass")
    """rear wheel's scale"""
    rider_aboard: bool = False
    """rider in position and in gear, or the bike alone"""


class TiltReading(_Reading):
    """The scale of one wheel, bike alone, suspension strapped, with the other wheel raised: it tells how high the
    weight sits.
    """

    kind: Literal["tilt"] = "tilt"
    asked = ("raised", "raised_m", "load_kg")
    also = (FUEL,)
    figure = "chassis.cg_height"
    raised: Literal["front", "rear"] = choice()
    """which axle is raised"""
    raised_m: float = quantity(0.1, 1.0, "m", "length")
    """how much higher that axle stands than on the level"""
    load_kg: float = quantity(5.0, 350.0, "kg", "mass")
    """scale under the wheel that stays down"""


GeometryOf = Literal["wheelbase", "rake", "seat_height", "ground_clearance"]


class GeometryReading(_Reading):
    """A measured length or angle of the standing bike."""

    kind: Literal["geometry"] = "geometry"
    asked = ("of", "state", "value_m", "value_rad")
    also = (FUEL,)
    of: GeometryOf = choice()
    state: Literal["topped_out", "free", "race"] = choice("topped_out", source="assumption")
    """topped out, bike alone on its wheels, or rider aboard"""
    value_m: float | None = quantity(0.1, 2.0, "m", "length", None, source="needed unless it is an angle")
    value_rad: float | None = quantity(0.26, 0.7, "rad", "tilt", None, source="needed for an angle")

    @model_validator(mode="after")
    def _whole(self) -> "GeometryReading":
        name = "value_rad" if self.of == "rake" else "value_m"
        if getattr(self, name) is None:
            raise ValueError(f"{name}:missing")
        return self

    @property
    def narrows(self) -> str:
        """The same length or angle, reckoned."""
        return f"chassis.{self.of}"


class SteadyReading(_Reading):
    """It ran straight at this speed with the setup under which it was noted."""

    kind: Literal["steady"] = "steady"
    asked = ("speed_m_per_s",)
    figure = "chassis.trail"
    speed_m_per_s: float = quantity(10.0, 60.0, "m/s", "speed")


class FillUpReading(_Reading):
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


class ChargeReading(_Reading):
    """Energy put back into the pack after a known number of laps of a known course."""

    kind: Literal["charge"] = "charge"
    asked = ("energy_j", "laps")
    engines = ("electric",)
    figure = "range.energy_race"
    energy_j: float = quantity(1e5, 2e8, "J", "energy")
    """energy put back to the same level, at the pack"""
    laps: float = quantity(0.1, 200, "1", "number")
    """laps ridden between the two levels"""


class KnownGoodReading(_Reading):
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


class FlowReading(_Reading):
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


class FeelReading(_Reading):
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


class DynoReading(_Reading):
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


class LogReading(_Reading):
    """A mixture log, cleaned, binned on the map's axes. `under.setup` holds the map and trims it was ridden with."""

    kind: Literal["afr_log"] = "afr_log"
    engines = ("injected",)
    figure = "fuelling.trim_rms"
    cells: Annotated[tuple[LogCell, ...], Field(min_length=1, max_length=AXIS_RPM * AXIS_THROTTLE)]
    delay_s: float = quantity(0.0, 3.0, "s", "seconds", 0.0, source="assumption: none found")
    """by how much the gauge lagged"""
    samples: float = quantity(1, 1e8, "1", "number", 1.0, source="assumption")
    """rows of the file"""


class RollOutReading(_Reading):
    """Distance of some turns of the rear wheel, rider aboard, at the pressure it is ridden with."""

    kind: Literal["roll_out"] = "roll_out"
    asked = ("distance_m", "turns")
    figure = "drive.top_speed"
    distance_m: float = quantity(1.0, 60.0, "m", "span")
    """chalk mark to chalk mark"""
    turns: int = quantity(1, 20, "1", "count", 1, source="assumption")
    """turns of the wheel between them"""


class RpmSpeedReading(_Reading):
    """Engine speed and road speed seen at the same moment, steady, on hard ground."""

    kind: Literal["rpm_speed"] = "rpm_speed"
    asked = ("rpm", "speed_m_per_s", "gear")
    engines = BURNS
    figure = "drive.top_speed"
    rpm: float = quantity(1000, 17000, "rpm", "rpm")
    """engine speed"""
    speed_m_per_s: float = quantity(1.0, 70.0, "m/s", "speed")
    """road speed by satellite receiver"""
    gear: int = quantity(1, 8, "1", "count")
    """gear it was in"""


class TopSpeedReading(_Reading):
    """The highest speed seen: level, hard, long enough, no wind to speak of."""

    kind: Literal["top_speed"] = "top_speed"
    asked = ("speed_m_per_s",)
    also = (AIR,)
    figure = "drive.top_speed"
    speed_m_per_s: float = quantity(5.0, 70.0, "m/s", "speed")
    """road speed by satellite receiver"""


class HillReading(_Reading):
    """A climb tried. It says what grip the ground gave, or that the engine gave out."""

    kind: Literal["hill"] = "hill"
    asked = ("at_m", "outcome", "entry_speed_m_per_s")
    also = (AIR,)
    figure = "drive.hill.1.limit"
    at_m: float = quantity(0, 1_000_000, "m", "ribbon")
    """where it begins on its course"""
    outcome: Literal["climbed", "spun", "stalled"] = choice()
    """climbed; spun: the wheel turned and the bike stopped; stalled: the engine gave out"""
    entry_speed_m_per_s: float | None = quantity(1.0, 40.0, "m/s", "speed", None, source="assumption: walking pace")
    """speed at its foot"""


class RiddenLapReading(_Reading):
    """A lap really ridden: the clock at even steps along its course."""

    kind: Literal["ridden_lap"] = "ridden_lap"
    asked = ("clock_s",)
    figure = "drive.lap_time"
    clock_s: tuple[Annotated[float, Field(ge=0.0, le=86_400.0)], ...] = Field(
        min_length=3, max_length=20_001, repr=False
    )
    """time since the start of the lap at each step, the first at the start, the last at its end"""

    @field_validator("clock_s")
    @classmethod
    def _rising(cls, value: tuple[float, ...]) -> tuple[float, ...]:
        if any(b < a for a, b in itertools.pairwise(value)) or value[-1] - value[0] < 10.0:
            raise ValueError("clock_not_rising")
        return value


Reading = Annotated[
    SagReading
    | WeighingReading
    | TiltReading
    | GeometryReading
    | SteadyReading
    | FillUpReading
    | ChargeReading
    | KnownGoodReading
    | FlowReading
    | FeelReading
    | DynoReading
    | LogReading
    | RollOutReading
    | RpmSpeedReading
    | TopSpeedReading
    | HillReading
    | RiddenLapReading,
    Field(discriminator="kind"),
]
#: all readings by kind, in the order in which they are asked
KINDS: dict[str, type[_Reading]] = {c.model_fields["kind"].default: c for c in get_args(get_args(Reading)[0])}
