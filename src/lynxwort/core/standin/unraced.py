"""A race that is none: level ground and a usual rider, so that a bike which nobody rides yet can be looked at."""

from functools import lru_cache
from typing import Any

from lynxwort.core.model.bike import Bike
from lynxwort.core.model.inputs import Inputs, load_inputs
from lynxwort.core.model.readings import Reading
from lynxwort.core.model.setup import Setup

#: the rider that the patterns' springs are for [kg]
USUAL_RIDER_KG = 80.0
#: an even kilometre to the north
LEVEL: dict[str, Any] = {
    "heights": "none",
    "latitude_deg": [50.0 + 0.0009 * i for i in range(11)],
    "longitude_deg": [0.0] * 11,
}


@lru_cache(maxsize=64)
def unraced(bike: Bike, setup: Setup, readings: tuple[Reading, ...] = ()) -> Inputs:
    """The bike with its setup under a usual rider on level ground, on a standard day at sea level. readings: of the
    bike, that hold wherever it is ridden. Raises InputRefused.
    """
    return load_inputs(
        {
            "format": 1,
            "bike": bike,
            "setup": setup,
            "readings": readings,
            "riders": [{"mass_in_gear_kg": USUAL_RIDER_KG}],
            "race": {
                "air": {"temperature_low_k": 288.15, "temperature_high_k": 288.15},
                "stages": [{"course_key": "level"}],
            },
            "courses": {"level": LEVEL},
        }
    )
