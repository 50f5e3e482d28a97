"""The crew: what stands first on its sheets, its drives, and what lies ready where."""

from typing import Annotated, Any

from pydantic import Field, model_validator

from lynxwort.core.model.base import Part, quantity


def words(most: int) -> Any:
    """A field of free text."""
    return Field("", max_length=most, json_schema_extra={"unit": "", "kind": "text", "source": "assumption: not said"})


class Drive(Part):
    """How the crew comes from one place to another, and back, as it was driven or looked up. start, end: names of crew
    or refuel points; empty: the paddock, where races and stages start and end.
    """

    start: str = words(60)
    end: str = words(60)
    takes_s: float = quantity(0, 86_400, "s", "minutes")
    distance_m: float | None = quantity(0, 1_000_000, "m", "distance", None, source="assumption: not said")

    @model_validator(mode="after")
    def _elsewhere(self) -> "Drive":
        if self.start == self.end:
            raise ValueError("end:drive_nowhere")
        return self


class Post(Part):
    """Who of the crew stands at a place, and what lies ready there. place: name of a crew or refuel point; empty: the
    paddock.
    """

    place: str = words(60)
    who: str = words(60)
    bring: str = words(160)
    """what lies ready there: goggles, gloves, food, water, tyres, tools"""


class CrewPlan(Part):
    """What stands first on the crew's sheets, and how the crew gets about."""

    emergency: str = words(80)
    """the organiser's emergency number"""
    channel: str = words(80)
    """radio channel, and who is on it"""
    phones: str = words(120)
    """names and numbers"""
    silent: str = words(120)
    """where neither radio nor phone reaches"""
    ready_s: float = quantity(0, 7200, "s", "minutes", 300.0, source="assumption")
    """from arriving until the crew stands ready"""
    drives: Annotated[tuple[Drive, ...], Field(max_length=60)] = ()
    posts: Annotated[tuple[Post, ...], Field(max_length=40)] = ()

    @model_validator(mode="after")
    def _driven_once(self) -> "CrewPlan":
        if len({frozenset((d.start, d.end)) for d in self.drives}) < len(self.drives):
            raise ValueError("drives:driven_twice")
        return self

    def post(self, place: str) -> Post:
        """What was said of a place."""
        return next((p for p in self.posts if p.place == place), Post())
