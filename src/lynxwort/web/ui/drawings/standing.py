"""The bike as it stands with its rider, what is fitted called out: for a look, not for measuring."""

from collections.abc import Sequence
from dataclasses import dataclass, fields, replace
from functools import lru_cache
from typing import Any

from django.utils.html import escape
from django.utils.safestring import SafeString, mark_safe

from lynxwort.web.ui.drawings import plate
from lynxwort.web.ui.drawings.machine import machine
from lynxwort.web.ui.drawings.rider import rider

#: width of a letter of the call-outs [mm of the drawing]
LETTER = 54.0


@dataclass(frozen=True, slots=True)
class Note:
    """A call-out: what it says, of which part, where that is changed. side: left, right or below of the bike; at: of a
    place [m] instead of a part; told: what a reader for the blind says instead.
    """

    words: str
    part: str
    url: str
    side: str
    at: plate.Point | None = None
    told: str = ""


#: between two call-outs of a side, when there is room [mm]
APART = 260.0
#: a call-out of a place stands no lower than this, to be clear of wheels and guards, while there is room [mm]
CLEAR = 1150.0
#: a bike among others, all to one scale: from left to right, under the ground, over it [mm]
SCALED = (-400.0, 1960.0, -30.0, 1400.0)
#: what is drawn for a look stands still below this [m, rad, 1]: a step that moves the bike by less leaves it as it is
STILL = 0.005


def _still(of: Any) -> Any:
    """A frozen dataclass with its numbers and places rounded to what an eye tells apart."""

    def rounded(value: Any) -> Any:
        if isinstance(value, tuple):
            return tuple(rounded(v) for v in value)
        return round(round(value / STILL) * STILL, 6) if isinstance(value, float) else value

    return replace(of, **{f.name: rounded(getattr(of, f.name)) for f in fields(of)})


@dataclass(frozen=True, slots=True)
class _Figure:
    """Bike and rider drawn about the place under the rear wheel [mm, down]. middles: of each part [m]; top: of the
    rider [m].
    """

    svg: str
    middles: dict[str, plate.Point]
    top: float


@lru_cache(maxsize=128)
def _figure(o: plate.Outline, look: plate.Look, sprocket: plate.Point, ridden: bool) -> _Figure:
    """Drawn once as long as the bike stands the same."""
    bike = machine(o, look, (o.pivot[0] + sprocket[0], o.pivot[1] + sprocket[1]))
    person = rider(o, look) if ridden else []

    def xy(point: plate.Point) -> str:
        return f"{1000.0 * point[0]:.0f} {-1000.0 * point[1]:.0f}"

    middles: dict[str, plate.Point] = {}
    for part in [*bike, *person]:
        x, y = (sum(v) / len(part.points) for v in zip(*part.points, strict=True))
        middles.setdefault(part.stands, (x, y))
    top = max(y for part in person or bike for _x, y in part.points)
    return _Figure(plate.svg(bike, xy) + plate.svg(person, xy, "person"), middles, top)


def standing(
    o: plate.Outline, look: plate.Look, *, sprocket: plate.Point, notes: Sequence[Note], label: str, ridden: bool = True
) -> SafeString:
    """The bike with its rider in millimetres, call-outs as links with a hairline to their part. sprocket: the front
    one's centre from the pivot; ridden: with its rider.
    """
    o = _still(o)
    drawn = _figure(o, _still(look), sprocket, ridden)
    room = {
        side: max([LETTER * len(n.words) for n in notes if n.side == side], default=0.0) for side in ("left", "right")
    }
    start = 1000.0 * o.bar[0] + 330.0
    ends = 40.0
    if not ridden:  # nothing stands over the wheels: the call-outs stand clear of them
        ends, start = -420.0, 1000.0 * o.front[0] + 440.0
    left, low = min(-500.0, ends - room["left"]), -190.0
    right = max(1000.0 * o.front[0] + 560.0, start + room["right"])
    top = 1000.0 * drawn.top + 60.0
    if not notes and not ridden:  # beside others of its kind: all to one scale
        left, right, low, top = SCALED

    def xy(point: plate.Point) -> str:
        return f"{1000.0 * point[0] - left:.0f} {top - 1000.0 * point[1]:.0f}"

    parts = [
        f'<g transform="translate({-left:.0f} {top:.0f})">{drawn.svg}</g>',
        f'<path d="M0 {top:.0f}H{right - left:.0f}" class="bike-ground"/>',
    ]
    counts = {side: sum(n.side == side for n in notes) for side in ("left", "right")}
    apart = min(APART, (top - 180.0) / max(*counts.values(), 2))
    beside = dict.fromkeys(counts, 180.0)
    for note in notes:
        to = note.at or drawn.middles[note.part]
        if note.at:
            parts.append(
                f'<circle cx="{1000.0 * to[0] - left:.0f}" cy="{top - 1000.0 * to[1]:.0f}" r="22" class="bolted"/>'
            )
        if note.side == "below":
            x, y, anchor = 1000.0 * to[0] - left, top + 120.0, "middle"
        else:
            counts[note.side] -= 1
            y = beside[note.side]
            if note.at:  # near its height, those after it still in room
                y = max(y, min(top - 1000.0 * to[1], top - CLEAR - apart * counts[note.side]))
            beside[note.side] = y + apart
            x = room["left"] if note.side == "left" else start - left
            anchor = "end" if note.side == "left" else "start"
            parts.append(
                f'<path d="M{x + (16 if anchor == "end" else -16):.0f} {y - 24:.0f}L{xy(to)}" class="leader"/>'
            )
        width = LETTER * len(note.words)
        told = f' aria-label="{escape(note.told)}"' if note.told else ""
        begin = {"start": x, "middle": x - width / 2, "end": x - width}[anchor]
        parts.append(
            f'<a href="{escape(note.url)}" class="dim"{told}><rect x="{begin:.0f}" y="{y - 100:.0f}" '
            f'width="{width:.0f}" height="150" class="dim-touch"/><text x="{x:.0f}" y="{y:.0f}" text-anchor="{anchor}" '
            f'class="bike-words">{escape(note.words)}</text></a>'
        )
    return mark_safe(
        f'<svg class="drawing bike-drawing standing" viewBox="0 0 {right - left:.0f} {top - low:.0f}" role="group" '
        f'aria-label="{escape(label)}">{"".join(parts)}</svg>'
    )
