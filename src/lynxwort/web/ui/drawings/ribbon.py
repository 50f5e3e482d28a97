"""The ribbon: height, ground, and the station's own quantity along a lap."""

from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np
from django.utils.html import escape
from django.utils.safestring import SafeString, mark_safe
from numpy.typing import NDArray

from lynxwort.web.ui.drawings.plot import Plot, nice_ticks

PATTERNS = {
    "hardpack": '<path d="M0 8L8 0" class="ink"/>',
    "gravel": '<circle cx="2" cy="2" r="1" class="dot"/><circle cx="6" cy="6" r="1" class="dot"/>',
    "loam": '<path d="M0 6h4" class="ink"/>',
    "sand": '<circle cx="2" cy="4" r=".8" class="dot"/>',
    "deep_sand": '<circle cx="2" cy="2" r="1.2" class="dot"/><circle cx="6" cy="2" r="1.2" class="dot"/><circle cx="4" cy="6" r="1.2" class="dot"/>',
    "mud": '<path d="M0 4q2-3 4 0t4 0" class="ink"/>',
    "rock": '<path d="M1 7l3-5 3 5z" class="ink"/>',
    "whoops": '<path d="M0 6a2 2 0 0 1 4 0a2 2 0 0 1 4 0" class="ink"/>',
    "single_track": '<path d="M0 4h5" class="ink"/>',
}


@dataclass(frozen=True, slots=True)
class Quantity:
    """What a station shows along the lap: marks (from m, to m, css) or curves (values per point, css, end label); legend: (css, words)."""

    title: str
    marks: tuple[tuple[float, float, str], ...] = ()
    curves: tuple[tuple[Sequence[float], str, str], ...] = ()
    legend: tuple[tuple[str, str], ...] = ()
    low_words: str = ""
    high_words: str = ""


@dataclass(frozen=True, slots=True)
class RibbonData:
    """distance_m, height_m: shape (k,), thinned; ground: (from m, to m, code, words); problems: places [m]; at_m: the chosen place."""

    distance_m: NDArray[np.float64]
    height_m: NDArray[np.float64]
    ground: tuple[tuple[float, float, str, str], ...]
    quantity: Quantity
    at_m: float | None
    problems: tuple[float, ...] = ()
    axis: tuple[tuple[float, str], ...] = field(default=())
    axis_unit: str = "km"
    low_words: str = ""
    high_words: str = ""


def pattern_defs() -> SafeString:
    """The ground patterns, once per page."""
    body = "".join(f'<pattern id="g-{name}" width="8" height="8" patternUnits="userSpaceOnUse">{art}</pattern>' for name, art in PATTERNS.items())
    return mark_safe(f'<svg width="0" height="0" class="defs" aria-hidden="true"><defs>{body}</defs></svg>')


def draw_ribbon(data: RibbonData) -> SafeString:
    """The ribbon as SVG, 124 px high."""
    length = float(data.distance_m[-1])
    low, high = float(data.height_m.min()), float(data.height_m.max())
    margin = max(0.15 * (high - low), 5.0)
    plot = Plot(x=(0.0, length), y=(low - margin, high + margin), height=118, left=0.6, right=0.6, top=4, bottom=58)
    plot.area(data.distance_m.tolist(), [plot.y0] * data.distance_m.size, data.height_m.tolist(), "hill")
    plot.curve(data.distance_m.tolist(), data.height_m.tolist(), "hill-line")
    if data.quantity.curves:
        for values, css, words in data.quantity.curves:
            xs = np.linspace(0.0, length, len(values))
            scaled = [plot.y0 + (plot.y1 - plot.y0) * v for v in values]
            plot.curve(xs, scaled, css)
            if words:
                plot.text(length, plot.py(scaled[-1]) - 4, words, f"end-label {css}", "end")
    for a, b, css in data.quantity.marks:
        plot.parts.append(f'<line x1="{plot.px(a):.3f}%" y1="65" x2="{max(plot.px(b), plot.px(a) + 0.01):.3f}%" y2="65" class="mark {css}"/>')
    for a, b, code, words in data.ground:
        x, width = plot.px(a), plot.px(b) - plot.px(a)
        plot.parts.append(f'<rect x="{x:.3f}%" y="72" width="{width:.3f}%" height="24" class="ground-base"/>')
        plot.parts.append(f'<rect x="{x:.3f}%" y="72" width="{width:.3f}%" height="24" class="ground" fill="url(#g-{code})"/>')
        if width > 5.5:
            css = "ground-name wide-only" if width < 20 else "ground-name"
            plot.parts.append(f'<text x="{x + width / 2:.2f}%" y="89" text-anchor="middle" class="{css}">{escape(words)}</text>')
    for at in data.problems:
        plot.parts.append(f'<circle cx="{plot.px(at):.3f}%" cy="65" r="6" class="problem"/>')
    for i, (x, words) in enumerate(data.axis):
        css = "tick" if i % 2 == 0 else "tick wide-only"
        anchor = "start" if x == 0 else "end" if x > 0.985 * length else "middle"
        plot.parts.append(f'<text x="{plot.px(x):.2f}%" y="112" text-anchor="{anchor}" class="{css}">{escape(words)}</text>')
    if data.at_m is not None:
        x = plot.px(data.at_m)
        plot.parts.append(f'<line x1="{x:.3f}%" y1="0" x2="{x:.3f}%" y2="97" class="place"/>')
    return plot.svg(f"{data.quantity.title}: {data.low_words} – {data.high_words}")


def axis_ticks(length_shown: float, to_metres: float) -> tuple[tuple[float, str], ...]:
    """Ticks in the shown unit: (metres, words)."""
    return tuple((t * to_metres, f"{t:g}") for t in nice_ticks(0.0, length_shown, 9))
