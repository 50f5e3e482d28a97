"""One garage as JSON lines: what it says of itself first, then a row a line, named by uid, its courses with it and
nobody's account.

Rows that are there already stay as they stand: taken in twice is taken in once. A row of another garage is not touched,
whoever has its lines.
"""

import base64
import binascii
import json
import uuid
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from datetime import UTC, datetime
from typing import Any, BinaryIO

from django.core.exceptions import ValidationError as FieldError
from django.db import models, transaction

from lynxwort.core import CORE_VERSION
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
from lynxwort.web.races.tracks import add_blob, lay_course
from lynxwort.web.readings.models import Reading
from lynxwort.web.readings.services import checked_reading
from lynxwort.web.runs.days import checked_click, checked_day
from lynxwort.web.runs.models import Arrival, ClickTurn, LoadLine, RiddenDay, Trial, TrialRun
from lynxwort.web.runs.services import checked_run, checked_trial
from lynxwort.web.service.models import ServiceLine
from lynxwort.web.service.services import checked_line
from lynxwort.web.ui.typed import json_of

FORMAT = 1
KIND = "lynxwort garage"
MOST_BYTES, MOST_LINE_BYTES, MOST_LINES, MOST_DEPTH = 78_000_000, 12_000_000, 200_000, 40


@dataclass(frozen=True)
class Table:
    """How rows of a model travel. mine: the path from a row to its garage; left_out: what does not travel; check: of a
    row, raises InputRefused.
    """

    name: str
    model: type[models.Model]
    mine: str
    check: Callable[[Any], object]
    left_out: tuple[str, ...] = ()


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
    Table("race", Race, "garage", _checked_race, ("past",)),
    Table("bike", Bike, "garage", lambda row: checked_bike(row.document)),
    Table("setup", Setup, "bike__garage", lambda row: None, ("head",)),
    Table("revision", Revision, "setup__bike__garage", _checked_revision),
    Table("draft", Draft, "setup__bike__garage", _checked_draft),
    Table("part", OwnedPart, "garage", lambda row: checked_part(row.as_document())),
    Table("reading", Reading, "bike__garage", lambda row: checked_reading(row.document), ("by",)),
    Table("trial", Trial, "setup__bike__garage", lambda row: checked_trial(row.document)),
    Table("run", TrialRun, "trial__setup__bike__garage", lambda row: checked_run(row.document)),
    Table("day", RiddenDay, "setup__bike__garage", lambda row: checked_day(row.document)),
    Table("click", ClickTurn, "day__setup__bike__garage", lambda row: checked_click(row.document)),
    Table("arrival", Arrival, "setup__bike__garage", lambda row: None, ("by",)),
    Table("load", LoadLine, "race__garage", lambda row: None, ("by",)),
    Table("service", ServiceLine, "bike__garage", lambda row: checked_line(row.kind, row.document)),
    Table("felt", Felt, "setup__bike__garage", lambda row: None),
    Table("pairing", Pairing, "setup__bike__garage", lambda row: None, ("standing", "key")),
)


def _travels(table: Table) -> list[models.Field]:
    return [
        f for f in table.model._meta.concrete_fields if not f.primary_key and f.name not in ("garage", *table.left_out)
    ]


def _said(row: models.Model, column: models.Field) -> Any:
    if isinstance(column, models.ForeignKey):
        other = getattr(row, column.name)
        return None if other is None else other.pk if column.related_model is CourseBlob else str(other.uid)
    value = getattr(row, column.name)
    if isinstance(value, uuid.UUID):
        return str(value)
    return value.isoformat() if isinstance(value, datetime) else value


def lines(garage: Garage) -> Iterator[str]:
    """The lines of a garage, each with its line end."""
    rows = {t.name: t.model.objects.filter(**{t.mine: garage}).order_by("pk") for t in TABLES}  # type: ignore[attr-defined]
    about = {
        "kind": KIND,
        "format": FORMAT,
        "core_version": CORE_VERSION,
        "made": datetime.now(UTC).isoformat(timespec="seconds"),
        "name": garage.name,
        "counts": {name: found.count() for name, found in rows.items()},
    }
    yield json.dumps(about) + "\n"
    for blob in CourseBlob.objects.filter(course__garage=garage).distinct().iterator(chunk_size=4):
        yield json.dumps({"row": "blob", "key": blob.pk, "data": base64.b64encode(blob.data).decode()}) + "\n"
    for table in TABLES:
        for row in rows[table.name].iterator(chunk_size=50):
            said: dict[str, Any] = {"row": table.name} | {c.name: _said(row, c) for c in _travels(table)}
            if isinstance(row, Race):
                said["others"] = [str(r.uid) for r in row.others.all()]
            if isinstance(row, Setup):
                said["head"] = str(row.head.uid) if row.head else None
            yield json.dumps(said) + "\n"


def _refuse(line: int, code: str, message: str = "", high: float | None = None) -> InputRefused:
    return InputRefused(Refusal(path=f"line.{line}" if line else "file", code=code, message=message, high=high))


