"""What a press in Service does to the log."""

import uuid
from typing import Any

from django.utils import timezone
from django.utils.translation import gettext as _

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.service import Service
from lynxwort.core.model.service.records import FATES, ClockedPart
from lynxwort.core.stations.baseline.asked import (
    ServiceSeen,
    WearSeen,
    log_of,
    renewed,
    ridden_laps,
    service_seen,
    wear_seen,
)
from lynxwort.core.stations.baseline.log import Log
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.services import Bench
from lynxwort.web.bikes.models import Bike
from lynxwort.web.bikes.services import checked_bike
from lynxwort.web.jobs import apart, reading
from lynxwort.web.runs.days import days_of
from lynxwort.web.service import services
from lynxwort.web.service.models import ServiceLine
from lynxwort.web.stations.baseline.servicing import AboutForm, PartForm, RideForm
from lynxwort.web.stations.baseline.wearing import BoltForm, WearForm
from lynxwort.web.ui.forms import DocumentForm
from lynxwort.words.service.parts import PARTS

#: names of rides are made from those of the days they are taken from
DAYS = uuid.UUID("1f6b2f0e-51f5-4a38-8f0b-2f6f0c5a7d11")


def _refuse(path: str, code: str, high: float | None = None) -> InputRefused:
    return InputRefused(Refusal(path=path, code=code, high=high))


def seen_of(bench: Bench) -> ServiceSeen:
    """The log of the bike on the bench."""
    found: ServiceSeen = bench.kept.ask(service_seen)
    return found


def kinds(bench: Bench) -> tuple[str, ...]:
    """Parts that such a bike has."""
    log = seen_of(bench).log
    return tuple(k for k in PARTS if log.lasts(k) is not None)


def wear_form(bench: Bench, measure: str, sent: Any, preset: Units | str) -> WearForm | None:
    """The form of a measure that such a bike has."""
    seen: WearSeen = bench.kept.ask(wear_seen)
    return WearForm(sent, preset=preset, measure=measure, seen=seen) if measure in seen.measures else None


def log(bench: Bench, form: DocumentForm) -> None:
    """Write down what a form says. Raises InputRefused."""
    bike, today = bench.setup.bike, timezone.localdate().isoformat()
    name = form.cleaned_data.get("line")
    if isinstance(form, AboutForm):
        services.say(bike, **form.facts())
    elif isinstance(form, RideForm):
        services.write(bike, "ride", _ridden(bench, form), name=name)
    elif isinstance(form, PartForm):
        now = {"fitted_s": seen_of(bench).log.line.now_s, "day": today}
        services.write(bike, "part", now | form.part(), name=name)
    elif isinstance(form, WearForm):
        services.write(bike, "wear", {"day": today} | form.reading(), name=name)
    elif isinstance(form, BoltForm):
        services.write(bike, "bolt", form.bolt(seen_of(bench).log.line.now_s), name=name)


def _ridden(bench: Bench, form: RideForm) -> dict[str, Any]:
    """A ride as it was typed, recorded or worked out: what the rider typed goes before. Raises InputRefused."""
    said, laps, track = form.ride(), form.cleaned_data.get("laps"), form.cleaned_data.get("track")
    if "time_s" not in said and "meter_s" not in said:
        if track is not None:
            said |= {"time_s": apart.read("lynxwort.web.jobs.reading:moved", track, {}, here=reading.moved)}
            said["basis"] = "track"
        elif laps:
            said = bench.kept.ask(ridden_laps, laps) | said
    return said


def day_ridden(bench: Bench, name: str) -> str | None:
    """Take the hours of a logged day into the log, once; None where there is no such day. Raises InputRefused."""
    row = next((d for d in days_of(bench.setup.bike) if str(d.uid) == name), None)
    if row is None or "time_s" not in row.document:
        return None
    told = {"time_s": row.document["time_s"], "name": row.document["name"], "of_day": name}
    if row.document.get("ended") == "crash":
        told["crashed"] = True
    on = timezone.localdate(row.created).isoformat()
    services.write(bench.setup.bike, "ride", told | {"day": on}, name=uuid.uuid5(DAYS, name))
    return _("Written down.")


def pressed(bench: Bench, row: ServiceLine, do: str, fate: str, of_day: str = "") -> str | None:
    """Do what a button of a line says; what to tell then, None for what cannot be asked. Raises InputRefused."""
    if do == "strike":
        services.strike_out(row)
        return _("Struck out.")
    if row.kind == "part" and do == "done" and fate in FATES[1:]:
        return _renewed(bench, row, fate, of_day)
    if row.kind == "bolt" and do in ("tight", "true", "moved"):
        now = seen_of(bench).log.line.now_s
        services.change(row, **({"tight_s": now} if do == "tight" else {"mark": do}))
        return _("Written down.")
    return None


def _part(row: ServiceLine) -> ClockedPart:
    return ClockedPart.model_validate(row.as_document())


def _renewed(bench: Bench, row: ServiceLine, fate: str, of_day: str) -> str | None:
    """A part is changed, or its work done: its hours are kept as its life, and its clock begins anew."""
    seen, part = seen_of(bench).log, _part(row)
    if part.fate != "fitted":
        # pressed twice, or in another window
        return _("That was done already.")
    today = timezone.localdate().isoformat()
    fresh = renewed(seen, part) | {"fitted_day": today, "day": today}
    services.renew(row, fate=fate, ended_s=seen.run_s(part), fresh=fresh, of_day=of_day or None)
    title, done = PARTS[part.kind]
    return _("%(part)s: %(done)s. Its clock begins anew.") % {"part": _(title), "done": _(done)}


def move(bench: Bench, row: ServiceLine, to: Bike) -> str | None:
    """A part goes to another bike with its clock; what was there of its kind comes off sound. Raises InputRefused."""
    if row.kind != "part" or to.pk == row.bike_id:
        return None
    part, here = _part(row), seen_of(bench).log
    if part.fate != "fitted":
        return None
    there = bike_log(to)
    if there.lasts(part.kind) is None:
        raise _refuse("to", "no_such_part")
    old = there.parts.get(part.kind)
    before = None if old is None else (old.id, there.run_s(old))
    services.move(
        row, to, run_s=here.run_s(part), fitted_s=there.line.now_s, day=timezone.localdate().isoformat(), before=before
    )
    told = {"part": _(PARTS[part.kind][0]), "bike": to.name}
    return _("%(part)s went to %(bike)s with the hours it ran.") % told


def bike_log(bike: Bike) -> Log:
    """The log of any bike of the garage, without a race."""
    said = services.service_of(bike)
    return log_of(checked_bike(bike.document), None if said is None else Service.model_validate(said))
