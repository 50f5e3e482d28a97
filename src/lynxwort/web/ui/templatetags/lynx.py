"""Tags of the shell: figures that explain themselves, leaves, values in the person's units."""

from datetime import datetime
from functools import lru_cache
from typing import Any

from django import template
from django.template import Context
from django.utils.formats import date_format
from django.utils.html import format_html
from django.utils.safestring import SafeString
from django.utils.translation import get_language, gettext

from lynxwort.core.figures import FIGURES
from lynxwort.core.model.base import FieldFacts
from lynxwort.core.model.defaults import USUAL_WHOOP_M
from lynxwort.core.model.parts import value_facts
from lynxwort.core.report import Report
from lynxwort.core.units.convert import Units
from lynxwort.web.ui.drawings.ribbon import pattern_defs
from lynxwort.web.ui.stale import mark_of
from lynxwort.words.baseline import READINGS
from lynxwort.words.catalogue import FIGURE_NAMES, LEAF_WORDS, PART_KINDS, REASONS, STATION_NAMES, TERMS, TUNABLE_NAMES
from lynxwort.words.choices import STAGE_KINDS, SURFACE_STATES
from lynxwort.words.formatting import (
    MINUS,
    difference_text,
    number_text,
    plain_number,
    range_text,
    short_number,
    unit_text,
    value_text,
)
from lynxwort.words.readings import reading_words

register = template.Library()


@register.simple_tag(takes_context=True)
def fig(context: Context, name: str, report: Report | None = None, with_range: bool = True) -> SafeString:
    """A figure as a button that opens its Why. The exact SI value stands in data-si."""
    figure = (report or context["report"]).figures[name]
    bounds = (figure.low, figure.high) if with_range else (None, None)
    said = (figure.value, *bounds, figure.status, figure.reason)
    return _fig(name, said, context["request"].preset, context["base"], get_language())


@lru_cache(maxsize=8192)
def _fig(name: str, said: tuple[Any, ...], preset: Units | str, base: str, _language: str) -> SafeString:
    """The button of one figure, rendered once as long as it says the same. said: value, bounds, status and reason."""
    value, low, high, status, reason = said
    spec = FIGURES[name]
    withheld = reason.startswith("gate.")
    if value is None or withheld:
        words = gettext("not judged") if withheld else gettext("unknown")
        words = gettext(REASONS[reason]) if status == "not_applicable" else words
        shown, spread = words, ""
    else:
        shown = value_text(value, spec.kind, preset)
        spread = ""
        if low is not None and high is not None and spec.kind not in ("tiny",):
            ends = [number_text(v, spec.kind, preset) for v in (low, high)]
            between = gettext(" to ") if any(e.startswith(MINUS) for e in ends) else "–"
            spread = format_html('<span class="spread">{}{}{}</span>', ends[0], between, ends[1])
    return format_html(
        (
            '<button type="button" class="fig" data-figure="{}" data-si="{}" hx-get="{}" hx-target="#why">{}{}<span '
            'class="sr"> {}</span></button>'
        ),
        name,
        "" if value is None or withheld else repr(value),
        f"{base}why/{name}/",
        shown,
        spread,
        gettext("Why?"),
    )


@register.simple_tag(takes_context=True)
def val(context: Context, value: float, kind: str) -> str:
    """An SI value in the person's units."""
    return value_text(value, kind, context["request"].preset)


@register.filter
def percent(value: float) -> str:
    """A chance or share in percent."""
    return value_text(value, "share", "metric")


@register.filter
def date_there(moment: datetime, form: str) -> str:
    """A moment on the clock of its own zone: templates would turn it into the server's."""
    return date_format(moment.replace(tzinfo=None), form)


@register.simple_tag(takes_context=True)
def num(context: Context, value: float, kind: str) -> str:
    """The number alone."""
    return number_text(value, kind, context["request"].preset)


@register.simple_tag(takes_context=True)
def unit(context: Context, kind: str) -> str:
    """The unit alone."""
    return unit_text(kind, context["request"].preset)


@register.simple_tag(takes_context=True)
def diff(context: Context, value: float, kind: str) -> str:
    """A signed difference in the person's units."""
    return difference_text(value, kind, context["request"].preset)


@register.filter
def part_kind(kind: str) -> str:
    """What a kind of part is called."""
    return gettext(PART_KINDS[kind])


@register.simple_tag(takes_context=True)
def part_unit(context: Context, kind: str) -> str:
    """The unit of a kind of part; empty for needles, wheels and shims."""
    return "" if kind in ("needle", "wheel", "shim") else unit_text(_part_facts(kind).kind, context["request"].preset)


@register.simple_tag(takes_context=True)
def part_number(context: Context, part: Any) -> str:
    """A part's number in the person's unit."""
    return number_text(part.value, _part_facts(part.kind).kind, context["request"].preset)


def _part_facts(kind: str) -> FieldFacts:
    return value_facts(kind)


@register.filter
def tunable_name(tunable: str) -> str:
    """What a tunable is called."""
    return gettext(TUNABLE_NAMES[tunable])


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
def surface_state(code: str) -> str:
    """Dry, wet or cut up, in words."""
    return gettext(SURFACE_STATES[code])


