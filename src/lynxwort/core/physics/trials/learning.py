"""A trial's effect and the model's, one with the other; and how the model's differences of one kind turn out."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import hypot, sqrt

from lynxwort.core.model.defaults import Z90

#: how far the model's difference may lie off, as a share of it; surprises from so many sd are looked at, acted on;
#: how well differences of a kind turn out before any trial: factor and its sd. Assumption
MODEL_OFF, LOOK_Z, ACT_Z, FACTOR, FACTOR_SD = 0.75, 2.0, 3.0, 1.0, 0.5


@dataclass(frozen=True, slots=True, kw_only=True)
class Updated:
    """A difference after a trial: share and its sd [1 of a lap]; z: how far the trial lies from the model."""

    share: float
    sd: float
    z: float

    @property
    def low_share(self) -> float:
        """Low end of the 90 % range."""
        return self.share - Z90 * self.sd

    @property
    def high_share(self) -> float:
        """High end of it."""
        return self.share + Z90 * self.sd


def model_sd(model_share: float, even_share: float) -> float:
    """How far the model's difference may lie off [1 of a lap]. Reference: assumption."""
    return max(even_share, MODEL_OFF * abs(model_share))


def updated(model_share: float, model_off_sd: float, seen_share: float, se: float) -> Updated:
    """The model's difference and the trial's, each by how well it is known. Reference: Gelman et al. (2013) 2.11."""
    w_model, w_seen = 1.0 / model_off_sd**2, 1.0 / se**2
    return Updated(
        share=(w_model * model_share + w_seen * seen_share) / (w_model + w_seen),
        sd=1.0 / sqrt(w_model + w_seen),
        z=(seen_share - model_share) / hypot(model_off_sd, se),
    )


def factor_of(model: Sequence[float], seen: Sequence[float], se: Sequence[float]) -> tuple[float, float]:
    """By what the model's differences of one kind are to be multiplied, and its sd; untried (FACTOR, FACTOR_SD)."""
    weight = 1.0 / FACTOR_SD**2 + sum(m * m / s**2 for m, s in zip(model, se, strict=True))
    told = FACTOR / FACTOR_SD**2 + sum(m * e / s**2 for m, e, s in zip(model, seen, se, strict=True))
    return told / weight, 1.0 / sqrt(weight)
