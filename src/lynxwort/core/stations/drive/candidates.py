"""Changes that would cure what Drive shows."""

import numpy as np

from lynxwort.core.model.base import field_facts
from lynxwort.core.model.setup import Setup
from lynxwort.core.physics.drive.kernel import STUCK_POWER
from lynxwort.core.physics.drive.pull import first_gear_scale_needed
from lynxwort.core.report import Move
from lynxwort.core.stations.drive.input import DriveInput
from lynxwort.core.tunables import is_owned


def scale_needed(given: DriveInput) -> float:
    """Factor on the final drive with which first gear just holds walking pace on every stuck step [1]."""
    round_, stuck = given.lap.around.whole, np.flatnonzero(given.lap.whole.limit == STUCK_POWER)
    if not stuck.size:
        return 1.0
    needed = first_gear_scale_needed(
        given.lap.ride_input,
        surface=round_.rows[round_.surface[stuck]],
        sine=np.round(round_.sine[stuck], 4),
        power_share=np.round(given.lap.power_share[stuck], 4),
    )
    return float(needed.max())


def pulling_sprockets(given: DriveInput) -> tuple[tuple[Move, ...], ...]:
    """Smallest change of one sprocket that pulls everywhere: in the box first, then to buy; rear before front."""
    setup, parts = given.setup, given.box
    need = scale_needed(given) * setup.rear_sprocket_teeth / setup.front_sprocket_teeth
    options = []
    for tunable, ratio in (
        ("rear_sprocket_teeth", lambda z: z / setup.front_sprocket_teeth),
        ("front_sprocket_teeth", lambda z: setup.rear_sprocket_teeth / z),
    ):
        facts = field_facts(Setup, tunable)
        teeth = range(int(facts.low or 0), int(facts.high or 0) + 1)
        enough = [z for z in teeth if ratio(z) >= need - 1e-9]
        for owned in (True, False):
            fits = [z for z in enough if bool(is_owned(parts, tunable, z)) is owned]
            if fits:
                z = min(fits, key=ratio)
                options.append((not owned, ratio(z), Move(tunable=tunable, value=float(z), owned=owned)))
    options.sort(key=lambda o: o[:2])
    return tuple((o[2],) for o in options[:2])
