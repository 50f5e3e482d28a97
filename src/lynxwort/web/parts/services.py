"""Verbs on the parts box: add, change, to and from a file; the box as the core knows it."""

import csv
import io
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from django.db import transaction
from django.db.models import QuerySet
from django.utils.translation import gettext as _
from pydantic import ValidationError

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.base import field_facts
from lynxwort.core.model.box import PartsBox, Priced
from lynxwort.core.model.damper import StackShim
from lynxwort.core.model.parts import FITTED_KINDS, KINDS, BoxPart
from lynxwort.core.model.refused import refusals_of
from lynxwort.core.units.convert import UnitNotUnderstood, Units, parse_typed
from lynxwort.core.units.lines import read_values, rounded, write_value
from lynxwort.core.units.tables import MOST_COLUMNS
from lynxwort.web.garages.models import Garage
from lynxwort.web.parts.models import OwnedPart
from lynxwort.web.ui.sheets import csv_text, read_back
from lynxwort.web.ui.stale import StaleFacts
from lynxwort.web.ui.typed import whole_number
from lynxwort.words import decimal
from lynxwort.words.catalogue import TERMS

COLUMNS = ("kind", "value", "unit", "label", "count", "condition", "place", "price", "fitting_min")
#: what is known of a part besides what it is
ABOUT = ("count", "condition", "place", "label", "cost", "work_s")
SHOP = OwnedPart.Condition.SHOP
MOST_ALIKE = int(field_facts(BoxPart, "count").high or 1)
NOTHING: Mapping[str, float | None] = {}
MAX_FILE_BYTES = 1_000_000
#: rows of a file, and letters of the value in one: as long as what may be typed
MAX_ROWS, MAX_VALUE = 2000, 400


def checked(document: dict[str, Any]) -> BoxPart:
    """The core's part. Raises InputRefused."""
    try:
        return BoxPart.model_validate(document)
    except ValidationError as error:
        raise InputRefused(*refusals_of(error, root=BoxPart)) from None


def put(garage: Garage, part: BoxPart) -> tuple[OwnedPart, bool]:
    """Put a part in the box, or on the list of what a shop has; one that is there already (same kind, value, details,
    label) takes the new count, condition and place, and a price and a time where they are said.
    """
    details = part.model_dump(mode="json", include={part.kind}, exclude_none=True) if part.value is None else {}
    value = None if part.value is None else rounded(part.value)
    about = {"count": part.count, "condition": part.condition, "place": part.place}
    about |= {name: said for name in ("cost", "work_s") if (said := getattr(part, name)) is not None}
    same = {"garage": garage, "kind": part.kind, "value": value, "details": details, "label": part.label}
    lies = _there(**same, shop=part.condition == SHOP).first()
    if lies is None:
        return OwnedPart.objects.create(**same, **about), True
    for name, said in about.items():
        setattr(lies, name, said)
    lies.save(update_fields=list(about))
    return lies, False


def _there(*, shop: bool, **same: Any) -> QuerySet[OwnedPart]:
    """Rows of one kind of part: in a shop, or in the box."""
    rows = OwnedPart.objects.filter(**same)
    return rows.filter(condition=SHOP) if shop else rows.exclude(condition=SHOP)


@transaction.atomic
def quick_add(garage: Garage, kind: str, text: str, units: Units | str, **about: Any) -> int:
    """Several parts from one line; how many were new. All or none. Raises InputRefused."""
    parts = [checked(document | about) for document in read_values(kind, text, units)]
    return sum(put(garage, part)[1] for part in parts)


def add_part(
    garage: Garage, kind: str, value_si: float, said: Mapping[str, float | None] = NOTHING, *, shop: bool = False
) -> bool:
    """Put one fitted part in the box, or on the list of what a shop has; False when it already stands there. said: its
    price and time.
    """
    same = {"garage": garage, "kind": kind, "value": rounded(float(value_si))}
    if _there(**same, shop=shop).exists():
        return False
    OwnedPart.objects.create(**same, **said, **({"condition": SHOP} if shop else {}))
    return True


def take_box(garage: Garage, box: PartsBox) -> None:
    """The box of a document; what stands in the garage's already is left as it is. Raises InputRefused."""
    for shim in box.shims:
        size = shim.model_dump(mode="json", exclude={"count"}, exclude_none=True)
        put(garage, BoxPart.model_validate({"kind": "shim", "count": shim.count, "shim": size}))
    told: dict[tuple[str, float], Mapping[str, float | None]] = {
        (p.tunable, p.value): {"cost": p.cost, "work_s": p.work_s} for p in box.priced
    }
    for kind in FITTED_KINDS:
        for value in box.owned(kind):
            add_part(garage, kind, value, told.pop((kind, value), NOTHING))
    for (kind, value), said in told.items():
        checked({"kind": kind, "value": value})
        add_part(garage, kind, value, said, shop=True)


