"""Courses as they are stored: points packed, once for every garage, found by their content."""

import io
import zipfile
import zlib
from functools import lru_cache
from pathlib import PurePath
from typing import Any

import numpy as np
from django.conf import settings
from django.core.files.base import ContentFile
from django.db import transaction

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.track import Track
from lynxwort.core.physics.course.prepare import Line, lay_line
from lynxwort.web.garages.models import Garage
from lynxwort.web.jobs import apart, reading
from lynxwort.web.races.models import Course, CourseBlob

#: of the arrays of the longest course that is taken, with room to spare
MOST_UNPACKED_BYTES = 16_000_000
#: files taken in one go: as many as a race has stages
MOST_FILES = 20


def pack(track: Track) -> bytes:
    """A track as compressed arrays."""
    buffer = io.BytesIO()
    np.savez_compressed(
        buffer,
        lat=track.latitude_deg,
        lon=track.longitude_deg,
        height=track.height_m,
        breaks=np.asarray(track.breaks, dtype=np.int64),
        about=np.array([track.name, track.heights]),
    )
    return buffer.getvalue()


def unpack(data: bytes) -> Track:
    """A track from its compressed arrays. Raises ValueError and its kin when they are none."""
    with np.load(io.BytesIO(data)) as z:
        return Track(
            name=str(z["about"][0]),
            heights=str(z["about"][1]),  # type: ignore[arg-type]
            latitude_deg=tuple(z["lat"].tolist()),
            longitude_deg=tuple(z["lon"].tolist()),
            height_m=tuple(z["height"].tolist()),
            breaks=tuple(z["breaks"].tolist()),
        )


@lru_cache(maxsize=16)
def load_track(key: str) -> Track:
    """The track behind a content key; the blob never changes, so neither does this."""
    return unpack(CourseBlob.objects.get(pk=key).data)  # type: ignore[arg-type]


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


def add_blob(key: str, data: bytes) -> None:
    """Store the points of a course that came from another machine, when they are what their key says. Raises
    ValueError.
    """
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as packed:
            if sum(i.file_size for i in packed.infolist()) > MOST_UNPACKED_BYTES:
                raise ValueError("too large when unpacked")
        track = unpack(data)
        lay_line(track)
    except (
        zipfile.BadZipFile,
        KeyError,
        IndexError,
        NotImplementedError,
        RuntimeError,
        EOFError,
        OSError,
        zlib.error,
    ) as error:
        raise ValueError("not the points of a course") from error
    if track.content_key() != key:
        raise ValueError("other points than the key says")
    CourseBlob.objects.get_or_create(pk=key, defaults={"data": pack(track)})


def _unzipped(file: Any) -> list[Any]:
    """The GPX files of an archive, by their names; the file itself where it is none. Raises InputRefused."""
    if not str(file.name or "").lower().endswith(".zip"):
        return [file]
    try:
        with zipfile.ZipFile(file) as packed:
            held = sorted(
                (i for i in packed.infolist() if i.filename.lower().endswith(".gpx")), key=lambda i: i.filename
            )
            if len(held) > MOST_FILES or sum(i.file_size for i in held) > settings.MAX_COURSE_BYTES:
                raise InputRefused(Refusal(path="course", code="too_large", high=settings.MAX_COURSE_BYTES / 1e6))
            return [ContentFile(packed.read(i), name=i.filename) for i in held]
    except (zipfile.BadZipFile, NotImplementedError, RuntimeError, EOFError, OSError, zlib.error):
        raise InputRefused(Refusal(path="course", code="not_an_archive")) from None


def read_course_files(files: list[Any], heights: str) -> list[Track]:
    """The tracks of GPX files and of archives of them, in order: one each. Raises InputRefused."""
    found = [piece for file in files for piece in _unzipped(file)]
    if not found:
        raise InputRefused(Refusal(path="course", code="no_points"))
    if len(found) > MOST_FILES:
        raise InputRefused(Refusal(path="course", code="too_many", high=MOST_FILES))
    return [read_course_file(file, heights) for file in found]


def read_course_file(file: Any, heights: str) -> Track:
    """Read and check an uploaded GPX file, length included. Raises InputRefused."""
    return Track.model_validate(
        apart.read(
            "lynxwort.web.jobs.reading:course",
            file,
            {"heights": heights, "name": PurePath(file.name or "").stem},
            here=reading.course,
        )
    )
