"""Verbs on trials and their runs."""

import uuid
from typing import Any, TypeVar

from django.db import transaction
from pydantic import ValidationError

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.base import Part
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.model.refused import refusals_of
from lynxwort.core.model.trials import MOST_RUNS, MOST_TRIALS, Tap
from lynxwort.core.model.trials import Trial as CoreTrial
from lynxwort.core.model.trials import TrialRun as CoreRun
from lynxwort.core.physics.trials.timing import between_taps, by_hand_error, clock_offset
from lynxwort.core.stations.trials.helpers import TappedLap, tapped_laps
from lynxwort.web.bikes.models import Bike, Setup
from lynxwort.web.runs.models import Trial, TrialRun

#: round trips that a phone may tell of; names of runs are made from those of their taps
MOST_TRIPS, LAPS = 8, uuid.UUID("5d5b1d0a-3c1e-4c3e-9a53-6a4b1f1c7e20")
T = TypeVar("T", bound=Part)


def checked_part(part: type[T], document: dict[str, Any]) -> T:
    """A part of the core, before it has a name. Raises InputRefused."""
    try:
        return part.model_validate(document | {"id": "new"})
    except ValidationError as error:
        raise InputRefused(*refusals_of(error, root=Inputs)) from None


def checked_trial(document: dict[str, Any]) -> CoreTrial:
    """The core's trial, before it has a name. Raises InputRefused."""
    return checked_part(CoreTrial, document)


def checked_run(document: dict[str, Any]) -> CoreRun:
    """The core's run, before it has a name. Raises InputRefused."""
    return checked_part(CoreRun, document)


def trials_of(bike: Bike) -> list[Trial]:
    """Trials of a bike with their runs, the oldest first; of very many the newest."""
    found = Trial.objects.filter(setup__bike=bike).prefetch_related("runs").order_by("-id")
    return list(found[:MOST_TRIALS])[::-1]


def start(setup: Setup, document: dict[str, Any], *, values: dict[str, Any], number: int) -> Trial:
    """A trial begins; one that is still open is left. Raises InputRefused."""
    checked_trial(document)
    with transaction.atomic():
        Trial.objects.filter(setup=setup, outcome="open").update(outcome="left")
        return Trial.objects.create(setup=setup, document=document, values=values, number=number)


def note(trial: Trial, conditions: dict[str, Any]) -> None:
    """How it is now. Raises InputRefused."""
    with transaction.atomic():
        now = Trial.objects.select_for_update().get(pk=trial.pk)
        said = now.document | {"conditions": [*now.document.get("conditions", []), conditions]}
        checked_trial(said)
        now.document = said
        now.save(update_fields=["document"])


def add_tap(trial: Trial, sent: Any) -> str:
    """Keep a helper's tap, on the van's clock; sent twice it is kept once. Its name. Raises InputRefused."""
    if not isinstance(sent, dict):
        raise _refuse("", "not_an_object")
    try:
        wall_s, trips = float(sent["wall_s"]), [tuple(map(float, trip)) for trip in sent["trips"][:MOST_TRIPS]]
        offset_s, error_s = clock_offset(trips)  # type: ignore[arg-type]
        name = str(uuid.UUID(str(sent["id"])))
    except (LookupError, TypeError, ValueError, OverflowError):
        raise _refuse("", "not_a_tap") from None
    tap = {"id": name, "at": sent.get("at"), "van_s": wall_s + offset_s, "error_s": error_s}
    with transaction.atomic():
        now = Trial.objects.select_for_update().get(pk=trial.pk)
        taps = now.document.get("taps", [])
        if name not in {t["id"] for t in taps}:
            said = now.document | {"taps": [*taps, tap]}
            checked_trial(said)
            now.document = said
            now.save(update_fields=["document"])
    return name


def waiting_laps(trial: Trial) -> list[TappedLap]:
    """Laps that two helpers tapped and nobody has called yet."""
    called = {str(r.uid) for r in trial.runs.all()}
    return [lap for lap in tapped_laps(checked_trial(trial.document)) if str(_run_of(lap.name)) not in called]


def call_lap(trial: Trial, name: str, place: int, *, botched: bool) -> TrialRun | None:
    """A lap that two helpers tapped is the run of this place; None when it does not wait. Raises InputRefused."""
    lap = next((w for w in waiting_laps(trial) if w.name == name), None)
    if lap is None:
        return None
    document = {
        "place": place, "ridden": trial.runs.count(), "time_s": round(lap.time_s, 3), "botched": botched,
        "error_s": round(lap.error_s, 3),
    }  # fmt: skip
    return add_run(trial, document, _run_of(name))


def _run_of(name: str) -> uuid.UUID:
    """The name of the run that a tapped lap becomes, the same whoever calls it."""
    return uuid.uuid5(LAPS, name)


def decide(trial: Trial, outcome: str) -> None:
    """What was done with the change."""
    trial.outcome = outcome
    trial.save(update_fields=["outcome"])


def _refuse(path: str, code: str) -> InputRefused:
    return InputRefused(Refusal(path=path, code=code))


def run_of_taps(trial: Trial, sent: Any) -> dict[str, Any]:
    """The document of a run as a phone sends it: two taps, and what the rider says. Raises InputRefused."""
    if not isinstance(sent, dict):
        raise _refuse("", "not_an_object")
    try:
        start, end = (Tap.model_validate(sent.get(name, {})) for name in ("start", "end"))
    except ValidationError as error:
        raise InputRefused(*refusals_of(error, root=Inputs)) from None
    time_s, apart = between_taps(
        (start.steady_s, end.steady_s), (start.wall_s, end.wall_s), same_page=start.page == end.page
    )
    document = {
        "place": sent.get("place"),
        "ridden": sent.get("ridden"),
        "time_s": round(time_s, 3),
        "botched": sent.get("botched"),
        "scores": sent.get("scores") or {},
        "clocks_apart": apart,
        "error_s": round(by_hand_error(watch=False), 3),
    }
    if trial.document.get("blind") and sent.get("guess"):
        document["guess"] = sent["guess"]
    return document


def add_run(trial: Trial, document: dict[str, Any], name: uuid.UUID) -> TrialRun:
    """Keep a run; sent twice it is kept once. Which setting it was the order says, not who sends it. Raises
    InputRefused.
    """
    order, place = trial.document["order"], document.get("place")
    if not isinstance(place, int) or isinstance(place, bool) or not 0 <= place < len(order):
        raise _refuse("place", "beyond_order")
    said = document | {"setting": order[place]}
    checked_run(said)
    if trial.runs.count() >= MOST_RUNS and not trial.runs.filter(uid=name).exists():
        raise _refuse("runs", "too_many")
    with transaction.atomic():
        row, _made = TrialRun.objects.get_or_create(uid=name, defaults={"trial": trial, "document": said})
    if row.trial_id != trial.pk:
        raise _refuse("id", "another_trial")
    return row
