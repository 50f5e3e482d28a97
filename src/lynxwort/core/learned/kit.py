"""What was measured of brakes, tyres and wheels: factors on what the model says of them."""

from collections.abc import Sequence

from scipy.special import gammaincinv

from lynxwort.core.evidence import LogNormal, Measured, about, learn

#: spreads of logarithms before anything was read: rise of a rotor, pull of a brake, inertia of a wheel (assumption)
HEAT_PRIOR, PULL_PRIOR, INERTIA_PRIOR = 0.15, 0.12, 0.12
#: and of the coolant's rise over the air, of a generator's power (assumption)
COOLANT_PRIOR, GENERATOR_PRIOR = 0.3, 0.15
#: and of a crayon, a luggage scale at the lock, a swing (assumption)
CRAYON, LUGGAGE_SCALE, SWING = 0.06, 0.10, 0.04
#: and of a strip on the header tank, a clamp meter
STRIP, CLAMP_METER = 0.10, 0.05


def _factor(prior: float, spread: float, found: Sequence[tuple[str, float]]) -> LogNormal:
    """found: reading id, and what was read over what was predicted [1]."""
    return learn(about(1.0, prior), [Measured(reading_id=i, value=v, log_sd=spread) for i, v in found if v > 0.0])


def learn_heat(found: Sequence[tuple[str, float]]) -> LogNormal:
    """Factor on the rise of a rotor and its fluid [1]. found: reading id, rise read over predicted."""
    return _factor(HEAT_PRIOR, CRAYON, found)


def learn_pull(found: Sequence[tuple[str, float]]) -> LogNormal:
    """Factor on a brake's pull for a newton [1]. found: reading id, force predicted over read."""
    return _factor(PULL_PRIOR, LUGGAGE_SCALE, found)


def learn_coolant(found: Sequence[tuple[str, float]]) -> LogNormal:
    """Factor on the coolant's rise over the air [1]. found: reading id, rise read over predicted."""
    return _factor(COOLANT_PRIOR, STRIP, found)


def learn_generator(found: Sequence[tuple[str, float]]) -> LogNormal:
    """Factor on a generator's power [1]. found: reading id, power read over what its two points say."""
    return _factor(GENERATOR_PRIOR, CLAMP_METER, found)


def learn_inertia(own_kg_m2: float, found: Sequence[tuple[str, float]]) -> LogNormal:
    """Inertia of a wheel [kg m2]. found: reading id, inertia by a swing."""
    return learn(
        about(own_kg_m2, INERTIA_PRIOR), [Measured(reading_id=i, value=v, log_sd=SWING) for i, v in found if v > 0.0]
    )


def flats_range(hits: float, prior_factor: float = 1.0) -> tuple[float, float]:
    """Ends of the 90 % interval of a rate of flats over its mean [1] after so many: of a gamma."""
    shape = prior_factor + hits
    return float(gammaincinv(shape, 0.05)) / shape, float(gammaincinv(shape, 0.95)) / shape