def _read_lines(file: BinaryIO) -> Iterator[tuple[int, dict[str, Any]]]:
    """The lines as objects, each met by its limits before anything is built from it. Raises InputRefused."""
    size = number = 0
    while raw := file.readline(MOST_LINE_BYTES + 1):
        number, size = number + 1, size + len(raw)
        if size > MOST_BYTES or number > MOST_LINES:
            raise _refuse(0, "file_too_large", high=MOST_BYTES / 1e6)
        if len(raw) > MOST_LINE_BYTES:
            raise _refuse(number, "line_too_long")
        if not raw.strip():
            continue
        try:
            said = json_of(raw.decode("utf-8"), most=MOST_LINE_BYTES, depth=MOST_DEPTH)
        except (ValueError, RecursionError):
            said = None
        if not isinstance(said, dict):
            raise _refuse(number, "not_a_garage_line")
        yield number, said


@dataclass
class _Taking:
    """What is being taken in. known: uid -> row, of this garage; new: rows made; kept: rows that were there; heads:
    setups with the uid of their head.
    """

    garage: Garage
    known: dict[str, models.Model] = field(default_factory=dict)
    new: int = 0
    kept: int = 0
    heads: list[tuple[Setup, str]] = field(default_factory=list)

    def of(self, uid: Any, model: type[models.Model]) -> models.Model:
        """A row named by another. Raises ValueError when it is none of this garage or of another kind."""
        row = self.known.get(str(uid))
        if not isinstance(row, model):
            raise ValueError(uid)
        return row


def _column(taking: _Taking, column: models.Field, said: dict[str, Any]) -> Any:
    value = said[column.name]
    if isinstance(column, models.ForeignKey):
        if value is None and column.null:
            return None
        if column.related_model is CourseBlob:
            return CourseBlob.objects.get(pk=str(value))
        return taking.of(value, column.related_model)
    plain = column.to_python(value)
    if plain is None and not column.null:
        raise ValueError(column.name)
    if plain not in column.empty_values:
        column.validate(plain, None)
    column.run_validators(plain)
    return plain


def _take_row(taking: _Taking, table: Table, said: dict[str, Any]) -> None:
    uid = str(uuid.UUID(str(said["uid"])))
    there = table.model.objects.filter(uid=uid).first()  # type: ignore[attr-defined]
    if there is not None:
        if not table.model.objects.filter(pk=there.pk, **{table.mine: taking.garage}).exists():  # type: ignore[attr-defined]
            raise InputRefused(Refusal(path="", code="of_another_garage"))
        taking.known[uid], taking.kept = there, taking.kept + 1
        return
    row = table.model(**{c.name: _column(taking, c, said) for c in _travels(table)})
    if hasattr(row, "garage_id"):
        row.garage = taking.garage  # type: ignore[attr-defined]
    table.check(row)
    row.save()
    stamps = {
        c.name: getattr(row, c.name)
        for c in _travels(table)
        if getattr(c, "auto_now_add", False) or getattr(c, "auto_now", False)
    }
    if stamps:
        table.model.objects.filter(pk=row.pk).update(**{n: datetime.fromisoformat(said[n]) for n in stamps})  # type: ignore[attr-defined]
    if isinstance(row, Race):
        row.others.set([taking.of(u, Rider) for u in said.get("others", [])])  # type: ignore[misc]
    if isinstance(row, Setup) and said.get("head"):
        taking.heads.append((row, said["head"]))
    taking.known[uid], taking.new = row, taking.new + 1


def take_in(garage: Garage, file: BinaryIO) -> tuple[int, int]:
    """Take the lines of a garage into this one, all or none. How many rows are new, and how many were there already and
    stay as they are.

    Raises InputRefused with the line that is wrong.
    """
    tables = {t.name: t for t in TABLES}
    found = _read_lines(file)
    first = next(found, (1, {}))[1]
    if first.get("kind") != KIND or not isinstance(first.get("format"), int):
        raise _refuse(0, "not_a_garage")
    if first["format"] > FORMAT:
        raise _refuse(0, "newer_format")
    taking, number = _Taking(garage), 1
    with transaction.atomic():
        for number, said in found:
            try:
                if said.get("row") == "blob":
                    add_blob(str(said["key"]), base64.b64decode(said["data"], validate=True))
                else:
                    _take_row(taking, tables[said["row"]], said)
            except InputRefused as error:
                raise _refuse(number, error.refusals[0].code, error.refusals[0].message) from None
            except (
                KeyError,
                TypeError,
                ValueError,
                AttributeError,
                OverflowError,
                FieldError,
                binascii.Error,
                models.ObjectDoesNotExist,
            ):
                raise _refuse(number, "not_a_garage_line") from None
        for setup, head in taking.heads:
            try:
                Setup.objects.filter(pk=setup.pk).update(head=taking.of(head, Revision))
            except ValueError:
                raise _refuse(number, "not_a_garage_line") from None
    return taking.new, taking.kept
