"""The fork and the shock that a setup makes of a frame: springs, oil, air chambers, linkage."""

from dataclasses import replace
from functools import lru_cache
from math import pi
from typing import Any

from scipy.optimize import brentq

from lynxwort.core.model.bike.frame import Frame
from lynxwort.core.model.setup.chassis import ChassisSetup
from lynxwort.core.physics.chassis.sag import SEA_LEVEL_PA, Chamber, Fork, Shock, motion_rate, shock_stroke
from lynxwort.core.physics.chassis.springs import Spring

#: pressures of an air-sprung fork when none is said [Pa] (from memory)
MAIN_PA, BALANCE_PA = 8.0e5, 6.0e5
#: lines of a measured linkage that is cut at a spacer
LEFT_STEPS = 40


#: where a second rate is reached when it is not said [m] (assumption)
SECOND_AT_M = {"fork": 0.15, "shock": 0.03}


def spring_of(setup: ChassisSetup, end: str, rate_n_per_m: float, scale: float = 1.0) -> Spring | None:
    """The spring [N/m] of "fork" or "shock" when its rate changes on the way; None when it is straight."""
    second = getattr(setup, f"{end}_second_rate_n_per_m")
    if second is None or second == rate_n_per_m:
        return None
    at = getattr(setup, f"{end}_second_at_m") or SECOND_AT_M[end]
    start = min(getattr(setup, f"{end}_second_from_m") or 0.0, at)
    return Spring(rate_n_per_m=rate_n_per_m * scale, second_n_per_m=second * scale, from_m=start, to_m=at)


def other_leg(frame: Frame, setup: ChassisSetup, leg_rate_n_per_m: float) -> float:
    """Rate of the spring in the other fork leg [N/m], the one leg's spring having this rate."""
    if frame.fork_springs == "one":
        return 0.0
    return (
        leg_rate_n_per_m
        if frame.fork_springs == "alike" or setup.fork_other_rate_n_per_m is None
        else setup.fork_other_rate_n_per_m
    )


def legs_rate(frame: Frame, setup: ChassisSetup, leg_rate_n_per_m: float | None = None) -> float:
    """Rate of both fork legs together [N/m], the one leg's spring having this rate."""
    rate = setup.fork_spring_rate_n_per_m if leg_rate_n_per_m is None else leg_rate_n_per_m
    return rate + other_leg(frame, setup, rate)


def leg_rate(frame: Frame, setup: ChassisSetup, legs_n_per_m: float) -> float:
    """Rate [N/m] of the one leg's spring that makes this rate of both legs: the inverse of legs_rate."""
    if frame.fork_springs == "alike" or (frame.fork_springs == "different" and setup.fork_other_rate_n_per_m is None):
        return 0.5 * legs_n_per_m
    return legs_n_per_m - other_leg(frame, setup, 0.0)


def oil_gap(frame: Frame, setup: ChassisSetup) -> float:
    """Oil level below the tube's top [m], legs together."""
    return frame.fork_air_gap_m - (setup.fork_oil_up_m or 0.0)


def _unlimited(frame: Frame) -> Shock:
    """The linkage over its whole travel, whatever spring."""
    return Shock(
        rate_n_per_m=1.0,
        preload_m=0.0,
        ratio_start=frame.link_ratio_start,
        ratio_end=frame.link_ratio_end,
        travel_m=frame.rear_travel_m,
        table=tuple((p.wheel_m, p.shock_m) for p in frame.linkage),
    )


@lru_cache(maxsize=64)
def _taken(whole: Shock, spacer_m: float) -> float:
    return float(brentq(lambda w: shock_stroke(whole, w) - spacer_m, 0.0, whole.travel_m, xtol=1e-12))


def travel_taken(frame: Frame, setup: ChassisSetup, end: str) -> float:
    """Travel [m] that a spacer inside takes from an end, where it would be topped out: along the leg in front, at the
    axle behind, where the wheel hangs when the shaft has come out as far as the spacer lets it.
    """
    if end == "front":
        return setup.fork_spacer_m or 0.0
    return _taken(_unlimited(frame), setup.shock_spacer_m) if setup.shock_spacer_m else 0.0


