"""Two copies of a garage made one: rows by their uid, each three-way against what both had in common. What is never
changed is united; struck out stays struck out; what both changed is asked, and stays ours until somebody chooses. Kept
setups that both copies made on top of the same one become lines of their own.

What is tried first is the merge itself, taken back: it cannot say something else than what is then done.
"""

import base64
import binascii
import uuid
from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any, BinaryIO

from django.core.exceptions import ValidationError as FieldError
from django.db import models, transaction

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.web.bench.models import Pairing
from lynxwort.web.bikes.models import Draft, Revision, Setup
from lynxwort.web.garages.models import Garage
from lynxwort.web.machine.apps import PUT_AWAY
from lynxwort.web.machine.garage_lines import head_of, marks_in, note_taken, read_lines, refuse
from lynxwort.web.machine.models import Gone, Taken
from lynxwort.web.machine.travel import TABLES, Table, decide, mark, said_of, travels
from lynxwort.web.races.models import CourseBlob, Race, Rider
from lynxwort.web.races.tracks import add_blob
from lynxwort.web.runs.models import LoadLine
from lynxwort.web.service.models import ServiceLine

#: what is asked at most, and how many differences of each are told
MOST_ASKED, MOST_TOLD = 200, 8
_WRONG = (KeyError, TypeError, ValueError, AttributeError, OverflowError, FieldError, binascii.Error,
          models.ObjectDoesNotExist)  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class Asked:
    """A row that both copies changed, or one changed and the other put away. gone: "here", "there" or empty; differs:
    (where, ours, theirs) of what they say, as it is stored.
    """

    uid: str
    table: str
    title: str
    gone: str
    differs: tuple[tuple[str, str, str], ...] = ()


@dataclass
class Merged:
    """What became of the rows. counts: of each (table, action); asked; branches: names of lines that were made."""

    counts: Counter[tuple[str, str]] = field(default_factory=Counter)
    asked: list[Asked] = field(default_factory=list)
    branches: list[str] = field(default_factory=list)

    def many(self, *actions: str) -> int:
        """How many rows went such ways."""
        return sum(n for (_table, action), n in self.counts.items() if action in actions)


@dataclass
class _Merging:
    """What is under way. label: what the other copy is called; choices: uid -> "theirs" where one chose so; known:
    uid -> row, of this garage; common: marks of each row that both copies had; marks: of the rows that came in;
    heads: new setups with the uid of their head; placed: last revision that came into each setup.
    """

    garage: Garage
    label: str
    choices: Mapping[str, str]
    done: Merged = field(default_factory=Merged)
    known: dict[str, models.Model] = field(default_factory=dict)
    common: dict[str, set[str]] = field(default_factory=dict)
    marks: dict[str, str] = field(default_factory=dict)
    gone_here: set[str] = field(default_factory=set)
    gone_there: dict[str, str] = field(default_factory=dict)
    heads: list[tuple[Setup, str]] = field(default_factory=list)
    placed: dict[int, Revision] = field(default_factory=dict)

    def of(self, uid: Any, model: type[models.Model]) -> models.Model:
        """A row named by another. Raises ValueError when it is none of this garage or of another kind."""
        row = self.known.get(str(uid))
        if not isinstance(row, model):
            raise ValueError(uid)
        return row

    def learn(self, marks: Mapping[str, str]) -> None:
        """Marks that rows had when both copies had the same."""
        for uid, one in marks.items():
            self.common.setdefault(uid, set()).add(one)

    def chosen(self, uid: str) -> str:
        """What becomes of a row that is asked."""
        return "theirs" if self.choices.get(uid) == "theirs" else "ours"


def _flat(said: Any, path: str = "") -> dict[str, str]:
    if isinstance(said, dict):
        return {k: v for name, one in said.items() for k, v in _flat(one, f"{path}.{name}" if path else name).items()}
    text = "" if said is None else f"{said:g}" if isinstance(said, float) else str(said)
    return {path: text if len(text) <= 60 else f"{text[:57]}..."}


def _differs(table: Table, ours: dict[str, Any], theirs: dict[str, Any]) -> tuple[tuple[str, str, str], ...]:
    a, b = _flat({k: ours.get(k) for k in theirs}), _flat(theirs)
    skip = {c.name for c in travels(table) if getattr(c, "auto_now", False)} | {"version", "head"}
    names = [n for n in dict.fromkeys((*a, *b)) if a.get(n, "") != b.get(n, "") and n.split(".")[0] not in skip]
    return tuple((n.removeprefix("document."), a.get(n, ""), b.get(n, "")) for n in names[:MOST_TOLD])


def _column(at: _Merging, column: models.Field, said: dict[str, Any]) -> Any:
    value = said[column.name]
    if isinstance(column, models.ForeignKey):
        if value is None and column.null:
            return None
        if column.related_model is CourseBlob:
            return CourseBlob.objects.get(pk=str(value))
        return at.of(value, column.related_model)
    plain = column.to_python(value)
    if plain is None and not column.null:
        raise ValueError(column.name)
    if plain not in column.empty_values:
        column.validate(plain, None)
    column.run_validators(plain)
    return plain


