"""Drawings of the Fuelling station's own pages. Each takes plain numbers in shown units and gives SVG."""

from collections.abc import Sequence

import numpy as np
from django.utils.html import escape
from django.utils.safestring import SafeString, mark_safe
from numpy.typing import NDArray

from lynxwort.web.ui.drawings.plot import Plot, nice_ticks

Array = NDArray[np.float64]


def window(
    pressures: Array,
    lines: Sequence[tuple[str, Array, str]],
    day: tuple[float, float, float, float],
    *,
    x_axis: str,
    y_axis: str,
    words: str,
    label: str,
) -> SafeString:
    """Coldest safe thermometer over pressure, a line per set (name, values, css); day: lowest and highest pressure,
    coldest and hottest of the race.
    """
    every = np.concatenate(
        [np.array([day[2]]), *(v[np.isfinite(v)] for _n, v, _c in lines)]
    )  # no set may be safe anywhere
    low, high = min(float(every.min()), day[2]) - 3.0, max(float(every.max()), day[3]) + 4.0
    low = max(low, day[2] - 28.0)
    plot = Plot(x=(float(pressures[0]), float(pressures[-1])), y=(low, high), height=280, left=8, right=13)
    plot.grid(
        [(t, f"{t:g}") for t in nice_ticks(plot.x0, plot.x0 + 0.86 * (plot.x1 - plot.x0), 6)],
        [(t, f"{t:g}") for t in nice_ticks(low, high, 6)],
    )
    plot.box((day[0], day[2]), (day[1], day[3]), "race-hours")
    plot.text(0.5 * (day[0] + day[1]), plot.py(day[3]) - 6, words, "tick", "middle")
    used: list[float] = []
    for name, values, css in lines:
        good = np.isfinite(values)
        if not good.any():
            continue
        plot.curve(pressures[good], np.clip(values[good], low, high), f"window-line {css}")
        y = plot.py(float(np.clip(values[good][-1], low, high))) + 5
        while any(abs(y - u) < 16 for u in used):
            y -= 16
        used.append(y)
        plot.text_at(100 - plot.right + 0.8, y, name, f"end-label {css}")
    plot.text_at(plot.left + 0.5, 15, y_axis, "tick")
    plot.axis_words(x_axis, plot.height - 8)
    return plot.svg(label)


def needle(
    along_mm: Sequence[float],
    diameter_mm: Sequence[float],
    bore_mm: float,
    jet_mm: float,
    *,
    words: dict[str, str],
    label: str,
) -> SafeString:
    """The needle in its jet, to scale across and (closer) along; along_mm: distance above (-) and below the mouth of
    the jet.
    """
    scale, across, middle, mouth = 6.0, 62.0, 300.0, 130.0

    def half(d: float) -> float:
        return 0.5 * d * across

    left = [(middle - half(d), mouth + scale * a) for a, d in zip(along_mm, diameter_mm, strict=True)]
    right = [(middle + half(d), mouth + scale * a) for a, d in zip(along_mm, diameter_mm, strict=True)]
    body = " ".join(f"{x:.1f},{y:.1f}" for x, y in [*left, *reversed(right)])
    wall, main = half(bore_mm), half(jet_mm)
    low = mouth + 150.0

    def block(x: float, y: float, width: float, height: float) -> str:
        return f'<rect x="{x:.1f}" y="{y:.1f}" width="{width:.1f}" height="{height:.1f}" class="jet-wall"/>'

    parts = [
        block(middle - wall - 26.0, mouth, 26.0, low - mouth),
        block(middle + wall, mouth, 26.0, low - mouth),
        block(middle - wall, low + 26.0, wall - main, 30.0),
        block(middle + main, low + 26.0, wall - main, 30.0),
        f'<polygon points="{body}" class="needle-body"/>',
        f'<path d="M{middle - wall - 60:.1f} {mouth}H{middle + wall + 60:.1f}" class="leader"/>',
        f'<text x="{middle + wall + 70:.1f}" y="{mouth + 6:.1f}">{escape(words["mouth"])}</text>',
        f'<text x="{middle + wall + 70:.1f}" y="{low - 30:.1f}">{escape(words["gap"])}</text>',
        f'<text x="{middle + wall + 70:.1f}" y="{low + 47:.1f}">{escape(words["main"])}</text>',
        f'<text x="{middle - wall - 70:.1f}" y="{mouth + 6:.1f}" text-anchor="end">{escape(words["lift"])}</text>',
        f'<text x="{middle - wall - 70:.1f}" y="{low - 30:.1f}" text-anchor="end">{escape(words["needle"])}</text>',
        f'<text x="{middle - wall - 70:.1f}" y="{low + 47:.1f}" text-anchor="end">{escape(words["rules"])}</text>',
    ]
    return mark_safe(
        f'<svg class="drawing needle-drawing" viewBox="0 0 600 350" role="img" '
        f'aria-label="{escape(label)}">{"".join(parts)}</svg>'
    )


