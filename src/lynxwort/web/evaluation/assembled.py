"""The inputs of `evaluate` out of the rows, and the job that rides for what a kept setup's figures may lie off."""

import json
from functools import lru_cache
from typing import Any

from lynxwort.core.model.box import PartsBox
from lynxwort.core.model.inputs import Inputs, dump_inputs, load_inputs
from lynxwort.core.model.setup import Setup as CoreSetup
from lynxwort.web.bikes import services as bikes
from lynxwort.web.bikes.models import Sensitivity, Setup
from lynxwort.web.evaluation import door
from lynxwort.web.jobs import worker
from lynxwort.web.parts.services import parts_box
from lynxwort.web.races.models import Race
from lynxwort.web.races.tracks import load_track
from lynxwort.web.runs.days import days_of
from lynxwort.web.runs.services import trials_of
from lynxwort.web.service.services import service_of


def assemble(setup: Setup, race: Race, values: dict[str, Any]) -> Inputs:
    """The inputs of `evaluate` from the rows. Raises InputRefused."""
    if setup.mark is None:
        return _assembled(setup, race, values)
    return _of_mark(setup.mark, setup, race, json.dumps(values))


@lru_cache(maxsize=64)
def _of_mark(mark: str, setup: Setup, race: Race, values: str) -> Inputs:
    """As long as nothing was written that they are put together from, the rows need not be looked at."""
    return _assembled(setup, race, json.loads(values))


def _assembled(setup: Setup, race: Race, values: dict[str, Any]) -> Inputs:
    document = {
        "format": 1,
        "bike": setup.bike.document,
        "setup": bikes.fitting(bikes.checked_bike(setup.bike.document), values),
        "riders": [race.rider.document, *(r.document for r in race.others.all())],
        "race": race.document,
        "readings": [r.as_document() for r in setup.bike.readings.all()],
        "seed": 7,
    }
    if trials := trials_of(setup.bike):
        document["trials"] = [t.as_document() for t in trials]
    if days := days_of(setup.bike):
        document["days"] = [d.as_document() for d in days]
    if (service := service_of(setup.bike)) is not None:
        document["service"] = service
    keys = tuple(stage["course_key"] for stage in race.document["stages"])
    return _loaded(json.dumps(document), keys, parts_box(setup.bike.garage))


@lru_cache(maxsize=256)
def _loaded(document: str, courses: tuple[str, ...], parts: PartsBox) -> Inputs:
    """The inputs of a document, the same ones as long as it is the same: none of it is validated or hashed twice."""
    return load_inputs(json.loads(document) | {"parts": parts, "courses": {key: load_track(key) for key in courses}})


def document_of(inputs: Inputs, *, with_course: bool) -> dict[str, Any]:
    """The downloadable document; without the course for the revision's row, where its key stands for it."""
    document = dump_inputs(inputs)
    return document if with_course else {k: v for k, v in document.items() if k != "courses"}


def with_setup(inputs: Inputs, setup: CoreSetup) -> Inputs:
    """The inputs with another setup, checked against the bike. Raises InputRefused."""
    bikes.refuse_misfit(inputs.bike, setup)
    return inputs.model_copy(update={"setup": setup})


@worker.register("sensitivities", apart=True)
def compute_sensitivities(payload: dict[str, Any]) -> dict[str, Any]:
    """Job: perturbed rides of a kept setup, stored by the hash of its inputs."""
    setup = Setup.objects.select_related("bike__garage").get(pk=payload["setup"])
    race = Race.objects.select_related("course", "rider").get(pk=payload["race"])
    inputs = assemble(setup, race, payload["values"])
    values = {k: list(v) for k, v in door.sensitivities_of(inputs).items()}
    Sensitivity.objects.update_or_create(input_key=door.ridden_key(inputs), defaults={"values": values})
    return {"figures": sorted(values)}
