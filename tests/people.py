"""People of a garage, for tests."""

from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

from lynxwort.web.garages.models import Membership, User
from lynxwort.web.people import services


def an_invitation(garage, role="crew", **said):
    """An open invitation into a garage, made by its first member."""
    return a_code(garage, role, **said).invitation


def a_code(garage, role="crew", *, single=True, label="", **said):
    """A code into a garage as it is shown once."""
    return services.invite(garage, garage.memberships.first().user, role, single=single, label=label, **said)


def a_member(garage, role, name=None):
    """Somebody who is in a garage as that."""
    user = User.objects.create_user(username=name or f"the {role}", password=None, guest=True)
    Membership.objects.create(user=user, garage=garage, role=role)
    return user


def racing(race, minutes_ago=10):
    """The race began so long ago, by the race's clock."""
    began = datetime.now(UTC) - timedelta(minutes=minutes_ago)
    there = began.astimezone(ZoneInfo(race.document["time_zone"]))
    race.document = race.document | {"start": there.replace(tzinfo=None, microsecond=0).isoformat()}
    race.save()
