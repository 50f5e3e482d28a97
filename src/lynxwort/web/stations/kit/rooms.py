"""Kit's drawing: the bike with what is bolted on, each at its place with its mass."""

from typing import Any

from django.urls import reverse
from django.utils.safestring import SafeString
from django.utils.translation import gettext as _

from lynxwort.core.model.bike import Item
from lynxwort.core.model.fitted import items_on
from lynxwort.core.stations.chassis import view as chassis
from lynxwort.core.tunables import item_tunable
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.services import Bench
from lynxwort.web.stations.pictured import look_of, sprocket_of
from lynxwort.web.ui.drawings.standing import Note, standing
from lynxwort.words.formatting import value_text


def draw(bench: Bench, preset: Units | str, at_m: float | None) -> dict[str, Any]:
    """What is bolted on, and what could be."""
    on = items_on(bench.inputs.bike, bench.inputs.setup)
    title = (
        _("What is bolted on, where it sits") if on else _("Nothing is bolted on yet: the Items room has what is usual")
    )
    return {"drawings": [(title, _picture(bench, on, preset))]}


def _picture(bench: Bench, on: tuple[Item, ...], preset: Units | str) -> SafeString:
    inputs, base = bench.inputs, reverse("bench:bench", args=[bench.setup.pk, bench.race.pk])
    outline = bench.report.ask(chassis.outline)
    middle = 0.5 * (outline.rear[0] + outline.front[0])
    notes = []
    # the highest first on each side, what lies behind the rear axle last, so that no hairline crosses another
    for item in sorted(on, key=lambda i: (i.ahead_m < 0.0, -i.height_m)):
        at = (outline.rear[0] + item.ahead_m, item.height_m)
        words = f"{_(item.name)} {value_text(item.net_kg, 'mass', preset)}"
        side = "left" if at[0] < middle else "right"
        notes.append(Note(words, "", f"{base}kit/#now-{item_tunable(item)}", side, at))
    return standing(
        outline, look_of(inputs), sprocket=sprocket_of(inputs), notes=notes, label=_("The bike with what is bolted on")
    )
