"""What a spanner does to a bolt.

Reference: ISO 16047 form of the tightening torque; stress area of ISO 898-1; VDI 2230 (2003) eq. 5.5/4 for the largest
assembly preload; friction from memory: oiled 0.10, locked 0.12 to 0.16, dry 0.18.
"""

from math import cos, pi, radians, sqrt

#: friction of thread and head [1] (from memory)
FRICTION = {"oiled": (0.08, 0.10, 0.12), "locked": (0.12, 0.14, 0.16), "dry": (0.14, 0.18, 0.22)}
#: middle of the face under the head, as a share of the thread's diameter, where nobody said (hexagon flange heads)
FACE = 1.3
#: half the angle of a metric thread [rad]
FLANK_RAD = radians(30.0)
#: bolt of class 8.8: yields at [Pa]; share of it that assembly may use
YIELD_PA, YIELD_SHARE = 640e6, 0.9


def _flank_m(d_m: float, pitch_m: float) -> float:
    return d_m - 0.649519 * pitch_m


def stress_area(d_m: float, pitch_m: float) -> float:
    """Of a metric thread [m2]."""
    return 0.25 * pi * (d_m - 0.9382 * pitch_m) ** 2


def torque(
    preload_n: float, d_m: float, pitch_m: float, thread_friction: float, head_friction: float, face_m: float
) -> float:
    """That brings a preload [N m]. face_m: middle diameter of the face under the head."""
    flank = 0.5 * thread_friction / cos(FLANK_RAD) * _flank_m(d_m, pitch_m)
    return preload_n * (pitch_m / (2.0 * pi) + flank + 0.5 * head_friction * face_m)


def preload(torque_nm: float, d_m: float, pitch_m: float, friction: float, face_m: float | None = None) -> float:
    """That a torque brings [N], thread and head alike."""
    return torque_nm / torque(1.0, d_m, pitch_m, friction, friction, FACE * d_m if face_m is None else face_m)


def preload_range(torque_nm: float, d_m: float, pitch_m: float, state: str) -> tuple[float, float, float]:
    """Least, middle and most [N] that a torque brings by the state of the thread."""
    low, middle, high = FRICTION[state]
    most, likely, least = (preload(torque_nm, d_m, pitch_m, f) for f in (low, middle, high))
    return least, likely, most


def largest_preload(d_m: float, pitch_m: float, friction: float, *, yield_pa: float = YIELD_PA) -> float:
    """That assembly may bring [N]: pull and twist together stay under a share of what the bolt yields at."""
    area, core = stress_area(d_m, pitch_m), d_m - 0.9382 * pitch_m
    twist = 1.5 * _flank_m(d_m, pitch_m) / core * (pitch_m / (pi * _flank_m(d_m, pitch_m)) + 1.155 * friction)
    return area * YIELD_SHARE * yield_pa / sqrt(1.0 + 3.0 * twist**2)
