"""What a plate of a bike is drawn with: its parts as data, which a drawing or a moving picture turns into lines.
Metres, x forward from under the rear axle, y up from the ground.
"""

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import groupby
from math import atan2, cos, hypot, pi, sin
from typing import Any, Literal, Protocol

Point = tuple[float, float]
#: what a part moves with: a wheel, the arm and the legs between wheel and body, the body, the rider
Group = Literal["rear", "front", "arm", "legs", "body", "rider"]
CHAIN_PITCH_M = 0.015875
INCH_M = 0.0254
#: height of a tyre's section where its marking does not say [m]; common practice, no source
SECTION_M = 0.085
_MARKING = re.compile(r"(\d{2,3})/(\d{2,3})\D*(\d{2})")


class Outline(Protocol):
    """The places of a bike that its drawing hangs from."""

    def __hash__(self) -> int: ...

    @property
    def rear(self) -> Point: ...
    @property
    def front(self) -> Point: ...
    @property
    def rear_radius_m(self) -> float: ...
    @property
    def front_radius_m(self) -> float: ...
    @property
    def pivot(self) -> Point: ...
    @property
    def leg_top(self) -> Point: ...
    @property
    def axis_top(self) -> Point: ...
    @property
    def seat(self) -> Point: ...
    @property
    def peg(self) -> Point: ...
    @property
    def bar(self) -> Point: ...
    @property
    def lowest(self) -> Point: ...
    @property
    def rake_rad(self) -> float: ...
    @property
    def trail_m(self) -> float: ...


@dataclass(frozen=True, slots=True, kw_only=True)
class Look:
    """What is drawn beside the outline. motor: two_stroke, four_stroke or electric; big: a large single; teeth: front
    and rear; tyres: markings, front and rear; level: how full the tank stands [1]; height, inseam [m]: the rider's.
    """

    motor: str
    big: bool = False
    teeth: tuple[int, int] = (13, 50)
    tyres: tuple[str, str] = ("", "")
    level: float | None = None
    lamp: bool = False
    air_cooled: bool = False
    bags: bool = False
    height_m: float = 1.78
    inseam_m: float | None = None
    standing: bool = True


@dataclass(frozen=True, slots=True)
class Part:
    """A part: a closed area, an open line, or a circle (one point and its radius). style: of the plate's tokens;
    stands: what it is; width: of a line that is drawn as thick as the part [m]; sway: of the rider's limbs, how much
    each point moves with the rider and not with the bike [1].
    """

    group: Group
    style: str
    points: tuple[Point, ...]
    stands: str
    radius: float = 0.0
    closed: bool = True
    width: float = 0.0
    sway: tuple[float, ...] = ()


def section_m(marking: str) -> float:
    """Height of a tyre's section by its marking [m]."""
    found = _MARKING.search(marking)
    return int(found[1]) * int(found[2]) / 100_000.0 if found else SECTION_M


def rim_radius_m(marking: str, radius_m: float) -> float:
    """Radius of the rim by the tyre's marking, or below its section [m]."""
    found = _MARKING.search(marking)
    return int(found[3]) * INCH_M / 2.0 if found else radius_m - SECTION_M


def sprocket_radius_m(teeth: int) -> float:
    """Pitch radius of a sprocket [m]."""
    return CHAIN_PITCH_M / (2.0 * sin(pi / max(teeth, 3)))


def along(a: Point, b: Point, share: float, aside: float = 0.0) -> Point:
    """A point between two, aside to the left of the way."""
    length = hypot(b[0] - a[0], b[1] - a[1]) or 1.0
    x, y = (b[0] - a[0]) / length, (b[1] - a[1]) / length
    return a[0] + (b[0] - a[0]) * share - y * aside, a[1] + (b[1] - a[1]) * share + x * aside


def bar(ends: Sequence[Point], at_a: float, at_b: float) -> tuple[Point, ...]:
    """A straight member between two points, so wide at its ends."""
    a, b = ends
    return tuple(along(a, b, s, w) for s, w in ((0, at_a / 2), (1, at_b / 2), (1, -at_b / 2), (0, -at_a / 2)))


