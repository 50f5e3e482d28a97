"""Dampers: what stays in them, and their shim stacks as they are typed."""

import re
from typing import Annotated

from pydantic import Field, model_validator

from lynxwort.core.model.base import Part, quantity

MOST_SHIMS = 40
#: a shim as it is shown: count, diameter, thickness, both in mm; and as the trade writes it: the thickness as the
#: decimals of the diameter, the count before or behind
_PLAIN = re.compile(r"^(?:(\d{1,2})x)?(\d{1,2})(?:mm)?x0?[.,](\d{1,2})(?:mm)?(?:x(\d{1,2}))?$")
_SHIM = re.compile(r"^(?:(\d{1,2})x)?(\d{1,2})[.,](\d{1,2})(?:x(\d{1,2}))?$")


class StackShim(Part):
    """Some equal shims on one another."""

    diameter_m: float = quantity(5e-3, 6e-2, "m", "bore")
    thickness_m: float = quantity(5e-5, 1e-3, "m", "bore")
    count: int = quantity(1, 30, "1", "count", 1, source="assumption: one")


ShimStack = Annotated[tuple[StackShim, ...], Field(min_length=1, max_length=MOST_SHIMS)]


def read_stack(text: str) -> list[dict[str, float | int]]:
    """A stack from the face to the clamp: "3 × 24 × 0.15, 22 × 0.15", or as the trade writes it, "3x24.15 22.15";
    spaces, commas or lines between.

    24.15 is 24 mm by 0.15 mm, 24.1 is 24 mm by 0.10 mm. Raises ValueError (not_a_shim) with the word that is none.
    """
    found: list[dict[str, float | int]] = []
    plain = re.sub(r"\s*[x×*]\s*", "x", re.sub(r"\s+mm\b", "mm", text.strip().lower()))
    for word in re.split(r"[\s;]+", plain):
        if not word.strip(","):
            continue
        match = _PLAIN.match(word.strip(",")) or _SHIM.match(word.strip(","))
        if not match:
            raise ValueError(f"not_a_shim:{word[:20]}")
        before, diameter, thick, behind = match.groups()
        found.append(
            {
                "diameter_m": int(diameter) / 1000.0,
                "thickness_m": round(float(f"0.{thick}") / 1000.0, 9),
                "count": int(before or behind or 1),
            }
        )
    return found


def write_stack(stack: tuple[StackShim, ...]) -> str:
    """A stack as it is shown: the inverse of read_stack."""
    return ", ".join(shim_name(s.diameter_m, s.thickness_m, s.count) for s in stack)


def shim_name(diameter_m: float, thickness_m: float, count: int = 1) -> str:
    """Some equal shims: 3 × 24 × 0.15 are three of 24 mm by 0.15 mm."""
    several = f"{count} × " if count > 1 else ""
    return f"{several}{diameter_m * 1000.0:.0f} × {thickness_m * 1000.0:.2f}"


def stack_of(text: str) -> tuple[StackShim, ...]:
    """A stack from the way it is typed."""
    return tuple(StackShim.model_validate(s) for s in read_stack(text))


class ValveSeat(Part):
    """What a shim stack sits on."""

    clamp_m: float = quantity(5e-3, 4e-2, "m", "bore")
    """diameter of what clamps the stack"""
    port_inner_m: float = quantity(2e-3, 3e-2, "m", "bore")
    """inner radius of the ports under the shims"""
    port_outer_m: float = quantity(2e-3, 3e-2, "m", "bore")
    """outer radius of the ports"""
    port_area_m2: float = quantity(5e-6, 2e-3, "m^2", "area")
    """area of the ports, all together"""
    float_m: float = quantity(0.0, 2e-3, "m", "bore", 0.0, source="assumption: none")
    """how far the stack moves before it bends"""
    height_most_m: float | None = quantity(
        1e-3,
        4e-2,
        "m",
        "bore",
        None,
        source="from the manual, or measured: shims up to where the nut still has its thread",
    )
    """highest stack that the nut still holds"""

    @model_validator(mode="after")
    def _ports(self) -> "ValveSeat":
        if self.port_inner_m >= self.port_outer_m:
            raise ValueError("port_inner_m:ports_order")
        return self