def about(row: OwnedPart) -> dict[str, Any]:
    """What the box's page edits of a part."""
    return {name: getattr(row, name) for name in ABOUT}


@transaction.atomic
def change(row: OwnedPart, *, seen: dict[str, Any] | None = None, **told: Any) -> None:
    """Change what is known of a part. seen: as edited. Raises InputRefused, StaleFacts."""
    now = OwnedPart.objects.get(pk=row.pk)
    if seen is not None and about(now) != seen:
        raise StaleFacts
    part = checked(now.as_document() | told)
    for name in ABOUT:
        setattr(now, name, getattr(part, name))
    now.save(update_fields=list(ABOUT))


@transaction.atomic
def bought(row: OwnedPart) -> None:
    """What was to buy lies in the box from now on, with what lies there of it."""
    if row.condition != SHOP:
        return
    same = {"garage": row.garage, "kind": row.kind, "value": row.value, "details": row.details, "label": row.label}
    lies = _there(**same, shop=False).exclude(condition=OwnedPart.Condition.SPENT).first()
    if lies is None:
        row.condition = OwnedPart.Condition.NEW
        row.save(update_fields=["condition"])
        return
    change(lies, count=min(lies.count + row.count, MOST_ALIKE))
    row.delete()


def parts_box(garage: Garage) -> PartsBox:
    """The box as the core takes it: what can be fitted, and what may be bought; spent parts lie there for nothing."""
    fitted: dict[str, set[float]] = {}
    shims, told = [], dict[tuple[str, float], tuple[float | None, float | None]]()
    rows = OwnedPart.objects.filter(garage=garage, kind__in=(*FITTED_KINDS, "shim"))
    for row in rows.exclude(condition=OwnedPart.Condition.SPENT).only("kind", "value", "details", "count", *ABOUT):
        shop = row.condition == SHOP
        if row.value is None:
            if not shop:
                shims.append((*sorted(row.details["shim"].items()), ("count", min(row.count, 30))))
            continue
        if not shop:
            fitted.setdefault(row.kind, set()).add(row.value)
        if shop or row.cost is not None or row.work_s is not None:
            cost, work_s = told.get((row.kind, row.value), (None, None))
            # what a shop asks today goes before what was paid
            cost = row.cost if cost is None or (shop and row.cost is not None) else cost
            told[row.kind, row.value] = cost, row.work_s if work_s is None else work_s
    return _box(
        tuple((k, tuple(sorted(v))) for k, v in sorted(fitted.items())), tuple(shims), tuple(sorted(told.items()))
    )


@lru_cache(maxsize=64)
def _box(
    fitted: tuple[tuple[str, tuple[float, ...]], ...],
    shims: tuple[Any, ...],
    told: tuple[tuple[tuple[str, float], tuple[float | None, float | None]], ...],
) -> PartsBox:
    """The same box as long as the same lies in it."""
    return PartsBox(
        **dict(fitted),
        shims=tuple(StackShim(**dict(s)) for s in shims),
        priced=tuple(
            Priced(
                tunable=kind, value=value, **{k: v for k, v in (("cost", cost), ("work_s", work_s)) if v is not None}
            )
            for (kind, value), (cost, work_s) in told
        ),
    )


def _said(part: BoxPart) -> str:
    """A part that is no number, as it is read."""
    if part.wheel:
        return f"{_(TERMS[part.wheel.end])} {part.wheel.marking}"
    return decimal(write_value(part)[0])


def shelves(garage: Garage) -> list[tuple[str, list[tuple[OwnedPart, str]]]]:
    """Kind by kind the parts, each with what it is in a file's words (for needles, wheels and shims)."""
    rows = list(OwnedPart.objects.filter(garage=garage))
    return [
        (k, [(p, _said(checked(p.as_document())) if p.value is None else "") for p in rows if p.kind == k])
        for k in KINDS
    ]


def write_csv(garage: Garage) -> str:
    """The whole box as CSV; `read_csv` reads it back the same."""
    rows: list[Sequence[object]] = [COLUMNS]
    for row in OwnedPart.objects.filter(garage=garage):
        value, unit = write_value(checked(row.as_document()))
        price = "" if row.cost is None else f"{row.cost:.12g}"
        fitting = "" if row.work_s is None else f"{row.work_s / 60.0:.12g}"
        rows.append([row.kind, value, unit, row.label, row.count, row.condition, row.place, price, fitting])
    return csv_text(rows)


