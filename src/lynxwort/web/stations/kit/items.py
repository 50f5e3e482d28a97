"""The things that are bolted on, or can be: what their room shows, how one is kept, and their sheet as CSV."""

import csv
import io
import itertools
import json
from typing import Any

from django.utils.text import slugify
from django.utils.translation import gettext as _
from pydantic import ValidationError

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.bike import Item
from lynxwort.core.model.bike.catalogue import CATALOGUE
from lynxwort.core.model.fitted import items_on
from lynxwort.core.model.refused import refusals_of
from lynxwort.core.tunables import current_value, item_tunable
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.services import Bench
from lynxwort.web.bikes.models import Bike
from lynxwort.web.bikes.services import change_bike, checked_bike
from lynxwort.web.parts.models import OwnedPart
from lynxwort.web.ui.sheets import csv_text, read_back
from lynxwort.words.formatting import value_text
from lynxwort.words.kit import CATALOGUE as NAMES
from lynxwort.words.kit import GROUPS, NEEDS, PLACES, SCHOOLS

#: columns of a sheet: heading, field, factor from the sheet's unit to SI; words where there is no factor
COLUMNS: tuple[tuple[str, str, float | None], ...] = (
    ("name", "name", None), ("kind", "group", None), ("need", "need", None), ("kg", "mass_kg", 1.0),
    ("removed kg", "removed_kg", 1.0), ("mm ahead of rear axle", "ahead_m", 1e-3),
    ("mm above ground", "height_m", 1e-3), ("moves with", "on", None), ("turning share %", "gyration_share", 1e-2),
    ("weighed with", "weighed_with", None), ("cost", "cost", 1.0), ("hours", "work_s", 3600.0),
    ("watts", "watts_w", 1.0), ("draws", "when", None), ("for %", "duty_share", 1e-2), ("spent", "spent", 1.0),
    ("hours done", "worked_s", 3600.0), ("arrives", "arrives", None), ("after", "after", None),
)  # fmt: skip
#: height of what nobody has measured the place of [m] (assumption)
MIDDLE_M = 0.7
#: lines of a sheet, and bytes
MOST_LINES, MOST_BYTES = 200, 200_000


def slug_of(name: str, taken: set[str]) -> str:
    """A short name that no other item has."""
    stem = (slugify(name).replace("-", "_").strip("_") or "item")[:20].strip("_")
    return next(s for s in (stem, *(f"{stem}_{n}" for n in range(2, 99))) if s not in taken)


def shown(bench: Bench, units: Units | str) -> dict[str, Any]:
    """Every item with its state, and what the catalogue has besides."""
    bike, setup = bench.inputs.bike, bench.inputs.setup
    on = items_on(bike, setup)
    rows = []
    for item in bike.kit.items:
        tunable = item_tunable(item)
        other = 1.0 - current_value(setup, tunable)
        rows.append(
            {
                "item": item,
                "name": _(item.name),
                "on": item in on,
                "group": _(GROUPS[item.group]),
                "need": _(NEEDS[item.need]),
                "where": _("%(ahead)s ahead, %(up)s up")
                % {
                    "ahead": value_text(item.ahead_m, "length", units),
                    "up": value_text(item.height_m, "length", units),
                },
                "with": _(PLACES[item.on]),
                "moves": json.dumps([[tunable, other]]),
            }
        )
    has = {i.id for i in bike.kit.items}
    return {
        "rows": rows,
        "mass": bench.report.value("kit.build.mass"),
        "catalogue": [(i, _(NAMES[i.id])) for i in CATALOGUE if i.id not in has],
        "in_box": [(p.pk, p.label, p.value) for p in _in_box(bench.setup.bike)],
        "schools": [(_(name), _(says)) for name, says in SCHOOLS],
        "cost": sum(i.cost or 0.0 for i in on),
        "watts_w": sum(i.watts_w for i in on),
        "work_s": sum(i.work_s or 0.0 for i in on),
    }


def _in_box(row: Bike) -> list[OwnedPart]:
    """What lies in the parts box to be bolted on, and is not on the bike's list."""
    listed = {i["name"] for i in row.document.get("kit", {}).get("items", ())}
    rows = OwnedPart.objects.filter(garage_id=row.garage_id, kind="kit").exclude(label="")
    return [p for p in rows.exclude(condition__in=("spent", "shop")) if p.label not in listed]


def from_box(row: Bike, part: int) -> None:
    """Put something of the parts box on the bike's list, about the middle of the bike until its place is measured.
    Raises KeyError, InputRefused.
    """
    found = {p.pk: p for p in _in_box(row)}[part]
    middle = 0.5 * checked_bike(row.document).frame.wheelbase_m
    place = {"ahead_m": round(middle, 3), "height_m": MIDDLE_M}
    keep(row, {"name": found.label[:40], "mass_kg": found.value} | place)