def spacer_for(frame: Frame, taken_m: float) -> float:
    """Spacer [m] on the shock's shaft that takes so much of the rear wheel's travel [m]."""
    return shock_stroke(_unlimited(frame), taken_m)


def travel_of(frame: Frame, setup: ChassisSetup, end: str) -> float:
    """Travel [m] of an end as it is set: along the leg in front, straight up at the axle behind."""
    return (frame.fork_travel_m if end == "front" else frame.rear_travel_m) - travel_taken(frame, setup, end)


def _limited(whole: Shock, taken_m: float) -> dict[str, Any]:
    """What is left of a linkage, counted from where the shorter shock tops out: the end stays where it was."""
    if not taken_m:
        return {}
    left_m = whole.travel_m - taken_m
    left: dict[str, Any] = {"travel_m": left_m, "ratio_start": 1.0 / motion_rate(whole, taken_m)}
    if whole.table:
        end_m, gone_m = whole.table[-1][0], shock_stroke(whole, taken_m)
        at = [taken_m + (end_m - taken_m) * i / LEFT_STEPS for i in range(LEFT_STEPS + 1)]
        left["table"] = tuple((w - taken_m, shock_stroke(whole, w) - gone_m) for w in at)
    return left


def fork_of_setup(
    frame: Frame,
    setup: ChassisSetup,
    *,
    preload_offset_m: float = 0.0,
    rate_scale: float = 1.0,
    outside_pa: float = SEA_LEVEL_PA,
) -> Fork:
    """The fork as it is set, its legs bled at the place. rate_scale: true over stamped rate [1]; outside_pa:
    pressure [Pa] there.
    """
    one = spring_of(setup, "fork", setup.fork_spring_rate_n_per_m, rate_scale)
    other = other_leg(frame, setup, setup.fork_spring_rate_n_per_m) * rate_scale
    spring = one
    if one is not None and other and frame.fork_springs != "different":
        spring = Spring(
            rate_n_per_m=2.0 * one.rate_n_per_m,
            second_n_per_m=2.0 * one.second_n_per_m,
            from_m=one.from_m,
            to_m=one.to_m,
        )
    elif one is not None:
        spring = one.alongside(other)
    # with a spacer the leg tops out pushed in by as much: less air in it, in the main chamber too, and more in the
    # balance chamber, which the leg opens as it goes in
    spacer_m, travel_m = setup.fork_spacer_m or 0.0, travel_of(frame, setup, "front")
    air = frame.fork_springing == "air"
    balance = frame.fork_balance_area_m2 if air else None
    return Fork(
        rate_n_per_m=legs_rate(frame, setup) * rate_scale,
        preload_m=setup.fork_preload_m + preload_offset_m,
        air_area_m2=2.0 * pi / 4.0 * frame.fork_air_diameter_m**2,
        air_length_m=travel_m + oil_gap(frame, setup),
        travel_m=travel_m,
        rake_rad=frame.rake_rad,
        outside_pa=outside_pa,
        spring=spring,
        top_out=(frame.fork_top_out_n_per_m, frame.fork_top_out_m),
        main=Chamber(
            area_m2=frame.fork_main_area_m2,
            length_m=frame.fork_main_length_m - spacer_m,
            gauge_pa=setup.fork_air_pressure_pa or MAIN_PA,
        )
        if air
        else None,
        balance=None
        if balance is None
        else Chamber(
            area_m2=balance,
            length_m=frame.fork_balance_length_m + spacer_m,
            gauge_pa=BALANCE_PA if setup.fork_balance_pressure_pa is None else setup.fork_balance_pressure_pa,
        ),
    )


def shock_of_setup(
    frame: Frame, setup: ChassisSetup, *, preload_offset_m: float = 0.0, rate_scale: float = 1.0
) -> Shock:
    """The shock as it is set, behind its linkage. rate_scale: true over stamped rate [1]."""
    whole = _unlimited(frame)
    return replace(
        whole,
        rate_n_per_m=setup.shock_spring_rate_n_per_m * rate_scale,
        preload_m=setup.shock_preload_m + preload_offset_m,
        spring=spring_of(setup, "shock", setup.shock_spring_rate_n_per_m, rate_scale),
        **_limited(whole, travel_taken(frame, setup, "rear")),
    )
