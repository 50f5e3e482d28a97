"""Painting ground on a lap: stretches that always cover it whole, in order, none twice."""

from collections.abc import Sequence

from lynxwort.core.model.race import GroundSegment

#: shorter stretches than this are swallowed by their neighbour [m] (assumption: one bike length and a bit)
LEAST_M = 5.0


def paint(ground: Sequence[GroundSegment], *, stretch: GroundSegment, length_m: float) -> tuple[GroundSegment, ...]:
    """The stretches of a lap of length_m [m] after painting one over them; equal neighbours become one.

    What was not covered before counts as single track. Slivers under LEAST_M at the borders go with the new paint.
    """
    low, high = max(0.0, stretch.from_m), min(stretch.to_m, length_m)
    pieces: list[GroundSegment] = []

    def _lay(a: float, b: float, like: GroundSegment) -> None:
        if b - a < 1e-9:
            return
        if pieces and pieces[-1].look == like.look:
            pieces[-1] = pieces[-1].model_copy(update={"to_m": b})
        else:
            pieces.append(like.model_copy(update={"from_m": a, "to_m": b}))

    covered = whole(ground, length_m=length_m)
    borders = [g.from_m for g in covered] + [length_m]
    low = next((b for b in borders if abs(b - low) < LEAST_M), low)
    high = next((b for b in borders if abs(b - high) < LEAST_M), high)
    for part in covered:
        _lay(part.from_m, min(part.to_m, low), part)
        _lay(max(part.from_m, low), min(part.to_m, high), stretch)
        _lay(max(part.from_m, high), part.to_m, part)
    return tuple(pieces)


def whole(ground: Sequence[GroundSegment], *, length_m: float) -> tuple[GroundSegment, ...]:
    """The stretches with their gaps filled by single track and cut at the end of the lap [m]."""
    made, at = [], 0.0
    for part in ground:
        if part.from_m >= length_m:
            break
        if part.from_m > at + 1e-9:
            made.append(GroundSegment(from_m=at, to_m=part.from_m, ground="single_track"))
        at = min(part.to_m, length_m)
        made.append(part.model_copy(update={"to_m": at}))
    if at < length_m - 1e-9:
        made.append(GroundSegment(from_m=at, to_m=length_m, ground="single_track"))
    return tuple(made)
