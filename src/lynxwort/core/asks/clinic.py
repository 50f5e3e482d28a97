"""The sag clinic on the bike as it is kept: what two sags, each settled from above and from below, say of its
spring.
"""

from lynxwort.core.learned import clinic
from lynxwort.core.model.rider import Rider
from lynxwort.core.physics.chassis.fitted import travel_of
from lynxwort.core.stations.chassis.input import ChassisInput
from lynxwort.core.stations.chassis.springs import line_at


def rider_as(given: ChassisInput, posture: str) -> Rider:
    """Who sat on it, in this posture; empty = as always."""
    return given.rider.model_copy(update={"posture": posture or given.rider.posture})


def judge(
    given: ChassisInput, end: str, race: clinic.Taken, free: clinic.Taken, rider: Rider, fuel_m3: float
) -> clinic.Clinic:
    """What the tape says of one end. race, free: as settled; fuel_m3: aboard [m3]."""
    springs, setup = given.springs, given.setup
    kg = {
        True: springs.sprung(end, setup, rider, fuel_m3, springs.offsets.mean[2]),
        False: springs.sprung(end, setup, None, fuel_m3, 0.0),
    }
    return clinic.judge(
        race,
        free,
        targets=springs.targets(end, setup),
        travel_m=travel_of(given.bike.frame, setup, end),
        line=lambda aboard, x: line_at(given, end, kg[aboard], x),
    )
