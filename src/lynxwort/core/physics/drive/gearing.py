"""Speeds, ratios, rolling radius and sprocket geometry.

References: [iso606] ISO 606:2015 (520 chain: pitch 15.875 mm, roller 10.16 mm, from memory); [etrto] tyre marking: free
radius = rim / 2 + width x aspect. Rolling factor 2.99 of the free diameter for bias tyres, from memory.
"""

import math

from lynxwort.core.errors import require_range
from lynxwort.core.model.bike.frame import Frame
from lynxwort.core.model.bike.transmission import Transmission
from lynxwort.core.model.bike.tyre import TYRE_MARKING, Tyre
from lynxwort.core.model.defaults import TYRE_ROLLING_FACTOR
from lynxwort.core.model.setup.chassis import ChassisSetup
from lynxwort.core.model.setup.drive import DriveSetup

CHAIN_PITCH_M = 15.875e-3
CHAIN_ROLLER_M = 10.16e-3


def free_radius(marking: str) -> float:
    """Free radius [m] from a marking such as "140/80-18". Raises ValueError for another form."""
    match = TYRE_MARKING.match(marking)
    if not match:
        raise ValueError(f"tyre marking {marking!r}")
    width_mm, aspect, rim_in = (float(g) for g in match.groups())
    return rim_in * 0.0254 / 2.0 + width_mm * 1e-3 * aspect / 100.0


def radius_of_marking(marking: str) -> float:
    """Rolling radius [m] of a tyre by its marking: rolling circumference = 2.99 x free diameter."""
    return TYRE_ROLLING_FACTOR * 2.0 * free_radius(marking) / (2.0 * math.pi)


def rolling_radius(tyre: Tyre) -> float:
    """Rolling radius [m]: the measured one, else from the marking (rolling circumference = 2.99 x free diameter)."""
    if tyre.rolling_radius_m is not None:
        return tyre.rolling_radius_m
    return radius_of_marking(tyre.marking)


def tyre_in(frame: Frame, tyre: Tyre, setup: ChassisSetup, end: str) -> str:
    """Marking of the tyre that is in: "front" or "rear"."""
    slot = getattr(setup, f"{end}_wheel") or 1
    own = frame.front_tyre if end == "front" else tyre.marking
    return own if slot <= 1 else getattr(frame, f"other_{end}_wheels")[slot - 2].marking  # type: ignore[no-any-return]


def rear_scale(frame: Frame, tyre: Tyre, setup: ChassisSetup) -> float:
    """Radius of the rear wheel that is in against the bike's own [1], by their markings."""
    if (setup.rear_wheel or 1) <= 1:
        return 1.0
    return radius_of_marking(tyre_in(frame, tyre, setup, "rear")) / radius_of_marking(tyre.marking)


#: highest speed [km/h] of a tyre's speed symbol. UNECE Regulation 75 / ISO 4223-1, from memory
SPEED_OF_SYMBOL = {
    "B": 50,
    "C": 60,
    "D": 65,
    "E": 70,
    "F": 80,
    "G": 90,
    "J": 100,
    "K": 110,
    "L": 120,
    "M": 130,
    "N": 140,
    "P": 150,
    "Q": 160,
    "R": 170,
    "S": 180,
    "T": 190,
    "U": 200,
    "H": 210,
    "V": 240,
}
#: highest speed [km/h] a foam insert stands for long: it melts beyond. Common practice, no source; the maker's figure
#: rules.
SPEED_OF_MOUSSE = 130.0


def tyre_speed(tyre: Tyre) -> float | None:
    """Highest speed [m/s] that the rear tyre and what fills it are made for; None when nothing is known of either."""
    known = []
    if tyre.speed_symbol is not None:
        known.append(SPEED_OF_SYMBOL[tyre.speed_symbol] / 3.6)
    if tyre.inside_speed_m_per_s is not None:
        known.append(tyre.inside_speed_m_per_s)
    elif tyre.inside == "mousse":
        known.append(SPEED_OF_MOUSSE / 3.6)
    return min(known, default=None)


def overall_ratios(transmission: Transmission, setup: DriveSetup) -> tuple[float, ...]:
    """Engine turns per wheel turn [1], first to top gear."""
    primary, gears = transmission.gears(setup.gearbox or 1)
    return tuple(primary * setup.rear_sprocket_teeth / setup.front_sprocket_teeth * g for g in gears)


def speed_at(crank_rad_per_s: float, overall_ratio: float, radius_m: float) -> float:
    """Road speed [m/s] at a speed of the crank [rad/s] without slip, by definition."""
    return crank_rad_per_s / overall_ratio * radius_m


def rpm_after_upshift(rpm: float, ratio: float, next_ratio: float) -> float:
    """Engine speed [rpm] after a shift from ratio to next_ratio at constant road speed."""
    return rpm * next_ratio / ratio


def pitch_diameter(teeth: int) -> float:
    """Pitch circle diameter [m]. Reference: [iso606]."""
    require_range("teeth", teeth, 6, 150, "1")
    return CHAIN_PITCH_M / math.sin(math.pi / teeth)


def tip_diameters(teeth: int) -> tuple[float, float]:
    """Least and greatest tip diameter [m]. Reference: [iso606] 5.4, from memory."""
    pitch = pitch_diameter(teeth)
    return pitch + CHAIN_PITCH_M * (1.0 - 1.6 / teeth) - CHAIN_ROLLER_M, pitch + 1.25 * CHAIN_PITCH_M - CHAIN_ROLLER_M
