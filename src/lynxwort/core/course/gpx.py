"""GPX 1.1 to a Track. Entity bombs and document types are refused before anything is built."""

import math
from xml.etree.ElementTree import Element, ParseError

from defusedxml import DefusedXmlException
from defusedxml.ElementTree import fromstring
from pydantic import ValidationError

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.inputs import MAX_POINTS, Track, refusals_of

MAX_BYTES = 25_000_000


def _refuse(code: str, message: str = "", high: float | None = None, unit: str | None = None) -> InputRefused:
    return InputRefused(Refusal(path="course", code=code, message=message, high=high, unit=unit))


def _local(element: Element) -> str:
    return element.tag.rsplit("}", 1)[-1]


def _pieces(root: Element) -> list[list[Element]]:
    """Track segments, or routes when there is no track."""
    segments = [[p for p in seg if _local(p) == "trkpt"] for seg in root.iter() if _local(seg) == "trkseg"]
    segments = [s for s in segments if s]
    if segments:
        return segments
    routes = [[p for p in rte if _local(p) == "rtept"] for rte in root if _local(rte) == "rte"]
    return [r for r in routes if r]


def _number(text: str | None, code: str) -> float:
    try:
        value = float(text or "")
    except ValueError:
        raise _refuse(code, text or "") from None
    if not math.isfinite(value):
        raise _refuse(code, text or "")
    return value


def _height(point: Element) -> float:
    for child in point:
        if _local(child) == "ele" and (child.text or "").strip():
            return _number(child.text, "bad_height")
    return math.nan


def _fill_gaps(heights: list[float]) -> tuple[float, ...]:
    """Heights with gaps filled in a straight line; empty when under four fifths of the points carry one."""
    known = [i for i, h in enumerate(heights) if not math.isnan(h)]
    if len(known) < 0.8 * len(heights):
        return ()
    filled = list(heights)
    for a, b in zip([known[0], *known], [*known, known[-1]], strict=True):
        for i in range(a + 1, b):
            filled[i] = heights[a] + (heights[b] - heights[a]) * (i - a) / (b - a)
    filled[: known[0]] = [heights[known[0]]] * known[0]
    filled[known[-1] :] = [heights[known[-1]]] * (len(heights) - known[-1])
    return tuple(filled)


def read_gpx(data: bytes, *, heights: str = "satellite", name: str = "") -> Track:
    """Read tracks (or, without any, routes) of a GPX 1.1 file.

    heights: where its heights came from ("barometer", "satellite", "terrain"); a file without heights becomes "none".
    Raises InputRefused with path "course" and code too_large, empty, not_xml, forbidden_xml, not_gpx, no_points,
    too_few_points, too_many_points, bad_coordinate, bad_height, not_on_earth, height_out_of_range, no_length.
    """
    if len(data) > MAX_BYTES:
        raise _refuse("too_large", high=MAX_BYTES / 1e6, unit="MB")
    if not data.strip():
        raise _refuse("empty")
    try:
        root = fromstring(data, forbid_dtd=True)
    except DefusedXmlException:
        raise _refuse("forbidden_xml") from None
    except (ParseError, ValueError, LookupError) as error:
        raise _refuse("not_xml", str(error)) from None
    if _local(root) != "gpx":
        raise _refuse("not_gpx", _local(root))
    pieces = _pieces(root)
    points = [p for piece in pieces for p in piece]
    if not points:
        raise _refuse("no_points")
    if len(points) > MAX_POINTS:
        raise _refuse("too_many_points", str(len(points)), high=MAX_POINTS)
    breaks, total = [], 0
    for piece in pieces[:-1]:
        total += len(piece)
        breaks.append(total)
    filled = _fill_gaps([_height(p) for p in points])
    title = next((c.text for p in root.iter() if _local(p) in ("trk", "rte") for c in p if _local(c) == "name" and c.text), "")
    try:
        track = Track(
            name=(name or title or "course").strip()[:120] or "course",
            heights=heights if filled else "none",  # type: ignore[arg-type]
            latitude_deg=tuple(_number(p.get("lat"), "bad_coordinate") for p in points),
            longitude_deg=tuple(_number(p.get("lon"), "bad_coordinate") for p in points),
            height_m=filled,
            breaks=tuple(breaks),
        )
    except ValidationError as error:
        raise InputRefused(*refusals_of(error, "course.", Track)) from None
    return track
