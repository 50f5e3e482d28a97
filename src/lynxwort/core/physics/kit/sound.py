"""Sound levels and the revs at which they are tested.

References: levels add by power; the free field; [iso5130] ISO 5130 with UN R41, from memory; mean piston speed as
sporting rules have it, from memory; [j1287] SAE J1287, from memory. Constants: HANDBOOK 9, 5.
"""

from collections.abc import Iterable
from math import log10

#: kinds of test, and where the meter stands [m]
TESTS_M = {"rated_half_metre": 0.5, "piston_speed": 0.5, "stroke_revs": 0.5, "two_metre_max": 2.0}
#: mean speed of the piston [m/s] at which it is tested
PISTON_M_PER_S = {"two_stroke": 13.0, "four_stroke": 11.0}
#: revs times the stroke in millimetres
STROKE_REVS = 306_000.0
#: up to these revs of highest power three quarters of them, above them half [rpm]
QUARTERS_TO_RPM = 5000.0
#: how the level goes with revs: 30 lg, a tachometer 100 rpm off is 0.3 dB (assumption)
PER_DECADE_DB = 30.0
#: a class 2 meter, and the same test once more [dB]
METER_DB, AGAIN_DB = 1.4, 1.0


def added(levels_db: Iterable[float]) -> float:
    """Levels together [dB]: their powers add."""
    return 10.0 * log10(sum(10.0 ** (level / 10.0) for level in levels_db))


def at_distance(level_db: float, *, from_m: float, to_m: float) -> float:
    """The level at another distance in the free field [dB]: - 20 lg(r2 / r1)."""
    return level_db - 20.0 * log10(to_m / from_m)


def without(level_db: float, background_db: float) -> float | None:
    """What the bike makes of a level that was read over a background [dB]; None when the background drowns it."""
    alone = 10.0 ** (level_db / 10.0) - 10.0 ** (background_db / 10.0)
    return 10.0 * log10(alone) if alone > 0.0 else None


def at_revs(level_db: float, *, from_rpm: float, to_rpm: float) -> float:
    """The level at other revs [dB]."""
    return level_db + PER_DECADE_DB * log10(to_rpm / from_rpm)


def piston_rpm(speed_m_per_s: float, stroke_m: float) -> float:
    """Revs [rpm] at a mean speed of the piston: 30 v / stroke."""
    return 30.0 * speed_m_per_s / stroke_m


def revs_of_test(
    test: str, *, stroke: str, stroke_m: float | None, rated_rpm: float, limiter_rpm: float
) -> float | None:
    """Revs [rpm] of a kind of test; None when it needs the stroke and nobody said it. stroke: "two_stroke" or
    "four_stroke"; rated_rpm: of the highest power.
    """
    if test == "rated_half_metre":
        return 0.75 * rated_rpm if rated_rpm <= QUARTERS_TO_RPM else 0.5 * rated_rpm
    if test == "two_metre_max":
        return limiter_rpm
    if stroke_m is None:
        return None
    return piston_rpm(PISTON_M_PER_S[stroke], stroke_m) if test == "piston_speed" else STROKE_REVS / (1e3 * stroke_m)
