"""Tunables in words: what stands behind the number of a slot, and values that were never said."""

from typing import Any

from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from lynxwort.core.model.bike import Bike, Jetted
from lynxwort.core.model.damper import write_stack
from lynxwort.core.model.fitted import oil_way
from lynxwort.core.model.setup import Setup
from lynxwort.core.model.setup.kit import PADS
from lynxwort.core.model.setup.range import FULL_M3
from lynxwort.core.physics.fuelling.fuels import FUELS as CORE_FUELS
from lynxwort.core.tunables import TUNABLES, item_of, kind_of, passing_of
from lynxwort.core.units.convert import Units
from lynxwort.words.catalogue import STEP_WORDS, TERMS, tunable_word
from lynxwort.words.formatting import number_text, value_text
from lynxwort.words.fuelling import FUELS, OIL_WAYS, SCREW_STEPS
from lynxwort.words.kit import PADS as PAD_WORDS
from lynxwort.words.kit import item_state
from lynxwort.words.kit.ready import thermostat_state


def slot_name(bike: Bike, tunable: str, slot: float) -> str:
    """What stands behind the number of a slot: gears, a wheel, a fuel, what is left at home; empty for a tunable that
    is no slot.
    """
    n = round(slot)
    if item_of(tunable):
        return _(item_state(tunable, slot))
    if tunable.endswith("_pad"):
        return _(PAD_WORDS[PADS[n - 1]])
    if tunable == "thermostat":
        return _(thermostat_state(slot))
    if tunable == "payload_left":
        left = [p.name for p in bike.frame.payload[len(bike.frame.payload) - n :]]
        return ", ".join(left) if left else _("all along")
    if tunable == "fuel":
        return _(FUELS[CORE_FUELS[n - 1].name])
    others = TUNABLES[tunable].others
    if others is None:
        return ""
    return _("its own") if n <= 1 else others(bike)[n - 2]


def step_words(bike: Bike, tunable: str) -> tuple[str, str]:
    """How a step less and a step more are labelled where less and more would mislead; empty elsewhere."""
    engine = bike.engine
    if item_of(tunable):
        on, off = _("put it on"), _("take it off")
        return (on, off) if tunable.startswith("kit_off") else (off, on)
    if tunable == "screw_turns" and isinstance(engine, Jetted):
        less, more = SCREW_STEPS[engine.carburettor.screw]
    else:
        less, more = STEP_WORDS.get(tunable, ("", ""))
    return (_(less), _(more)) if less else ("", "")


def tunable_name(tunable: str, bike: Bike) -> str:
    """What a tunable is called on a bike; a stop by its number."""
    passing = passing_of(tunable)
    return _("Stop %(n)s") % {"n": passing} if passing else _(tunable_word(tunable, bike))


def stop_text(bike: Bike, level_m3: float, preset: Units | str) -> str:
    """What is done at a passing of a refuel point, see setup.range.level_at."""
    if level_m3 == 0.0:
        return _("ridden past")
    if bike.metering == "electric":
        return _("pack swapped")
    if level_m3 >= FULL_M3:
        return _("filled up")
    amount = {"fuel": value_text(abs(level_m3), "fuel", preset)}
    return _("filled to %(fuel)s") % amount if level_m3 > 0.0 else _("%(fuel)s poured in") % amount


def tunable_text(bike: Bike, tunable: str, value: float | None, preset: Units | str) -> str:
    """A tunable's value with its unit, or the name behind its slot."""
    if value is None:
        return _("not said")
    if passing_of(tunable):
        return stop_text(bike, value, preset)
    if tunable == "premix_ratio":
        return f"{number_text(value, 'number', preset)} : 1"
    return slot_name(bike, tunable, value) or value_text(value, kind_of(tunable), preset)


def oil_words(bike: Bike, setup: Setup, preset: Units | str) -> str:
    """What a can, its label and the card say of a two-stroke's oil; empty for an engine whose oil is not in its
    fuel.
    """
    if setup.premix_ratio is not None:
        return tunable_text(bike, "premix_ratio", setup.premix_ratio, preset)
    way = oil_way(bike.engine, setup)
    return _(OIL_WAYS[way]) if way else ""


def whole_text(field: str, value: Any) -> str:
    """What is set as a whole, in a few words."""
    if field == "stops":
        if value is None:
            return _("at every refuel point")
        return ngettext("%(n)s stop", "%(n)s stops", len(value)) % {"n": len(value)}
    if field == "turned":
        count = len({t["rider"] if isinstance(t, dict) else t.rider for t in value or ()})
        return ngettext("for %(n)s rider", "for %(n)s riders", count) % {"n": count} if count else _("for nobody")
    if field.endswith("_stack"):
        return write_stack(value) if value else _("as stock")
    if not value:
        return _("none")
    if field == "map_trims":
        count = sum(abs(v) > 5e-4 for v in value)
        return ngettext("%(n)s cell", "%(n)s cells", count) % {"n": count}
    if field == "map_by_ground":
        return ", ".join(f"{_(TERMS[g])} {m}" for g, m in value.items())
    return str(len(value))
