"""Read a GPX course."""

import argparse
from dataclasses import asdict
from pathlib import Path
from typing import Any

from lynxwort.cli.files import read_document
from lynxwort.cli.tongue import _
from lynxwort.core.errors import InputRefused


def add(verbs: Any) -> None:
    """Add the verb to the command line."""
    verb = verbs.add_parser("course", help=_("read a GPX course"))
    verb.add_argument("file")
    verb.add_argument("--heights", choices=("barometer", "satellite", "terrain"), required=True)
    verb.add_argument("--stage", help=_("JSON of a stage: ground, hills, zones, state"))
    verb.add_argument("--out", choices=("summary", "geojson"), default="summary")
    verb.set_defaults(run=run)


def run(arguments: argparse.Namespace) -> Any:
    """Read a GPX course."""
    import itertools

    import numpy as np
    from pydantic import ValidationError

    from lynxwort.core.model.race import GROUNDS, Stage
    from lynxwort.core.model.refused import refusals_of
    from lynxwort.core.physics.course.export import to_geojson
    from lynxwort.core.physics.course.gpx import read_gpx
    from lynxwort.core.physics.course.prepare import climb_by_source, lay_line, prepare_course
    from lynxwort.core.physics.course.surface import COLUMNS

    track = read_gpx(Path(arguments.file).read_bytes(), heights=arguments.heights)
    stage = Stage(course_key="course")
    if arguments.stage:
        try:
            stage = Stage.model_validate(read_document(arguments.stage) | {"course_key": "course"})
        except ValidationError as error:
            raise InputRefused(*refusals_of(error, "stage.", root=Stage)) from None
    if arguments.out == "geojson":
        return to_geojson(track, stage)
    line = lay_line(track)
    course = prepare_course(line, stage.ground, stage.hills, stage.zones, state=stage.state)
    steps = course.sine.size

    edges = [0, *(np.flatnonzero(np.diff(course.surface)) + 1).tolist(), steps]
    bends = np.abs(course.curvature_per_m)
    return {
        "name": track.name,
        "heights": track.heights,
        "points": len(track.latitude_deg),
        "gaps_m": list(line.gaps_m),
        "distance_m": line.length_m,
        "climb_m": course.climb_m if track.heights != "none" else None,
        "climb_low_m": course.climb_low_m,
        "climb_high_m": course.climb_high_m,
        "raw_climb_m": course.raw_climb_m,
        "lowest_m": float(course.height_m.min()),
        "highest_m": float(course.height_m.max()),
        "climb_by_source": {s: asdict(c) for s, c in climb_by_source(track).items()},
        "ground": [
            {
                "from_m": float(course.distance_m[a]),
                "to_m": float(course.distance_m[b]),
                "ground": GROUNDS[int(course.ground[a])],
                "surface": dict(zip(COLUMNS, course.rows[course.surface[a]].tolist(), strict=True)),
            }
            for a, b in itertools.pairwise(edges)
        ],
        "bends": {
            "radius_m_median": float(1.0 / max(np.median(bends), 1e-6)),
            "share_under_20_m": float((bends > 0.05).mean()),
        },
        "hills": [h.model_dump(exclude_defaults=True) for h in stage.hills],
    }
