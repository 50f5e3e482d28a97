"""Tyres over the ground: how stiff, what edge they take before the rim does, how likely a flat is, what pressure a
course wants, and what another kind grips.

References: plane cut of a torus (within 2 % of quadrature); [wong2008] J. Y. Wong, Theory of Ground Vehicles: sinkage
falls with ground pressure (the direction; the exponents are assumptions). HANDBOOK 9, 1: what is unmarked there is an
assumption, pressures by ground common practice without a source.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from math import exp, pi, sqrt

BAR_PA = 1e5
#: section radius, rate of the carcass without air, deflection to the rim with the inside flat, force of the leg on it
SECTION_M = {"front": 0.045, "rear": 0.062}
CARCASS_N_PER_M = {"front": 60e3, "rear": 70e3}
TO_RIM_M = {"front": 0.055, "rear": 0.075}
LEG_N = {"front": 1100.0, "rear": 1500.0}
#: an edge is narrower than flat ground: share of the rate that it meets
EDGE_SHARE = 0.75
#: a rim's yield and rate: it takes so much more before it dents
RIM_YIELD_N, RIM_N_PER_M = 12_000.0, 2e6
#: cold pressure by ground [bar], front and rear, of a plain tube at 105 kg on the wheel (common practice, no source)
REFERENCE_KG = 105.0
WANTED_BAR = {
    "hardpack": (0.95, 0.90), "gravel": (1.00, 0.95), "loam": (0.85, 0.80), "sand": (0.80, 0.75),
    "deep_sand": (0.75, 0.65), "mud": (0.80, 0.75), "rock": (1.05, 1.00), "whoops": (0.90, 0.85),
    "single_track": (0.90, 0.85),
}  # fmt: skip
#: what an inside takes off that, and what it weighs against a plain tube [kg], front and rear
INSIDE_LESS_BAR = {"tube": 0.0, "heavy_tube": 0.05, "two_chamber": 0.25, "tubeless": 0.0, "mousse": 0.0}
INSIDE_KG = {
    "tube": (0.0, 0.0), "heavy_tube": (0.7, 1.0), "mousse": (1.5, 2.2), "two_chamber": (0.4, 0.5),
    "tubeless": (-0.3, -0.3),
}  # fmt: skip
#: chance that a strike through to the rim lets the air out
PINCHES = {"tube": 1.0, "heavy_tube": 0.45, "two_chamber": 0.08, "tubeless": 0.15, "mousse": 0.0}
#: rock on more of the course than this decides the pressure
ROCK_DECIDES = 0.03
#: edges lie thicker the lower they are: mean height [m]; riders dodge above this speed [m/s]
EDGE_MEAN_M, DODGED_M_PER_S = 0.020, 9.0
#: ground that pinches
EDGED = ("rock", "single_track", "whoops")
#: flats: one in so far of such ground at the reference pressure with a plain tube [km]
FLAT_PRIOR_KM = 1500.0


def footprint_rate(radius_m: float, section_m: float) -> float:
    """How much stiffer a tyre gets with its pressure [N/m per Pa]: 2 pi sqrt(R r), the plane cut of a torus.

    Accuracy: 2 % against quadrature at 4 mm.
    """
    return 2.0 * pi * sqrt(radius_m * section_m)


def tyre_rate(pressure_pa: float, *, end: str, radius_m: float, carcass_scale: float = 1.0) -> float:
    """Rate of a tyre [N/m] at a gauge pressure [Pa]: its carcass and its air."""
    return CARCASS_N_PER_M[end] * carcass_scale + footprint_rate(radius_m, SECTION_M[end]) * pressure_pa


def pressure_for_load(pressure_pa: float, *, end: str, radius_m: float, load_kg: float) -> float:
    """Pressure [Pa] with which a load [kg] presses the tyre as deep as the reference load does at pressure_pa; never
    below none.
    """
    wanted = tyre_rate(pressure_pa, end=end, radius_m=radius_m) * load_kg / REFERENCE_KG
    return max(wanted - CARCASS_N_PER_M[end], 0.0) / footprint_rate(radius_m, SECTION_M[end])


def edge_sine(radius_m: float, height_m: float) -> float:
    """Sine [1] of the angle at which a wheel meets a square edge of a height [m]; 1 for one as high as its axle."""
    share = min(height_m / radius_m, 1.0)
    return sqrt(1.0 - (1.0 - share) ** 2)


def strike_energy(rate_n_per_m: float, deflection_m: float, leg_n: float) -> float:
    """Energy [J] that a tyre takes up to the rim: k d^2 / 2 - F d."""
    return 0.5 * rate_n_per_m * deflection_m**2 - leg_n * deflection_m


def rim_dent_energy(yield_n: float = RIM_YIELD_N, rate_n_per_m: float = RIM_N_PER_M) -> float:
    """Energy [J] that a rim takes beyond the tyre before it dents: F^2 / (2 k)."""
    return yield_n**2 / (2.0 * rate_n_per_m)


def strike_speed(energy_j: float, *, unsprung_kg: float, radius_m: float, height_m: float) -> float:
    """Speed [m/s] at which a square edge of a height [m] comes through to the rim; 0 for a tyre that rests on it."""
    return sqrt(max(2.0 * energy_j / unsprung_kg, 0.0)) / edge_sine(radius_m, height_m)


def strike_edge(energy_j: float, *, unsprung_kg: float, radius_m: float, speed_m_per_s: float) -> float:
    """Highest square edge [m] that does not come through to the rim at a speed: the inverse of strike_speed."""
    upward = 2.0 * max(energy_j, 0.0) / (unsprung_kg * max(speed_m_per_s, 0.1) ** 2)
    return radius_m * (1.0 - sqrt(max(1.0 - upward, 0.0)))


def flat_ratio(edge_m: float, reference_edge_m: float, mean_m: float = EDGE_MEAN_M) -> float:
    """How much likelier a strike through to the rim is [1] than with a reference: edges lie exponentially."""
    return exp((reference_edge_m - edge_m) / mean_m)


def flats_per_m(*, hits: float, distance_m: float, ratio: float = 1.0, prior_factor: float = 1.0) -> float:
    """Flats per metre of edged ground with the reference tyre, so many hits after: gamma prior and Poisson, what was
    ridden weighed by how much likelier its strikes were.
    """
    return (prior_factor + hits) / (1e3 * FLAT_PRIOR_KM + distance_m * ratio)


def wanted_bar(shares: Mapping[str, float], end: str, *, rock_m: float, lap_m: float) -> float:
    """Pressure [bar] that a mix of ground wants at the reference load. shares: of the time by ground; rock on more than
    a few per cent of the way decides alone, for the rim's sake.
    """
    i = 0 if end == "front" else 1
    if lap_m > 0.0 and rock_m / lap_m > ROCK_DECIDES:
        return WANTED_BAR["rock"][i]
    whole = sum(shares.values())
    return sum(s * WANTED_BAR[g][i] for g, s in shares.items()) / whole if whole > 0.0 else WANTED_BAR["hardpack"][i]


@dataclass(frozen=True, slots=True, kw_only=True)
class KindOfTyre:
    """What a kind of tyre does against a middling knobby, by ground: factors on drive and on lateral grip [1], and what
    is added to the rolling c0 [1]; life_factor, carcass_factor: its life and stiffness against that one; heavier_kg;
    brakes: whether it brakes as it drives.
    """

    drive: Mapping[str, float]
    lateral: Mapping[str, float]
    rolling: Mapping[str, float]
    life_factor: float = 1.0
    carcass_factor: float = 1.0
    heavier_kg: float = 0.0
    most_m_per_s: float | None = None


_COLUMNS = {
    "hard": ("hardpack", "gravel"), "loam": ("loam",), "sand": ("sand", "deep_sand"), "mud": ("mud",),
    "rock": ("rock", "single_track", "whoops"),
}  # fmt: skip


def _kind(
    hard: tuple[float, float, float], loam: tuple[float, float], sand: tuple[float, float, float],
    mud: tuple[float, float], rock: tuple[float, float], **more: float,
) -> KindOfTyre:  # fmt: skip
    """Of the handbook's row: drive, lateral and rolling; rock: drive, lateral on it, dry."""
    row = {"hard": hard, "loam": (*loam, 0.0), "sand": sand, "mud": (*mud, 0.0), "rock": (*rock, 0.0)}
    by = {g: row[column] for column, grounds in _COLUMNS.items() for g in grounds}
    return KindOfTyre(
        drive={g: v[0] for g, v in by.items()},
        lateral={g: v[1] for g, v in by.items()},
        rolling={g: v[2] for g, v in by.items()},
        **more,
    )