def _twin(at: _Merging, table: Table, said: dict[str, Any]) -> models.Model | None:
    """The row here that plays the part of one that is not here, where there can be only one."""
    if table.model is Pairing:
        return Pairing.objects.filter(race=at.of(said["race"], Race)).first()  # type: ignore[misc]
    if table.model is Draft:
        return Draft.objects.filter(setup=at.of(said["setup"], Setup)).first()  # type: ignore[misc]
    if table.model is LoadLine:
        return LoadLine.objects.filter(race=at.of(said["race"], Race), key=said["key"]).first()  # type: ignore[misc]
    if table.model is ServiceLine and said["kind"] == "about":
        return ServiceLine.objects.filter(bike=at.known[str(said["bike"])], kind="about").first()  # type: ignore[misc]
    if table.model is Setup and said.get("head"):
        # a line that was made of revisions which stand in another line here
        head = Revision.objects.filter(uid=said["head"], setup__bike__garage=at.garage).first()
        return None if head is None else head.setup
    return None


def _new(at: _Merging, table: Table, said: dict[str, Any]) -> None:
    """A row that is not here. Raises what is wrong with it."""
    uid = str(said["uid"])
    twin = _twin(at, table, said)
    if twin is not None:
        at.known[uid] = twin
        at.done.counts[table.name, "ours"] += 1
        return
    if table.model is Revision:
        said = _placed(at, said)
    row = table.model(**{c.name: _column(at, c, said) for c in travels(table)})
    if hasattr(row, "garage_id"):
        row.garage = at.garage  # type: ignore[attr-defined]
    table.check(row)
    row.save()
    stamps = {
        c.name: getattr(row, c.name)
        for c in travels(table)
        if getattr(c, "auto_now_add", False) or getattr(c, "auto_now", False)
    }
    if stamps:
        table.model.objects.filter(pk=row.pk).update(**{n: datetime.fromisoformat(said[n]) for n in stamps})  # type: ignore[attr-defined]
    if isinstance(row, Race):
        row.others.set([at.of(u, Rider) for u in said.get("others", [])])  # type: ignore[misc]
    if isinstance(row, Setup) and said.get("head"):
        at.heads.append((row, said["head"]))
    if isinstance(row, Revision):
        at.placed[row.setup_id] = row
    at.known[uid] = row
    at.done.counts[table.name, "new"] += 1


def _placed(at: _Merging, said: dict[str, Any]) -> dict[str, Any]:
    """A revision where it belongs here: on its own line where its number is free, behind its parent where that stands
    on another line, else on a line of its own.
    """
    line: Setup = at.of(said["setup"], Setup)  # type: ignore[assignment]
    parent: Revision | None = at.of(said["parent"], Revision) if said["parent"] else None  # type: ignore[assignment]
    if parent is not None and parent.setup_id != line.pk:
        last = parent.setup.revisions.aggregate(last=models.Max("number"))["last"]
        at.known[f"line of {said['uid']}"] = parent.setup
        return said | {"setup": f"line of {said['uid']}", "number": last + 1}
    if not line.revisions.filter(number=said["number"]).exists():
        return said
    made = Setup.objects.create(
        bike=line.bike, name=f"{said['number']}, {at.label}"[:60], uid=uuid.uuid5(line.uid, str(said["uid"]))
    )
    Draft.objects.create(setup=made, values=said["document"]["setup"], uid=uuid.uuid5(made.uid, "draft"))
    at.done.branches.append(made.title)
    at.known[str(made.uid)] = made
    return said | {"setup": str(made.uid)}


def _change(at: _Merging, table: Table, row: Any, said: dict[str, Any]) -> None:
    """Take what the other copy says of a row. Raises what is wrong with it."""
    names = {"name"} if table.model in (Revision, Setup) else {c.name for c in travels(table)} - {"uid", "struck_out"}
    for column in travels(table):
        if column.name in names and column.name not in table.apart:
            setattr(row, column.name, _column(at, column, said))
    if "version" in table.apart:
        row.version += 1
    table.check(row)
    row.save()
    if isinstance(row, Race):
        row.others.set([at.of(u, Rider) for u in said.get("others", [])])  # type: ignore[misc]