def dyno(
    curves: Sequence[tuple[Array, Array, Array, str, str]], *, x_axis: str, y_axes: tuple[str, str], label: str
) -> SafeString:
    """Torque and power over revs: per run revs, torque, power, css, name; each scaled to its own axis, torque left,
    power right.
    """
    low, high = min(float(c[0][0]) for c in curves), max(float(c[0][-1]) for c in curves)
    torque, power = (1.12 * max(float(c[k].max()) for c in curves) for k in (1, 2))  # type: ignore[union-attr]
    plot = Plot(x=(low, high), y=(0.0, torque), height=300, left=8, right=14)
    plot.grid(
        [(t, f"{t:g}") for t in nice_ticks(low, low + 0.88 * (high - low), 7)],
        [(t, f"{t:g}") for t in nice_ticks(0, torque, 5)],
    )
    for t in nice_ticks(0, power, 5):
        plot.text_at(100 - plot.right + 0.8, plot.py(t * torque / power) + 5, f"{t:g}", "tick")
    for rpm, newton_metres, watts, css, _name in curves:
        plot.curve(rpm, newton_metres, f"dyno-torque {css}")
        plot.curve(rpm, watts * torque / power, f"dyno-power {css}")
    plot.text_at(plot.left + 0.5, 15, y_axes[0], "tick")
    plot.text_at(99, 15, y_axes[1], "tick", "end")
    plot.axis_words(x_axis, plot.height - 8)
    return plot.svg(label)


def throttle(zones: Sequence[tuple[str, str, bool]], *, label: str) -> SafeString:
    """The throttle as a half ring, closed at the left: of each zone its words, address and whether it is chosen."""
    cx, cy, outer, inner, parts = 350.0, 268.0, 200.0, 96.0, list[str]()
    current = ' aria-current="true"'

    def at(angle: float, radius: float) -> str:
        return f"{cx + radius * np.cos(angle):.1f} {cy - radius * np.sin(angle):.1f}"

    for k, (words, url, here) in enumerate(zones):
        first, last = (np.pi * (1.0 - (k + side) / len(zones)) for side in (0.015, 0.985))
        middle = 0.5 * (first + last)
        side = "middle" if abs(np.cos(middle)) < 0.2 else "start" if np.cos(middle) > 0 else "end"
        x, y = at(middle, outer + 18.0).split()
        ring = (
            f"M{at(first, outer)}A{outer:.0f} {outer:.0f} 0 0 1 {at(last, outer)}L{at(last, inner)}"
            f"A{inner:.0f} {inner:.0f} 0 0 0 {at(first, inner)}Z"
        )
        parts.append(
            f'<a href="{escape(url)}" class="zone-of"{current if here else ""}>'
            f'<path d="{ring}"/><text x="{x}" y="{y}" text-anchor="{side}">{escape(words)}</text></a>'
        )
    return mark_safe(
        f'<svg class="drawing throttle" viewBox="0 0 700 280" role="group" aria-label="{escape(label)}">'
        f"{''.join(parts)}</svg>"
    )
