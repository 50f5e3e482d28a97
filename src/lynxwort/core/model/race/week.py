"""The week before a race: the evenings that there are, what is done beside the bike's own work, what is waited for."""

import re
from datetime import UTC, datetime, timedelta
from typing import Annotated, Any
from zoneinfo import ZoneInfo

from pydantic import Field, field_validator

from lynxwort.core.model.base import Part, quantity
from lynxwort.core.model.days import checked_day

_CLOCK = re.compile(r"^(?:[01]\d|2[0-3]):[0-5]\d$")
MOST_CHORES, MOST_AWAITED, MOST_AWAY = 30, 40, 30


def _text(source: str) -> dict[str, Any]:
    return {"unit": "", "kind": "text", "source": source}


class Chore(Part):
    """A job of one's own. id: what it is known by; at_the_end: once the bike is done, like loading the van."""

    id: str = Field(min_length=1, max_length=40, json_schema_extra={"unit": "", "kind": "text"})
    name: str = Field(min_length=1, max_length=60, json_schema_extra={"unit": "", "kind": "text"})
    """what is to be done"""
    takes_s: float = quantity(300.0, 180_000.0, "s", "hours", 3600.0, source="assumption: an hour")
    """work that it takes"""
    at_the_end: bool = False
    """only once the bike is done"""
    done: bool = False
    """it is done"""


class Awaited(Part):
    """What a job waits for. job: id of the job; arrives: day on which it comes; order_days: from ordering until it is
    here, where it was not ordered yet.
    """

    job: str = Field(min_length=1, max_length=60, json_schema_extra={"unit": "", "kind": "text"})
    arrives: str | None = Field(None, max_length=10, json_schema_extra=_text("assumption: it is here"))
    """day on which it comes, like 2027-04-02"""
    order_days: float | None = quantity(0.0, 365.0, "1", "count", None, source="assumption: it is ordered, or here")
    """not ordered yet: days from ordering until it is here"""

    @field_validator("arrives")
    @classmethod
    def _day(cls, value: str | None) -> str | None:
        return checked_day(value)


class WeekPlan(Part):
    """What is said of the evenings before a race."""

    begins: str | None = Field(None, max_length=10, json_schema_extra=_text("assumption: nobody said when"))
    """first evening of work, like 2027-04-02"""
    leaves: str | None = Field(None, max_length=10, json_schema_extra=_text("assumption: on the day of the race"))
    """day on which one leaves for the race: no more work from that day on, like 2027-04-08"""
    evening_at: str = Field("18:00", max_length=5, json_schema_extra=_text("assumption"))
    """when the work of an evening begins"""
    evening_s: float = quantity(
        1800.0, 57_600.0, "s", "hours", 10_800.0, source="assumption: an evening of three hours"
    )
    """work that an evening has"""
    away: Annotated[tuple[str, ...], Field(max_length=MOST_AWAY)] = Field(
        (), json_schema_extra={"unit": "", "kind": "list", "source": "assumption: every evening is free"}
    )
    """days without work"""
    chores: Annotated[tuple[Chore, ...], Field(max_length=MOST_CHORES)] = ()
    awaited: Annotated[tuple[Awaited, ...], Field(max_length=MOST_AWAITED)] = ()

    @field_validator("begins", "leaves")
    @classmethod
    def _day(cls, value: str | None) -> str | None:
        return checked_day(value)

    @field_validator("away")
    @classmethod
    def _days(cls, value: tuple[str, ...]) -> tuple[str, ...]:
        for day in value:
            checked_day(day)
        return value

    @field_validator("evening_at")
    @classmethod
    def _clock(cls, value: str) -> str:
        if not _CLOCK.match(value):
            raise ValueError("not_an_hour")
        return value


def evening_clock(day: str, at: str, zone: str, after_s: float) -> datetime:
    """The clock of a zone so long [s] after the work of an evening begins. Reckoned in universal time, as Race.clock_at
    is.
    """
    moment = datetime.fromisoformat(f"{day}T{at}").replace(tzinfo=ZoneInfo(zone))
    return (moment.astimezone(UTC) + timedelta(seconds=after_s)).astimezone(moment.tzinfo)