def tube(points: Sequence[Point], widths: Sequence[float]) -> tuple[Point, ...]:
    """A bent member of changing width along points."""
    sides: tuple[list[Point], list[Point]] = ([], [])
    for i, (p, w) in enumerate(zip(points, widths, strict=True)):
        before, after = points[max(i - 1, 0)], points[min(i + 1, len(points) - 1)]
        turn = atan2(after[1] - before[1], after[0] - before[0])
        for side, sign in zip(sides, (1, -1), strict=True):
            side.append((p[0] - sign * sin(turn) * w / 2, p[1] + sign * cos(turn) * w / 2))
    return (*sides[0], *reversed(sides[1]))


def smooth(points: Sequence[Point], each: int = 5) -> list[Point]:
    """A curve through points (Catmull and Rom's)."""
    found: list[Point] = []
    for i in range(len(points) - 1):
        p = [points[max(min(k, len(points) - 1), 0)] for k in (i - 1, i, i + 1, i + 2)]
        for k in range(each):
            t = k / each
            found.append(
                tuple(  # type: ignore[arg-type]
                    0.5 * (2 * b + (c - a) * t + (2 * a - 5 * b + 4 * c - d) * t * t + (3 * b - a - 3 * c + d) * t**3)
                    for a, b, c, d in zip(*p, strict=True)
                )
            )
    return [*found, points[-1]]


def around(origin: Point, *offsets: Point) -> tuple[Point, ...]:
    """Points by their distances from one."""
    return tuple((origin[0] + x, origin[1] + y) for x, y in offsets)


def below(points: Sequence[Point], height: float) -> tuple[Point, ...]:
    """What of an area lies below a height."""
    found: list[Point] = []
    for a, b in zip(points, (*points[1:], points[0]), strict=True):
        if a[1] <= height:
            found.append(a)
        if (a[1] <= height) != (b[1] <= height):
            share = (height - a[1]) / (b[1] - a[1])
            found.append((a[0] + (b[0] - a[0]) * share, height))
    return tuple(found)


def ring(centre: Point, radius: float, count: int, other: float | None = None) -> tuple[Point, ...]:
    """Points round a circle, in turn on it and on another: knobs, teeth."""
    radii = (radius, radius, other, other) if other is not None else (radius,)
    steps = count * len(radii)
    return tuple(
        (
            centre[0] + radii[k % len(radii)] * sin(2 * pi * k / steps),
            centre[1] + radii[k % len(radii)] * cos(2 * pi * k / steps),
        )
        for k in range(steps)
    )


def svg(parts: Sequence[Part], xy: Callable[[Point], str], css: str = "") -> str:
    """The parts as a group of an SVG whose units are millimetres. xy: a place in it; lines of one kind are one path."""
    found: list[str] = []
    for (style, closed, width, is_round), some in groupby(parts, lambda p: (p.style, p.closed, p.width, p.radius > 0)):
        if is_round:
            for p in some:
                x, y = xy(p.points[0]).split()
                found.append(f'<circle cx="{x}" cy="{y}" r="{1000 * p.radius:.0f}" class="pl {style}"/>')
            continue
        thick = f' stroke-width="{1000 * width:.0f}"' if width else ""
        for some_more in ([p] for p in some) if closed else (list(some),):
            d = "".join(f"M{'L'.join(xy(q) for q in p.points)}{'Z' if closed else ''}" for p in some_more)
            found.append(f'<path d="{d}" class="pl {style}"{thick}/>')
    return f'<g class="plate {css}">{"".join(found)}</g>'


def as_data(parts: Sequence[Part]) -> list[list[Any]]:
    """The parts for a moving picture: group, style, closed, width, radius, points, sway of each."""
    return [
        [
            p.group,
            p.style,
            p.closed,
            p.width,
            p.radius,
            [(round(x, 3), round(y, 3)) for x, y in p.points],
            p.sway or [0.0] * len(p.points),
        ]
        for p in parts
    ]
