"""The stepping kernels of Kit: how warm a rotor with its fluid, a foam and the coolant get along a lap, and what is in
the battery.

All kernels that call each other stand in this one file, since numba's cache is keyed by its own file.
"""

import math

import numpy as np
from numba import float64, njit, void

#: emissivity of a rotor
EMISSIVITY = 0.55
#: radiation [W/(m2 K4)] (CODATA 2018)
STEFAN_BOLTZMANN = 5.670374419e-8
#: share of the heat that goes into the rotor, the rest to pads and caliper; the caliper's heat [J/K], what it takes
#: from the rotor and gives to the air [W/K]
ROTOR_SHARE, CALIPER_J_PER_K, ROTOR_TO_CALIPER_W_PER_K, CALIPER_FACE_M2 = 0.94, 720.0, 0.5, 0.035
#: film of still air [W/(m2 K)]
STILL_FILM = 6.0
#: air over a rotor against the bike's speed, for the flow and for the turning
FLOW_SHARE = 0.8
#: hysteresis [1], share of the loss in the foam, foam radius [m], conductivity [W/(m K)], volume [m3]
LOSS, FOAM_SHARE, RADIUS_M, CONDUCTIVITY_W_PER_M_K, VOLUME_M3 = 0.016, 0.6, 0.062, 0.09, 0.0245
#: heat that the skin gives to the air [W/K]: standing, and by speed^0.8
SKIN_W_PER_K, SKIN_BY_SPEED = 6.0, 2.6


@njit(float64(float64), cache=True, nogil=True, error_model="numpy")
def air_conductivity(air_k):
    """Of dry air [W/(m K)], from memory: within 1 % from 250 to 400 K."""
    return 0.0241 * (air_k / 273.15) ** 0.9


@njit(float64(float64, float64), cache=True, nogil=True, error_model="numpy")
def air_viscosity(air_k, density):
    """Kinematic viscosity [m2/s]: Sutherland over density [kg/m3]."""
    return 1.458e-6 * air_k**1.5 / (air_k + 110.4) / density


@njit(float64(float64, float64, float64, float64), cache=True, nogil=True, error_model="numpy")
def disc_film(rotor_m, omega, conductivity, viscosity):
    """Film of a turning disc [W/(m2 K)]: 0.70 (k/D) Re^0.55, Re = omega D^2 / (2 nu)."""
    return 0.70 * conductivity / rotor_m * (omega * rotor_m * rotor_m / (2.0 * viscosity)) ** 0.55


@njit(float64(float64, float64, float64, float64), cache=True, nogil=True, error_model="numpy")
def flow_film(rotor_m, speed, conductivity, viscosity):
    """Film of a plate in a flow [W/(m2 K)]: 0.037 Re^0.8 Pr^(1/3) k/D."""
    return 0.037 * (speed * rotor_m / viscosity) ** 0.8 * 0.71 ** (1.0 / 3.0) * conductivity / rotor_m


#: places of the table of films over the speed
FILMS = 256


@njit(float64[::1](float64, float64, float64, float64, float64), nogil=True, cache=True, error_model="numpy")
def films(diameter, wheel, air_k, density, fastest):
    """Film of a rotor [W/(m2 K)] at FILMS even speeds from a standstill to the fastest [m/s]: turning and flow joined
    as cubes, and still air.
    """
    out = np.empty(FILMS)
    k, nu = air_conductivity(air_k), air_viscosity(air_k, density)
    for i in range(FILMS):
        v = fastest * i / (FILMS - 1)
        turning, flow = disc_film(diameter, v / wheel, k, nu), flow_film(diameter, FLOW_SHARE * v, k, nu)
        out[i] = (turning**3 + flow**3) ** (1.0 / 3.0) + STILL_FILM
    return out


