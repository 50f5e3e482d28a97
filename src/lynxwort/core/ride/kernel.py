"""The stepping kernel of the ride: five coordinates, fourth-order Runge-Kutta (RIDE.md 1 and 4).

z up, pitch nose-up, small angles, constant speed along the ground, vertical contact forces. Coordinates: body, pitch, front wheel, rear wheel, rider.
Zero: suspension topped out, tyres just touching flat ground, legs at free length.
"""

import math

import numpy as np
from numba import float64, int64, njit, void

#: Parameters, by place in the vector.
PARAMETERS = (
    "sprung", "inertia", "front_unsprung", "rear_unsprung", "rider", "to_front", "to_rear", "peg", "bar", "gravity",
    "fork_travel", "fork_friction", "shock_stroke", "shock_friction", "friction_speed",
    "fork_bump_length", "fork_bump", "fork_bump_square", "fork_bump_damping", "fork_metal", "fork_metal_damping",
    "shock_bump_length", "shock_bump", "shock_bump_square", "shock_bump_damping", "shock_metal", "shock_metal_damping",
    "fork_top_out", "fork_top_out_damping", "shock_top_out", "shock_top_out_damping",
    "front_tyre", "rear_tyre", "tyre_damping", "leg", "leg_damping", "seat_after", "seat", "seat_damping",
    "arm", "arm_damping", "arm_rest", "body_english", "body_english_most", "rear_travel", "top_speed", "rim_from", "rim",
)  # fmt: skip
PLACE = {name: k for k, name in enumerate(PARAMETERS)}
(MS, INERTIA, MF, MR, MP, A, B, PEG, BAR, G, F_TRAVEL, F_FRICTION, S_STROKE, S_FRICTION, V0, FB_LENGTH, FB, FB2, FB_C, FM, FM_C, SB_LENGTH, SB, SB2,
 SB_C, SM, SM_C, FT, FT_C, ST, ST_C, KTF, KTR, CT, LEG, LEG_C, SEAT_AFTER, SEAT, SEAT_C, ARM, ARM_C, ARM_REST, ENGLISH, ENGLISH_MOST, W_TRAVEL,
 TOP_SPEED, RIM_FROM, RIM) = range(len(PARAMETERS))  # fmt: skip
#: Columns of a recording.
RECORDED = ("body", "pitch", "front_wheel", "rear_wheel", "rider", "body_v", "pitch_v", "front_v", "rear_v", "rider_v", "fork", "fork_v", "shock",
            "shock_v", "front_tyre", "rear_tyre", "peg_a", "rider_a", "wheel", "front_ground", "rear_ground", "fork_stop", "shock_stop")  # fmt: skip
COLUMN = {name: k for k, name in enumerate(RECORDED)}
WIDTH = len(RECORDED)


@njit(float64(float64[::1], float64, float64), nogil=True, cache=True, error_model="numpy")
def _look(table, span, x):
    """Linear interpolation of a table over 0 to span; beyond its ends along the last stretch."""
    n = table.size - 1
    place = x / span * n
    k = int(place)
    if k < 0 or place < 0.0:
        k = 0
    if k > n - 1:
        k = n - 1
    return table[k] + (table[k + 1] - table[k]) * (place - k)


@njit(float64(float64[::1], float64[::1], float64, float64), nogil=True, cache=True, error_model="numpy")
def _valve(inward, outward, top, v):
    """Damper force [N], + against inward motion; tables over sqrt(speed)."""
    table = inward if v >= 0.0 else outward
    n = table.size - 1
    place = math.sqrt(abs(v) / top) * n
    k = int(place)
    if k > n - 1:
        k = n - 1
    force = table[k] + (table[k + 1] - table[k]) * (place - k)
    return force if v >= 0.0 else -force


@njit(
    float64(float64, float64, float64, float64, float64, float64, float64, float64, float64, float64, float64),
    nogil=True, cache=True, error_model="numpy",
)  # fmt: skip
def _stops(s, v, travel, length, k1, k2, damping, metal, metal_damping, top, top_damping):
    """Force [N] of bump rubber, metal and top-out at a stroke; top-out damping never pushes, metal damping never pulls."""
    force = 0.0
    x = s - (travel - length)
    if x > 0.0:
        force += x * (k1 + k2 * x) + damping * min(x / length, 1.0) * max(v, 0.0)
    if s > travel:
        force += max(metal * (s - travel) + metal_damping * v, 0.0)
    if s < 0.0:
        force += min(top * s + top_damping * v, 0.0)
    return force


@njit(float64(float64[::1], float64, float64), nogil=True, cache=True, error_model="numpy")
def _height(ground, grid, x):
    """Catmull-Rom through the ground's heights."""
    place = x / grid
    k = int(place)
    n = ground.size
    if place < 1.0:
        return ground[0]
    if k > n - 3:
        return ground[n - 1]
    t = place - k
    a, b, c, d = ground[k - 1], ground[k], ground[k + 1], ground[k + 2]
    return b + 0.5 * t * (c - a + t * (2.0 * a - 5.0 * b + 4.0 * c - d + t * (3.0 * (b - c) + d - a)))


@njit(float64(float64[::1], float64, float64), nogil=True, cache=True, error_model="numpy")
def _slope(ground, grid, x):
    """Slope of _height."""
    place = x / grid
    k = int(place)
    n = ground.size
    if place < 1.0 or k > n - 3:
        return 0.0
    t = place - k
    a, b, c, d = ground[k - 1], ground[k], ground[k + 1], ground[k + 2]
    return 0.5 * (c - a + t * (2.0 * (2.0 * a - 5.0 * b + 4.0 * c - d) + t * 3.0 * (3.0 * (b - c) + d - a))) / grid


