"""Fork and shock with any setup, what the sags say of them, and how the bike stands."""

from collections.abc import Hashable, Sequence
from dataclasses import replace
from functools import cached_property
from math import exp, sqrt
from typing import Any

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.cache import StageCache, keyed
from lynxwort.core.derived.day import Day, outside_of
from lynxwort.core.derived.loads import Loads
from lynxwort.core.learned.geometry import FIELD_OF, Geometry, learn_geometry
from lynxwort.core.learned.sag import (
    OTHER_RATE,
    PRELOAD,
    RATE,
    SCALE_SD_KG,
    SHARE,
    TAPE_SD_M,
    Evidence,
    Offsets,
    calibrate,
    half_width,
)
from lynxwort.core.model.bike import Bike, Frame
from lynxwort.core.model.bike.kit import Aboard
from lynxwort.core.model.fitted import seat_up_of, shift_of
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.model.readings import GeometryReading, SagReading, WeighingReading
from lynxwort.core.model.rider import Rider
from lynxwort.core.model.setup import ChassisSetup, LoadedSetup
from lynxwort.core.physics.chassis import sag
from lynxwort.core.physics.chassis.fitted import fork_of_setup, shock_of_setup, travel_of, travel_taken
from lynxwort.core.physics.chassis.geometry import SideView, attitude_of
from lynxwort.core.physics.chassis.loads import AxleLoads
from lynxwort.core.physics.chassis.sag import SagTargets
from lynxwort.core.physics.drive.chain import ChainFit
from lynxwort.core.physics.drive.gearing import radius_of_marking, rolling_radius, tyre_in

Array = NDArray[np.float64]
Offset = Sequence[float] | Array
#: the setup's field with the stamped rate of an end's spring
STAMPED = {"front": "fork_spring_rate_n_per_m", "rear": "shock_spring_rate_n_per_m"}
#: where seat and lowest part stand along the wheelbase, from the rear axle (assumption)
SEAT_AHEAD, LOWEST_AHEAD = 0.40, 0.52
AHEAD_OF = {"seat_height": SEAT_AHEAD, "ground_clearance": LOWEST_AHEAD}
StandingReading = SagReading | WeighingReading | GeometryReading


def side_view_of(bike: Bike, frame: Frame, setup: LoadedSetup, *, rear_radius_m: float, axle_back_m: float) -> SideView:
    """What decides the side view of a setup. rear_radius_m: of the bike's own rear wheel as it rolls; axle_back_m: as
    of Loads.
    """
    own_front, own_rear = radius_of_marking(frame.front_tyre), rear_radius_m
    front = radius_of_marking(tyre_in(bike.frame, bike.tyre, setup, "front"))
    rear = (
        own_rear
        * radius_of_marking(tyre_in(bike.frame, bike.tyre, setup, "rear"))
        / radius_of_marking(bike.tyre.marking)
    )
    return SideView(
        wheelbase_m=frame.wheelbase_m,
        rake_rad=frame.rake_rad,
        offset_m=frame.clamp_offset_m + frame.axle_lead_m,
        swingarm_length_m=frame.swingarm_length_m,
        axle_below_pivot_m=frame.axle_below_pivot_m,
        front_radius_m=front,
        rear_radius_m=rear,
        front_radius_then_m=own_front,
        rear_radius_then_m=own_rear,
        # a spacer leaves the legs pushed in, and the wheel up, where the bike tops out: what is said of tubes and link
        fork_up_m=(setup.fork_up_m or 0.0) + travel_taken(frame, setup, "front"),
        offset_change_m=(setup.offset_change_m or 0.0) + shift_of(bike, setup, "offset_change_m"),
        rear_up_m=(setup.rear_up_m or 0.0) - travel_taken(frame, setup, "rear"),
        axle_back_m=axle_back_m,
    )