def _with_items(row: Bike, make: Any, seen: dict[str, Any] | None = None) -> None:
    """The bike with another list of items. Raises InputRefused, StaleFacts."""

    def change(document: dict[str, Any]) -> dict[str, Any]:
        kit = document.get("kit", {})
        return document | {"kit": kit | {"items": make(list(kit.get("items", ())))}}

    change_bike(row, change, seen=seen)


def from_catalogue(row: Bike, identity: str) -> None:
    """Put a generic item on the bike's list. Raises KeyError, InputRefused."""
    found = {i.id: i for i in CATALOGUE}[identity]
    item = found.model_dump(mode="json", exclude_unset=True) | {"name": _(NAMES[identity])}
    _with_items(row, lambda items: [*(i for i in items if i["id"] != identity), item])


def keep(row: Bike, item: dict[str, Any], identity: str = "", seen: dict[str, Any] | None = None) -> None:
    """Keep an item: a new one, or in place of that of this id. What says the same as one that is there is that one, as
    after a double press. seen: the bike's facts that were edited. Raises InputRefused, StaleFacts.
    """

    def make(items: list[dict[str, Any]]) -> list[dict[str, Any]]:
        if identity:
            return [item | {"id": identity} if i["id"] == identity else i for i in items]
        if any(i == item | {"id": i["id"]} for i in items):
            return items
        return [*items, item | {"id": slug_of(item.get("name", ""), {i["id"] for i in items})}]

    _with_items(row, make, seen=seen)


def drop(row: Bike, identity: str) -> None:
    """Take an item off the bike's list; setups that have it on are as if they had it not."""
    _with_items(row, lambda items: [i for i in items if i["id"] != identity])


def _cell(value: Any, factor: float | None) -> object:
    """A value as a sheet holds it."""
    if value is None:
        return ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, tuple):
        return " ".join(value)
    return value if factor is None else f"{value / factor:.12g}"


def sheet(items: tuple[Item, ...]) -> str:
    """The items as CSV, a line each."""
    rows: list[list[object]] = [[heading for heading, _field, _factor in COLUMNS]]
    rows += [[_cell(getattr(item, field), factor) for _heading, field, factor in COLUMNS] for item in items]
    return csv_text(rows)


def _read(line: dict[str, str], number: int) -> dict[str, Any]:
    """An item of a line. Raises InputRefused with the line."""
    made: dict[str, Any] = {}
    for heading, field, factor in COLUMNS:
        word = read_back((line.get(heading) or "").strip())
        if not word:
            continue
        if field == "weighed_with":
            made[field] = word.lower() in ("yes", "1", "true", "x")
        elif field == "after":
            made[field] = word.split()
        elif factor is None:
            made[field] = word
        else:
            try:
                made[field] = float(word.replace(",", ".")) * factor
            except ValueError:
                raise InputRefused(
                    Refusal(path=f"line.{number}", code="not_a_number_there", message=word[:60])
                ) from None
    try:
        Item.model_validate(made | {"id": "item"})
    except ValidationError as error:
        found = refusals_of(error, root=Item)
        raise InputRefused(*(r.__class__(**{**_plain(r), "path": f"line.{number}.{r.path}"}) for r in found)) from None
    return made


def _plain(refusal: Refusal) -> dict[str, Any]:
    return {n: getattr(refusal, n) for n in ("code", "low", "high", "unit", "message")}


def take_sheet(row: Bike, file: Any) -> int:
    """The lines of a sheet as items of the bike, those of the same name in place of the ones there; how many. Raises
    InputRefused.
    """
    if file.size > MOST_BYTES:
        raise InputRefused(Refusal(path="file", code="too_large", high=MOST_BYTES / 1e6, unit="MB"))
    text = file.read().decode("utf-8-sig", errors="replace")
    first = text.splitlines()[0] if text.strip() else ""
    reader = csv.DictReader(io.StringIO(text), delimiter=";" if first.count(";") > first.count(",") else ",")
    if "name" not in (reader.fieldnames or ()) or "kg" not in (reader.fieldnames or ()):
        raise InputRefused(Refusal(path="file", code="not_a_kit_line"))
    try:
        lines = list(itertools.islice(reader, MOST_LINES + 1))
    except csv.Error:
        raise InputRefused(Refusal(path="file", code="not_text")) from None
    if len(lines) > MOST_LINES:
        raise InputRefused(Refusal(path="file", code="too_many", high=MOST_LINES))
    read = [_read(line, n) for n, line in enumerate(lines, start=2)]

    def make(items: list[dict[str, Any]]) -> list[dict[str, Any]]:
        for item in read:
            known = next((i["id"] for i in items if i["name"] == item["name"]), "")
            identity = known or slug_of(item["name"], {i["id"] for i in items})
            items = [*(i for i in items if i["id"] != identity), item | {"id": identity}]
        return items

    _with_items(row, make)
    return len(read)
