"""Tyres, wheels and what fills them."""

import re
from typing import Literal

from pydantic import Field, field_validator

from lynxwort.core.model.base import Part, choice, quantity

TYRE_MARKING = re.compile(r"^\s*(\d{2,3})\s*/\s*(\d{2,3})\s*-\s*(\d{2}(?:\.\d)?)\s*$")


SpeedSymbol = Literal["B", "C", "D", "E", "F", "G", "J", "K", "L", "M", "N", "P", "Q", "R", "S", "T", "U", "H", "V"]
SPEED_SYMBOLS: tuple[str, ...] = SpeedSymbol.__args__  # type: ignore[attr-defined]
TyreInside = Literal["tube", "heavy_tube", "mousse", "two_chamber", "tubeless"]
TYRE_INSIDES: tuple[str, ...] = TyreInside.__args__  # type: ignore[attr-defined]


class Tyre(Part):
    """The rear tyre."""

    marking: str = Field(
        "140/80-18", max_length=20, json_schema_extra={"unit": "", "kind": "text", "source": "assumption"}
    )
    """width / aspect - rim, as on the sidewall"""
    rolling_radius_m: float | None = quantity(
        0.2, 0.45, "m", "length", None, source="from the marking; a roll-out is better"
    )
    """measured: roll-out distance / 2 pi, rider aboard"""
    speed_symbol: SpeedSymbol | None = choice(None, source="not read off the sidewall yet")
    """letter on the sidewall after the load index"""
    inside: TyreInside = choice("tube", source="assumption")
    """what fills it"""
    inside_speed_m_per_s: float | None = quantity(
        5.0, 80.0, "m/s", "speed", None, source="assumption: tube and tubeless none, mousse 130 km/h"
    )
    """highest speed its maker allows for what fills it"""

    @field_validator("marking")
    @classmethod
    def _marking(cls, value: str) -> str:
        match = TYRE_MARKING.match(value)
        if not match:
            raise ValueError("not_a_tyre_marking")
        width, aspect, rim = (float(g) for g in match.groups())
        if not (50 <= width <= 220 and 40 <= aspect <= 110 and 8 <= rim <= 23):
            raise ValueError("not_a_tyre_marking")
        return value


def tyre_marking(value: str) -> str:
    if not TYRE_MARKING.match(value):
        raise ValueError("not_a_tyre_marking")
    return value


TyreKind = Literal["middling_knobby", "hard_knobby", "soft_knobby", "scoop", "gummy", "trials", "rally"]
TYRE_KINDS: tuple[str, ...] = TyreKind.__args__  # type: ignore[attr-defined]


class OnWheel(Part):
    """What stands on a wheel besides its size."""

    tyre_kind: TyreKind = choice("middling_knobby", source="assumption")
    """what its tread is made for"""
    inside: TyreInside | None = choice(None, source="assumption: as the bike's own; a tube")
    """what fills it"""
    knob_m: float | None = quantity(0.0, 0.04, "m", "preload", None, source="assumption: new")
    """height of the knobs in the middle"""
    knob_new_m: float = quantity(0.004, 0.04, "m", "preload", 0.014, source="assumption")
    """height of the knobs when it was new"""
    foam_for_kg: float | None = quantity(40.0, 250.0, "kg", "mass", None, source="to ask its maker")
    """load on the wheel, rider aboard, that a foam insert was made for"""

    @property
    def left_share(self) -> float:
        """What is left of the knobs' height [1]."""
        return 1.0 if self.knob_m is None else min(self.knob_m / self.knob_new_m, 1.0)


class OtherWheel(OnWheel):
    """Another wheel with its tyre that fits."""

    marking: str = Field(max_length=20, json_schema_extra={"unit": "", "kind": "text"})
    """width / aspect - rim"""
    heavier_kg: float = quantity(-8.0, 8.0, "kg", "mass", 0.0, source="assumption: as heavy as the bike's own")
    """how much heavier than the bike's own wheel"""

    _marking = field_validator("marking")(tyre_marking)
