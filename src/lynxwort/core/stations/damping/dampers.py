"""Fork and shock dampers as a setup has them."""

from lynxwort.core.model.bike import Bike
from lynxwort.core.model.damper import MIDDLE_CLICKS, STOCK_STACKS, DamperFacts, StackShim, ValveSeat
from lynxwort.core.model.setup import DampingSetup
from lynxwort.core.physics.damping import damper, stack
from lynxwort.core.physics.damping.orifices import Needle
from lynxwort.core.physics.damping.valve import Valve

ENDS = {"front": "fork", "rear": "shock"}
CHECK_SHIM, CHECK_CLAMP_M, CHECK_PORTS_M = stack.Shim(0.024, 0.0001), 0.012, (0.0075, 0.0105)


def shims_of(setup: DampingSetup, end: str, place: str) -> tuple[StackShim, ...]:
    """The shims of one valve of "fork" or "shock"; stock ones when nobody said."""
    return getattr(setup, f"{end}_{place}_stack") or STOCK_STACKS[f"{end}_{place}"]


def stack_in(shims: tuple[StackShim, ...], seat: ValveSeat) -> stack.Stack:
    """Shims on their seat."""
    leaves = tuple(stack.Shim(s.diameter_m, s.thickness_m) for s in shims for _ in range(s.count))
    return stack.Stack(shims=leaves, clamp_m=seat.clamp_m, ports_m=(seat.port_inner_m, seat.port_outer_m))


def _valve(setup: DampingSetup, end: str, place: str, facts: DamperFacts, opens_pa: float = 0.0) -> Valve:
    seat: ValveSeat = getattr(facts, place)
    return Valve(
        stack=stack_in(shims_of(setup, end, place), seat),
        port_area_m2=seat.port_area_m2,
        float_m=seat.float_m,
        opens_pa=opens_pa,
    )


def facts_of(bike: Bike, end: str) -> DamperFacts:
    """What stays in the damper of "fork" or "shock"."""
    return bike.damper(end)


def damper_of(bike: Bike, setup: DampingSetup, end: str) -> damper.Damper:
    """The damper of "fork" or "shock" with this setup's shims and high-speed adjuster."""
    facts = facts_of(bike, end)
    turns = (setup.shock_high_speed_turns or 0.0) if end == "shock" else 0.0
    soft = stack.Stack(shims=(CHECK_SHIM,), clamp_m=CHECK_CLAMP_M, ports_m=CHECK_PORTS_M)
    return damper.Damper(
        bore_m=facts.bore_m,
        rod_m=facts.rod_m,
        reservoir_pa=facts.reservoir_pa,
        base=_valve(setup, end, "base", facts, turns * facts.pa_per_turn),
        piston=_valve(setup, end, "piston", facts),
        rebound=_valve(setup, end, "rebound", facts),
        check=Valve(stack=soft, port_area_m2=110e-6, float_m=1e-3),
        compression_needle=Needle(
            bore_m=facts.needle_bore_m,
            half_angle_rad=facts.needle_half_angle_rad,
            m_per_click=facts.needle_m_per_click,
            fixed_m2=facts.needle_fixed_m2,
        ),
        rebound_needle=Needle(
            bore_m=facts.rebound_needle_bore_m,
            half_angle_rad=facts.needle_half_angle_rad,
            m_per_click=facts.needle_m_per_click,
            fixed_m2=facts.rebound_fixed_m2,
        ),
        footprint=facts.footprint,
    )


def clicks_of(setup: DampingSetup, end: str) -> tuple[int, int]:
    """Clicks out of compression and rebound."""
    found = (getattr(setup, f"{end}_{way}_clicks") for way in ("compression", "rebound"))
    return tuple(MIDDLE_CLICKS if c is None else c for c in found)  # type: ignore[return-value]


def curve_of(bike: Bike, setup: DampingSetup, end: str) -> damper.Curve:
    """Force against shaft speed of one damper as it is set."""
    return damper.curve(damper_of(bike, setup, end), *clicks_of(setup, end))


def legs_of(bike: Bike) -> int:
    """Fork legs whose damper works on each stroke; a stock damper nobody described stands for both."""
    return 1 if bike.frame.fork_damping == "split" and bike.fork_damper is not None else 2


def tables_of(bike: Bike, setup: DampingSetup, end: str) -> tuple[damper.Array, damper.Array]:
    """Force tables of all legs of "fork" or of the "shock", in and out, over damper.SPEEDS."""
    curve, legs = curve_of(bike, setup, end), legs_of(bike) if end == "fork" else 1
    return legs * curve.compression_n, legs * curve.rebound_n


def damper_tables(bike: Bike, setup: DampingSetup) -> tuple[damper.Array, damper.Array, damper.Array, damper.Array]:
    """Force tables of fork and shock, in and out, over damper.SPEEDS."""
    return (*tables_of(bike, setup, "fork"), *tables_of(bike, setup, "shock"))
