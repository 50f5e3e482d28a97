"""Who did what, when: one line for each thing done, the same again within a while being the same line."""

from typing import Any

from django.core.cache import cache

from lynxwort.web.bikes.models import Bike, Revision, Setup
from lynxwort.web.garages.models import Garage, User
from lynxwort.web.people.models import Deed
from lynxwort.web.races.models import Race, Rider
from lynxwort.web.ui.stale import mark_of
from lynxwort.web.ui.trouble import noting
from lynxwort.web.ui.typed import Request

#: the same thing at the same place within this is one deed [s]
SAME_S = 600.0
#: kept of a garage
MOST = 1000


def _about(kwargs: dict[str, Any], garage: Garage) -> str:
    """Which bike, race or person an address speaks of, in words; what is not of this garage is not named."""
    found = []
    if "setup" in kwargs:
        row = Setup.objects.select_related("bike").filter(pk=kwargs["setup"], bike__garage=garage).first()
        found += [row.title] if row else []
    if "revision" in kwargs:
        kept = Revision.objects.select_related("setup__bike").filter(pk=kwargs["revision"], setup__bike__garage=garage)
        found += [f"{r.setup.title}, No. {r.number}" for r in kept]
    for name, model in (("bike", Bike), ("race", Race), ("rider", Rider)):
        if name in kwargs:
            found += model.objects.filter(pk=kwargs[name], garage=garage).values_list("name", flat=True)  # type: ignore[attr-defined]
    return ", ".join(found)[:150]


def write(garage: Garage, user: User, role: str, what: str, about: str = "") -> None:
    """Write a deed down; the oldest of a garage go."""
    made = Deed.objects.create(garage=garage, user=user, name=user.get_username(), role=role, what=what, about=about)
    if made.pk % 50 == 0:
        oldest = Deed.objects.filter(garage=garage).values_list("pk", flat=True)[MOST : MOST + 1]
        Deed.objects.filter(garage=garage, pk__lte=max(oldest, default=0)).delete()


def note(request: Request) -> None:
    """Write down what a request did, once in a while for the same: no press waits for it. A database that will not take
    it leaves it out.
    """
    member, match = request.member, request.resolver_match
    if match is None:
        return
    place = f"deed {member.garage_id} {request.user.pk} {match.view_name} {sorted(match.kwargs.items())}"
    key = f"deed-{mark_of(place)}"
    if cache.get(key):
        return
    with noting("who did what"):
        write(member.garage, request.user, member.role, match.view_name, _about(match.kwargs, member.garage))
        cache.set(key, True, SAME_S)
