"""Who draws which station, by dotted names, so that telling it loads nothing; and what rooms a station has."""

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

from django.utils.functional import Promise

if TYPE_CHECKING:
    from lynxwort.core.model.bike import Bike
    from lynxwort.core.report import Finding, Report

_given: dict[str, str] = {}


def give(station: str, draw: str) -> None:
    """Tell the bench who draws a station: it is loaded when it is first drawn."""
    _given[station] = draw


def names() -> list[str]:
    """Stations that draw themselves."""
    return list(_given)


def draw_of(station: str) -> str:
    """The dotted name of what draws a station."""
    return _given[station]


#: what is no station, and has rooms all the same
CARD = "card"


@dataclass(frozen=True, slots=True)
class Room:
    """A room of a station. path: below the station's address, empty for the first; cures: codes of the findings that
    are settled there; fed: kinds of metering that have it, empty for all; name_electric: what it is called there;
    station: whose it is.
    """

    path: str
    name: str | Promise
    cures: frozenset[str] = frozenset()
    fed: tuple[str, ...] = ()
    name_electric: str | Promise = ""
    station: str = ""

    @property
    def id(self) -> str:
        return self.path.split("/")[0]

    def name_on(self, bike: "Bike") -> str:
        """What it is called on this bike."""
        return str(self.name_electric if self.name_electric and bike.metering == "electric" else self.name)

    def settles(self, report: "Report") -> list["Finding"]:
        """What asks for something and is settled there, whoever says it on the card, else the station itself."""
        said = report.findings if self.station == CARD else report.of(self.station)
        return [f for f in said if f.code in self.cures and f.severity != "ok"]

    def waits(self, report: "Report") -> str:
        """The gravest finding that is settled there; empty when none asks for anything."""
        found = {f.severity for f in self.settles(report)}
        return next((grave for grave in ("act", "look") if grave in found), "")


_rooms: dict[str, tuple[Room, ...]] = {}


def give_rooms(station: str, rooms: tuple[Room, ...]) -> None:
    """Tell the bench the rooms of a station, the first one first."""
    _rooms[station] = tuple(replace(room, station=station) for room in rooms)


def rooms_of(station: str, bike: "Bike") -> list[Room]:
    """The rooms that a station has for a bike."""
    return [r for r in _rooms.get(station, ()) if not r.fed or bike.metering in r.fed]


def room_of(station: str, code: str, bike: "Bike") -> Room | None:
    """The room in which a finding is settled: of its station, or behind the pit card."""
    rooms = (*rooms_of(station, bike), *rooms_of(CARD, bike))
    return next((r for r in rooms if r.path and code in r.cures), None)


def settled_in(report: "Report", station: str, room: str, bike: "Bike") -> list["Finding"]:
    """What asks for something and is settled in a room that is not the station's first."""
    here = next((r for r in rooms_of(station, bike) if r.path and r.id == room), None)
    return [] if here is None else here.settles(report)


@dataclass(frozen=True, slots=True)
class CardLines:
    """Sentences for the pit card: over what title, whose, by a dotted name; place: "first", "front" or
    "behind" the page that is printed."""

    title: str | Promise
    lines: str
    place: str


_on_card: list[CardLines] = []


def give_card(title: str | Promise, lines: str, *, place: str = "front") -> None:
    """Tell the bench who has sentences for the pit card."""
    _on_card.append(CardLines(title, lines, place))


def card_lines() -> list[CardLines]:
    """Of all who have."""
    return list(_on_card)
