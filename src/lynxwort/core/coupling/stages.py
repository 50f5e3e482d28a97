"""The stages of `evaluate` in their fixed order, each a function of its own small input, each cached by it."""

from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.air.along import DayAir, RaceAirStates, power_share_along, race_air_states
from lynxwort.core.air.moist import AirState, moist_density
from lynxwort.core.cache import StageCache
from lynxwort.core.chassis import sag
from lynxwort.core.chassis.calibrate import Offsets, SagEvidence, calibrate, half_width
from lynxwort.core.chassis.loads import AxleLoads, axle_loads, cg_to_front_axle
from lynxwort.core.course.prepare import Course, Line, lay_line, prepare_course
from lynxwort.core.drive.gearing import overall_ratios, rolling_radius
from lynxwort.core.drive.kernel import STUCK_POWER
from lynxwort.core.drive.simulation import Ride, RideInput, simulate
from lynxwort.core.fuelling.richness import Jetting, RichnessCurve, richness_curve
from lynxwort.core.model.defaults import FUEL_DENSITY_KG_PER_M3
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.model.readings import Air, FillUpReading, KnownGoodReading, SagReading
from lynxwort.core.model.rider import Rider
from lynxwort.core.model.setup import Setup
from lynxwort.core.reach.consumption import BikeFactor, FillUp, learn, prior_factor
from lynxwort.core.reach.finish import legs_between

