"""What a rider likes: what is minded twice as much, where neither safety nor the finish hangs on it, and where in the
band of a sag to aim (PROPOSE 1). Which finding bothers which rider: common practice, no source.
"""

from collections.abc import Mapping

from lynxwort.core.propose.wish import Wish
from lynxwort.core.stations.chassis.input import ChassisInput
from lynxwort.core.stations.chassis.schools import schools

#: how many times as much
TIMES = 2
#: one who wants it plush minds what is hard and slow to give, one who wants it stiff what sinks and wallows
FEELS = {
    "plush": frozenset({"hands_shaken", "much_compression", "much_rebound", "packs", "pressure_high", "spring_stiff"}),
    "stiff": frozenset(
        {
            "bottoms_anyway", "bottoms_click", "bottoms_early", "bottoms_no_click", "little_compression",
            "little_rebound", "load_wants_spring", "pressure_low", "spring_soft",
        }
    ),
}  # fmt: skip
#: one who rides it safe minds what throws and what stops on a climb, one who rides it fast what costs time
CARES = {
    "safe": frozenset(
        {
            "clutch_slips", "front_light", "hill_no_run_up", "hill_tight", "hill_too_slow", "rear_light", "rim_struck",
            "short_on_climb",
        }
    ),
    "fast": frozenset({"schedule_tight", "shakes_long", "wheel_grips_more", "wide_first_second"}),
}  # fmt: skip


def minded(wish: Wish) -> frozenset[str]:
    """Codes of findings that this rider minds twice as much."""
    return FEELS.get(wish.feel, frozenset()) | CARES.get(wish.care, frozenset())


def fitted_by(given: ChassisInput, school: str) -> dict[str, tuple[float, float]]:
    """Bands of the true rates [N/m] that a school of springs would fit, by figure; none for the two sags, whose bands
    stand in the report.
    """
    found = (s for end in ("front", "rear") for s in schools(given, end)) if school != "two_sag" else ()
    return {f"chassis.{s.end}.rate_true": (s.low_n_per_m, s.high_n_per_m) for s in found if s.name == school}


def aimed(bands: Mapping[str, tuple[float, float]], wish: Wish) -> dict[str, tuple[float, float]]:
    """Bands of sags [m], those with the rider aboard cut to the half that this rider aims at: plush rides deeper, stiff
    higher.
    """
    found = dict(bands)
    for name, (low, high) in bands.items():
        middle = 0.5 * (low + high)
        if name.endswith(".race_sag") and wish.feel in FEELS:
            found[name] = (middle, high) if wish.feel == "plush" else (low, middle)
    return found
