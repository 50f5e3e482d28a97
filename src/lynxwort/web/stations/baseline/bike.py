"""A bike's own page: what it is, how it stands, what was kept and what was measured."""

from dataclasses import dataclass
from typing import Any

from django.urls import reverse
from django.utils.safestring import SafeString
from django.utils.translation import gettext as _

from lynxwort.core.errors import InputRefused
from lynxwort.core.model.bike import Bike as CoreBike
from lynxwort.core.model.bike import Electric
from lynxwort.core.model.setup import Setup as CoreSetup
from lynxwort.core.standin.unraced import unraced
from lynxwort.core.stations.baseline.log import Log
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.models import Pairing
from lynxwort.web.bench.services import open_bench
from lynxwort.web.bikes.models import Bike, Setup
from lynxwort.web.bikes.places import ORDER, place_of, title_of
from lynxwort.web.bikes.services import as_it_stands, checked_bike
from lynxwort.web.evaluation import door
from lynxwort.web.readings.services import checked_reading
from lynxwort.web.stations.baseline.doing import bike_log
from lynxwort.web.stations.baseline.rooms import picture
from lynxwort.web.stations.pictured import called_out
from lynxwort.web.ui.drawings.standing import Note
from lynxwort.words.bike import KINDS
from lynxwort.words.choices import ENGINES
from lynxwort.words.formatting import short_number, value_text
from lynxwort.words.service.parts import PARTS

#: kept setups told of one line, and readings; the rest stands in its history and on the bench
NEWEST, NEWEST_READINGS = 5, 10


def what_it_is(bike: CoreBike, preset: Units | str) -> str:
    """A bike in one line: engine, size, weight, travel."""
    frame, size = bike.frame, getattr(bike.engine, "displacement_m3", None)
    parts = [
        _(ENGINES[bike.engine.kind]),
        "" if size is None else value_text(size, "engine_size", preset),
        value_text(frame.mass_dry_kg, "mass", preset),
        _("travel %(front)s in front, %(rear)s behind")
        % {
            "front": value_text(frame.fork_travel_m, "travel", preset),
            "rear": value_text(frame.rear_travel_m, "travel", preset),
        },
    ]
    return ", ".join(p for p in parts if p)


@dataclass(frozen=True, slots=True)
class Told:
    """One fact of a place, as its call-out says it. part: of the drawing; said: of this bike, or assumed."""

    place: str
    words: str
    part: str
    side: str
    said: bool

    def note(self, url: str) -> Note:
        """Its call-out: what is assumed has a wave before it."""
        told = _("%(words)s, assumed") % {"words": self.words}
        return Note(
            self.words if self.said else f"~ {self.words}", self.part, url, self.side, told="" if self.said else told
        )


def told_of(core: CoreBike, setup: CoreSetup, preset: Units | str) -> list[Told]:
    """What a bike is, a fact or two for each place, as a glance wants it."""
    frame, engine = core.frame, core.engine

    def shown(value: float, kind: str) -> str:
        return value_text(value, kind, preset)

    def told(place: str, words: str, part: str, side: str, *paths: str) -> Told:
        return Told(place, words, part, side, all(core.says(path) for path in paths))

    def spring(end: str, words: str, part: str, side: str, place: str) -> Told:
        name = f"{end}_spring_rate_n_per_m"
        rate = shown(getattr(setup, name), "spring_rate")
        return Told(place, words % {"rate": rate}, part, side, name not in setup.assumed)

    electric = isinstance(engine, Electric)
    power = shown(engine.peak_power_w, "power")
    if not electric:
        power = _("%(power)s at %(revs)s") % {"power": power, "revs": shown(engine.peak_power_rpm, "rpm")}
    holds = setup.pack_energy_j if electric else setup.tank_capacity_m3
    first, top = core.transmission.gear_ratios[0], core.transmission.gear_ratios[-1]
    gears = _("gears %(first)s to %(top)s") % {"first": short_number(first, 3), "top": short_number(top, 3)}
    if electric:
        gears = _("reduction %(ratio)s") % {"ratio": short_number(core.transmission.primary_ratio, 3)}
    return [
        told("weight", shown(frame.mass_dry_kg, "mass"), "seat", "left", "frame.mass_dry_kg"),
        told(
            "seat", _("seat %(v)s") % {"v": shown(frame.seat_height_m, "length")}, "seat", "left", "frame.seat_height_m"
        ),
        spring("shock", _("shock %(rate)s"), "shock", "left", "shock"),
        Told(
            "fuel",
            shown(holds or 0.0, "energy" if electric else "volume"),
            "pack" if electric else "tank",
            "right",
            True,
        ),
        spring("fork", _("fork %(rate)s"), "fork, upper tube", "right", "fork"),
        told("engine", power, "motor" if electric else "cylinder", "right", "engine.peak_power_w"),
        told("rear_wheel", core.tyre.marking, "rear axle", "below", "tyre.marking"),
        told("gears", gears, "front sprocket", "below", "transmission.primary_ratio"),
        told("front_wheel", frame.front_tyre, "front axle", "below", "frame.front_tyre"),
    ]


