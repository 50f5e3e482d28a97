"""What of the kit a hand changes: which items are on, rotors, masters, pads."""

from functools import partial
from typing import Annotated

from pydantic import Field

from lynxwort.core.model.base import Part, quantity
from lynxwort.core.model.bike import Bike
from lynxwort.core.model.tunable import BURNS, SetWhole, Tunable

#: pads in the order of their slots
PADS = ("sintered", "organic", "race")
#: the fields that hold which items are on, or off though the bike was weighed with them; each item is a notch of its
#: own
ITEM_FIELDS = ("kit_on", "kit_off")
#: between the field and the item's id in the name of such a notch
OF = "__"
_ON = ("chassis.rear.race_sag", "chassis.front.race_sag", "kit.build.mass")
ITEM = Tunable(step=1, station="kit", group="items", shows=_ON, unset=0.0, as_built=True)


def _shows(end: str) -> tuple[str, ...]:
    return (f"kit.brake.{end}.window", f"kit.brake.{end}.rotor_temperature", f"kit.brake.{end}.gain")


def _pads(_bike: Bike) -> int:
    return len(PADS)


def _damper_clicks(bike: Bike) -> int:
    return (bike.kit.damper.damper_clicks or 0) if bike.kit.damper else 0


front, rear = (
    partial(Tunable, station="kit", group="brakes", shows=_shows(end), as_built=True) for end in ("front", "rear")
)


def _cooled(bike: Bike) -> bool:
    return bike.kit.cooling.radiators > 0


coolant = partial(
    Tunable, station="kit", group="cooling", as_built=True, engines=BURNS, there=_cooled,
    shows=("kit.cooling.margin", "kit.cooling.hottest", "kit.cooling.crawl_settles"),
)  # fmt: skip
Ids = Annotated[tuple[Annotated[str, Field(min_length=1, max_length=24)], ...], Field(max_length=40)]


def _ids(help_of: str) -> Ids:
    return Field((), json_schema_extra={"unit": "", "kind": "list", "source": help_of})  # type: ignore[no-any-return]


class CarriedSetup(Part):
    """What of the kit has mass that comes on or off."""

    kit_on: Annotated[Ids, SetWhole("kit")] = _ids("assumption: nothing more than when it was weighed")
    """ids of items that are on"""
    kit_off: Annotated[Ids, SetWhole("kit")] = _ids("assumption: as it was weighed")
    """ids of items that are off though the bike was weighed with them"""


class KitSetup(CarriedSetup):
    """All of it."""

    front_rotor_m: Annotated[float | None, front(step=0.01, unset=0.24)] = quantity(
        0.16, 0.36, "m", "travel", None, source="assumption: 240 mm"
    )
    """diameter of the front rotor"""
    rear_rotor_m: Annotated[float | None, rear(step=0.01, unset=0.22)] = quantity(
        0.14, 0.32, "m", "travel", None, source="assumption: 220 mm"
    )
    """diameter of the rear rotor"""
    damper_clicks: Annotated[
        int | None,
        Tunable(
            step=1,
            station="kit",
            group="damper",
            shows=("kit.steer.kick_time", "kit.steer.inertia"),
            unset=0,
            there=lambda bike: _damper_clicks(bike) > 0,
            most=_damper_clicks,
        ),
    ] = quantity(0, 40, "1", "count", None, source="assumption: lightest")
    """steering damper, clicks from lightest"""
    front_master_m: Annotated[float | None, front(step=0.0005, unset=0.0095)] = quantity(
        0.006, 0.02, "m", "preload", None, source="assumption: 9.5 mm"
    )
    """diameter of the front master's piston"""
    front_pad: Annotated[int | None, front(step=1, unset=1, most=_pads)] = quantity(
        1, 3, "1", "count", None, source="assumption: sintered"
    )
    """front pads: sintered, organic, race"""
    rear_master_m: Annotated[float | None, rear(step=0.0005, unset=0.0127)] = quantity(
        0.006, 0.02, "m", "preload", None, source="assumption: 12.7 mm"
    )
    """diameter of the rear master's piston"""
    rear_pad: Annotated[int | None, rear(step=1, unset=1, most=_pads)] = quantity(
        1, 3, "1", "count", None, source="assumption: sintered"
    )
    """rear pads: sintered, organic, race"""
    cap_pa: Annotated[float | None, coolant(step=1e4, unset=1.1e5)] = quantity(
        0.0, 2.5e5, "Pa", "tyre_pressure", None, source="assumption: 1.1 bar"
    )
    """radiator cap, as stamped on it"""
    glycol_share: Annotated[float | None, coolant(step=0.05, unset=0.5)] = quantity(
        0.0, 0.7, "1", "share", None, source="assumption: half and half"
    )
    """glycol in the coolant, by volume"""
    thermostat: Annotated[int | None, coolant(step=1, unset=1)] = quantity(
        0, 1, "1", "count", None, source="assumption: it has one"
    )
    """thermostat: out, in"""
    tape_share: Annotated[float | None, coolant(step=0.25, unset=0.0)] = quantity(
        0.0, 0.75, "1", "share", None, source="assumption: none"
    )
    """radiators taped over, as a share of their face"""
    crawl_share: Annotated[float | None, coolant(step=0.05, unset=1.0)] = quantity(
        0.5, 1.0, "1", "share", None, source="assumption: those at which it pulls"
    )
    """revs held at a crawl, of those at which the engine pulls with the clutch home"""
