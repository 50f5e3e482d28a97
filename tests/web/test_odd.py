"""Every page opens in every odd state that a rider can reach: each state at one demo race here, at all of them in `make soak`."""

import os

import pytest

from lynxwort.web.bikes.models import Setup
from lynxwort.web.races.models import Race
from tests.odd import RACES, STATES, broken
from tests.web.conftest import loaded

ALL = os.environ.get("ODD") == "all"


@pytest.mark.parametrize(
    ("state", "race"),
    [(s, r) for n, s in enumerate(STATES) for k, r in enumerate(RACES) if ALL or k == n % len(RACES)],
    ids=lambda v: getattr(v, "__name__", v),
)
def test_every_page_opens(db, client, state, race):
    client.raise_request_exception = False
    here = loaded(client, race)
    state(here.setup, here.race)
    setup = Setup.objects.select_related("bike__garage", "head").order_by("-pk").first()
    assert not broken(here, setup, Race.objects.get())
