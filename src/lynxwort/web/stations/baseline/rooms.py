"""Baseline's: what is fitted."""

from typing import Any

from django.urls import reverse
from django.utils.safestring import SafeString
from django.utils.translation import gettext as _

from lynxwort.core.stations.chassis import view
from lynxwort.core.tunables import kind_of, said_value, tunables_of
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.services import Bench
from lynxwort.web.stations.pictured import look_of, sprocket_of
from lynxwort.web.ui.drawings.standing import Note, standing
from lynxwort.words.catalogue import TUNABLE_NAMES
from lynxwort.words.formatting import value_text


def draw(bench: Bench, preset: Units | str, at_m: float | None) -> dict[str, Any]:
    """What is on the bike, as kept."""
    setup = bench.kept_inputs.setup
    tunables = tunables_of(bench.kept_inputs.bike)
    said = [(t, said_value(setup, t)) for t in tunables]
    fitted = [
        (t, _(TUNABLE_NAMES[t]), value_text(v, kind_of(t), preset), t in setup.model_fields_set)
        for t, v in said
        if v is not None
    ]
    return {"drawings": [(_("As it stands, to scale"), _picture(bench, preset))], "fitted": fitted}


def _picture(bench: Bench, preset: Units | str) -> SafeString:
    """The kept bike with its rider, what is fitted called out."""
    inputs, base = bench.kept_inputs, reverse("bench:bench", args=[bench.setup.pk, bench.race.pk])
    setup, bike, rider = inputs.setup, inputs.bike, inputs.rider

    def of(tunable: str) -> str:
        return value_text(said_value(setup, tunable) or 0.0, kind_of(tunable), preset)

    mass = value_text(rider.mass_in_gear_kg, "mass", preset)
    notes = [
        Note(f"{rider.name}, {mass}", "helmet", f"{base}chassis/", "left"),
        Note(_("shock %(v)s") % {"v": of("shock_spring_rate_n_per_m")}, "shock", f"{base}chassis/", "left"),
        Note(_("fork %(v)s") % {"v": of("fork_spring_rate_n_per_m")}, "fork, upper tube", f"{base}chassis/", "right"),
        Note(f"{bike.tyre.marking}, {of('rear_tyre_pressure_pa')}", "rear axle", f"{base}chassis/", "below"),
        Note(
            f"{setup.front_sprocket_teeth:g}/{setup.rear_sprocket_teeth:g}",
            "front sprocket",
            f"{base}drive/sprockets/",
            "below",
        ),
        Note(f"{bike.frame.front_tyre}, {of('front_tyre_pressure_pa')}", "front axle", f"{base}chassis/", "below"),
    ]
    if bike.metering != "electric":
        notes.insert(2, Note(_("tank %(v)s") % {"v": of("tank_capacity_m3")}, "tank", f"{base}range/holders/", "right"))
    return standing(
        bench.kept.ask(view.outline),
        look_of(inputs),
        sprocket=sprocket_of(inputs),
        notes=notes,
        label=_("The bike with its rider from the side"),
    )
