"""What of a garage travels as lines: its tables, how each row is said, and the mark by which two copies of a row are
told to be the same.
"""

import uuid
from collections.abc import Callable, Collection
from dataclasses import dataclass
from datetime import datetime
from typing import Any, Literal

from django.db import models

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.report import read_report
from lynxwort.web.bench.models import Felt, Pairing
from lynxwort.web.bikes.models import Bike, Draft, Revision, Setup
from lynxwort.web.bikes.services import checked_bike, checked_setup
from lynxwort.web.garages.models import Garage
from lynxwort.web.parts.models import OwnedPart
from lynxwort.web.parts.services import checked as checked_part
from lynxwort.web.races.models import Course, CourseBlob, Race, Rider
from lynxwort.web.races.services import checked_race, checked_rider
from lynxwort.web.races.tracks import lay_course
from lynxwort.web.readings.models import Reading
from lynxwort.web.readings.services import checked_reading
from lynxwort.web.runs.days import checked_click, checked_day
from lynxwort.web.runs.models import Arrival, ClickTurn, LoadLine, RiddenDay, Trial, TrialRun
from lynxwort.web.runs.services import checked_run, checked_trial
from lynxwort.web.service.models import ServiceLine
from lynxwort.web.service.services import checked_line
from lynxwort.web.ui.stale import mark_of

#: what becomes of a row
Action = Literal["new", "same", "ours", "theirs", "remove", "ask"]


@dataclass(frozen=True)
class Table:
    """How rows of a model travel. mine: the path from a row to its garage; left_out: what does not travel; check: of a
    row, raises InputRefused; fixed: its rows are never changed, but for being struck out; apart: what does not count
    when two copies of a row are compared, since it is where a row stands or a count of its changes.
    """

    name: str
    model: type[models.Model]
    mine: str
    check: Callable[[Any], object]
    left_out: tuple[str, ...] = ()
    fixed: bool = False
    apart: tuple[str, ...] = ()


def _checked_revision(row: Revision) -> None:
    checked_setup(row.values)
    read_report(row.report)


def _checked_draft(row: Draft) -> None:
    checked_setup(row.values)
    for values in row.past:
        checked_setup(values)


def _checked_course(row: Course) -> None:
    if abs(lay_course(row.blob_id).length_m - row.length_m) > 1.0:
        raise ValueError(row.length_m)


def _checked_race(row: Race) -> None:
    for stage in checked_race(row.document).stages:
        if not Course.objects.filter(garage=row.garage, blob_id=stage.course_key).exists():
            raise InputRefused(Refusal(path="", code="course_missing"))


TABLES = (
    Table("course", Course, "garage", _checked_course),
    Table("rider", Rider, "garage", lambda row: checked_rider(row.document)),
    Table("race", Race, "garage", _checked_race, ("past",), apart=("version",)),
    Table("bike", Bike, "garage", lambda row: checked_bike(row.document)),
    Table("setup", Setup, "bike__garage", lambda row: None, ("head",)),
    Table("revision", Revision, "setup__bike__garage", _checked_revision, apart=("setup", "number")),
    Table("draft", Draft, "setup__bike__garage", _checked_draft, apart=("version",)),
    Table("part", OwnedPart, "garage", lambda row: checked_part(row.as_document())),
    Table(
        "reading",
        Reading,
        "bike__garage",
        lambda row: checked_reading(row.document),
        ("by",),
        fixed=True,
        apart=("struck_out",),
    ),
    Table("trial", Trial, "setup__bike__garage", lambda row: checked_trial(row.document)),
    Table("run", TrialRun, "trial__setup__bike__garage", lambda row: checked_run(row.document), fixed=True),
    Table("day", RiddenDay, "setup__bike__garage", lambda row: checked_day(row.document)),
    Table("click", ClickTurn, "day__setup__bike__garage", lambda row: checked_click(row.document), fixed=True),
    Table("arrival", Arrival, "setup__bike__garage", lambda row: None, ("by",), fixed=True),
    Table("load", LoadLine, "race__garage", lambda row: None, ("by",)),
    Table(
        "service", ServiceLine, "bike__garage", lambda row: checked_line(row.kind, row.document), apart=("struck_out",)
    ),
    Table("felt", Felt, "setup__bike__garage", lambda row: None, fixed=True),
    Table("pairing", Pairing, "setup__bike__garage", lambda row: None, ("standing", "key")),
)


def travels(table: Table) -> list[models.Field]:
    """Columns of a row that travel."""
    return [
        f for f in table.model._meta.concrete_fields if not f.primary_key and f.name not in ("garage", *table.left_out)
    ]


def _cell(row: models.Model, column: models.Field) -> Any:
    if isinstance(column, models.ForeignKey):
        other = getattr(row, column.name)
        return None if other is None else other.pk if column.related_model is CourseBlob else str(other.uid)
    value = getattr(row, column.name)
    if isinstance(value, uuid.UUID):
        return str(value)
    return value.isoformat() if isinstance(value, datetime) else value


def said_of(table: Table, row: models.Model) -> dict[str, Any]:
    """A row as a line says it."""
    said: dict[str, Any] = {"row": table.name} | {c.name: _cell(row, c) for c in travels(table)}
    if isinstance(row, Race):
        said["others"] = [str(r.uid) for r in row.others.all()]
    if isinstance(row, Setup):
        said["head"] = str(row.head.uid) if row.head else None
    return said


def mark(table: Table, said: dict[str, Any]) -> str:
    """The mark of a row: equal for two copies that say the same."""
    stamps = {c.name for c in travels(table) if getattr(c, "auto_now", False)}
    return mark_of({k: v for k, v in said.items() if k not in stamps and k not in table.apart and k != "head"})


def rows_of(table: Table, garage: Garage) -> models.QuerySet:
    """The rows of a table that are a garage's, in their order."""
    return table.model.objects.filter(**{table.mine: garage}).order_by("pk")  # type: ignore[attr-defined]


def decide(
    ours: str | None, theirs: str | None, common: Collection[str], *, gone_here: bool = False, gone_there: bool = False
) -> Action:
    """Of a row by its marks, None where a copy has not got it. common: marks that it had when both had the same;
    gone_here, gone_there: it was put away on purpose. "ask" where both changed it, or one changed what the other put
    away.
    """
    if ours is None and theirs is None:
        return "same"
    if ours is None:
        if not gone_here:
            return "new"
        return "ours" if theirs in common else "ask"
    if theirs is None:
        if not gone_there:
            return "ours"
        return "remove" if ours in common else "ask"
    if ours == theirs:
        return "same"
    if theirs in common:
        return "ours"
    return "theirs" if ours in common else "ask"
