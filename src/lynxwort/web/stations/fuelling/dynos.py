"""Dynamometer runs: in from files or the stand-in, side by side, one chosen as the bike's curve."""

from pathlib import Path
from typing import Any

import numpy as np
from django import forms
from django.db import transaction
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from lynxwort.core.derived.mount import run_of
from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.base import field_facts
from lynxwort.core.model.bike import Electric, Engine
from lynxwort.core.model.readings import Air, DynoReading
from lynxwort.core.physics.air.moist import AirState
from lynxwort.core.physics.drive import dyno
from lynxwort.core.physics.drive.engine import engine_curve
from lynxwort.core.standin import bench_dyno
from lynxwort.core.stations.drive.view import power_left
from lynxwort.core.stations.fuelling.view import middle_air
from lynxwort.core.units.convert import Units, convert, shown_unit
from lynxwort.core.units.tables import guess_columns, read_columns, read_head
from lynxwort.web.bench.services import Bench
from lynxwort.web.bench.upload import lines_of
from lynxwort.web.readings import services as readings
from lynxwort.web.readings.models import Reading
from lynxwort.web.ui.drawings import fuel
from lynxwort.web.ui.forms import QuantityField
from lynxwort.words.formatting import unit_text
from lynxwort.words.fuelling import DYNO_PLACES, DYNO_STANDARDS

MAX_BYTES = 2_000_000
POWER_UNITS = {"kW": 1000.0, "hp": convert(1.0, "hp", "W"), "PS": convert(1.0, "PS", "W")}


