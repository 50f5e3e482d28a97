"""Laps that two helpers time, one at the start and one at the finish, each with a phone of his own."""

from dataclasses import dataclass

from lynxwort.core.model.trials import Trial
from lynxwort.core.physics.trials.timing import by_two_error, pair_taps


@dataclass(frozen=True, slots=True, kw_only=True)
class TappedLap:
    """A lap as it was tapped. name: of its two taps, the same whenever it is asked; begins_s: on the van's clock, since
    1970; time_s; error_s: sd of it.
    """

    name: str
    begins_s: float
    time_s: float
    error_s: float


def tapped_laps(trial: Trial) -> list[TappedLap]:
    """All laps that were tapped at both ends, in their order."""
    starts, ends = ([t for t in trial.taps if t.at == at] for at in ("start", "finish"))
    return [
        TappedLap(
            name=f"{starts[a].id}:{ends[b].id}",
            begins_s=starts[a].van_s,
            time_s=ends[b].van_s - starts[a].van_s,
            error_s=by_two_error((starts[a].error_s, ends[b].error_s)),
        )
        for a, b in pair_taps([t.van_s for t in starts], [t.van_s for t in ends])
    ]
