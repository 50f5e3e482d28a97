"""The stations' drawings. Each takes plain numbers in shown units and gives SVG."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from django.utils.html import escape
from django.utils.safestring import SafeString, mark_safe
from numpy.typing import NDArray

from lynxwort.web.ui.drawings.plot import Plot, nice_ticks

Array = NDArray[np.float64]


def plan(
    east: Array, north: Array, grounds: Sequence[tuple[int, int, str]], at: tuple[float, float] | None, label: str
) -> SafeString:
    """The course from above, true to shape; grounds: (from index, to index, code)."""
    width, height = max(float(np.ptp(east)), 1.0), max(float(np.ptp(north)), 1.0)
    scale = min(940.0 / width, 250.0 / height)
    x = (east - east.min()) * scale + (1000.0 - width * scale) / 2
    y = 275.0 - (north - north.min()) * scale - (250.0 - height * scale) / 2

    def points(a: int, b: int) -> str:
        return " ".join(f"{x[i]:.1f},{y[i]:.1f}" for i in range(a, min(b + 1, x.size)))

    lines = [f'<polyline points="{points(0, x.size)}" class="plan-line"/>']
    lines += [f'<polyline points="{points(a, b)}" class="plan-ground p-{code}"/>' for a, b, code in grounds]
    lines.append(f'<circle cx="{x[0]:.1f}" cy="{y[0]:.1f}" r="7" class="start-dot"/>')
    if at is not None:
        i = int(np.argmin((east - at[0]) ** 2 + (north - at[1]) ** 2))
        lines.append(f'<circle cx="{x[i]:.1f}" cy="{y[i]:.1f}" r="8" class="place-dot"/>')
    return mark_safe(
        f'<svg class="drawing" viewBox="0 0 1000 285" role="img" aria-label="{escape(label)}">{"".join(lines)}</svg>'
    )


def pull(
    speeds: Array,
    gears: Sequence[Array],
    ghosts: Sequence[Array],
    resistances: Sequence[tuple[Array, str, str]],
    place: tuple[float, float] | None,
    *,
    axis: str,
    force_axis: str,
    label: str,
) -> SafeString:
    """Pull per gear against resistances (values, css, words), over speed; all in shown units."""
    top = 1.12 * max([float(g.max()) for g in gears] + [float(r[0][0]) for r in resistances])
    plot = Plot(x=(0.0, float(speeds[-1])), y=(0.0, top), height=196, left=8, right=15)
    plot.grid([(t, f"{t:g}") for t in nice_ticks(0, speeds[-1], 7)], [(t, f"{t:g}") for t in nice_ticks(0, top, 5)])
    for ghost in ghosts:
        alive = ghost > 0
        plot.curve(speeds[alive], ghost[alive], "ghost")
    for number, gear in enumerate(gears, start=1):
        alive = gear > 0
        if not alive.any():
            continue
        plot.curve(speeds[alive], gear[alive], "pull")
        if len(gears) == 1:
            continue
        peak = int(np.argmax(gear))
        plot.text(float(speeds[peak]), plot.py(float(gear[peak])) - 6, str(number), "gear-name", "middle")
    used: list[float] = []
    for values, css, words in sorted(resistances, key=lambda r: -float(r[0][-1])):
        inside = values <= top
        plot.curve(speeds[inside], values[inside], css)
        y = plot.py(float(values[inside][-1])) + 5
        while any(abs(y - u) < 15 for u in used):
            y += 15
        used.append(y)
        plot.text_at(100 - plot.right + 0.8, y, words, f"end-label {css}")
    if place is not None:
        plot.dot(place[0], min(place[1], top), "place-dot")
    plot.text_at(plot.left + 0.5, 15, force_axis, "tick")
    plot.text_at(99, plot.height - plot.bottom + 18, axis, "tick", "end")
    return plot.svg(label)


def ladder(
    bars: Sequence[tuple[float, float]],
    ghosts: Sequence[tuple[float, float]],
    words: Sequence[str],
    *,
    axis: str,
    label: str,
) -> SafeString:
    """Speed covered by each gear, from engagement to the limiter; ghosts: as kept; words: of the shift into each."""
    top = 1.08 * max(b for _, b in bars)
    height = 30 + 15 * len(bars)
    plot = Plot(x=(0.0, top), y=(0.0, len(bars)), height=height, left=8, right=15, top=6, bottom=24)
    plot.grid([(t, f"{t:g}") for t in nice_ticks(0, top, 7)], [])
    for i, (a, b) in enumerate(ghosts):
        plot.box((a, len(bars) - i - 0.62), (b, len(bars) - i - 0.38), "ghost-bar")
    for i, (a, b) in enumerate(bars):
        plot.box((a, len(bars) - i - 0.75), (b, len(bars) - i - 0.25), "bar")
        plot.text(b, plot.py(len(bars) - i - 0.5) + 5, f" {i + 1}", "gear-name")
        if words[i]:
            plot.text(a - 0.012 * top, plot.py(len(bars) - i - 0.5) + 5, words[i], "tick", "end")
    plot.text_at(99, height - 6, axis, "tick", "end")
    return plot.svg(label)


def richness(
    throttle: Sequence[float],
    curves: Sequence[tuple[Sequence[float], Sequence[float], Sequence[float], str, str]],
    floors: Sequence[tuple[float, float, float]],
    *,
    axis: str,
    unit: str,
    label: str,
    used_share: Sequence[float] = (),
    share_words: str = "",
) -> SafeString:
    """Richness in percent over throttle; curves: value, low, high, css, words; floors: from and to of each range of the
    throttle and what it may not stand below; used_share: how much of the lap each opening is used, drawn as bars from
    the foot.
    """
    lows = [max(min(c[1]), -60.0) for c in curves] + [min(f for _a, _b, f in floors), -2.0]
    highs = [max(c[2]) for c in curves] + [max(f for _a, _b, f in floors), 4.0]
    y0, y1 = min(lows) - 1.5, max(highs) + 1.5
    plot = Plot(x=(0.0, 1.0), y=(y0, y1), height=250, left=7, right=21)
    for start, end, floor in floors:
        plot.box((start, y0), (end, floor), "lean-zone")
    most = max(used_share, default=0.0)
    for i, share in enumerate(used_share):
        at, half = i / (len(used_share) - 1), 0.42 / (len(used_share) - 1)
        if share > 0:
            plot.box(
                (max(at - half, 0.0), y0), (min(at + half, 1.0), y0 + 0.3 * (y1 - y0) * share / most), "used-share"
            )
    if used_share:
        plot.text(0.52, plot.py(y0) - 6, share_words, "tick")
    ticks = nice_ticks(y0, y1, 5)
    plot.grid(
        [(0.0, "0"), (0.125, "⅛"), (0.25, "¼"), (0.5, "½"), (0.75, "¾"), (1.0, "1")],
        [(t, f"{t:+g}" if t else "0") for t in ticks],
    )
    for start, end, floor in floors:
        plot.line((start, floor), (end, floor), "lean-limit")
    plot.text(0.505, plot.py(floors[-1][2]) + 17, axis, "lean-name")
    used: list[float] = []
    for value, low, high, css, words in curves:
        plot.area(list(throttle), list(low), list(high), f"band {css}-band")
        plot.curve(throttle, value, css)
        y = plot.py(value[-1]) + 5
        while any(abs(y - u) < 16 for u in used):
            y += 16
        used.append(y)
        plot.text_at(100 - plot.right + 0.8, y, words, f"end-label {css}")
    plot.text_at(plot.left + 0.5, 15, unit, "tick")
    return plot.svg(label)


def rulers(rows: Sequence[dict], *, unit: str, label: str) -> SafeString:
    """Travel rulers: per row name, travel, free and race (value, low, high, band low, band high, ghost), all in shown
    units.
    """
    longest = max(r["travel"] for r in rows)
    height = 32 + 68 * len(rows)
    plot = Plot(x=(0.0, longest * 1.02), y=(0.0, len(rows)), height=height, left=11, right=5, top=6, bottom=28)
    plot.grid([(t, f"{t:g}") for t in nice_ticks(0, longest, 9)], [])
    for i, row in enumerate(rows):
        base = len(rows) - i - 1
        plot.box((0, base + 0.14), (row["travel"], base + 0.56), "ruler")
        plot.text_at(plot.left - 1.5, plot.py(base + 0.30), row["name"], "ruler-name", "end")
        for key in ("free", "race"):
            value, low, high, band_low, band_high, ghost = row[key]
            plot.box((band_low, base + 0.14), (band_high, base + 0.56), "band-good")
            if ghost is not None:
                plot.line((ghost, base + 0.08), (ghost, base + 0.62), "ghost-mark")
            plot.line((low, base + 0.35), (high, base + 0.35), "whisker")
            plot.dot(value, base + 0.35, f"sag-{key}", 7)
            nudge = (-1 if key == "free" else 1) * 0.012 * longest
            plot.text(
                value - nudge,
                plot.py(base + 0.68),
                f"{row[key + '_name']} {row[key + '_words']}",
                "sag-words",
                "end" if key == "free" else "start",
            )
        if row.get("reserve"):
            plot.text(row["travel"], plot.py(base + 0.68), row["reserve"], "sag-words reserve", "end")
            plot.line((row["race"][0], base + 0.14), (row["travel"], base + 0.14), "reserve-line")
    plot.text_at(99, height - 10, unit, "tick", "end")
    return plot.svg(label)


def _short_of_axis(plot: Plot) -> list[tuple[float, str]]:
    """Ticks along x that leave the right end to the axis's own words."""
    end = plot.x0 + 0.84 * (plot.x1 - plot.x0)
    return [(t, f"{t:g}") for t in nice_ticks(plot.x0, plot.x1, 7) if t <= end]


