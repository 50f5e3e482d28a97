"""The mixture that a setup makes in some air, against the setting that ran right."""

from collections.abc import Hashable
from dataclasses import replace
from functools import cached_property

import numpy as np

from lynxwort.core.cache import keyed
from lynxwort.core.derived.day import Day, state_of
from lynxwort.core.derived.track import Round
from lynxwort.core.learned.mixture import log_cells, over_log
from lynxwort.core.model.bike import Electric, Engine, Injected, Injection, Jetted, Rod, TwoStroke
from lynxwort.core.model.fit import setup_misfit
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.model.readings import KnownGoodReading, LogReading
from lynxwort.core.model.setup import FuellingSetup
from lynxwort.core.physics.air.moist import AirState
from lynxwort.core.physics.fuelling.breathing import mixture_shift
from lynxwort.core.physics.fuelling.fuels import fuel_of, jet_richness
from lynxwort.core.physics.fuelling.jets import premix_petrol_share
from lynxwort.core.physics.fuelling.metering import MapSetting, RodSetting, map_curve, rod_curve
from lynxwort.core.physics.fuelling.richness import NO_SHIFT, Jetting, RichnessCurve, Three, richness_curve

Setting = Jetting | RodSetting | MapSetting


def jetting_of(setup: FuellingSetup) -> Jetting:
    """The jets of a setup that has a main jet."""
    return Jetting(
        main_jet=setup.main_jet or 0.0,
        needle_clip=setup.needle_clip,
        premix_ratio=setup.premix_ratio,
        pilot_jet=setup.pilot_jet,
        screw_turns=setup.screw_turns,
        needle=setup.needle or 1,
        needle_jet_bore_m=setup.needle_jet_bore_m,
        slide_cutaway=setup.slide_cutaway,
        fuel=setup.fuel or 1,
    )


def setting_of(setup: FuellingSetup, engine: Engine) -> Setting | None:
    """The part of a setup that the mixture depends on; None when it is not of this engine's kind."""
    if isinstance(engine, Jetted):
        fits = setup.main_jet is not None and (setup.needle or 1) <= 1 + len(engine.carburettor.needles)
        return jetting_of(setup) if fits else None
    if isinstance(engine, Rod):
        return RodSetting(rod=setup.metering_rod or 0, clicks=setup.knob_clicks or 0, premix_ratio=setup.premix_ratio)
    if isinstance(engine, Injected):
        slot, made = setup.map_slot or 1, engine.injection
        fits = slot <= len(made.map_shifts) and len(setup.map_trims) in (
            0,
            len(made.rpm_axis) * len(made.throttle_axis),
        )
        return (
            MapSetting(slot=slot, trim=setup.fuel_trim or 0.0, premix_ratio=setup.premix_ratio, trims=setup.map_trims)
            if fits
            else None
        )
    return None


