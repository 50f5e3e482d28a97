"""From a suspected cause to the richer step it asks for, and what that step does along the throttle."""

from dataclasses import dataclass

import numpy as np

from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.model.bike import Jetted
from lynxwort.core.physics.fuelling.diagnosis import Cause
from lynxwort.core.report import Move
from lynxwort.core.tunables import is_owned, move, neighbour, said_value

#: openings at which a step's effect is told
TOLD_AT = (0.125, 0.25, 0.5, 1.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class RicherStep:
    """A richer step. effect: (throttle, change of richness [1]), empty without a proven setting."""

    move: Move
    effect: tuple[tuple[float, float], ...]


def richer_step(up: Upstream, cause: Cause) -> RicherStep | None:
    """The step that a lean cause asks for on this bike, from the setup as it is; None when there is none or no further
    notch.
    """
    if cause.richer is None:
        return None
    tunable, steps = cause.richer
    inputs, engine = up.inputs, up.inputs.bike.engine
    if tunable == "screw_turns" and isinstance(engine, Jetted) and engine.carburettor.screw == "air":
        steps = -steps  # an air screw is richer further in
    moved = inputs.setup
    for _i in range(abs(steps)):
        notch = neighbour(inputs.bike, moved, inputs.parts, tunable, 1 if steps > 0 else -1)
        if notch is None:
            return None
        moved = move(moved, tunable, notch.value)
    value = said_value(moved, tunable)
    assert value is not None
    before, after = (
        up.mixture.curve(up.day.states.middle_at_reading, inputs.setup),
        up.mixture.curve(up.day.states.middle_at_reading, moved),
    )
    effect: tuple[tuple[float, float], ...] = ()
    if before is not None and after is not None:
        change = (1.0 + after.value) / (1.0 + before.value) - 1.0
        effect = tuple((at, float(np.interp(at, before.throttle, change))) for at in TOLD_AT)
    return RicherStep(
        move=Move(tunable=tunable, value=value, owned=is_owned(inputs.parts, tunable, value)), effect=effect
    )
