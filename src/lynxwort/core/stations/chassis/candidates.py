"""Springs, preloads and pressures that would meet both sags."""

from lynxwort.core.model.base import field_facts
from lynxwort.core.model.setup import Setup
from lynxwort.core.report import Move
from lynxwort.core.stations.chassis.input import ChassisInput
from lynxwort.core.stations.chassis.springs import (
    PRELOAD_FIELD,
    RATE_FIELD,
    measured_sag,
    on_air,
    pressures_wanted,
    spring_choices,
    wanted,
)
from lynxwort.core.tunables import TUNABLES


def springs_for(given: ChassisInput, end: str) -> tuple[tuple[Move, ...], ...]:
    """At most two: with the present spring, else from the box, else the smallest purchase; another spring only once a
    sag of this end was measured.
    """
    setup = given.setup
    if on_air(given, end):
        return pressures_for(given)
    rate_field, preload_field = RATE_FIELD[end], PRELOAD_FIELD[end]
    now = getattr(setup, rate_field)
    middle, measured = wanted(given, end)[0], measured_sag(given, end)
    choices = [c for c in spring_choices(given, end) if measured or abs(c.rate_n_per_m - now) <= 1.0]
    ranked = sorted(choices, key=lambda c: (abs(c.rate_n_per_m - now) > 1.0, not c.owned, abs(c.rate_n_per_m - middle)))
    made = []
    for option in ranked[:2]:
        moves = []
        if abs(option.rate_n_per_m - now) > 1.0:
            moves.append(Move(tunable=rate_field, value=option.rate_n_per_m, owned=option.owned))
        if not option.preload_low_m - 1e-6 <= getattr(setup, preload_field) <= option.preload_high_m + 1e-6 or moves:
            moves.append(Move(tunable=preload_field, value=option.preload_m))
        if moves:
            made.append(tuple(moves))
        if abs(option.rate_n_per_m - now) <= 1.0:
            break
    return tuple(made)


def pressures_for(given: ChassisInput) -> tuple[tuple[Move, ...], ...]:
    """Pressures of an air-sprung fork, in the steps of a pump's gauge."""
    moves = []
    for tunable, value in zip(
        ("fork_air_pressure_pa", "fork_balance_pressure_pa"), pressures_wanted(given), strict=True
    ):
        facts = field_facts(Setup, tunable)
        if value is not None and (facts.low or 0.0) <= value <= (facts.high or 0.0):
            step_pa = TUNABLES[tunable].step
            moves.append(Move(tunable=tunable, value=round(value / step_pa) * step_pa))
    return (tuple(moves),) if moves else ()
