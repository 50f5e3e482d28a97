"""The points of a course."""

import hashlib
from typing import Literal

import numpy as np
from pydantic import Field, PrivateAttr, model_validator

from lynxwort.core.model.base import Part

HeightSource = Literal["barometer", "satellite", "terrain", "none"]
MAX_POINTS = 120_000


class Track(Part):
    """Points of a course. latitude_deg, longitude_deg [°], height_m [m] or empty; breaks: indices where a new piece
    begins.
    """

    name: str = Field("course", max_length=120)
    heights: HeightSource = "satellite"
    latitude_deg: tuple[float, ...] = Field(repr=False)
    longitude_deg: tuple[float, ...] = Field(repr=False)
    height_m: tuple[float, ...] = Field(default=(), repr=False)
    breaks: tuple[int, ...] = Field(default=(), repr=False)

    _key: str | None = PrivateAttr(None)
    _checked: bool = PrivateAttr(False)

    @model_validator(mode="after")
    def _shape(self) -> "Track":
        if self._checked:  # an instance passed on is checked already; it cannot have changed
            return self
        count = len(self.latitude_deg)
        if count < 2:
            raise ValueError("too_few_points")
        if count > MAX_POINTS:
            raise ValueError("too_many_points")
        if len(self.longitude_deg) != count or (self.height_m and len(self.height_m) != count):
            raise ValueError("lengths_differ")
        if not (max(map(abs, self.latitude_deg)) <= 90 and max(map(abs, self.longitude_deg)) <= 180):
            raise ValueError("not_on_earth")
        if self.height_m and not (min(self.height_m) >= -430 and max(self.height_m) <= 9000):
            raise ValueError("height_out_of_range")
        if self.heights != "none" and not self.height_m:
            raise ValueError("heights_missing")
        if any(not 0 < b < count for b in self.breaks):
            raise ValueError("break_out_of_range")
        self._checked = True
        return self

    def told(self, heights: str) -> "Track":
        """The same points with their heights said to come from another source."""
        return Track.model_validate({**{k: getattr(self, k) for k in Track.model_fields}, "heights": heights})

    def __hash__(self) -> int:
        return hash(self.content_key())

    def __eq__(self, other: object) -> bool:
        return self is other or (
            isinstance(other, Track) and self.name == other.name and self.content_key() == other.content_key()
        )

    def content_key(self) -> str:
        """SHA-256 of the points and the source of heights: the course's name in every cache."""
        if self._key is None:
            self._key = self._digest()
        return self._key

    def _digest(self) -> str:
        digest = hashlib.sha256(self.heights.encode())
        for values in (self.latitude_deg, self.longitude_deg, self.height_m):
            digest.update(b"|")
            digest.update(np.asarray(values, dtype="<f8").tobytes())
        digest.update(np.asarray(self.breaks, dtype="<i8").tobytes())
        return digest.hexdigest()[:40]