@keyed
class Springs:
    """rider: who sat on it where a reading does not say; readings: sags, weighings and lengths that count; outside_pa:
    pressure at the race [Pa]; drawn: the offsets in the place of those that are learned.
    """

    loads: Loads
    rider: Rider
    readings: tuple[StandingReading, ...]
    outside_pa: float
    drawn: tuple[float, ...] | None = None

    @classmethod
    def of(cls, inputs: Inputs, loads: Loads, day: Day, drawn: tuple[float, ...] | None = None) -> "Springs":
        found = tuple(r for r in inputs.readings if isinstance(r, StandingReading) and not r.struck_out)
        return cls(loads=loads, rider=inputs.rider, readings=found, outside_pa=day.outside_pa, drawn=drawn)

    @property
    def bike(self) -> Bike:
        return self.loads.bike

    @property
    def cache(self) -> StageCache:
        return self.loads.cache

    @cached_property
    def measured_rates(self) -> dict[str, float]:
        """Stamped rate [N/m] of the spring that the newest sag of each end was measured with."""
        return {r.end: getattr(r.under.setup, STAMPED[r.end]) for r in self.readings if isinstance(r, SagReading)}

    def rate_place(self, end: str, setup: ChassisSetup) -> int:
        """Which offset holds the true rate of a setup's spring: what was measured speaks of that spring only, not of
        another in its place.
        """
        measured = self.measured_rates.get(end)
        return (RATE if measured is not None and abs(getattr(setup, STAMPED[end]) - measured) <= 1.0 else OTHER_RATE)[
            end
        ]

    def rests_on(self, end: str, setup: ChassisSetup) -> tuple[int, int, int]:
        """The offsets that a sag of an end rests on."""
        return PRELOAD[end], SHARE, self.rate_place(end, setup)

    def unread(self, end: str, setup: ChassisSetup) -> tuple[int, ...]:
        """The offset of a spring's rate that nobody read, nor any sag has said something of; none else."""
        place = self.rate_place(end, setup)
        return (place,) if STAMPED[end] in setup.assumed and place == OTHER_RATE[end] else ()

    def _true(self, end: str, setup: ChassisSetup, offsets: Offset | None) -> tuple[float, float]:
        """What is added to a preload [m], and a spring's true rate over the stamped one [1]."""
        if offsets is None:
            return 0.0, 1.0
        return float(offsets[PRELOAD[end]]), exp(float(offsets[self.rate_place(end, setup)]))

    def fork(self, setup: ChassisSetup, offsets: Offset | None = None, outside_pa: float | None = None) -> sag.Fork:
        """The fork with this setup's springs and air, bled where outside_pa [Pa] presses (None = at the race); offsets:
        as learned.
        """
        preload, rate = self._true("front", setup, offsets)
        outside = self.outside_pa if outside_pa is None else outside_pa
        return fork_of_setup(self.bike.frame, setup, preload_offset_m=preload, rate_scale=rate, outside_pa=outside)

    def shock(self, setup: ChassisSetup, offsets: Offset | None = None) -> sag.Shock:
        """The shock with this setup's spring; offsets: as learned."""
        preload, rate = self._true("rear", setup, offsets)
        return shock_of_setup(self.bike.frame, setup, preload_offset_m=preload, rate_scale=rate)

    def sprung(
        self,
        end: str,
        setup: LoadedSetup,
        rider: Rider | None,
        fuel_m3: float,
        share_offset: float,
        aboard: Aboard | None = None,
    ) -> float:
        """Sprung mass [kg] at one end. aboard: what rode along, None = what does now."""
        loads = self.loads.on_wheels(setup, rider, fuel_m3, share_offset, aboard=aboard)
        return (loads.front_kg if end == "front" else loads.rear_kg) - self.loads.unsprung(setup, end, aboard)

    def sag(
        self,
        end: str,
        setup: LoadedSetup,
        rider: Rider | None,
        fuel_m3: float,
        offsets: Offset,
        *,
        outside_pa: float | None = None,
        aboard: Aboard | None = None,
    ) -> float:
        """Sag [m] of one end; rider None: free sag. offsets: as of learned.sag; outside_pa: where it is measured, None
        = at the race; aboard: what rode along, None = what does now.
        """
        sprung_kg = self.sprung(end, setup, rider, fuel_m3, float(offsets[SHARE]), aboard)
        return self.sag_under(end, setup, sprung_kg, offsets, outside_pa)

    def sag_under(
        self, end: str, setup: ChassisSetup, sprung_kg: float, offsets: Offset, outside_pa: float | None = None
    ) -> float:
        """Sag [m] of one end under a sprung mass."""
        if end == "rear":
            return sag.rear_sag(self.shock(setup, offsets), sprung_kg)
        return sag.front_sag(self.fork(setup, offsets, outside_pa), sprung_kg)

    def friction_m(self, end: str, setup: ChassisSetup) -> float:
        """Half band of friction [m] at one end: as measured by settling from above and below, else friction / wheel
        rate.
        """
        frame = self.bike.frame
        apart = [
            r.apart_m for r in self.readings if isinstance(r, SagReading) and r.end == end and r.apart_m is not None
        ]
        if apart:
            return 0.5 * sum(apart) / len(apart)
        if end == "front":
            return frame.fork_friction_n / self.fork(setup).rate_n_per_m
        ratio = 0.5 * (frame.link_ratio_start + frame.link_ratio_end)
        return frame.shock_friction_n * ratio / setup.shock_spring_rate_n_per_m

    def tape_sd_m(self, end: str, setup: ChassisSetup) -> float:
        """Standard deviation [m] of a sag as it is read: of the tape, and of where in the band of friction it rests."""
        return sqrt(TAPE_SD_M**2 + (0.5 * self.friction_m(end, setup)) ** 2)

    @cached_property
    def offsets(self) -> Offsets:
        """What sags and weighings with the rider aboard say of preloads, rates and the rider's share."""
        if self.drawn is None:
            return self._calibrated
        none = tuple((0.0,) * len(self.drawn) for _ in self.drawn)
        return replace(self._calibrated, mean=self.drawn, covariance=none)

    @cached_property
    def _calibrated(self) -> Offsets:
        key = (self.loads, self.rider, self.readings)  # each reading brings the pressure outside with it
        return self.cache.get(
            "offsets",
            key,
            lambda: calibrate(
                [e for r in self.readings if (e := self._evidence(r)) is not None],
                [
                    RATE[r.end]
                    for r in self.readings
                    if isinstance(r, SagReading) and STAMPED[r.end] in r.under.setup.assumed
                ],
            ),
        )

    def _evidence(self, reading: StandingReading) -> Evidence | None:
        """What a sag or a weighing with the rider aboard says of the offsets."""
        under = reading.under
        if isinstance(reading, SagReading):
            rider = (under.rider or self.rider) if reading.state == "race" else None
            end, setup, fuel = reading.end, under.setup, under.fuel_aboard_m3
            outside = outside_of(under, self.bike.frame.home_height_m)
            return Evidence(
                reading_id=reading.id,
                value=reading.value_m,
                of=self.rests_on(end, setup),
                sd=self.tape_sd_m(end, setup),
                predict=lambda o: self.sag(end, setup, rider, fuel, o, outside_pa=outside, aboard=under.aboard),
            )
        if isinstance(reading, WeighingReading) and reading.rider_aboard:
            who, fuel = under.rider or self.rider, under.fuel_aboard_m3
            return Evidence(
                reading_id=reading.id,
                value=reading.rear_kg,
                of=(SHARE,),
                sd=SCALE_SD_KG,
                predict=lambda o: (
                    self.loads.on_wheels(under.setup, who, fuel, float(o[2]), aboard=under.aboard).rear_kg
                ),
            )
        return None

    @cached_property
    def geometry(self) -> Geometry:
        """What tape and angle gauge say."""
        measured = [r for r in self.readings if isinstance(r, GeometryReading)]
        return learn_geometry(self.loads.frame, measured, self._predicted)

    @property
    def side(self) -> Frame:
        """The frame as weighed and measured."""
        return self.geometry.frame

    def _predicted(self, frame: Frame, reading: GeometryReading) -> float:
        """What the side view says of a measured quantity, as the bike was when it was measured."""
        under, setup = reading.under, reading.under.setup
        view = side_view_of(
            self.bike,
            frame,
            setup,
            rear_radius_m=rolling_radius(self.bike.tyre),
            axle_back_m=self.loads.axle_back_m(setup),
        )
        rider = (under.rider or self.rider) if reading.state == "race" else None
        sags = {"front": 0.0, "rear": 0.0}
        if reading.state != "topped_out":
            outside = outside_of(under, self.bike.frame.home_height_m)
            sags = {
                end: self.sag(
                    end, setup, rider, under.fuel_aboard_m3, self.offsets.mean, outside_pa=outside, aboard=under.aboard
                )
                for end in sags
            }
        attitude = attitude_of(view, fork_in_m=sags["front"], rear_in_m=sags["rear"])
        if reading.of == "wheelbase":
            return attitude.wheelbase_m
        if reading.of == "rake":
            return attitude.rake_rad
        height = getattr(frame, FIELD_OF[reading.of]) + (
            seat_up_of(self.bike, setup)
            if reading.of == "seat_height"
            else shift_of(self.bike, setup, "ground_clearance_m")
        )
        return attitude.place((AHEAD_OF[reading.of] * frame.wheelbase_m, height))[1]

    def targets(self, end: str, setup: ChassisSetup) -> SagTargets:
        """Where sags of an end should lie, of the travel that a setup leaves."""
        travel_m = travel_of(self.bike.frame, setup, end)
        return sag.front_targets(travel_m) if end == "front" else sag.rear_targets(travel_m)


