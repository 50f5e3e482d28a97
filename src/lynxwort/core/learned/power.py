"""The power this bike really has against the power assumed."""

from collections.abc import Iterable

from lynxwort.core.evidence import LogNormal, Measured, about, learn

#: standard deviations of the logarithm: what a standard day's peak power is worth, one that is only as such bikes have
#: it, and a sighting of the top speed (assumption)
POWER_PRIOR, POWER_OF_KIND_PRIOR, SIGHTING = 0.036, 0.10, 0.015


def power_of_sighting(*, seen_m_per_s: float, computed_m_per_s: float, elasticity: float, reading_id: str) -> Measured:
    """Power / assumed power from a top speed that power ended. elasticity: d ln speed / d ln power at the computed one
    [1], about 0.4.
    """
    return Measured(
        reading_id=reading_id,
        value=(seen_m_per_s / computed_m_per_s) ** (1.0 / elasticity),
        log_sd=SIGHTING / elasticity,
    )


def learn_power(found: Iterable[Measured], *, of_kind: bool = False) -> LogNormal:
    """Power / assumed power after the sightings that power ended. of_kind: only the kind of bike is known."""
    return learn(about(1.0, POWER_OF_KIND_PRIOR if of_kind else POWER_PRIOR), found)
