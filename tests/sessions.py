"""Sessions of a rider on whom nothing was changed: how often an answer says otherwise."""

from dataclasses import dataclass

import numpy as np

from lynxwort.core.physics.trials import design, effects

#: pairs ridden by path; riders' own sd spread by so much about the prior
PAIRS = {"borrowed": 3, "t4": 8, "sectors": 8, "flip": 8}
RIDERS_SPREAD, SECTORS = 0.35, 8


@dataclass(frozen=True)
class Says:
    """Shares of all sessions: with a verdict of keep or put back; whose interval held the true effect; seen: with the
    verdict that is right where there is an effect.
    """

    false: float
    covered: float
    seen: float


def shares_of(path, *, sessions, seed, effect=0.0, drift_sd=1.0):
    """effect: true, as a share of the lap; drift_sd: over the whole session, in sd of a lap, even."""
    rng = np.random.default_rng(seed)
    false, covered, seen = 0, 0, 0
    for k in range(sessions):
        sd = effects.PRIOR_SD * float(np.exp(rng.normal(0.0, RIDERS_SPREAD)))
        order = design.order_of("blocks", PAIRS[path], seed * 100_003 + k)
        second, place = np.array([c == "B" for c in order]), np.arange(len(order), dtype=float)
        drift = rng.normal(0.0, drift_sd * sd) * place / place[-1]
        if path == "sectors":
            noise = rng.normal(0.0, sd * np.sqrt(SECTORS), (place.size, SECTORS))
            y = 1.0 + effect * second[:, None] + drift[:, None] + noise
            low, high = _interval(effects.effect_of_sectors(y, second, place)[0])
        else:
            y = 1.0 + effect * second + drift + rng.normal(0.0, sd, place.size)
            if path == "flip":
                d = np.array([y[b] - y[a] for a, b in design.pairs_of(order)])
                low, high = effects.flip_interval(d)
                differs = effects.sign_flip(d) <= design.ALPHA
                false, seen = false + differs, seen + (differs and d.mean() * effect > 0)
                covered += low <= effect <= high
                continue
            low, high = _interval(effects.effect_of(y, second, place))
        verdict = effects.verdict_of(low, high, 0.0)
        false += verdict in ("keep", "put_back")
        seen += verdict == ("keep" if effect < 0 else "put_back")
        covered += low <= effect <= high
    return Says(false / sessions, covered / sessions, seen / sessions)


def _interval(effect):
    return effect.low_share, effect.high_share
