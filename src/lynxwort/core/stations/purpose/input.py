"""All that Purpose reads."""

from lynxwort.core.cache import keyed
from lynxwort.core.derived.clock import Clock
from lynxwort.core.derived.day import Day
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.model.rules import Asked


@keyed
class PurposeInput:
    """clock: the race as it goes; format: of the race; asked: what the event asks for."""

    clock: Clock
    day: Day
    format: str
    asked: tuple[Asked, ...]

    @classmethod
    def of(cls, up: Upstream) -> "PurposeInput":
        return up.once(
            "purpose", lambda: cls(clock=up.clock, day=up.day, format=up.inputs.race.format, asked=up.inputs.race.asked)
        )