@keyed
class Mixture:
    """good: the newest known-good setting that has its air and is of this engine's kind; log: the newest mixture log of
    this bike; grounds: of the round.
    """

    engine: Engine
    good: KnownGoodReading | None
    log: LogReading | None
    grounds: tuple[str, ...]

    @classmethod
    def of(cls, inputs: Inputs, around: Round) -> "Mixture":
        engine, live = inputs.bike.engine, [r for r in inputs.readings if not r.struck_out]
        good = [
            r
            for r in live
            if isinstance(r, KnownGoodReading) and r.under.air and setting_of(r.under.setup, engine) is not None
        ]
        logs = [
            r
            for r in live
            if isinstance(r, LogReading)
            and isinstance(engine, Injected)
            and not setup_misfit(inputs.bike, r.under.setup)
        ]
        return cls(
            engine=engine, good=good[-1] if good else None, log=logs[-1] if logs else None, grounds=around.grounds
        )

    @cached_property
    def _shifts(self) -> dict[Hashable, Three]:
        return {}

    @cached_property
    def proven(self) -> tuple[Setting, AirState] | None:
        """The proven setting and its air."""
        if self.good is None or self.good.under.air is None:
            return None
        setting = setting_of(self.good.under.setup, self.engine)
        return None if setting is None else (setting, state_of(self.good.under.air))

    def curve(self, air: AirState, setup: FuellingSetup) -> RichnessCurve | None:
        """Richness of a setup in some air; None without a proven setting."""
        engine, draft = self.engine, setting_of(setup, self.engine)
        if self.proven is None or draft is None:
            return None
        proven, proven_air = self.proven
        shift = self.shift(setup)
        if isinstance(draft, Jetting) and isinstance(proven, Jetting) and isinstance(engine, Jetted):
            return richness_curve(engine.carburettor, draft, air, proven, proven_air, shift)
        if isinstance(draft, RodSetting) and isinstance(proven, RodSetting) and isinstance(engine, Rod):
            return rod_curve(engine.carburettor, draft, air, proven, proven_air, shift)
        if isinstance(draft, MapSetting) and isinstance(proven, MapSetting) and isinstance(engine, Injected):
            curve = map_curve(engine.injection, draft, air, proven, proven_air, shift, engine.peak_power_rpm)
            return self.switched(self._logged(curve, engine.injection, draft, air, setup), setup)
        return None

    def map_ratios(self, setup: FuellingSetup) -> dict[str, float]:
        """Kind of ground of this race -> fuel there / fuel of the map in use [1], where the rider switches to another
        map.
        """
        if not isinstance(self.engine, Injected) or not setup.map_by_ground:
            return {}
        shifts = self.engine.injection.map_shifts
        own = 1.0 + shifts[(setup.map_slot or 1) - 1]
        return {g: (1.0 + shifts[slot - 1]) / own for g, slot in setup.map_by_ground.items() if g in self.grounds}

    def switched(self, curve: RichnessCurve, setup: FuellingSetup) -> RichnessCurve:
        """The curve with its ends over all maps that the rider switches to on this race."""
        ratios = [1.0, *self.map_ratios(setup).values()]
        low, high = (1.0 + curve.low) * min(ratios) - 1.0, (1.0 + curve.high) * max(ratios) - 1.0
        return curve if len(ratios) == 1 else replace(curve, low=low, high=high)

    def shift(self, setup: FuellingSetup) -> Three:
        """Richness [1] that other fittings (and, without jets, another fuel) bring against the proven setting: value,
        low, high.
        """
        if setup not in self._shifts:
            self._shifts[setup] = self._shift(setup)
        return self._shifts[setup]

    def _shift(self, setup: FuellingSetup) -> Three:
        engine = self.engine
        if self.good is None or isinstance(engine, Electric):
            return NO_SHIFT
        then = self.good.under.setup
        fuel = 0.0 if isinstance(engine, Jetted) else jet_richness(fuel_of(setup.fuel), fuel_of(then.fuel))
        value, low, high = ((1.0 + s) * (1.0 + fuel) - 1.0 for s in mixture_shift(engine, setup, then))
        return value, low, high

    def _logged(
        self, curve: RichnessCurve, injection: Injection, draft: MapSetting, air: AirState, setup: FuellingSetup
    ) -> RichnessCurve:
        """The curve with what a log of a four-stroke says in place, where it says enough: richness against the
        target.
        """
        log = self.log
        if log is None or isinstance(self.engine, TwoStroke):
            return curve
        then = log.under.setup
        plain = MapSetting(slot=then.map_slot or 1, trim=then.fuel_trim or 0.0, premix_ratio=then.premix_ratio)
        value, low, high = ((1.0 + s) for s in mixture_shift(self.engine, setup, then))  # type: ignore[arg-type]
        fuel = jet_richness(fuel_of(setup.fuel), fuel_of(then.fuel))
        shift = ((1.0 + fuel) * value - 1.0, (1.0 + fuel) * low - 1.0, (1.0 + fuel) * high - 1.0)
        moved = map_curve(
            injection, replace(draft, trims=()), air, plain, state_of(log.under.air) if log.under.air else air, shift
        )
        return over_log(curve, moved, log_cells(injection, log), injection, then.map_trims, setup.map_trims)

    def richer_mix(self, air: AirState, setup: FuellingSetup, *, as_ridden: bool = False) -> float:
        """How much more of what is in the tank goes through the jets than with the proven setting [1], mean over the
        lower half of the throttle.

        Oil in the mix leans the engine and saves no litre: jets pass mix, whatever is in it. A leaner mixture than the
        proven one saves nothing either, unless it is asked as it was ridden.
        """
        curve = self.curve(air, setup)
        if curve is None or self.proven is None:
            return 0.0
        oil = premix_petrol_share(setup.premix_ratio) / premix_petrol_share(self.proven[0].premix_ratio)
        mix = (1.0 + curve.value[curve.throttle <= 0.5]) / oil - 1.0
        return float((mix if as_ridden else np.maximum(mix, 0.0)).mean())


@keyed
class Richness:
    """The mixture of one setup in the air of the race. drawn: where it truly is in its range, see Truth."""

    mixture: Mixture
    setup: FuellingSetup
    day: Day
    drawn: float | None = None

    @classmethod
    def of(cls, inputs: Inputs, mixture: Mixture, day: Day, drawn: float | None = None) -> "Richness":
        return cls(mixture=mixture, setup=FuellingSetup.taken_from(inputs.setup), day=day, drawn=drawn)

    def _curve(self, air: AirState) -> RichnessCurve | None:
        curve = self.mixture.curve(air, self.setup)
        if curve is None or self.drawn is None:
            return curve
        far = self.drawn
        true = curve.value + (far * (curve.high - curve.value) if far > 0.0 else far * (curve.value - curve.low))
        return replace(curve, value=true, low=true, high=true)

    @cached_property
    def densest(self) -> RichnessCurve | None:
        """In the densest air; None without a proven setting."""
        return self._curve(self.day.states.densest)

    @cached_property
    def thinnest(self) -> RichnessCurve | None:
        """In the thinnest air."""
        return self._curve(self.day.states.thinnest)
