"""Drawings of dampers: force against shaft speed, travel by share of the time, a shim stack to scale."""

import itertools
from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np
from django.utils.html import escape
from django.utils.safestring import SafeString, mark_safe

from lynxwort.web.ui.drawings.plot import Plot, nice_ticks

Array = Any


def forces(
    speeds: Array,
    now: tuple[Array, Array],
    kept: tuple[Array, Array] | None,
    reached: tuple[float, float] | None,
    *,
    words: Mapping[str, str],
    label: str,
    points: Sequence[tuple[float, float]] = (),
) -> SafeString:
    """Force on the way in (up) and out (down) against shaft speed, to the speeds reached; kept: its ghost; points:
    measured, out = negative.
    """
    top = max([*(float(k[0].max()) for k in (now, kept) if k), *(f for _s, f in points)])
    low = max([*(float(k[1].max()) for k in (now, kept) if k), *(-f for _s, f in points)])
    plot = Plot(x=(0.0, float(speeds[-1])), y=(-1.08 * low, 1.08 * top), height=256, left=9, right=6, bottom=42)
    plot.grid(
        [(t, f"{t:g}") for t in nice_ticks(0.0, plot.x1, 6)],
        [(t, f"{abs(t):g}") for t in nice_ticks(plot.y0, plot.y1, 6)],
    )
    for speed, force in points:
        plot.dot(speed, force, "ghost-dot", 3)
    for side, sign in ((0, 1.0), (1, -1.0)):
        if kept:
            plot.curve(speeds, sign * kept[side], "ghost")
        plot.curve(speeds, sign * now[side], "level")
        if reached:
            at = min(reached[side], plot.x1)
            plot.dot(at, sign * float(np.interp(at, speeds, now[side])), "now-dot", 6)
    plot.line((0.0, 0.0), (plot.x1, 0.0), "axis-line")
    plot.text(0.03 * plot.x1, plot.py(0.86 * top), words["in"], "sag-words")
    plot.text(0.03 * plot.x1, plot.py(-0.92 * low), words["out"], "sag-words")
    if reached:
        at = min(reached[0], plot.x1)
        plot.text(
            at - 0.02 * plot.x1, plot.py(float(np.interp(at, speeds, now[0]))) - 10, words["reached"], "tick", "end"
        )
    plot.text_at(plot.left, 14, words["y"], "tick")
    plot.axis_words(words["x"], plot.height - 8)
    return plot.svg(label)


def travel_shares(
    rows: Sequence[tuple[str, Array, float, str, bool]], *, label: str, left: str, right: str
) -> SafeString:
    """One ruler a row: share of the time by travel as height, the deepest as a mark with its words; bad: it hits
    metal.
    """
    height, top = 46, 24
    parts = [
        (
            f'<text x="28%" y="15" class="tick">{escape(left)}</text><text x="86%" y="15" text-anchor="end" '
            f'class="tick">{escape(right)}</text>'
        )
    ]
    for k, (name, shares, deepest, words, bad) in enumerate(rows):
        base = top + (k + 1) * height - 8
        parts.append(f'<text x="27%" y="{base - 6}" text-anchor="end" class="ruler-name">{escape(name)}</text>')
        parts.append(f'<line x1="28%" x2="86%" y1="{base}" y2="{base}" class="axis-line"/>')
        most = max(float(np.max(shares)), 1e-9)
        width = 58.0 / len(shares)
        for i, share in enumerate(shares):
            tall = 28.0 * float(share) / most
            if tall >= 0.5:
                parts.append(
                    f'<rect x="{28 + i * width:.2f}%" width="{width * 0.9:.2f}%" y="{base - tall:.1f}" '
                    f'height="{tall:.1f}" class="used-share"/>'
                )
        at = 28 + 58 * deepest
        parts.append(
            f'<line x1="{at:.2f}%" x2="{at:.2f}%" y1="{base - 30}" y2="{base + 4}" '
            f'class="deepest{" bad" if bad else ""}"/>'
        )
        parts.append(
            f'<text x="87.5%" y="{base - 6}" class="{"bad-words" if bad else "sag-words"}">{escape(words)}</text>'
        )
    tall = top + len(rows) * height + 8
    return mark_safe(
        f'<svg class="drawing named" width="100%" height="{tall}" role="img" '
        f'aria-label="{escape(label)}">{"".join(parts)}</svg>'
    )