def solutions(
    options: Sequence[tuple[float, float, float, bool]],
    now: tuple[float, float],
    kept: tuple[float, float] | None,
    *,
    x_axis: str,
    y_axis: str,
    label: str,
) -> SafeString:
    """Spring rates (x) with the preloads (y) that meet both sags: (rate, low, high, owned), shown units; now: the
    draft.
    """
    rates = [o[0] for o in options] + [now[0]] + ([kept[0]] if kept else [])
    pad = 0.08 * max(max(rates) - min(rates), 0.05 * max(rates))
    tops = [o[2] for o in options] + [now[1]] + ([kept[1]] if kept else [])
    plot = Plot(x=(min(rates) - pad, max(rates) + pad), y=(0.0, 1.25 * max(tops)), height=176, left=8, right=4)
    plot.grid(_short_of_axis(plot), [(t, f"{t:g}") for t in nice_ticks(0, plot.y1, 4)])
    for rate, low, high, owned in options:
        plot.line((rate, low), (rate, max(high, low)), "solution owned" if owned else "solution")
    if kept:
        plot.dot(kept[0], kept[1], "ghost-dot", 7)
    plot.dot(now[0], now[1], "now-dot", 8)
    plot.text_at(plot.left + 0.5, 15, y_axis, "tick")
    plot.text_at(99, plot.height - 8, x_axis, "tick", "end")
    return plot.svg(label)


