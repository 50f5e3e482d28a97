"""The race: course, air, ground, stops."""

from datetime import UTC, datetime, timedelta
from typing import Annotated, Literal
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from pydantic import Field, field_validator, model_validator

from lynxwort.core.model.base import Part, choice, quantity
from lynxwort.core.model.race.crew import CrewPlan
from lynxwort.core.model.race.week import WeekPlan, evening_clock
from lynxwort.core.model.rules import Asked, Marked, SoundTest

Ground = Literal["hardpack", "gravel", "loam", "sand", "deep_sand", "mud", "rock", "whoops", "single_track"]
GROUNDS: tuple[str, ...] = Ground.__args__  # type: ignore[attr-defined]
#: the shortest race by hours
LEAST_HOURS_S = 600.0
#: years in which a race may start
FIRST_YEAR, LAST_YEAR = 1970, 2199
PressureKind = Literal["station", "altimeter", "sea_level"]


class RaceAir(Part):
    """The air of the day: a cold start and a hot afternoon."""

    temperature_low_k: float = quantity(243.15, 323.15, "K", "temperature")
    """coldest hour of the race, at the place of reading"""
    temperature_high_k: float = quantity(243.15, 323.15, "K", "temperature")
    """hottest hour of the race, at the place of reading"""
    pressure_kind: PressureKind = choice("sea_level", source="assumption: what a forecast gives")
    """station: barometer or phone at the place; altimeter: airfield setting; sea_level: forecast"""
    pressure_pa: float = quantity(45_000, 108_500, "Pa", "pressure", 101_325.0, source="ISO 2533 standard atmosphere")
    """the pressure of that kind"""
    pressure_spread_pa: float = quantity(0, 4000, "Pa", "pressure", 300.0, source="assumption")
    """how far it may go either way during the race"""
    reading_height_m: float | None = quantity(-430, 5000, "m", "height", None, source="assumption: the course's start")
    """height at which temperature and pressure were read"""
    relative_humidity_low: float = quantity(0, 1, "1", "share", 0.3, source="assumption")
    """driest hour, as a share"""
    relative_humidity_high: float = quantity(0, 1, "1", "share", 0.8, source="assumption")
    """dampest hour, as a share"""
    wind_m_per_s: float = quantity(0, 30, "m/s", "speed", 0.0, source="assumption: calm")
    """wind as a forecast gives it, 10 m above open ground"""
    wind_from_rad: float = quantity(0, 6.2832, "rad", "bearing", 0.0, source="assumption: from the north")
    """where the wind comes from, clockwise from north"""

    @model_validator(mode="after")
    def _ordered(self) -> "RaceAir":
        if self.temperature_low_k > self.temperature_high_k:
            raise ValueError("temperature_order")
        if self.relative_humidity_low > self.relative_humidity_high:
            raise ValueError("humidity_order")
        return self


SurfaceState = Literal["dry", "wet", "cut_up"]
STATES: tuple[str, ...] = SurfaceState.__args__  # type: ignore[attr-defined]
Tightness = Literal["open", "usual", "tight"]
TIGHTNESSES: tuple[str, ...] = Tightness.__args__  # type: ignore[attr-defined]


class GroundSegment(Part):
    """Ground from one place to the next, in metres along the original track, and what is known of it."""

    from_m: float = quantity(0, 1_000_000, "m", "ribbon")
    to_m: float = quantity(0, 1_000_000, "m", "ribbon")
    ground: Ground = choice()
    depth_m: float | None = quantity(0.005, 0.6, "m", "travel", None, source="assumption: usual for the ground")
    """how deep the loose ground lies: sand, deep sand, mud"""
    whoop_length_m: float | None = quantity(1.0, 30.0, "m", "span", None, source="assumption: 4.5 m")
    """whoops: crest to crest"""
    whoop_height_m: float | None = quantity(0.05, 2.0, "m", "travel", None, source="assumption: 350 mm")
    """whoops: trough to crest"""
    tightness: Tightness = choice("usual", source="assumption")
    """how it bends where the track file cannot show it"""
    state: SurfaceState | None = choice(None, source="assumption: as the stage")
    """dry, wet, or cut up by those who rode before"""

    @property
    def look(self) -> tuple[object, ...]:
        """All but the place: stretches with equal looks are one."""
        return (self.ground, self.depth_m, self.whoop_length_m, self.whoop_height_m, self.tightness, self.state)


