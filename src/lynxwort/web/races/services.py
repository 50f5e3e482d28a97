"""Verbs on courses and races."""

import io
from collections.abc import Sequence
from datetime import datetime
from functools import lru_cache
from typing import Any
from zoneinfo import ZoneInfo

import numpy as np
from django.db import transaction
from django.db.models import F
from pydantic import ValidationError

from lynxwort.core.course.gpx import read_gpx
from lynxwort.core.course.paint import LEAST_M, paint, whole
from lynxwort.core.course.prepare import Line, lay_line
from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.inputs import Track, refusals_of
from lynxwort.core.model.race import GroundSegment
from lynxwort.core.model.race import Race as CoreRace
from lynxwort.core.model.rider import Rider as CoreRider
from lynxwort.core.standin.weather import Forecast, forecast_for
from lynxwort.web.garages.models import Garage
from lynxwort.web.races.models import Course, CourseBlob, Race, Rider


def pack(track: Track) -> bytes:
    """A track as compressed arrays."""
    buffer = io.BytesIO()
    np.savez_compressed(
        buffer, lat=track.latitude_deg, lon=track.longitude_deg, height=track.height_m, breaks=np.asarray(track.breaks, dtype=np.int64),
        about=np.array([track.name, track.heights]),
    )  # fmt: skip
    return buffer.getvalue()


@lru_cache(maxsize=16)
def load_track(key: str) -> Track:
    """The track behind a content key; the blob never changes, so neither does this."""
    with np.load(io.BytesIO(CourseBlob.objects.get(pk=key).data)) as z:
        return Track(
            name=str(z["about"][0]), heights=str(z["about"][1]), latitude_deg=tuple(z["lat"].tolist()), longitude_deg=tuple(z["lon"].tolist()),
            height_m=tuple(z["height"].tolist()), breaks=tuple(z["breaks"].tolist()),
        )  # fmt: skip


@lru_cache(maxsize=16)
def lay_course(key: str) -> Line:
    """A course on its even grid."""
    return lay_line(load_track(key))


def add_course(garage: Garage, track: Track) -> Course:
    """Put a course into a garage; the same points are stored once."""
    length = lay_line(track).length_m
    key = track.content_key()
    with transaction.atomic():
        CourseBlob.objects.get_or_create(pk=key, defaults={"data": pack(track)})
        course = Course.objects.filter(garage=garage, blob_id=key).first()
        return course or Course.objects.create(garage=garage, name=track.name, blob_id=key, length_m=length)


def read_course_file(data: bytes, heights: str) -> Track:
    """Read and check a GPX file, length included. Raises InputRefused."""
    track = read_gpx(data, heights=heights)
    lay_line(track)
    return track


def _checked(model: Any, document: dict, prefix: str) -> Any:
    try:
        return model.model_validate(document)
    except ValidationError as error:
        raise InputRefused(*refusals_of(error, prefix, model)) from None


def _start(race: CoreRace) -> datetime:
    moment = datetime.fromisoformat(race.start)
    return moment if moment.tzinfo else moment.replace(tzinfo=ZoneInfo(race.time_zone))


def _write(row: Race, race: CoreRace) -> None:
    """The race's columns from its document."""
    row.name, row.start = race.name, _start(race)
    row.document, row.version = race.model_dump(mode="json", exclude_unset=True), (row.version or 0) + 1


def stage_document(course: Course, **facts: Any) -> dict:
    """A stage on a course: one ground all along until it is painted."""
    return {"course_key": course.blob_id, "ground": [{"from_m": 0.0, "to_m": course.length_m, "ground": "single_track"}]} | facts


def save_rider(garage: Garage, document: dict, row: Rider | None = None) -> Rider:
    """Make or change a rider. Raises InputRefused."""
    rider = _checked(CoreRider, document, "rider.")
    row = row or Rider(garage=garage)
    row.name, row.document = rider.name, rider.model_dump(mode="json", exclude_unset=True)
    row.save()
    return row


def make_race(garage: Garage, race: dict, stages: list[tuple[Course | Track, dict]], rider: Rider | dict, others: Sequence[Rider | dict] = ()) -> Race:
    """A race with its stages in order; a Track becomes a course and a document a rider in the same transaction. others: more riders on the
    same bike. Raises InputRefused.
    """
    with transaction.atomic():
        courses = [add_course(garage, c) if isinstance(c, Track) else c for c, _ in stages]
        documents = [stage_document(c) | facts | {"course_key": c.blob_id} for c, (_, facts) in zip(courses, stages, strict=True)]
        checked = _checked(CoreRace, race | {"stages": documents}, "race.")
        row = Race(garage=garage, course=courses[0], rider=rider if isinstance(rider, Rider) else save_rider(garage, rider), version=0)
        _write(row, checked)
        row.save()
        row.others.set([o if isinstance(o, Rider) else save_rider(garage, o) for o in others])
    return row


@transaction.atomic
def change_race(row: Race, race: dict, rider: Rider, others: Sequence[Rider]) -> None:
    """Change a race's day, air and riders; its stages stay. Raises InputRefused."""
    row.others.set([o for o in others if o.pk != rider.pk])
    _write(row, _checked(CoreRace, race | {"stages": row.document["stages"]}, "race."))
    row.rider = rider
    row.save()


