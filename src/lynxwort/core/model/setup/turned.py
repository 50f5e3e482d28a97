"""What is turned at a hand-over: what one rider of a team has otherwise than the setup says."""

from typing import Annotated, Any, Literal, get_args

from pydantic import Field, model_validator

from lynxwort.core.model.base import Part
from lynxwort.core.model.tunable import SetWhole

Quick = Literal[
    "shock_preload_m",
    "fork_preload_m",
    "fork_air_pressure_pa",
    "fork_balance_pressure_pa",
    "shock_compression_clicks",
    "shock_rebound_clicks",
    "shock_high_speed_turns",
    "fork_compression_clicks",
    "fork_rebound_clicks",
    "bar_up_m",
    "bar_ahead_m",
    "front_tyre_pressure_pa",
    "rear_tyre_pressure_pa",
    "front_wheel",
    "rear_wheel",
]
#: fields of a setup that are turned or swapped while riders change, each with the time it takes [s], wheels ready and
#: warm hands (assumption). Nothing of the mixture is among them: it is one engine's, whoever rides it.
QUICK: dict[str, float] = dict.fromkeys(get_args(Quick), 15.0) | {
    "shock_preload_m": 120.0, "fork_preload_m": 60.0, "fork_air_pressure_pa": 60.0, "fork_balance_pressure_pa": 60.0,
    "bar_up_m": 240.0, "bar_ahead_m": 240.0, "front_tyre_pressure_pa": 45.0, "rear_tyre_pressure_pa": 45.0,
    "front_wheel": 150.0, "rear_wheel": 210.0,
}  # fmt: skip


class RiderSettings(Part):
    """What one rider of a team has otherwise, on every leg or on one; all else is as the setup says."""

    rider: str = Field(min_length=1, max_length=60)
    """the rider's name: a number would be another's as soon as the team changes"""
    leg: int = Field(0, ge=0, le=99, json_schema_extra={"unit": "", "kind": "count", "source": "assumption: every leg"})
    """which of his legs, the first is 1; 0: every one for which nothing else is said"""
    values: dict[Quick, int | float] = Field(min_length=0, max_length=len(QUICK))
    """field of the setup -> its value [SI] for this rider"""
    also: str = Field(
        "", max_length=80, json_schema_extra={"unit": "", "kind": "text", "source": "assumption: nothing"}
    )
    """what else is turned: levers, seat"""


class TeamSetup(Part):
    """What is turned for each rider of a team."""

    turned: Annotated[Annotated[tuple[RiderSettings, ...], Field(max_length=20)], SetWhole("range")] = Field(
        (), json_schema_extra={"unit": "", "kind": "list", "source": "assumption: nothing is turned"}
    )
    """what is turned at a hand-over, rider by rider"""

    @model_validator(mode="after")
    def _each_once(self) -> "TeamSetup":
        if len({(t.rider, t.leg) for t in self.turned}) < len(self.turned):
            raise ValueError("turned:turned_twice")
        for turned in self.turned:
            # each rider's own is held to the same bounds as the setup itself
            type(self).model_validate(self.model_dump(exclude={"turned"}, exclude_unset=True) | turned.values)
        return self

    def turned_for(self, rider: str, leg: int = 0) -> dict[str, Any]:
        """Field -> value [SI] that one rider has otherwise, by his name, on one of his legs; 0: on any other."""
        his = (t for t in sorted(self.turned, key=lambda t: t.leg) if t.rider == rider and t.leg in (0, leg))
        return {str(field): v for t in his for field, v in t.values.items()}

    def also_for(self, rider: str, leg: int = 0) -> str:
        """What else is turned for one rider on one of his legs: what is said of it, or of every one."""
        said = {t.leg: t.also for t in self.turned if t.rider == rider}
        return said.get(leg) or said.get(0, "")

    def own_legs(self, rider: str) -> tuple[int, ...]:
        """For which of a rider's legs something of its own is said, in order."""
        return tuple(sorted(t.leg for t in self.turned if t.rider == rider and t.leg))