Array = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class Work:
    """One evaluation: inputs, and every stage's result, computed once and cached by the stage's own input."""

    inputs: Inputs
    cache: StageCache

    # course and air ---------------------------------------------------------------------------------------------------
    @cached_property
    def track_key(self) -> str:
        return self.inputs.courses[self.inputs.stage.course_key].content_key()

    @cached_property
    def line(self) -> Line:
        track = self.inputs.courses[self.inputs.stage.course_key]
        return self.cache.get("line", self.track_key, lambda: lay_line(track))

    @cached_property
    def course_id(self) -> tuple[Any, ...]:
        return (self.track_key, self.inputs.stage.ground, self.inputs.stage.hills)

    @cached_property
    def course(self) -> Course:
        stage = self.inputs.stage
        return self.cache.get("course", self.course_id, lambda: prepare_course(self.line, stage.ground, stage.hills))

    @cached_property
    def day(self) -> DayAir:
        air = self.inputs.race.air
        height = air.reading_height_m
        return DayAir(
            pressure_kind=air.pressure_kind,
            pressure_pa=air.pressure_pa,
            pressure_spread_pa=air.pressure_spread_pa,
            reading_height_m=float(self.course.height_m[0]) if height is None else height,
            temperature_low_k=air.temperature_low_k,
            temperature_high_k=air.temperature_high_k,
            relative_humidity_low=air.relative_humidity_low,
            relative_humidity_high=air.relative_humidity_high,
        )

    @cached_property
    def air(self) -> RaceAirStates:
        low, high = float(self.course.height_m.min()), float(self.course.height_m.max())
        return self.cache.get("air", (self.day, low, high), lambda: race_air_states(self.day, lowest_m=low, highest_m=high))

    @cached_property
    def power_share(self) -> Array:
        middle = 0.5 * (self.course.height_m[1:] + self.course.height_m[:-1])
        return self.cache.get(
            "power_share",
            (self.course_id, self.day),
            lambda: power_share_along(self.air.middle_at_reading, reading_height_m=self.day.reading_height_m, height_m=middle),
        )

    # loads and sag ----------------------------------------------------------------------------------------------------
    def loads(self, fuel_m3: float, *, with_rider: bool = True, share_offset: float = 0.0) -> AxleLoads:
        rider = self.inputs.rider
        return axle_loads(
            self.inputs.bike.frame,
            fuel_m3=fuel_m3,
            rider_kg=rider.mass_in_gear_kg if with_rider else 0.0,
            posture=rider.posture,
            share_offset=share_offset,
        )

    def sag_at(self, end: str, setup: Setup, rider: Rider | None, fuel_m3: float, offsets: Array) -> float:
        """Sag [m] of one end; rider None: free sag. offsets: fork preload, shock preload, rider's rear share."""
        frame = self.inputs.bike.frame
        loads = axle_loads(
            frame,
            fuel_m3=fuel_m3,
            rider_kg=rider.mass_in_gear_kg if rider else 0.0,
            posture=rider.posture if rider else "standing",
            share_offset=float(offsets[2]),
        )
        if end == "front":
            fork = sag.fork_of(frame, leg_rate_n_per_m=setup.fork_spring_rate_n_per_m, preload_m=setup.fork_preload_m + float(offsets[0]))
            return sag.front_sag(fork, loads.front_kg - frame.unsprung_front_kg)
        return sag.rear_sag(self.shock(setup, float(offsets[1])), loads.rear_kg - frame.unsprung_rear_kg)

    def shock(self, setup: Setup, preload_offset_m: float = 0.0) -> sag.Shock:
        frame = self.inputs.bike.frame
        return sag.Shock(
            rate_n_per_m=setup.shock_spring_rate_n_per_m,
            preload_m=setup.shock_preload_m + preload_offset_m,
            ratio_start=frame.link_ratio_start,
            ratio_end=frame.link_ratio_end,
            travel_m=frame.rear_travel_m,
        )

    def friction_m(self, end: str, setup: Setup) -> float:
        """Half band of friction [m] at one end: friction / wheel rate."""
        frame = self.inputs.bike.frame
        if end == "front":
            return frame.fork_friction_n / (2.0 * setup.fork_spring_rate_n_per_m)
        ratio = 0.5 * (frame.link_ratio_start + frame.link_ratio_end)
        return frame.shock_friction_n * ratio / setup.shock_spring_rate_n_per_m

    @cached_property
    def offsets(self) -> Offsets:
        evidence = []
        for reading in self.inputs.readings:
            if reading.struck_out or not isinstance(reading, SagReading):
                continue
            under = reading.under
            rider = (under.rider or self.inputs.rider) if reading.state == "race" else None
            evidence.append(
                SagEvidence(
                    reading_id=reading.id,
                    value_m=reading.value_m,
                    predict=lambda o, r=reading, who=rider: self.sag_at(r.end, r.under.setup, who, r.under.fuel_aboard_m3, o),  # type: ignore[misc]
                    friction_m=self.friction_m(reading.end, under.setup),
                )
            )
        return calibrate(evidence)

    def present_sag(self, end: str, *, race: bool, fuel_m3: float) -> tuple[float, float]:
        """Sag [m] of the present setup and half of its 90 % interval."""
        rider = self.inputs.rider if race else None
        setup = self.inputs.setup

        def predict(o: Array) -> float:
            return self.sag_at(end, setup, rider, fuel_m3, o)

        value = predict(np.array(self.offsets.mean))
        return value, half_width(predict, self.offsets, self.friction_m(end, setup))

    def targets(self, end: str) -> sag.SagTargets:
        frame = self.inputs.bike.frame
        return sag.front_targets(frame.fork_travel_m) if end == "front" else sag.rear_targets(frame.rear_travel_m)

    def sag_band(self, figure: str) -> tuple[float, float]:
        """The band [m] a sag figure should lie in."""
        _, end, state = figure.split(".")
        targets = self.targets(end)
        if state == "free_sag":
            return targets.free_low_m, targets.free_high_m
        return targets.race_low_m, targets.race_high_m

    # ride -------------------------------------------------------------------------------------------------------------
    def ride_input(self, setup: Setup, rider: Rider, fuel_m3: float) -> RideInput:
        bike = self.inputs.bike
        loads = axle_loads(bike.frame, fuel_m3=fuel_m3, rider_kg=rider.mass_in_gear_kg, posture=rider.posture)
        return RideInput(
            engine=bike.engine,
            overall_ratios=overall_ratios(bike, setup),
            efficiency=bike.transmission.efficiency,
            rolling_radius_m=rolling_radius(bike),
            mass_kg=loads.total_kg,
            cg_to_front_axle_m=cg_to_front_axle(loads, bike.frame.wheelbase_m),
            wheelbase_m=bike.frame.wheelbase_m,
            cg_height_m=bike.frame.cg_height_m,
            drag_area_m2=bike.frame.drag_area_m2,
            air_density_kg_per_m3=moist_density(self.air.middle_at_reading),
            pace=rider.pace,
            seed=self.inputs.seed,
        )

    def ride_of(self, what: RideInput) -> Ride:
        return self.cache.get("ride", (self.course_id, self.day, what), lambda: simulate(self.course, self.power_share, what))

    @cached_property
    def what(self) -> RideInput:
        """The ride's input at half the fill: the mean of the race."""
        return self.ride_input(self.inputs.setup, self.inputs.rider, 0.5 * self.inputs.setup.fill_m3)

    @cached_property
    def ride(self) -> Ride:
        return self.ride_of(self.what)

    @cached_property
    def longest_full_throttle_s(self) -> float:
        return self.cache.get("longest", (self.course_id, self.day, self.what), lambda: self.ride.longest_full_throttle_s)

    # fuelling ---------------------------------------------------------------------------------------------------------
    @cached_property
    def known_good(self) -> KnownGoodReading | None:
        """The newest known-good pair that is not struck out and has its air."""
        good = [r for r in self.inputs.readings if isinstance(r, KnownGoodReading) and not r.struck_out and r.under.air]
        return good[-1] if good else None

    def curve(self, air: AirState, jetting: Jetting | None = None) -> RichnessCurve | None:
        good = self.known_good
        if good is None or good.under.air is None:
            return None
        carburettor = self.inputs.bike.engine.carburettor
        draft = jetting or jetting_of(self.inputs.setup)
        return richness_curve(carburettor, draft, air, jetting_of(good.under.setup), state_of(good.under.air))

    @cached_property
    def densest_curve(self) -> RichnessCurve | None:
        return self.curve(self.air.densest)

    @cached_property
    def thinnest_curve(self) -> RichnessCurve | None:
        return self.curve(self.air.thinnest)

    # fuel -------------------------------------------------------------------------------------------------------------
    def lap_fuel_m3(self, ride: Ride, setup: Setup) -> Array:
        """Fuel per step [m3] at this jetting in the mean air, factor 1. Richer jetting burns more in proportion."""
        curve = self.curve(self.air.middle_at_reading, jetting_of(setup))
        richer = 0.0 if curve is None else float(curve.value[curve.throttle <= 0.5].mean())
        return ride.fuel_kg / FUEL_DENSITY_KG_PER_M3 * (1.0 + richer)

    @cached_property
    def fuel_along(self) -> Array:
        """Cumulative fuel [m3] over a lap at factor 1, shape (n + 1,)."""
        return np.concatenate([[0.0], np.cumsum(self.lap_fuel_m3(self.ride, self.inputs.setup))])

    @cached_property
    def fill_ups(self) -> tuple[list[FillUp], list[str]]:
        """Fill-ups with what the model computes for the same ride, and the ids of those on another course."""
        usable, other = [], []
        for reading in self.inputs.readings:
            if reading.struck_out or not isinstance(reading, FillUpReading):
                continue
            under = reading.under
            if under.course_key not in (None, self.inputs.stage.course_key):
                other.append(reading.id)
                continue
            rider = under.rider or self.inputs.rider
            ride = self.ride_of(self.ride_input(under.setup, rider, 0.5 * max(under.fuel_aboard_m3, reading.fuel_m3)))
            per_lap = float(self.lap_fuel_m3(ride, under.setup).sum())
            usable.append(FillUp(reading_id=reading.id, measured=reading.fuel_m3, computed=per_lap * reading.laps))
        return usable, other

    @cached_property
    def prior(self) -> BikeFactor:
        ride = self.ride
        return prior_factor(float((ride.time_s * (ride.throttle_share > 0.97)).sum() / ride.time_s.sum()))

    @cached_property
    def factor(self) -> BikeFactor:
        return learn(self.prior, self.fill_ups[0])

    @cached_property
    def legs(self) -> list[list[float]]:
        stage = self.inputs.stage
        stops = [p.at_m for p in stage.refuel_points]
        return legs_between(self.fuel_along, self.course.distance_m, stage.laps, stops)


