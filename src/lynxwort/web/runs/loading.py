"""Verbs on what is loaded for a race, and what was forgotten at others."""

import uuid

from django.db import transaction

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.web.garages.services import author_id
from lynxwort.web.races.models import Race
from lynxwort.web.runs.models import LoadLine

#: how a thing may stand, and that it is taken off the list
SAID = ("packed", "open", "forgotten", "gone")
#: things of one race that something was said of
MOST, LONGEST = 300, 90
OWN = "own:"


def said(race: Race) -> dict[str, LoadLine]:
    """What was said of this race's list, by key."""
    return {row.key: row for row in LoadLine.objects.select_related("by").filter(race=race)}


def forgotten(race: Race) -> dict[str, str]:
    """Key of each thing that was forgotten at another race of the garage, and the name of the last one."""
    rows = LoadLine.objects.filter(race__garage=race.garage, state="forgotten").exclude(race=race)
    return {row.key: row.race.name for row in rows.select_related("race").order_by("race__start", "id")}


def let_go(race: Race, key: str) -> None:
    """A thing that was forgotten once needs no remembering any more, at no race of the garage."""
    LoadLine.objects.filter(race__garage=race.garage, key=key, state="forgotten").update(state="packed")


def say(race: Race, key: str, state: str) -> LoadLine | None:
    """Say how a thing stands; what one wrote down and takes back is gone. Raises InputRefused."""
    if state not in SAID:
        raise InputRefused(Refusal(path="state", code="not_a_choice"))
    if not key or len(key) > LONGEST:
        raise InputRefused(Refusal(path="thing", code="too_long"))
    with transaction.atomic():
        rows = LoadLine.objects.filter(race=race)
        if state == "gone":
            rows.filter(key=key).delete()
            return None
        if not rows.filter(key=key).exists() and rows.count() >= MOST:
            raise InputRefused(Refusal(path="thing", code="too_many"))
        said = {"state": state, "by_id": author_id()}
        # one name whoever writes it down first: two copies of a garage speak of the same thing
        named = {"race": race, "uid": uuid.uuid5(race.uid, key)}
        return rows.update_or_create(key=key, defaults=said, create_defaults=said | named)[0]
