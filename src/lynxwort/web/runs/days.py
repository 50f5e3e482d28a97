"""Verbs on days and the clicks that were turned on them."""

import uuid
from typing import Any

from django.db import transaction

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.trials import MOST_CLICKS, MOST_DAYS
from lynxwort.core.model.trials import ClickTurn as CoreClick
from lynxwort.core.model.trials import RiddenDay as CoreDay
from lynxwort.web.bikes.models import Bike, Setup
from lynxwort.web.races.models import Race
from lynxwort.web.runs.models import ClickTurn, RiddenDay
from lynxwort.web.runs.services import checked_part


def checked_day(document: dict[str, Any]) -> CoreDay:
    """The core's day, before it has a name. Raises InputRefused."""
    return checked_part(CoreDay, document)


def checked_click(document: dict[str, Any]) -> CoreClick:
    """The core's click, before it has a name. Raises InputRefused."""
    return checked_part(CoreClick, document)


def days_of(bike: Bike) -> list[RiddenDay]:
    """Days of a bike with their clicks, the oldest first; of very many the newest."""
    found = RiddenDay.objects.filter(setup__bike=bike).prefetch_related("clicks").order_by("-id")
    return list(found[:MOST_DAYS])[::-1]


def begin(setup: Setup, race: Race, document: dict[str, Any]) -> RiddenDay:
    """A day begins. Raises InputRefused."""
    checked_day(document)
    return RiddenDay.objects.create(setup=setup, race=race, document=document)


def change(day: RiddenDay, **facts: Any) -> None:
    """Say something of a day, the rest as it then is; None takes it back. Raises InputRefused."""
    with transaction.atomic():
        now = RiddenDay.objects.select_for_update().get(pk=day.pk)
        said = {k: v for k, v in (now.document | facts).items() if v is not None}
        checked_day(said)
        now.document = said
        now.save(update_fields=["document"])


def log_click(day: RiddenDay, document: dict[str, Any], name: uuid.UUID) -> ClickTurn:
    """Keep a click; sent twice it is kept once. Laps that it says were ridden were. Raises InputRefused."""
    checked_click(document)
    with transaction.atomic():
        if day.clicks.count() >= MOST_CLICKS:
            raise InputRefused(Refusal(path="clicks", code="too_many"))
        row, made = ClickTurn.objects.get_or_create(uid=name, defaults={"day": day, "document": document})
        if made and document["lap"] > day.document.get("laps", 0):
            change(day, laps=document["lap"])
    return row


def strike_out(click: ClickTurn) -> None:
    """It was logged by mistake."""
    click.document = click.document | {"struck_out": True}
    click.save(update_fields=["document"])
