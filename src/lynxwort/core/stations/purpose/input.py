"""All that Purpose reads."""

from lynxwort.core.cache import keyed
from lynxwort.core.derived.clock import Clock
from lynxwort.core.derived.day import Day
from lynxwort.core.derived.upstream import Upstream


@keyed
class PurposeInput:
    """clock: the race as it goes; format: of the race."""

    clock: Clock
    day: Day
    format: str

    @classmethod
    def of(cls, up: Upstream) -> "PurposeInput":
        return up.once("purpose", lambda: cls(clock=up.clock, day=up.day, format=up.inputs.race.format))