def stack(
    leaves: Sequence[tuple[float, float, float, str]],
    *,
    clamp: float,
    ports: tuple[float, float],
    touches: Sequence[tuple[float, float]],
    label: str,
    words: Mapping[str, str],
) -> SafeString:
    """A stack cut through, half of it, to scale across, stretched upwards: leaves as (radius mm, thickness mm,
    share of the stress limit, name), face below.

    touches: (radius mm, height index of the lower leaf) where the leaves push on one another.
    """
    widest = max(r for r, _t, _s, _n in leaves)
    heights = np.concatenate([[0.0], np.cumsum([t for _r, t, _s, _n in leaves])])
    across, up = (
        290.0 / widest,
        max(150.0, 30.0 * len(leaves) / float(heights[-1])),
    )  # thin leaves get room for their words
    tall = up * float(heights[-1]) + 120.0
    base = tall - 50.0
    parts = [
        (
            f'<rect x="{across * ports[0]:.1f}" y="{base + 4:.1f}" width="{across * (ports[1] - ports[0]):.1f}" '
            f'height="26" class="stack-port"/>'
        ),
        (
            f'<text x="{across * (ports[0] + ports[1]) / 2:.1f}" y="{base + 23:.1f}" text-anchor="middle" '
            f'class="tick">{escape(words["ports"])}</text>'
        ),
    ]
    for k, (radius, thick, share, _name) in enumerate(leaves):
        y = base - up * float(heights[k + 1])
        css = "stack-leaf hard" if share >= 1.0 else "stack-leaf"
        parts.append(
            f'<rect x="0" y="{y:.1f}" width="{across * radius:.1f}" height="{max(up * thick - 1.0, 1.0):.1f}" '
            f'class="{css}"/>'
        )
    above = tall
    for name, group in itertools.groupby(enumerate(leaves), key=lambda pair: pair[1][3]):
        places = [k for k, _leaf in group]
        middle = base - up * 0.5 * float(heights[places[0]] + heights[places[-1] + 1]) + 7
        above = min(middle, above - 22.0)
        words_here = f"{len(places)}× {name}" if len(places) > 1 else name
        parts.append(
            f'<text x="{across * leaves[places[0]][0] + 10:.1f}" y="{above:.1f}" '
            f'class="tick">{escape(words_here)}</text>'
        )
    top = base - up * float(heights[-1])
    parts.append(f'<rect x="0" y="{top - 44:.1f}" width="{across * clamp:.1f}" height="42" class="stack-clamp"/>')
    parts.append(f'<text x="12" y="{top - 16:.1f}" class="stack-words">{escape(words["clamp"])}</text>')
    for radius, index in touches:
        parts.append(
            f'<circle cx="{across * radius:.1f}" cy="{base - up * float(heights[int(index) + 1]):.1f}" r="5" '
            f'class="now-dot"/>'
        )
    return mark_safe(
        f'<svg class="drawing stack-drawing" viewBox="0 0 480 {tall:.0f}" role="img" '
        f'aria-label="{escape(label)}">{"".join(parts)}</svg>'
    )


def heat(
    cells: Sequence[tuple[int, int, float, int]],
    now: tuple[int, int],
    most: tuple[int, int],
    *,
    x_axis: str,
    y_axis: str,
    label: str,
    words: str,
) -> SafeString:
    """A map of values over two adjusters up to their most, dark = more, the present pair framed; cells with how
    wide they stand until finer ones cover them.
    """
    most_x, most_y = most
    plot = Plot(x=(-0.5, most_x + 0.5), y=(-0.5, most_y + 0.5), height=360, left=8, right=4, bottom=42)
    values = [v for _x, _y, v, _wide in cells]
    low, span = (min(values), max(max(values) - min(values), 1e-12)) if values else (0.0, 1.0)
    for x, y, value, wide in sorted(cells, key=lambda c: -c[3]):
        left, right = (plot.px(min(max(x + d * wide / 2, -0.5), most_x + 0.5)) for d in (-1, 1))
        foot, top = (plot.py(min(max(y + d * wide / 2, -0.5), most_y + 0.5)) for d in (-1, 1))
        dark = 0.08 + 0.84 * (value - low) / span
        for css, opacity in (("heat-ground", ""), ("heat", f' fill-opacity="{dark:.2f}"')):
            plot.parts.append(
                f'<rect x="{left:.2f}%" y="{top:.1f}" width="{right - left:.2f}%" height="{foot - top:.1f}" '
                f'class="{css}"{opacity}/>'
            )
    for tick in range(0, most_x + 1, 4):
        plot.text(tick, plot.height - plot.bottom + 18, f"{tick}", "tick", "middle")
    for tick in range(0, most_y + 1, 4):
        plot.text_at(plot.left - 1.0, plot.py(tick) + 5, f"{tick}", "tick", "end")
    plot.box((now[0] - 0.5, now[1] - 0.5), (now[0] + 0.5, now[1] + 0.5), "heat-now")
    plot.text(now[0], plot.py(now[1] + 0.5) - 5, words, "sag-words", "middle")
    plot.text_at(plot.left, 14, y_axis, "tick")
    plot.axis_words(x_axis, plot.height - 6)
    return plot.svg(label)
