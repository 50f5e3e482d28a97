"""Drawings of a trial: laps in order, and the difference on a ruler."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from django.utils.html import escape
from django.utils.safestring import SafeString

from lynxwort.web.ui.drawings.plot import Plot, nice_ticks


@dataclass(frozen=True, slots=True)
class Mark:
    """A lap: its number, time [s], what the fit says, "A" or "B", whether it counts."""

    number: int
    time_s: float
    fitted_s: float | None
    setting: str
    counts: bool


def _shape(plot: Plot, x: float, y: float, css: str, title: str, square: bool, radius: int = 7) -> str:
    at, down = plot.px(x), plot.py(y)
    said = f"<title>{escape(title)}</title>"
    if not square:
        return f'<circle cx="{at:.2f}%" cy="{down:.1f}" r="{radius}" class="{css}">{said}</circle>'
    return (
        f'<svg x="{at:.2f}%" y="{down:.1f}" width="1" height="1" overflow="visible">'
        f'<rect x="-6.5" y="-6.5" width="13" height="13" class="{css}">{said}</rect></svg>'
    )


def laps(marks: Sequence[Mark], told: Sequence[str], label: str) -> SafeString:
    """Laps in order: what stood as rings, the change as squares, what is left out dashed, the drift behind."""
    times = [m.time_s for m in marks if m.counts] or [m.time_s for m in marks]
    low, high = min(times), max(times)
    room = max(0.25 * (high - low), 0.004 * high)
    # a botched lap is drawn at the edge: it would press the others flat
    y0, y1 = low - room, high + room
    plot = Plot(x=(0.5, max(len(marks), 4) + 0.5), y=(y0, y1), height=210, left=8, right=3, top=12, bottom=28)
    ticks = nice_ticks(y0, y1, 4)
    plot.grid(
        [(m.number, str(m.number)) for m in marks if len(marks) <= 16 or m.number % 4 == 1],
        [(t, f"{t:g}") for t in ticks],
    )
    for setting in ("A", "B"):
        of = [(m.number, m.fitted_s) for m in marks if m.setting == setting and m.fitted_s is not None]
        if len(of) > 1:
            plot.curve([n for n, _f in of], [f for _n, f in of], "drift-line")
    for m, text in zip(marks, told, strict=True):
        css = f"lap-mark lap-{m.setting.lower()}" + ("" if m.counts else " lap-out")
        y = float(np.clip(m.time_s, y0, y1))
        plot.parts.append(_shape(plot, m.number, y, css, f"{m.number}: {text}", m.setting == "B"))
    return plot.svg(label, "trial-laps")


@dataclass(frozen=True, slots=True)
class Bar:
    """A difference with its range, shares of a lap; css: "seen", "model" or "both"."""

    name: str
    share: float
    low: float
    high: float
    css: str


def ruler(bars: Sequence[Bar], even: float, ends: tuple[str, str, str], label: str) -> SafeString:
    """Differences on one ruler, quicker to the left, the even zone in its middle. ends: words for quicker, slower,
    even.
    """
    far = 115.0 * max(max(abs(b.low), abs(b.high)) for b in bars)
    far = max(far, 250.0 * even)
    plot = Plot(
        x=(-far, far), y=(-len(bars) + 0.4, 1.0), height=64 + 38 * len(bars), left=17, right=3, top=30, bottom=26
    )
    plot.grid([(t, f"{t:+g} %".replace("-", "−") if t else "0") for t in nice_ticks(-far, far, 6)], [])
    plot.box((-100 * even, plot.y0), (100 * even, plot.y1), "even-zone")
    plot.line((0.0, plot.y0), (0.0, plot.y1), "nought")
    plot.text(-far, 18, f"← {ends[0]}", "tick")
    plot.text(far, 18, f"{ends[1]} →", "tick", "end")
    plot.text(0.0, 18, ends[2], "tick", "middle")
    for k, bar in enumerate(bars):
        y = 0.2 - k
        if bar.high > bar.low:
            plot.line((100 * bar.low, y), (100 * bar.high, y), f"range-line range-{bar.css}")
        plot.dot(100 * bar.share, y, f"range-dot range-{bar.css}", 8)
        plot.text_at(1.0, plot.py(y) + 5, bar.name, "end-label")
    return plot.svg(label, "trial-ruler")


@dataclass(frozen=True, slots=True)
class Step:
    """A place along the lap: after how long [s], the difference by then [s] and half its range; of the sector that
    ends there: whether it is proven alone, and what is said of it.
    """

    time_s: float
    sum_s: float
    half_s: float
    named: bool
    said: str


def along(steps: Sequence[Step], ends: tuple[str, str], label: str) -> SafeString:
    """The difference as it grows along the lap, with its range; sectors that are proven alone are shaded. steps: from
    the start on; ends: words for quicker and slower.
    """
    at, mean, half = np.array([(s.time_s, s.sum_s, s.half_s) for s in steps]).T
    far = 1.15 * max(float(np.max(np.abs(mean) + half)), 0.05)
    plot = Plot(x=(0.0, float(at[-1])), y=(-far, far), height=220, left=8, right=3, top=14, bottom=28)
    middles = 0.5 * (at[1:] + at[:-1])
    plot.grid(
        [(float(m), str(k)) for k, m in enumerate(middles, start=1)],
        [(v, f"{v:+g}".replace("-", "−") if v else "0") for v in nice_ticks(-far, far, 5)],
    )
    plot.area(at, mean - half, mean + half, "along-band")
    plot.line((0.0, 0.0), (float(at[-1]), 0.0), "nought")
    for before, step in pairwise(steps):
        if step.named:
            plot.box((before.time_s, -far), (step.time_s, far), "along-named")
    plot.curve(at, mean, "along-line")
    for step in steps[1:]:
        plot.parts.append(_shape(plot, step.time_s, step.sum_s, "along-dot", step.said, False, 5))
    plot.text(float(at[-1]), plot.py(-far) - 6, ends[0], "tick", "end")
    plot.text(float(at[-1]), plot.py(far) + 16, ends[1], "tick", "end")
    return plot.svg(label, "trial-along")
