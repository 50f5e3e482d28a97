"""Service on the page: what is due before the race, the log of rides, parts and how long they last."""

import uuid
from dataclasses import dataclass
from typing import Any

from django import forms
from django.utils import timezone
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from lynxwort.core.model.service import ClockedPart, Ride, Service
from lynxwort.core.stations.baseline.asked import ServiceSeen, service_seen
from lynxwort.core.stations.baseline.due import Due, Risk
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.services import Bench
from lynxwort.web.bikes.models import Bike
from lynxwort.web.runs.days import days_of
from lynxwort.web.service import services
from lynxwort.web.service.models import ServiceLine
from lynxwort.web.ui.forms import DocumentForm
from lynxwort.words.formatting import value_text
from lynxwort.words.service.parts import BASES, FATES, PARTS, STATES

#: what the leaf of a part looks like
LEAVES = {"overdue": "act", "exceeds_during_race": "act", "soon": "look", "fine": "ok", "unknown": "unknown"}
#: laps of the course that one ride may have, and lines of the log that a page shows
MOST_LAPS, SHOWN = 200, 12


class RideForm(DocumentForm):
    """A ride, or a reading of the meter. name_of_line: so that it is kept once."""

    spec = (
        ("day", Ride, gettext_lazy("Day, like 2027-04-02")),
        ("name", Ride, gettext_lazy("Where")),
        ("time_s", Ride, gettext_lazy("Hours ridden")),
        ("meter_s", Ride, gettext_lazy("Hour meter after it")),
        ("sand_share", Ride, gettext_lazy("of it in sand")),
        ("mud_share", Ride, gettext_lazy("of it in mud")),
        ("full_share", Ride, gettext_lazy("of it at full throttle")),
    )

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["laps"] = forms.IntegerField(
            min_value=1, max_value=MOST_LAPS, required=False, label=_("or laps of this course"),
            help_text=_("Their time comes from the ride worked out on this bench."),
        )  # fmt: skip
        self.fields["track"] = forms.FileField(
            required=False, label=_("or a recorded track (GPX)"), help_text=_("Only the time it moved counts.")
        )
        self.fields["crashed"] = forms.BooleanField(required=False, label=_("It fell hard, or hit something"))
        self.fields["line"] = forms.UUIDField(widget=forms.HiddenInput, initial=uuid.uuid4)

    def ride(self) -> dict[str, Any]:
        """The line's document, as far as it was typed."""
        return self.document() | ({"crashed": True} if self.cleaned_data.get("crashed") else {})


