"""Verbs on bikes, drafts and revisions. Each intention is one transaction; nothing is evaluated inside one."""

import json
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from django.db import transaction
from django.db.models import F, Max
from pydantic import ValidationError

from lynxwort.core import tunables
from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.figures import FIGURES
from lynxwort.core.judging import Consequence, consequences
from lynxwort.core.model.bike import Bike as CoreBike
from lynxwort.core.model.bike import metering_of
from lynxwort.core.model.fit import setup_misfit
from lynxwort.core.model.refused import refusals_of
from lynxwort.core.model.setup import Setup as CoreSetup
from lynxwort.core.model.setup.kit import ITEM_FIELDS
from lynxwort.core.report import read_report
from lynxwort.web.bikes.models import Bike, Draft, Revision, Setup
from lynxwort.web.garages.models import Garage
from lynxwort.web.ui.stale import StaleFacts


class StaleDraft(Exception):
    """The draft has moved on since the page was shown."""


# a document that was met before is the same frozen thing: nothing is validated, compared or hashed twice
@lru_cache(maxsize=256)
def _bike(text: str) -> CoreBike:
    return CoreBike.model_validate(json.loads(text))


@lru_cache(maxsize=1024)
def _setup(text: str) -> CoreSetup:
    return CoreSetup.model_validate(json.loads(text))


def checked_bike(document: dict[str, Any]) -> CoreBike:
    """The core's bike. Raises InputRefused with paths from "bike."."""
    try:
        return _bike(json.dumps(document))
    except ValidationError as error:
        raise InputRefused(*refusals_of(error, "bike.", root=CoreBike)) from None


def checked_setup(values: dict[str, Any]) -> CoreSetup:
    """The core's setup. Raises InputRefused with paths from "setup."."""
    try:
        return _setup(json.dumps(values))
    except ValidationError as error:
        raise InputRefused(*refusals_of(error, "setup.", root=CoreSetup)) from None


def refuse_misfit(bike: CoreBike, setup: CoreSetup) -> None:
    """Raise InputRefused when a setup does not fit a bike."""
    misfit = setup_misfit(bike, setup)
    if misfit:
        path, code = misfit.split(":")
        raise InputRefused(Refusal(path=path, code=code))


def make_bike(garage: Garage, bike: dict[str, Any], setup: dict[str, Any]) -> Bike:
    """A bike with its setup as a first draft. Raises InputRefused."""
    core_bike, core_setup = checked_bike(bike), checked_setup(setup)
    refuse_misfit(core_bike, core_setup)
    with transaction.atomic():
        row = Bike.objects.create(
            garage=garage, name=core_bike.name, document=core_bike.model_dump(mode="json", exclude_unset=True)
        )
        line = Setup.objects.create(bike=row)
        Draft.objects.create(setup=line, values=core_setup.model_dump(mode="json", exclude_unset=True))
    return row


def change_bike(
    row: Bike, change: Callable[[dict[str, Any]], dict[str, Any]], *, seen: dict[str, Any] | None = None
) -> None:
    """Replace a bike's facts by what `change` makes of them as they stand. seen: the facts that were edited. Raises
    InputRefused, StaleFacts.
    """
    with transaction.atomic():
        now = Bike.objects.get(pk=row.pk)
        if seen is not None and now.document != seen:
            raise StaleFacts
        core_bike = checked_bike(change(now.document))
        row.name, row.document = core_bike.name, core_bike.model_dump(mode="json", exclude_unset=True)
        row.save(update_fields=["name", "document"])


def fitting(bike: CoreBike, values: dict[str, Any]) -> dict[str, Any]:
    """A setup's values without those that no bike of this kind has."""
    foreign = tunables.of_another_kind(bike, values)
    return {k: v for k, v in values.items() if k not in foreign} if foreign else values