class CriticalHill(Part):
    """A short steep ramp that a track file cannot show."""

    at_m: float = quantity(0, 1_000_000, "m", "ribbon")
    """where it begins"""
    length_m: float = quantity(2, 2000, "m", "stretch")
    grade: float = quantity(-1.0, 1.2, "1", "grade")
    """rise / run"""
    ground: Ground = choice()
    name: str = Field(
        "", max_length=60, json_schema_extra={"unit": "", "kind": "text", "source": "assumption: unnamed"}
    )
    """what the hill is called"""
    entry_speed_m_per_s: float | None = quantity(
        1.0, 40.0, "m/s", "speed", None, source="assumption: what the model carries there"
    )
    """speed that can be carried to its foot"""


class RefuelPoint(Part):
    """A place where fuel may be taken."""

    at_m: float = quantity(0, 1_000_000, "m", "ribbon")
    name: str = Field("pit", max_length=60, json_schema_extra={"unit": "", "kind": "text", "source": "assumption"})
    rate_m3_per_s: float | None = quantity(
        1e-5, 0.02, "m^3/s", "flow", None, source="assumption: 30 L/min from a dump can"
    )
    """how fast it is filled"""
    fixed_s: float | None = quantity(0, 3600, "s", "seconds", None, source="assumption: 20 s, or 60 s to swap a pack")
    """standing time whatever is taken: in, off, on, out"""
    must_stop: bool = False
    """whether one must stop there"""
    also: str = Field(
        "", max_length=80, json_schema_extra={"unit": "", "kind": "text", "source": "assumption: nothing"}
    )
    """what else is done when one stops: tyre, foam, wheel, oil"""
    also_s: float | None = quantity(0, 7200, "s", "minutes", None, source="assumption: within the standing time")
    """time that it takes beside the fuel"""


class CrewPoint(Part):
    """A place where the crew may stand; nothing is reckoned from it but when the rider comes by."""

    at_m: float = quantity(0, 1_000_000, "m", "ribbon")
    name: str = Field("crew", max_length=60, json_schema_extra={"unit": "", "kind": "text", "source": "assumption"})


class Zone(Part):
    """A stretch with a rule or in the dark. Night slows the rider's pace (core.model.defaults)."""

    from_m: float = quantity(0, 1_000_000, "m", "ribbon")
    to_m: float = quantity(0, 1_000_000, "m", "ribbon")
    kind: Literal["speed_limit", "night"] = choice()
    limit_m_per_s: float | None = quantity(1.0, 60.0, "m/s", "speed", None, source="needed for a speed limit")
    """highest speed allowed in a speed-limit zone"""

    @model_validator(mode="after")
    def _whole(self) -> "Zone":
        if self.to_m <= self.from_m:
            raise ValueError("segment_order")
        if self.kind == "speed_limit" and self.limit_m_per_s is None:
            raise ValueError("limit_missing")
        return self


StageKind = Literal["race", "test", "liaison"]


