"""Tags of the shell: figures that explain themselves, leaves, values in the person's units."""

from django import template
from django.utils.html import format_html
from django.utils.safestring import SafeString
from django.utils.translation import gettext

from lynxwort.core.figures import FIGURES
from lynxwort.core.model.base import FieldFacts, field_facts
from lynxwort.core.model.parts import value_field
from lynxwort.core.model.setup import Setup
from lynxwort.core.report import Report
from lynxwort.core.units.detents import DETENTS, current_value
from lynxwort.web.ui.drawings.ribbon import pattern_defs
from lynxwort.words.catalogue import FIGURE_NAMES, LEAF_WORDS, PART_KINDS, REASONS, STAGE_KINDS, STATION_NAMES, TERMS, TUNABLES
from lynxwort.words.formatting import difference_text, number_text, unit_text, value_text

register = template.Library()


@register.simple_tag(takes_context=True)
def fig(context, name: str, report: Report | None = None, with_range: bool = True) -> SafeString:
    """A figure as a button that opens its Why. The exact SI value stands in data-si."""
    report = report or context["report"]
    preset = context["request"].preset
    figure = report.figures[name]
    spec = FIGURES[name]
    if figure.value is None:
        words = gettext(REASONS[figure.reason]) if figure.status == "not_applicable" else gettext("unknown")
        shown, spread = words, ""
    else:
        shown = value_text(figure.value, spec.kind, preset)
        spread = ""
        if with_range and figure.low is not None and figure.high is not None and spec.kind not in ("tiny",):
            spread = format_html(
                '<span class="spread">{}{}{}</span>',
                number_text(figure.low, spec.kind, preset),
                "–" if figure.low >= 0 else gettext(" to "),
                number_text(figure.high, spec.kind, preset),
            )
    return format_html(
        '<button type="button" class="fig" data-figure="{}" data-si="{}" hx-get="{}" hx-target="#why">{}{}<span class="sr"> {}</span></button>',
        name,
        "" if figure.value is None else repr(figure.value),
        f"{context['base']}why/{name}/",
        shown,
        spread,
        gettext("Why?"),
    )


@register.simple_tag(takes_context=True)
def val(context, value: float, kind: str) -> str:
    """An SI value in the person's units."""
    return value_text(value, kind, context["request"].preset)


@register.simple_tag(takes_context=True)
def num(context, value: float, kind: str) -> str:
    """The number alone."""
    return number_text(value, kind, context["request"].preset)


@register.simple_tag(takes_context=True)
def unit(context, kind: str) -> str:
    """The unit alone."""
    return unit_text(kind, context["request"].preset)


@register.simple_tag(takes_context=True)
def diff(context, value: float, kind: str) -> str:
    """A signed difference in the person's units."""
    return difference_text(value, kind, context["request"].preset)


@register.filter
def part_kind(kind: str) -> str:
    """What a kind of part is called."""
    return gettext(PART_KINDS[kind])


@register.simple_tag(takes_context=True)
def part_unit(context, kind: str) -> str:
    """The unit of a kind of part; empty for needles, wheels and shims."""
    return "" if kind in ("needle", "wheel", "shim") else unit_text(_part_facts(kind).kind, context["request"].preset)


@register.simple_tag(takes_context=True)
def part_number(context, part) -> str:
    """A part's number in the person's unit."""
    return number_text(part.value, _part_facts(part.kind).kind, context["request"].preset)


def _part_facts(kind: str) -> FieldFacts:
    return field_facts(Setup, value_field(kind))


@register.filter
def tunable_name(tunable: str) -> str:
    """What a tunable is called."""
    return gettext(TUNABLES[tunable])


@register.simple_tag
def leaf(severity: str) -> SafeString:
    """The leaf of a verdict: whole, half, bitten or dashed, with its word for a screen reader."""
    return format_html(
        '<svg class="leaf leaf-{}" width="20" height="22" role="img" aria-label="{}"><use href="#leaf-{}"/></svg>',
        severity,
        gettext(LEAF_WORDS[severity]),
        severity,
    )


@register.filter
def ground_name(code: str) -> str:
    """What a ground is called."""
    return gettext(TERMS[code])


@register.simple_tag(takes_context=True)
def setting_words(context, setup, bike) -> str:
    """What decides the mixture of a setup, in words."""
    units = context["request"].preset
    names = [t for t in ("main_jet", "needle_clip", "metering_rod", "knob_clicks", "map_slot", "fuel_trim") if bike.metering in DETENTS[t].metering]
    return ", ".join(f"{gettext(TUNABLES[t])} {value_text(current_value(setup, t), DETENTS[t].kind, units)}" for t in names)


@register.filter
def station_name(station: str) -> str:
    """What a station is called."""
    return gettext(STATION_NAMES[station])


@register.filter
def stage_kind(code: str) -> str:
    """What a kind of stage is called."""
    return gettext(STAGE_KINDS[code])


@register.filter
def words(text: str) -> list[str]:
    """The words of a text, for short loops."""
    return text.split()


@register.filter
def picks(table: dict, key) -> object:
    """What a table holds under a key."""
    return table.get(key)


@register.filter
def items_of(document: dict, key: str) -> list:
    """A list of a document; empty when it is left out."""
    return document.get(key, [])


@register.simple_tag(takes_context=True)
def placed_words(context, where: str, thing: dict) -> str:
    """A hill, point or zone in words."""
    units = context["request"].preset
    if where == "zones":
        kind = gettext("in the dark") if thing["kind"] == "night" else value_text(thing["limit_m_per_s"], "speed", units)
        return f"{value_text(thing['from_m'], 'ribbon', units)} – {value_text(thing['to_m'], 'ribbon', units)}: {kind}"
    at = value_text(thing["at_m"], "ribbon", units)
    if where == "hills":
        return f"{at}: {value_text(thing['length_m'], 'stretch', units)}, {value_text(thing['grade'], 'share', units)}, {gettext(TERMS[thing['ground']])}"
    return f"{at}: {thing.get('name') or gettext('pit')}"


@register.simple_tag(takes_context=True)
def selection_text(context, chosen, end: str) -> str:
    """An end of the chosen stretch, as typed or as it stands."""
    if chosen.typed and end in chosen.typed:
        return chosen.typed[end]
    return number_text(getattr(chosen, f"{end}_m"), "ribbon", context["request"].preset)


@register.simple_tag
def ribbon_patterns() -> SafeString:
    """The ground patterns, once per page."""
    return pattern_defs()


@register.filter
def term(word: str) -> str:
    """A word of the product's own terms."""
    return gettext(TERMS[word])


@register.filter
def figure_name(name: str) -> str:
    """What a figure is called."""
    return gettext(FIGURE_NAMES[name])


@register.filter
def unlocalize_number(value: float) -> str:
    """A number with all its digits, for data attributes and hidden fields."""
    return repr(float(value))


@register.simple_tag(takes_context=True)
def spread(context, bounds: tuple[float, float], name: str) -> str:
    """The range of a figure in the person's units."""
    preset, kind = context["request"].preset, FIGURES[name].kind
    between = "–" if min(bounds) >= 0 else gettext(" to ")
    return f"{number_text(bounds[0], kind, preset)}{between}{value_text(bounds[1], kind, preset)}"
