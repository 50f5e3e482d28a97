"""Tags of the shell: figures that explain themselves, leaves, values in the person's units."""

from django import template
from django.utils.html import format_html
from django.utils.safestring import SafeString
from django.utils.translation import gettext

from lynxwort.core.figures import FIGURES
from lynxwort.core.report import Report
from lynxwort.words.catalogue import FIGURE_NAMES, TERMS, TUNABLES
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
        words = gettext("does not apply") if figure.status == "not_applicable" else gettext("unknown")
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
def tunable_name(tunable: str) -> str:
    """What a tunable is called."""
    return gettext(TUNABLES[tunable])


LEAF_WORDS = {"ok": "settled", "look": "look", "act": "act", "unknown": "unknown"}


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
