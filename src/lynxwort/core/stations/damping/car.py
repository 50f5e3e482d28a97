"""The half car of a setup: what a ride over the ground feels of the bike."""

from functools import lru_cache

import numpy as np

from lynxwort.core.cache import keyed
from lynxwort.core.derived.tyres import tyre_rate
from lynxwort.core.model.setup import SuspensionSetup
from lynxwort.core.physics.chassis import ride_quality, sag
from lynxwort.core.physics.chassis.fitted import travel_of
from lynxwort.core.physics.damping import damper
from lynxwort.core.physics.halfcar.halfcar import BAR_AHEAD_M, GYRATION_M, HalfCar
from lynxwort.core.stations.damping.dampers import ENDS, clicks_of, damper_of, legs_of
from lynxwort.core.stations.damping.input import DampingInput


@keyed
class CarInput:
    """All of the bike that a ride over the ground feels: masses, lengths and friction of the half car, its springs, and
    its dampers as they are set. force_factor: on their forces.
    """

    values: tuple[tuple[str, float], ...]
    rake_rad: float
    fork: sag.Fork
    shock: sag.Shock
    dampers: tuple[damper.Damper, damper.Damper]
    clicks: tuple[tuple[int, int], tuple[int, int]]
    legs: int
    force_factor: float = 1.0

    @classmethod
    def of(cls, given: DampingInput, setup: SuspensionSetup | None = None) -> "CarInput":
        """The bike with its rider, half the fill aboard, as chassis and dampers have it. setup: another one."""
        chosen = setup or given.setup
        bike, rider, fuel, offset = given.bike, given.rider, 0.5 * chosen.fill_m3, given.springs.offsets.mean[2]
        # the axle in the middle of its adjusters: a tooth moves two hundred grams, and no ride is done again for them
        alone, whole = (
            given.loads.on_wheels(chosen, None, fuel, axle_in_middle=True),
            given.loads.on_wheels(chosen, rider, fuel, offset, axle_in_middle=True),
        )
        wheels = {end: given.loads.unsprung(chosen, end) for end in ENDS}
        sprung, base = alone.total_kg - sum(wheels.values()), given.springs.side.wheelbase_m
        to_rear = base * (alone.front_kg - wheels["front"]) / sprung
        stands = base * (whole.front_kg - alone.front_kg) / rider.mass_in_gear_kg
        values = {
            "sprung": sprung,
            "inertia": sprung * GYRATION_M**2,
            "front_unsprung": wheels["front"],
            "rear_unsprung": wheels["rear"],
            "rider": rider.mass_in_gear_kg,
            "to_front": base - to_rear,
            "to_rear": to_rear,
            "peg": stands - to_rear,
            "bar": BAR_AHEAD_M,
            "fork_travel": travel_of(bike.frame, chosen, "front"),
            "fork_friction": bike.frame.fork_friction_n,
            "shock_friction": bike.frame.shock_friction_n,
            "rear_travel": travel_of(bike.frame, chosen, "rear"),
            **{f"{end}_tyre": tyre_rate(given.loads, chosen, rider, end) for end in ENDS},
        }
        return cls(
            values=tuple(values.items()),
            rake_rad=bike.frame.rake_rad,
            fork=given.springs.fork(chosen, given.springs.offsets.mean),
            shock=given.springs.shock(chosen, given.springs.offsets.mean),
            dampers=(damper_of(bike, chosen, "fork"), damper_of(bike, chosen, "shock")),
            clicks=(clicks_of(chosen, "fork"), clicks_of(chosen, "shock")),
            legs=legs_of(bike),
            force_factor=given.force_factor,
        )

    def car(self) -> HalfCar:
        """The half car made of it; a click leaves it standing as it stood."""
        fork, shock = (damper.curve(d, *clicks) for d, clicks in zip(self.dampers, self.clicks, strict=True))
        legs, one = self.force_factor * self.legs, self.force_factor
        return _undamped(self.values, self.rake_rad, self.fork, self.shock).with_dampers(
            legs * fork.compression_n, legs * fork.rebound_n, one * shock.compression_n, one * shock.rebound_n
        )


@lru_cache(maxsize=64)
def _undamped(values: tuple[tuple[str, float], ...], rake_rad: float, fork: sag.Fork, shock: sag.Shock) -> HalfCar:
    """The half car standing on its springs, without dampers."""
    none = np.zeros(damper.COUNT)
    made = HalfCar(
        values=dict(values),
        rake_rad=rake_rad,
        fork_spring=lambda s: sag.fork_force(fork, s, ride_quality.MOVING_EXPONENT),
        shock_spring=lambda s: sag.shock_force(shock, s),
        ratio=lambda w: sag.motion_rate(shock, w),
        fork_in=none,
        fork_out=none,
        shock_in=none,
        shock_out=none,
    )
    made.ready()
    return made


def half_car(given: DampingInput, setup: SuspensionSetup | None = None) -> HalfCar:
    """The half car of this setup, or of another."""
    return CarInput.of(given, setup).car()
