"""Laps of a trial out of a recorded session: read, cut at the line, told which run each is, kept."""

import uuid
from typing import Any

from django import forms
from django.core import signing
from django.db import transaction
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from lynxwort.core.units.convert import Units
from lynxwort.web.bench.services import Bench
from lynxwort.web.jobs import apart, reading
from lynxwort.web.races.models import Course
from lynxwort.web.races.tracks import load_track
from lynxwort.web.runs import services
from lynxwort.web.runs.models import Trial
from lynxwort.web.stations.trials.running import next_place
from lynxwort.words.formatting import value_text

#: what a page sends back of the laps it was shown is signed with this
SALT, MOST_LAPS = "lynxwort.session", 60


class SessionForm(forms.Form):
    """A session's file, and the course that it was ridden on."""

    file = forms.FileField(label=gettext_lazy("The session, GPX with times, or a CSV of laps"))

    def __init__(self, data: Any = None, files: Any = None, *, bench: Bench) -> None:
        super().__init__(data, files)
        courses = list(Course.objects.filter(garage=bench.setup.bike.garage))
        first = bench.race.document["stages"][0]["course_key"]
        self.fields["course"] = forms.ChoiceField(
            label=_("Ridden on"), choices=[(c.blob_id, c.name) for c in courses], initial=first
        )

    def laps(self) -> list[dict[str, Any]]:
        """Its whole laps. Raises InputRefused."""
        course = reading.plain(load_track(self.cleaned_data["course"]))
        found = apart.read(
            "lynxwort.web.jobs.reading:session", self.cleaned_data["file"], {"course": course}, here=reading.session
        )
        return [lap for lap in found if lap["whole"]][:MOST_LAPS]


def places_left(trial: Trial) -> list[int]:
    """Places of the order that have no run that counts."""
    done = {r.document["place"] for r in trial.runs.all() if not r.document.get("botched")}
    return [k for k in range(len(trial.document["order"])) if k not in done]


def session_page(trial: Trial, laps: list[dict[str, Any]], preset: Units | str) -> dict[str, Any]:
    """The laps as they were found, each with the run that it likely is: in the order, those with a stand left out."""
    left = places_left(trial)
    order, rows = trial.document["order"], []
    for lap in laps:
        fits = [k for k in left if lap.get("setting", "") in ("", order[k])]
        guess = fits[0] if fits and not lap["stood_s"] else None
        if guess is not None:
            left.remove(guess)
        rows.append(
            {
                "number": lap["number"] + 1,
                "time": value_text(lap["time_s"], "lap_time", preset),
                "error": value_text(lap["error_s"], "seconds", preset),
                "sectors": len(lap["sectors_s"]),
                "stood": value_text(lap["stood_s"], "duration", preset) if lap["stood_s"] else "",
                "guess": guess,
                "note": lap.get("note", ""),
            }
        )
    blind = bool(trial.document.get("blind"))
    choices = [(k, f"{k + 1}" if blind else f"{k + 1}: {order[k]}") for k in places_left(trial)]
    return {"rows": rows, "choices": choices, "signed": signing.dumps(laps, salt=SALT, compress=True)}


def keep(trial: Trial, posted: Any) -> int:
    """Keep the laps that were told to be runs, all or none; how many. Raises InputRefused, and BadSignature for what
    this server did not read.
    """
    laps = signing.loads(posted.get("laps", ""), salt=SALT, max_age=6 * 3600)
    ridden, kept, left = trial.runs.count(), 0, set(places_left(trial))
    with transaction.atomic():
        for k, lap in enumerate(laps):
            place = posted.get(f"lap-{k}", "")
            if not place.isdigit() or int(place) not in left:
                continue
            left.discard(int(place))
            services.add_run(trial, run_of(lap, int(place), ridden + k), uuid.uuid4())
            kept += 1
    return kept


def run_of(lap: dict[str, Any], place: int, ridden: int) -> dict[str, Any]:
    """The document of a run out of a lap of a session."""
    return {
        "place": place, "ridden": ridden, "time_s": round(lap["time_s"], 3), "from_file": True,
        "sectors_s": [round(s, 3) for s in lap["sectors_s"]] if len(lap["sectors_s"]) > 1 else [],
        "error_s": round(lap["error_s"], 3),
    }  # fmt: skip


def is_open(trial: Trial | None) -> bool:
    """Whether a trial has runs still to ride."""
    return trial is not None and next_place(trial) is not None
