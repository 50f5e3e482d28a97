"""Search over everything in the garage: bikes, kept setups, races, courses, riders, parts, figures and places of the
product.
"""

from contextlib import suppress
from dataclasses import dataclass
from typing import Any

from django.db.models import Q
from django.urls import reverse
from django.utils.translation import gettext as _

from lynxwort.core.report import station_of
from lynxwort.core.units.convert import Units
from lynxwort.web.bench import registry
from lynxwort.web.bench.models import Pairing
from lynxwort.web.bikes.forms import bike_facts
from lynxwort.web.bikes.models import Bike, Revision, Setup
from lynxwort.web.bikes.places import place_of
from lynxwort.web.bikes.services import checked_bike
from lynxwort.web.garages.models import Garage
from lynxwort.web.home import learning
from lynxwort.web.parts.models import OwnedPart
from lynxwort.web.races.models import Course, Race, Rider
from lynxwort.words.catalogue import FIGURE_NAMES, PART_KINDS, STATION_NAMES
from lynxwort.words.explained.glossary import TERMS

EACH = 8


@dataclass(frozen=True, slots=True)
class Found:
    """One thing found: where it is, what it is called, what it is."""

    address: str
    name: str
    about: str


def _figures(garage: Garage, text: str) -> list[Found]:
    """Figures and stations by name, on the bench that was open last."""
    pairing = Pairing.objects.filter(race__garage=garage, setup__head__isnull=False).order_by("-id").first()
    if pairing is None:
        return []
    names = [(name, _(words)) for name, words in FIGURE_NAMES.items() if text in _(words).lower()]
    stations = [(name, _(words)) for name, words in STATION_NAMES.items() if text in _(words).lower()]

    def bench(station: str) -> str:
        return reverse("bench:station", args=[pairing.setup_id, pairing.race_id, station])

    found = [Found(bench(name), words, _("station")) for name, words in stations]
    bike = checked_bike(pairing.setup.bike.document)
    for station in STATION_NAMES:
        for room in registry.rooms_of(station, bike):
            if room.path and text in room.name_on(bike).lower():
                found.append(Found(bench(station) + room.path, room.name_on(bike), _(STATION_NAMES[station])))
    return found + [
        Found(bench(station_of(name)), words, _(STATION_NAMES[station_of(name)])) for name, words in names[:EACH]
    ]


def _places(text: str) -> list[Found]:
    places = [
        (reverse("parts:box"), _("Parts box")),
        (reverse("races:riders"), _("Riders")),
        (reverse("garages:settings"), _("Units, language, account")),
        (reverse("machine:backups"), _("Back-ups")),
        (reverse("new-bike"), _("Add a bike")),
        (reverse("races:new"), _("Add a race")),
        (reverse("bench:upload"), _("Load a document")),
        (reverse("how-to-write"), _("How to write numbers")),
        (reverse("words"), _("Words of the trade, glossary")),
    ]
    return [Found(address, name, _("page")) for address, name in places if text in name.lower()]


def _words(garage: Garage, text: str) -> list[Found]:
    """Words of the trade by any of their names, each to where it is worked at, or else to what it means."""
    base = learning.bench_of(garage)
    found = []
    for key, term in TERMS.items():
        if learning.said_in(term, text):
            there = f"{base}{term.room}/" if base and term.room else f"{reverse('words')}#{key}"
            found.append(Found(there, _(term.word), _(term.meaning)))
    return found[:EACH]


def _facts(garage: Garage, text: str) -> list[Found]:
    """Facts of the garage's bikes by their labels, each to its place."""
    found = []
    for row in Bike.objects.filter(garage=garage)[:3]:
        for path, (label, how) in bike_facts(row.document["engine"]["kind"]).items():
            if text in label.lower():
                there = f"{reverse('bikes:facts', args=[row.pk])}#place-{place_of(path)}"
                found.append(Found(there, f"{label}, {row.name}", how))
    return found[:EACH]


def _settings(text: str) -> list[Found]:
    """What can be set for a person."""
    names = [
        _("Units"),
        _("Language: English, español"),
        _("Light: day, night"),
        _("Keys"),
        _("Password"),
        _("Sign out everywhere"),
    ]
    names += [_("In the van: large type, gloves, sun, left hand, nothing moves")]
    here = reverse("garages:settings")
    return [Found(here, name, _("setting")) for name in names if text in name.lower()]


def search(garage: Garage, text: str, preset: Units | str) -> list[tuple[str, list[Found]]]:
    """What matches, by kind; nothing for an empty text."""
    low = text.lower()
    if not low:
        return []
    setups = (
        Setup.objects.filter(bike__garage=garage)
        .filter(Q(bike__name__icontains=text) | Q(name__icontains=text))
        .select_related("bike")[:EACH]
    )
    kept = Revision.objects.filter(setup__bike__garage=garage).filter(
        Q(reason__icontains=text) | Q(name__icontains=text) | Q(race_name__icontains=text)
    )
    kept = kept.select_related("setup__bike").defer("report", "document")[:EACH]
    races = Race.objects.filter(garage=garage, name__icontains=text)[:EACH]
    riders = Rider.objects.filter(garage=garage, name__icontains=text)[:EACH]
    courses = Course.objects.filter(garage=garage, name__icontains=text).prefetch_related("races")[:EACH]
    kinds = [k for k, words in PART_KINDS.items() if low in _(words).lower()]
    about = Q(label__icontains=text) | Q(place__icontains=text) | Q(kind__in=kinds)
    with suppress(ValueError):
        about |= Q(value=float(text.replace(",", ".")))
    parts = OwnedPart.objects.filter(garage=garage).filter(about)[:EACH]

    def course_address(course: Any) -> str:
        race = next(iter(course.races.all()), None)
        return reverse("races:race", args=[race.pk]) if race else reverse("races:new")

    groups = [
        (_("Bikes"), [Found(reverse("bikes:history", args=[s.pk]), s.title, _("kept setups")) for s in setups]),
        (_("Races"), [Found(reverse("races:race", args=[r.pk]), r.name, f"{r.start:%Y-%m-%d}") for r in races]),
        (_("Riders"), [Found(reverse("races:rider", args=[r.pk]), r.name, _("rider")) for r in riders]),
        (_("Courses"), [Found(course_address(c), c.name, _("course")) for c in courses]),
        (
            _("Kept setups"),
            [Found(reverse("bikes:history", args=[k.setup_id]), f"{k.setup.title} {k}", k.because) for k in kept],
        ),
        (
            _("Parts"),
            [
                Found(
                    reverse("parts:box"),
                    f"{_(PART_KINDS[p.kind])} {p.label}".strip(),
                    p.place or p.get_condition_display(),
                )
                for p in parts
            ],
        ),
        (_("Words"), _words(garage, low)),
        (_("Facts of a bike"), _facts(garage, low)),
        (_("Figures and stations"), _figures(garage, low)),
        (_("Settings"), _settings(low)),
        (_("Pages"), _places(low)),
    ]
    return [(title, found) for title, found in groups if found]
