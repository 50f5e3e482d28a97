"""A document from outside into the garage's rows, all or nothing."""

import io
from typing import Any

from django.db import transaction

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.inputs import Inputs, dump_inputs, load_inputs
from lynxwort.web.bikes.models import Bike
from lynxwort.web.bikes.services import make_bike
from lynxwort.web.garages.models import Garage
from lynxwort.web.jobs import apart, reading
from lynxwort.web.parts.services import take_box
from lynxwort.web.races.models import Race, Rider
from lynxwort.web.races.services import make_race
from lynxwort.web.readings.models import Reading
from lynxwort.web.readings.services import with_aboard
from lynxwort.web.service.services import take_in
from lynxwort.web.ui.typed import lines_within


def lines_of(file: Any, most_bytes: int) -> list[str]:
    """The lines of an uploaded text file of at most this size. Raises InputRefused (too_large, line_too_long)."""
    if file.size > most_bytes:
        raise InputRefused(Refusal(path="file", code="too_large", high=most_bytes / 1e6, unit="MB"))
    with io.TextIOWrapper(file.file, encoding="utf-8-sig", errors="replace") as text:
        return list(lines_within(text))


def read_upload(file: Any) -> Inputs:
    """The uploaded document, checked. Raises InputRefused."""
    if file is None:
        raise InputRefused(Refusal(path="file", code="missing"))
    if file.size > reading.MOST_BYTES:
        raise InputRefused(Refusal(path="file", code="too_large", high=reading.MOST_BYTES / 1e6, unit="MB"))
    if file.size > apart.SMALL_BYTES:  # looked at beside first: only what can be taken in is built here
        apart.read("lynxwort.web.jobs.reading:document", file, {}, here=reading.document)
        file.seek(0)
    return load_inputs(reading.parsed(file.read()))


def place_inputs(
    garage: Garage, inputs: Inputs, *, bike: Bike | None = None, rider: Rider | None = None
) -> tuple[Bike, Race]:
    """Rows of a garage from checked inputs, in one transaction; onto a bike and rider that stand already, if given.
    Raises InputRefused.
    """
    document = dump_inputs(inputs)
    keys = {name: track.content_key() for name, track in inputs.courses.items()}
    stages = [(inputs.courses[s["course_key"]], s) for s in document["race"].pop("stages")]
    who = document["riders"][inputs.race.entries[0].rider]
    with transaction.atomic():
        race_part = {k: v for k, v in document["race"].items() if k != "entries"}
        others = [r for i, r in enumerate(document["riders"]) if i != inputs.race.entries[0].rider]
        race = make_race(garage, race_part, stages, rider or who, others)  # type: ignore[arg-type]
        take_box(garage, inputs.parts)
        if bike is not None:
            return bike, race
        bike = make_bike(garage, document["bike"], document["setup"])
        for item in document.get("readings", []):
            plain = {k: v for k, v in item.items() if k not in ("id", "struck_out")}
            course = plain["under"].get("course_key")
            if course in keys:
                plain["under"] = plain["under"] | {"course_key": keys[course]}
            taken = with_aboard(bike, plain)
            Reading.objects.create(bike=bike, document=taken, struck_out=item.get("struck_out", False))
        take_in(bike, document.get("service") or {})
    return bike, race


def take_document(garage: Garage, file: Any) -> tuple[Bike, Race]:
    """Read an upload and place it. Raises InputRefused."""
    return place_inputs(garage, read_upload(file))


def would_take(garage: Garage, file: Any) -> dict[str, Any]:
    """What a document would make of the garage's rows; nothing is written. Raises InputRefused."""
    inputs = read_upload(file)
    with transaction.atomic():
        parts = garage.parts.count()
        bike, race = place_inputs(garage, inputs)
        made = {
            "bike": bike.name,
            "race": race.name,
            "rider": inputs.rider.name,
            "stages": len(inputs.race.stages),
            "courses": len(inputs.courses),
            "parts": garage.parts.count() - parts,
            "readings": len(inputs.readings),
        }
        transaction.set_rollback(True)
    return made