def changed_fields(draft: Draft, kept: dict[str, Any]) -> list[str]:
    """Fields on which the draft differs from the kept values: tunables in the stations' order, then what is set as a
    whole.
    """

    def differs(field: str) -> bool:
        now, then = draft.values.get(field), kept.get(field)
        # what the bike came with is no other part, said or unsaid
        if field in tunables.TUNABLES and tunables.TUNABLES[field].others is not None:
            return (now or 1) != (then or 1)
        # no stops at all is a plan; no plan is none
        return now != then if field == "stops" else (now or None) != (then or None)

    wholes = (f for f in tunables.WHOLES if f not in ITEM_FIELDS)
    return [
        *(t for t in tunables.TUNABLES if differs(t)),
        *tunables.items_apart(draft.values, kept),
        *(f for f in wholes if differs(f)),
    ]


@transaction.atomic
def keep(
    draft: Draft,
    version: int,
    *,
    reason: str,
    document: dict,
    report: dict,
    input_key: str,
    race_name: str,
    author: str,
) -> Revision:
    """Make the draft a numbered revision. Raises StaleDraft. document and report were computed before."""
    if not Draft.objects.filter(pk=draft.pk, version=version).update(version=F("version") + 1, past=[]):
        raise StaleDraft
    setup = draft.setup
    number = (setup.revisions.aggregate(last=Max("number"))["last"] or 0) + 1
    revision = Revision.objects.create(
        setup=setup,
        number=number,
        parent=draft.parent or setup.head,
        reason=reason,
        document=document,
        report=report,
        core_version=report["core_version"],
        input_key=input_key,
        race_name=race_name,
        author=author,
    )
    Setup.objects.filter(pk=setup.pk).update(head=revision)
    Draft.objects.filter(pk=draft.pk).update(parent=revision)
    return revision


def kept_as(revision: Revision, values: dict[str, Any]) -> bool:
    """Whether a revision holds just these values."""
    return revision.values == checked_setup(values).model_dump(mode="json", exclude_unset=True)


def name_revision(revision: Revision, name: str) -> None:
    """Give a kept setup a name, or take it away."""
    Revision.objects.filter(pk=revision.pk).update(name=name.strip()[:60])


@transaction.atomic
def branch(revision: Revision, name: str) -> Setup:
    """A second line of setups of the same bike, its draft starting from a kept one: for a wet race, say."""
    line = Setup.objects.create(bike_id=revision.setup.bike_id, name=name.strip()[:60])
    Draft.objects.create(setup=line, values=revision.values, parent=revision)
    return line


def as_it_stands(row: Bike) -> tuple[CoreBike, CoreSetup]:
    """A bike and its first line's setup, as kept or as it was made. Raises InputRefused."""
    line = row.setups.select_related("head", "draft").order_by("pk")[0]
    core = checked_bike(row.document)
    return core, checked_setup(fitting(core, line.head.values if line.head else line.draft.values))


def same_kind(row: Bike) -> list[Setup]:
    """Setups of the garage's other bikes that are fed in the same way."""
    kind = row.document["engine"]["kind"]
    others = Setup.objects.filter(bike__garage_id=row.garage_id).exclude(bike=row).select_related("bike")
    return [s for s in others if metering_of(s.bike.document["engine"]["kind"]) == metering_of(kind)]


@dataclass(frozen=True, slots=True)
class Comparison:
    """Two kept setups. changed: (tunable, before, after); consequences: every figure that differs; between: the
    revisions on the way.
    """

    before: Revision
    after: Revision
    changed: list[tuple[str, float | None, float | None]]
    consequences: list[Consequence]
    between: list[Revision]


def changed_between(before: Revision, after: Revision) -> list[tuple[str, float | None, float | None]]:
    """What two kept setups differ in: tunable, before, after."""
    a, b = checked_setup(before.values), checked_setup(after.values)
    have = tunables.tunables_of(checked_bike(after.document["bike"]))
    said = tunables.said_value
    return [(t, said(a, t), said(b, t)) for t in have if said(a, t) != said(b, t)]


def compare(before: Revision, after: Revision) -> Comparison:
    """What differs between two kept setups, as each was judged when it was kept: nothing is computed anew."""
    changed = changed_between(before, after)
    low, high = sorted((before.number, after.number))
    between = []
    if before.setup_id == after.setup_id:
        between = list(
            Revision.objects.filter(setup_id=before.setup_id, number__gt=low, number__lte=high).order_by("number")
        )
    found = consequences(read_report(before.report), read_report(after.report), tuple(FIGURES))
    return Comparison(before, after, changed, found, between)
