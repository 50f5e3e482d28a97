"""What files hold, as plain data: verbs that need neither Django nor the database, read here or in the process
beside.
"""

import json
from collections.abc import Callable
from dataclasses import asdict
from pathlib import Path
from typing import Any

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.inputs import load_inputs
from lynxwort.core.model.track import Track
from lynxwort.core.physics.course.gpx import read_gpx, read_ridden
from lynxwort.core.physics.course.match import clock_along, closes, on_course
from lynxwort.core.physics.course.prepare import lay_line
from lynxwort.core.physics.service.hours import moving_time
from lynxwort.core.physics.trials.lapsheet import read_sheet
from lynxwort.core.physics.trials.sessions import session_laps
from lynxwort.core.physics.trials.timing import by_hand_error
from lynxwort.web.ui.typed import nested_deeper

Step = Callable[[float, Any], None]
#: of a document: bytes in all, of all but its courses, brackets within each other, and brackets at all
MOST_BYTES, MOST_BARE_BYTES, MOST_DEPTH, MOST_BRACKETS = 25_000_000, 5_000_000, 40, 400_000


def plain(track: Track) -> dict[str, Any]:
    """A track as plain data."""
    return {name: getattr(track, name) for name in Track.model_fields}


def course(payload: dict[str, Any], _step: Step) -> dict[str, Any]:
    """The track of a GPX file, its length looked at too. Raises InputRefused."""
    track = read_gpx(Path(payload["path"]).read_bytes(), heights=payload["heights"], file_name=payload.get("name", ""))
    lay_line(track)
    return plain(track)


def ridden(payload: dict[str, Any], _step: Step) -> list[float]:
    """The clock [s] of a recorded lap along its course. Raises InputRefused."""
    track = Track.model_validate(payload["course"])
    return [
        round(float(t), 2)
        for t in clock_along(lay_line(track), track, *read_ridden(Path(payload["path"]).read_bytes()))
    ]


def moved(payload: dict[str, Any], _step: Step) -> float:
    """How long a recorded track moved [s]. Raises InputRefused."""
    return moving_time(*read_ridden(Path(payload["path"]).read_bytes()))


def session(payload: dict[str, Any], _step: Step) -> list[dict[str, Any]]:
    """The laps of a recorded session on a course, with sectors where it is fast and straight; or those of a sheet that
    somebody typed. Raises InputRefused.
    """
    data = Path(payload["path"]).read_bytes()
    if not data.lstrip(b"\xef\xbb\xbf \t\r\n").startswith(b"<"):
        return _sheet(data)
    track = Track.model_validate(payload["course"])
    line = lay_line(track)
    ridden_track, times = read_ridden(data)
    found = on_course(line, track, ridden_track, times)
    return [asdict(lap) for lap in session_laps(found.place_m, times[found.index], line, closed=closes(line))]


def _sheet(data: bytes) -> list[dict[str, Any]]:
    """The laps of a sheet as those of a session."""
    if data.startswith(b"PK") or b"\0" in data[:4096]:
        raise InputRefused(Refusal(path="file", code="not_a_session"))
    error = by_hand_error(watch=True)
    plain = {"begins_s": 0.0, "sectors_s": (), "error_s": error, "stood_s": 0.0, "whole": True}
    return [
        plain | {"number": lap.number - 1, "time_s": lap.time_s, "setting": lap.setting, "note": lap.note}
        for lap in read_sheet(data.decode("utf-8", "replace"))
    ]


def document(payload: dict[str, Any], _step: Step) -> bool:
    """Whether a file is a document that can be taken in: True, or why not. Raises InputRefused."""
    data = Path(payload["path"]).read_bytes()
    if len(data) > MOST_BYTES:
        raise InputRefused(Refusal(path="file", code="too_large", high=MOST_BYTES / 1e6, unit="MB"))
    load_inputs(parsed(data))
    return True


def parsed(data: bytes) -> Any:
    """A document's JSON, met by its limits before it is built. Raises InputRefused."""
    try:
        text = data.decode("utf-8-sig")
        if text.count("[") + text.count("{") > MOST_BRACKETS or nested_deeper(text, MOST_DEPTH):
            raise InputRefused(Refusal(path="", code="nested_too_deep"))
        found = json.loads(text, parse_constant=_refused)
    except InputRefused:
        raise
    except (ValueError, RecursionError):
        raise InputRefused(Refusal(path="", code="not_json")) from None
    bare = {k: v for k, v in found.items() if k != "courses"} if isinstance(found, dict) else found
    if len(data) > MOST_BARE_BYTES and len(json.dumps(bare)) > MOST_BARE_BYTES:
        raise InputRefused(Refusal(path="file", code="file_too_large", high=MOST_BARE_BYTES / 1e6, unit="MB"))
    return found


def _refused(text: str) -> float:
    raise ValueError(text)
