"""A damper dyno run: read, set against the model, its one factor taken into the bike's facts."""

from typing import Any

import numpy as np
from django import forms
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from lynxwort.core.physics.damping import dyno
from lynxwort.core.physics.damping.damper import force_at
from lynxwort.core.stations.damping import dampers
from lynxwort.core.tunables import fields_of
from lynxwort.core.units.tables import guess_columns, read_columns, read_head
from lynxwort.web.bench.services import Bench
from lynxwort.web.bench.upload import lines_of
from lynxwort.web.bikes import services as bikes
from lynxwort.web.stations.damping.damped import force_drawing
from lynxwort.web.ui.drawings import dampers as drawings
from lynxwort.words.formatting import plain_number

MAX_BYTES = 4_000_000
SHOWN = 60


class RunForm(forms.Form):
    """A run's file and its units."""

    file = forms.FileField(label=gettext_lazy("Run, delimited text with speed and force"))
    speed_unit = forms.ChoiceField(label=gettext_lazy("Speed in"), choices=[(k, k) for k in dyno.SPEED_UNITS])
    force_unit = forms.ChoiceField(label=gettext_lazy("Force in"), choices=[(k, k) for k in dyno.FORCE_UNITS])
    inward = forms.ChoiceField(
        label=gettext_lazy("Inward is"), choices=(("plus", gettext_lazy("plus")), ("minus", gettext_lazy("minus")))
    )


def judge(bench: Bench, end: str, typed: dict[str, Any]) -> dict[str, Any]:
    """What a run fits, with its points over the curve. Raises InputRefused."""
    text = lines_of(typed["file"], MAX_BYTES)
    head = read_head(text)
    places = guess_columns(head.names, dyno.HEADINGS)
    dyno.require(places)
    columns, _holes = read_columns([text], head, places)
    run = dyno.run_of(
        columns,
        speed_scale=dyno.SPEED_UNITS[typed["speed_unit"]],
        force_scale=dyno.FORCE_UNITS[typed["force_unit"]],
        inward_is_negative=typed["inward"] == "minus",
    )
    bike, setup = bench.inputs.bike, bench.inputs.setup
    found = dyno.fit(dampers.damper_of(bike, setup, end), dampers.clicks_of(setup, end), run)
    facts = dampers.facts_of(bike, end)
    fitted = bike.model_copy(update={f"{end}_damper": facts.model_copy(update={"footprint": found.footprint})})
    step = max(run.speed_m_per_s.size // SHOWN, 1)
    points = list(
        zip(
            np.abs(run.speed_m_per_s)[::step].tolist(),
            (np.sign(run.speed_m_per_s) * np.abs(run.force_n))[::step].tolist(),
            strict=True,
        )
    )
    return {
        "fit": found,
        "value": f"{found.footprint:.6f}",
        "factor": plain_number(found.footprint, 2),
        "low": plain_number(found.low, 2),
        "high": plain_number(found.high, 2),
        "drawing": _drawing(bench, end, fitted, points),
    }


def _drawing(bench: Bench, end: str, bike: Any, points: list[tuple[float, float]]) -> Any:
    made = dampers.curve_of(bike, bench.inputs.setup, end)
    was = dampers.curve_of(bench.inputs.bike, bench.inputs.setup, end)
    top = max(max(s for s, _f in points), 0.5)
    speeds = top * np.linspace(0.0, 1.0, 80) ** 2
    return drawings.forces(
        speeds,
        (force_at(made.compression_n, speeds), force_at(made.rebound_n, speeds)),
        (force_at(was.compression_n, speeds), force_at(was.rebound_n, speeds)),
        None,
        words={"in": _("in"), "out": _("out"), "reached": "", "x": _("shaft speed, m/s"), "y": _("force, N")},
        label=_("The run's points, the fitted curve, the present one"),
        points=points,
    )


def page(bench: Bench, end: str) -> dict[str, Any]:
    """The forces and the factor in them."""
    facts = dampers.facts_of(bench.inputs.bike, end)
    return {
        "title": _("Fork: force, and the damper dyno") if end == "fork" else _("Shock: force, and the damper dyno"),
        "forces": force_drawing(bench, end),
        "forces_title": _("Fork, force against shaft speed, both legs")
        if end == "fork"
        else _("Shock, force against shaft speed"),
        "ghosted": any(f in bench.changed for f in fields_of("damping")),
        "present": plain_number(facts.footprint, 2),
        "measured": facts.footprint != 1.0,
    }


def take(bench: Bench, end: str, text: str) -> None:
    """Make a fitted factor this damper's. Raises InputRefused, ValueError."""
    factor = float(text)

    def fitted(now: dict[str, Any]) -> dict[str, Any]:
        facts = dampers.facts_of(bikes.checked_bike(now), end)
        return now | {f"{end}_damper": facts.model_dump(mode="json") | {"footprint": factor}}

    bikes.change_bike(bench.setup.bike, fitted)
