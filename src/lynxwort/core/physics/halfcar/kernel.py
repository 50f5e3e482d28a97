"""The stepping kernel of the ride: five coordinates, fourth-order Runge-Kutta (RIDE.md 1 and 4).

z up, pitch nose-up, small angles, constant speed along the ground, vertical contact forces. Coordinates: body,
pitch, front wheel, rear wheel, rider. Zero: suspension topped out, tyres just touching flat ground, legs at free
length.
"""

import math

import numpy as np
from numba import float64, int64, njit, types, void
from numpy.typing import NDArray

#: Parameters, by place in the vector.
PARAMETERS = (
    "sprung",
    "inertia",
    "front_unsprung",
    "rear_unsprung",
    "rider",
    "to_front",
    "to_rear",
    "peg",
    "bar",
    "gravity",
    "fork_travel",
    "fork_friction",
    "shock_stroke",
    "shock_friction",
    "friction_speed",
    "fork_bump_length",
    "fork_bump",
    "fork_bump_square",
    "fork_bump_damping",
    "fork_metal",
    "fork_metal_damping",
    "shock_bump_length",
    "shock_bump",
    "shock_bump_square",
    "shock_bump_damping",
    "shock_metal",
    "shock_metal_damping",
    "fork_top_out",
    "fork_top_out_damping",
    "shock_top_out",
    "shock_top_out_damping",
    "front_tyre",
    "rear_tyre",
    "tyre_damping",
    "leg",
    "leg_damping",
    "seat_after",
    "seat",
    "seat_damping",
    "arm",
    "arm_damping",
    "arm_rest",
    "body_english",
    "body_english_most",
    "rear_travel",
    "top_speed",
    "rim_from",
    "rim",
    "lean",
)
PLACE = {name: k for k, name in enumerate(PARAMETERS)}
(
    MS,
    INERTIA,
    MF,
    MR,
    MP,
    A,
    B,
    PEG,
    BAR,
    G,
    F_TRAVEL,
    F_FRICTION,
    S_STROKE,
    S_FRICTION,
    V0,
    FB_LENGTH,
    FB,
    FB2,
    FB_C,
    FM,
    FM_C,
    SB_LENGTH,
    SB,
    SB2,
    SB_C,
    SM,
    SM_C,
    FT,
    FT_C,
    ST,
    ST_C,
    KTF,
    KTR,
    CT,
    LEG,
    LEG_C,
    SEAT_AFTER,
    SEAT,
    SEAT_C,
    ARM,
    ARM_C,
    ARM_REST,
    ENGLISH,
    ENGLISH_MOST,
    W_TRAVEL,
    TOP_SPEED,
    RIM_FROM,
    RIM,
    LEAN,
) = range(len(PARAMETERS))
#: Columns of a recording.
RECORDED = (
    "body",
    "pitch",
    "front_wheel",
    "rear_wheel",
    "rider",
    "body_v",
    "pitch_v",
    "front_v",
    "rear_v",
    "rider_v",
    "fork",
    "fork_v",
    "shock",
    "shock_v",
    "front_tyre",
    "rear_tyre",
    "peg_a",
    "rider_a",
    "wheel",
    "front_ground",
    "rear_ground",
    "fork_stop",
    "shock_stop",
)
COLUMN = {name: k for k, name in enumerate(RECORDED)}
WIDTH = len(RECORDED)


def blank(rows: int) -> NDArray[np.float64]:
    """Room for a recording [SI], its columns together in memory: shape (rows, WIDTH)."""
    return np.zeros((rows, WIDTH), order="F")


#: Rows of the spring tables, over fork travel, shock stroke and twice the rear wheel's travel; of the damper
#: tables,
#: over the square root of speed.
FORK_SPRING, SHOCK_SPRING, STROKES, RATIOS = range(4)
FORK_IN, FORK_OUT, SHOCK_IN, SHOCK_OUT = range(4)


@njit(float64(float64[:, ::1], int64, float64, float64), nogil=True, cache=True, error_model="numpy")
def _look(tables, row, span, x):
    """Linear interpolation of a row over 0 to span; beyond its end along the last stretch."""
    n = tables.shape[1] - 1
    place = x / span * n
    k = min(int(place), n - 1)
    return tables[row, k] + (tables[row, k + 1] - tables[row, k]) * (place - k)