@njit(
    void(
        float64[::1], float64[::1], float64[::1], float64[::1], float64, float64[::1], float64[::1], float64[::1],
        float64[::1], float64[::1],
    ),
    nogil=True, cache=True, error_model="numpy",
)  # fmt: skip
def heat(time, power, speed, air, fastest, film_at, rotor, start, rotor_out, fluid_out):
    """Fills rotor_out and fluid_out [K] at the end of each step. power: heat made by this brake [W]; film_at: of
    `films`; rotor: face [m2] and heat [J/K]; start: rotor and fluid [K].
    """
    face, holds = rotor[0], rotor[1]
    radiates = EMISSIVITY * face * STEFAN_BOLTZMANN
    hot, fluid = start[0], start[1]
    per_speed = (FILMS - 1) / fastest
    for i in range(time.size):
        v, outside, dt = speed[i], air[i], time[i]
        place = v * per_speed
        at = min(int(place), FILMS - 2)
        film = face * (film_at[at] + (film_at[at + 1] - film_at[at]) * (place - at))
        cubed = hot * hot * hot
        steeper = 4.0 * radiates * cubed
        falls = film + steeper + ROTOR_TO_CALIPER_W_PER_K
        radiated = radiates * (cubed * hot - outside * outside * outside * outside)
        given = ROTOR_SHARE * power[i] + film * outside - radiated + steeper * hot + ROTOR_TO_CALIPER_W_PER_K * fluid
        to = given / falls
        settled = to + (hot - to) * math.exp(-falls * dt / holds)
        mean = 0.5 * (hot + settled)
        gives = (STILL_FILM + 3.0 * math.sqrt(v)) * CALIPER_FACE_M2
        falls = gives + ROTOR_TO_CALIPER_W_PER_K
        to = ((1.0 - ROTOR_SHARE) * power[i] + ROTOR_TO_CALIPER_W_PER_K * mean + gives * outside) / falls
        fluid = to + (fluid - to) * math.exp(-falls * dt / CALIPER_J_PER_K)
        hot = settled
        rotor_out[i] = hot
        fluid_out[i] = fluid


@njit(float64(float64, float64, float64), nogil=True, cache=True, error_model="numpy")
def steady(speed, per_speed, air):
    """Where the core would settle [K] at a speed: skin and core over the air. per_speed: loss per speed [W s/m]."""
    power = per_speed * speed
    made = FOAM_SHARE * power / VOLUME_M3
    return (
        air
        + power / (SKIN_W_PER_K + SKIN_BY_SPEED * speed**0.8)
        + 0.25 * made * RADIUS_M * RADIUS_M / CONDUCTIVITY_W_PER_M_K
    )


@njit(
    float64[::1](float64[::1], float64[::1], float64[::1], float64, float64, float64),
    nogil=True, cache=True, error_model="numpy",
)  # fmt: skip
def core_along(time_s, speed_m_per_s, air_k, per_speed, tau_s, start_k):
    """Temperature of the core [K] at the end of each step, shape (n,). time_s, speed_m_per_s, air_k: per step;
    per_speed: loss per speed [W s/m]; start_k: at the start.
    """
    out = np.empty(time_s.size)
    core = start_k
    for i in range(time_s.size):
        to = steady(speed_m_per_s[i], per_speed, air_k[i])
        core = to + (core - to) * np.exp(-time_s[i] / tau_s)
        out[i] = core
    return out


#: what of a radiator the kernel reads, in this order: films of air and coolant [W/K], air for which the first is told
#: [kg/s], heat of a kilogram of coolant [J/(kg K)], heat of all that warms [J/K], thermostat [0 or 1], fan [m3/s], open
#: face [m2]
RADIATOR = ("air_film", "air_told", "coolant_film", "holds", "heat", "thermostat", "fan", "face")
#: heat of a kilogram of air [J/(kg K)], coolant pumped for a turn a minute [kg/s]
AIR_HOLDS, PUMPED = 1006.0, 0.25 / 6000.0
#: air through the face against the bike's speed and at a standstill [m/s]; what cases and hoses give [W/K], standing
#: and by speed^0.8; between which the thermostat opens [K]
FACE_SHARE, STILL_M_PER_S, CASES_W_PER_K, CASES_BY_SPEED, OPENS_K, OPEN_K = 0.32, 0.15, 3.0, 1.2, 343.15, 355.15
#: a fan stops so much lower than it starts [K]
FAN_FALLS_K = 7.0


@njit(float64(float64, float64), cache=True, nogil=True, error_model="numpy")
def effectiveness(units, ratio):
    """Crossflow, both unmixed [1]: 1 - exp(NTU^0.22 / Cr (exp(-Cr NTU^0.78) - 1))."""
    if ratio < 1e-9:
        return 1.0 - math.exp(-units)
    return 1.0 - math.exp(units**0.22 / ratio * (math.exp(-ratio * units**0.78) - 1.0))


@njit(float64(float64, float64, float64[::1]), cache=True, nogil=True, error_model="numpy")
def exchanged(air, rpm, radiator):
    """Heat that the radiators take for each kelvin [W/K], the thermostat open. air: through them [kg/s]."""
    pumped = PUMPED * max(rpm, 1.0)
    told = radiator[0] * (air / radiator[1]) ** 0.6
    wall = radiator[2] * (pumped / 0.25) ** 0.8
    lesser, greater = air * AIR_HOLDS, pumped * radiator[3]
    if lesser > greater:
        lesser, greater = greater, lesser
    return effectiveness(told * wall / (told + wall) / lesser, lesser / greater) * lesser


