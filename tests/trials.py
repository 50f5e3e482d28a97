"""Rows of a trial, as the stand-in rider rides it."""

import uuid

from lynxwort.core.model.trials import Trial as CoreTrial
from lynxwort.core.standin.session import ride
from lynxwort.web.runs import days, services
from lynxwort.web.runs.models import RiddenDay, Trial

PLAN = {
    "rider": "Wren", "question": "rear_sprocket_teeth=50", "changes": 1, "kind": "gearing", "order": "ABBAABBA", "lap_s": 300.0,
    "hoped_share": 0.03,
}  # fmt: skip


def stood_in(trial: Trial, seed: int = 7, **ridden) -> None:
    """The runs of a trial by the stand-in rider."""
    for run in ride(CoreTrial.model_validate(trial.as_document()), seed, **ridden):
        trial.runs.create(document=run.model_dump(mode="json", exclude={"id"}))


def a_trial(setup, **ridden) -> Trial:
    """A trial of a tooth that is ridden and not decided."""
    trial = services.start(setup, PLAN, values=setup.draft.values | {"rear_sprocket_teeth": 50}, number=1)
    stood_in(trial, effect_share=-0.02, lap_sd=0.005, **ridden)
    return trial


def a_day(setup, race) -> RiddenDay:
    """A day with a click."""
    day = days.begin(setup, race, {"rider": "Wren", "name": "practice", "starters": 40, "whoop_height_m": 0.35})
    days.log_click(day, {"lap": 3, "end": "rear", "way": "rebound", "clicks": -2, "why": "packs"}, uuid.uuid4())
    return day
