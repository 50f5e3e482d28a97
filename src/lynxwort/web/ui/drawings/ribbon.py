"""The ribbon: height, ground, and the station's own quantity along a lap."""

from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from typing import Any

import numpy as np
from django.utils.html import escape
from django.utils.safestring import SafeString, mark_safe
from numpy.typing import NDArray

from lynxwort.web.ui.drawings.plot import Plot, nice_ticks
from lynxwort.words.formatting import short_number

PATTERNS = {
    "hardpack": '<path d="M0 8L8 0" class="ink"/>',
    "gravel": '<circle cx="2" cy="2" r="1" class="dot"/><circle cx="6" cy="6" r="1" class="dot"/>',
    "loam": '<path d="M0 6h4" class="ink"/>',
    "sand": '<circle cx="2" cy="4" r=".8" class="dot"/>',
    "deep_sand": (
        '<circle cx="2" cy="2" r="1.2" class="dot"/><circle cx="6" cy="2" r="1.2" class="dot"/><circle '
        'cx="4" cy="6" r="1.2" class="dot"/>'
    ),
    "mud": '<path d="M0 4q2-3 4 0t4 0" class="ink"/>',
    "rock": '<path d="M1 7l3-5 3 5z" class="ink"/>',
    "whoops": '<path d="M0 6a2 2 0 0 1 4 0a2 2 0 0 1 4 0" class="ink"/>',
    "single_track": '<path d="M0 4h5" class="ink"/>',
}


#: percent of the width left free at both ends
MARGIN_PERCENT = 0.6


def share_of_lap(across: float) -> float:
    """Share of the lap under a place across the drawing, both 0 to 1."""
    margin = MARGIN_PERCENT / 100.0
    return min(max((across - margin) / (1.0 - 2.0 * margin), 0.0), 1.0)


@dataclass(frozen=True, slots=True)
class Quantity:
    """What a station shows along the lap: marks (from m, to m, css) or curves (values per point, css, end label); part:
    a curve over a part of it (from m, to m, values, css); legend: (css, words).
    """

    title: str
    marks: tuple[tuple[float, float, str], ...] = ()
    curves: tuple[tuple[NDArray[np.float64], str, str], ...] = ()
    part: tuple[float, float, NDArray[np.float64], str] | None = None
    legend: tuple[tuple[str, str], ...] = ()
    low_words: str = ""
    high_words: str = ""


@dataclass(frozen=True, slots=True)
class RibbonData:
    """distance_m, height_m: shape (k,), thinned; ground: (from m, to m, code, words); problems: places [m]; at_m: the
    chosen place; borders: (metres, name) where stages begin; points: (metres, "refuel" or "crew", name); zones: (from
    m, to m, kind); selection: a stretch [m] that is being painted.
    """

    distance_m: NDArray[np.float64]
    height_m: NDArray[np.float64]
    ground: tuple[tuple[float, float, str, str], ...]
    quantity: Quantity
    at_m: float | None
    problems: tuple[float, ...] = ()
    axis: tuple[tuple[float, str], ...] = field(default=())
    axis_unit: str = "km"
    borders: tuple[tuple[float, str], ...] = ()
    points: tuple[tuple[float, str, str], ...] = ()
    zones: tuple[tuple[float, float, str], ...] = ()
    selection: tuple[float, float] | None = None
    low_words: str = ""
    high_words: str = ""


def within(data: RibbonData, from_m: float, to_m: float) -> RibbonData:
    """A ribbon of a part of the lap: what lies outside is left out, what reaches over an end is cut there. Curves are
    those of the part already.
    """

    def cut(spans: Iterable[tuple[Any, ...]]) -> tuple[Any, ...]:
        return tuple((max(a, from_m), min(b, to_m), *rest) for a, b, *rest in spans if a < to_m and b > from_m)

    def inside(at: float) -> bool:
        return from_m <= at <= to_m

    quantity, curve = data.quantity, data.quantity.part
    if curve is not None:
        at = np.linspace(curve[0], curve[1], curve[2].size)
        kept = (at >= from_m) & (at <= to_m)
        curve = (float(at[kept][0]), float(at[kept][-1]), curve[2][kept], curve[3]) if kept.sum() > 1 else None
    return replace(
        data,
        ground=cut(data.ground),
        quantity=replace(quantity, marks=cut(quantity.marks), part=curve),
        at_m=data.at_m if data.at_m is not None and inside(data.at_m) else None,
        problems=tuple(at for at in data.problems if inside(at)),
        borders=tuple(b for b in data.borders if from_m - 1.0 <= b[0] < to_m - 1.0),
        points=tuple(p for p in data.points if inside(p[0])),
        zones=cut(data.zones),
    )


def pattern_defs() -> SafeString:
    """The ground patterns, once per page."""
    body = "".join(
        f'<pattern id="g-{name}" width="8" height="8" patternUnits="userSpaceOnUse">{art}</pattern>'
        for name, art in PATTERNS.items()
    )
    return mark_safe(f'<svg width="0" height="0" class="defs" aria-hidden="true"><defs>{body}</defs></svg>')


