"""What goes into the tank, and when: at the start and at each stop in force, petrol and its oil apart."""

from dataclasses import dataclass

from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.physics.fuelling.fuels import oil_in_mix
from lynxwort.core.stations.range.input import RangeInput
from lynxwort.core.stations.range.passings import Passed, passed, planned


@dataclass(frozen=True, slots=True, kw_only=True)
class Pour:
    """place: where, None at the start; ready_m3: volume that goes in, likely at a stop [m3]; oil_m3: oil in it [m3],
    None where no oil goes into the fuel; level_m3: the tank filled to [m3].
    """

    place: Passed | None
    ready_m3: float
    oil_m3: float | None
    level_m3: float

    @property
    def petrol_m3(self) -> float:
        return self.ready_m3 - (self.oil_m3 or 0.0)


def pours(up: Upstream) -> list[Pour]:
    """Everything poured over the race, in order; empty for a bike that is charged."""
    given, ratio = RangeInput.of(up), up.inputs.setup.premix_ratio
    if given.supply.store.kind != "fuel":
        return []

    def pour(place: Passed | None, ready_m3: float, level_m3: float) -> Pour:
        oil = None if ratio is None else oil_in_mix(ready_m3, ratio)
        return Pour(place=place, ready_m3=ready_m3, oil_m3=oil, level_m3=level_m3)

    fill = given.supply.store.aboard
    places = passed(given, given.clock.most_laps)
    return [pour(None, fill, fill), *(pour(places[s.opening], s.added, s.level) for s in planned(given)[0])]
