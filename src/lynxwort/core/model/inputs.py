"""The one document: all inputs of `evaluate`."""

import hashlib
from typing import Annotated, Any, Literal

from pydantic import Field, ValidationError, model_validator

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.base import Part
from lynxwort.core.model.bike import Bike
from lynxwort.core.model.box import PartsBox
from lynxwort.core.model.fit import setup_misfit
from lynxwort.core.model.race import Race
from lynxwort.core.model.readings import Reading
from lynxwort.core.model.refused import refusals_of
from lynxwort.core.model.rider import Rider
from lynxwort.core.model.service import Service
from lynxwort.core.model.setup import Setup
from lynxwort.core.model.track import Track
from lynxwort.core.model.trials import MOST_DAYS, MOST_TRIALS, RiddenDay, Trial

#: what was logged of rides: it changes no ride that is worked out, and none of it is as good as left out
LOGGED = ("trials", "days", "service")


class Inputs(Part):
    """Everything `evaluate` may know. `format` is the document's format."""

    format: Literal[1]
    bike: Bike
    setup: Setup
    parts: PartsBox = PartsBox()
    riders: Annotated[tuple[Rider, ...], Field(min_length=1, max_length=20)]
    race: Race
    courses: dict[str, Track] = Field(min_length=1, max_length=20)
    readings: Annotated[tuple[Reading, ...], Field(max_length=500)] = ()
    trials: Annotated[tuple[Trial, ...], Field(max_length=MOST_TRIALS)] = ()
    days: Annotated[tuple[RiddenDay, ...], Field(max_length=MOST_DAYS)] = ()
    service: Service | None = None
    seed: int = Field(1, ge=0, le=2**31 - 1)

    @model_validator(mode="after")
    def _coupled(self) -> "Inputs":
        misfit = setup_misfit(self.bike, self.setup)
        if misfit:
            raise ValueError(misfit)
        for i, stage in enumerate(self.race.stages):
            if stage.course_key not in self.courses:
                raise ValueError(f"race.stages.{i}.course_key:course_missing")
        for i, entry in enumerate(self.race.entries):
            if entry.rider >= len(self.riders):
                raise ValueError(f"race.entries.{i}.rider:rider_missing")
        if self.race.relay is not None and len(self.riders) < 2:
            raise ValueError("race.relay:relay_alone")
        return self

    def digest(self) -> str:
        """Hash of what was given, part by part, the courses by their content: another setup costs its own alone."""
        given = sorted(self.model_fields_set - {name for name in LOGGED if not getattr(self, name)})
        told = [f"{name}={_digest_of(getattr(self, name))}" for name in given]
        return hashlib.sha256("\n".join(told).encode()).hexdigest()

    @property
    def rider(self) -> Rider:
        return self.riders[self.race.entries[0].rider]


def _digest_of(value: Any) -> str:
    """Of a field of the document: a part, several, tracks by name, or a number."""
    if isinstance(value, Part):
        return value.digest()
    if isinstance(value, tuple):
        return ",".join(map(_digest_of, value))
    if isinstance(value, dict):
        return ",".join(f"{name}:{value[name].content_key()}" for name in sorted(value))
    return repr(value)


def upgrade(document: Any) -> Any:
    """Bring a document of an older format to the newest. Format 1 is the first."""
    if not isinstance(document, dict):
        raise InputRefused(Refusal(path="", code="not_an_object"))
    return document


def load_inputs(document: Any) -> Inputs:
    """The document's door. Raises InputRefused with every refusal found."""
    try:
        return Inputs.model_validate(upgrade(document))
    except ValidationError as error:
        raise InputRefused(*refusals_of(error, root=Inputs)) from None


def dump_inputs(inputs: Inputs) -> dict[str, Any]:
    """The document of these inputs: only what was given, so that what was assumed stays assumed."""
    return inputs.model_dump(mode="json", exclude_unset=True) | {"format": 1}
