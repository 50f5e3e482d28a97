"""One valve: ports, a shim stack over them, a bleed beside it; pressure against flow.

Everything follows from the pressure across the shims, so no root is sought: lift -> flow under the shims -> loss in the
ports -> bleed beside both.
"""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.physics.damping.orifices import flow, pressure_over
from lynxwort.core.physics.damping.stack import Bent, Stack, bend, true_lift

Array = NDArray[np.float64]
#: pressures across the shims at which a valve is worked out [Pa]
PRESSURES = np.concatenate([[0.0], np.geomspace(20.0, 4e7, 180)])
#: pressures at which a stack with gaps is solved; between them its lift is read off [Pa]
SOLVED = np.concatenate([[0.0], np.geomspace(2e3, 4e7, 40)])


@dataclass(frozen=True, slots=True, kw_only=True)
class Valve:
    """stack over ports of port_area_m2; cover: share of the ports' ring that is open; float_m: how far the stack moves
    before it bends; opens_pa: pressure that a preload spring holds shut.
    """

    stack: Stack
    port_area_m2: float
    cover: float = 0.7
    float_m: float = 0.0
    opens_pa: float = 0.0

    def pressed(self, across_pa: Array | float) -> Array:
        """What presses the shims [Pa] of a pressure across them: beyond what a preload spring holds, on the open share
        of the ring.
        """
        return np.asarray(np.maximum(np.asarray(across_pa) - self.opens_pa, 0.0) * self.cover)


@dataclass(frozen=True, slots=True, kw_only=True)
class Flow:
    """flow_m3_per_s and pressure_pa over the valve, rising, shape (n,); across_pa: of it, across the shims; lift_m of
    the shims' rim.
    """

    flow_m3_per_s: Array
    pressure_pa: Array
    across_pa: Array
    lift_m: Array


@lru_cache(maxsize=512)
def lifts(stack: Stack, footprint: float) -> Array:
    """Lift above the seat [m] at PRESSURES, large deflection counted. footprint: factor on the lift per pressure."""
    bent = bend(stack, SOLVED[1:] * footprint)
    real = np.maximum(true_lift(stack, bent.lift_m) - stack.preload_m, 0.0)
    return np.asarray(np.interp(PRESSURES, SOLVED, np.concatenate([[0.0], real])))


def bent_under(valve: Valve, across_pa: float, footprint: float) -> tuple[Bent, float]:
    """The stack with so much pressure [Pa] across its shims, and the factor [1] that large deflection puts on its lift
    and stress.
    """
    found = bend(valve.stack, [float(valve.pressed(across_pa)) * footprint])
    linear = float(found.lift_m[0])
    return found, float(true_lift(valve.stack, found.lift_m)[0]) / linear if linear > 0.0 else 1.0


def valve_flow(valve: Valve, bleed_m2: float, *, footprint: float = 1.0, lift_scale: float = 1.0) -> Flow:
    """Pressure against flow with so much bleed open [m2].

    footprint: factor on the pressed area, from a damper dyno run; lift_scale: makes the stack softer (above 1) or
    stiffer, to find a target.
    """
    pressed = valve.pressed(PRESSURES)
    lift = np.interp(pressed, PRESSURES, lifts(valve.stack, footprint)) * lift_scale
    opened = lift + np.where(pressed > 0.0, valve.float_m * pressed / (pressed + 2e3), 0.0)
    under = flow(2.0 * np.pi * valve.stack.face_radius_m * opened, PRESSURES)
    whole = PRESSURES + pressure_over(valve.port_area_m2, under)
    return Flow(flow_m3_per_s=under + flow(bleed_m2, whole), pressure_pa=whole, across_pa=PRESSURES, lift_m=lift)


def pressure_at(curve: Flow, flow_m3_per_s: Array) -> Array:
    """Pressure [Pa] at a flow [m3/s]; between the points as a power, so that v^2 stays v^2; beyond the last as the
    ports.
    """
    q, p = curve.flow_m3_per_s, curve.pressure_pa
    wanted = np.asarray(flow_m3_per_s, dtype=float)
    inside = np.exp(np.interp(np.log(np.maximum(wanted, q[1])), np.log(q[1:]), np.log(p[1:])))
    low = p[1] * (wanted / q[1]) ** 2
    return np.asarray(np.where(wanted < q[1], low, np.where(wanted > q[-1], p[-1] * (wanted / q[-1]) ** 2, inside)))