@njit(float64(float64[:, ::1], int64, float64, float64), nogil=True, cache=True, error_model="numpy")
def _valve(tables, row, top, v):
    """Damper force [N], + against inward motion: the row inward, the next one outward."""
    n = tables.shape[1] - 1
    place = math.sqrt(abs(v) / top) * n
    k = min(int(place), n - 1)
    if v < 0.0:
        row += 1
    force = tables[row, k] + (tables[row, k + 1] - tables[row, k]) * (place - k)
    return force if v >= 0.0 else -force


@njit(
    float64(float64, float64, float64, float64, float64, float64, float64, float64, float64, float64, float64),
    nogil=True,
    cache=True,
    error_model="numpy",
)
def _stops(s, v, travel, length, k1, k2, damping, metal, metal_damping, top, top_damping):
    """Force [N] of bump rubber, metal and top-out at a stroke; top-out damping never pushes, metal damping never
    pulls.
    """
    force = 0.0
    x = s - (travel - length)
    if x > 0.0:
        force += x * (k1 + k2 * x) + damping * min(x / length, 1.0) * max(v, 0.0)
    if s > travel:
        force += max(metal * (s - travel) + metal_damping * v, 0.0)
    if s < 0.0:
        force += min(top * s + top_damping * v, 0.0)
    return force


@njit(types.UniTuple(float64, 2)(float64[::1], float64, float64), nogil=True, cache=True, error_model="numpy")
def _ground(ground, per_m, x):
    """Height and slope of a Catmull-Rom curve through the ground's heights, so many of them a metre."""
    place = x * per_m
    k = int(place)
    n = ground.size
    if place < 1.0:
        return ground[0], 0.0
    if k > n - 3:
        return ground[n - 1], 0.0
    t = place - k
    a, b, c, d = ground[k - 1], ground[k], ground[k + 1], ground[k + 2]
    square, cube = 2.0 * a - 5.0 * b + 4.0 * c - d, 3.0 * (b - c) + d - a
    return b + 0.5 * t * (c - a + t * (square + t * cube)), 0.5 * (c - a + t * (2.0 * square + t * 3.0 * cube)) * per_m


@njit(float64(float64[::1], float64, float64, float64, float64), nogil=True, cache=True, error_model="numpy")
def _tyre(p, rate, push, ground_v, wheel_v):
    """Force [N] of a tyre pushed in: its spring, its rim, its damping; it never pulls."""
    if push <= 0.0:
        return 0.0
    return max(rate * push + p[RIM] * max(push - p[RIM_FROM], 0.0) + p[CT] * (ground_v - wheel_v), 0.0)