class DamperFacts(Part):
    """What stays in a damper."""

    bore_m: float = quantity(0.01, 0.08, "m", "bore")
    """bore of the cartridge or the shock body"""
    rod_m: float = quantity(0.005, 0.04, "m", "bore")
    """diameter of its rod"""
    reservoir_pa: float = quantity(1e5, 3e6, "Pa", "pressure")
    """pressure behind the oil, absolute"""
    compression_clicks: int = quantity(1, 60, "1", "count", 22, source="from memory")
    """clicks of the compression adjuster from fully in to fully out"""
    rebound_clicks: int = quantity(1, 60, "1", "count", 22, source="from memory")
    """clicks of the rebound adjuster from fully in to fully out"""
    high_speed_turns: float = quantity(0.0, 6.0, "1", "factor", 0.0, source="assumption: no such adjuster")
    """turns of the high-speed adjuster from fully out to fully in"""
    pa_per_turn: float = quantity(0.0, 2e6, "Pa", "pressure", 1.5e5, source="assumption")
    """pressure that one turn of it holds the base valve shut"""
    needle_bore_m: float = quantity(5e-4, 8e-3, "m", "bore")
    """seat of the compression needle"""
    needle_half_angle_rad: float = quantity(0.02, 0.8, "rad", "angle", 0.15708, source="assumption: 9 degrees")
    needle_m_per_click: float = quantity(5e-6, 5e-4, "m", "bore", 6e-5, source="assumption")
    """how far a click draws a needle out"""
    needle_fixed_m2: float = quantity(0.0, 2e-5, "m^2", "area", 1e-7, source="assumption")
    """bleed that stays open with the compression needle shut"""
    rebound_needle_bore_m: float = quantity(5e-4, 8e-3, "m", "bore")
    """seat of the rebound needle"""
    rebound_fixed_m2: float = quantity(0.0, 2e-5, "m^2", "area", 5e-7, source="assumption")
    """bleed that stays open with the rebound needle shut"""
    footprint: float = quantity(0.1, 10.0, "1", "factor", 1.0, source="assumption until a damper dyno run fits it")
    """pressed area of the ports over what their ring says"""
    base: ValveSeat
    piston: ValveSeat
    rebound: ValveSeat

    @model_validator(mode="after")
    def _rod(self) -> "DamperFacts":
        if self.rod_m >= self.bore_m:
            raise ValueError("rod_m:rod_in_bore")
        return self


#: which stacks a damper has; the setup's field is f"{fork or shock}_{place}_stack"
PLACES: tuple[str, ...] = ("base", "piston", "rebound")
#: one set of default dampers for the whole product: geometry from memory, stacks and ports chosen until the damping
#: ratio looks usual (assumption)
STOCK_FACTS: dict[str, DamperFacts] = {
    "fork": DamperFacts(
        bore_m=0.024,
        rod_m=0.012,
        reservoir_pa=0.25e6,
        needle_bore_m=2.4e-3,
        rebound_needle_bore_m=3.0e-3,
        base=ValveSeat(clamp_m=0.012, port_inner_m=7.5e-3, port_outer_m=10.5e-3, port_area_m2=40e-6),
        piston=ValveSeat(clamp_m=0.010, port_inner_m=6e-3, port_outer_m=8.5e-3, port_area_m2=60e-6, float_m=1e-4),
        rebound=ValveSeat(clamp_m=0.010, port_inner_m=6e-3, port_outer_m=8.5e-3, port_area_m2=45e-6),
    ),
    "shock": DamperFacts(
        bore_m=0.050,
        rod_m=0.018,
        reservoir_pa=1.0e6,
        needle_bore_m=2.8e-3,
        rebound_needle_bore_m=4.0e-3,
        rebound_fixed_m2=3e-7,
        high_speed_turns=3.0,
        base=ValveSeat(clamp_m=0.012, port_inner_m=7.5e-3, port_outer_m=10.5e-3, port_area_m2=70e-6),
        piston=ValveSeat(clamp_m=0.022, port_inner_m=13e-3, port_outer_m=18e-3, port_area_m2=300e-6),
        rebound=ValveSeat(clamp_m=0.020, port_inner_m=12e-3, port_outer_m=16e-3, port_area_m2=230e-6),
    ),
}
STOCK_STACKS: dict[str, tuple[StackShim, ...]] = {
    name: stack_of(text)
    for name, text in {
        "fork_base": "4x24.20 22.20 20.20 18.20 16.20 14.20",
        "fork_piston": "2x20.10 17.10 14.10",
        "fork_rebound": "2x20.15 20.10 17.10 13.10",
        "shock_base": "8x24.20 22.20 20.20 18.20 16.20 14.20",
        "shock_piston": "7x40.15 2x36.15 2x32.15 2x28.15 2x25.15",
        "shock_rebound": "7x36.15 2x34.15 2x32.15 2x28.15 2x24.15",
    }.items()
}
#: clicks out of a damper of which nobody said them
MIDDLE_CLICKS = 12
