"""Verbs on a bike's log."""

import uuid
from typing import Any

from django.db import transaction
from pydantic import ValidationError

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.base import Part
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.model.refused import refusals_of
from lynxwort.core.model.service import (
    MOST_BOLTS,
    MOST_CHECKS,
    MOST_PARTS,
    MOST_RIDES,
    MOST_WEAR,
    Bolt,
    ClockedPart,
    GateCheck,
    Ride,
    Service,
    WearReading,
)
from lynxwort.web.bikes.models import Bike
from lynxwort.web.service.models import Photo, ServiceLine

#: kind of line -> the core's part, where it stands in the document, how many of them at most
LINES: dict[str, tuple[type[Part], str, int]] = {
    "ride": (Ride, "rides", MOST_RIDES), "check": (GateCheck, "checks", MOST_CHECKS),
    "part": (ClockedPart, "parts", MOST_PARTS), "wear": (WearReading, "wear", MOST_WEAR),
    "bolt": (Bolt, "bolts", MOST_BOLTS),
}  # fmt: skip


def checked_line(kind: str, document: dict[str, Any]) -> Part:
    """The core's own part of a line. Raises InputRefused."""
    try:
        if kind == "about":
            return Service.model_validate(document)
        return LINES[kind][0].model_validate(document | {"id": "new"})
    except KeyError:
        raise InputRefused(Refusal(path="kind", code="not_a_choice")) from None
    except ValidationError as error:
        raise InputRefused(*refusals_of(error, root=Inputs)) from None


def service_of(bike: Bike) -> dict[str, Any] | None:
    """The log in the input document; None before anything was written down. Of very many lines the newest."""
    lines = list(ServiceLine.objects.filter(bike=bike, struck_out=False).order_by("id"))
    if not lines:
        return None
    made: dict[str, Any] = next((dict(row.document) for row in lines if row.kind == "about"), {})
    for kind, (_part, name, most) in LINES.items():
        found = [row.as_document() for row in lines if row.kind == kind][-most:]
        if found:
            made[name] = found
    return made


def take_in(bike: Bike, service: dict[str, Any]) -> None:
    """The log of a document, line by line in its order, as that of a bike that has none yet. Raises InputRefused."""
    listed = {name: kind for kind, (_part, name, _most) in LINES.items()}
    said = {k: v for k, v in service.items() if k not in listed}
    if said:
        say(bike, **said)
    lines = [(item.get("seq", 0), kind, item) for name, kind in listed.items() for item in service.get(name, ())]
    for _seq, kind, item in sorted(lines, key=lambda line: line[0]):
        write(bike, kind, {k: v for k, v in item.items() if k not in ("id", "seq")})


def about(bike: Bike) -> dict[str, Any]:
    """What is said of the log as a whole."""
    row = ServiceLine.objects.filter(bike=bike, kind="about").first()
    return {} if row is None else dict(row.document)


def say(bike: Bike, **facts: Any) -> None:
    """Say something of the log as a whole; None takes it back. Raises InputRefused."""
    with transaction.atomic():
        row = ServiceLine.objects.select_for_update().filter(bike=bike, kind="about").first()
        said = {k: v for k, v in ((row.document if row else {}) | facts).items() if v is not None}
        checked_line("about", said)
        if row is None:
            # one of a bike, and one name for it in every copy of its garage
            ServiceLine.objects.create(bike=bike, kind="about", document=said, uid=uuid.uuid5(bike.uid, "about"))
        else:
            row.document = said
            row.save(update_fields=["document", "changed"])


def write(
    bike: Bike, kind: str, document: dict[str, Any], *, photo: bytes | None = None, name: uuid.UUID | None = None
) -> ServiceLine:
    """Write a line; the same sent twice under one name is kept once. What says something else, from a page one went
    back to, is a line of its own: a fail pressed after a pass is never lost. Raises InputRefused.
    """
    checked_line(kind, document)
    with transaction.atomic():
        known = None if name is None else ServiceLine.objects.filter(bike=bike, uid=name).first()
        if known is not None and known.document == document:
            return known
        name = None if known is not None else name
        if ServiceLine.objects.filter(bike=bike, kind=kind, struck_out=False).count() >= LINES[kind][2]:
            raise InputRefused(Refusal(path=LINES[kind][1], code="too_many"))
        row = ServiceLine.objects.create(bike=bike, kind=kind, document=document, uid=name or uuid.uuid4())
        if photo is not None:
            Photo.objects.create(line=row, data=photo)
    return row


def change(line: ServiceLine, **facts: Any) -> None:
    """Say something else of a line, the rest as it stands; None takes it back. Raises InputRefused."""
    with transaction.atomic():
        row = ServiceLine.objects.select_for_update().get(pk=line.pk)
        said = {k: v for k, v in (row.document | facts).items() if v is not None}
        checked_line(row.kind, said)
        row.document = said
        row.save(update_fields=["document", "changed"])


def strike_out(line: ServiceLine) -> None:
    """It was written by mistake."""
    line.struck_out = True
    line.save(update_fields=["struck_out", "changed"])


def renew(
    line: ServiceLine, *, fate: str, ended_s: float, fresh: dict[str, Any], of_day: str | None = None
) -> ServiceLine:
    """What was on comes off with the hours it ran, and a new one goes on. Raises InputRefused."""
    with transaction.atomic():
        change(line, fate=fate, ended_s=ended_s, of_day=of_day)
        return write(line.bike, "part", fresh)


def move(
    line: ServiceLine, to: Bike, *, run_s: float, fitted_s: float, day: str, before: tuple[str, float] | None
) -> ServiceLine:
    """A part goes to another bike with the hours it ran; before: the one that was on there and what it ran, which comes
    off sound. It is a new line there: what is written later counts as later. Raises InputRefused.
    """
    with transaction.atomic():
        if before is not None:
            change(ServiceLine.objects.get(bike=to, uid=before[0]), fate="sound", ended_s=before[1])
        row = ServiceLine.objects.select_for_update().get(pk=line.pk)
        document = row.document | {"carried_s": run_s, "fitted_s": fitted_s, "day": day}
        made = write(to, "part", document)
        row.delete()
    return made
