"""What is written down of a bike's service: rides, checks, parts with their clocks, wear, bolts."""

from typing import Annotated, Any, Literal, get_args

from pydantic import Field, field_validator, model_validator

from lynxwort.core.model.base import Part, choice, quantity
from lynxwort.core.model.days import checked_day
from lynxwort.core.model.service.checks import CheckName
from lynxwort.core.model.service.intervals import PartKind
from lynxwort.core.model.service.measures import MEASURES, MeasureName

Result = Literal["pass", "look", "fail"]
Basis = Literal["typed", "track", "course"]
Fate = Literal["fitted", "sound", "worn", "failed"]
FATES: tuple[str, ...] = get_args(Fate)
Place = Literal[
    "rotor", "sprocket", "stand", "axle", "pinch", "calliper", "banjo", "engine_mount", "linkage", "subframe", "clamp",
    "motor", "pack", "other",
]  # fmt: skip
PLACES: tuple[str, ...] = get_args(Place)
Thread = Literal["dry", "oiled", "locked"]
Locker = Literal["none", "removable", "high_strength"]
Mark = Literal["none", "true", "moved"]
Ridden = Literal["race", "trail"]

MOST_RIDES, MOST_CHECKS, MOST_PARTS, MOST_WEAR, MOST_BOLTS, MOST_TONES = 1000, 1000, 300, 500, 100, 40
#: two lifetimes of any engine [s]
MOST_HOURS_S = 36_000_000.0


def _text(source: str) -> dict[str, Any]:
    return {"unit": "", "kind": "text", "source": f"assumption: {source}"}


def _hours(default: Any = None, *, source: str = "assumption: not said") -> Any:
    return quantity(0.0, MOST_HOURS_S, "s", "engine_hours", default, source=source)


class Written(Part):
    """One line of the log. What was written later has the higher number."""

    id: str = Field(min_length=1, max_length=40)
    seq: int = quantity(0, 10_000_000, "1", "count", 0, source="assumption: the first")
    """in which order it was written down"""
    day: str | None = Field(None, json_schema_extra=_text("not said"))
    """of the year, like 2027-04-02"""
    of_day: str = Field("", max_length=40, json_schema_extra=_text("of no day that was logged"))
    """id of the ridden day that it was taken from"""

    @field_validator("day")
    @classmethod
    def _a_day(cls, value: str | None) -> str | None:
        return checked_day(value)


class Ride(Written):
    """A ride, or a reading of the hour meter."""

    name: str = Field("", max_length=80, json_schema_extra=_text("not said"))
    """where it was"""
    time_s: float | None = quantity(60.0, 1_800_000.0, "s", "engine_hours", None, source="assumption: by the meter")
    """ridden, engine running"""
    meter_s: float | None = _hours()
    """the hour meter after it"""
    basis: Basis = choice("typed", source="assumption")
    """where the time comes from"""
    sand_share: float = quantity(0.0, 1.0, "1", "share", 0.0, source="assumption: none")
    """of its time in sand"""
    mud_share: float = quantity(0.0, 1.0, "1", "share", 0.0, source="assumption: none")
    """of its time in mud"""
    full_share: float = quantity(0.0, 1.0, "1", "share", 0.0, source="assumption: little")
    """of its time at full throttle"""
    crashed: bool = False
    """a fall that bent or hit something"""

    @model_validator(mode="after")
    def _says(self) -> "Ride":
        if self.time_s is None and self.meter_s is None:
            raise ValueError("time_s:ride_says_nothing")
        return self


class GateCheck(Written):
    """A check of the gate, as it was found."""

    check: CheckName = choice()
    result: Result = choice()
    value_si: float | None = Field(
        None, ge=-1e9, le=1e9, json_schema_extra={"unit": "SI", "kind": "", "source": "assumption: not measured"}
    )
    """what was measured"""
    note: str = Field("", max_length=200, json_schema_extra=_text("nothing to add"))
    cost: float | None = quantity(0.0, 1e6, "1", "count", None, source="assumption: not said")
    """to put it right, own money"""
    work_s: float | None = quantity(0.0, 720_000.0, "s", "engine_hours", None, source="assumption: as usual")
    """to put it right"""


