"""GPX 1.1 to a Track. Entity bombs and document types are refused before anything is built."""

import math
import re
from xml.etree.ElementTree import Element, ParseError

import numpy as np
from defusedxml import DefusedXmlException
from defusedxml.ElementTree import fromstring
from numpy.typing import NDArray
from pydantic import ValidationError

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.inputs import MAX_POINTS, Track, refusals_of

MAX_BYTES = 25_000_000
_MOMENT = re.compile(r"^(\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d(?:\.\d{1,6})?)(?:Z|([+-])(\d\d):?(\d\d)?)?$")


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


def _opened(data: bytes) -> Element:
    """The root of a GPX file, checked for size and form."""
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
    return root


def _track(root: Element, *, heights: str, name: str) -> Track:
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


def read_gpx(data: bytes, *, heights: str = "satellite", name: str = "") -> Track:
    """Read tracks (or, without any, routes) of a GPX 1.1 file.

    heights: where its heights came from ("barometer", "satellite", "terrain"); a file without heights becomes "none".
    Raises InputRefused with path "course" and code too_large, empty, not_xml, forbidden_xml, not_gpx, no_points,
    too_few_points, too_many_points, bad_coordinate, bad_height, not_on_earth, height_out_of_range, no_length.
    """
    return _track(_opened(data), heights=heights, name=name)


def _moment(text: str) -> float:
    """Seconds since 1970 of an ISO 8601 moment, its offset from UTC counted. Raises ValueError."""
    match = _MOMENT.match(text.strip())
    if not match:
        raise ValueError(text)
    local, sign, hours, minutes = match.groups()
    offset = (int(hours) * 3600 + int(minutes or 0) * 60) * (-1 if sign == "-" else 1) if hours else 0
    return float((np.datetime64(local) - np.datetime64("1970-01-01T00:00:00")) / np.timedelta64(1, "us")) / 1e6 - offset


def read_ridden(data: bytes) -> tuple[Track, NDArray[np.float64]]:
    """A track that was ridden and the time of each of its points [s]. Raises InputRefused as read_gpx, and times_missing."""
    root = _opened(data)
    track = _track(root, heights="satellite", name="")
    found = []
    for point in (p for piece in _pieces(root) for p in piece):
        text = next((c.text for c in point if _local(c) == "time" and c.text), None)
        try:
            found.append(_moment(text or ""))
        except ValueError:
            raise _refuse("times_missing", text or "") from None
    return track, np.array(found)