@register.simple_tag(takes_context=True)
def surface_words(context: Context, part: Any) -> str:
    """What is known of a stretch of ground beyond its kind, in words; empty when it is as usual."""
    units = context["request"].preset
    found = [value_text(part.depth_m, "travel", units) + " " + gettext("deep")] if part.depth_m is not None else []
    if part.whoop_length_m is not None or part.whoop_height_m is not None:
        length = value_text(part.whoop_length_m or USUAL_WHOOP_M[0], "span", units)
        found.append(f"{length} × {value_text(part.whoop_height_m or USUAL_WHOOP_M[1], 'travel', units)}")
    if part.tightness != "usual":
        found.append(gettext("tight") if part.tightness == "tight" else gettext("open"))
    if part.state:
        found.append(gettext(SURFACE_STATES[part.state]))
    return (", " if found else "") + ", ".join(found)


@register.filter
def ground_name(code: str) -> str:
    """What a ground is called."""
    return gettext(TERMS[code])


@register.simple_tag(takes_context=True)
def reading_line(context: Context, reading: Any, bike: Any) -> str:
    """A reading in words."""
    return reading_words(reading, bike, context["request"].preset, gettext)


@register.filter
def reading_title(kind: str) -> str:
    """What a kind of reading is called where one is taken."""
    return gettext(READINGS[kind][0])


@register.filter
def reading_help(kind: str) -> str:
    """How a kind of reading is taken."""
    return gettext(READINGS[kind][1])


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
def picks(table: dict, key: object) -> object:
    """What a table holds under a key."""
    return table.get(key)


@register.filter
def items_of(document: dict, key: str) -> list:
    """A list of a document; empty when it is left out."""
    return document.get(key, [])


@register.filter
def mark(content: dict) -> str:
    """A short mark of plain data, by which it is found again."""
    return mark_of(content)


@register.simple_tag(takes_context=True)
def placed_words(context: Context, where: str, thing: dict) -> str:
    """A hill, point or zone in words."""
    units = context["request"].preset
    if where == "zones":
        kind = (
            gettext("in the dark") if thing["kind"] == "night" else value_text(thing["limit_m_per_s"], "speed", units)
        )
        return f"{value_text(thing['from_m'], 'ribbon', units)} – {value_text(thing['to_m'], 'ribbon', units)}: {kind}"
    at = value_text(thing["at_m"], "ribbon", units)
    if where == "hills":
        words = (
            f"{at}: {value_text(thing['length_m'], 'stretch', units)}, "
            f"{value_text(thing['grade'], 'share', units)}, {gettext(TERMS[thing['ground']])}"
        )
        speed = thing.get("entry_speed_m_per_s")
        return (
            words
            + (f", {value_text(speed, 'speed', units)}" if speed else "")
            + (f" ({thing['name']})" if thing.get("name") else "")
        )
    words = f"{at}: {thing.get('name') or gettext('pit')}"
    known = [
        value_text(thing[k], kind, units)
        for k, kind in (("rate_m3_per_s", "flow"), ("fixed_s", "seconds"))
        if thing.get(k) is not None
    ]
    return ", ".join([words, *known, *([gettext("one must stop")] if thing.get("must_stop") else [])])


@register.simple_tag(takes_context=True)
def selection_text(context: Context, chosen: Any, end: str) -> str:
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
def spread(context: Context, bounds: tuple[float, float], name: str) -> str:
    """The range of a figure in the person's units."""
    return range_text(*bounds, FIGURES[name].kind, context["request"].preset, gettext)


@register.filter
def millilitres(value: float) -> str:
    """Oil in mL and in US fluid ounces, whoever reads it: measuring cups carry either."""
    return f"{value_text(value, 'oil', 'metric')} / {value_text(value, 'oil', 'us')}"


@register.filter
def percent_fine(value: float) -> str:
    """A share with a decimal."""
    return f"{plain_number(100 * value, 1)}\u202f%"


@register.filter
def group_thousands(value: float) -> str:
    """A count with thin groups."""
    return plain_number(value, 0)


@register.filter
def fraction(value: float) -> str:
    """A throttle opening as riders say it."""
    return {0.125: "⅛", 0.25: "¼", 0.5: "½", 1.0: "1"}.get(value, short_number(value))


@register.filter
def line_words(path: str) -> str:
    """Where in a file a refusal stands."""
    return f"{gettext('Line')} {path.removeprefix('line.')}:" if path.startswith("line.") else ""


@register.filter
def refused(fields: list[Any]) -> bool:
    """Whether any of some fields of a form was refused."""
    return any(field.errors for field in fields)


@register.filter
def filled(fields: list[Any]) -> int:
    """How many of some fields of a form say something."""
    return sum(field.value() not in (None, "", [], ()) for field in fields)


@register.simple_tag(takes_context=True)
def figure_text(context: Context, report: Report, name: str) -> str:
    """A figure with its range, in the person's units."""
    figure, kind, preset = report.figures[name], FIGURES[name].kind, context["request"].preset
    if figure.value is None or figure.withheld:
        return gettext("not judged") if figure.withheld else gettext("unknown")
    said = value_text(figure.value, kind, preset)
    if figure.low is None or figure.high is None or figure.low == figure.high:
        return said
    return f"{said} ({range_text(figure.low, figure.high, kind, preset, gettext)})"
