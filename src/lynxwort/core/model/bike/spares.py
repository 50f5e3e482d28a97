"""Spares: how often what they replace fails, what it costs to have none, what they weigh. All of it assumption
(HANDBOOK 9, 7) until a rider says otherwise.
"""

from pydantic import Field

from lynxwort.core.model.base import Part, quantity

HOUR_S, MINUTE_S = 3600.0, 60.0


class Spare(Part):
    """One kind of spare."""

    id: str = Field(min_length=1, max_length=24, json_schema_extra={"unit": "", "kind": "text"})
    per_hour: float = quantity(0.0, 1.0, "1", "factor")
    """failures in an hour of racing"""
    mass_kg: float = quantity(1e-3, 20.0, "kg", "mass")
    """what one weighs, with the tool it needs"""
    without_s: float | None = quantity(0.0, 36_000.0, "s", "minutes", None, source="the race: it is over without one")
    """time lost without one; left out: the race"""
    with_s: float = quantity(0.0, 7200.0, "s", "minutes")
    """time that putting it in takes"""
    guarded_by: tuple[str, ...] = ()
    """ids of items that halve its failures"""
    fed: tuple[str, ...] = ()
    """how an engine is fed that has it; left out: any"""


def _spare(
    identity: str, per_100_h: float, grams: float, without_min: float | None, with_min: float, *guarded: str,
    burns: bool = False,
) -> Spare:  # fmt: skip
    return Spare(
        id=identity, per_hour=per_100_h / 100.0, mass_kg=1e-3 * grams, with_s=MINUTE_S * with_min,
        without_s=None if without_min is None else MINUTE_S * without_min, guarded_by=guarded,
        fed=("jetted", "rod", "injected") if burns else (),
    )  # fmt: skip


SPARES: tuple[Spare, ...] = (
    _spare("lever", 2.0, 90, 45, 5, "hand_guards_wrap", "hand_guards_flag"),
    _spare("tube", 7.0, 900, 90, 25),
    _spare("plug", 1.5, 60, None, 8, burns=True),
    _spare("link", 1.0, 40, None, 15, "chain_guide"),
    _spare("cable", 1.0, 120, None, 20),
    _spare("spoke", 3.0, 40, 10, 8),
    _spare("brake_tip", 2.0, 30, 20, 4, "hand_guards_wrap"),
    _spare("fuse", 0.7, 10, None, 5, burns=True),
    _spare("clutch", 1.0, 1900, None, 60),
    _spare("radiator_hose", 1.0, 180, None, 25, "radiator_braces", burns=True),
    _spare("bolts", 4.0, 110, 30, 8),
    _spare("tape_ties", 6.0, 80, 25, 6),
    _spare("brake_pads", 0.8, 160, 60, 15),
    _spare("air_filter", 2.0, 150, 30, 8, burns=True),
)
#: always aboard, whatever they weigh
ALWAYS: tuple[str, ...] = ("water", "first_aid", "phone", "light")
