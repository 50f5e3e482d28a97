"""Verbs on readings. A reading stores all it was taken under: it keeps its meaning when the setup moves on."""

from typing import Any

from pydantic import TypeAdapter, ValidationError

from lynxwort.core.errors import InputRefused
from lynxwort.core.model.fitted import aboard_of
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.model.readings import KINDS
from lynxwort.core.model.readings import Reading as CoreReading
from lynxwort.core.model.refused import refusals_of
from lynxwort.core.model.setup import Setup
from lynxwort.web.bikes.models import Bike
from lynxwort.web.bikes.services import checked_bike
from lynxwort.web.garages.roles import Verb, may
from lynxwort.web.garages.services import author_id
from lynxwort.web.jobs import apart, reading
from lynxwort.web.races.tracks import load_track
from lynxwort.web.readings.models import Reading

#: what a reading may say of its air
AIR = ("temperature_k", "pressure_pa", "relative_humidity")
_READING: TypeAdapter = TypeAdapter(CoreReading)


def under(
    values: dict, rider: dict, course_key: str, *, fuel_aboard_m3: float | None = None, air: dict | None = None
) -> dict[str, Any]:
    """The conditions of a reading, as the core takes them."""
    made: dict[str, Any] = {"setup": values, "rider": rider, "course_key": course_key}
    if fuel_aboard_m3 is not None:
        made["fuel_aboard_m3"] = fuel_aboard_m3
    if air:
        made["air"] = air
    return made


def reading_document(kind: str, typed: dict[str, Any], *, values: dict, rider: dict, course_key: str) -> dict[str, Any]:
    """The core's document of a typed reading."""
    if kind == "sag":
        end, state = typed["which"].split("_")
        conditions = under(values, rider, course_key, fuel_aboard_m3=typed["fuel_aboard_m3"])
        return {"kind": kind, "end": end, "state": state, "value_m": typed["value_m"], "under": conditions}
    if kind == "ridden_lap":
        return ridden_lap(typed["file"], values=values, rider=rider, course_key=typed["course"])
    if kind == "hill":
        course_key, _colon, at = typed["hill"].rpartition(":")
        typed = {k: v for k, v in typed.items() if k != "hill"} | {"at_m": float(at)}
    jets = {k: v for k, v in typed.items() if k in Setup.model_fields and v is not None}
    air = {k: typed[k] for k in AIR if typed.get(k) is not None}
    # what was put back was aboard
    fuel = typed["fuel_m3"] if kind == "fill_up" else typed.get("fuel_aboard_m3")
    said = {k: v for k, v in typed.items() if v is not None and k in KINDS[kind].asked}
    return {"kind": kind, "under": under(values | jets, rider, course_key, fuel_aboard_m3=fuel, air=air)} | said


def ridden_lap(file: Any, *, values: dict, rider: dict, course_key: str) -> dict[str, Any]:
    """The document of a recorded lap: the file is laid on its course and only the clock along it is kept. Raises
    InputRefused.
    """
    course = reading.plain(load_track(course_key))
    clock = apart.read("lynxwort.web.jobs.reading:ridden", file, {"course": course}, here=reading.ridden)
    return {"kind": "ridden_lap", "clock_s": clock, "under": under(values, rider, course_key)}


def rename_course(bike_ids: list[int], old_key: str, new_key: str) -> None:
    """Readings follow a course whose points are told to have other heights: it is the same course."""
    for row in Reading.objects.filter(bike_id__in=bike_ids):
        if row.document.get("under", {}).get("course_key") == old_key:
            row.document["under"]["course_key"] = new_key
            row.save(update_fields=["document"])


def checked_reading(document: dict[str, Any]) -> CoreReading:
    """The core's reading, before it has a name. Raises InputRefused."""
    try:
        return _READING.validate_python(document | {"id": "new"})  # type: ignore[no-any-return]
    except ValidationError as error:
        raise InputRefused(*refusals_of(error, root=Inputs)) from None


def with_aboard(bike: Bike, document: dict[str, Any]) -> dict[str, Any]:
    """A reading's document with what rode along when it was taken: what does now, where it does not say so itself.
    Raises InputRefused.
    """
    taken = checked_reading(document).under
    if taken.aboard is not None:
        return document
    aboard = aboard_of(checked_bike(bike.document), taken.setup)
    return document | {
        "under": document["under"] | {"aboard": [item.model_dump(mode="json", exclude_unset=True) for item in aboard]}
    }


def add_reading(bike: Bike, document: dict[str, Any]) -> Reading:
    """Keep a reading, with what is aboard now. Raises InputRefused."""
    return Reading.objects.create(bike=bike, document=with_aboard(bike, document), by_id=author_id())


def by_name(bike: Bike) -> dict[str, Reading]:
    """A bike's readings by what documents call them: their uid, and second what 0.8 and before called them."""
    rows = list(bike.readings.all())
    return {r.legacy_id: r for r in rows if r.legacy_id} | {str(r.uid): r for r in rows}


def may_strike(member: Any, reading: Reading) -> bool:
    """A rider strikes out what they took themselves; a mechanic, any."""
    return may(member, Verb.BIKE) or reading.by_id == member.user_id


def strike(reading: Reading, struck_out: bool) -> None:
    """Strike a reading out, or let it count again."""
    reading.struck_out = struck_out
    reading.save(update_fields=["struck_out"])
