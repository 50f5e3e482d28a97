"""Every page opens in every odd state that a rider can reach: each state at one demo race here, at all of them in `make soak`."""

import pytest

from lynxwort.web.bikes.models import Setup
from lynxwort.web.races.models import Race
from tests.odd import RACES, STATES, broken
from tests.web.conftest import loaded


@pytest.mark.parametrize(("state", "race"), [(state, RACES[n % len(RACES)]) for n, state in enumerate(STATES)], ids=lambda v: getattr(v, "__name__", v))
def test_every_page_opens(db, client, state, race):
    client.raise_request_exception = False
    here = loaded(client, race)
    state(here.setup, here.race)
    setup = Setup.objects.select_related("bike__garage", "head").order_by("-pk").first()
    assert not broken(here, setup, Race.objects.get())