def _row(at: _Merging, table: Table, said: dict[str, Any]) -> None:
    """One row of the other copy. Raises what is wrong with it."""
    uid = str(uuid.UUID(str(said["uid"])))
    theirs = at.marks[uid] = mark(table, said)
    there: Any = table.model.objects.filter(uid=uid).first()  # type: ignore[attr-defined]
    ours_said = None
    if there is not None:
        if not table.model.objects.filter(pk=there.pk, **{table.mine: at.garage}).exists():  # type: ignore[attr-defined]
            raise InputRefused(Refusal(path="", code="of_another_garage"))
        at.known[uid] = there
        ours_said = said_of(table, there)
    ours = None if ours_said is None else mark(table, ours_said)
    action = decide(ours, theirs, at.common.get(uid, ()), gone_here=uid in at.gone_here)
    if table.fixed and there is not None:
        action = "same"
    if action == "ask":
        gone = "here" if there is None else ""
        title = (
            str(there) if there is not None else str(said.get("name") or said.get("label") or said.get("kind") or "")
        )
        if len(at.done.asked) < MOST_ASKED:
            differs = () if ours_said is None else _differs(table, ours_said, said)
            at.done.asked.append(Asked(uid=uid, table=table.name, title=title, gone=gone, differs=differs))
        action = "new" if there is None and at.chosen(uid) == "theirs" else at.chosen(uid)  # type: ignore[assignment]
    if action == "new":
        Gone.objects.filter(garage=at.garage, uid=uid).delete()
        _new(at, table, said)
        return
    if action == "theirs":
        _change(at, table, there, said)
    if there is not None and said.get("struck_out") and not there.struck_out:
        table.model.objects.filter(pk=there.pk).update(struck_out=True)  # type: ignore[attr-defined]
        action = "theirs"
    at.done.counts[table.name, action] += 1


def _put_away(at: _Merging) -> None:
    """What the other copy put away."""
    away = {name for name, _way in PUT_AWAY.values()}
    tables = {t.name: t for t in TABLES if t.name in away}
    for uid, name in at.gone_there.items():
        table = tables.get(name)
        row: Any = None if table is None else table.model.objects.filter(uid=uid, **{table.mine: at.garage}).first()  # type: ignore[attr-defined]
        if table is None or uid in at.marks:
            continue
        if row is None:
            Gone.objects.get_or_create(garage=at.garage, uid=uid, defaults={"table": name})
            continue
        action = decide(mark(table, said_of(table, row)), None, at.common.get(uid, ()), gone_there=True)
        if action == "ask":
            at.done.asked += [Asked(uid=uid, table=name, title=str(row), gone="there")][
                : MOST_ASKED - len(at.done.asked)
            ]
            action = "remove" if at.chosen(uid) == "theirs" else "ours"
        if action == "remove":
            row.delete()
        at.done.counts[name, action] += 1


def _behind(revision: Revision, older: Revision | None) -> bool:
    """Whether a revision was made on top of another, or there is none to be made on."""
    one: Revision | None = revision
    while one is not None and older is not None:
        if one.pk == older.pk:
            return True
        one = one.parent
    return older is None


def _move_heads(at: _Merging) -> None:
    """What is kept on each line: of new lines as they said, of the others what came in on top."""
    for line, uid in at.heads:
        head = at.known.get(uid)
        if not isinstance(head, Revision):
            raise ValueError(uid)
        if head.setup_id == line.pk:
            Setup.objects.filter(pk=line.pk).update(head=head)
            at.placed.pop(line.pk, None)
    for pk, last in at.placed.items():
        line = Setup.objects.select_related("head").get(pk=pk)
        if _behind(last, line.head):
            Setup.objects.filter(pk=pk).update(head=last)
            Draft.objects.filter(setup=pk, parent=None).update(parent=last)


def _all(at: _Merging, file: BinaryIO) -> None:
    tables = {t.name: t for t in TABLES}
    found = read_lines(file)
    head = head_of(found)
    origin = _uid_or_none(head.get("garage"))
    if origin is not None:
        for taken in Taken.objects.filter(garage=at.garage, origin=origin):
            at.learn(marks_in(taken))
    at.gone_here = {str(u) for u in Gone.objects.filter(garage=at.garage).values_list("uid", flat=True)}
    number = 1
    for number, said in found:
        try:
            match said.get("row"):
                case "blob":
                    add_blob(str(said["key"]), base64.b64decode(said["data"], validate=True))
                case "base":
                    if str(said["of"]) == str(at.garage.uid):
                        at.learn({str(k): str(v) for k, v in said["marks"].items()})
                case "gone":
                    at.gone_there[str(uuid.UUID(str(said["uid"])))] = str(said["table"])
                case name:
                    _row(at, tables[str(name)], said)
        except InputRefused as error:
            raise refuse(number, error.refusals[0].code, error.refusals[0].message) from None
        except _WRONG:
            raise refuse(number, "not_a_garage_line") from None
    try:
        _put_away(at)
        _move_heads(at)
    except _WRONG:
        raise refuse(number, "not_a_garage_line") from None
    if origin is not None:
        note_taken(at.garage, origin, at.marks)


def _uid_or_none(text: Any) -> str | None:
    try:
        return str(uuid.UUID(str(text)))
    except ValueError:
        return None


def merge(
    garage: Garage, file: BinaryIO, *, label: str = "2", choices: Mapping[str, str] | None = None, dry: bool = False
) -> Merged:
    """Merge the lines of another copy into a garage, all or none. label: what lines of its own are called by; choices:
    uid -> "theirs" where both changed a row and theirs is wanted; dry: only what would become of it. Raises
    InputRefused with the line that is wrong.
    """
    at = _Merging(garage, label, choices or {})
    with transaction.atomic():
        _all(at, file)
        if dry:
            transaction.set_rollback(True)
    return at.done
