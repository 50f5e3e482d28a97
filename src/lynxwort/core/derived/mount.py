"""The bike as the simulation rides it, with any setup, rider and fuel, before anything was seen of it on the road."""

from functools import cached_property

import numpy as np

from lynxwort.core.cache import keyed
from lynxwort.core.derived.day import Day, state_of
from lynxwort.core.derived.springs import Springs
from lynxwort.core.derived.tyres import tyres_by_ground, wheel_radius
from lynxwort.core.evidence import LogNormal, about
from lynxwort.core.learned.kit import INERTIA_PRIOR, learn_inertia
from lynxwort.core.model.bike import Bike, Electric, Engine, TorquePoint
from lynxwort.core.model.bike.kit import Aboard
from lynxwort.core.model.fitted import shift_of, turning_kg
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.model.readings import DynoReading, SwingReading
from lynxwort.core.model.rider import Rider
from lynxwort.core.model.setup import LoadedSetup, Setup
from lynxwort.core.physics.air.along import DayAir, mean_air
from lynxwort.core.physics.air.moist import moist_density
from lynxwort.core.physics.chassis.loads import cg_to_front_axle
from lynxwort.core.physics.drive.dyno import crank_torque
from lynxwort.core.physics.drive.gearing import overall_ratios, rear_scale, rolling_radius
from lynxwort.core.physics.drive.simulation import RideInput
from lynxwort.core.physics.drive.tuning import engine_as_set
from lynxwort.core.physics.kit.wheels import inertia_by_swing


def run_of(reading: DynoReading, bike: Bike) -> tuple[TorquePoint, ...]:
    """A run at the crank on a standard day."""
    torque = crank_torque(
        np.array([p.torque_nm for p in reading.points]),
        place=reading.place,
        standard=reading.standard,
        air=state_of(reading.under.air) if reading.under.air else None,
        efficiency=bike.transmission.efficiency,
    )
    rows = [(p.rpm, float(t)) for p, t in zip(reading.points, torque, strict=True)]
    keep = rows if len(rows) <= 60 else [rows[round(i * (len(rows) - 1) / 59)] for i in range(60)]
    return tuple(TorquePoint(rpm=rpm, torque_nm=min(t, 400.0)) for rpm, t in keep)


@keyed
class Mount:
    """run: the newest dynamometer run that was chosen; wind: of the race's day; wet: whether some stage is; swings: of
    its wheels.
    """

    springs: Springs
    day: DayAir
    run: DynoReading | None
    wind_m_per_s: float
    wind_from_rad: float
    wet: bool
    swings: tuple[SwingReading, ...]
    seed: int

    @classmethod
    def of(cls, inputs: Inputs, springs: Springs, day: Day) -> "Mount":
        chosen = [r for r in inputs.readings if isinstance(r, DynoReading) and r.chosen and not r.struck_out]
        air = inputs.race.air
        return cls(
            springs=springs,
            day=day.air,
            run=chosen[-1] if chosen else None,
            wind_m_per_s=air.wind_m_per_s,
            wind_from_rad=air.wind_from_rad,
            wet=any(s.state == "wet" for s in inputs.race.stages),
            swings=tuple(r for r in inputs.readings if isinstance(r, SwingReading) and not r.struck_out),
            seed=inputs.seed,
        )

    @property
    def bike(self) -> Bike:
        return self.springs.bike

    @property
    def power_of_kind(self) -> bool:
        """Whether nobody said its power, nor measured it: only the kind of bike is known."""
        return "engine.peak_power_w" in self.bike.assumed and self.run is None

    @cached_property
    def dyno_run(self) -> tuple[tuple[TorquePoint, ...], Setup] | None:
        """Torque at the crank on a standard day by the chosen run, and the setup it was taken with."""
        if self.run is None or isinstance(self.bike.engine, Electric):
            return None
        return run_of(self.run, self.bike), self.run.under.setup

    def engine(self, setup: Setup) -> Engine:
        """The engine with its torque as this setup has it; an electric motor is as it is."""
        engine = self.bike.engine
        return engine if isinstance(engine, Electric) else engine_as_set(engine, setup, self.dyno_run)  # type: ignore[return-value]

    def swung(self, end: str) -> LogNormal:
        """Turning inertia of the bike's own wheel [kg m2] after the swings of it."""
        own = getattr(self.bike.kit, f"{end}_wheel_inertia_kg_m2")
        mine = [r for r in self.swings if r.end == end]
        if not mine:
            return about(own, INERTIA_PRIOR)
        return learn_inertia(
            own,
            [
                (r.id, inertia_by_swing(r.mass_kg, edge_to_axle_m=r.edge_to_axle_m, period_s=0.1 * r.ten_swings_s))
                for r in mine
            ],
        )

    def wheel_inertia_kg_m2(self, setup: LoadedSetup) -> float:
        """Turning inertia of both wheels: as swung or assumed, and what else turns with them."""
        kit = self.bike.kit
        own = kit.front_wheel_inertia_kg_m2 + kit.rear_wheel_inertia_kg_m2
        if self.swings:
            own = sum(self.swung(end).median for end in ("front", "rear"))
        more = sum(
            kg * (share * wheel_radius(self.bike, setup, end)) ** 2
            for end in ("front", "rear")
            for kg, share in turning_kg(self.bike, setup, end)
        )
        return own + more

    def ride_input(
        self, setup: Setup, rider: Rider, fuel_m3: float, day: DayAir | None = None, aboard: Aboard | None = None
    ) -> RideInput:
        """The ride's input as the bike's facts have it. day: whose air, None = of the race; aboard: what rode along,
        None = what does now.
        """
        bike, loads_of = self.bike, self.springs.loads
        # the axle in the middle of its adjusters: pairs of sprockets of one ratio ride the same
        loads = loads_of.on_wheels(setup, rider, fuel_m3, axle_in_middle=True, aboard=aboard)
        wheelbase = self.springs.side.wheelbase_m
        modes = bike.engine.mode_power_shares if isinstance(bike.engine, Electric) else (1.0,)
        return RideInput(
            engine=self.engine(setup),
            overall_ratios=overall_ratios(bike.transmission, setup),
            efficiency=bike.transmission.efficiency,
            rolling_radius_m=rolling_radius(bike.tyre) * rear_scale(bike.frame, bike.tyre, setup),
            mass_kg=loads.total_kg,
            cg_to_front_axle_m=cg_to_front_axle(loads, wheelbase),
            wheelbase_m=wheelbase,
            cg_height_m=loads_of.cg_height_m(setup, rider, aboard),
            drag_area_m2=bike.frame.drag_area_m2 + shift_of(bike, setup, "drag_area_m2"),
            air_density_kg_per_m3=moist_density(mean_air(day or self.day)),
            pace=rider.pace,
            seed=self.seed,
            wind_m_per_s=self.wind_m_per_s,
            wind_from_rad=self.wind_from_rad,
            tyre_by_ground=tyres_by_ground(bike, setup, wet=self.wet),
            wheel_inertia_kg_m2=self.wheel_inertia_kg_m2(setup),
            mode_share=modes[min((setup.power_mode or 1), len(modes)) - 1],
        )