def level(
    distance: Array,
    fuel: Array,
    tank: float,
    unusable: float,
    laps: Sequence[float],
    *,
    x_axis: str,
    y_axis: str,
    words: tuple[str, str, str],
    lap_words: str,
    label: str,
) -> SafeString:
    """Fuel aboard over the race: low, median, high (columns); words: median, spread, unusable."""
    plot = Plot(x=(0.0, float(distance[-1])), y=(0.0, 1.08 * tank), height=232, left=8, right=16)
    plot.grid(
        [(t, f"{t:g}") for t in nice_ticks(0, distance[-1], 7)], [(t, f"{t:g}") for t in nice_ticks(0, 1.08 * tank, 5)]
    )
    plot.box((0, 0), (plot.x1, unusable), "lean-zone")
    plot.area(list(distance), list(fuel[:, 0]), list(fuel[:, 2]), "band level-band")
    plot.curve(distance, fuel[:, 1], "level")
    for i, lap in enumerate(laps, start=1):
        plot.line((lap, 0), (lap, plot.y1), "lap-line")
        plot.text(lap, 16, lap_words % i, "tick", "end")
    plot.text_at(100 - plot.right + 0.8, plot.py(float(fuel[-1, 1])) + 5, words[0], "end-label level")
    plot.text_at(100 - plot.right + 0.8, plot.py(float(fuel[-1, 2])) + 5, words[1], "tick")
    plot.text_at(100 - plot.right + 0.8, plot.py(0) - 2, words[2], "end-label act-words")
    plot.text_at(plot.left + 0.5, 15, y_axis, "tick")
    plot.text_at(99, plot.height - 8, x_axis, "tick", "end")
    return plot.svg(label)