class Stage(Part):
    """One course, ridden for a number of laps or for a time."""

    name: str = Field(
        "", max_length=60, json_schema_extra={"unit": "", "kind": "text", "source": "assumption: unnamed"}
    )
    """what the stage is called"""
    kind: StageKind = choice("race", source="assumption")
    """race: against the others; test: against the clock; liaison: between tests, within its allowed time"""
    course_key: str = Field(min_length=1, max_length=80)
    laps: int = quantity(1, 200, "1", "count", 1, source="assumption")
    hours_s: float | None = quantity(LEAST_HOURS_S, 259_200, "s", "hours", None, source="assumption: ridden by laps")
    """time after which the lap under way is the last; left out = ridden by laps"""
    allowed_s: float | None = quantity(60, 86_400, "s", "minutes", None, source="assumption: no schedule")
    """time on the schedule from the start of this stage to the start of the next"""
    crawling_s: float = quantity(0, 3600, "s", "minutes", 0.0, source="assumption: nobody in the way")
    """at a walking pace behind others or up a hill, each lap"""
    standing_s: float = quantity(0, 3600, "s", "minutes", 0.0, source="assumption: none")
    """standing with the engine at idle, each lap"""
    queue_at_m: float | None = quantity(0, 1_000_000, "m", "ribbon", None, source="assumption: where it is slowest")
    """where one crawls or stands"""
    refuel_after: bool = False
    """whether fuel may be taken after the stage"""
    work_after_s: float | None = quantity(0, 21_600, "s", "minutes", None, source="assumption: no window said")
    """how long the bike may be worked on after the stage"""
    park_after: bool = False
    """whether it then stands in a closed park until the next stage, where nobody touches it"""
    state: SurfaceState = choice("dry", source="assumption")
    """dry, wet, or cut up by those who rode before; a stretch may say otherwise"""
    ground: Annotated[tuple[GroundSegment, ...], Field(max_length=500)] = ()
    """segments; what is left out counts as single track"""
    hills: Annotated[tuple[CriticalHill, ...], Field(max_length=50)] = ()
    refuel_points: Annotated[tuple[RefuelPoint, ...], Field(max_length=50)] = ()
    crew_points: Annotated[tuple[CrewPoint, ...], Field(max_length=50)] = ()
    zones: Annotated[tuple[Zone, ...], Field(max_length=100)] = ()

    @model_validator(mode="after")
    def _segments(self) -> "Stage":
        for a in self.ground:
            if a.to_m <= a.from_m:
                raise ValueError("segment_order")
        for a, b in zip(self.ground, self.ground[1:], strict=False):
            if b.from_m < a.to_m - 1e-6:
                raise ValueError("segment_overlap")
        if self.hours_s is not None and self.laps > 1:
            raise ValueError("laps_and_hours")
        return self


class Relay(Part):
    """A team that shares the race, lap by lap or stage by stage: all riders of the document, in their order."""

    hand_over_s: float = quantity(0, 1800, "s", "seconds", 45.0, source="assumption")
    """time that a hand-over costs"""
    longest_stint_s: float | None = quantity(300, 86_400, "s", "minutes", None, source="assumption: no rule")
    """longest that anybody may ride at a stretch"""
    rest_s: float = quantity(0, 86_400, "s", "minutes", 0.0, source="assumption: no rule")
    """least time between two stints of a rider"""


class Entry(Part):
    """Who rides: index into the riders."""

    rider: int = quantity(0, 20, "1", "count", 0, source="assumption")


