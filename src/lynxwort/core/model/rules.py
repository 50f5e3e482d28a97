"""What an event asks of a bike and its rider: the things that are ticked off before it, and its sound test."""

from typing import Literal

from pydantic import Field, field_validator

from lynxwort.core.model.base import Part, choice
from lynxwort.core.model.days import checked_day

Rule = Literal[
    "spark_arrester", "sound_sheet", "lights", "stop_lamp", "plate", "insurance", "mirrors", "horn", "side_stand",
    "chain_guards", "throttle_closes", "lanyard", "bar_ends", "fuel_type", "mat", "tyres", "numbers", "transponder",
    "licence", "land_permit", "permit_window", "fire_ban",
]  # fmt: skip
RULES: tuple[str, ...] = Rule.__args__  # type: ignore[attr-defined]
#: what is asked almost everywhere (common practice, no source)
USUAL = ("throttle_closes", "lanyard", "bar_ends", "chain_guards", "side_stand", "numbers", "licence", "insurance")
SoundTest = Literal["rated_half_metre", "piston_speed", "stroke_revs", "two_metre_max"]
SOUND_TESTS: tuple[str, ...] = SoundTest.__args__  # type: ignore[attr-defined]


#: what an event may seal or paint, so that it is not replaced before the finish
Marked = Literal["frame", "engine", "cylinder", "wheels", "fork", "swingarm", "silencer", "control_box"]
MARKED: tuple[str, ...] = Marked.__args__  # type: ignore[attr-defined]


class Asked(Part):
    """One thing that this event asks for, and how it stands."""

    rule: Rule = choice()
    must: bool = True
    """whether nobody starts without it"""
    done: str | None = Field(
        None, max_length=10, json_schema_extra={"unit": "", "kind": "text", "source": "assumption: not yet"}
    )
    """day on which it was seen to, like 2027-04-02"""
    paper: str = Field("", max_length=80, json_schema_extra={"unit": "", "kind": "text", "source": "assumption: none"})
    """number of the paper that says so"""
    photo: str = Field("", max_length=80, json_schema_extra={"unit": "", "kind": "text", "source": "assumption: none"})
    """name of the picture that shows it"""

    @field_validator("done")
    @classmethod
    def _day(cls, value: str | None) -> str | None:
        return checked_day(value)