def state_of(air: Air) -> AirState:
    """The air of a reading as the air model takes it."""
    return AirState(pressure_pa=air.pressure_pa, temperature_k=air.temperature_k, relative_humidity=air.relative_humidity)


def jetting_of(setup: Setup) -> Jetting:
    """The part of a setup that the mixture depends on."""
    return Jetting(main_jet=setup.main_jet, needle_clip=setup.needle_clip, premix_ratio=setup.premix_ratio)


#: one-sided 90 % perturbations of what the ride rests on: name of the scale, amount (assumption)
PERTURBATIONS = (("rolling_scale", 0.25), ("power_scale", 0.06), ("grip_scale", 0.15), ("pace_scale", 0.08))


def ride_sensitivities(work: Work) -> dict[str, tuple[float, float]]:
    """Half-widths below and above of figures that rest on the ride: relative for time and fuel, metres for metres short."""
    base = work.ride
    squares = {"drive.lap_time": [0.0, 0.0], "range.fuel_per_lap": [0.0, 0.0]}
    short = [base.metres(STUCK_POWER)]
    for name, amount in PERTURBATIONS:
        for sign in (-1.0, 1.0):
            scaled: dict[str, Any] = {name: 1.0 + sign * amount}
            ride = work.ride_of(replace(work.what, **scaled))
            short.append(ride.metres(STUCK_POWER))
            for key, now, was in (
                ("drive.lap_time", ride.lap_time_s, base.lap_time_s),
                ("range.fuel_per_lap", ride.lap_fuel_kg, base.lap_fuel_kg),
            ):
                change = now / was - 1.0
                squares[key][1 if change > 0 else 0] += change**2
    result = {k: (v[0] ** 0.5, v[1] ** 0.5) for k, v in squares.items()}
    result["drive.metres_short"] = (short[0] - min(short), max(short) - short[0])
    return result
