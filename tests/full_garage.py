"""A garage after years of use: 200 kept setups, 50 more bikes, 100 courses with a race on each."""

from datetime import timedelta

from django.utils import timezone

from lynxwort.web.bench.models import Pairing
from lynxwort.web.bikes.models import Bike, Draft, Revision, Setup
from lynxwort.web.races.models import Course, Race


def fill(setup: Setup, race: Race) -> None:
    """Add the rows beside a setup and a race that stand already."""
    garage, head = setup.bike.garage, setup.head
    Revision.objects.bulk_create(
        Revision(
            setup=setup,
            number=n,
            parent=head,
            reason=f"try {n}",
            document=head.document,
            report=head.report,
            core_version="1",
            input_key="k",
            race_name="r",
        )
        for n in range(2, 202)
    )
    bikes = Bike.objects.bulk_create(
        Bike(garage=garage, name=f"Spare {n:02}", document=setup.bike.document) for n in range(50)
    )
    setups = Setup.objects.bulk_create(Setup(bike=b) for b in bikes)
    Draft.objects.bulk_create(Draft(setup=s, values=head.values) for s in setups)
    courses = Course.objects.bulk_create(
        Course(garage=garage, name=f"Course {n:02}", blob=race.course.blob, length_m=41_500.0) for n in range(100)
    )
    later = timezone.now() + timedelta(days=700)
    races = Race.objects.bulk_create(
        Race(
            garage=garage,
            name=f"Race {n:02}",
            course=c,
            rider=race.rider,
            document=race.document,
            start=later + timedelta(days=n),
        )
        for n, c in enumerate(courses)
    )
    Pairing.objects.bulk_create(Pairing(race=r, setup=setup) for r in races)