@njit(float64(float64, float64, float64, float64[::1]), cache=True, nogil=True, error_model="numpy")
def conductance(air, speed, rpm, radiator):
    """Heat that leaves for each kelvin [W/K], the thermostat open: radiators, and cases with hoses."""
    return exchanged(air, rpm, radiator) + CASES_W_PER_K + CASES_BY_SPEED * speed**0.8


#: places of the table of what radiators take: over the air through them, over the revs; and of the skin over the speed
AIRS, REVS, SKINS = 64, 24, 128


@njit(float64[:, ::1](float64, float64, float64[::1]), cache=True, nogil=True, error_model="numpy")
def exchange_table(most_air, most_rpm, radiator):
    """What the radiators take [W/K] at AIRS even flows up to most_air [kg/s] and REVS even revs up to most_rpm."""
    out = np.empty((AIRS, REVS))
    for i in range(AIRS):
        for j in range(REVS):
            air, rpm = most_air * (i + 1e-3) / (AIRS - 1), most_rpm * (j + 1e-3) / (REVS - 1)
            out[i, j] = exchanged(air, rpm, radiator)
    return out


@njit(float64[::1](float64), cache=True, nogil=True, error_model="numpy")
def skin_table(fastest):
    """What cases and hoses give [W/K] at SKINS even speeds up to the fastest [m/s]."""
    out = np.empty(SKINS)
    for i in range(SKINS):
        out[i] = CASES_W_PER_K + CASES_BY_SPEED * (fastest * i / (SKINS - 1)) ** 0.8
    return out


@njit(
    float64(
        float64[::1], float64[::1], float64[::1], float64[::1], float64[::1], float64[::1], float64[::1], float64[::1],
        float64[:, ::1], float64[::1], float64, float64[::1], float64[::1],
    ),
    nogil=True, cache=True, error_model="numpy",
)  # fmt: skip
def coolant(time, heat_w, speed, rpm, air_k, density, radiator, ends, takes, skin, start, out, fan_out):
    """Fills out [K] at the end of each step and fan_out [0 or 1]; the coolant at the end [K]. heat_w: into the coolant
    [W]; ends: most air [kg/s], most revs [rpm] and fastest [m/s] of the tables takes and skin, and where the fan starts
    [K]; start: at the beginning [K]. What is filled already is left from where it would be the same.
    """
    now, running = start, False
    per_air, per_rpm, per_speed, fan_from = (AIRS - 1) / ends[0], (REVS - 1) / ends[1], (SKINS - 1) / ends[2], ends[3]
    for i in range(time.size):
        if radiator[6] > 0.0:
            running = now > (fan_from - FAN_FALLS_K if running else fan_from)
        v = speed[i]
        air = density[i] * radiator[7] * max(FACE_SHARE * v, STILL_M_PER_S)
        if running:
            air = max(air, density[i] * radiator[6])
        opened = 1.0
        if radiator[5] > 0.0:
            opened = min(max((now - OPENS_K) / (OPEN_K - OPENS_K), 0.0), 1.0)
        x, y, z = air * per_air, rpm[i] * per_rpm, v * per_speed
        a, b, c = min(int(x), AIRS - 2), min(int(y), REVS - 2), min(int(z), SKINS - 2)
        x, y, z = x - a, y - b, z - c
        low = takes[a, b] + x * (takes[a + 1, b] - takes[a, b])
        high = takes[a, b + 1] + x * (takes[a + 1, b + 1] - takes[a, b + 1])
        gives = opened * (low + y * (high - low)) + skin[c] + z * (skin[c + 1] - skin[c])
        to = air_k[i] + heat_w[i] / gives
        part = gives * time[i] / radiator[4]
        kept = (1.0 - 0.5 * part) / (1.0 + 0.5 * part) if part < 0.02 else math.exp(-part)
        now = to + (now - to) * kept
        settled = running == (fan_out[i] > 0.5)
        if settled and abs(now - out[i]) < 1e-5:
            return out[-1]
        out[i] = now
        fan_out[i] = 1.0 if running else 0.0
    return now


@njit(
    void(float64[::1], float64[::1], float64, float64, float64, float64[::1]),
    nogil=True, cache=True, error_model="numpy",
)  # fmt: skip
def battery(time, net_w, holds, takes, start, out):
    """Fills out [J]: what is in the battery at the end of each step. net_w: what is left over [W]; takes: share of what
    is charged that stays [1]; never under nothing nor over holds [J].
    """
    now = start
    for i in range(time.size):
        net = net_w[i] * time[i]
        now = min(max(now + (takes * net if net > 0.0 else net), 0.0), holds)
        out[i] = now