@njit(
    void(
        float64[::1],
        float64[::1],
        float64,
        float64,
        float64,
        float64[::1],
        float64[:, ::1],
        float64[:, ::1],
        float64[::1],
        float64[::1],
    ),
    nogil=True,
    cache=True,
    error_model="numpy",
)
def slopes(y, p, time, speed, grid, ground, springs, dampers, dy, seen):
    """Derivative of the ten states into dy; what is recorded into seen. springs: rows over (4, n) places, dampers:
    the same over (4, m).
    """
    a, b = p[A], p[B]
    front = y[2] - y[0] - a * y[1]
    front_v = y[7] - y[5] - a * y[6]
    rear = y[3] - y[0] + b * y[1]
    rear_v = y[8] - y[5] + b * y[6]
    # fork: stroke along the leg is the vertical travel / cos(rake)
    s = front * p[LEAN]
    v = front_v * p[LEAN]
    spring = _look(springs, FORK_SPRING, p[F_TRAVEL], min(max(s, 0.0), p[F_TRAVEL] * 1.02))
    fork_stop = _stops(s, v, p[F_TRAVEL], p[FB_LENGTH], p[FB], p[FB2], p[FB_C], p[FM], p[FM_C], p[FT], p[FT_C])
    fork_force = p[LEAN] * (
        spring
        + _valve(dampers, FORK_IN, p[TOP_SPEED], v)
        + p[F_FRICTION] * v / math.sqrt(v * v + p[V0] * p[V0])
        + fork_stop
    )
    # shock behind its linkage: the stroke is the integral of the ratio, exact between the points of the table, so
    # that
    # the energy is too
    inside = min(max(rear, 0.0), p[W_TRAVEL])
    n = springs.shape[1] - 1
    place = inside / p[W_TRAVEL] * n
    k = min(int(place), n - 1)
    t = place - k
    before, bend = springs[RATIOS, k], springs[RATIOS, k + 1] - springs[RATIOS, k]
    ratio = before + bend * t
    q = springs[STROKES, k] + p[W_TRAVEL] / n * t * (before + 0.5 * bend * t) + (rear - inside) * ratio
    u = rear_v * ratio
    spring = _look(springs, SHOCK_SPRING, p[S_STROKE], min(max(q, 0.0), p[S_STROKE] * 1.02))
    shock_stop = _stops(q, u, p[S_STROKE], p[SB_LENGTH], p[SB], p[SB2], p[SB_C], p[SM], p[SM_C], p[ST], p[ST_C])
    shock_force = ratio * (
        spring
        + _valve(dampers, SHOCK_IN, p[TOP_SPEED], u)
        + p[S_FRICTION] * u / math.sqrt(u * u + p[V0] * p[V0])
        + shock_stop
    )
    # tyres
    x, per_m = time * speed, 1.0 / grid
    h_front, slope_front = _ground(ground, per_m, x + a + b)
    h_rear, slope_rear = _ground(ground, per_m, x)
    tyre_front = _tyre(p, p[KTF], h_front - y[2], slope_front * speed, y[7])
    tyre_rear = _tyre(p, p[KTR], h_rear - y[3], slope_rear * speed, y[8])
    # rider: legs push only, arms both ways, the seat after the legs are bent
    legs = y[0] + p[PEG] * y[1] - y[4]
    legs_v = y[5] + p[PEG] * y[6] - y[9]
    leg = 0.0
    if legs > 0.0:
        leg = max(p[LEG] * legs + p[LEG_C] * legs_v, 0.0)
    if legs > p[SEAT_AFTER]:
        leg += max(p[SEAT] * (legs - p[SEAT_AFTER]) + p[SEAT_C] * legs_v, 0.0)
    arm = p[ARM] * (y[0] + p[BAR] * y[1] - y[4] - p[ARM_REST]) + p[ARM_C] * (y[5] + p[BAR] * y[6] - y[9])
    english = min(max(p[ENGLISH] * y[6], -p[ENGLISH_MOST]), p[ENGLISH_MOST])
    for k in range(5):
        dy[k] = y[5 + k]
    dy[5] = (fork_force + shock_force - leg - arm) / p[MS] - p[G]
    dy[6] = (a * fork_force - b * shock_force - p[PEG] * leg - p[BAR] * arm - english) / p[INERTIA]
    dy[7] = (tyre_front - fork_force) / p[MF] - p[G]
    dy[8] = (tyre_rear - shock_force) / p[MR] - p[G]
    dy[9] = (leg + arm) / p[MP] - p[G]
    seen[0], seen[1], seen[2], seen[3] = s, v, q, u
    seen[4], seen[5] = tyre_front, tyre_rear
    seen[6] = dy[5] + p[PEG] * dy[6]
    seen[7], seen[8] = dy[9], rear
    seen[9], seen[10] = h_front, h_rear
    seen[11], seen[12] = fork_stop, shock_stop


@njit(
    int64(
        float64[::1],
        float64[::1],
        float64,
        float64,
        int64,
        int64,
        float64,
        float64[::1],
        float64[:, ::1],
        float64[:, ::1],
        float64[::1, :],
    ),
    nogil=True,
    cache=True,
    error_model="numpy",
)
def ride_over(y0, p, speed, dt, steps, every, grid, ground, springs, dampers, out):
    """Ride over the ground from y0; a row of RECORDED into blank() after every so many steps. Gives the rows
    filled; fewer when it runs away.
    """
    y = y0.copy()
    k1, k2, k3, k4 = np.zeros(10), np.zeros(10), np.zeros(10), np.zeros(10)
    other, seen = np.zeros(10), np.zeros(13)
    row = 0
    for i in range(steps):
        t = i * dt
        slopes(y, p, t, speed, grid, ground, springs, dampers, k1, seen)
        if i % every == 0 and row < out.shape[0]:
            for j in range(10):
                out[row, j] = y[j]
            for j in range(13):
                out[row, 10 + j] = seen[j]
            row += 1
            if not abs(y[1]) < 3.0:
                return row
        for j in range(10):
            other[j] = y[j] + 0.5 * dt * k1[j]
        slopes(other, p, t + 0.5 * dt, speed, grid, ground, springs, dampers, k2, seen)
        for j in range(10):
            other[j] = y[j] + 0.5 * dt * k2[j]
        slopes(other, p, t + 0.5 * dt, speed, grid, ground, springs, dampers, k3, seen)
        for j in range(10):
            other[j] = y[j] + dt * k3[j]
        slopes(other, p, t + dt, speed, grid, ground, springs, dampers, k4, seen)
        for j in range(10):
            y[j] += dt / 6.0 * (k1[j] + 2.0 * k2[j] + 2.0 * k3[j] + k4[j])
    return row
