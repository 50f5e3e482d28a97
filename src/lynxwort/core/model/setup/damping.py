"""Adjusters and shims of fork and shock."""

from functools import partial
from typing import Annotated

from pydantic import Field

from lynxwort.core.model.base import Part, quantity
from lynxwort.core.model.bike import Bike
from lynxwort.core.model.damper import MIDDLE_CLICKS, ShimStack
from lynxwort.core.model.setup.chassis import LoadedSetup
from lynxwort.core.model.tunable import SetWhole, Tunable

clicked = partial(Tunable, station="damping", as_built=True, by_hand=True)
FRONT = (
    "damping.front.zeta_compression",
    "damping.front.zeta_rebound",
    "damping.front.travel_used",
    "damping.front.packing",
)
REAR = (
    "damping.rear.zeta_compression",
    "damping.rear.zeta_rebound",
    "damping.rear.travel_used",
    "damping.rear.packing",
)


def _high_speed_turns(bike: Bike) -> float:
    return bike.shock_damper.high_speed_turns


def _high_speed(bike: Bike) -> bool:
    return _high_speed_turns(bike) > 0.0


class DampingSetup(Part):
    """Clicks, turns and stacks."""

    shock_compression_clicks: Annotated[
        int | None,
        clicked(shows=REAR, step=1, unset=MIDDLE_CLICKS, most=lambda bike: bike.damper("shock").compression_clicks),
    ] = quantity(0, 60, "1", "count", None, source="assumption: 12 out")
    """clicks of the shock's low-speed compression adjuster, counted out from fully in"""
    shock_rebound_clicks: Annotated[
        int | None,
        clicked(shows=REAR, step=1, unset=MIDDLE_CLICKS, most=lambda bike: bike.damper("shock").rebound_clicks),
    ] = quantity(0, 60, "1", "count", None, source="assumption: 12 out")
    """clicks of the shock's rebound adjuster, counted out from fully in"""
    shock_high_speed_turns: Annotated[
        float | None, clicked(shows=REAR, step=0.25, unset=0.0, there=_high_speed, most=_high_speed_turns)
    ] = quantity(0.0, 6.0, "1", "factor", None, source="assumption: fully out")
    """turns of the shock's high-speed adjuster in from fully out"""
    fork_compression_clicks: Annotated[
        int | None,
        clicked(shows=FRONT, step=1, unset=MIDDLE_CLICKS, most=lambda bike: bike.damper("fork").compression_clicks),
    ] = quantity(0, 60, "1", "count", None, source="assumption: 12 out")
    """clicks of the fork's compression adjuster, counted out from fully in"""
    fork_rebound_clicks: Annotated[
        int | None,
        clicked(shows=FRONT, step=1, unset=MIDDLE_CLICKS, most=lambda bike: bike.damper("fork").rebound_clicks),
    ] = quantity(0, 60, "1", "count", None, source="assumption: 12 out")
    """clicks of the fork's rebound adjuster, counted out from fully in"""
    fork_base_stack: Annotated[ShimStack | None, SetWhole("damping")] = Field(
        None, json_schema_extra={"unit": "", "kind": "list", "source": "assumption: as stock"}
    )
    """shims of the fork's base valve, from the face to the clamp"""
    fork_piston_stack: Annotated[ShimStack | None, SetWhole("damping")] = Field(
        None, json_schema_extra={"unit": "", "kind": "list", "source": "assumption: as stock"}
    )
    """shims of the fork's compression face of the piston (mid valve), from the face to the clamp"""
    fork_rebound_stack: Annotated[ShimStack | None, SetWhole("damping")] = Field(
        None, json_schema_extra={"unit": "", "kind": "list", "source": "assumption: as stock"}
    )
    """shims of the fork's rebound face of the piston, from the face to the clamp"""
    shock_base_stack: Annotated[ShimStack | None, SetWhole("damping")] = Field(
        None, json_schema_extra={"unit": "", "kind": "list", "source": "assumption: as stock"}
    )
    """shims of the shock's base valve, from the face to the clamp"""
    shock_piston_stack: Annotated[ShimStack | None, SetWhole("damping")] = Field(
        None, json_schema_extra={"unit": "", "kind": "list", "source": "assumption: as stock"}
    )
    """shims of the shock's compression face of the piston (mid valve), from the face to the clamp"""
    shock_rebound_stack: Annotated[ShimStack | None, SetWhole("damping")] = Field(
        None, json_schema_extra={"unit": "", "kind": "list", "source": "assumption: as stock"}
    )
    """shims of the shock's rebound face of the piston, from the face to the clamp"""


class SuspensionSetup(DampingSetup, LoadedSetup):
    """All that decides how the bike rides over the ground: how it stands, and how it is damped."""
