"""Adjusters and shims of fork and shock."""

from pydantic import Field

from lynxwort.core.model.base import Part, quantity
from lynxwort.core.model.damper import ShimStack
from lynxwort.core.model.setup.chassis import StandSetup


class DampingSetup(Part):
    """Clicks, turns and stacks."""

    fork_compression_clicks: int | None = quantity(0, 60, "1", "count", None, source="assumption: 12 out")
    """clicks of the fork's compression adjuster, counted out from fully in"""
    fork_rebound_clicks: int | None = quantity(0, 60, "1", "count", None, source="assumption: 12 out")
    """clicks of the fork's rebound adjuster, counted out from fully in"""
    shock_compression_clicks: int | None = quantity(0, 60, "1", "count", None, source="assumption: 12 out")
    """clicks of the shock's low-speed compression adjuster, counted out from fully in"""
    shock_rebound_clicks: int | None = quantity(0, 60, "1", "count", None, source="assumption: 12 out")
    """clicks of the shock's rebound adjuster, counted out from fully in"""
    shock_high_speed_turns: float | None = quantity(0.0, 6.0, "1", "factor", None, source="assumption: fully out")
    """turns of the shock's high-speed adjuster in from fully out"""
    fork_base_stack: ShimStack | None = Field(None, json_schema_extra={"unit": "", "kind": "list", "source": "assumption: as stock"})
    """shims of the fork's base valve, from the face to the clamp"""
    fork_piston_stack: ShimStack | None = Field(None, json_schema_extra={"unit": "", "kind": "list", "source": "assumption: as stock"})
    """shims of the fork's compression face of the piston (mid valve), from the face to the clamp"""
    fork_rebound_stack: ShimStack | None = Field(None, json_schema_extra={"unit": "", "kind": "list", "source": "assumption: as stock"})
    """shims of the fork's rebound face of the piston, from the face to the clamp"""
    shock_base_stack: ShimStack | None = Field(None, json_schema_extra={"unit": "", "kind": "list", "source": "assumption: as stock"})
    """shims of the shock's base valve, from the face to the clamp"""
    shock_piston_stack: ShimStack | None = Field(None, json_schema_extra={"unit": "", "kind": "list", "source": "assumption: as stock"})
    """shims of the shock's compression face of the piston (mid valve), from the face to the clamp"""
    shock_rebound_stack: ShimStack | None = Field(None, json_schema_extra={"unit": "", "kind": "list", "source": "assumption: as stock"})
    """shims of the shock's rebound face of the piston, from the face to the clamp"""


class SuspensionSetup(DampingSetup, StandSetup):
    """All that decides how the bike rides over the ground: how it stands, and how it is damped."""
