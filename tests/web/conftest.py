import pytest
from django.utils import translation

from lynxwort.web.bikes.models import Setup
from lynxwort.web.evaluation import door
from lynxwort.web.garages.models import User
from lynxwort.web.garages.services import add_user
from lynxwort.web.races.models import Race
from lynxwort.words import written_in
from tests.demo import load


def loaded(client, race: str):
    """The client in the demo garage with one race and its bike on the bench."""
    load(race)
    door._ready.set()
    client.force_login(User.objects.get(username="demo"), backend="django.contrib.auth.backends.ModelBackend")
    setup, race = Setup.objects.get(), Race.objects.get()
    client.base = f"/bench/{setup.pk}/{race.pk}/"
    client.setup, client.race = setup, race
    return client


@pytest.fixture(autouse=True)
def _a_language_ends_with_its_test():
    """A request leaves the person's language and way of writing numbers on in the thread that the next test runs in."""
    yield
    translation.deactivate()
    written_in("en")


@pytest.fixture
def demo(db, client):
    """The demo garage, signed in, its bike on the bench."""
    return loaded(client, "brackenmere")


@pytest.fixture
def injected(db, client):
    """As demo, with the injected bike."""
    return loaded(client, "saltern")


@pytest.fixture
def stranger(db):
    return add_user("stranger", "a long enough password", "elsewhere")


@pytest.fixture
def whole(db, client):
    """The demo with all its bikes and races."""
    load()
    door._ready.set()
    client.force_login(User.objects.get(username="demo"), backend="django.contrib.auth.backends.ModelBackend")
    return client
