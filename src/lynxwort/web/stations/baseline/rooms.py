"""Baseline's: what is fitted."""

from typing import Any

from django.urls import reverse
from django.utils.safestring import SafeString
from django.utils.translation import gettext as _

from lynxwort.core.model.fitted import tyres_of
from lynxwort.core.stations.chassis import view
from lynxwort.core.tunables import item_of, kind_of, said_value, tunables_of
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.rows import way_to
from lynxwort.web.bench.services import Bench
from lynxwort.web.stations.pictured import look_of, sprocket_of
from lynxwort.web.ui.drawings.standing import Note, standing
from lynxwort.words.catalogue import tunable_word
from lynxwort.words.formatting import value_text


def draw(bench: Bench, preset: Units | str, at_m: float | None) -> dict[str, Any]:
    """What is on the bike, as kept."""
    setup = bench.kept_inputs.setup
    # what is bolted on stands in Kit
    tunables = [t for t in tunables_of(bench.kept_inputs.bike) if not item_of(t)]
    said = [(t, said_value(setup, t)) for t in tunables]
    fitted = [
        (
            t,
            _(tunable_word(t, bench.kept_inputs.bike)),
            value_text(v, kind_of(t), preset),
            t in setup.model_fields_set and t not in setup.assumed,
        )
        for t, v in said
        if v is not None
    ]
    return {"drawings": [(_("As it stands, to scale"), picture(bench, preset))], "fitted": fitted}


def picture(bench: Bench, preset: Units | str) -> SafeString:
    """The kept bike with its rider, what is fitted called out."""
    inputs, base = bench.kept_inputs, reverse("bench:bench", args=[bench.setup.pk, bench.race.pk])
    setup, bike, rider = inputs.setup, inputs.bike, inputs.rider

    has, (front, rear) = tunables_of(bike), tyres_of(bike, setup)

    def note(words: str, tunable: str, part: str, side: str) -> list[Note]:
        """A call-out of what is set, which leads to its notch; none of what this bike has not, or nobody said."""
        value = said_value(setup, tunable) if tunable in has else None
        said = "" if value is None else value_text(value, kind_of(tunable), preset)
        if said and tunable in setup.assumed:
            said = f"~ {said}"
        return [Note(words % {"v": said}, part, base + way_to(bench, tunable), side)] if said else []

    notes = [
        Note(
            f"{rider.name}, {value_text(rider.mass_in_gear_kg, 'mass', preset)}",
            "helmet",
            reverse("races:rider", args=[bench.race.rider_id]),
            "left",
        ),
        *note(_("shock %(v)s"), "shock_spring_rate_n_per_m", "shock", "left"),
        *note(_("tank %(v)s"), "tank_capacity_m3", "tank", "right"),
        *note(_("fork %(v)s"), "fork_spring_rate_n_per_m", "fork, upper tube", "right"),
        *note(f"{rear}, %(v)s", "rear_tyre_pressure_pa", "rear axle", "below"),
        *note(f"{front}, %(v)s", "front_tyre_pressure_pa", "front axle", "below"),
        Note(
            f"{setup.front_sprocket_teeth:g}/{setup.rear_sprocket_teeth:g}",
            "front sprocket",
            base + way_to(bench, "rear_sprocket_teeth"),
            "below",
        ),
    ]
    return standing(
        bench.kept.ask(view.outline),
        look_of(inputs),
        sprocket=sprocket_of(inputs),
        notes=notes,
        label=_("The bike with its rider from the side"),
    )
