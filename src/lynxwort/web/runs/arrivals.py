"""Verbs on who came by when: tapped on any phone, seen on all of them."""

import uuid
from datetime import datetime, timedelta

from django.db import transaction

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.web.bikes.models import Setup
from lynxwort.web.garages.services import author_id
from lynxwort.web.races.models import Race
from lynxwort.web.runs.models import Arrival

#: lines of one bike in one race: several phones, wrong rows and all
MOST = 2000
#: how far off its likely hour something may come by: what is further is another day, or a rehearsal
NEAR = timedelta(hours=24)


class AnotherDay(Exception):
    """So far from its likely hour that it is no arrival in this race."""


def came(setup: Setup, race: Race) -> dict[str, Arrival]:
    """What came by, by the moments' keys."""
    found: dict[str, Arrival] = {}
    for row in Arrival.objects.select_related("by").filter(setup=setup, race=race).order_by("id"):
        found[row.key] = row
    return {k: row for k, row in found.items() if not row.gone}


def tell(
    setup: Setup, race: Race, key: str, at: datetime, *, likely: datetime, name: uuid.UUID, gone: bool = False
) -> Arrival:
    """Keep that something came by, or that it did not after all; sent twice it is kept once. likely: its hour on the
    sheet. Raises AnotherDay, InputRefused.
    """
    if abs(at - likely) > NEAR:
        raise AnotherDay
    with transaction.atomic():
        there = Arrival.objects.filter(uid=name).first()
        if there is not None:
            if (there.setup_id, there.race_id, there.key) != (setup.pk, race.pk, key):
                raise InputRefused(Refusal(path="id", code="not_on_the_sheet"))
            return there
        if Arrival.objects.filter(setup=setup, race=race).count() >= MOST:
            raise InputRefused(Refusal(path="key", code="too_many"))
        return Arrival.objects.create(uid=name, setup=setup, race=race, key=key, at=at, gone=gone, by_id=author_id())
