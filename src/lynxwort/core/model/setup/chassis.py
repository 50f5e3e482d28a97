"""Springs, heights, wheels and what rides along."""

from functools import partial
from typing import Annotated

from pydantic import model_validator

from lynxwort.core.model.base import Part, quantity
from lynxwort.core.model.bike import Bike
from lynxwort.core.model.bike.patterns import SetupAssumed
from lynxwort.core.model.setup.drive import DriveSetup
from lynxwort.core.model.setup.filled import FilledSetup
from lynxwort.core.model.setup.kit import CarriedSetup
from lynxwort.core.model.tunable import Tunable

springs = partial(Tunable, station="chassis", group="springs")
steering = partial(Tunable, station="chassis", group="steering", by_hand=True)
seating = partial(Tunable, station="chassis", group="rider")
wheels = partial(Tunable, station="chassis", group="wheels", by_hand=True)
SHOCK = ("chassis.rear.race_sag", "chassis.rear.free_sag")
FORK = ("chassis.front.race_sag", "chassis.front.free_sag")
STEERING = ("chassis.trail", "chassis.rake", "chassis.seat_height")
KNEE = ("chassis.seat_height", "chassis.seat_to_peg", "chassis.reach_margin")
ARMS = ("chassis.peg_to_bar", "chassis.seat_to_bar")


def _on_air(bike: Bike) -> bool:
    return bike.frame.fork_springing == "air"


def _balanced(bike: Bike) -> bool:
    return _on_air(bike) and bike.frame.fork_balance_area_m2 is not None


def _on_coils(bike: Bike) -> bool:
    return not _on_air(bike)


def _on_two_coils(bike: Bike) -> bool:
    return _on_coils(bike) and bike.frame.fork_springs == "different"


def _fork_changes(bike: Bike) -> bool:
    return _on_coils(bike) and bike.frame.fork_rate_is == "changing"


def _shock_changes(bike: Bike) -> bool:
    return bike.frame.shock_rate_is == "changing"


def _front_wheels(bike: Bike) -> list[str]:
    return [wheel.marking for wheel in bike.frame.other_front_wheels]


def _rear_wheels(bike: Bike) -> list[str]:
    return [wheel.marking for wheel in bike.frame.other_rear_wheels]


