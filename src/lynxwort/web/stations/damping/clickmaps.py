"""Compression against rebound over a piece of the course: swept by the worker, drawn while it grows; which way to turn
through the day.
"""

from dataclasses import asdict
from typing import Any

from django import forms
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from lynxwort.core.asks import clickmap
from lynxwort.core.stations.damping import dampers, rides
from lynxwort.core.stations.trials import day as trial_days
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.services import Bench
from lynxwort.web.bikes.models import Setup
from lynxwort.web.evaluation import assembled, door
from lynxwort.web.jobs import worker
from lynxwort.web.jobs.models import Job
from lynxwort.web.races.models import Race
from lynxwort.web.ui.drawings import dampers as drawings
from lynxwort.words.catalogue import TERMS
from lynxwort.words.damping import SEEN, SWEPT
from lynxwort.words.formatting import value_text

#: measures in the table of the day
OF_THE_DAY = ("stop_n", "packing_m", "overshoot_m", "peg_m_per_s2")


class MapForm(forms.Form):
    """Which end over which piece, and what the map shows."""

    end = forms.ChoiceField(
        choices=(("rear", gettext_lazy("shock")), ("front", gettext_lazy("fork"))), label=gettext_lazy("Clicks of")
    )
    piece = forms.ChoiceField(label=gettext_lazy("over"))
    show = forms.ChoiceField(choices=[(k, gettext_lazy(v)) for k, v in SWEPT.items()], label=gettext_lazy("Shown"))

    def __init__(self, *args: Any, bench: Bench, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        kinds = [f.kind for f in bench.report.ask(rides.features)]
        self.fields["piece"].choices = [(k, _(TERMS[k])) for k in kinds]  # type: ignore[attr-defined]
        self.first = {"end": "rear", "piece": kinds[0], "show": "stop_n"}
        self.initial = self.first


def ask(bench: Bench, chosen: dict[str, str], *, again: bool = False) -> Job:
    """The job that sweeps the draft's clicks; one per input. again: a cancelled one is asked for anew."""
    payload = {
        "setup": bench.setup.pk,
        "race": bench.race.pk,
        "values": bench.draft.values,
        "end": chosen["end"],
        "piece": chosen["piece"],
    }
    return worker.ask(
        "clicks", f"{door.ridden_key(bench.inputs)}:{chosen['end']}:{chosen['piece']}", payload, again=again
    )


@worker.register_stepping("clicks")
def compute(payload: dict[str, Any], step: worker.Step) -> list[dict[str, Any]]:
    """Job: the cells, stored as they come, the coarse map first."""
    setup = Setup.objects.select_related("bike__garage").get(pk=payload["setup"])
    race = Race.objects.select_related("course", "rider").get(pk=payload["race"])
    report = door.report_of(assembled.assemble(setup, race, payload["values"]))
    feature = next(f for f in report.ask(rides.features) if f.kind == payload["piece"])
    pairs, cells = report.ask(clickmap.pairs_of, payload["end"]), []
    for cell in report.ask(clickmap.sweep, payload["end"], feature, pairs):
        cells.append(asdict(cell))
        step(len(cells) / len(pairs), cells)
    return cells


def page(bench: Bench, job: Job, chosen: dict[str, str], preset: Units | str) -> dict[str, Any]:
    """The map so far, and what a click of either adjuster does."""
    cells = [clickmap.ClickCell(**c) for c in job.result or []]
    name, kind = chosen["show"], clickmap.MEASURES[chosen["show"]]
    now = dampers.clicks_of(bench.inputs.setup, dampers.ENDS[chosen["end"]])
    words: dict[str, Any] = {}
    if len(cells) > 3:
        least, most = (pick(cells, key=lambda c: c.values[name]) for pick in (min, max))
        turned = [
            (way, value_text(abs(TEN * slope), kind, preset), slope < 0.0)
            for way, slope in zip((_("compression"), _("rebound")), clickmap.slopes_of(cells, name), strict=True)
        ]
        words = {
            "least": value_text(least.values[name], kind, preset),
            "most": value_text(most.values[name], kind, preset),
            "turned": turned,
            "best": f"{least.compression} / {least.rebound}",
            "moves": f'[["{dampers.ENDS[chosen["end"]]}_compression_clicks", {least.compression}], '
            f'["{dampers.ENDS[chosen["end"]]}_rebound_clicks", {least.rebound}]]',
        }
    drawing = drawings.heat(
        [(c.compression, c.rebound, c.values[name], clickmap.width_of((c.compression, c.rebound))) for c in cells],
        now,
        bench.report.ask(clickmap.most_of, chosen["end"]),
        x_axis=_("compression, clicks out"),
        y_axis=_("rebound, clicks out"),
        label=_("%(what)s by clicks of compression and rebound") % {"what": _(SWEPT[name])},
        words=_("now"),
    )
    return {
        "job": job,
        "working": job.state in ("waiting", "running"),
        "percent": round(100 * job.progress),
        "drawing": drawing,
        "chosen": chosen,
        "found": words,
        "shown": _(SWEPT[name]),
        "now": f"{now[0]} / {now[1]}",
        "query": "&".join(f"{k}={v}" for k, v in chosen.items()),
    }


#: clicks of which a map says the effect
TEN = 10.0


def day(bench: Bench, end: str, preset: Units | str) -> dict[str, Any]:
    """Which way to turn as the whoops deepen."""
    hours = []
    # what the whoops become is the day's; how the bike takes them is the draft's
    moments = bench.kept.ask(trial_days.through)
    for hour in bench.report.ask(clickmap.through_the_day, end, moments):
        rows = []
        for turn in hour.turns:
            way = _("compression") if turn.way == "compression" else _("rebound")
            name = (_("%(n)s clicks out") if turn.clicks > 0 else _("%(n)s clicks in")) % {"n": abs(turn.clicks)}
            cells = []
            for measure in OF_THE_DAY:
                change, seen = turn.changes[measure]
                cells.append(
                    _(SEEN["not_visible"]) if seen == "not_visible" else _changed(change, _fine(measure), preset)
                )
            rows.append((f"{way}, {name}", cells))
        hours.append(
            {
                "height": hour.height_m,
                "passes": round(hour.passes),
                "entry": hour.entry_m_per_s,
                "past_cure": hour.past_cure,
                "holds": hour.holds,
                "rim": hour.rim,
                "rows": rows,
                "as_set": [value_text(hour.values[m], clickmap.MEASURES[m], preset) for m in OF_THE_DAY],
            }
        )
    return {"hours": hours, "columns": [_(SWEPT[m]) for m in OF_THE_DAY]}


def _changed(change: float, kind: str, preset: Units | str) -> str:
    """A change with its sign; one that rounds to nothing is hardly one."""
    words = value_text(abs(change), kind, preset)
    if not any(c in "123456789" for c in words.split()[0]):
        return _("hardly")
    return f"{'−' if change < 0 else '+'}{words}"


def _fine(measure: str) -> str:
    """A finer unit kind for changes of a length."""
    kind = clickmap.MEASURES[measure]
    return "preload" if kind == "travel" else kind
