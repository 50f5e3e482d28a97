"""Speeds, ratios, rolling radius and sprocket geometry.

References: [iso606] ISO 606:2015 (520 chain: pitch 15.875 mm, roller 10.16 mm, from memory); [etrto] tyre marking: free radius =
rim / 2 + width x aspect. Rolling factor 2.99 of the free diameter for bias tyres, from memory.
"""

import math

from lynxwort.core.errors import require_range
from lynxwort.core.model.bike import TYRE_MARKING, Bike
from lynxwort.core.model.defaults import TYRE_ROLLING_FACTOR
from lynxwort.core.model.setup import Setup

CHAIN_PITCH_M = 15.875e-3
CHAIN_ROLLER_M = 10.16e-3


def free_radius(marking: str) -> float:
    """Free radius [m] from a marking such as "140/80-18". Raises ValueError for another form."""
    match = TYRE_MARKING.match(marking)
    if not match:
        raise ValueError(f"tyre marking {marking!r}")
    width_mm, aspect, rim_in = (float(g) for g in match.groups())
    return rim_in * 0.0254 / 2.0 + width_mm * 1e-3 * aspect / 100.0


def rolling_radius(bike: Bike) -> float:
    """Rolling radius [m]: the measured one, else from the marking (rolling circumference = 2.99 x free diameter)."""
    if bike.tyre.rolling_radius_m is not None:
        return bike.tyre.rolling_radius_m
    return TYRE_ROLLING_FACTOR * 2.0 * free_radius(bike.tyre.marking) / (2.0 * math.pi)


def overall_ratios(bike: Bike, setup: Setup) -> tuple[float, ...]:
    """Engine turns per wheel turn, first to top gear."""
    final = bike.transmission.primary_ratio * setup.rear_sprocket_teeth / setup.front_sprocket_teeth
    return tuple(final * g for g in bike.transmission.gear_ratios)


def speed_at(rpm: float, overall_ratio: float, radius_m: float) -> float:
    """Road speed [m/s] at engine rpm without slip."""
    return rpm * 2.0 * math.pi / 60.0 / overall_ratio * radius_m


def rpm_after_upshift(rpm: float, ratio: float, next_ratio: float) -> float:
    """Engine speed [rpm] after a shift from ratio to next_ratio at constant road speed."""
    return rpm * next_ratio / ratio


def rear_teeth_equal_to_front(front: int, rear: int, front_change: int) -> float:
    """Change in rear teeth that gives the same final drive as front_change teeth in front."""
    return rear * front / (front + front_change) - rear


def pitch_diameter(teeth: int) -> float:
    """Pitch circle diameter [m]. Reference: [iso606]."""
    require_range("teeth", teeth, 6, 150, "1")
    return CHAIN_PITCH_M / math.sin(math.pi / teeth)


def tip_diameters(teeth: int) -> tuple[float, float]:
    """Least and greatest tip diameter [m]. Reference: [iso606] 5.4, from memory."""
    pitch = pitch_diameter(teeth)
    return pitch + CHAIN_PITCH_M * (1.0 - 1.6 / teeth) - CHAIN_ROLLER_M, pitch + 1.25 * CHAIN_PITCH_M - CHAIN_ROLLER_M
