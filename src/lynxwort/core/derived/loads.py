"""What each wheel carries, with any setup, rider and fuel: the bike as it was weighed."""

from collections.abc import Hashable
from dataclasses import field
from functools import cached_property

from lynxwort.core.cache import StageCache, keyed
from lynxwort.core.learned.weight import Weighed, learn_height, learn_weight
from lynxwort.core.model.bike import Bike, Frame
from lynxwort.core.model.bike.kit import Aboard
from lynxwort.core.model.fitted import aboard_of
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.model.readings import TiltReading, Under, WeighingReading
from lynxwort.core.model.rider import Rider
from lynxwort.core.model.setup import DriveSetup, LoadedSetup
from lynxwort.core.physics.chassis.loads import (
    NOTHING,
    RIDER_CG_M,
    AxleLoads,
    Extras,
    axle_loads,
    bare,
    extras_of,
    joint_height,
    on_wheel_kg,
    tilted_cg_height,
    wheel_change_kg,
    with_axle_back,
    with_axle_forward,
)
from lynxwort.core.physics.drive.chain import ChainFit, fit_chain, swingarm_of
from lynxwort.core.physics.drive.gearing import radius_of_marking, rolling_radius


def chain_fit(frame: Frame, setup: DriveSetup, cache: StageCache) -> ChainFit | None:
    """How the chain fits a setup's sprockets; None when no even number of links lies within the adjusters."""
    arm, front, rear = swingarm_of(frame), setup.front_sprocket_teeth, setup.rear_sprocket_teeth
    links, half_range, play = frame.chain_links, frame.adjuster_half_range_m, frame.chain_play_m
    key = (arm, front, rear, links, half_range, play)
    return cache.get(
        "chain", key, lambda: fit_chain(arm, front, rear, links=links, half_range_m=half_range, play_m=play)
    )


