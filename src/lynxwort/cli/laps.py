"""The laps of a recorded session on a course, each with its sectors."""

import argparse
from dataclasses import asdict
from pathlib import Path
from typing import Any

from lynxwort.cli.tongue import _
from lynxwort.core.physics.course.export import write_session
from lynxwort.core.physics.course.gpx import read_gpx, read_ridden
from lynxwort.core.physics.course.match import closes, on_course
from lynxwort.core.physics.course.prepare import lay_line
from lynxwort.core.physics.trials.sessions import session_laps


def add(verbs: Any) -> None:
    """Add the verb to the command line."""
    verb = verbs.add_parser("laps", help=_("a recorded session cut into its laps and sectors"))
    verb.add_argument("file")
    verb.add_argument("--course", required=True, metavar="LAP.gpx", help=_("one lap of the course"))
    verb.add_argument("--gpx", metavar="OUT.gpx", help=_("write the session on the course, a segment for each lap"))
    verb.set_defaults(run=run)


def run(arguments: argparse.Namespace) -> Any:
    """The laps in order, those that are not whole among them. Raises InputRefused."""
    track = read_gpx(Path(arguments.course).read_bytes(), heights="none")
    line = lay_line(track)
    ridden, times = read_ridden(Path(arguments.file).read_bytes())
    found = on_course(line, track, ridden, times)
    laps = session_laps(found.place_m, times[found.index], line, closed=closes(line))
    if arguments.gpx:
        begins = [lap.begins_s for lap in laps]
        Path(arguments.gpx).write_bytes(write_session(ridden, times, begins))
    return [asdict(lap) for lap in laps]