class RunForm(forms.Form):
    """A run's file, where it was measured, what was corrected, and its air."""

    def __init__(self, *args: Any, preset: Units | str, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["file"] = forms.FileField(label=gettext_lazy("Run, delimited text"))
        self.fields["label"] = forms.CharField(label=gettext_lazy("Call it"), max_length=60, required=False)
        self.fields["place"] = forms.ChoiceField(
            label=gettext_lazy("Measured"), choices=[(k, _(v)) for k, v in DYNO_PLACES.items()]
        )
        self.fields["standard"] = forms.ChoiceField(
            label=gettext_lazy("Corrected to"), choices=[(k, _(v)) for k, v in DYNO_STANDARDS.items()]
        )
        self.fields["power_unit"] = forms.ChoiceField(
            label=gettext_lazy("Power, if there is no torque, in"), choices=[(k, k) for k in POWER_UNITS]
        )
        for name, label in (
            ("temperature_k", gettext_lazy("Temperature")),
            ("pressure_pa", gettext_lazy("Pressure at the place")),
            ("relative_humidity", gettext_lazy("Humidity")),
        ):
            self.fields[name] = QuantityField(field_facts(Air, name), preset, label=label, required=False)

    def clean(self) -> dict[str, Any]:
        cleaned = super().clean() or {}
        if cleaned.get("standard") == "none" and not (cleaned.get("temperature_k") and cleaned.get("pressure_pa")):
            self.add_error("temperature_k", _("An uncorrected run needs its air: temperature and pressure."))
        return cleaned


def take(bench: Bench, typed: dict[str, Any]) -> Reading:
    """Keep a run as a reading. Raises InputRefused."""
    text = lines_of(typed["file"], MAX_BYTES)
    air = {k: typed[k] for k in ("temperature_k", "pressure_pa", "relative_humidity") if typed.get(k) is not None}
    return _keep(
        bench,
        text,
        label=typed["label"] or Path(typed["file"].name).stem[:60],
        place=typed["place"],
        standard=typed["standard"],
        air=air if {"temperature_k", "pressure_pa"} <= set(air) else None,
        power_unit_w=POWER_UNITS[typed["power_unit"]],
    )


def _keep(
    bench: Bench,
    text: list[str],
    *,
    label: str,
    place: str,
    standard: str,
    air: dict[str, float] | None,
    power_unit_w: float,
) -> Reading:
    head = read_head(text)
    columns, _holes = read_columns([text], head, guess_columns(head.names, dyno.HEADINGS))
    rpm, torque, seen = dyno.run_columns(columns, power_unit_w=power_unit_w)
    points = [
        {"rpm": round(float(r), 2), "torque_nm": round(float(t), 4)}
        | ({} if seen is None else {"lambda_seen": round(float(seen[i]), 4)})
        for i, (r, t) in enumerate(zip(rpm, torque, strict=True))
    ]
    under = readings.under(
        bench.kept_values, bench.race.rider.document, bench.race.document["stages"][0]["course_key"], air=air
    )
    document = {"kind": "dyno", "label": label, "points": points, "place": place, "standard": standard, "under": under}
    return readings.add_reading(bench.setup.bike, document)


def stand_in(bench: Bench, runs: int = 3) -> None:
    """Three invented runs at the wheel in the air of the race's middle hour. Raises InputRefused."""
    engine = bench.inputs.bike.engine
    if isinstance(engine, Electric):
        raise InputRefused(Refusal(path="bike.engine.kind", code="not_a_choice"))
    air: AirState = bench.report.ask(middle_air)
    plain = {
        "pressure_pa": air.pressure_pa,
        "temperature_k": air.temperature_k,
        "relative_humidity": air.relative_humidity,
    }
    done = sum(r.document.get("kind") == "dyno" for r in bench.setup.bike.readings.all())
    with transaction.atomic():
        for n in range(runs):
            text = list(
                bench_dyno.run(
                    engine,
                    air,
                    efficiency=bench.inputs.bike.transmission.efficiency,
                    seed=bench.setup.bike_id,
                    number=done + n,
                )
            )
            _keep(
                bench,
                text,
                label=_("stand-in run %(n)s") % {"n": done + n + 1},
                place="wheel",
                standard="none",
                air=plain,
                power_unit_w=1000.0,
            )


@transaction.atomic
def choose(bench: Bench, name: str) -> None:
    """Make the run of this name the bike's curve, the others none; "0" goes back to the drawn curve. Raises ValueError
    when the bike has no such run.
    """
    chosen = readings.by_name(bench.setup.bike).get(name)
    if name != "0" and (chosen is None or chosen.document.get("kind") != "dyno"):
        raise ValueError(name)
    reading = chosen.pk if chosen else None
    for row in Reading.objects.filter(bike=bench.setup.bike):
        if row.document.get("kind") == "dyno" and row.document.get("chosen", False) != (row.pk == reading):
            row.document["chosen"] = row.pk == reading
            row.save(update_fields=["document"])


def _as_drawn(engine: Engine, watt: float) -> tuple[Any, ...]:
    """The curve in use while no run is chosen: drawn from the highest power, or the table of its facts."""
    drawn = engine_curve(engine)
    rpm = np.linspace(0.25, 1.0, 80) * drawn.limiter_rad_per_s * 30.0 / np.pi
    torque = drawn.torque_at(rpm * np.pi / 30.0)
    return rpm, torque, dyno.power_of(torque, rpm) * watt, "chosen", _("as drawn")


def page(bench: Bench, units: Units | str) -> dict[str, Any]:
    """The runs at the crank on a standard day, side by side, and what the chosen one would be in the race's air."""
    bike, left = bench.kept_inputs.bike, bench.kept.ask(power_left)
    found = [r for r in bench.kept_inputs.readings if isinstance(r, DynoReading)]
    curves, rows, live = [], [], []
    watt = convert(1.0, "W", shown_unit("power", units))
    for i, r in enumerate(found):
        points = run_of(r, bike)
        rpm, torque = np.array([p.rpm for p in points]), np.array([p.torque_nm for p in points])
        band = dyno.band_of(rpm, torque, *(share * bike.engine.peak_power_rpm for share in dyno.HELD))
        css = "chosen" if r.chosen else f"run-{i % 4}"
        if not r.struck_out:
            live.append((rpm, torque))
            curves.append((rpm, torque, dyno.power_of(torque, rpm) * watt, css, r.label))
        rows.append(
            {
                "id": r.id,
                "label": r.label,
                "band": band,
                "chosen": r.chosen,
                "struck": r.struck_out,
                "css": css,
                "there_w": band.peak_power_w * left,
            }
        )
    if not any(r.chosen for r in found):
        curves.append(_as_drawn(bike.engine, watt))
    axes = (_("N·m at the crank, standard day"), unit_text("power", units))
    drawing = fuel.dyno(curves, x_axis=_("rpm"), y_axes=axes, label=_("Torque and power over revs"))
    return {
        "rows": rows,
        "repeat": dyno.repeatability(live),
        "chosen": any(r["chosen"] for r in rows),
        "drawing": drawing,
    }