def facts_picture(row: Bike, preset: Units | str) -> SafeString | str:
    """The bike nobody sits on, each place called out: a press leads to its facts. Nothing of one that cannot be set up
    as it stands.
    """
    try:
        core, setup = as_it_stands(row)
        facts = reverse("bikes:facts", args=[row.pk])
        notes = [t.note(f"{facts}#place-{t.place}") for t in told_of(core, setup, preset)]
        return called_out(unraced(core, setup), notes, _("The bike from the side, each place leads to its facts"))
    except InputRefused:
        return ""


def assumed_places(row: Bike) -> list[tuple[str, str, int]]:
    """Places of which something is only as such a bike usually has it: name, title, how many facts."""
    core = checked_bike(row.document)
    found: dict[str, int] = {}
    for path in core.assumed:
        place = place_of(f"bike.{path}")
        found[place] = found.get(place, 0) + 1
    return [(place, title_of(place, core.engine.kind), found[place]) for place in ORDER if place in found]


def _picture(line: Setup, pairing: Pairing, preset: Units | str) -> SafeString | str:
    """The kept setup with the rider of its race; nothing of one that cannot be set up as it stands, or before the
    first evaluation could be made.
    """
    if not door.is_warm():
        door.warm_in_background()
        return ""
    try:
        return picture(open_bench(line, pairing.race), preset)
    except InputRefused:
        return ""


def _hours(log: Log, preset: Units | str) -> dict[str, Any] | None:
    """Hours of the bike and of its parts whose failure ends a race; nothing before anything was written down."""
    if not log.begun:
        return None
    ending = [(k, p) for k, p in log.parts.items() if (lasts := log.lasts(k)) is not None and lasts.shape is not None]
    return {
        "now": value_text(log.line.now_s, "engine_hours", preset),
        "parts": [(_(PARTS[k][0]), value_text(log.run_s(p), "engine_hours", preset)) for k, p in ending],
    }


def bike_page(row: Bike, preset: Units | str) -> dict[str, Any]:
    """Everything of one bike."""
    core = checked_bike(row.document)
    lines = list(row.setups.select_related("head").order_by("pk"))
    pairings = list(
        Pairing.objects.filter(setup__bike=row)
        .select_related("race__rider", "race__course", "setup")
        .order_by("race__start")
    )
    first = next((p for p in pairings if p.setup.head_id), None)
    readings = list(row.readings.order_by("-created", "-pk"))
    assumed = assumed_places(row)
    log = bike_log(row)
    return {
        "hours": _hours(log, preset),
        "service_bench": first or next(iter(pairings), None),
        "assumed": assumed,
        "all_assumed": sum(n for _place, _title, n in assumed),
        "kind": _(KINDS[core.pattern][0]) if core.pattern else "",
        "bike": row,
        "core": core,
        "what": what_it_is(core, preset),
        "picture": _picture(first.setup, first, preset) if first else facts_picture(row, preset),
        "only_setup": lines[0].pk if len(lines) == 1 else None,
        "pairings": pairings,
        "lines": [
            {
                "line": line,
                "newest": line.revisions.defer("report", "document")[:NEWEST],
                "more": max(line.revisions.count() - NEWEST, 0),
            }
            for line in lines
        ],
        "readings": [(r, checked_reading(r.document)) for r in readings[:NEWEST_READINGS]],
        "more_readings": max(len(readings) - NEWEST_READINGS, 0),
    }