def certainty(
    litres: Array,
    chance: Array,
    ghost: Array | None,
    now: tuple[float, float],
    wanted: float,
    *,
    x_axis: str,
    y_axis: str,
    label: str,
) -> SafeString:
    """Chance to finish in percent over fuel aboard."""
    plot = Plot(x=(float(litres[0]), float(litres[-1])), y=(0.0, 104.0), height=176, left=8, right=6)
    plot.grid(
        [(t, f"{t:g}") for t in nice_ticks(plot.x0, plot.x1, 8)],
        [(t, f"{t:g}") for t in (0.0, 25.0, 50.0, 75.0, 100.0)],
    )
    plot.line((plot.x0, wanted), (plot.x1, wanted), "wanted-line")
    if ghost is not None:
        plot.curve(litres, ghost, "ghost")
    plot.curve(litres, chance, "level")
    plot.dot(now[0], now[1], "now-dot", 7)
    plot.text_at(plot.left + 0.5, 15, y_axis, "tick")
    plot.text_at(99, plot.height - 8, x_axis, "tick", "end")
    return plot.svg(label)


def shares(rows: Sequence[tuple[str, Sequence[tuple[str, float, str]]]], *, label: str) -> SafeString:
    """Bars that each divide one whole: per row its name and (words, share, css)."""
    height = 40 * len(rows) + 6
    plot = Plot(x=(0.0, 1.0), y=(0.0, 1.0), height=height, left=11, right=1, top=2, bottom=4)
    for i, (name, parts) in enumerate(rows):
        top, at = 4 + 40 * i, 0.0
        plot.text_at(plot.left - 1.0, top + 21, name, "ruler-name", "end")
        for words, share, css in parts:
            x, width = plot.px(at), plot.px(at + share) - plot.px(at)
            title = f"<title>{escape(words)}: {100 * share:.0f} %</title>"
            plot.parts.append(
                f'<rect x="{x:.3f}%" y="{top}" width="{max(width, 0.05):.3f}%" height="30" class="seg '
                f'{css}">{title}</rect>'
            )
            said = f"{words}: {100 * share:.0f} %"
            fits = next((w for w in (said, words) if width > 1.0 * len(w) + 1.0), "")
            if fits:  # a phone shows only what fits there too
                narrow = "" if width > 2.1 * len(fits) + 2.0 else " wide-only"
                plot.text_at(x + 0.6, top + 20, fits, f"seg-words {css}{narrow}")
            at += share
    return plot.svg(label)


#: from the words of one pose to those of the next, two lines of the phone's letters [mm of the drawing]
WORDS_APART = 98.0


