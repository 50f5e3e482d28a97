"""Richness of a draft against the known-good pair: percent of fuel per dry air, + = richer, with a range whose lean end rules.

Every error is put on the rich side: a leaning jet step counts in full (fourth root), an enriching one by the series model;
denser air counts in full, thinner air by what a 10 mm lift head leaves of it (exponent -0.48 at full flow, -0.31 at low flow).
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import brentq

from lynxwort.core.air.moist import AirState, dry_density, moist_density
from lynxwort.core.fuelling.jets import (
    annulus_area,
    area_factor_for_air,
    jet_area,
    number_for_area_factor,
    pilot_weight,
    premix_petrol_share,
    series_area,
)  # fmt: skip
from lynxwort.core.model.bike import Carburettor, Needle

Array = NDArray[np.float64]
LIFT_POINTS = 41
#: limits on the lean end from half lift up (assumption, editable later)
TWO_STROKE_LIMITS = ((20.0, 0.04), (8.0, 0.02), (0.0, 0.0))
FOUR_STROKE_LIMIT = -0.02
FOUR_STROKE_ACT = -0.04
RICH_LOOK, RICH_ACT = 0.06, 0.10
#: an unmeasured needle may act this much more or less than the default one (assumption)
UNMEASURED_NEEDLE_SPREAD = 0.5


@dataclass(frozen=True, slots=True, kw_only=True)
class Jetting:
    """What a step can change: main jet number, needle clip, premix ratio (None = no oil)."""

    main_jet: float
    needle_clip: int
    premix_ratio: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class RichnessCurve:
    """Richness over throttle [1], + = rich: value and the lean and rich end of its range. All shape (LIFT_POINTS,)."""

    throttle: Array
    value: Array
    low: Array
    high: Array

    def at_full(self) -> tuple[float, float, float]:
        """Value, low and high at full lift."""
        return float(self.value[-1]), float(self.low[-1]), float(self.high[-1])

    def leanest_from_half(self) -> float:
        """Least low end from half lift up."""
        return float(self.low[self.throttle >= 0.5 - 1e-9].min())


def air_effect(air: AirState, proven: AirState, throttle: Array) -> tuple[Array, Array, Array]:
    """Richness [1] that the air alone brings against the proven air: value, low, high."""
    full = 1.0 / area_factor_for_air(dry_density(air) / dry_density(proven), moist_density(air) / moist_density(proven)) - 1.0
    damped = full * (0.62 + 0.34 * np.clip(throttle / 0.5, 0.0, 1.0))
    value = np.full(throttle.shape, full)
    return value, np.minimum(value, damped), np.maximum(value, damped)


def step_effect(carburettor: Carburettor, draft: Jetting, proven: Jetting, throttle: Array) -> tuple[Array, Array, Array]:
    """Richness [1] that jets, clip and premix bring against the proven ones: value, low, high. Zero when nothing differs."""
    measured = carburettor.needle is not None
    needle = carburettor.needle or Needle()
    middle = (carburettor.clip_positions + 1) // 2
    lift = throttle * carburettor.full_lift_m
    pilot = pilot_weight(throttle)
    numbering = carburettor.jet_numbering

    def area(jet: float, clip: int) -> Array:
        return series_area(jet_area(jet, numbering), annulus_area(needle, lift, clip, middle))

    base = area(proven.main_jet, proven.needle_clip)
    jet_series = area(draft.main_jet, proven.needle_clip) / base - 1.0
    jet_alone = np.full(throttle.shape, jet_area(draft.main_jet, numbering) / jet_area(proven.main_jet, numbering) - 1.0)
    clip = area(draft.main_jet, draft.needle_clip) / area(draft.main_jet, proven.needle_clip) - 1.0
    premix = premix_petrol_share(draft.premix_ratio) / premix_petrol_share(proven.premix_ratio) - 1.0

    def whole(jet: Array, needle_step: Array) -> Array:
        return (1.0 + (1.0 - pilot) * ((1.0 + jet) * (1.0 + needle_step) - 1.0)) * (1.0 + premix) - 1.0

    value = whole(jet_series, clip)
    if measured:
        return value, value.copy(), value.copy()
    spread = UNMEASURED_NEEDLE_SPREAD * np.abs(clip)
    low = whole(np.minimum(jet_series, jet_alone), clip - spread)
    high = whole(np.maximum(jet_series, jet_alone), clip + spread)
    return value, low, high


def richness_curve(carburettor: Carburettor, draft: Jetting, air: AirState, proven: Jetting, proven_air: AirState) -> RichnessCurve:
    """Richness along the throttle of a draft in given air, against a pair known to run right."""
    throttle = np.linspace(0.0, 1.0, LIFT_POINTS)
    parts = zip(air_effect(air, proven_air, throttle), step_effect(carburettor, draft, proven, throttle), strict=True)
    value, low, high = ((1.0 + a) * (1.0 + b) - 1.0 for a, b in parts)
    return RichnessCurve(throttle=throttle, value=value, low=low, high=high)


def lean_limit(two_stroke: bool, longest_full_throttle_s: float) -> float:
    """Least richness allowed on the lean end from half lift up [1]. Two-strokes: richer where full throttle is held long."""
    if not two_stroke:
        return FOUR_STROKE_LIMIT
    return next(limit for seconds, limit in TWO_STROKE_LIMITS if longest_full_throttle_s > seconds or seconds == 0.0)


def main_jet_wanted(carburettor: Carburettor, draft: Jetting, air: AirState, proven: Jetting, proven_air: AirState, limit: float) -> float | None:
    """Number of the leanest main jet [number] whose lean end from half lift up still keeps the limit in this air.

    Root on the number: richness rises with the jet. Leaning steps end at the fourth root, enriching ones at the series model.
    None when no jet can do it, since the needle's annulus limits the flow.
    """
    half = np.linspace(0.5, 1.0, LIFT_POINTS // 2 + 1)
    _, air_low, _ = air_effect(air, proven_air, half)

    def excess(number: float) -> float:
        trial = Jetting(main_jet=number, needle_clip=draft.needle_clip, premix_ratio=draft.premix_ratio)
        _, step_low, _ = step_effect(carburettor, trial, proven, half)
        return float(((1.0 + air_low) * (1.0 + step_low) - 1.0).min()) - limit

    low, high = 0.3 * draft.main_jet, 4.0 * draft.main_jet
    if excess(high) < 0.0:
        return None
    return float(brentq(excess, low, high, xtol=1e-6)) if excess(low) < 0.0 else low


def plain_number_for_air(number: float, numbering: str, air: AirState, proven_air: AirState) -> float:
    """The fourth-root (diameter) or square-root (flow) number for this air: a check beside the full model."""
    factor = area_factor_for_air(dry_density(air) / dry_density(proven_air), moist_density(air) / moist_density(proven_air))
    return number_for_area_factor(number, factor, numbering)
