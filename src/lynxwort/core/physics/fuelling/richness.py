"""Richness of a draft against the known-good pair: percent of fuel per dry air, + = richer, with a range whose lean end
rules.

Every error is put on the rich side: a leaning jet step counts in full (fourth root), an enriching one by the series
model; denser air counts in full, thinner air by what a 10 mm lift head leaves of it (exponent -0.48 at full flow, -0.31
at low flow).
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import brentq

from lynxwort.core.model.bike.carburettor import Carburettor, Needle
from lynxwort.core.physics.air.moist import AirState, dry_density, moist_density
from lynxwort.core.physics.fuelling.fuels import fuel_of, jet_richness
from lynxwort.core.physics.fuelling.jets import (
    annulus_area,
    area_factor_for_air,
    jet_area,
    number_for_area_factor,
    pilot_weight,
    premix_petrol_share,
    series_area,
)

Array = NDArray[np.float64]
LIFT_POINTS = 41
RICH_LOOK, RICH_ACT = 0.06, 0.10
#: an unmeasured needle may act this much more or less than the default one (assumption)
UNMEASURED_NEEDLE_SPREAD = 0.5


#: a pilot jet known on one side only may differ by this much; another needle against an unmeasured one by this
#: much [1]
#: (assumption)
UNSAID_PILOT_SPREAD, OTHER_NEEDLE_SPREAD = 0.10, 0.03
#: cutaway acts this much more or less than said; a turn of the screw half to twice what is said (assumption)
CUTAWAY_SPREAD, SCREW_LEAST, SCREW_MOST = 0.5, 0.5, 2.0
#: screw turns when none are said (common practice, no source), and beyond which the screw does nothing more
#: (assumption)
USUAL_TURNS, MOST_TURNS = 1.5, 4.0
#: cutaway acts about this opening and so far to either side of it (HANDBOOK 2: one eighth to three eighths)
CUTAWAY_AT, CUTAWAY_REACH = 0.25, 0.20
Three = tuple[float, float, float]


@dataclass(frozen=True, slots=True, kw_only=True)
class Jetting:
    """What a step can change. Numbers of main and pilot jet, clip from the top, needle slot (1 = the bike's own), bore
    of the needle jet [m], turns of the screw out, number of the cutaway, fuel slot; premix_ratio: None = no oil. None
    elsewhere: not said.
    """

    main_jet: float
    needle_clip: int
    premix_ratio: float | None
    pilot_jet: float | None = None
    screw_turns: float | None = None
    needle: int = 1
    needle_jet_bore_m: float | None = None
    slide_cutaway: float | None = None
    fuel: int = 1


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
    full = (
        1.0 / area_factor_for_air(dry_density(air) / dry_density(proven), moist_density(air) / moist_density(proven))
        - 1.0
    )
    damped = full * (0.62 + 0.34 * np.clip(throttle / 0.5, 0.0, 1.0))
    value = np.full(throttle.shape, full)
    return value, np.minimum(value, damped), np.maximum(value, damped)


def needle_in(carburettor: Carburettor, jetting: Jetting) -> Needle:
    """The needle with its jet as fitted; the usual one where the bike's own is not measured."""
    needle = (carburettor.needle or Needle()) if jetting.needle <= 1 else carburettor.needles[jetting.needle - 2].needle
    return (
        needle
        if jetting.needle_jet_bore_m is None
        else needle.model_copy(update={"jet_bore_m": jetting.needle_jet_bore_m})
    )


def ring_area(carburettor: Carburettor, jetting: Jetting, throttle: Array) -> Array:
    """Free area [m2] between needle and jet over the throttle."""
    middle = (carburettor.clip_positions + 1) // 2
    return annulus_area(
        needle_in(carburettor, jetting), throttle * carburettor.full_lift_m, jetting.needle_clip, middle
    )


def _pilot_step(carburettor: Carburettor, draft: Jetting, proven: Jetting) -> Three:
    """Richness [1] of the pilot circuit alone: value, low, high."""
    numbers = draft.pilot_jet, proven.pilot_jet
    jet, spread = 0.0, 0.0
    if numbers[0] is not None and numbers[1] is not None:
        jet = jet_area(numbers[0], carburettor.jet_numbering) / jet_area(numbers[1], carburettor.jet_numbering) - 1.0
    elif numbers != (None, None):
        spread = UNSAID_PILOT_SPREAD
    screw = carburettor.screw_turn * screw_turned(carburettor, draft, proven)
    ends = SCREW_LEAST * screw, SCREW_MOST * screw
    value, low, high = ((1.0 + jet) * max(1.0 + s, 0.0) - 1.0 for s in (screw, min(ends), max(ends)))
    return value, low - spread, high + spread


def screw_turned(carburettor: Carburettor, draft: Jetting, proven: Jetting) -> float:
    """Turns of the screw [1] against where it ran right, + = richer."""
    out = [min(USUAL_TURNS if j.screw_turns is None else j.screw_turns, MOST_TURNS) for j in (draft, proven)]
    return out[0] - out[1] if carburettor.screw == "fuel" else out[1] - out[0]


def cutaway_share(throttle: Array) -> Array:
    """How much the slide's cutaway acts over the throttle [1]: most at a quarter. Assumption, no source."""
    off = np.clip(np.abs(np.asarray(throttle) - CUTAWAY_AT) / CUTAWAY_REACH, 0.0, 1.0)
    return np.asarray(0.5 * (1.0 + np.cos(np.pi * off)))


def _cutaway_step(carburettor: Carburettor, draft: Jetting, proven: Jetting) -> Three:
    if draft.slide_cutaway is None or proven.slide_cutaway is None:
        return 0.0, 0.0, 0.0
    value = -carburettor.cutaway_step * (draft.slide_cutaway - proven.slide_cutaway)
    return value, value - CUTAWAY_SPREAD * abs(value), value + CUTAWAY_SPREAD * abs(value)


def step_effects(
    carburettor: Carburettor, drafts: Sequence[Jetting], proven: Jetting, throttle: Array
) -> tuple[Array, Array, Array]:
    """Richness [1] that jets, needle, screw, slide, oil and fuel bring against the proven ones: value, low, high, each
    shape (drafts, throttle). Zero when nothing differs.
    """
    pilot, cut, numbering = pilot_weight(throttle), cutaway_share(throttle), carburettor.jet_numbering

    def each(parts: Callable[[Jetting], tuple[object, ...]], of: Callable[[Jetting], object]) -> Array:
        """One row per draft, worked out once for each that is fitted alike in these parts."""
        known: dict[tuple[object, ...], object] = {}
        rows = []
        for d in drafts:
            fitted = parts(d)
            if fitted not in known:
                known[fitted] = of(d)
            rows.append(known[fitted])
        return np.array(rows)

    here = each(lambda d: (d.needle, d.needle_jet_bore_m, d.needle_clip), lambda d: ring_area(carburettor, d, throttle))
    then = ring_area(carburettor, proven, throttle)
    main, proven_main = (
        np.array([[jet_area(d.main_jet, numbering)] for d in drafts]),
        jet_area(proven.main_jet, numbering),
    )
    with_jet = series_area(main, then)
    jet_series, needle = with_jet / series_area(proven_main, then) - 1.0, series_area(main, here) / with_jet - 1.0
    rest = each(
        lambda d: (d.premix_ratio, d.fuel),
        lambda d: [premix_petrol_share(d.premix_ratio) * (1.0 + jet_richness(fuel_of(d.fuel), fuel_of(proven.fuel)))],
    )
    rest /= premix_petrol_share(proven.premix_ratio)
    idle = each(lambda d: (d.pilot_jet, d.screw_turns), lambda d: _pilot_step(carburettor, d, proven))
    slide = each(lambda d: (d.slide_cutaway,), lambda d: _cutaway_step(carburettor, d, proven))

    def whole(jet: Array, needle_step: Array, end: int) -> Array:
        mixed = 1.0 + pilot * idle[:, end : end + 1] + (1.0 - pilot) * ((1.0 + jet) * (1.0 + needle_step) - 1.0)
        return np.asarray(mixed * (1.0 + cut * slide[:, end : end + 1]) * rest - 1.0)

    value = whole(jet_series, needle, 0)
    if carburettor.needle is not None:
        return value, whole(jet_series, needle, 1), whole(jet_series, needle, 2)
    spread = UNMEASURED_NEEDLE_SPREAD * np.abs(needle) + np.array(
        [[OTHER_NEEDLE_SPREAD if d.needle != proven.needle else 0.0] for d in drafts]
    )
    jet_alone = main / proven_main - 1.0
    low = whole(np.minimum(jet_series, jet_alone), needle - spread, 1)
    high = whole(np.maximum(jet_series, jet_alone), needle + spread, 2)
    return value, low, high


def step_effect(
    carburettor: Carburettor, draft: Jetting, proven: Jetting, throttle: Array
) -> tuple[Array, Array, Array]:
    """The same of one draft [1]: value, low, high, each of the throttle's shape."""
    value, low, high = step_effects(carburettor, (draft,), proven, throttle)
    return value[0], low[0], high[0]


NO_SHIFT: Three = (0.0, 0.0, 0.0)


def richness_curve(
    carburettor: Carburettor,
    draft: Jetting,
    air: AirState,
    proven: Jetting,
    proven_air: AirState,
    shift: Three = NO_SHIFT,
) -> RichnessCurve:
    """Richness along the throttle of a draft in given air, against a pair known to run right. shift: of other fittings
    (core.fuelling.breathing).
    """
    throttle = np.linspace(0.0, 1.0, LIFT_POINTS)
    parts = zip(
        air_effect(air, proven_air, throttle), step_effect(carburettor, draft, proven, throttle), shift, strict=True
    )
    value, low, high = ((1.0 + a) * (1.0 + b) * (1.0 + c) - 1.0 for a, b, c in parts)
    return RichnessCurve(throttle=throttle, value=value, low=low, high=high)


def _low_end_from_half(
    carburettor: Carburettor, draft: Jetting, proven: Jetting, throttle: Array
) -> Callable[[float, Array], Array]:
    """What step_effects says of the lean end [1 + richness] where neither pilot nor cutaway acts, of a main jet's and
    the needle's free area [m2].
    """
    then, proven_main = ring_area(carburettor, proven, throttle), jet_area(proven.main_jet, carburettor.jet_numbering)
    base, other = series_area(proven_main, then), OTHER_NEEDLE_SPREAD if draft.needle != proven.needle else 0.0
    rest = (
        premix_petrol_share(draft.premix_ratio)
        / premix_petrol_share(proven.premix_ratio)
        * (1.0 + jet_richness(fuel_of(draft.fuel), fuel_of(proven.fuel)))
    )

    def low_end(jet_m2: float, here: Array) -> Array:
        with_jet = series_area(jet_m2, then)
        jet, needle = with_jet / base, series_area(jet_m2, here) / with_jet - 1.0
        if carburettor.needle is None:
            jet, needle = (
                np.minimum(jet, jet_m2 / proven_main),
                needle - UNMEASURED_NEEDLE_SPREAD * np.abs(needle) - other,
            )
        return np.asarray(jet * (1.0 + needle) * rest)

    return low_end


def main_jet_wanted(
    carburettor: Carburettor,
    draft: Jetting,
    air: AirState,
    proven: Jetting,
    proven_air: AirState,
    limit: float,
    shift_low: float = 0.0,
    from_lift: float = 0.5,
) -> float | None:
    """Number of the leanest main jet [number] whose lean end from a lift (half or more) up still keeps the limit in
    this air.

    Root on the number: richness rises with the jet. Leaning steps end at the fourth root, enriching ones at the series
    model. None when no jet can do it, since the needle's annulus limits the flow. shift_low: lean end of what other
    fittings do.
    """
    half = np.linspace(from_lift, 1.0, round((1.0 - from_lift) * (LIFT_POINTS - 1)) + 1)
    _, air_low, _ = air_effect(air, proven_air, half)
    # from half lift up neither pilot nor cutaway acts, and only the main jet moves: the rings and all else stay
    here, low_end = ring_area(carburettor, draft, half), _low_end_from_half(carburettor, draft, proven, half)

    def excess(number: float) -> float:
        return (
            float(((1.0 + air_low) * low_end(jet_area(number, carburettor.jet_numbering), here)).min())
            * (1.0 + shift_low)
            - 1.0
            - limit
        )

    low, high = 0.3 * draft.main_jet, 4.0 * draft.main_jet
    if excess(high) < 0.0:
        return None
    return float(brentq(excess, low, high, xtol=1e-6)) if excess(low) < 0.0 else low


def clip_wanted(
    carburettor: Carburettor,
    draft: Jetting,
    air: AirState,
    proven: Jetting,
    proven_air: AirState,
    limit: float,
    shift_low: float = 0.0,
) -> float | None:
    """Leanest clip from the top, between grooves too [number], whose lean end from half to three quarters of lift keeps
    the limit in this air.

    None when the richest groove does not do it; 1 when the leanest already does.
    """
    throttle = np.linspace(0.5, 0.75, LIFT_POINTS // 4 + 1)
    _, air_low, _ = air_effect(air, proven_air, throttle)

    needle, middle, low_end = (
        needle_in(carburettor, draft),
        (carburettor.clip_positions + 1) // 2,
        _low_end_from_half(carburettor, draft, proven, throttle),
    )
    main, lift = jet_area(draft.main_jet, carburettor.jet_numbering), throttle * carburettor.full_lift_m

    def excess(clip: float) -> float:
        here = annulus_area(needle, lift, clip, middle)  # type: ignore[arg-type]
        # where the needle is straight a clip changes nothing: the first place that is level counts
        return float(((1.0 + air_low) * low_end(main, here)).min()) * (1.0 + shift_low) - 1.0 - limit + 1e-9

    if excess(carburettor.clip_positions) < 0.0:
        return None
    return float(brentq(excess, 1.0, carburettor.clip_positions, xtol=1e-3)) if excess(1.0) < 0.0 else 1.0


def pilot_wanted(
    carburettor: Carburettor,
    draft: Jetting,
    air: AirState,
    proven: Jetting,
    proven_air: AirState,
    shift_low: float = 0.0,
) -> float | None:
    """Number [1] of the leanest pilot jet whose lean end, throttle hardly open, keeps to the proven pair in
    this air; None when no pilot was said.
    """
    if draft.pilot_jet is None or proven.pilot_jet is None:
        return None
    shut = np.zeros(1)
    _, air_low, _ = air_effect(air, proven_air, shut)
    _, step_low, _ = step_effect(carburettor, draft, proven, shut)
    now = (1.0 + float(air_low[0])) * (1.0 + float(step_low[0])) * (1.0 + shift_low)
    return number_for_area_factor(draft.pilot_jet, 1.0 / now, carburettor.jet_numbering)


def becomes(
    carburettor: Carburettor, draft: Jetting, air: AirState, proven: Jetting, proven_air: AirState, shift: float = 0.0
) -> float:
    """Factor on a jet's area [1] that keeps the proven mixture in this air, with this fuel, oil and what else is fitted
    (shift [1]).
    """
    area = area_factor_for_air(
        dry_density(air) / dry_density(proven_air), moist_density(air) / moist_density(proven_air)
    )
    fuel = 1.0 + jet_richness(fuel_of(draft.fuel), fuel_of(proven.fuel))
    oil = premix_petrol_share(draft.premix_ratio) / premix_petrol_share(proven.premix_ratio)
    return area / (fuel * oil * (1.0 + shift))


def ruling_shares(carburettor: Carburettor, jetting: Jetting, throttle: float) -> dict[str, float]:
    """How far pilot, needle and main jet rule the fuel at an opening [1], adding up to 1: the pilot's share, the rest
    by the orifices in series.
    """
    at = np.array([throttle])
    pilot = float(pilot_weight(at)[0])
    main, ring = jet_area(jetting.main_jet, carburettor.jet_numbering), float(ring_area(carburettor, jetting, at)[0])
    needle = main**2 / (main**2 + ring**2)
    return {"pilot": pilot, "needle": (1.0 - pilot) * needle, "main": (1.0 - pilot) * (1.0 - needle)}