def chain(
    poses: Sequence[tuple[str, tuple, tuple, tuple[str, str]]],
    *,
    sprocket: tuple[float, float],
    radii: tuple[float, float],
    words: Mapping[str, str],
    label: str,
) -> SafeString:
    """The chain and the swingarm through its travel, to scale, pivot at the origin, rear to the left; everything in
    metres.

    poses: (css, axle, runs as pairs of points, two lines of words beside the axle); sprocket: the front one's centre;
    radii: front, rear.
    """
    mm = lambda p: (1000.0 * p[0], 1000.0 * p[1])  # noqa: E731
    poses = [(css, mm(axle), tuple((mm(a), mm(b)) for a, b in runs), said) for css, axle, runs, said in poses]
    sprocket, radii = mm(sprocket), mm(radii)
    points = [p for _css, axle, runs, _w in poses for p in (axle, *runs[0], *runs[1])]
    rear = next(axle for css, axle, _r, _w in poses if css == "now")
    left = min(*(p[0] for p in points), rear[0] - radii[1]) - 330.0
    right = max(p[0] for p in points) + 40.0
    low = min(*(p[1] for p in points), rear[1] - radii[1]) - 16.0
    high = max(*(p[1] for p in points), rear[1] + radii[1]) + 16.0
    room = max(WORDS_APART * len(poses) - (high - low), 0.0)
    high, low = high + room / 2, low - room / 2
    parts: list[str] = []

    def xy(point: tuple[float, float]) -> str:
        return f"{point[0] - left:.1f} {high - point[1]:.1f}"

    # the words of each pose keep off those above, and the last within the picture, in the phone's large letters too
    poses.sort(key=lambda p: -p[1][1])
    lines = [max(high - p[1][1] - 10.0, WORDS_APART / 2) for p in poses]
    for i in range(1, len(lines)):
        lines[i] = max(lines[i], lines[i - 1] + WORDS_APART)
    lines[-1] = min(lines[-1], high - low - WORDS_APART / 2)
    for i in range(len(lines) - 2, -1, -1):
        lines[i] = min(lines[i], lines[i + 1] - WORDS_APART)

    for (css, axle, runs, (where, play)), y in zip(poses, lines, strict=True):
        parts += [f'<path d="M{xy(a)}L{xy(b)}" class="chain-run {css}"/>' for a, b in runs]
        parts.append(f'<path d="M{xy((0.0, 0.0))}L{xy(axle)}" class="swingarm {css}"/>')
        if css == "now":
            parts.append(
                f'<circle cx="{axle[0] - left:.1f}" cy="{high - axle[1]:.1f}" r="{radii[1]:.1f}" class="sprocket now"/>'
            )
        parts.append(f'<circle cx="{axle[0] - left:.1f}" cy="{high - axle[1]:.1f}" r="8" class="axle {css}"/>')
        parts.append(f'<path d="M326 {y - 7:.1f}L{axle[0] - left - 10:.1f} {high - axle[1]:.1f}" class="leader"/>')
        parts.append(
            f'<text x="320" y="{y:.1f}" text-anchor="end" class="chain-words">{escape(where)}<tspan x="320" '
            f'dy="1.05em">{escape(play)}</tspan></text>'
        )
    parts.append(
        f'<circle cx="{sprocket[0] - left:.1f}" cy="{high - sprocket[1]:.1f}" r="{radii[0]:.1f}" class="sprocket now"/>'
    )
    parts.append(f'<circle cx="{-left:.1f}" cy="{high:.1f}" r="8" class="pivot"/>')
    parts.append(f'<text x="{-left - 30:.1f}" y="{high + 100:.1f}" class="chain-words">{escape(words["pivot"])}</text>')
    parts.append(f'<path d="M{-left - 2:.1f} {high + 80:.1f}L{-left:.1f} {high + 10:.1f}" class="leader"/>')
    x, y = right - left - 130.0, high - low - 14.0
    parts.append(
        f'<path d="M{x:.1f} {y:.1f}h100" class="scale"/><text x="{x:.1f}" y="{y - 8:.1f}" '
        f'class="chain-words">{escape(words["scale"])}</text>'
    )
    size = f"0 0 {right - left:.0f} {high - low:.0f}"
    return mark_safe(
        f'<svg class="drawing chain-drawing" viewBox="{size}" role="img" '
        f'aria-label="{escape(label)}">{"".join(parts)}</svg>'
    )


def heights(distance: Array, raw: Array, smooth: Array, *, x_axis: str, y_axis: str, label: str) -> SafeString:
    """Heights as the file has them and as they are used."""
    low, high = float(min(raw.min(), smooth.min())), float(max(raw.max(), smooth.max()))
    margin = max(0.06 * (high - low), 2.0)
    plot = Plot(
        x=(float(distance[0]), float(distance[-1])), y=(low - margin, high + margin), height=240, left=9, right=8
    )
    plot.grid(
        [(t, f"{t:g}") for t in nice_ticks(plot.x0, plot.x1, 6)],
        [(t, f"{t:g}") for t in nice_ticks(plot.y0, plot.y1, 5)],
    )
    plot.curve(distance, raw, "raw-height")
    plot.curve(distance, smooth, "smooth-height")
    plot.text_at(plot.left + 0.5, 15, y_axis, "tick")
    plot.text_at(99, plot.height - 8, x_axis, "tick", "end")
    return plot.svg(label)


