"""The notches of each tunable: the steps in which a hand moves it, and which of them are in the box."""

from dataclasses import dataclass

from lynxwort.core.model.base import field_facts
from lynxwort.core.model.setup import PartsBox, Setup


@dataclass(frozen=True, slots=True, kw_only=True)
class Detent:
    """step: one notch in SI; kind: of unit, for showing; part: whether a notch needs another part."""

    tunable: str
    step: float
    kind: str
    part: bool
    whole: bool = False


#: in the order in which the stations show them; common practice, no source
DETENTS: dict[str, Detent] = {
    d.tunable: d
    for d in (
        Detent(tunable="shock_preload_m", step=0.001, kind="preload", part=False),
        Detent(tunable="shock_spring_rate_n_per_m", step=2000.0, kind="spring_rate", part=True),
        Detent(tunable="fork_preload_m", step=0.001, kind="preload", part=False),
        Detent(tunable="fork_spring_rate_n_per_m", step=200.0, kind="spring_rate", part=True),
        Detent(tunable="main_jet", step=2.5, kind="number", part=True),
        Detent(tunable="needle_clip", step=1, kind="count", part=False, whole=True),
        Detent(tunable="front_sprocket_teeth", step=1, kind="count", part=True, whole=True),
        Detent(tunable="rear_sprocket_teeth", step=1, kind="count", part=True, whole=True),
        Detent(tunable="fuel_fill_m3", step=0.0005, kind="volume", part=False),
        Detent(tunable="tank_capacity_m3", step=0.001, kind="volume", part=True),
    )
}
TOLERANCE = 1e-6


@dataclass(frozen=True, slots=True, kw_only=True)
class Notch:
    """One place a tunable can move to. owned: True in the box, False to buy, None when no part is needed."""

    value: float
    owned: bool | None


def current_value(setup: Setup, tunable: str) -> float:
    """The value a tunable has now; a fill left out is a full tank."""
    return setup.fill_m3 if tunable == "fuel_fill_m3" else float(getattr(setup, tunable))


def is_owned(parts: PartsBox, tunable: str, value: float) -> bool | None:
    """Whether this value lies in the parts box; None when the tunable needs no part."""
    if not DETENTS[tunable].part:
        return None
    return any(abs(v - value) <= TOLERANCE * max(1.0, abs(v)) for v in parts.owned(tunable))


def neighbour(setup: Setup, parts: PartsBox, tunable: str, direction: int) -> Notch | None:
    """The next notch up (+1) or down (-1): the nearer of the next step and the next owned value; None beyond the bounds."""
    detent = DETENTS[tunable]
    now = current_value(setup, tunable)
    facts = field_facts(Setup, tunable)
    grid = round(now / detent.step) * detent.step
    on_grid = abs(grid - now) < TOLERANCE * max(1.0, abs(now))
    step = grid + direction * detent.step if on_grid or (grid - now) * direction <= 0 else grid
    beyond = [v for v in parts.owned(tunable) if (v - now) * direction > TOLERANCE * max(1.0, abs(now))]
    value = min([step, *beyond], key=lambda v: abs(v - now))
    if detent.tunable == "fuel_fill_m3":
        value = min(value, setup.tank_capacity_m3)
        if abs(value - now) < 1e-9:
            return None
    if (facts.low is not None and value < facts.low - 1e-12) or (facts.high is not None and value > facts.high + 1e-12):
        return None
    return Notch(value=round(value, 9), owned=is_owned(parts, tunable, value))


def move(setup: Setup, tunable: str, value: float) -> Setup:
    """The setup with one tunable moved. A full tank stays full when the tank changes; a fill never exceeds its tank.

    Raises pydantic's ValidationError for a value out of bounds.
    """
    changes: dict[str, float | int] = {tunable: round(value) if DETENTS[tunable].whole else float(value)}
    if tunable == "tank_capacity_m3" and setup.fuel_fill_m3 is not None:
        full = abs(setup.fuel_fill_m3 - setup.tank_capacity_m3) < 1e-9
        changes["fuel_fill_m3"] = float(value) if full else min(setup.fuel_fill_m3, float(value))
    if tunable == "fuel_fill_m3":
        changes[tunable] = min(float(value), setup.tank_capacity_m3)
    given = setup.model_dump(exclude_unset=True)
    given["part_ids"] = {k: v for k, v in setup.part_ids.items() if k not in changes}
    return Setup.model_validate(given | changes)
