"""GPX 1.1 to a Track, read as a stream: entity bombs and document types are refused, and every limit is met while
reading.
"""

import math
import re
from dataclasses import dataclass
from xml.etree.ElementTree import ParseError

import numpy as np
from defusedxml import DefusedXmlException
from defusedxml.ElementTree import XMLParser
from numpy.typing import NDArray
from pydantic import ValidationError

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.refused import refusals_of
from lynxwort.core.model.track import MAX_POINTS, Track

MAX_BYTES = 25_000_000
#: what a file may hold: elements, elements within each other, kinds of element, bytes of one tag, letters of a text
#: that is wanted and the pieces
#: it comes in
MAX_ELEMENTS, MAX_DEPTH, MAX_NAMES, MAX_TAG_BYTES, MAX_TEXT, MAX_TEXTS = 2_000_000, 40, 2_000, 65_536, 200, 8
CHUNK_BYTES = 65_536
_MOMENT = re.compile(r"^(\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d(?:\.\d{1,6})?)(?:Z|([+-])(\d\d):?(\d\d)?)?$")


def _refuse(code: str, message: str = "", high: float | None = None, unit: str | None = None) -> InputRefused:
    return InputRefused(Refusal(path="course", code=code, message=message, high=high, unit=unit))


def _local(tag: str) -> str:
    return tag.rsplit("}", 1)[-1]


@dataclass(slots=True)
class _Point:
    """A point as it stands in the file."""

    latitude: str | None
    longitude: str | None
    height: str = ""
    time: str = ""


class _Taken:
    """Takes from the stream of a file what a course needs, and stops at its limits before anything grows. No tree is
    built.
    """

    def __init__(self) -> None:
        self.segments: list[list[_Point]] = []
        self.routes: list[list[_Point]] = []
        self.title = ""
        self._path: list[str] = []
        self._names: set[str] = set()
        self._elements = self._points = 0
        self._text: list[str] | None = None

    def start(self, tag: str, attributes: dict[str, str]) -> None:
        name = _local(tag)
        self._elements += 1
        if not self._path and name != "gpx":
            raise _refuse("not_gpx", name)
        self._names.add(tag)
        if self._elements > MAX_ELEMENTS or len(self._path) >= MAX_DEPTH or len(self._names) > MAX_NAMES:
            raise _refuse("too_many_elements")
        above = self._path[-1] if self._path else ""
        self._path.append(name)
        if name == "trkseg":
            self.segments.append([])
        elif name == "rte" and above == "gpx":
            self.routes.append([])
        elif (name, above) == ("trkpt", "trkseg"):
            self._add(self.segments, attributes)
        elif (name, above) == ("rtept", "rte") and self.routes:
            self._add(self.routes, attributes)
        self._text = (
            []
            if (name in ("ele", "time") and above in ("trkpt", "rtept")) or (name == "name" and above in ("trk", "rte"))
            else None
        )

    def _add(self, pieces: list[list[_Point]], attributes: dict[str, str]) -> None:
        self._points += 1
        if self._points > MAX_POINTS:
            raise _refuse("too_many_points", str(self._points), high=MAX_POINTS)
        pieces[-1].append(_Point(attributes.get("lat"), attributes.get("lon")))

    def data(self, text: str) -> None:
        if self._text is not None and len(self._text) < MAX_TEXTS:
            self._text.append(text[:MAX_TEXT])

    def end(self, tag: str) -> None:
        name = self._path.pop()
        if self._text is not None:
            self._take_text(name, "".join(self._text).strip(), self._path[-1])
        self._text = None

    def _take_text(self, name: str, text: str, above: str) -> None:
        if name == "name":
            self.title = self.title or text[:MAX_TEXT]
            return
        pieces = self.segments if above == "trkpt" else self.routes
        if not pieces or not pieces[-1]:
            return
        point = pieces[-1][-1]
        if name == "ele":
            point.height = point.height or text
        else:
            point.time = point.time or text

    def close(self) -> "_Taken":
        return self

    def pieces(self) -> list[list[_Point]]:
        """Track segments, or routes when there is no track."""
        return [s for s in self.segments if s] or [r for r in self.routes if r]