def day_curve(
    hours: Sequence[float], values: Sequence[float], span: tuple[float, float], *, x_axis: str, y_axis: str, label: str
) -> SafeString:
    """A quantity over the hours of a day; span: the hours of the race."""
    low, high = min(values), max(values)
    plot = Plot(
        x=(0.0, 24.0),
        y=(low - 0.15 * (high - low) - 0.5, high + 0.15 * (high - low) + 0.5),
        height=150,
        left=7,
        right=3,
    )
    plot.grid([(float(t), f"{t}") for t in range(0, 25, 3)], [(t, f"{t:g}") for t in nice_ticks(plot.y0, plot.y1, 4)])
    plot.box((span[0], plot.y0), (min(span[1], 24.0), plot.y1), "race-hours")
    plot.curve(list(hours), list(values), "level")
    plot.text_at(plot.left + 0.5, 15, y_axis, "tick")
    plot.text_at(99, plot.height - 8, x_axis, "tick", "end")
    return plot.svg(label)


def over_travel(
    xs: Sequence[float],
    ys: Sequence[float],
    kept: Sequence[float] | None,
    at: tuple[float, float],
    *,
    x_axis: str,
    y_axis: str,
    words: str,
    label: str,
) -> SafeString:
    """A quantity over the travel, its place now, and the kept one as its ghost."""
    every = [*ys, *(kept or ())]
    pad = max(0.12 * (max(every) - min(every)), 2.0)
    plot = Plot(x=(xs[0], xs[-1]), y=(min(every) - pad, max(every) + pad), height=170, left=8, right=4)
    plot.grid(_short_of_axis(plot), [(t, f"{t:g}") for t in nice_ticks(plot.y0, plot.y1, 4)])
    if kept:
        plot.curve(xs, kept, "ghost")
    plot.curve(xs, ys, "level")
    plot.dot(at[0], at[1], "now-dot", 7)
    plot.text(at[0], plot.py(at[1]) - 12, words, "sag-words", "middle")
    plot.text_at(plot.left + 0.5, 15, y_axis, "tick")
    plot.text_at(99, plot.height - 8, x_axis, "tick", "end")
    return plot.svg(label)


@dataclass(frozen=True, slots=True)
class Dimension:
    """A dimension of a drawing that opens its Why: what stands there, what it is called, its figure with its value in
    SI, where the Why is.
    """

    words: str
    name: str
    figure: str
    value: float
    url: str

    def at(self, x: float, y: float, anchor: str = "start") -> str:
        """The dimension's words as a link at a place of the drawing."""
        width = 34.0 * len(self.words)
        left = {"start": x, "middle": x - width / 2, "end": x - width}[anchor]
        return (
            f'<a href="{escape(self.url)}" class="dim" data-figure="{self.figure}" data-si="{self.value!r}" '
            f'hx-get="{escape(self.url)}" hx-target="#why" '
            f'aria-label="{escape(self.name)}: {escape(self.words)}"><rect x="{left:.0f}" y="{y - 76:.0f}" '
            f'width="{width:.0f}" height="112" class="dim-touch"/>'
            f'<text x="{x:.1f}" y="{y:.1f}" text-anchor="{anchor}" class="bike-words">{escape(self.words)}</text></a>'
        )


