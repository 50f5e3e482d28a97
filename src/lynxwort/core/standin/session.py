"""A stand-in rider who rides a trial: seeded, drifting, now and then botching a lap, scoring and guessing."""

import numpy as np

from lynxwort.core.model.trials import ASPECTS, Trial, TrialRun

#: a botched lap loses so many sd on average; scores spread by so much; a track dries or tires by so many sd a lap
BOTCHED_SD, SCORE_SD, DRIFT_SD = 8.0, 1.0, 0.1


def ride(
    trial: Trial,
    seed: int,
    *,
    effect_share: float = 0.0,
    lap_sd: float | None = None,
    drift_share: float | None = None,
    botched_share: float = 0.0,
    called_share: float = 1.0,
    felt_chance: float = 0.5,
    runs: int | None = None,
) -> tuple[TrialRun, ...]:
    """Runs of a trial in its order, the first `runs` of them. effect_share: what the change does [1 of a lap]; lap_sd:
    as planned when left out; drift_share: from one lap to the next; botched_share: how often a lap goes wrong,
    called_share: how often he says so, and rides it again; felt_chance: how often a guess is right.
    """
    rng = np.random.default_rng(seed)
    sd = trial.noise_sd if lap_sd is None else lap_sd
    drift = DRIFT_SD * sd if drift_share is None else drift_share
    found, ridden = list[TrialRun](), 0
    for place, setting in enumerate(trial.order[: len(trial.order) if runs is None else runs]):
        again = True
        while again:
            wrong = bool(rng.random() < botched_share)
            called = wrong and bool(rng.random() < called_share)
            share = 1.0 + effect_share * (setting == "B") + drift * ridden + rng.normal(0.0, sd)
            share += wrong * abs(rng.normal(BOTCHED_SD, 2.0)) * sd
            liked = 6.0 - 60.0 * effect_share * (setting == "B")
            scores = {a: int(np.clip(round(rng.normal(liked, SCORE_SD)), 1, 10)) for a in ASPECTS}
            right = bool(rng.random() < felt_chance)
            found.append(
                TrialRun.model_validate(
                    {
                        "id": f"{trial.id}-{ridden}", "place": place, "ridden": ridden, "setting": setting,
                        "time_s": round(trial.lap_s * float(share), 2), "botched": called,
                        "scores": {} if called else scores,
                        "guess": (setting if right else "AB".replace(setting, "")) if trial.blind else None,
                    }
                )
            )  # fmt: skip
            ridden, again = ridden + 1, called
    return tuple(found)
