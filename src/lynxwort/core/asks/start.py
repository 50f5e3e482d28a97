"""What counts at the start: what is not settled, what is set by hand, what is poured in there and at each stop."""

from collections.abc import Collection
from dataclasses import dataclass

from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.model.bike import Bike
from lynxwort.core.model.setup import Setup
from lynxwort.core.physics.fuelling.fuels import oil_in_mix
from lynxwort.core.report import Finding, Report
from lynxwort.core.stations.range.input import RangeInput
from lynxwort.core.stations.range.passings import Passed, passed, planned
from lynxwort.core.tunables import TUNABLES, item_of, said_value, tunables_of

#: told under what is poured, not under what is set
POURED = ("fuel_fill_m3", "tank_capacity_m3", "charge_share", "premix_ratio")


#: acts beyond so many take the room of looks on the card
ROOMY_ACTS = 3


def unsettled(report: Report, most_looks: int) -> tuple[list[Finding], int]:
    """What is not settled, gravest first, and how many are left out of those that only ask to be looked at. What asks
    for an act is never left out, nor anything that is said of the mixture.
    """
    grave = ("act", "look", "unknown")
    found = [f for s in report.verdicts for f in report.of(s) if f.severity in grave]
    found.sort(key=lambda f: (grave.index(f.severity), f.code != "gate_no_riding", f.station != "fuelling"))
    always = [f for f in found if f.severity == "act" or f.station == "fuelling"]
    others = [f for f in found if f not in always]
    acts = sum(f.severity == "act" for f in always)
    room = max(most_looks - (len(always) - acts) - max(acts - ROOMY_ACTS, 0), 1)
    return always + others[:room], max(len(others) - room, 0)


def is_said(setup: Setup, tunable: str) -> bool:
    """Whether a tunable has a value that somebody gave it, or that every bike has."""
    if item_of(tunable):
        return bool(said_value(setup, tunable))
    marker = TUNABLES[tunable]
    return said_value(setup, tunable) is not None and (not marker.as_built or getattr(setup, tunable) is not None)


def set_by_hand(bike: Bike, setup: Setup, changed: Collection[str]) -> list[str]:
    """The tunables that are looked after before a start: whatever was changed last first, then those set by hand."""
    found = [
        t
        for t in tunables_of(bike)
        if t not in POURED and (t in changed or (TUNABLES[t].by_hand and is_said(setup, t)))
    ]
    return sorted(found, key=lambda t: t not in changed)


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
