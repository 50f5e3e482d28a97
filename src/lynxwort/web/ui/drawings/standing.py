"""The bike as it stands with its rider, what is fitted called out: for a look, not for measuring."""

from collections.abc import Sequence
from dataclasses import dataclass

from django.utils.html import escape
from django.utils.safestring import SafeString, mark_safe

from lynxwort.web.ui.drawings import plate
from lynxwort.web.ui.drawings.machine import machine
from lynxwort.web.ui.drawings.rider import rider

#: width of a letter of the call-outs [mm of the drawing]
LETTER = 54.0


@dataclass(frozen=True, slots=True)
class Note:
    """A call-out: what it says, of which part, where that is changed. side: left, right or below of the bike."""

    words: str
    part: str
    url: str
    side: str


def standing(
    o: plate.Outline, look: plate.Look, *, sprocket: plate.Point, notes: Sequence[Note], label: str
) -> SafeString:
    """The bike with its rider in millimetres, call-outs as links with a hairline to their part. sprocket: the front
    one's centre from the pivot.
    """
    bike = machine(o, look, (o.pivot[0] + sprocket[0], o.pivot[1] + sprocket[1]))
    person = rider(o, look)
    room = {
        side: max([LETTER * len(n.words) for n in notes if n.side == side], default=0.0) for side in ("left", "right")
    }
    start = 1000.0 * o.bar[0] + 330.0
    left, right, low = min(-500.0, 40.0 - room["left"]), max(1000.0 * o.front[0] + 560.0, start + room["right"]), -190.0
    top = 1000.0 * max(y for p in person for _x, y in p.points) + 60.0

    def xy(point: plate.Point) -> str:
        return f"{1000.0 * point[0] - left:.0f} {top - 1000.0 * point[1]:.0f}"

    def middle(stands: str) -> plate.Point:
        part = next(p for p in [*bike, *person] if p.stands == stands)
        return tuple(sum(v) / len(part.points) for v in zip(*part.points, strict=True))  # type: ignore[return-value]

    parts = [
        plate.svg(bike, xy),
        plate.svg(person, xy, "person"),
        f'<path d="M0 {top:.0f}H{right - left:.0f}" class="bike-ground"/>',
    ]
    beside = {"left": 0, "right": 0}
    for note in notes:
        to = middle(note.part)
        if note.side == "below":
            x, y, anchor = 1000.0 * to[0] - left, top + 120.0, "middle"
        else:
            row = beside[note.side]
            beside[note.side] += 1
            x, y = (room["left"] if note.side == "left" else start - left), 180.0 + 260.0 * row
            anchor = "end" if note.side == "left" else "start"
            parts.append(
                f'<path d="M{x + (16 if anchor == "end" else -16):.0f} {y - 24:.0f}L{xy(to)}" class="leader"/>'
            )
        width = LETTER * len(note.words)
        begin = {"start": x, "middle": x - width / 2, "end": x - width}[anchor]
        parts.append(
            f'<a href="{escape(note.url)}" class="dim"><rect x="{begin:.0f}" y="{y - 100:.0f}" width="{width:.0f}" '
            f'height="150" class="dim-touch"/><text x="{x:.0f}" y="{y:.0f}" text-anchor="{anchor}" '
            f'class="bike-words">{escape(note.words)}</text></a>'
        )
    return mark_safe(
        f'<svg class="drawing bike-drawing standing" viewBox="0 0 {right - left:.0f} {top - low:.0f}" role="group" '
        f'aria-label="{escape(label)}">{"".join(parts)}</svg>'
    )
