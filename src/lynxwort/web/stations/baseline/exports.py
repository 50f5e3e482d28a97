"""Hours, wear and what falls due, to take along: as tables and as a calendar."""

from datetime import UTC, date, datetime

from django.utils import timezone
from django.utils.translation import gettext as _
from icalendar import Calendar, Event

from lynxwort.core.model.service.measures import MEASURES
from lynxwort.core.stations.baseline.asked import ServiceSeen, service_seen
from lynxwort.web.bench.services import Bench
from lynxwort.web.ui.sheets import csv_text, ringing
from lynxwort.words.formatting import number_text
from lynxwort.words.service.parts import PARTS, STATES

#: the first day that a revision of a calendar is counted from
FIRST_DAY = date(2020, 1, 1)


def _h(seconds: float | None) -> str:
    return "" if seconds is None else number_text(seconds, "hours", "metric")


def hours_csv(bench: Bench) -> str:
    """Parts with what they ran, then the rides."""
    seen: ServiceSeen = bench.kept.ask(service_seen)
    rows = [[_("part"), _("name"), _("run h"), _("interval h"), _("left after the race h"), _("state")]]
    rows += [
        [_(PARTS[d.part.kind][0]), d.part.name, _h(d.run_s), _h(d.interval_s), _h(d.left_after_s), _(STATES[d.state])]
        for d in seen.due
    ]
    rows += [[], [_("ride"), _("where"), _("ridden h"), _("meter h"), _("bike h after it"), _("day")]]
    rows += [
        [str(k), ride.name, _h(ride.time_s), _h(ride.meter_s), _h(after), ride.day or ""]
        for k, (ride, after) in enumerate(zip(seen.log.rides, seen.log.line.after_s, strict=True), start=1)
    ]
    return csv_text(rows)


def wear_csv(bench: Bench) -> str:
    """Every measurement in SI, by the codes it was written down with."""
    log = bench.kept.ask(service_seen).log
    rows = [[_("measure"), _("bike h"), _("value"), _("unit"), _("seen"), _("limit"), _("day")]]
    for r in sorted(log.service.wear, key=lambda r: r.seq):
        at = log.hours_at(r.seq) if r.at_s is None else r.at_s
        value = "" if r.value_si is None else f"{r.value_si:g}"
        unit = "Hz" if r.tones_hz else MEASURES[r.measure].unit
        value = " ".join(f"{t:g}" for t in r.tones_hz) or value
        rows.append([r.measure, _h(at), value, unit, r.seen, "" if r.limit_si is None else f"{r.limit_si:g}",
                     r.day or ""])  # fmt: skip
    return csv_text(rows)


def due_ics(bench: Bench) -> bytes:
    """What falls due: before the race what its hours end in, on its day what ages."""
    seen: ServiceSeen = bench.kept.ask(service_seen)
    made = Calendar()
    made.add("prodid", "-//Lynxwort//service//EN")
    made.add("version", "2.0")
    start = date.fromisoformat(bench.kept_inputs.race.start[:10])
    for d in seen.due:
        before = d.state in ("overdue", "exceeds_during_race")
        if not before and d.due_day is None:
            continue
        title, done = PARTS[d.part.kind]
        told = {"part": _(title), "done": _(done), "bike": bench.setup.bike.name, "race": bench.race.name}
        words = _("%(bike)s: %(part)s, to be %(done)s before %(race)s") if before else _("%(bike)s: %(part)s, %(done)s")
        event = Event()
        event.add("uid", f"{d.part.id}@lynxwort")
        event.add("dtstamp", datetime.now(UTC))
        event.add("sequence", (timezone.localdate() - FIRST_DAY).days)
        event.add("dtstart", start if before else date.fromisoformat(d.due_day or ""))
        event.add("summary", words % told)
        ringing(event, words % told)
        made.add_component(event)
    return bytes(made.to_ical())
