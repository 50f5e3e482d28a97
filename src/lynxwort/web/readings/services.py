"""Verbs on readings. A reading stores all it was taken under: it keeps its meaning when the setup moves on."""

from typing import Any

from pydantic import TypeAdapter, ValidationError

from lynxwort.core.errors import InputRefused
from lynxwort.core.model.inputs import refusals_of
from lynxwort.core.model.readings import Reading as CoreReading
from lynxwort.core.model.setup import Setup
from lynxwort.web.bikes.models import Bike
from lynxwort.web.readings.models import Reading

_READING: TypeAdapter = TypeAdapter(CoreReading)


def under(values: dict, rider: dict, course_key: str, *, fuel_aboard_m3: float | None = None, air: dict | None = None) -> dict[str, Any]:
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
    if kind == "fill_up":
        conditions = under(values, rider, course_key, fuel_aboard_m3=typed["fuel_m3"])
        return {"kind": kind, "fuel_m3": typed["fuel_m3"], "laps": typed["laps"], "under": conditions}
    if kind == "charge":
        return {"kind": kind, "energy_j": typed["energy_j"], "laps": typed["laps"], "under": under(values, rider, course_key)}
    jets = {k: v for k, v in typed.items() if k in Setup.model_fields}
    air = {k: typed[k] for k in ("temperature_k", "pressure_pa", "relative_humidity")}
    return {"kind": kind, "under": under(values | jets, rider, course_key, air=air)}


def add_reading(bike: Bike, document: dict[str, Any]) -> Reading:
    """Keep a reading. Raises InputRefused."""
    try:
        _READING.validate_python(document | {"id": "new"})
    except ValidationError as error:
        raise InputRefused(*refusals_of(error)) from None
    return Reading.objects.create(bike=bike, document=document)


def strike(reading: Reading, struck_out: bool) -> None:
    """Strike a reading out, or let it count again."""
    reading.struck_out = struck_out
    reading.save(update_fields=["struck_out"])