class ClockedPart(Written):
    """A part with a clock of its own."""

    kind: PartKind = choice()
    name: str = Field("", max_length=80, json_schema_extra=_text("by its kind"))
    fitted_s: float = _hours(0.0, source="assumption: with the bike")
    """hours of the bike when it was fitted, or its work was done"""
    carried_s: float = _hours(0.0, source="assumption: new")
    """what it had run by then, on this bike or another"""
    fitted_day: str | None = Field(None, json_schema_extra=_text("not said"))
    """when it was fitted, for what ages by the calendar"""
    interval_s: float | None = _hours(source="common practice, no source")
    """by the manual, between two of them"""
    months: int | None = quantity(1, 240, "1", "count", None, source="common practice, no source")
    """by the manual, whatever it ran"""
    new_build: bool = False
    """a new wheel, or a fork never opened: looked at earlier the first time"""
    boiled: bool = False
    """the fluid boiled once"""
    fate: Fate = choice("fitted", source="assumption: on the bike")
    """on the bike, or how it came off"""
    ended_s: float | None = _hours()
    """what it had run when it came off"""

    @field_validator("fitted_day")
    @classmethod
    def _fitted_a_day(cls, value: str | None) -> str | None:
        return checked_day(value)

    @model_validator(mode="after")
    def _has_ended(self) -> "ClockedPart":
        if (self.fate == "fitted") != (self.ended_s is None):
            raise ValueError("ended_s:life_unsaid")
        return self


class WearReading(Written):
    """One measurement of wear, or what was seen."""

    measure: MeasureName = choice()
    value_si: float | None = Field(
        None, ge=0.0, le=1e8, json_schema_extra={"unit": "SI", "kind": "", "source": "assumption: seen, not measured"}
    )
    """what was measured"""
    seen: str = Field("", max_length=20, json_schema_extra=_text("measured, not seen"))
    """what was seen instead"""
    limit_si: float | None = Field(
        None, ge=0.0, le=1e8, json_schema_extra={"unit": "SI", "kind": "", "source": "common practice, no source"}
    )
    """by the manual"""
    at_s: float | None = _hours(source="assumption: as the log stood")
    """hours of the bike"""
    links: int | None = quantity(5, 200, "1", "count", None, source="assumption: 20")
    """of the chain between the two pins that were measured"""
    station_pa: float | None = quantity(50_000, 110_000, "Pa", "pressure", None, source="assumption: at the sea")
    """pressure of the air where the gauge was read"""
    gauge: str = Field("", max_length=40, json_schema_extra=_text("the same gauge"))
    """with which it was read"""
    tones_hz: Annotated[tuple[Annotated[float, Field(ge=20.0, le=5000.0)], ...], Field(max_length=MOST_TONES)] = ()
    """of the spokes of one side that are alike, in order; 0 is none"""
    dead: int = quantity(0, 40, "1", "count", 0, source="assumption: none")
    """spokes without a tone"""

    @model_validator(mode="after")
    def _is_told(self) -> "WearReading":
        known = MEASURES[self.measure]
        if known.seen:
            if self.seen not in dict(known.seen):
                raise ValueError("seen:not_a_choice")
        elif self.measure.startswith("spokes"):
            if len(self.tones_hz) < 3:
                raise ValueError("tones_hz:tones_few")
        elif self.value_si is None:
            raise ValueError("value_si:not_measured")
        return self


class Bolt(Written):
    """A bolt of the torque list."""

    name: str = Field(min_length=1, max_length=60)
    place: Place = choice("other", source="assumption: elsewhere")
    torque_nm: float | None = quantity(0.5, 250.0, "N*m", "bolt_torque", None, source="assumption: not looked up")
    """by the manual"""
    diameter_m: float = quantity(0.003, 0.030, "m", "preload", 0.008, source="assumption")
    """of the thread"""
    pitch_m: float = quantity(0.0003, 0.004, "m", "bore", 0.00125, source="assumption: coarse")
    """from one turn of the thread to the next"""
    thread: Thread = choice("dry", source="common practice, no source: dry unless the manual says oiled")
    locker: Locker = choice("none", source="assumption")
    in_aluminium: bool = False
    """its thread is cut in aluminium"""
    tight_s: float | None = _hours(source="assumption: not tightened yet")
    """hours of the bike when it was last tightened or checked"""
    fresh_s: float | None = _hours(source="assumption: neither new nor coated")
    """hours of the bike when the part under it was new or newly coated"""
    mark: Mark = choice("none", source="assumption: no paint mark")


class Service(Part):
    """All that was written down of one bike."""

    ridden: Ridden = choice("race", source="assumption")
    """intervals of a bike that is raced, or ridden on trails"""
    bought: bool = False
    """it was bought used, and its checks are those of one"""
    claimed_s: float | None = _hours()
    """hours that the seller claims"""
    practice_s: float = quantity(0.0, 720_000.0, "s", "engine_hours", 0.0, source="assumption: none")
    """still to be ridden before the start"""
    rides: Annotated[tuple[Ride, ...], Field(max_length=MOST_RIDES)] = ()
    checks: Annotated[tuple[GateCheck, ...], Field(max_length=MOST_CHECKS)] = ()
    parts: Annotated[tuple[ClockedPart, ...], Field(max_length=MOST_PARTS)] = ()
    wear: Annotated[tuple[WearReading, ...], Field(max_length=MOST_WEAR)] = ()
    bolts: Annotated[tuple[Bolt, ...], Field(max_length=MOST_BOLTS)] = ()