@keyed
class LoadedBike:
    """The bike with one setup under one rider."""

    springs: Springs
    setup: LoadedSetup
    rider: Rider

    @classmethod
    def of(cls, inputs: Inputs, springs: Springs) -> "LoadedBike":
        return cls(springs=springs, setup=LoadedSetup.taken_from(inputs.setup), rider=inputs.rider)

    @cached_property
    def _kept(self) -> dict[Hashable, Any]:
        return self.springs.cache.get("loaded_bike", self, dict)

    @property
    def half_m3(self) -> float:
        """Half of the fuel at the start [m3]: the mean of the race."""
        return 0.5 * self.setup.fill_m3

    @property
    def offset(self) -> float:
        """What is added to the rider's share on the rear wheel [1], as learned."""
        return self.springs.offsets.mean[SHARE]

    @property
    def fork(self) -> sag.Fork:
        """The fork as it is set and as learned, at the race."""
        return self.springs.fork(self.setup, self.springs.offsets.mean)

    @property
    def shock(self) -> sag.Shock:
        """The shock as it is set and as learned."""
        return self.springs.shock(self.setup, self.springs.offsets.mean)

    @property
    def chain_fit(self) -> ChainFit | None:
        return self.springs.loads.chain_fit(self.setup)

    @property
    def axle_back_m(self) -> float:
        return self.springs.loads.axle_back_m(self.setup)

    @property
    def cg_height_m(self) -> float:
        return self.springs.loads.cg_height_m(self.setup, self.rider)

    def loads(self, fuel_m3: float, *, with_rider: bool = True, share_offset: float = 0.0) -> AxleLoads:
        """Mass on each wheel [kg] with this fuel."""
        return self.springs.loads.on_wheels(self.setup, self.rider if with_rider else None, fuel_m3, share_offset)

    def sprung(self, end: str) -> tuple[float, float]:
        """Sprung mass [kg] at one end: rider in position, and bike alone, at half the fill and with the calibrated
        share.
        """
        if end not in self._kept:
            race = self.springs.sprung(end, self.setup, self.rider, self.half_m3, self.offset)
            self._kept[end] = race, self.springs.sprung(end, self.setup, None, self.half_m3, 0.0)
        return self._kept[end]  # type: ignore[no-any-return]

    def sag_m(self, end: str, *, race: bool, fuel_m3: float) -> float:
        """Sag [m] of an end; race: under the rider, else free."""
        key = (end, race, fuel_m3)
        if key not in self._kept:
            rider, offsets = self.rider if race else None, self.springs.offsets.mean
            self._kept[key] = self.springs.sag(end, self.setup, rider, fuel_m3, offsets)
        return self._kept[key]  # type: ignore[no-any-return]

    def sag(self, end: str, *, race: bool, fuel_m3: float) -> tuple[float, float]:
        """Sag [m] of an end and half of its 90 % interval, which takes some five sags more; race: under the rider."""
        key, rider, springs = (end, race, fuel_m3, "ranged"), self.rider if race else None, self.springs

        sprung_kg: dict[float, float] = {}

        def predict(o: Offset) -> float:
            share = float(o[SHARE])  # of the offsets it alone moves a load
            if share not in sprung_kg:
                sprung_kg[share] = springs.sprung(end, self.setup, rider, fuel_m3, share)
            return springs.sag_under(end, self.setup, sprung_kg[share], o)

        if key not in self._kept:
            width = half_width(
                predict,
                springs.offsets,
                springs.rests_on(end, self.setup),
                springs.friction_m(end, self.setup),
                springs.unread(end, self.setup),
            )
            self._kept[key] = self.sag_m(end, race=race, fuel_m3=fuel_m3), width
        return self._kept[key]  # type: ignore[no-any-return]

    def race_sag(self, end: str) -> float:
        """Race sag [m] at half the fill."""
        return self.sag_m(end, race=True, fuel_m3=self.half_m3)
