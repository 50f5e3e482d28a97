"""The rows of a bike for a race, kept as long as nothing was written that they are read from. The draft is read anew
every time.
"""

import pickle
from functools import lru_cache

from django.shortcuts import get_object_or_404

from lynxwort.web.bikes.models import Draft, Setup
from lynxwort.web.garages import counter
from lynxwort.web.garages.models import Garage
from lynxwort.web.races.models import Race


def mounted(garage: Garage, setup: int, race: int) -> tuple[Setup, Race]:
    """A setup and a race of a garage with all that a bench reads of them; 404 where it has no such thing. Every caller
    gets rows of its own.
    """
    mark = counter.mark()
    if mark is None:
        return _read(garage.pk, setup, race)
    row, race_row = pickle.loads(_kept(mark, garage.pk, setup, race))  # noqa: S301 of this process's own making
    row.mark = mark
    row.draft = Draft.objects.get(setup_id=row.pk)
    row.draft.setup = row
    return row, race_row


def _read(garage: int, setup: int, race: int) -> tuple[Setup, Race]:
    # the kept report is large and nothing here reads it
    setups = Setup.objects.select_related("bike__garage", "head", "draft").defer("head__report")
    row = get_object_or_404(setups, pk=setup, bike__garage=garage)
    return row, get_object_or_404(Race.objects.select_related("course", "rider"), pk=race, garage=garage)


@lru_cache(maxsize=256)
def _kept(mark: str, garage: int, setup: int, race: int) -> bytes:
    """Pickled, so that nobody changes what another reads."""
    return pickle.dumps(_read(garage, setup, race), protocol=pickle.HIGHEST_PROTOCOL)