@dataclass(frozen=True, slots=True)
class RowRefused:
    """A refused row of a file: its line, counted as an editor does, and why."""

    line: int
    refusal: Refusal


class TableRefused(ValueError):
    """A file of parts was refused; nothing of it was taken."""

    def __init__(self, rows: list[RowRefused]) -> None:
        self.rows = rows
        super().__init__("; ".join(f"line {r.line}: {r.refusal.code}" for r in rows))


def _row_parts(row: dict[str, str], units: Units | str) -> list[BoxPart]:
    kind = (row.get("kind") or "").strip()
    if kind not in KINDS:
        raise InputRefused(Refusal(path="kind", code="not_a_choice"))
    value, unit = (row.get("value") or "").strip(), (row.get("unit") or "").strip()
    if len(value) > MAX_VALUE:
        raise InputRefused(Refusal(path="value", code="too_long"))
    text = f"{value} {unit}" if unit and kind not in ("needle", "wheel", "shim") else value
    about: dict[str, Any] = {
        k: read_back((row.get(k) or "").strip()) for k in ("label", "place", "condition") if (row.get(k) or "").strip()
    }
    count = whole_number((row.get("count") or "").strip() or "1")
    if count is None:
        raise InputRefused(Refusal(path="count", code="not_a_whole_number"))
    for column, name in (("price", "cost"), ("fitting_min", "work_s")):
        if typed := (row.get(column) or "").strip():
            about[name] = _number(column, name, typed, units)
    return [checked(document | about | {"count": count}) for document in read_values(kind, text, units)]


def _number(column: str, name: str, typed: str, units: Units | str) -> float:
    """A price or a time of a file's row. Raises InputRefused."""
    facts = field_facts(BoxPart, name)
    try:
        return rounded(parse_typed(typed, facts.kind, units, low=facts.low, high=facts.high))
    except UnitNotUnderstood as error:
        raise InputRefused(Refusal(path=column, code=error.code, message=error.message)) from None


def read_csv(garage: Garage, data: bytes, units: Units | str) -> int:
    """Take a file of parts into the box, all or nothing; how many rows. Commas, semicolons or tabs. Raises
    TableRefused.
    """
    if len(data) > MAX_FILE_BYTES:
        raise TableRefused(
            [RowRefused(1, Refusal(path="file", code="too_large", high=MAX_FILE_BYTES / 1e6, unit="MB"))]
        )
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise TableRefused([RowRefused(1, Refusal(path="file", code="not_text"))]) from None
    head = text.partition("\n")[0]
    delimiter = max(",;\t", key=head.count)
    table = csv.DictReader(io.StringIO(text), delimiter=delimiter)
    if not {"kind", "value"} <= {(n or "").strip() for n in table.fieldnames or ()}:
        raise TableRefused([RowRefused(1, Refusal(path="file", code="no_part_columns"))])
    if len(table.fieldnames or ()) > MOST_COLUMNS:
        raise TableRefused([RowRefused(1, Refusal(path="file", code="too_many_columns", high=MOST_COLUMNS))])
    table.fieldnames = [(n or "").strip() for n in table.fieldnames or ()]
    taken: list[Any] = []
    refused: list[Any] = []
    try:
        for row in table:
            if len(taken) + len(refused) >= MAX_ROWS:
                refused.append(RowRefused(table.line_num, Refusal(path="file", code="too_many")))
                break
            try:
                taken.append(_row_parts(row, units))
            except InputRefused as error:
                refused += [RowRefused(table.line_num, r) for r in error.refusals]
    except csv.Error:
        refused.append(RowRefused(table.line_num, Refusal(path="file", code="not_text")))
    if refused:
        raise TableRefused(refused)
    with transaction.atomic():
        for parts in taken:
            for part in parts:
                put(garage, part)
    return len(taken)


@dataclass(frozen=True, slots=True, kw_only=True)
class Reckoned:
    """What a file of parts would do to the box: parts new in it, those that more is known of then, and those left."""

    adds: int
    changes: int
    leaves: int


def would_read(garage: Garage, data: bytes, units: Units | str) -> Reckoned:
    """What taking a file in would do; nothing is written. Raises TableRefused."""

    def lying() -> dict[int, dict[str, Any]]:
        return {row.pk: about(row) for row in OwnedPart.objects.filter(garage=garage)}

    with transaction.atomic():
        before = lying()
        read_csv(garage, data, units)
        after = lying()
        transaction.set_rollback(True)
    changes = sum(before[pk] != after[pk] for pk in before)
    return Reckoned(adds=len(after.keys() - before.keys()), changes=changes, leaves=len(before) - changes)
