"""The bike and its parts from the side: chain through the travel, side view with its dimensions."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from math import cos, sin

from django.utils.html import escape
from django.utils.safestring import SafeString, mark_safe

from lynxwort.web.ui.drawings import plate
from lynxwort.web.ui.drawings.charts import short_of_axis
from lynxwort.web.ui.drawings.machine import ROTORS_M, between_wheels, machine, wheel
from lynxwort.web.ui.drawings.plate import along
from lynxwort.web.ui.drawings.plot import Plot, nice_ticks

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
    plot.grid(short_of_axis(plot), [(t, f"{t:g}") for t in nice_ticks(plot.y0, plot.y1, 4)])
    if kept:
        plot.curve(xs, kept, "ghost")
    plot.curve(xs, ys, "level")
    plot.dot(at[0], at[1], "now-dot", 7)
    plot.text(at[0], plot.py(at[1]) - 12, words, "sag-words", "middle")
    plot.text_at(plot.left + 0.5, 15, y_axis, "tick")
    plot.axis_words(x_axis, plot.height - 8)
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


#: parts that show where the kept bike stood
_GHOST = ("tyre", "swingarm", "frame", "seat", "fork, upper tube", "fork, lower tube", "handlebar")


#: where the drawing begins, left and above [mm]
LEFT, TOP = -440.0, 1290.0


def _xy(point: tuple[float, float]) -> str:
    return f"{1000.0 * point[0] - LEFT:.0f} {TOP - 1000.0 * point[1]:.0f}"


@lru_cache(maxsize=64)
def _wheel(radius_m: float, marking: str, rotor_m: float) -> str:
    """A wheel about its own axle: the same wherever it stands."""
    parts = list(wheel("rear", (0.0, 0.0), radius_m, marking, rotor_m))
    return plate.svg(parts, lambda p: f"{1000.0 * p[0]:.0f} {-1000.0 * p[1]:.0f}")


@lru_cache(maxsize=128)
def _plate(o: plate.Outline, look: plate.Look, sprocket: tuple[float, float]) -> str:
    """The whole bike, drawn once as long as it stands the same."""
    sides = ((o.rear, o.rear_radius_m, look.tyres[1]), (o.front, o.front_radius_m, look.tyres[0]))
    both = "".join(
        f'<g transform="translate({_xy(axle)})">{_wheel(round(radius, 3), tyre, rotor)}</g>'
        for (axle, radius, tyre), rotor in zip(sides, reversed(ROTORS_M), strict=True)
    )
    at = (o.pivot[0] + sprocket[0], o.pivot[1] + sprocket[1])
    return both + plate.svg(between_wheels(o, look, at), _xy)


@lru_cache(maxsize=64)
def _ghost(o: plate.Outline, look: plate.Look, sprocket: tuple[float, float]) -> str:
    at = (o.pivot[0] + sprocket[0], o.pivot[1] + sprocket[1])
    return plate.svg([p for p in machine(o, look, at) if p.stands in _GHOST], _xy, "ghost")


def bike(
    now: plate.Outline,
    kept: plate.Outline | None,
    *,
    looks: tuple[plate.Look, plate.Look],
    sprocket: tuple[float, float],
    dims: Mapping[str, Dimension],
    label: str,
) -> SafeString:
    """The bike from the side at race sag, to scale in millimetres; kept: its slate ghost. looks: of now and kept;
    sprocket: the front one's centre from the pivot; dims: its dimensions.
    """
    left, right, top, low = LEFT, 1000.0 * now.front[0] + 560.0, TOP, -150.0

    def about(o: plate.Outline, css: str) -> list[str]:
        rake_end = (o.front[0] + o.trail_m, 0.0)  # the steering axis meets the ground by the trail ahead of the contact
        return [
            f'<path d="M{_xy(o.axis_top)}L{_xy(rake_end)}" class="bike-axis {css}"/>',
            f'<path d="M{_xy(o.seat)}L{_xy(o.peg)}L{_xy(o.bar)}Z" class="bike-triangle {css}"/>',
            *(
                f'<circle cx="{1000 * p[0] - left:.1f}" cy="{top - 1000 * p[1]:.1f}" r="22" class="bike-touch {css}"/>'
                for p in (o.peg, o.bar)
            ),
        ]

    def called_out(name: str, at: tuple[float, float], to: tuple[float, float], anchor: str) -> list[str]:
        """Words beside the bike, with a hairline to what they are of; places in metres."""
        x, y = 1000.0 * at[0] - left, top - 1000.0 * at[1]
        gap = 16.0 if anchor == "end" else -16.0
        return [f'<path d="M{x + gap:.0f} {y - 16:.0f}L{_xy(to)}" class="leader"/>', dims[name].at(x, y, anchor)]

    parts = [_plate(now, looks[0], sprocket), *about(now, "now")]
    if kept is not None:
        parts += [_ghost(kept, looks[1], sprocket)]
        parts += about(kept, "ghost")
    parts.append(f'<path d="M0 {top:.1f}H{right - left:.1f}" class="bike-ground"/>')
    front = 1000.0 * now.front[0] - left
    parts.append(f'<path d="M{-left:.1f} {top + 62:.1f}H{front:.1f}" class="scale"/>')
    parts.append(f'<path d="M{front:.1f} {top + 22:.1f}h{1000 * now.trail_m:.1f}" class="scale trail"/>')
    x, y = 1000.0 * now.lowest[0] - left, top - 1000.0 * now.lowest[1]
    parts.append(f'<path d="M{x + 90:.1f} {y:.1f}V{top:.1f}" class="leader"/>')
    parts.append(dims["wheelbase"].at((front - left) / 2, top + 122, "middle"))
    parts.append(dims["trail"].at(front + 1000 * now.trail_m + 14, top + 66))
    parts.append(dims["clearance"].at(x + 102, (y + top) / 2 + 10))
    high = 0.001 * top
    parts += called_out("seat", (now.seat[0] - 0.28, now.seat[1] + 0.09), (now.seat[0] - 0.01, now.seat[1]), "end")
    parts += called_out("arms", (now.seat[0] + 0.02, high - 0.09), along(now.seat, now.bar, 0.62), "end")
    parts += called_out("knee", (now.seat[0] - 0.14, high - 0.20), along(now.seat, now.peg, 0.12), "end")
    parts += called_out("stance", (now.bar[0] + 0.30, high - 0.09), along(now.peg, now.bar, 0.93), "start")
    axis = (now.axis_top[0] + 0.16 * sin(now.rake_rad), now.axis_top[1] - 0.16 * cos(now.rake_rad))
    parts += called_out("rake", (now.bar[0] + 0.46, high - 0.22), axis, "start")
    size = f"0 0 {right - left:.0f} {top - low:.0f}"
    return mark_safe(
        f'<svg class="drawing bike-drawing" viewBox="{size}" role="group" '
        f'aria-label="{escape(label)}">{"".join(parts)}</svg>'
    )