def draw_ribbon(data: RibbonData) -> SafeString:
    """The ribbon as SVG, 124 px high."""
    start, length = float(data.distance_m[0]), float(data.distance_m[-1])
    low, high = float(data.height_m.min()), float(data.height_m.max())
    margin = max(0.15 * (high - low), 5.0)
    plot = Plot(
        x=(start, length),
        y=(low - margin, high + margin),
        height=118,
        left=MARGIN_PERCENT,
        right=MARGIN_PERCENT,
        top=4,
        bottom=58,
    )
    plot.area(data.distance_m.tolist(), [plot.y0] * data.distance_m.size, data.height_m.tolist(), "hill")
    plot.curve(data.distance_m.tolist(), data.height_m.tolist(), "hill-line")
    for values, css, words in data.quantity.curves:
        scaled = [plot.y0 + (plot.y1 - plot.y0) * v for v in values]
        plot.curve(np.linspace(start, length, len(values)), scaled, css)
        if words:
            plot.text(length, plot.py(scaled[-1]) - 4, words, f"end-label {css}", "end")
    if data.quantity.part:
        low_m, high_m, values, css = data.quantity.part
        plot.curve(np.linspace(low_m, high_m, len(values)), [plot.y0 + (plot.y1 - plot.y0) * v for v in values], css)
    for a, b, css in data.quantity.marks:
        plot.parts.append(
            f'<line x1="{plot.px(a):.3f}%" y1="65" x2="{max(plot.px(b), plot.px(a) + 0.01):.3f}%" y2="65" '
            f'class="mark {css}"/>'
        )
    if data.selection:
        a, b = data.selection
        plot.parts.append(
            f'<rect x="{plot.px(a):.3f}%" y="0" width="{max(plot.px(b) - plot.px(a), 0.3):.3f}%" height="98" '
            f'class="selection"/>'
        )
    for a, b, code, words in data.ground:
        x, width = plot.px(a), plot.px(b) - plot.px(a)
        plot.parts.append(f'<rect x="{x:.3f}%" y="72" width="{width:.3f}%" height="24" class="ground-base"/>')
        plot.parts.append(
            f'<rect x="{x:.3f}%" y="72" width="{width:.3f}%" height="24" class="ground" fill="url(#g-{code})"/>'
        )
        if width > 5.5:
            css = "ground-name wide-only" if width < 20 else "ground-name"
            plot.parts.append(
                f'<text x="{x + width / 2:.2f}%" y="89" text-anchor="middle" class="{css}">{escape(words)}</text>'
            )
    _draw_places(plot, data, length)
    for at in data.problems:
        plot.parts.append(f'<circle cx="{plot.px(at):.3f}%" cy="65" r="6" class="problem"/>')
    axis = [
        (x, words if i + 1 < len(data.axis) else f"{words} {data.axis_unit}") for i, (x, words) in enumerate(data.axis)
    ]
    for i, (x, words) in enumerate(axis):
        css = "tick" if i % 2 == 0 or i + 1 == len(axis) else "tick wide-only"
        anchor = "start" if x <= start else "end" if x - start > 0.985 * (length - start) else "middle"
        plot.parts.append(
            f'<text x="{plot.px(x):.2f}%" y="112" text-anchor="{anchor}" class="{css}">{escape(words)}</text>'
        )
    if data.at_m is not None:
        x = plot.px(data.at_m)
        plot.parts.append(f'<line x1="{x:.3f}%" y1="0" x2="{x:.3f}%" y2="97" class="place"/>')
    return plot.svg(f"{data.quantity.title}: {data.low_words} – {data.high_words}")


def _draw_places(plot: Plot, data: RibbonData, length: float) -> None:
    """Zones, stage borders, refuel and crew points."""
    for a, b, kind in data.zones:
        x = plot.px(a)
        plot.parts.append(
            f'<rect x="{x:.3f}%" y="96" width="{max(plot.px(b) - x, 0.5):.3f}%" height="5" class="zone {kind}"/>'
        )
    for i, (at, name) in enumerate(data.borders):
        x, end = plot.px(at), plot.px(data.borders[i + 1][0] if i + 1 < len(data.borders) else length)
        if i:
            plot.parts.append(f'<line x1="{x:.3f}%" y1="2" x2="{x:.3f}%" y2="101" class="border"/>')
        if end - x > 9:
            plot.parts.append(
                f'<text x="{x + 0.5:.2f}%" y="14" '
                f'class="border-name{"" if end - x > 18 else " wide-only"}">{escape(name)}</text>'
            )
    for at, kind, name in data.points:
        x = plot.px(at)
        shape = '<path d="M-7 -7h14v9l-7 6l-7 -6z"/>' if kind == "refuel" else '<path d="M0 -8L8 6H-8z"/>'
        plot.parts.append(
            f'<svg x="{x:.3f}%" y="62" overflow="visible" class="point '
            f'{kind}"><title>{escape(name)}</title>{shape}</svg>'
        )


def axis_ticks(length_shown: float, to_metres: float, start_shown: float = 0.0) -> tuple[tuple[float, str], ...]:
    """Ticks in the shown unit: (metres, words)."""
    return tuple((t * to_metres, short_number(t)) for t in nice_ticks(start_shown, length_shown, 9))
