"""What a rider's trials together say of the model: by what its differences of a kind turn out to be multiplied."""

from dataclasses import dataclass

from lynxwort.core.model.defaults import Z90
from lynxwort.core.model.trials import KINDS
from lynxwort.core.physics.trials.learning import factor_of
from lynxwort.core.stations.trials.answer import Answer, answer_of
from lynxwort.core.stations.trials.input import TrialsInput

#: trials of a kind before its factor is told as a number, not as a range alone. Assumption
TOLD_FROM = 3


@dataclass(frozen=True, slots=True, kw_only=True)
class Factor:
    """Of one kind of change: by what the model's differences are to be multiplied [1], its 90 % range, from how many
    trials.
    """

    kind: str
    factor: float
    low_factor: float
    high_factor: float
    trials: int

    @property
    def is_told(self) -> bool:
        """Whether it is told as a number."""
        return self.trials >= TOLD_FROM


def factors(given: TrialsInput) -> list[Factor]:
    """Of each kind of change of which the rider tried anything that the model knows; blind and open trials count as
    far as they may be looked at.
    """
    return given.once("factors", lambda: [f for kind in KINDS if (f := _of_kind(given, kind)) is not None])


def _of_kind(given: TrialsInput, kind: str) -> Factor | None:
    said = [answer_of(t) for t in given.own if t.kind == kind and t.model_share is not None]
    told = [(a.trial.model_share or 0.0, a.effect) for a in said if _counts(a) and a.effect is not None]
    if not told:
        return None
    value, sd = factor_of([m for m, _e in told], [e.share for _m, e in told], [max(e.se, 1e-6) for _m, e in told])
    return Factor(
        kind=kind, factor=value, low_factor=value - Z90 * sd, high_factor=value + Z90 * sd, trials=len(told)
    )  # fmt: skip


def _counts(answer: Answer) -> bool:
    return answer.is_due and answer.pairs > 1