class PartForm(DocumentForm):
    """A part with its clock."""

    spec = (
        ("kind", ClockedPart, gettext_lazy("Part")),
        ("name", ClockedPart, gettext_lazy("What you call it")),
        ("fitted_s", ClockedPart, gettext_lazy("Fitted or done at, hours of the bike")),
        ("carried_s", ClockedPart, gettext_lazy("It had run by then")),
        ("fitted_day", ClockedPart, gettext_lazy("Day, like 2027-04-02")),
        ("interval_s", ClockedPart, gettext_lazy("Interval by the manual")),
        ("months", ClockedPart, gettext_lazy("Months by the manual")),
    )
    choice_labels = {"kind": [(k, gettext_lazy(w[0])) for k, w in PARTS.items()]}

    def __init__(self, *args: Any, kinds: tuple[str, ...] = tuple(PARTS), **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["kind"].choices = [(k, _(PARTS[k][0])) for k in kinds]  # type: ignore[attr-defined]
        self.fields["new_build"] = forms.BooleanField(
            required=False, label=_("A new wheel, or a fork never opened"),
            help_text=_("Looked at earlier the first time."),
        )  # fmt: skip
        self.fields["boiled"] = forms.BooleanField(required=False, label=_("The fluid boiled once"))
        self.fields["line"] = forms.UUIDField(widget=forms.HiddenInput, initial=uuid.uuid4)

    def part(self) -> dict[str, Any]:
        """The line's document."""
        return self.document() | {k: True for k in ("new_build", "boiled") if self.cleaned_data.get(k)}


class AboutForm(DocumentForm):
    """What is said of the log as a whole."""

    spec = (
        ("ridden", Service, gettext_lazy("Intervals of a bike that is")),
        ("practice_s", Service, gettext_lazy("Still to be ridden before the start")),
        ("claimed_s", Service, gettext_lazy("Hours that the seller claims")),
    )
    choice_labels = {"ridden": [("race", gettext_lazy("raced")), ("trail", gettext_lazy("ridden on trails"))]}

    def facts(self) -> dict[str, Any]:
        """What was said; what was emptied is taken back."""
        return {path: None for path, *_rest in self.spec} | self.document()


@dataclass(frozen=True, slots=True, kw_only=True)
class PartRow:
    """A part in words. share: of its interval that it has run by the finish and now [%], for its bar; risk: in words,
    empty when none is known; fates: how it may have come off; others: bikes it can go to.
    """

    id: str
    kind: str
    title: str
    done: str
    leaf: str
    state: str
    said: str
    run: str
    interval: str
    assumed: bool
    now_percent: int
    finish_percent: int
    risk: str
    ends_race: bool


def hours(seconds: float, preset: Units | str) -> str:
    """Engine hours in words."""
    return value_text(seconds, "engine_hours", preset)


def _said(d: Due, preset: Units | str) -> str:
    """How long a part still lasts, in words."""
    if d.because != "hours" and d.state != "fine":
        if d.because == "boiled":
            return _("boiled once")
        return _("nobody said how old") if d.age is None else _("%(n)s months old at the start") % {"n": d.age}
    if d.left_after_s is None or d.left_s is None:
        return "" if d.due_day is None else _("until %(day)s") % {"day": d.due_day}
    if d.state == "overdue":
        return _("%(h)s over") % {"h": hours(-d.left_s, preset)}
    if d.state == "exceeds_during_race":
        return _("%(now)s left, the race takes %(race)s") % {
            "now": hours(d.left_s, preset), "race": hours(d.finish_s - d.start_s, preset),
        }  # fmt: skip
    return _("%(h)s left after the race") % {"h": hours(d.left_after_s, preset)}


def part_row(d: Due, risk: Risk | None, preset: Units | str) -> PartRow:
    """A part as the list shows it."""
    interval = d.interval_s or 0.0
    title, done = PARTS[d.part.kind]
    told = ""
    if d.interval_s is not None:
        told = hours(d.interval_s, preset)
    elif d.months is not None:
        told = _("%(n)s months") % {"n": d.months}
    return PartRow(
        id=d.part.id, kind=d.part.kind, title=f"{_(title)}: {d.part.name}" if d.part.name else _(title), done=_(done),
        leaf=LEAVES[d.state], state=_(STATES[d.state]), said=_said(d, preset), run=hours(d.run_s, preset),
        interval=told, assumed=d.assumed,
        now_percent=_percent(d.run_s, interval), finish_percent=_percent(d.finish_s, interval),
        risk="" if risk is None else risk_words(risk), ends_race=risk is not None,
    )  # fmt: skip


def _percent(part: float, whole: float) -> int:
    return round(100.0 * min(part / whole, 1.0)) if whole > 0.0 else 0


def one_in(chance: float) -> str:
    """A small chance as one in so many."""
    many = 1.0 / max(chance, 1e-4)
    return f"{many:.0f}" if many < 20.0 else f"{round(many, -1):.0f}"


def risk_words(risk: Risk) -> str:
    """A part's risk in words, and from what it is known."""
    said = _("ends the race about 1 time in %(n)s") % {"n": one_in(risk.chance)}
    if risk.pulled + risk.failed:
        told = {"said": said, "n": risk.pulled + risk.failed, "failed": risk.failed}
        return _("%(said)s (from %(n)s before it, %(failed)s failed)") % told
    return said


@dataclass(frozen=True, slots=True, kw_only=True)
class RideRow:
    """A ride in words. after: hours of the bike after it."""

    id: str
    day: str
    name: str
    time: str
    basis: str
    after: str
    crashed: bool


def ride_rows(seen: ServiceSeen, preset: Units | str) -> list[RideRow]:
    """The rides, the newest first."""
    rows = [
        RideRow(
            id=ride.id, day=ride.day or "", name=ride.name,
            time="" if ride.time_s is None else hours(ride.time_s, preset),
            basis=_(BASES["meter"] if ride.meter_s is not None else BASES[ride.basis]),
            after=hours(after, preset), crashed=ride.crashed,
        )
        for ride, after in zip(seen.log.rides, seen.log.line.after_s, strict=True)
    ]  # fmt: skip
    return rows[::-1]


@dataclass(frozen=True, slots=True, kw_only=True)
class DayRow:
    """A logged day that the log of service knows nothing of yet. time: its hours, empty when they are taken in or not
    known; part: what stopped it, empty when no part did or it was said which.
    """

    id: str
    name: str
    day: str
    time: str
    part: str


def day_rows(bench: Bench, seen: ServiceSeen, preset: Units | str) -> list[DayRow]:
    """Days that were logged whose hours, or whose broken part, are not written down here."""
    service = seen.log.service
    ridden = {r.of_day for r in service.rides}
    broken = {p.of_day for p in service.parts}
    rows = []
    for d in days_of(bench.setup.bike):
        name, said = str(d.uid), d.document
        time = hours(said["time_s"], preset) if "time_s" in said and name not in ridden else ""
        part = said.get("ended_part") or _("a part") if said.get("ended") == "part" and name not in broken else ""
        if time or part:
            on = timezone.localdate(d.created).isoformat()
            rows.append(DayRow(id=name, name=said["name"], day=on, time=time, part=part))
    return rows


def service_page(
    bench: Bench,
    preset: Units | str,
    *,
    ride: RideForm | None = None,
    part: PartForm | None = None,
    about: AboutForm | None = None,
) -> dict[str, Any]:
    """What is due first, then the log."""
    seen: ServiceSeen = bench.kept.ask(service_seen)
    risks = {r.kind: r for r in seen.risks}
    rows = [part_row(d, risks.get(d.part.kind), preset) for d in seen.due]
    rides = ride_rows(seen, preset)
    every = tuple(k for k in PARTS if seen.log.lasts(k) is not None)
    return {
        "now": hours(seen.log.line.now_s, preset),
        "race_takes": hours(seen.race_s, preset),
        "begun": seen.log.begun,
        "waiting": [r for r in rows if r.leaf != "ok"],
        "fine": [r for r in rows if r.leaf == "ok"],
        "absent": [(k, _(PARTS[k][0])) for k in seen.absent],
        "risk": None if seen.risk is None else one_in(seen.risk[0]),
        "risk_range": None if seen.risk is None else (one_in(seen.risk[2]), one_in(seen.risk[1])),
        "days": day_rows(bench, seen, preset),
        "on_bike": [(r.id, r.title) for r in rows],
        "rides": rides[:SHOWN],
        "more_rides": max(len(rides) - SHOWN, 0),
        "fates": [(code, _(words)) for code, words in FATES.items()],
        "others": Bike.objects.filter(garage=bench.setup.bike.garage).exclude(pk=bench.setup.bike_id).order_by("name"),
        "form": ride or RideForm(preset=preset, initial={"day": timezone.localdate().isoformat()}),
        "part_form": part or PartForm(preset=preset, kinds=every),
        "about_form": about or AboutForm(preset=preset, current=services.about(bench.setup.bike)),
        "open": {"ride": ride, "part": part, "about": about},
    }


def line_of(bench: Bench, name: uuid.UUID) -> ServiceLine | None:
    """A line of this bike's log that counts."""
    return ServiceLine.objects.filter(bike=bench.setup.bike, uid=name, struck_out=False).first()


def line_named(bench: Bench, name: str) -> ServiceLine | None:
    """The same by a name as a form sends it."""
    try:
        return line_of(bench, uuid.UUID(name))
    except ValueError:
        return None
