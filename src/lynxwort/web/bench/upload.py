"""A document from outside into the garage's rows, all or nothing."""

import json
from typing import Any

from django.db import transaction

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.inputs import Inputs, dump_inputs, load_inputs
from lynxwort.web.bikes.models import Bike
from lynxwort.web.bikes.services import make_bike
from lynxwort.web.garages.models import Garage
from lynxwort.web.parts.services import add_part
from lynxwort.web.races.models import Race
from lynxwort.web.races.services import save_race
from lynxwort.web.readings.models import Reading

MAX_BYTES = 25_000_000


def read_upload(file: Any) -> Inputs:
    """The uploaded document, checked. Raises InputRefused."""
    if file is None:
        raise InputRefused(Refusal(path="file", code="missing"))
    if file.size > MAX_BYTES:
        raise InputRefused(Refusal(path="file", code="too_large", high=MAX_BYTES / 1e6, unit="MB"))
    try:
        return load_inputs(json.loads(file.read()))
    except (ValueError, RecursionError) as error:
        if isinstance(error, InputRefused):
            raise
        raise InputRefused(Refusal(path="", code="not_json")) from None


def place_inputs(garage: Garage, inputs: Inputs) -> tuple[Bike, Race]:
    """Rows of a garage from checked inputs, in one transaction. Raises InputRefused."""
    document = dump_inputs(inputs)
    track = inputs.courses[inputs.stage.course_key]
    stage = document["race"].pop("stages")[0]
    key = track.content_key()
    with transaction.atomic():
        bike = make_bike(garage, document["bike"], document["setup"])
        race_part = {k: v for k, v in document["race"].items() if k != "entries"}
        typed = {"race": race_part, "stage": stage | {"course_key": key}, "rider": document["riders"][inputs.race.entries[0].rider]}
        race = save_race(garage, typed, track)
        for tunable, values in document.get("parts", {}).items():
            for value in values:
                add_part(garage, tunable, value)
        for item in document.get("readings", []):
            plain = {k: v for k, v in item.items() if k not in ("id", "struck_out")}
            if plain["under"].get("course_key") == inputs.stage.course_key:
                plain["under"] = plain["under"] | {"course_key": key}
            Reading.objects.create(bike=bike, document=plain, struck_out=item.get("struck_out", False))
    return bike, race


def take_document(garage: Garage, file: Any) -> tuple[Bike, Race]:
    """Read an upload and place it. Raises InputRefused."""
    return place_inputs(garage, read_upload(file))
