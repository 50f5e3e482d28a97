"""Nearness to detonation against a setting that ran right, in octane numbers.

Nobody can say from a drawing whether an engine knocks; what can be said is whether this setting is nearer to it than
one that did not. Each coefficient is from memory or an assumption: about four numbers per unit of compression ratio,
one per degree of spark, a tenth per degree of air temperature, one and a half per tenth of air density, a third per
percent of richness up to a tenth.
"""

from dataclasses import dataclass
from math import pi

#: octane numbers per unit of each cause (from memory, but squish and richness: assumption)
PER_RATIO, PER_RADIAN, PER_KELVIN, PER_DENSITY, PER_METRE_SQUISH, PER_RICHNESS = (
    4.0,
    180.0 / pi,
    0.10,
    15.0,
    1500.0,
    30.0,
)
MOST_RICHNESS = 0.10
#: how far each may lie off [1], and what no cause explains [octane numbers] (assumption)
SPREAD, REST = 0.4, 0.7


@dataclass(frozen=True, slots=True, kw_only=True)
class Knock:
    """What bears on detonation. octane: of the fuel; ratio: compression [1], None = not known; advance_rad;
    temperature_k and relative_density of the air; squish_m, None = not known; richness [1] against the proven setting.
    """

    octane: float
    ratio: float | None
    advance_rad: float
    temperature_k: float
    relative_density: float
    squish_m: float | None
    richness: float


def margin(now: Knock, proven: Knock) -> tuple[float, float]:
    """Octane numbers [1] in hand against the proven setting, + = safer, and half of the range."""

    def both(a: float | None, b: float | None) -> float:
        return 0.0 if a is None or b is None else a - b

    rich = min(now.richness, MOST_RICHNESS) - min(proven.richness, MOST_RICHNESS)
    parts = (
        now.octane - proven.octane,
        -PER_RATIO * both(now.ratio, proven.ratio),
        -PER_RADIAN * (now.advance_rad - proven.advance_rad),
        -PER_KELVIN * (now.temperature_k - proven.temperature_k),
        -PER_DENSITY * (now.relative_density - proven.relative_density),
        -PER_METRE_SQUISH * both(now.squish_m, proven.squish_m),
        PER_RICHNESS * rich,
    )
    return sum(parts), SPREAD * sum(abs(p) for p in parts[1:]) + (REST if any(parts) else 0.0)
