"""Verbs on courses and races."""

import io
from datetime import datetime
from functools import lru_cache
from typing import Any
from zoneinfo import ZoneInfo

import numpy as np
from django.db import transaction
from django.db.models import F
from pydantic import ValidationError

from lynxwort.core.course.gpx import read_gpx
from lynxwort.core.course.prepare import lay_line
from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.inputs import Track, refusals_of
from lynxwort.core.model.race import Race as CoreRace
from lynxwort.core.model.rider import Rider as CoreRider
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


def race_document(typed: dict, course: Course, stage: dict | None = None) -> dict:
    """The core's race document from the form's, keeping an existing stage's ground, hills and points."""
    stage = (stage or {"ground": [{"from_m": 0.0, "to_m": course.length_m, "ground": "single_track"}]}) | {"course_key": course.blob_id}
    return typed["race"] | {"stages": [stage | typed.get("stage", {})]}


def save_race(garage: Garage, typed: dict, course: Course | Track, row: Race | None = None) -> Race:
    """Make or change a race with its rider; a Track becomes a course in the same transaction. Raises InputRefused."""
    rider = _checked(CoreRider, typed["rider"], "rider.")
    with transaction.atomic():
        if isinstance(course, Track):
            course = add_course(garage, course)
        stage = row.document["stages"][0] if row else None
        race = _checked(CoreRace, race_document(typed, course, stage), "race.")
        rider_row = row.rider if row else Rider(garage=garage)
        rider_row.name, rider_row.document = rider.name, rider.model_dump(mode="json", exclude_unset=True)
        rider_row.save()
        row = row or Race(garage=garage)
        row.course, row.rider, row.name, row.start = course, rider_row, race.name, _start(race)
        row.document, row.version = race.model_dump(mode="json", exclude_unset=True), (row.version or 0) + 1
        row.save()
    return row


def change_stage(row: Race, **changes: Any) -> None:
    """Replace parts of the race's stage (ground, hills, refuel points). Raises InputRefused."""
    stage = row.document["stages"][0] | changes
    race = _checked(CoreRace, row.document | {"stages": [stage]}, "race.")
    document = race.model_dump(mode="json", exclude_unset=True)
    Race.objects.filter(pk=row.pk).update(document=document, version=F("version") + 1)
    row.refresh_from_db()


def ground_of(row: Race) -> list[dict]:
    """The race's stretches of ground, covering the whole lap."""
    ground = row.document["stages"][0].get("ground") or [{"from_m": 0.0, "to_m": row.course.length_m, "ground": "single_track"}]
    return [dict(g) for g in ground]


def split_ground(row: Race, at_m: float) -> bool:
    """Split the stretch that holds at_m [m]; False when a border is there already or it lies beyond the course."""
    ground = ground_of(row)
    for i, part in enumerate(ground):
        if part["from_m"] + 1.0 < at_m < part["to_m"] - 1.0:
            ground[i : i + 1] = [part | {"to_m": at_m}, part | {"from_m": at_m}]
            change_stage(row, ground=ground)
            return True
    return False


def set_ground(row: Race, index: int, ground: str) -> None:
    """Say what ground a stretch is. Raises InputRefused, IndexError."""
    parts = ground_of(row)
    parts[index]["ground"] = ground
    change_stage(row, ground=parts)


def join_ground(row: Race, index: int) -> None:
    """Join a stretch to the one before it. Raises IndexError."""
    parts = ground_of(row)
    if not 0 < index < len(parts):
        raise IndexError(index)
    parts[index - 1]["to_m"] = parts[index]["to_m"]
    del parts[index]
    change_stage(row, ground=parts)


def add_item(row: Race, where: str, item: dict) -> None:
    """Add a hill ("hills") or a refuel point ("refuel_points"). Raises InputRefused when it lies beyond the course."""
    if item["at_m"] >= row.course.length_m:
        raise InputRefused(Refusal(path="at_m", code="beyond_course", high=row.course.length_m, unit="m"))
    items = sorted([*row.document["stages"][0].get(where, []), item], key=lambda i: i["at_m"])
    change_stage(row, **{where: items})


def drop_item(row: Race, where: str, index: int) -> None:
    """Take a hill or refuel point away. Raises IndexError."""
    items = list(row.document["stages"][0].get(where, []))
    del items[index]
    change_stage(row, **{where: items})
