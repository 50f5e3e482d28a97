"""The fork and the shock that a setup makes of a frame: springs, oil, air chambers, linkage."""

from math import pi

from lynxwort.core.model.bike.frame import Frame
from lynxwort.core.model.setup.chassis import ChassisSetup
from lynxwort.core.physics.chassis.sag import SEA_LEVEL_PA, Chamber, Fork, Shock
from lynxwort.core.physics.chassis.springs import Spring

#: pressures of an air-sprung fork when none is said [Pa] (from memory)
MAIN_PA, BALANCE_PA = 8.0e5, 6.0e5


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
    air = frame.fork_springing == "air"
    balance = frame.fork_balance_area_m2 if air else None
    return Fork(
        rate_n_per_m=legs_rate(frame, setup) * rate_scale,
        preload_m=setup.fork_preload_m + preload_offset_m,
        air_area_m2=2.0 * pi / 4.0 * frame.fork_air_diameter_m**2,
        air_length_m=frame.fork_travel_m + oil_gap(frame, setup),
        travel_m=frame.fork_travel_m,
        rake_rad=frame.rake_rad,
        outside_pa=outside_pa,
        spring=spring,
        top_out=(frame.fork_top_out_n_per_m, frame.fork_top_out_m),
        main=Chamber(
            area_m2=frame.fork_main_area_m2,
            length_m=frame.fork_main_length_m,
            gauge_pa=setup.fork_air_pressure_pa or MAIN_PA,
        )
        if air
        else None,
        balance=None
        if balance is None
        else Chamber(
            area_m2=balance,
            length_m=frame.fork_balance_length_m,
            gauge_pa=BALANCE_PA if setup.fork_balance_pressure_pa is None else setup.fork_balance_pressure_pa,
        ),
    )


def shock_of_setup(
    frame: Frame, setup: ChassisSetup, *, preload_offset_m: float = 0.0, rate_scale: float = 1.0
) -> Shock:
    """The shock as it is set, behind its linkage. rate_scale: true over stamped rate [1]."""
    return Shock(
        rate_n_per_m=setup.shock_spring_rate_n_per_m * rate_scale,
        preload_m=setup.shock_preload_m + preload_offset_m,
        ratio_start=frame.link_ratio_start,
        ratio_end=frame.link_ratio_end,
        travel_m=frame.rear_travel_m,
        spring=spring_of(setup, "shock", setup.shock_spring_rate_n_per_m, rate_scale),
        table=tuple((p.wheel_m, p.shock_m) for p in frame.linkage),
    )
