"""One way in which all may truly be that is only known within a range: what a draw of everything that is stated with a
range puts in the place of what was learned.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace

from lynxwort.core.physics.air.along import DayAir
from lynxwort.core.physics.drive.engine import limiter_rpm
from lynxwort.core.physics.drive.simulation import RideInput

Moved = Callable[[RideInput, float], RideInput]


def _scaled(name: str) -> Moved:
    return lambda ride_input, factor: replace(ride_input, **{name: getattr(ride_input, name) * factor})


def _limiter(ride_input: RideInput, factor: float) -> RideInput:
    return replace(
        ride_input, engine=ride_input.engine.model_copy(update={"limiter_rpm": limiter_rpm(ride_input.engine) * factor})
    )


#: what is not known of a ride, and how a factor on it changes the ride's input
MOVED: dict[str, Moved] = {
    "rolling": _scaled("rolling_scale"),
    "power": _scaled("power_scale"),
    "grip": _scaled("grip_scale"),
    "pace": _scaled("pace_scale"),
    "radius": _scaled("rolling_radius_m"),
    "drag": _scaled("drag_area_m2"),
    "limiter": _limiter,
}


def moved(ride_input: RideInput, factors: Mapping[str, float]) -> RideInput:
    """A ride's input with a factor on each thing that is not known."""
    for name, factor in factors.items():
        ride_input = MOVED[name](ride_input, factor)
    return ride_input


@dataclass(frozen=True, slots=True, kw_only=True)
class Truth:
    """What is None is as learned, with its range. offsets: of springs and of the rider's share, see learned.sag; use:
    where the bike's own factor lies [standard deviations of its logarithm]; richness: -1 at the lean end of its range,
    1 at the rich one; air: of the day; ride: factors on what is not known of a ride, see MOVED; damping_factor: on
    the forces of the dampers.
    """

    offsets: tuple[float, ...] | None = None
    use: float | None = None
    richness: float | None = None
    air: DayAir | None = None
    ride: tuple[tuple[str, float], ...] = ()
    damping_factor: float = 1.0


#: nothing is drawn: all as it was learned
LEARNED = Truth()
