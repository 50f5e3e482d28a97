"""The stepping kernel of the course simulation (HANDBOOK 4): backward braking pass, forward pass with gear state.

All kernels that call each other stand in this one file, since numba's cache is keyed by its own file.
"""

import math

import numpy as np
from numba import float64, int64, njit, void

#: What limits a step, by code.
LIMITS = ("power", "grip", "wheelie", "pace", "corner", "brake", "revs", "shift", "stuck_power", "stuck_grip")
POWER, GRIP, WHEELIE, PACE, CORNER, BRAKE, REVS, SHIFT, STUCK_POWER, STUCK_GRIP = range(10)

#: Machine parameters, by place in the vector.
PARAMETERS = (
    "mass",
    "radius",
    "wheel_inertia",
    "engine_inertia",
    "efficiency",
    "drag",
    "cg_front",
    "wheelbase",
    "cg_height",
    "drag_height",
    "brake_use",
    "engagement",
    "limiter",
    "torque_step",
    "shift_time",
    "dwell",
    "walk",
    "gravity",
    "overrun_torque",
    "overrun_torque_per_speed",
    "idle",
)

#: Energy accounts of a ride [J], by place in the vector.
ACCOUNTS = (
    "engine",
    "transmission",
    "clutch",
    "slip",
    "rolling",
    "air",
    "corner",
    "grade",
    "brake",
    "rotation",
    "push",
    "engine_brake",
)
(
    E_ENGINE,
    E_TRANSMISSION,
    E_CLUTCH,
    E_SLIP,
    E_ROLLING,
    E_AIR,
    E_CORNER,
    E_GRADE,
    E_BRAKE,
    E_ROTATION,
    E_PUSH,
    E_ENGINE_BRAKE,
) = range(12)


@njit(float64(float64[::1], float64, float64), nogil=True, cache=True, error_model="numpy")
def torque_at(torque, step, speed):
    """Linear interpolation of full-throttle torque [Nm] at crank speed [rad/s]."""
    place = speed / step
    if place >= torque.size - 1:
        return 0.0
    k = int(place)
    return torque[k] + (torque[k + 1] - torque[k]) * (place - k)


@njit(
    float64(float64, float64, float64, float64, float64[::1], float64[::1]), nogil=True, cache=True, error_model="numpy"
)
def gear_force(v, ratio, slip, share, torque, p):
    """Drive force [N] at the ground at full throttle; below engagement speed the clutch slips there.

    ratio < 0 marks a gear in which nobody slips the clutch: it gives nothing below engagement speed.
    """
    speed = v * (1.0 + slip) / p[1] * abs(ratio)
    if speed < p[11]:
        if ratio < 0.0:
            return 0.0
        speed = p[11]
    return share * torque_at(torque, p[13], speed) * abs(ratio) * p[4] / p[1]


@njit(
    void(
        float64[::1],
        float64[::1],
        int64[::1],
        float64[::1],
        float64,
        float64[::1],
        float64[::1],
        float64[::1],
        float64[::1],
        float64[::1],
    ),
    nogil=True,
    cache=True,
    error_model="numpy",
)
def limit_speeds(sine, curvature, ground, headwind, spacing, table, corner_use, cap, p, out):
    """Backward pass: the highest speed [m/s] at each node from which the bike can still brake. out: shape (n + 1,).

    headwind [m/s] per step, + = from ahead; ground: row of the table. table: rows of ground (c0, c1, mu_drive,
    mu_lateral, slip); cap [m/s] per step. out is filled in place; corner_use: shape (1,).
    """
    n = sine.size
    g = p[17]
    for i in range(n + 1):
        low = 1e9
        for j in (i - 1, i):
            if 0 <= j < n:
                cosine = math.sqrt(1.0 - sine[j] * sine[j])
                v = cap[j]
                bend = abs(curvature[j])
                if bend > 1e-6:
                    v = min(v, math.sqrt(table[ground[j] * 5 + 3] * corner_use[0] * g * cosine / bend))
                low = min(low, v)
        out[i] = max(low, p[16])
    for i in range(n - 1, -1, -1):
        v = out[i + 1]
        k = ground[i] * 5
        cosine = math.sqrt(1.0 - sine[i] * sine[i])
        lateral = v * v * abs(curvature[i]) / (table[k + 3] * g)
        grip = math.sqrt(max(1.0 - lateral * lateral, 0.04))
        rolling = max(table[k] + table[k + 1] * v, 0.5 * table[k]) * g * cosine
        air = p[5] * (v + headwind[i]) * abs(v + headwind[i]) / p[0]
        brake = (
            min(p[10] * table[k + 3] * g * cosine * grip, 0.9 * g * cosine * p[6] / p[8]) + g * sine[i] + rolling + air
        )
        out[i] = min(out[i], max(math.sqrt(max(v * v + 2.0 * max(brake, 0.3) * spacing, 0.0)), p[16]))


