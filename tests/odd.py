"""States that a rider can reach and a page must bear, and every page there is to open in them."""

import copy
import re
from collections.abc import Callable, Iterator

from django.test import Client

from lynxwort.core.figures import FIGURES
from lynxwort.demo import scenario
from lynxwort.web.bench.services import put_on_bench
from lynxwort.web.bikes.models import Setup
from lynxwort.web.bikes.services import make_bike
from lynxwort.web.parts.models import OwnedPart
from lynxwort.web.races.models import Race, Rider
from lynxwort.web.readings.models import Reading
from tests.hostile import routes

STATIONS = ("purpose", "baseline", "chassis", "damping", "fuelling", "drive", "range", "card")
ENDS = {"sag": ("front", "rear"), "valving": ("fork", "shock"), "damper-dyno": ("fork", "shock")}
#: the least that the three pages of a new bike ask for
LEAST_BIKE = {
    "name": "Barrow 125",
    "engine": {
        "kind": "jetted_two_stroke",
        "displacement_m3": 0.000124,
        "peak_power_w": 24_000.0,
        "peak_power_rpm": 10_500.0,
    },
    "transmission": {"primary_ratio": 3.0, "gear_ratios": [2.1, 1.7, 1.45, 1.25, 1.1, 1.0]},
    "frame": {"mass_dry_kg": 90.0},
}
LEAST_SETUP = {
    "front_sprocket_teeth": 13,
    "rear_sprocket_teeth": 50,
    "fork_spring_rate_n_per_m": 4100.0,
    "shock_spring_rate_n_per_m": 46_000.0,
    "main_jet": 160.0,
    "tank_capacity_m3": 0.0075,
}


def _change(race: Race, **changes: object) -> None:
    race.document = copy.deepcopy(race.document) | changes
    race.save()


def _stages(race: Race, **changes: object) -> None:
    _change(race, stages=[s | changes for s in race.document["stages"]])


def as_it_is(setup: Setup, race: Race) -> None:
    """The demo as loaded."""


def no_jets_owned(setup: Setup, race: Race) -> None:
    OwnedPart.objects.filter(kind__in=("main_jet", "pilot_jet", "needle")).delete()


def empty_box(setup: Setup, race: Race) -> None:
    OwnedPart.objects.all().delete()


def no_set_safe(setup: Setup, race: Race) -> None:
    _change(race, air=race.document["air"] | {"temperature_low_k": 243.15, "temperature_high_k": 323.15})


def _with_riders(race: Race, count: int) -> None:
    race.others.set(
        [
            Rider.objects.create(
                garage=race.garage,
                name=f"Rider {n}",
                document=race.rider.document | {"name": f"Rider {n}", "mass_in_gear_kg": 60.0 + 5 * n},
            )
            for n in range(1, count)
        ]
    )


def relay(setup: Setup, race: Race) -> None:
    _with_riders(race, 3)
    _change(race, relay={})


def twelve_riders(setup: Setup, race: Race) -> None:
    _with_riders(race, 12)


def by_hours(setup: Setup, race: Race) -> None:
    first = {k: v for k, v in race.document["stages"][0].items() if k not in ("laps", "kind", "allowed_s")}
    _change(race, stages=[first | {"hours_s": 18_000.0}])


def nothing_measured(setup: Setup, race: Race) -> None:
    Reading.objects.all().delete()


def all_struck(setup: Setup, race: Race) -> None:
    Reading.objects.update(struck_out=True)


def no_pair(setup: Setup, race: Race) -> None:
    for row in Reading.objects.all():
        if row.document["kind"] == "known_good":
            row.delete()


def no_refuel_points(setup: Setup, race: Race) -> None:
    _stages(race, refuel_points=[], refuel_after=False)


def new_bike(setup: Setup, race: Race) -> None:
    """A bike of whose facts hardly any is given takes the place of the demo's."""
    made = make_bike(setup.bike.garage, LEAST_BIKE, LEAST_SETUP)
    put_on_bench(made.setups.get(), race, "x")


STATES: tuple[Callable[[Setup, Race], None], ...] = (
    as_it_is,
    no_jets_owned,
    empty_box,
    no_set_safe,
    relay,
    twelve_riders,
    by_hours,
    nothing_measured,
    all_struck,
    no_pair,
    no_refuel_points,
    new_bike,
)
RACES = tuple(scenario.RACES)


def pages(setup: Setup, race: Race) -> Iterator[str]:
    """The address of every page about a bike and a race."""
    fixed = {
        "setup": setup.pk,
        "race": race.pk,
        "bike": setup.bike_id,
        "rider": race.rider_id,
        "course": race.course_id,
        "kind": "sag",
        "page": 1,
        "key": "race_sag",
        "pattern": "trail_aircooled",
        "engine": "jetted_four_stroke",
        "check": "brakes",
        "what": "hours",
    }
    open_ended = {
        "station": STATIONS,
        "figure": tuple(FIGURES)[::7],
        "stage": tuple(range(len(race.document["stages"]))),
    }
    for name, route in routes():
        places = re.findall(r"<\w+:(\w+)>", route)
        if name in ("bench:upload", "garages:sign-out") or {
            "revision",
            "part",
            "reading",
            "trial",
            "line",
            "where",
            "name",
            "member",
            "invitation",
            "token",
        } & set(places):
            continue
        ends = next((v for k, v in ENDS.items() if f"/{k}/" in route), ("rear",))
        varied = next((p for p in places if p in open_ended or p == "end"), None)
        for value in (ends if varied == "end" else open_ended[varied]) if varied else (None,):
            yield re.sub(r"<\w+:(\w+)>", lambda m, v=varied, x=value: str(x if m[1] == v else fixed[m[1]]), route)


def broken(client: Client, setup: Setup, race: Race) -> list[str]:
    """The pages that do not bear the state."""
    return [
        f"{path}: {answer.status_code}"
        for path in pages(setup, race)
        if (answer := client.get(path)).status_code not in (200, 204, 301, 302, 403, 404, 405, 422)
    ]
