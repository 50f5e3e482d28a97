"""Verbs on bikes, drafts and revisions. Each intention is one transaction; nothing is evaluated inside one."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from django.db import transaction
from django.db.models import F, Max
from pydantic import ValidationError

from lynxwort.core import tunables
from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.figures import FIGURES, Consequence, consequences
from lynxwort.core.model.bike import Bike as CoreBike
from lynxwort.core.model.bike import metering_of
from lynxwort.core.model.fit import setup_misfit
from lynxwort.core.model.refused import refusals_of
from lynxwort.core.model.setup import Setup as CoreSetup
from lynxwort.core.report import read_report
from lynxwort.web.bikes.models import Bike, Draft, Revision, Setup
from lynxwort.web.garages.models import Garage
from lynxwort.web.ui.stale import StaleFacts


class StaleDraft(Exception):
    """The draft has moved on since the page was shown."""


def checked_bike(document: dict[str, Any]) -> CoreBike:
    """The core's bike. Raises InputRefused with paths from "bike."."""
    try:
        return CoreBike.model_validate(document)
    except ValidationError as error:
        raise InputRefused(*refusals_of(error, "bike.", root=CoreBike)) from None


def checked_setup(values: dict[str, Any]) -> CoreSetup:
    """The core's setup. Raises InputRefused with paths from "setup."."""
    try:
        return CoreSetup.model_validate(values)
    except ValidationError as error:
        raise InputRefused(*refusals_of(error, "setup.", root=CoreSetup)) from None


def make_bike(garage: Garage, bike: dict[str, Any], setup: dict[str, Any]) -> Bike:
    """A bike with its setup as a first draft. Raises InputRefused."""
    core_bike, core_setup = checked_bike(bike), checked_setup(setup)
    misfit = setup_misfit(core_bike, core_setup)
    if misfit:
        path, code = misfit.split(":")
        raise InputRefused(Refusal(path=path, code=code))
    with transaction.atomic():
        row = Bike.objects.create(garage=garage, name=core_bike.name, document=core_bike.model_dump(mode="json", exclude_unset=True))
        line = Setup.objects.create(bike=row)
        Draft.objects.create(setup=line, values=core_setup.model_dump(mode="json", exclude_unset=True))
    return row


def change_bike(row: Bike, change: Callable[[dict[str, Any]], dict[str, Any]], *, seen: dict[str, Any] | None = None) -> None:
    """Replace a bike's facts by what `change` makes of them as they stand. seen: the facts that were edited. Raises InputRefused, StaleFacts."""
    with transaction.atomic():
        now = Bike.objects.get(pk=row.pk)
        if seen is not None and now.document != seen:
            raise StaleFacts
        core_bike = checked_bike(change(now.document))
        row.name, row.document = core_bike.name, core_bike.model_dump(mode="json", exclude_unset=True)
        row.save(update_fields=["name", "document"])


def _write(draft: Draft, version: int, values: dict[str, Any], past: list, parent: Revision | None) -> Draft:
    """Write the draft if its version is still the page's. Raises StaleDraft."""
    changed = Draft.objects.filter(pk=draft.pk, version=version).update(version=F("version") + 1, values=values, past=past[-60:], parent=parent)
    if not changed:
        raise StaleDraft
    draft.refresh_from_db()
    return draft


def fitting(bike: CoreBike, values: dict[str, Any]) -> dict[str, Any]:
    """A setup's values without those that no bike of this kind has."""
    foreign = tunables.of_another_kind(bike, values)
    return {k: v for k, v in values.items() if k not in foreign} if foreign else values


def moved_values(values: dict[str, Any], moves: list[tuple[str, float]]) -> dict[str, Any]:
    """A setup's values after some notch moves; values already there stay untouched. Raises InputRefused."""
    setup = checked_setup(values)
    try:
        for tunable, value in moves:
            now = tunables.said_value(setup, tunable)
            if now is None or abs(now - value) > 1e-12:
                setup = tunables.move(setup, tunable, value)
    except ValidationError as error:
        raise InputRefused(*refusals_of(error, "setup.", root=CoreSetup)) from None
    return setup.model_dump(mode="json", exclude_unset=True)


def write_values(draft: Draft, version: int, values: dict[str, Any]) -> Draft:
    """Write new values into the draft as one change that can be taken back. Raises StaleDraft."""
    return _write(draft, version, values, [*draft.past, draft.values], draft.parent)


