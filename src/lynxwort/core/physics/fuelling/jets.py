"""Jets and needle as orifices in series, and what the air asks of them.

With a fixed jet, fuel goes as area x sqrt(moist density) and oxygen as dry density, so for equal mixture the area goes
as dry / sqrt(moist): a jet numbered by diameter as the fourth root of density, one numbered by flow as the square root.
Reference: [taylor1985] C. F. Taylor, The Internal-Combustion Engine, vol. 2, ch. 5 (carburettor altitude law); series
orifices: elementary.
"""

from math import pi, sqrt, tan

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.model.bike.carburettor import Needle

Array = NDArray[np.float64]
#: area of one flow number [m2]: a flow 400 passes like a 165 by diameter. Assumption; only ratios matter.
FLOW_NUMBER_AREA_M2 = pi / 4.0 * 1.65e-3**2 / 400.0
#: throttle between which the pilot hands over to the needle (assumption, no source)
PILOT_FULL, PILOT_GONE = 0.10, 0.40


def jet_area(number: float, numbering: str) -> float:
    """Area [m2] of a main jet. numbering: "diameter" (1/100 mm) or "flow"."""
    if numbering == "diameter":
        return pi / 4.0 * (number * 1e-5) ** 2
    return number * FLOW_NUMBER_AREA_M2


def number_for_area_factor(number: float, factor: float, numbering: str) -> float:
    """Number [1] of the jet whose area is `factor` times that of `number`: square root for diameters, proportional for
    flow.
    """
    return number * sqrt(factor) if numbering == "diameter" else number * factor


def area_factor_for_air(dry_ratio: float, moist_ratio: float) -> float:
    """Factor on jet area [1] for equal mixture when dry and moist density change by these ratios."""
    return dry_ratio / sqrt(moist_ratio)


def needle_diameter(needle: Needle, lift_m: Array, clip: int, middle_clip: int) -> Array:
    """Needle diameter at the jet [m] at slide lift [m]. A higher clip number raises the needle.

    A measured table is read at the distance from the top groove to the mouth of the jet; beyond its ends the diameter
    stays.
    """
    if needle.table:
        along = needle.groove_above_jet_m + np.asarray(lift_m) + (clip - 1) * needle.clip_pitch_m
        return np.asarray(np.interp(along, [p.distance_m for p in needle.table], [p.diameter_m for p in needle.table]))
    raised = (clip - middle_clip) * needle.clip_pitch_m
    along = np.maximum(np.asarray(lift_m) + raised - needle.taper_start_lift_m, 0.0)
    return needle.straight_diameter_m - 2.0 * along * tan(needle.taper_half_angle_rad)


def annulus_area(needle: Needle, lift_m: Array, clip: int, middle_clip: int) -> Array:
    """Free area [m2] between needle and jet."""
    diameter = np.maximum(needle_diameter(needle, lift_m, clip, middle_clip), 0.0)
    return pi / 4.0 * (needle.jet_bore_m**2 - diameter**2)


def series_area(first_m2: float | Array, second_m2: float | Array) -> Array:
    """Effective area [m2] of two orifices one after the other: 1/A^2 = 1/A1^2 + 1/A2^2."""
    return np.asarray(1.0 / np.sqrt(1.0 / np.asarray(first_m2) ** 2 + 1.0 / np.asarray(second_m2) ** 2))


def pilot_weight(throttle: Array) -> Array:
    """Share of the fuel that is the pilot's [1] over throttle opening: 1 to 1/10, none from 0.40. Assumption, no
    source.
    """
    u = np.clip((np.asarray(throttle) - PILOT_FULL) / (PILOT_GONE - PILOT_FULL), 0.0, 1.0)
    return 1.0 - (3.0 * u**2 - 2.0 * u**3)


def premix_petrol_share(ratio: float | None) -> float:
    """Petrol in premix by volume [1]: R / (R + 1), by definition; 1 without oil."""
    return 1.0 if ratio is None else ratio / (ratio + 1.0)
