"""Kit's drawings: how warm rotors, fluid and foam are along the lap."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.derived.along import crests
from lynxwort.core.stations.kit import braking, rolling
from lynxwort.core.stations.kit.input import ENDS, KitInput
from lynxwort.core.stations.station import Views

Array = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True)
class WarmthView:
    """Temperatures [K] over even stretches of the round, the hottest of each, shape (POINTS,): front and rear rotor,
    the warmer fluid, and the hotter foam where there is any, as it is the last time round.
    """

    front_rotor_k: Array
    rear_rotor_k: Array
    fluid_k: Array
    foam_k: Array | None
    foam_first_k: Array | None


def warmth(given: KitInput) -> WarmthView:
    """Along the round."""
    brakes = {end: braking.warmth(given, end) for end in ENDS}
    foam = [core for end in ENDS if (core := rolling.foam(given, end)) is not None]
    hottest = max(foam, key=lambda c: c.hottest_k, default=None)
    return WarmthView(
        front_rotor_k=crests(brakes["front"].rotor_k),
        rear_rotor_k=crests(brakes["rear"].rotor_k),
        fluid_k=crests(max((b.fluid_k for b in brakes.values()), key=lambda f: float(f.max()))),
        foam_k=None if hottest is None else crests(hottest.last_k),
        foam_first_k=None if hottest is None else crests(hottest.first_k),
    )


VIEWS: Views = {"warmth": warmth}