@keyed
class Loads:
    """The bike and the weighings of it that count."""

    bike: Bike
    readings: tuple[WeighingReading | TiltReading, ...]
    cache: StageCache = field(compare=False, repr=False)

    @classmethod
    def of(cls, inputs: Inputs, cache: StageCache) -> "Loads":
        found = tuple(r for r in inputs.readings if isinstance(r, WeighingReading | TiltReading) and not r.struck_out)
        return cls(bike=inputs.bike, readings=found, cache=cache)

    @cached_property
    def _axles(self) -> dict[Hashable, float]:
        return {}

    # what rides along now with a setup: a sag's range asks for it dozens of times
    @cached_property
    def _carried(self) -> dict[LoadedSetup, Aboard]:
        return {}

    @cached_property
    def _added(self) -> dict[LoadedSetup, Extras]:
        return {}

    @cached_property
    def _unsprung(self) -> dict[tuple[LoadedSetup, str], float]:
        return {}

    def chain_fit(self, setup: DriveSetup) -> ChainFit | None:
        return chain_fit(self.bike.frame, setup, self.cache)

    def axle_back_m(self, setup: DriveSetup) -> float:
        """Where the rear axle lies in its adjusters [m] with a setup's sprockets, from their middle, + = back; the
        middle when no chain fits.
        """
        pair = setup.front_sprocket_teeth, setup.rear_sprocket_teeth
        if pair not in self._axles:
            fit = self.chain_fit(setup)
            self._axles[pair] = 0.0 if fit is None else fit.axle_move_m
        return self._axles[pair]

    def unsprung(self, setup: LoadedSetup, end: str, aboard: Aboard | None = None) -> float:
        """Mass that moves with a wheel [kg]; a heavier wheel and what is bolted to it count. aboard: what rode along,
        None = what does now.
        """
        if aboard is None:
            if (setup, end) not in self._unsprung:
                self._unsprung[setup, end] = self.unsprung(setup, end, self._aboard_now(setup))
            return self._unsprung[setup, end]
        frame = self.bike.frame
        own = frame.unsprung_front_kg if end == "front" else frame.unsprung_rear_kg
        return own + wheel_change_kg(frame, setup, end) + on_wheel_kg(aboard, end)

    def _aboard_now(self, setup: LoadedSetup) -> Aboard:
        if setup not in self._carried:
            self._carried[setup] = aboard_of(self.bike, setup)
        return self._carried[setup]

    def _aboard(self, under: Under) -> Aboard:
        """What rode along when something was read."""
        return self._aboard_now(under.setup) if under.aboard is None else under.aboard

    @cached_property
    def weighed(self) -> Weighed:
        """What the scales say."""
        frame, level = self.bike.frame, list[tuple[str, AxleLoads]]()
        for r in self.readings:
            if isinstance(r, WeighingReading) and not r.rider_aboard:
                setup = r.under.setup
                stood = with_axle_forward(
                    AxleLoads(front_kg=r.front_kg, rear_kg=r.rear_kg),
                    wheelbase_m=frame.wheelbase_m,
                    unsprung_rear_kg=self.unsprung(setup, "rear", r.under.aboard),
                    back_m=self.axle_back_m(setup),
                )
                fuel = r.under.fuel_aboard_m3
                extras = extras_of(frame, self.bike.engine, setup, self._aboard(r.under))
                level.append(
                    (r.id, bare(frame, front_kg=stood.front_kg, rear_kg=stood.rear_kg, fuel_m3=fuel, extras=extras))
                )
        found = learn_weight(frame, level)
        return learn_height(
            found, [(r.id, self._tilted(found.frame, r)) for r in self.readings if isinstance(r, TiltReading)]
        )

    def _tilted(self, frame: Frame, reading: TiltReading) -> float | None:
        """Height [m] by a tilted weighing; None when the axle cannot have stood so high."""
        setup = reading.under.setup
        back = self.axle_back_m(setup)
        aboard = self._aboard(reading.under)
        extras = extras_of(frame, self.bike.engine, setup, aboard)
        level = with_axle_back(
            axle_loads(frame, fuel_m3=reading.under.fuel_aboard_m3, extras=extras),
            wheelbase_m=frame.wheelbase_m,
            unsprung_rear_kg=self.unsprung(setup, "rear", aboard),
            back_m=back,
        )
        if reading.raised_m > 0.8 * frame.wheelbase_m:
            return None
        return tilted_cg_height(
            level,
            raised=reading.raised,
            raised_m=reading.raised_m,
            load_kg=reading.load_kg,
            wheelbase_m=frame.wheelbase_m + back,
            front_radius_m=radius_of_marking(frame.front_tyre),
            rear_radius_m=rolling_radius(self.bike.tyre),
        )

    @property
    def weight_of_kind(self) -> bool:
        """Whether nobody said its weight, nor weighed it: only the kind of bike is known."""
        return "frame.mass_dry_kg" in self.bike.assumed and not self.weighed.used

    @property
    def frame(self) -> Frame:
        """The frame with its weight as weighed."""
        return self.weighed.frame

    def extras(self, setup: LoadedSetup, aboard: Aboard | None = None) -> Extras:
        """What a setup adds to the bike as weighed. aboard: what rode along, None = what does now."""
        if aboard is not None:
            return extras_of(self.frame, self.bike.engine, setup, aboard)
        if setup not in self._added:
            self._added[setup] = extras_of(self.frame, self.bike.engine, setup, self._aboard_now(setup))
        return self._added[setup]

    def on_wheels(
        self,
        setup: LoadedSetup,
        rider: Rider | None,
        fuel_m3: float,
        share_offset: float = 0.0,
        *,
        axle_in_middle: bool = False,
        aboard: Aboard | None = None,
    ) -> AxleLoads:
        """Mass on each wheel [kg]; rider None: the bike alone. axle_in_middle: whatever the chain says of where the
        axle lies; aboard: what rode along, None = what does now.
        """
        made = axle_loads(
            self.frame,
            fuel_m3=fuel_m3,
            rider_kg=rider.mass_in_gear_kg if rider else 0.0,
            posture=rider.posture if rider else "standing",
            share_offset=share_offset,
            extras=self.extras(setup, aboard),
        )
        back = 0.0 if axle_in_middle else self.axle_back_m(setup)
        if back == 0.0:
            return made
        return with_axle_back(
            made, wheelbase_m=self.frame.wheelbase_m, unsprung_rear_kg=self.unsprung(setup, "rear", aboard), back_m=back
        )

    def cg_height_m(self, setup: LoadedSetup, rider: Rider, aboard: Aboard | None = None) -> float:
        """Height of the centre of gravity [m], rider aboard: as given, or from a tilted weighing; what rides along
        counts.
        """
        extras, frame, alone = self.extras(setup, aboard), self.frame, self.weighed.cg_height_m
        carried = frame.mass_dry_kg + rider.mass_in_gear_kg
        height = (
            frame.cg_height_m
            if alone is None
            else joint_height([(frame.mass_dry_kg, alone), (rider.mass_in_gear_kg, RIDER_CG_M[rider.posture])])
        )
        if extras is NOTHING or extras.height_moment_kg_m == 0.0:
            return height
        return (carried * height + extras.height_moment_kg_m) / (carried + extras.height_kg)