class Race(Part):
    """One race."""

    name: str = Field(
        "race", min_length=1, max_length=80, json_schema_extra={"unit": "", "kind": "text", "source": "assumption"}
    )
    start: str = Field("2026-01-01T09:00", json_schema_extra={"unit": "", "kind": "moment", "source": "assumption"})
    """local date and time of the start, ISO 8601"""
    time_zone: str = Field("UTC", json_schema_extra={"unit": "", "kind": "zone", "source": "assumption"})
    class_gap_s: float = quantity(0, 14_400, "s", "minutes", 0.0, source="assumption: with the first")
    """how long after the first start one's own class goes; a race by hours ends so long after the first"""
    starters: int = quantity(1, 2000, "1", "count", 60, source="assumption")
    """bikes on the course: so many go by each lap, and cut it up"""
    air: RaceAir
    stages: Annotated[tuple[Stage, ...], Field(min_length=1, max_length=20)]
    """in the order in which they are ridden"""
    entries: Annotated[tuple[Entry, ...], Field(min_length=1, max_length=1)] = (Entry(),)
    relay: Relay | None = None
    """left out = one rider all the way"""
    certainty: float = quantity(0.5, 0.999, "1", "share", 0.99, source="assumption")
    """how sure it must be that the fuel or the charge lasts"""
    sound_limit_db: float | None = quantity(60.0, 120.0, "1", "decibel", None, source="the event's own rules")
    """loudest that is let through"""
    sound_test: SoundTest = choice("rated_half_metre", source="assumption")
    """how it is tested"""
    asked: Annotated[tuple[Asked, ...], Field(max_length=40)] = ()
    """what the event asks for, and how it stands"""
    marked: Annotated[tuple[Marked, ...], Field(max_length=8)] = Field(
        (), json_schema_extra={"unit": "", "kind": "list", "source": "assumption: nothing is marked"}
    )
    """what the event marks, so that it is not replaced before the finish"""
    crew: CrewPlan | None = None
    """left out = nothing is said of the crew"""
    week: WeekPlan | None = None
    """left out = nothing is said of the evenings before it"""

    @model_validator(mode="after")
    def _asked_once(self) -> "Race":
        if len({a.rule for a in self.asked}) < len(self.asked):
            raise ValueError("asked:asked_twice")
        return self

    @model_validator(mode="after")
    def _hours_alone(self) -> "Race":
        if len(self.stages) > 1 and any(s.hours_s is not None for s in self.stages):
            raise ValueError("hours_alone")
        return self

    @model_validator(mode="after")
    def _gap_within(self) -> "Race":
        hours_s = self.stages[0].hours_s
        if hours_s is not None and hours_s - self.class_gap_s < LEAST_HOURS_S:
            raise ValueError("class_gap_s:gap_beyond_hours")
        return self

    @property
    def own_stages(self) -> tuple[Stage, ...]:
        """The stages as one's own class rides them: by hours so much less as it starts later."""
        first = self.stages[0]
        if first.hours_s is None or not self.class_gap_s:
            return self.stages
        return (first.model_copy(update={"hours_s": first.hours_s - self.class_gap_s}),)

    @property
    def format(self) -> str:
        """The race's format: "hours", "tests", "stages" or "laps"."""
        if self.stages[0].hours_s is not None:
            return "hours"
        if any(s.kind != "race" for s in self.stages):
            return "tests"
        return "stages" if len(self.stages) > 1 else "laps"

    @property
    def own_start(self) -> datetime:
        """When one's own class starts, by the race's clock, with its zone."""
        return self.clock_at(0.0)

    def clock_at(self, after_s: float) -> datetime:
        """The race's clock so long [s] after one's own class starts. Reckoned in universal time: an hour added to a
        zoned hour is wrong where the clock changes in between.
        """
        moment, zone = datetime.fromisoformat(self.start), ZoneInfo(self.time_zone)
        moment = moment if moment.tzinfo else moment.replace(tzinfo=zone)
        return (moment.astimezone(UTC) + timedelta(seconds=self.class_gap_s + after_s)).astimezone(zone)

    def evening(self, day: str, after_s: float) -> datetime:
        """The race's clock so long [s] after the work of an evening begins."""
        return evening_clock(day, (self.week or WeekPlan()).evening_at, self.time_zone, after_s)

    @property
    def start_julian(self) -> float:
        """When one's own class starts as a Julian day [d], universal time."""
        return self.own_start.timestamp() / 86_400.0 + 2_440_587.5

    @field_validator("start")
    @classmethod
    def _start(cls, value: str) -> str:
        try:
            year = datetime.fromisoformat(value).year
        except ValueError:
            raise ValueError("not_a_moment") from None
        # evenings are counted back from it, and hours on: neither may leave the calendar
        if not FIRST_YEAR <= year <= LAST_YEAR:
            raise ValueError("not_a_moment")
        return value

    @field_validator("time_zone")
    @classmethod
    def _zone(cls, value: str) -> str:
        try:
            ZoneInfo(value)
        except (ZoneInfoNotFoundError, ValueError, OSError):
            raise ValueError("not_a_time_zone") from None
        return value
