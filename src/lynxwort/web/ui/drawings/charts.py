"""The stations' drawings. Each takes plain numbers in shown units and gives SVG."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from django.utils.html import escape
from django.utils.safestring import SafeString, mark_safe
from numpy.typing import NDArray

from lynxwort.web.ui.drawings.plot import Plot, nice_ticks

Array = NDArray[np.float64]


def plan(
    east: Array, north: Array, grounds: Sequence[tuple[int, int, str]], at: tuple[float, float] | None, label: str
) -> SafeString:
    """The course from above, true to shape, each ground with the sign that it has on the ribbon; grounds: (from index,
    to index, code).
    """
    width, height = max(float(np.ptp(east)), 1.0), max(float(np.ptp(north)), 1.0)
    scale = min(600.0 / width, 320.0 / height)
    x = (east - east.min()) * scale + (640.0 - width * scale) / 2
    y = 340.0 - (north - north.min()) * scale - (320.0 - height * scale) / 2

    def points(a: int, b: int) -> str:
        return " ".join(f"{x[i]:.1f},{y[i]:.1f}" for i in range(a, min(b + 1, x.size)))

    whole = points(0, x.size)
    lines = [f'<polyline points="{whole}" class="{css}"/>' for css in ("plan-edge", "plan-line")]
    lines += [
        f'<polyline points="{points(a, b)}" stroke="url(#g-{code})" class="plan-ground"/>' for a, b, code in grounds
    ]
    lines.append(f'<circle cx="{x[0]:.1f}" cy="{y[0]:.1f}" r="7" class="start-dot"/>')
    if at is not None:
        i = int(np.argmin((east - at[0]) ** 2 + (north - at[1]) ** 2))
        lines.append(f'<circle cx="{x[i]:.1f}" cy="{y[i]:.1f}" r="8" class="place-dot"/>')
    return mark_safe(
        f'<svg class="drawing" viewBox="0 0 640 360" role="img" aria-label="{escape(label)}">{"".join(lines)}</svg>'
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class Pair:
    """A pair of sprockets in the field: its name, where it lies, what it costs. crawl and top speed in shown units;
    short: share of the most metres not pulled; shaking: share of the longest time above the shaking revs.
    """

    name: str
    crawl: float
    top: float
    short: float
    shaking: float
    owned: bool
    kept: bool
    proposed: bool
    said: str


def field_of_pairs(pairs: Sequence[Pair], wish: float | None, *, words: dict[str, str], label: str) -> SafeString:
    """Top speed against crawl: the larger a mark the more metres it leaves short, its ring the longer it shakes; what
    is owned is filled; wish: a wished top speed as a line.
    """
    crawls, tops = [p.crawl for p in pairs], [p.top for p in pairs] + ([] if wish is None else [wish])
    x = min(crawls) - 0.08 * max(np.ptp(crawls), 1.0), max(crawls) + 0.08 * max(np.ptp(crawls), 1.0)
    y = min(tops) - 0.1 * max(np.ptp(tops), 2.0), max(tops) + 0.12 * max(np.ptp(tops), 2.0)
    plot = Plot(x=x, y=y, height=300, left=6, right=4, bottom=30)
    plot.grid([(t, f"{t:g}") for t in nice_ticks(*x, 6)], [(t, f"{t:g}") for t in nice_ticks(*y, 5)])
    if wish is not None:
        plot.line((x[0], wish), (x[1], wish), "wish-line")
        plot.text(x[0], plot.py(wish) - 5, f" {words['wish']}", "end-label")
    taken: list[tuple[float, float]] = []
    for p in sorted(pairs, key=lambda p: (p.kept or p.proposed, p.owned)):
        radius = 6.0 + 9.0 * p.short
        css = "pair-kept" if p.kept else "pair-proposed" if p.proposed else "pair-owned" if p.owned else "pair"
        at = f'cx="{plot.px(p.crawl):.2f}%" cy="{plot.py(p.top):.1f}"'
        ring = f'<circle {at} r="{radius + 3:.1f}" class="pair-shakes" stroke-width="{5 * p.shaking:.1f}"/>'
        plot.parts.append(
            f'<a href="#pair-{p.name.replace("/", "-")}" aria-label="{escape(p.said)}"><title>{escape(p.said)}</title>'
            f'<circle {at} r="22" class="dim-touch"/>{ring if p.shaking > 0.02 else ""}'
            f'<circle {at} r="{radius:.1f}" class="{css}"/></a>'
        )
    for p in sorted(pairs, key=lambda p: (not p.kept, not p.proposed, not p.owned)):
        here = plot.px(p.crawl), plot.py(p.top)
        if all(abs(here[0] - a) > 6.0 or abs(here[1] - b) > 20.0 for a, b in taken) and here[0] < 92.0:
            taken.append(here)
            plot.text_at(here[0], here[1] - 14 - 9 * p.short, p.name, "pair-name", "middle")
    plot.text_at(plot.left + 0.5, 15, words["y"], "tick")
    plot.axis_words(words["x"], plot.height - 4)
    return plot.svg(label, "pairs", role="group")


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
    plot.axis_words(axis, plot.height - plot.bottom + 18)
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
    plot.axis_words(axis, height - 6)
    return plot.svg(label)


def richness(
    throttle: Sequence[float],
    curves: Sequence[tuple[Array, Array, Array, str, str]],
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
            plot.text(row["travel"], plot.py(base + 0.68), row["reserve"], "sag-words reserve wide-only", "end")
            plot.line((row["race"][0], base + 0.14), (row["travel"], base + 0.14), "reserve-line")
    plot.axis_words(unit, height - 10)
    return plot.svg(label, "named")


def short_of_axis(plot: Plot) -> list[tuple[float, str]]:
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
    plot.grid(short_of_axis(plot), [(t, f"{t:g}") for t in nice_ticks(0, plot.y1, 4)])
    for rate, low, high, owned in options:
        plot.line((rate, low), (rate, max(high, low)), "solution owned" if owned else "solution")
    if kept:
        plot.dot(kept[0], kept[1], "ghost-dot", 7)
    plot.dot(now[0], now[1], "now-dot", 8)
    plot.text_at(plot.left + 0.5, 15, y_axis, "tick")
    plot.axis_words(x_axis, plot.height - 8)
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
        if len(laps) <= 6 or i % 2 == 0:  # more would run into one another, and into what the scale is of
            plot.text(lap, 16, lap_words % i, "tick", "end")
    # from the bottom up, none nearer to another than a line
    y = plot.py(0) - 2
    plot.text_at(100 - plot.right + 0.8, y, words[2], "end-label act-words")
    for value, said, css in ((fuel[-1, 1], words[0], "end-label level"), (fuel[-1, 2], words[1], "tick")):
        y = min(plot.py(float(value)) + 5, y - 16)
        plot.text_at(100 - plot.right + 0.8, y, said, css)
    plot.text_at(plot.left + 0.5, 15, y_axis, "tick")
    plot.axis_words(x_axis, plot.height - 8)
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
    plot.axis_words(x_axis, plot.height - 8)
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
    return plot.svg(label, "named")


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
    plot.axis_words(x_axis, plot.height - 8)
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
    plot.axis_words(x_axis, plot.height - 8)
    return plot.svg(label)
