"""The markers at the fields of a setup that a hand moves: notches, forms, outcomes, card and tables are made from
them.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

from lynxwort.core.model.bike import Bike

#: how an engine that burns fuel may be fed
BURNS = ("jetted", "rod", "injected")


def _always(_bike: Bike) -> bool:
    return True


@dataclass(frozen=True, slots=True, kw_only=True)
class Tunable:
    """A field that is moved by notches.

    step: one notch [SI] (common practice, no source), flow_step: with jets that are numbered by flow; station: who
    shows it; group: under which heading there; shows: figures told as the outcomes of a notch; unset: the value
    that a setup without one has, unset_as: the field whose value it has; signed: counted from a base, so that it
    carries its sign; as_built: on the card only when somebody moved it; by_hand: set again before a start, so that the
    card says it whether it was moved or not; engines: how an engine is fed that has it;
    there: whether this bike has it; most: the highest value on this bike; others: what stands behind the places
    after its own, for a field that is a slot: without others there is no notch.
    """

    step: float
    station: str
    group: str = ""
    shows: tuple[str, ...]
    flow_step: float | None = None
    unset: float | None = None
    unset_as: str = ""
    signed: bool = False
    as_built: bool = False
    by_hand: bool = False
    engines: tuple[str, ...] = (*BURNS, "electric")
    there: Callable[[Bike], bool] = _always
    most: Callable[[Bike], float] | None = None
    others: Callable[[Bike], Sequence[str]] | None = None

    def __get_pydantic_json_schema__(self, core: Any, handler: Any) -> dict[str, Any]:
        """The schema says the notch and the station too."""
        return handler(core) | {"step": self.step, "station": self.station}

    def is_there(self, bike: Bike) -> bool:
        """Whether a hand can move it on this bike."""
        return bike.metering in self.engines and self.there(bike) and (self.others is None or bool(self.others(bike)))

    def highest(self, bike: Bike) -> float | None:
        """Highest value on this bike; None where only the field's own bound holds."""
        if self.others is not None:
            return 1 + len(self.others(bike))
        return None if self.most is None else self.most(bike)


@dataclass(frozen=True, slots=True)
class SetWhole:
    """A field that is set as a whole, not by notches. station: who shows it."""

    station: str
