"""Pits along a stage: one every so far, and the stage cut at them."""

from django.db import transaction

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.race import Stage as CoreStage
from lynxwort.core.physics.course.cut import cut_stage, cut_track, may_cut, pits_every
from lynxwort.web.races.models import Course, Race
from lynxwort.web.races.services import Stages, change_stages, with_parts
from lynxwort.web.races.tracks import add_course, load_track


def add_pits(row: Race, index: int, course: Course, every_m: float, facts: dict, *, layout: str = "") -> None:
    """A refuel point every so far along a stage. facts: of each, as RefuelPoint has them. Raises InputRefused,
    StaleFacts.
    """

    def change(stages: Stages) -> Stages:
        held = stages[index].get("refuel_points", [])
        name, first = facts.get("name", "pit"), len(held) + 1
        found = pits_every(course.length_m, every_m, [p["at_m"] for p in held])
        made = [facts | {"at_m": round(at, 1), "name": f"{name} {first + k}"} for k, at in enumerate(found)]
        return with_parts(stages, index, refuel_points=sorted([*held, *made], key=lambda p: p["at_m"]))

    change_stages(row, change, layout=layout)


def cut_at_pits(row: Race, index: int, course: Course, *, layout: str = "") -> None:
    """A stage of one lap as stages between its refuel points. Raises InputRefused (several_laps, no_pits),
    StaleFacts.
    """
    with transaction.atomic():
        row.refresh_from_db()
        stage = CoreStage.model_validate(row.document["stages"][index])
        at = [p.at_m for p in stage.refuel_points if 0.0 < p.at_m < course.length_m]
        if not at:
            raise InputRefused(Refusal(path="stage.refuel_points", code="no_pits"))
        pieces = [add_course(row.garage, t) for t in cut_track(load_track(course.blob_id), at)]
        cut = cut_stage(stage, at, course.length_m, [p.blob_id for p in pieces])
        made = [s.model_dump(mode="json", exclude_unset=True, exclude_none=True) for s in cut]
        change_stages(row, lambda stages: [*stages[:index], *made, *stages[index + 1 :]], layout=layout)


def may_be_cut(stage: dict) -> bool:
    """Whether a stage's document is of one that may be cut at its pits."""
    return may_cut(CoreStage.model_validate(stage))