class ChassisSetup(Part):
    """Springs and air of both ends, where tubes, axle, bars, pegs and seat stand, wheels, tyre pressures, what stays at
    home.
    """

    assumed: tuple[SetupAssumed, ...] = ()
    """which springs are as such a bike usually has them, and nobody said of this one"""

    shock_preload_m: Annotated[float, springs(shows=SHOCK, step=0.001, by_hand=True)] = quantity(
        0, 0.04, "m", "preload", 0.010, source="assumption"
    )
    """length by which the shock spring is squeezed, topped out"""
    shock_spring_rate_n_per_m: Annotated[float, springs(shows=SHOCK, step=2000.0)] = quantity(
        10000, 250000, "N/m", "spring_rate"
    )
    """rate of the shock spring"""
    shock_second_rate_n_per_m: Annotated[
        float | None, springs(shows=SHOCK, step=2000.0, unset_as="shock_spring_rate_n_per_m", there=_shock_changes)
    ] = quantity(10000, 400000, "N/m", "spring_rate", None, source="assumption: straight, one rate")
    """rate that the shock spring comes to; left out = straight"""
    shock_second_from_m: Annotated[float | None, springs(shows=SHOCK, step=0.005, unset=0.0, there=_shock_changes)] = (
        quantity(0.0, 0.2, "m", "travel", None, source="assumption: from the start")
    )
    """deflection of the shock spring from which its rate rises, preload counted in; as the next one = a soft part that
    goes solid
    """
    shock_second_at_m: Annotated[float | None, springs(shows=SHOCK, step=0.005, unset=0.03, there=_shock_changes)] = (
        quantity(0.002, 0.2, "m", "travel", None, source="assumption: 30 mm")
    )
    """deflection of the shock spring from which it has the second rate, preload counted in"""
    fork_preload_m: Annotated[float, springs(shows=FORK, step=0.001, there=_on_coils, by_hand=True)] = quantity(
        0, 0.04, "m", "preload", 0.005, source="assumption"
    )
    """length by which the fork springs are squeezed, topped out"""
    fork_spring_rate_n_per_m: Annotated[float, springs(shows=FORK, step=200.0, there=_on_coils)] = quantity(
        1000, 20000, "N/m", "spring_rate"
    )
    """rate of the spring in one leg, both legs alike"""
    fork_other_rate_n_per_m: Annotated[
        float | None, springs(shows=FORK, step=200.0, unset_as="fork_spring_rate_n_per_m", there=_on_two_coils)
    ] = quantity(0, 20000, "N/m", "spring_rate", None, source="assumption: both legs alike")
    """rate of the spring in the other leg; only asked where the two legs differ"""
    fork_second_rate_n_per_m: Annotated[
        float | None, springs(shows=FORK, step=200.0, unset_as="fork_spring_rate_n_per_m", there=_fork_changes)
    ] = quantity(1000, 40000, "N/m", "spring_rate", None, source="assumption: straight, one rate")
    """rate that a fork spring comes to; left out = straight"""
    fork_second_from_m: Annotated[float | None, springs(shows=FORK, step=0.005, unset=0.0, there=_fork_changes)] = (
        quantity(0.0, 0.4, "m", "travel", None, source="assumption: from the start")
    )
    """deflection of a fork spring from which its rate rises, preload counted in; as the next one = a soft part that
    goes solid
    """
    fork_second_at_m: Annotated[float | None, springs(shows=FORK, step=0.005, unset=0.15, there=_fork_changes)] = (
        quantity(0.002, 0.4, "m", "travel", None, source="assumption: 150 mm")
    )
    """deflection of a fork spring from which it has the second rate, preload counted in"""
    fork_air_pressure_pa: Annotated[
        float | None, springs(shows=FORK, step=10_000.0, unset=8.0e5, there=_on_air, by_hand=True)
    ] = quantity(1e5, 2.5e6, "Pa", "tyre_pressure", None, source="from memory: 8 bar")
    """air-sprung fork: main chamber by the gauge, topped out"""
    fork_balance_pressure_pa: Annotated[
        float | None, springs(shows=FORK, step=10_000.0, unset=6.0e5, there=_balanced, by_hand=True)
    ] = quantity(0.0, 2.5e6, "Pa", "tyre_pressure", None, source="from memory: 6 bar")
    """air-sprung fork: balance chamber by the gauge, topped out"""
    fork_oil_up_m: Annotated[
        float | None,
        springs(
            shows=("chassis.front.bottoming_drop", "chassis.front.race_sag"),
            step=0.005,
            unset=0.0,
            signed=True,
            as_built=True,
        ),
    ] = quantity(-0.1, 0.1, "m", "travel", None, source="assumption: as the bike's facts say")
    """oil level raised, legs together, + = more oil, less air"""
    fork_spacer_m: Annotated[
        float | None,
        springs(
            shows=("chassis.seat_height", "chassis.front.race_sag", "chassis.front.bottoming_drop"),
            step=0.005,
            unset=0.0,
            as_built=True,
            most=lambda bike: bike.frame.most_spacer_m("front"),
        ),
    ] = quantity(0.0, 0.1, "m", "travel", None, source="assumption: full travel")
    """spacer inside each fork leg that keeps it from coming out: the travel is shorter by as much"""
    shock_spacer_m: Annotated[
        float | None,
        springs(
            shows=("chassis.seat_height", "chassis.rear.race_sag", "chassis.rear.bottoming_drop"),
            step=0.001,
            unset=0.0,
            as_built=True,
            most=lambda bike: bike.frame.most_spacer_m("rear"),
        ),
    ] = quantity(0.0, 0.04, "m", "travel", None, source="assumption: full travel")
    """spacer on the shock's shaft, inside, that keeps it from coming out: its stroke is shorter by as much"""
    payload_left: Annotated[
        int | None,
        springs(
            shows=("chassis.rear.race_sag", "chassis.front.race_sag", "chassis.cg_height"),
            step=1,
            unset=0,
            as_built=True,
            there=lambda bike: bool(bike.frame.payload),
            most=lambda bike: len(bike.frame.payload),
        ),
    ] = quantity(0, 8, "1", "count", None, source="assumption: everything rides along")
    """how many of the things that ride along stay at home, the last first"""
    fork_up_m: Annotated[float | None, steering(shows=STEERING, step=0.005, unset=0.0, signed=True, as_built=True)] = (
        quantity(-0.02, 0.04, "m", "travel", None, source="assumption: flush, as it was measured")
    )
    """tubes raised through the clamps, + = front goes down"""
    rear_up_m: Annotated[float | None, steering(shows=STEERING, step=0.005, unset=0.0, signed=True, as_built=True)] = (
        quantity(-0.06, 0.06, "m", "travel", None, source="assumption: as it was measured")
    )
    """rear raised at the axle by shock length or link"""
    offset_change_m: Annotated[
        float | None, steering(shows=STEERING, step=0.002, unset=0.0, signed=True, as_built=True)
    ] = quantity(-0.015, 0.015, "m", "travel", None, source="assumption: the bike's own clamps")
    """offset of the fitted clamps against the bike's own"""
    seat_up_m: Annotated[float | None, seating(shows=KNEE, step=0.01, unset=0.0, signed=True, as_built=True)] = (
        quantity(-0.08, 0.08, "m", "travel", None, source="assumption: as measured")
    )
    """seat raised by foam"""
    bar_up_m: Annotated[float | None, seating(shows=ARMS, step=0.005, unset=0.0, signed=True, as_built=True)] = (
        quantity(-0.06, 0.1, "m", "travel", None, source="assumption: as measured")
    )
    """bars raised"""
    bar_ahead_m: Annotated[float | None, seating(shows=ARMS, step=0.005, unset=0.0, signed=True, as_built=True)] = (
        quantity(-0.06, 0.06, "m", "travel", None, source="assumption: as measured")
    )
    """bars moved ahead"""
    peg_down_m: Annotated[float | None, seating(shows=KNEE, step=0.005, unset=0.0, signed=True, as_built=True)] = (
        quantity(-0.03, 0.06, "m", "travel", None, source="assumption: as measured")
    )
    """pegs lowered"""
    front_wheel: Annotated[
        int | None,
        wheels(
            shows=("chassis.trail", "chassis.ground_clearance"), step=1, unset=1, as_built=True, others=_front_wheels
        ),
    ] = quantity(1, 6, "1", "count", None, source="assumption: the bike's own")
    """which front wheel is in: 1 = the bike's own, then the others in their order"""
    front_tyre_pressure_pa: Annotated[
        float | None,
        wheels(shows=("chassis.tyre_pressure_front_at_start",), step=5000.0, unset=90_000.0, as_built=True),
    ] = quantity(0.0, 4e5, "Pa", "tyre_pressure", None, source="common practice, no source: 0.9 bar")
    """front tyre, by the gauge at home"""
    rear_wheel: Annotated[
        int | None,
        wheels(
            shows=("drive.top_speed", "chassis.trail", "chassis.ground_clearance"),
            step=1,
            unset=1,
            as_built=True,
            others=_rear_wheels,
        ),
    ] = quantity(1, 6, "1", "count", None, source="assumption: the bike's own")
    """which rear wheel is in: 1 = the bike's own, then the others in their order"""
    rear_tyre_pressure_pa: Annotated[
        float | None, wheels(shows=("chassis.tyre_pressure_at_start",), step=5000.0, unset=85_000.0, as_built=True)
    ] = quantity(0.0, 4e5, "Pa", "tyre_pressure", None, source="common practice, no source: 0.85 bar")
    """rear tyre, by the gauge at home"""

    @model_validator(mode="after")
    def _springs(self) -> "ChassisSetup":
        for end in ("fork", "shock"):
            start, at = getattr(self, f"{end}_second_from_m"), getattr(self, f"{end}_second_at_m")
            if start is not None and at is not None and start > at:
                raise ValueError(f"{end}_second_from_m:stretch_order")
        return self


class LoadedSetup(FilledSetup, CarriedSetup, ChassisSetup, DriveSetup):
    """All that decides how the bike stands: springs and heights, what is aboard, where the chain puts the axle."""