@njit(
    void(float64[::1], float64[::1], float64, float64, float64, float64[::1], float64[::1], float64[::1], float64[::1], float64[::1], float64[::1],
         float64[::1], float64[::1], float64[::1], float64[::1]),
    nogil=True, cache=True, error_model="numpy",
)  # fmt: skip
def slopes(y, p, time, speed, grid, ground, fork_table, shock_table, stroke_table, fork_in, fork_out, shock_in, shock_out, dy, seen):
    """Derivative of the ten states into dy; what is recorded into seen."""
    a, b = p[A], p[B]
    front = y[2] - y[0] - a * y[1]
    front_v = y[7] - y[5] - a * y[6]
    rear = y[3] - y[0] + b * y[1]
    rear_v = y[8] - y[5] + b * y[6]
    # fork: stroke along the leg is the vertical travel / cos(rake), told by p[F_TRAVEL] over the vertical travel in stroke_table's place 0
    lean = stroke_table[0]
    s = front * lean
    v = front_v * lean
    spring = _look(fork_table, p[F_TRAVEL], min(max(s, 0.0), p[F_TRAVEL] * 1.02))
    fork_stop = _stops(s, v, p[F_TRAVEL], p[FB_LENGTH], p[FB], p[FB2], p[FB_C], p[FM], p[FM_C], p[FT], p[FT_C])
    fork_force = lean * (spring + _valve(fork_in, fork_out, p[TOP_SPEED], v) + p[F_FRICTION] * v / math.sqrt(v * v + p[V0] * p[V0]) + fork_stop)
    # shock behind its linkage: stroke and ratio from the table of strokes over wheel travel
    inside = min(max(rear, 0.0), p[W_TRAVEL])
    n = (stroke_table.size - 2) // 2
    place = inside / p[W_TRAVEL] * (n - 1)
    k = int(place)
    if k > n - 2:
        k = n - 2
    t = place - k
    ratio = stroke_table[2 + n + k] + (stroke_table[3 + n + k] - stroke_table[2 + n + k]) * t
    step = p[W_TRAVEL] / (n - 1)
    # the stroke is the integral of the ratio: exact between the points of the table, so that the energy is too
    q = stroke_table[2 + k] + step * t * (stroke_table[2 + n + k] + 0.5 * (stroke_table[3 + n + k] - stroke_table[2 + n + k]) * t)
    q += (rear - inside) * ratio
    u = rear_v * ratio
    spring = _look(shock_table, p[S_STROKE], min(max(q, 0.0), p[S_STROKE] * 1.02))
    shock_stop = _stops(q, u, p[S_STROKE], p[SB_LENGTH], p[SB], p[SB2], p[SB_C], p[SM], p[SM_C], p[ST], p[ST_C])
    shock_force = ratio * (spring + _valve(shock_in, shock_out, p[TOP_SPEED], u) + p[S_FRICTION] * u / math.sqrt(u * u + p[V0] * p[V0]) + shock_stop)
    # tyres
    x = time * speed
    ahead = x + a + b
    h_front, h_rear = _height(ground, grid, ahead), _height(ground, grid, x)
    push_front = h_front - y[2]
    tyre_front = 0.0
    if push_front > 0.0:
        tyre_front = max(p[KTF] * push_front + p[RIM] * max(push_front - p[RIM_FROM], 0.0) + p[CT] * (_slope(ground, grid, ahead) * speed - y[7]), 0.0)
    push_rear = h_rear - y[3]
    tyre_rear = 0.0
    if push_rear > 0.0:
        tyre_rear = max(p[KTR] * push_rear + p[RIM] * max(push_rear - p[RIM_FROM], 0.0) + p[CT] * (_slope(ground, grid, x) * speed - y[8]), 0.0)
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
    int64(float64[::1], float64[::1], float64, float64, int64, int64, float64, float64[::1], float64[::1], float64[::1], float64[::1], float64[::1],
          float64[::1], float64[::1], float64[::1], float64[:, ::1]),
    nogil=True, cache=True, error_model="numpy",
)  # fmt: skip
def ride_over(y0, p, speed, dt, steps, every, grid, ground, fork_table, shock_table, stroke_table, fork_in, fork_out, shock_in, shock_out, out):
    """Ride over the ground from y0; a row of RECORDED after every so many steps. Gives the rows filled; fewer when it runs away."""
    y = y0.copy()
    k1, k2, k3, k4 = np.zeros(10), np.zeros(10), np.zeros(10), np.zeros(10)
    other, seen = np.zeros(10), np.zeros(13)
    row = 0
    for i in range(steps):
        t = i * dt
        slopes(y, p, t, speed, grid, ground, fork_table, shock_table, stroke_table, fork_in, fork_out, shock_in, shock_out, k1, seen)
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
        slopes(other, p, t + 0.5 * dt, speed, grid, ground, fork_table, shock_table, stroke_table, fork_in, fork_out, shock_in, shock_out, k2, seen)
        for j in range(10):
            other[j] = y[j] + 0.5 * dt * k2[j]
        slopes(other, p, t + 0.5 * dt, speed, grid, ground, fork_table, shock_table, stroke_table, fork_in, fork_out, shock_in, shock_out, k3, seen)
        for j in range(10):
            other[j] = y[j] + dt * k3[j]
        slopes(other, p, t + dt, speed, grid, ground, fork_table, shock_table, stroke_table, fork_in, fork_out, shock_in, shock_out, k4, seen)
        for j in range(10):
            y[j] += dt / 6.0 * (k1[j] + 2.0 * k2[j] + 2.0 * k3[j] + k4[j])
    return row