#: a tyre of another kind against a middling knobby (assumption); on rock both grips are one number, dry
KINDS: Mapping[str, KindOfTyre] = {
    "middling_knobby": _kind((1.0, 1.0, 0.0), (1.0, 1.0), (1.0, 1.0, 0.0), (1.0, 1.0), (1.0, 1.0)),
    "hard_knobby": _kind((1.05, 1.05, -0.002), (0.95, 0.95), (0.92, 0.95, 0.01), (0.88, 0.9), (0.97, 0.97),
                         life_factor=1.6),
    "soft_knobby": _kind((0.92, 0.9, 0.004), (1.06, 1.05), (1.08, 1.05, 0.0), (1.12, 1.1), (0.95, 0.95),
                         life_factor=0.7),
    "scoop": _kind((0.80, 0.72, 0.008), (1.08, 0.92), (1.25, 0.85, -0.02), (1.15, 0.85), (0.80, 0.80)),
    "gummy": _kind((1.03, 1.0, 0.003), (1.0, 1.0), (0.98, 0.98, 0.0), (0.95, 0.95), (1.18, 1.18), life_factor=0.35),
    "trials": _kind(
        (1.05, 0.95, 0.001), (0.92, 0.88), (0.85, 0.82, 0.0), (0.72, 0.75), (1.25, 1.25), heavier_kg=-1.5,
        most_m_per_s=25.0,
    ),
    "rally": _kind(
        (1.02, 1.0, -0.004), (0.9, 0.9), (0.88, 0.9, 0.0), (0.75, 0.75), (0.9, 0.9), carcass_factor=1.3, heavier_kg=1.5
    ),
}  # fmt: skip
#: the rock column in the wet, both grips
WET_ROCK = {
    "middling_knobby": 1.0, "hard_knobby": 0.92, "soft_knobby": 0.92, "scoop": 0.75, "gummy": 1.25, "trials": 1.35,
    "rally": 0.85,
}  # fmt: skip
#: grounds that take a worn tyre's grip, and how: u is what is left of the knob's height
SOFT = ("loam", "sand", "deep_sand", "mud")


def worn_grip(left_share: float, ground: str) -> float:
    """Factor on grip [1] of a tyre with a share of its knobs left: soft ground wants height."""
    u = min(max(left_share, 0.0), 1.0)
    return 0.62 + 0.38 * u if ground in SOFT else 0.92 + 0.08 * u


def grips(kind: str, ground: str, *, left_share: float = 1.0, wet: bool = False) -> tuple[float, float, float]:
    """Factors on drive and lateral grip [1] and what is added to c0 [1] of a tyre on a ground."""
    row, worn = KINDS[kind], worn_grip(left_share, ground)
    drive, lateral = row.drive[ground], row.lateral[ground]
    if wet and ground in _COLUMNS["rock"]:
        drive = lateral = WET_ROCK[kind]
    return drive * worn, lateral * worn, row.rolling[ground]
