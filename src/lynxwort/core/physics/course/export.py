"""A course as GPX 1.1 and as GeoJSON (RFC 7946). Both hold every point to a tenth of a millimetre; read back, the
course is the same.
"""

import itertools
from collections.abc import Sequence
from typing import Any
from xml.sax.saxutils import escape

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.model.race import Stage
from lynxwort.core.model.track import Track
from lynxwort.core.physics.course.prepare import track_distance


def _pieces(track: Track) -> list[tuple[int, int]]:
    borders = [0, *track.breaks, len(track.latitude_deg)]
    return list(itertools.pairwise(borders))


def write_gpx(track: Track, times: tuple[str, ...] = ()) -> bytes:
    """The track as GPX 1.1, a segment per piece. times: ISO 8601 of each point, when it was ridden."""
    lines = [
        '<?xml version="1.0" encoding="UTF-8"?>',
        '<gpx version="1.1" creator="Lynxwort" xmlns="http://www.topografix.com/GPX/1/1">',
        f"<trk><name>{escape(track.name)}</name>",
    ]
    for a, b in _pieces(track):
        lines.append("<trkseg>")
        for i in range(a, b):
            height = f"<ele>{track.height_m[i]:.4f}</ele>" if track.height_m else ""
            time = f"<time>{times[i]}</time>" if times else ""
            lines.append(
                f'<trkpt lat="{track.latitude_deg[i]:.9f}" lon="{track.longitude_deg[i]:.9f}">{height}{time}</trkpt>'
            )
        lines.append("</trkseg>")
    lines.append("</trk></gpx>")
    return "\n".join(lines).encode()


def write_session(track: Track, time_s: NDArray[np.float64], begins_s: Sequence[float]) -> bytes:
    """A recorded session as GPX 1.1, a segment for each lap. time_s: of each point since 1970; begins_s: of
    each lap.
    """
    at = np.searchsorted(time_s, np.asarray(begins_s))
    breaks = sorted({int(k) for k in at if 0 < k < time_s.size})
    told = np.datetime_as_string((time_s * 1000.0).round().astype("datetime64[ms]"), unit="ms")
    cut = track.model_copy(update={"breaks": tuple(breaks)})
    return write_gpx(cut, tuple(f"{t}Z" for t in told))


def _feature(shape: str, coordinates: Any, **known: Any) -> dict[str, Any]:
    return {
        "type": "Feature",
        "geometry": {"type": shape, "coordinates": coordinates},
        "properties": {k: v for k, v in known.items() if v not in (None, "")},
    }


def to_geojson(track: Track, stage: Stage | None = None) -> dict[str, Any]:
    """The track, and what a stage says of it: a line per stretch of ground, a point per hill, refuel point and crew
    point.
    """
    distance, _east, _north = track_distance(track)

    def coordinate(i: int) -> list[float]:
        here = [round(track.longitude_deg[i], 9), round(track.latitude_deg[i], 9)]
        return [*here, round(track.height_m[i], 4)] if track.height_m else here

    def at(place_m: float) -> list[float]:
        lon, lat = (float(np.interp(place_m, distance, v)) for v in (track.longitude_deg, track.latitude_deg))
        return [round(lon, 9), round(lat, 9)]

    pieces = [[coordinate(i) for i in range(a, b)] for a, b in _pieces(track)]
    single = len(pieces) == 1
    features = [
        _feature(
            "LineString" if single else "MultiLineString",
            pieces[0] if single else pieces,
            name=track.name,
            heights=track.heights,
        )
    ]
    if stage is not None:
        for part in stage.ground:
            inside = [
                p
                for i, p in enumerate(zip(track.longitude_deg, track.latitude_deg, strict=True))
                if part.from_m < distance[i] < part.to_m
            ]
            line = [
                at(part.from_m),
                *([round(x, 9), round(y, 9)] for x, y in inside),
                at(min(part.to_m, float(distance[-1]))),
            ]
            features.append(_feature("LineString", line, **part.model_dump(exclude_defaults=True)))
        for kind, items in (("hill", stage.hills), ("refuel", stage.refuel_points), ("crew", stage.crew_points)):
            features += [
                _feature("Point", at(item.at_m), kind=kind, **item.model_dump(exclude_defaults=True)) for item in items
            ]
    return {"type": "FeatureCollection", "features": features}