@njit(
    void(
        float64[::1],
        float64[::1],
        int64[::1],
        float64[::1],
        float64,
        float64[::1],
        float64[::1],
        float64[::1],
        float64[::1],
        float64[::1],
        float64[::1],
        float64[::1],
        float64[::1],
        float64,
        int64,
        float64[::1],
        int64[::1],
        float64[::1],
        float64[::1],
        float64[::1],
        int64[::1],
        float64[::1],
        float64[::1],
    ),
    nogil=True,
    cache=True,
    error_model="numpy",
)
def ride(
    sine,
    curvature,
    ground,
    headwind,
    spacing,
    table,
    corner_use,
    cap,
    power_share,
    ratios,
    torque,
    p,
    node_limit,
    v_start,
    gear_start,
    v_out,
    gear_out,
    speed_out,
    torque_out,
    time_out,
    limit_out,
    accounts,
    brake_out,
):
    """Forward pass. Fills v_out (n + 1) and, per step, gear (0 = first), crank speed [rad/s], brake torque [Nm]
    (negative on overrun), time [s], limit code and the force of the brakes [N]; adds to accounts [J].

    headwind [m/s] per step, + = from ahead; ground: row of the table. ratios: overall ratios, those that a clutch may
    slip in positive (first gear; every gear with an automatic clutch), the others negative (see gear_force).
    """
    n = sine.size
    gears = ratios.size
    mass, radius, eta, g = p[0], p[1], p[4], p[17]
    v0 = v_start
    gear = gear_start
    since_shift = 10.0
    shift_left = 0.0
    need = 0.0
    v_out[0] = v0
    for i in range(n):
        k = ground[i] * 5
        c0, c1, mu, mu_lateral, slip = table[k], table[k + 1], table[k + 2], table[k + 3], table[k + 4]
        cosine = math.sqrt(1.0 - sine[i] * sine[i])
        share = power_share[i]
        bend = abs(curvature[i])

        # gear
        if shift_left <= 0.0:
            crank = v0 * (1.0 + slip) / radius * abs(ratios[gear])
            here = gear_force(v0, ratios[gear], slip, share, torque, p)
            shifted = False
            if gear < gears - 1:
                up = gear_force(v0, ratios[gear + 1], slip, share, torque, p)
                crank_up = crank * abs(ratios[gear + 1]) / abs(ratios[gear])
                easy = up > 2.0 * need and need < 0.35 * here and crank_up > 1.5 * p[11]
                if crank > 0.985 * p[12] or (since_shift > p[15] and (up >= here or easy) and crank_up > p[11]):
                    gear += 1
                    shifted = True
            if not shifted and gear > 0:
                crank_down = crank * abs(ratios[gear - 1]) / abs(ratios[gear])
                if crank_down < 0.97 * p[12]:
                    down = gear_force(v0, ratios[gear - 1], slip, share, torque, p)
                    if crank < p[11] or (since_shift > p[15] and here < 0.85 * down and need > 0.9 * here):
                        gear -= 1
                        shifted = True
            if shifted:
                since_shift = 0.0
                shift_left = p[14]

        ratio = ratios[gear]
        m_eq = mass + p[2] / (radius * radius) + p[3] * ratio * ratio / (radius * radius)

        # step v^2 over distance at full drive, midpoint corrector
        vm = v0
        force_engine = 0.0
        force = 0.0
        rolling = 0.0
        air = 0.0
        corner = 0.0
        code = POWER
        v1 = v0
        for _ in range(2):
            rolling = max(c0 + c1 * vm, 0.5 * c0) * mass * g * cosine
            air = p[5] * (vm + headwind[i]) * abs(vm + headwind[i])
            corner = 0.05 * mass * vm * vm * bend
            resist = rolling + air + corner + mass * g * sine[i]
            force_engine = gear_force(vm, ratio, slip, share, torque, p)
            if shift_left > 0.0:
                force_engine *= max(0.0, 1.0 - shift_left * vm / spacing)
            lateral = vm * vm * bend / (mu_lateral * g)
            grip = math.sqrt(max(1.0 - lateral * lateral, 0.04))
            traction = (
                grip
                * mu
                * (mass * g * cosine * p[6] / p[7] - rolling * p[8] / p[7] + air * (p[9] - p[8]) / p[7])
                / (1.0 - mu * p[8] / p[7])
            )
            wheelie = 0.9 * mass * g * cosine * (p[7] - p[6]) / p[8] + rolling - air * (p[9] - p[8]) / p[8]
            force = force_engine
            code = SHIFT if shift_left > 0.0 else POWER
            if v0 * (1.0 + slip) / radius * abs(ratio) > 0.98 * p[12]:
                code = REVS
            if traction < force:
                force = max(traction, 0.0)
                code = GRIP
            if wheelie < force:
                force = max(wheelie, 0.0)
                code = WHEELIE
            v1 = math.sqrt(max(v0 * v0 + 2.0 * (force - resist) / m_eq * spacing, 0.0))
            vm = max(0.5 * (v0 + v1), 0.5 * p[16])
        resist = rolling + air + corner + mass * g * sine[i]

        brake = 0.0
        push = 0.0
        if v1 > node_limit[i + 1]:
            v1 = node_limit[i + 1]
            wanted = m_eq * (v1 * v1 - v0 * v0) / (2.0 * spacing) + resist
            bend_v = 1e9
            if bend > 1e-6:
                bend_v = math.sqrt(mu_lateral * corner_use[0] * g * cosine / bend)
            code = CORNER if bend_v < cap[i] else PACE
            if wanted < force:
                force = wanted
            if wanted < -0.02 * mass * g:
                code = BRAKE
            need = max(force, 0.0)
        elif v1 < p[16]:
            v1 = p[16]
            wanted = m_eq * (v1 * v1 - v0 * v0) / (2.0 * spacing) + resist
            push = max(wanted - force, 0.0)
            best = 0.0
            for j in range(gears):
                best = max(best, gear_force(p[16], ratios[j], slip, share, torque, p))
            level = (
                max(c0 + c1 * p[16], 0.5 * c0) * mass * g * cosine
                + p[5] * (p[16] + headwind[i]) * abs(p[16] + headwind[i])
                + mass * g * sine[i]
            )
            if best < level:
                code = STUCK_POWER
            elif force_engine >= resist:
                code = STUCK_GRIP
            need = 1e9
        else:
            need = 1e9

        dt = spacing / (0.5 * (v0 + v1))
        geared = v0 * 0.5 + v1 * 0.5
        crank = geared * (1.0 + slip) / radius * abs(ratio)
        if force >= 0.0:
            brake_torque = force * radius / (abs(ratio) * eta)
            at_gear = brake_torque * abs(ratio) * (1.0 + slip) * spacing / radius
            clutch = 0.0
            if crank < p[11]:
                crank = p[11]
                clutch = max(brake_torque * crank * dt - at_gear, 0.0)
            accounts[E_ENGINE] += at_gear + clutch
            accounts[E_CLUTCH] += clutch
            accounts[E_TRANSMISSION] += at_gear * (1.0 - eta)
            accounts[E_SLIP] += force * slip * spacing
        else:
            # the closed throttle brakes first, the brakes do the rest
            drag_torque = p[18] + p[19] * crank
            engine_brake = min(-force, drag_torque * abs(ratio) / radius)
            brake_torque = -engine_brake * radius / abs(ratio)
            brake = -force - engine_brake
            accounts[E_ENGINE_BRAKE] += engine_brake * spacing
            accounts[E_BRAKE] += brake * spacing
            if crank < p[20]:
                crank = p[20]
        accounts[E_ROLLING] += rolling * spacing
        accounts[E_AIR] += air * spacing
        accounts[E_CORNER] += corner * spacing
        accounts[E_GRADE] += mass * g * sine[i] * spacing
        accounts[E_ROTATION] += (m_eq - mass) * (v1 * v1 - v0 * v0) * 0.5
        accounts[E_PUSH] += push * spacing

        v_out[i + 1] = v1
        gear_out[i] = gear
        speed_out[i] = crank
        torque_out[i] = brake_torque
        time_out[i] = dt
        limit_out[i] = code
        brake_out[i] = brake
        since_shift += dt
        shift_left -= dt
        v0 = v1


def empty_outputs(steps: int) -> tuple[np.ndarray, ...]:
    """Arrays that `ride` fills: speed [m/s] (steps + 1,), gear, crank speed [rad/s], torque [N m], time [s], limit,
    accounts [J], force of the brakes [N]."""
    return (
        np.zeros(steps + 1),
        np.zeros(steps, np.int64),
        np.zeros(steps),
        np.zeros(steps),
        np.zeros(steps),
        np.zeros(steps, np.int64),
        np.zeros(len(ACCOUNTS)),
        np.zeros(steps),
    )