def _change_stages(row: Race, stages: list[dict], past: list) -> None:
    race = _checked(CoreRace, row.document | {"stages": stages}, "race.")
    first = Course.objects.filter(garage_id=row.garage_id, blob_id=stages[0]["course_key"]).first() or row.course
    document = race.model_dump(mode="json", exclude_unset=True)
    Race.objects.filter(pk=row.pk).update(document=document, version=F("version") + 1, past=past[-30:], course=first)
    row.refresh_from_db()


def change_stages(row: Race, stages: list[dict]) -> None:
    """Replace the stages as one change that can be taken back. Raises InputRefused."""
    _change_stages(row, stages, [*row.past, row.document["stages"]])


def take_back(row: Race) -> bool:
    """Take back the last change of the stages; False when there is none."""
    if not row.past:
        return False
    _change_stages(row, row.past[-1], row.past[:-1])
    return True


def change_stage(row: Race, index: int, **changes: Any) -> None:
    """Replace parts of one stage; None takes a part away. Raises InputRefused, IndexError."""
    stages = list(row.document["stages"])
    stages[index] = {k: v for k, v in (stages[index] | changes).items() if v is not None}
    change_stages(row, stages)


def add_stage(row: Race, course: Course | Track, facts: dict) -> None:
    """One more stage at the end. Raises InputRefused."""
    course = add_course(row.garage, course) if isinstance(course, Track) else course
    change_stages(row, [*row.document["stages"], stage_document(course, **facts)])


def drop_stage(row: Race, index: int) -> None:
    """Take a stage away; the last one stays. Raises IndexError."""
    stages = list(row.document["stages"])
    if len(stages) == 1:
        raise IndexError(index)
    del stages[index]
    change_stages(row, stages)


def split_stage(row: Race, index: int) -> None:
    """Let the later laps differ: the first lap as a stage of its own, the others after it. Raises IndexError, InputRefused (one_lap)."""
    stages = list(row.document["stages"])
    stage = stages[index]
    laps = stage.get("laps", 1)
    if laps < 2:
        raise InputRefused(Refusal(path="stage.laps", code="one_lap"))
    name = stage.get("name", "")
    first = stage | {"laps": 1, "name": f"{name} 1".strip()}
    stages[index : index + 1] = [first, stage | {"laps": laps - 1, "name": f"{name} 2".strip()}]
    change_stages(row, stages)


def invented_weather(row: Race) -> tuple[Forecast, float]:
    """The stand-in's day at the start of the first course, and the time of day at which the race starts [s]. Invented: nobody's forecast."""
    local = row.start.astimezone(ZoneInfo(row.document.get("time_zone", "UTC")))
    day = forecast_for(load_track(row.document["stages"][0]["course_key"]), day_of_year=local.timetuple().tm_yday, seed=row.pk)
    return day, 3600.0 * local.hour + 60.0 * local.minute


def raise_stage(row: Race, index: int) -> None:
    """Ride a stage one place earlier. Raises IndexError."""
    stages = list(row.document["stages"])
    if not 0 < index < len(stages):
        raise IndexError(index)
    stages[index - 1], stages[index] = stages[index], stages[index - 1]
    change_stages(row, stages)


def courses_of(row: Race) -> list[Course]:
    """The course of each stage, in order."""
    keys = [s["course_key"] for s in row.document["stages"]]
    found = {c.blob_id: c for c in Course.objects.filter(garage_id=row.garage_id, blob_id__in=keys)}
    return [found[k] for k in keys]


def ground_of(row: Race, index: int, course: Course) -> tuple[GroundSegment, ...]:
    """A stage's stretches of ground, covering the whole lap."""
    segments = tuple(GroundSegment.model_validate(g) for g in row.document["stages"][index].get("ground", ()))
    return whole(segments, length_m=course.length_m)


def paint_ground(row: Race, index: int, course: Course, *, from_m: float, to_m: float, ground: str, **known: Any) -> None:
    """Paint a stretch of a stage. known: depth, whoops, tightness, state, as GroundSegment has them. Raises InputRefused."""
    if to_m - from_m < LEAST_M:
        raise InputRefused(Refusal(path="to_m", code="stretch_too_short", low=LEAST_M, unit="m"))
    stretch = _checked(GroundSegment, {"from_m": from_m, "to_m": to_m, "ground": ground} | known, "")
    painted = paint(ground_of(row, index, course), stretch=stretch, length_m=course.length_m)
    change_stage(row, index, ground=[g.model_dump(exclude_defaults=True) for g in painted])


def add_item(row: Race, index: int, course: Course, where: str, item: dict) -> None:
    """Add a hill, a refuel or crew point, or a zone to a stage. Raises InputRefused when it lies beyond the course."""
    at = "from_m" if where == "zones" else "at_m"
    if item[at] >= course.length_m:
        raise InputRefused(Refusal(path=at, code="beyond_course", high=course.length_m, unit="m"))
    items = sorted([*row.document["stages"][index].get(where, []), item], key=lambda i: i[at])
    change_stage(row, index, **{where: items})


def drop_item(row: Race, index: int, where: str, item: int) -> None:
    """Take a hill, point or zone away. Raises IndexError."""
    items = list(row.document["stages"][index].get(where, []))
    del items[item]
    change_stage(row, index, **{where: items})