def _number(text: str | None, code: str) -> float:
    try:
        value = float(text or "")
    except ValueError:
        raise _refuse(code, text or "") from None
    if not math.isfinite(value):
        raise _refuse(code, text or "")
    return value


def _height(point: _Point) -> float:
    return _number(point.height, "bad_height") if point.height else math.nan


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


def _longest_tag(data: bytes) -> int:
    """The longest stretch [bytes] without the end of a tag: a parser holds it whole before it says anything of it."""
    ends = np.flatnonzero(np.frombuffer(data, dtype=np.uint8) == ord(">"))
    return int(np.diff(ends, prepend=0, append=len(data)).max()) if ends.size else len(data)


def _taken(data: bytes) -> _Taken:
    """What a GPX file holds, checked for size and form while it is read."""
    if len(data) > MAX_BYTES:
        raise _refuse("too_large", high=MAX_BYTES / 1e6, unit="MB")
    if not data.strip():
        raise _refuse("empty")
    if _longest_tag(data) > MAX_TAG_BYTES:
        raise _refuse("not_xml", "a tag or text is too long")
    parser = XMLParser(target=_Taken(), forbid_dtd=True)
    try:
        for at in range(0, len(data), CHUNK_BYTES):
            parser.feed(data[at : at + CHUNK_BYTES])
        return parser.close()
    except DefusedXmlException:
        raise _refuse("forbidden_xml") from None
    except InputRefused:
        raise
    except (ParseError, ValueError, LookupError) as error:
        line = error.position[0] if isinstance(error, ParseError) else "?"
        raise _refuse("not_xml", str(line)) from None


def _track(taken: _Taken, *, heights: str, name: str, file_name: str = "") -> Track:
    pieces = taken.pieces()
    points = [p for piece in pieces for p in piece]
    if not points:
        raise _refuse("no_points")
    breaks, total = [], 0
    for piece in pieces[:-1]:
        total += len(piece)
        breaks.append(total)
    filled = _fill_gaps([_height(p) for p in points])
    try:
        track = Track(
            name=(name or taken.title or file_name).strip()[:120] or "course",
            heights=heights if filled else "none",  # type: ignore[arg-type]
            latitude_deg=tuple(_number(p.latitude, "bad_coordinate") for p in points),
            longitude_deg=tuple(_number(p.longitude, "bad_coordinate") for p in points),
            height_m=filled,
            breaks=tuple(breaks),
        )
    except ValidationError as error:
        raise InputRefused(*refusals_of(error, "course.", root=Track)) from None
    return track


def read_gpx(data: bytes, *, heights: str = "satellite", name: str = "", file_name: str = "") -> Track:
    """Read tracks (or, without any, routes) of a GPX 1.1 file.

    heights: where its heights came from ("barometer", "satellite", "terrain"); a file without heights becomes "none".
    name: what the course is called, else as the file's title says, else by the file's own name.
    Raises InputRefused with path "course" and code too_large, empty, not_xml, forbidden_xml, not_gpx, no_points,
    too_few_points, too_many_points, too_many_elements, bad_coordinate, bad_height, not_on_earth, height_out_of_range,
    no_length.
    """
    return _track(_taken(data), heights=heights, name=name, file_name=file_name)


def _moment(text: str) -> float:
    """Seconds since 1970 of an ISO 8601 moment, its offset from UTC counted. Raises ValueError."""
    match = _MOMENT.match(text.strip())
    if not match:
        raise ValueError(text)
    local, sign, hours, minutes = match.groups()
    offset = (int(hours) * 3600 + int(minutes or 0) * 60) * (-1 if sign == "-" else 1) if hours else 0
    return float((np.datetime64(local) - np.datetime64("1970-01-01T00:00:00")) / np.timedelta64(1, "us")) / 1e6 - offset


def read_ridden(data: bytes) -> tuple[Track, NDArray[np.float64]]:
    """A track that was ridden and the time of each of its points [s]. Raises InputRefused as read_gpx, and
    times_missing.
    """
    taken = _taken(data)
    track = _track(taken, heights="satellite", name="")
    found = []
    for number, point in enumerate((p for piece in taken.pieces() for p in piece), start=1):
        try:
            found.append(_moment(point.time))
        except ValueError:
            raise _refuse("times_missing", str(number)) from None
    return track, np.array(found)
