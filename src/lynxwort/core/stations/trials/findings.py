"""What Trials says."""

from lynxwort.core.physics.trials.effects import apart
from lynxwort.core.physics.trials.learning import ACT_Z, LOOK_Z
from lynxwort.core.report import Finding, Severity
from lynxwort.core.stations.station import Known
from lynxwort.core.stations.trials.answer import FELT_FROM, Answer
from lynxwort.core.stations.trials.figures import answer, other_answer
from lynxwort.core.stations.trials.input import TrialsInput
from lynxwort.core.stations.trials.planning import planned_of

#: what may move while a trial is ridden: air [K], [Pa], fuel aboard [m^3], the tyre's pressure [Pa]. Assumption
HELD: dict[str, float] = {"temperature_k": 3.0, "pressure_pa": 300.0, "fuel_m3": 0.005, "tyre_pa": 15_000.0}
#: riders are told apart below this chance; a guess is none above
APART_P, GUESSED_P = 0.10, 0.05


def findings(given: TrialsInput, known: Known) -> list[Finding]:
    """Of the trial that is spoken of."""
    said = answer(given)
    if said is None:
        return [Finding(station="trials", code="no_trial", severity="ok", figures=("trials.noise",))]
    found = [_verdict(said)] if said.is_due else [_still_ridden(said)]
    if said.effect is None and planned_of(said.trial).blind_to_it:
        seen = {"seen_of_lap": planned_of(said.trial).smallest_share}
        found.append(
            Finding(
                station="trials", code="trial_blind_to_it", severity="look", parameters=seen,
                figures=("trials.smallest_seen",),
            )
        )  # fmt: skip
    if said.trial.changes > 1:
        found.append(
            Finding(
                station="trials", code="two_things_changed", severity="look",
                parameters={"count": float(said.trial.changes)},
            )
        )  # fmt: skip
    found += _moved(said)
    return found + (_doubts(said) + _model(said) + _riders(given, said) if said.is_due else [])


def _moved(said: Answer) -> list[Finding]:
    """What was not held while it was ridden, of what was noted."""
    found = []
    for name, most in HELD.items():
        noted = [v for c in said.trial.conditions if (v := getattr(c, name)) is not None]
        if noted and max(noted) - min(noted) > most * (1 + 1e-9):
            told: dict[str, float | str] = {"what": f"moved_{name}"}
            found.append(Finding(station="trials", code="conditions_moved", severity="look", parameters=told))
    return found


def _still_ridden(said: Answer) -> Finding:
    """How far it is: what the runs say is not told between the planned looks."""
    left = {"done": float(len(said.trial.counted)), "runs": float(len(said.trial.order))}
    return Finding(station="trials", code="trial_open", severity="ok", parameters=left, figures=("trials.pairs_done",))


def _verdict(said: Answer) -> Finding:
    """The answer, or how far one is from it."""
    shown = ("trials.effect", "trials.effect_share", "trials.pairs_done")
    if said.effect is None:
        return _still_ridden(said)
    told = {
        "effect_of_lap": abs(said.effect.share),
        "low_of_lap": said.effect.low_share,
        "high_of_lap": said.effect.high_share,
        "pairs": float(said.pairs),
    }
    if said.verdict == "keep":
        return Finding(
            station="trials", code="change_keep", severity="ok", figures=shown,
            parameters=told | {"size_of_lap": abs(said.size_share)},
        )  # fmt: skip
    if said.verdict == "put_back":
        severity: Severity = "act" if _is_aboard(said) else "ok"
        return Finding(station="trials", code="change_put_back", severity=severity, parameters=told, figures=shown)
    if said.is_one_of_several:
        among = told | {"count": float(said.several), "together_share": said.several_p or 1.0}
        return Finding(station="trials", code="one_of_several", severity="look", parameters=among, figures=shown)
    if said.verdict == "even":
        return Finding(station="trials", code="change_even", severity="ok", parameters=told, figures=shown)
    if said.more_pairs is None:
        return Finding(station="trials", code="not_proven_ever", severity="look", parameters=told, figures=shown)
    return Finding(
        station="trials", code="not_proven", severity="look", figures=shown,
        parameters=told | {"more": float(max(said.more_pairs, 1))},
    )  # fmt: skip


def _is_aboard(said: Answer) -> bool:
    """Whether the change is on the bike: kept, or ridden last with nothing decided."""
    runs = sorted(said.trial.runs, key=lambda r: r.ridden)
    return said.trial.outcome == "kept" or (said.trial.outcome == "open" and bool(runs) and runs[-1].setting == "B")


def _doubts(said: Answer) -> list[Finding]:
    found = []
    if said.is_noisy and said.effect is not None:
        told = {"sd_of_lap": said.effect.run_sd, "taken_of_lap": said.trial.noise_sd}
        found.append(
            Finding(station="trials", code="noisy", severity="look", parameters=told, figures=("trials.noise",))
        )
    if said.is_coarse:
        told = {"off_seconds": said.timing_s or 0.0}
        found.append(
            Finding(
                station="trials", code="timing_coarse", severity="look", parameters=told,
                figures=("trials.timing_error",),
            )
        )  # fmt: skip
    if said.peeked and said.effect is not None:
        found.append(
            Finding(station="trials", code="peeked", severity="look", parameters={"pairs": float(said.peeked)})
        )
    if said.trial.blind and said.told >= FELT_FROM:
        told = {"right": float(said.right), "runs": float(said.told)}
        felt = (said.blind_p or 1.0) <= GUESSED_P
        code = "felt_blind" if felt else "not_felt"
        found.append(
            Finding(station="trials", code=code, severity="ok", parameters=told, figures=("trials.blind_right",))
        )
    return found


def _model(said: Answer) -> list[Finding]:
    if said.updated is None or abs(said.updated.z) <= LOOK_Z:
        return []
    severity: Severity = "act" if abs(said.updated.z) > ACT_Z else "look"
    told = {
        "apart": abs(said.updated.z),
        "seen_of_lap": said.effect.share if said.effect else 0.0,
        "model_of_lap": said.trial.model_share or 0.0,
    }
    shown = ("trials.model_effect", "trials.model_z")
    return [Finding(station="trials", code="model_surprised", severity=severity, parameters=told, figures=shown)]  # type: ignore[arg-type]


def _riders(given: TrialsInput, said: Answer) -> list[Finding]:
    other = other_answer(given)
    if other is None or other.effect is None or said.effect is None:
        return []
    if apart(said.effect, other.effect).p >= APART_P:
        return []
    mine_better = said.effect.share < other.effect.share
    told: dict[str, float | str] = {
        "suits": said.trial.rider if mine_better else other.trial.rider,
        "not": other.trial.rider if mine_better else said.trial.rider,
    }
    return [
        Finding(
            station="trials", code="riders_differ", severity="look", parameters=told, figures=("trials.riders_apart",)
        )
    ]
