"""The rolling radius this bike's rear wheel really has."""

from collections.abc import Iterable

from lynxwort.core.evidence import LogNormal, Measured, about, learn

#: standard deviations of the logarithm. Marking: off-road tyres vary 1.5 to 3 % (common practice, no source); the
#: others: assumption
FROM_MARKING, GIVEN, ROLL_OUT, RPM_SPEED, AT_LIMITER = 0.015, 0.003, 0.003, 0.012, 0.015


def learn_radius(radius_m: float, *, typed: bool, found: Iterable[Measured]) -> LogNormal:
    """The radius after roll-outs and pairs of revs and speed. radius_m: as typed, or by the marking."""
    return learn(about(radius_m, GIVEN if typed else FROM_MARKING), found)