def bike(now: Any, kept: Any | None, *, dims: Mapping[str, Dimension], label: str) -> SafeString:
    """The bike from the side at race sag, to scale in millimetres; kept: its slate ghost. now, kept: outlines in
    metres; dims: its dimensions.
    """
    left, right, top, low = -440.0, 1000.0 * now.front[0] + 560.0, 1290.0, -150.0

    def xy(point: tuple[float, float]) -> str:
        return f"{1000.0 * point[0] - left:.1f} {top - 1000.0 * point[1]:.1f}"

    def lines(o: Any, css: str) -> list[str]:
        rake_end = (o.front[0] + o.trail_m, 0.0)  # the steering axis meets the ground by the trail ahead of the contact
        body = (o.pivot, o.lowest, (o.lowest[0] + 0.18, o.lowest[1]), o.axis_top, o.seat, o.pivot)
        return [
            *(
                (
                    f'<circle cx="{1000 * p[0] - left:.1f}" cy="{top - 1000 * p[1]:.1f}" r="{1000 * r:.1f}" '
                    f'class="bike-wheel {css}"/>'
                )
                for p, r in ((o.rear, o.rear_radius_m), (o.front, o.front_radius_m))
            ),
            f'<path d="M{xy(o.rear)}L{xy(o.pivot)}" class="bike-arm {css}"/>',
            f'<path d="M{xy(o.front)}L{xy(o.leg_top)}" class="bike-leg {css}"/>',
            f'<path d="M{"L".join(xy(p) for p in body)}" class="bike-frame {css}"/>',
            (
                f'<path d="M{xy((o.seat[0] - 0.34, o.seat[1] + 0.03))}L{xy((o.seat[0] + 0.22, o.seat[1]))}" '
                f'class="bike-seat {css}"/>'
            ),
            f'<path d="M{xy(o.axis_top)}L{xy(rake_end)}" class="bike-axis {css}"/>',
            f'<path d="M{xy(o.seat)}L{xy(o.peg)}L{xy(o.bar)}Z" class="bike-triangle {css}"/>',
            *(
                f'<circle cx="{1000 * p[0] - left:.1f}" cy="{top - 1000 * p[1]:.1f}" r="22" class="bike-touch {css}"/>'
                for p in (o.peg, o.bar)
            ),
        ]

    def between(a: tuple[float, float], b: tuple[float, float], share: float = 0.5) -> tuple[float, float]:
        return 1000.0 * (a[0] + (b[0] - a[0]) * share) - left, top - 1000.0 * (a[1] + (b[1] - a[1]) * share)

    parts = lines(kept, "ghost") if kept is not None else []
    parts += lines(now, "now")
    parts.append(f'<path d="M0 {top:.1f}H{right - left:.1f}" class="bike-ground"/>')
    front = 1000.0 * now.front[0] - left
    parts.append(f'<path d="M{-left:.1f} {top + 62:.1f}H{front:.1f}" class="scale"/>')
    parts.append(f'<path d="M{front:.1f} {top + 22:.1f}h{1000 * now.trail_m:.1f}" class="scale trail"/>')
    x, y = 1000.0 * now.lowest[0] - left, top - 1000.0 * now.lowest[1]
    parts.append(f'<path d="M{x + 90:.1f} {y:.1f}V{top:.1f}" class="leader"/>')
    parts.append(dims["wheelbase"].at((front - left) / 2, top + 122, "middle"))
    parts.append(dims["trail"].at(front + 1000 * now.trail_m + 14, top + 66))
    parts.append(dims["clearance"].at(x + 102, (y + top) / 2 + 10))
    x, y = 1000.0 * now.axis_top[0] - left, top - 1000.0 * now.axis_top[1]
    parts.append(dims["rake"].at(x + 150, y + 64))
    x, y = 1000.0 * now.seat[0] - left, top - 1000.0 * now.seat[1]
    parts.append(dims["seat"].at(x - 90, y - 52, "end"))
    x, y = between(now.seat, now.bar, 0.45)
    parts.append(dims["arms"].at(x, y - 26, "middle"))
    x, y = between(now.seat, now.peg, 0.62)
    parts.append(dims["knee"].at(x - 24, y, "end"))
    x, y = between(now.peg, now.bar, 0.5)
    parts.append(dims["stance"].at(x + 26, y + 20))
    size = f"0 0 {right - left:.0f} {top - low:.0f}"
    return mark_safe(
        f'<svg class="drawing bike-drawing" viewBox="{size}" role="group" '
        f'aria-label="{escape(label)}">{"".join(parts)}</svg>'
    )
