"""All that Trials reads."""

from lynxwort.core.cache import Once, keyed
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.model.trials import Trial


@keyed
class TrialsInput(Once):
    """trials: of this bike, the oldest first, whoever rode them; rider: the name of who is entered."""

    trials: tuple[Trial, ...]
    rider: str

    @classmethod
    def of(cls, up: Upstream) -> "TrialsInput":
        return up.once("trials", lambda: cls(trials=up.inputs.trials, rider=up.inputs.rider.name))

    @property
    def own(self) -> tuple[Trial, ...]:
        """The rider's own."""
        return tuple(t for t in self.trials if t.rider == self.rider)

    @property
    def current(self) -> Trial | None:
        """The trial that is spoken of: the newest that is still open, else the newest."""
        still = [t for t in self.own if t.outcome == "open"]
        found = still or list(self.own)
        return found[-1] if found else None

    @property
    def others(self) -> tuple[Trial, ...]:
        """Trials of the same question by others."""
        now = self.current
        return (
            () if now is None else tuple(t for t in self.trials if t.question == now.question and t.rider != now.rider)
        )