def changed_fields(draft: Draft, kept: dict[str, Any]) -> list[str]:
    """Fields on which the draft differs from the kept values: tunables in the stations' order, then what is set as a whole."""

    def differs(field: str) -> bool:
        now, then = draft.values.get(field), kept.get(field)
        # no stops at all is a plan; no plan is none
        return now != then if field == "stops" else (now or None) != (then or None)

    return [t for t in (*tunables.TUNABLES, *tunables.WHOLES) if differs(t)]


def put_back(draft: Draft, version: int, tunable: str) -> Draft:
    """Put one tunable, or "all", back to the kept revision. Raises StaleDraft."""
    kept = draft.setup.head.values if draft.setup.head else draft.values
    if tunable == "all":
        values = kept
    else:
        values = {k: v for k, v in draft.values.items() if k != tunable} | ({tunable: kept[tunable]} if tunable in kept else {})
        if values.get("fuel_fill_m3") and values["fuel_fill_m3"] > (values.get("tank_capacity_m3") or 0.0):
            values["fuel_fill_m3"] = values["tank_capacity_m3"]
    return _write(draft, version, values, [*draft.past, draft.values], draft.setup.head)


def take_back(draft: Draft, version: int) -> Draft:
    """Take back the last change, a "put back all" included. Raises StaleDraft."""
    if not draft.past:
        return draft
    return _write(draft, version, draft.past[-1], draft.past[:-1], draft.parent)


def return_to(draft: Draft, version: int, revision: Revision) -> Draft:
    """A draft with an earlier revision's values and that revision as parent. Raises StaleDraft."""
    return _write(draft, version, revision.values, [*draft.past, draft.values], revision)


@transaction.atomic
def keep(draft: Draft, version: int, *, reason: str, document: dict, report: dict, input_key: str, race_name: str, author: str) -> Revision:
    """Make the draft a numbered revision. Raises StaleDraft. document and report were computed before."""
    if not Draft.objects.filter(pk=draft.pk, version=version).update(version=F("version") + 1, past=[]):
        raise StaleDraft
    setup = draft.setup
    number = (setup.revisions.aggregate(last=Max("number"))["last"] or 0) + 1
    revision = Revision.objects.create(
        setup=setup, number=number, parent=draft.parent or setup.head, reason=reason, document=document, report=report,
        core_version=report["core_version"], input_key=input_key, race_name=race_name, author=author,
    )  # fmt: skip
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


def same_kind(row: Bike) -> list[Setup]:
    """Setups of the garage's other bikes that are fed in the same way."""
    kind = row.document["engine"]["kind"]
    others = Setup.objects.filter(bike__garage_id=row.garage_id).exclude(bike=row).select_related("bike")
    return [s for s in others if metering_of(s.bike.document["engine"]["kind"]) == metering_of(kind)]


def copy_to(revision: Revision, target: Setup) -> Draft:
    """A kept setup as the draft of another bike of the same kind; one change that can be taken back. Raises InputRefused, StaleDraft."""
    values = checked_setup(revision.values)
    misfit = setup_misfit(checked_bike(target.bike.document), values)
    if misfit:
        path, code = misfit.split(":")
        raise InputRefused(Refusal(path=path, code=code))
    return write_values(target.draft, target.draft.version, values.model_dump(mode="json", exclude_unset=True))


@dataclass(frozen=True, slots=True)
class Comparison:
    """Two kept setups. changed: (tunable, before, after); consequences: every figure that differs; between: the revisions on the way."""

    before: Revision
    after: Revision
    changed: list[tuple[str, float | None, float | None]]
    consequences: list[Consequence]
    between: list[Revision]


def compare(before: Revision, after: Revision) -> Comparison:
    """What differs between two kept setups, as each was judged when it was kept: nothing is computed anew."""
    a, b = checked_setup(before.values), checked_setup(after.values)
    have = tunables.tunables_of(checked_bike(after.document["bike"]))
    said = tunables.said_value
    changed = [(t, said(a, t), said(b, t)) for t in have if said(a, t) != said(b, t)]
    low, high = sorted((before.number, after.number))
    between = []
    if before.setup_id == after.setup_id:
        between = list(Revision.objects.filter(setup_id=before.setup_id, number__gt=low, number__lte=high).order_by("number"))
    found = consequences(read_report(before.report), read_report(after.report), tuple(FIGURES))
    return Comparison(before, after, changed, found, between)
