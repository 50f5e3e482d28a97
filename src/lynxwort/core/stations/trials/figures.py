"""Figures of Trials: of the trial that is spoken of."""

from typing import Any

from lynxwort.core.figures import figure
from lynxwort.core.figures.trials import FIGURES
from lynxwort.core.model.trials import MOST_SECTORS, Trial
from lynxwort.core.physics.trials.effects import Effect, apart
from lynxwort.core.report import Figure
from lynxwort.core.stations.trials.answer import Answer, answer_among, answer_of, noise_of, timing_of
from lynxwort.core.stations.trials.day import ADJUSTERS, growth_here, learned
from lynxwort.core.stations.trials.input import TrialsInput
from lynxwort.core.stations.trials.learnt import factors
from lynxwort.core.stations.trials.planning import planned_of
from lynxwort.core.stations.trials.scored import agreed

SOURCE = "trial of this rider on this bike"


def _absent(names: tuple[str, ...], reason: str) -> list[Figure]:
    return [figure(n, None, status="not_applicable", reason=reason) for n in names]


def answer(given: TrialsInput) -> Answer | None:
    """What the trial that is spoken of says by now."""
    now = given.current
    return None if now is None else given.once("answer", lambda: answer_among(now, given.trials))


def other_answer(given: TrialsInput) -> Answer | None:
    """The newest of the same question by somebody else that says anything."""
    said = [a for a in map(answer_of, given.others) if a.effect is not None]
    return said[-1] if said else None


def figures(given: TrialsInput) -> list[Figure]:
    """Before anyone rode what the plan can show, then what the runs say; of all trials what they say of the model."""
    now, noise = given.current, noise_of(given.own)
    made = (
        _of_all(given)
        + _of_the_day(given)
        + [
            figure(
                "trials.noise",
                noise[0],
                basis="measured" if noise[1] else "assumed",
                formula="sqrt((4 prior^2 + df own^2) / (4 + df))",
                source="Gelman et al. (2013) 2.6; prior 1.5 %: assumption",
            )
        ]
    )
    said = answer(given)
    if now is None or said is None:
        return made + _absent(tuple(n for n in FIGURES if n not in {f.id for f in made}), "no_trial")
    plan = planned_of(now)
    made += [
        figure("trials.smallest_seen", plan.smallest_share, formula="noncentral t, power .8 at .10", source="scipy"),
        figure(
            "trials.pairs_needed",
            None if plan.needed is None else plan.needed,
            formula="least n with power .8 at .10; unknown beyond 40",
            source="noncentral t, scipy",
        ),
        figure(
            "trials.minutes_needed", plan.time_s, formula="runs (lap + turn-round) + changes x change", source=SOURCE
        ),
        _timing(now),
        figure("trials.pairs_done", said.pairs, formula="pairs of neighbours that count", source=SOURCE),
    ]
    if not said.is_due:
        told = made + _of_model(said)[:1]
        return told + _absent(tuple(n for n in FIGURES if n not in {f.id for f in told}), "look_not_due")
    return made + _told(said) + _of_model(said) + _of_riders(given, said) + _of_guesses(said) + _of_sectors(said)


def _timing(trial: Trial) -> Figure:
    """How well its runs are timed: of those that say."""
    value = timing_of(trial)
    if value is None:
        return _absent(("trials.timing_error",), "no_run_timed")[0]
    return figure(
        "trials.timing_error",
        value,
        formula="root mean square over the runs",
        source="taps .15 s, watch .2 s: from memory",
    )


def _of_all(given: TrialsInput) -> list[Figure]:
    found = {f"trials.factor.{f.kind}": f for f in factors(given)}
    made = [
        figure(
            name, f.factor, low=f.low_factor, high=f.high_factor, basis="calibrated" if f.is_told else "assumed",
            formula="sum(m e / s^2) + 1 / .25 over sum(m^2 / s^2) + 1 / .25", source="prior 1 +- 0.5: assumption",
        )
        for name, f in found.items()
    ]  # fmt: skip
    silent = (n for n in FIGURES if n.startswith("trials.factor.") and n not in found)
    return made + _absent(tuple(silent), "none_of_the_kind")


def _of_the_day(given: TrialsInput) -> list[Figure]:
    """How deep the whoops get, and what the rider's log of clicks says."""
    growth, told = growth_here(given), {(one.end, one.way): one for one in learned(given)}
    passes = float(given.laps * given.starters)
    made = [
        figure(
            "trials.day.passes", passes, basis="assumed", formula="laps x bikes on the course", source="race",
            inputs=("race.starters",),
        )
    ]  # fmt: skip
    if growth is None:
        made += _absent(("trials.day.whoop_depth",), "no_whoops")
    else:
        made.append(
            figure(
                "trials.day.whoop_depth", growth.depth_m(passes), basis="calibrated" if growth.measured else "assumed",
                formula="most / (1 + (most / first - 1) exp(-passes / scale))",
                source="Taberlet, Morris, McElwaine (2007), from memory, made logistic; scale: assumption or tape",
            )
        )  # fmt: skip
    for end, way in ADJUSTERS:
        name, one = f"trials.day.clicks.{end}.{way}", told.get((end, way))
        made.append(
            _absent((name,), "no_click_logged")[0]
            if one is None
            else figure(
                name, one.clicks, low=one.least, high=one.most, basis="measured",
                formula="median of the logs, in is plus; from least to most", source="rider's own log",
            )
        )  # fmt: skip
    return made


def _told(said: Answer) -> list[Figure]:
    names = ("trials.effect", "trials.effect_share", "trials.p_exact", "trials.drift_per_lap")
    if said.effect is None or said.mean_s is None:
        return _absent(names, "too_few_runs")
    e, mean = said.effect, said.mean_s
    common: dict[str, Any] = {"basis": "measured", "source": _source(e)}
    p = figure("trials.p_exact", said.p_exact, formula="share of 2^n signs as far out", source="Fisher (1935) ch. III")
    return [
        figure(
            "trials.effect", e.share * mean, low=e.low_share * mean, high=e.high_share * mean,
            formula="effect share x mean lap of what stood", **common,
        ),
        figure(
            "trials.effect_share", e.share, low=e.low_share, high=e.high_share,
            formula="y = a + effect B + drift, y in shares of the mean of A", **common,
        ),
        p,
        figure("trials.drift_per_lap", e.drift_share * mean, formula="line through the drift of the fit", **common),
    ]  # fmt: skip


def _source(effect: Effect) -> str:
    if effect.method == "sectors":
        return "sectors pooled, DerSimonian, Laird (1986); Hartung, Knapp (2001)"
    return (
        "t with 4 df, Lange, Little, Taylor (1989)"
        if effect.method == "t4"
        else "least squares with borrowed noise, Gelman et al. (2013) 2.6"
    )


def _of_model(said: Answer) -> list[Figure]:
    trial = said.trial
    if trial.model_share is None:
        return _absent(("trials.model_effect", "trials.updated_effect", "trials.model_z"), "model_not_asked")
    scale = said.mean_s or trial.lap_s
    told = figure(
        "trials.model_effect", trial.model_share * scale, formula="model's lap, draft less kept, before anyone rode",
        source="Drive",
    )  # fmt: skip
    if said.updated is None:
        return [told, *_absent(("trials.updated_effect", "trials.model_z"), "too_few_runs")]
    u = said.updated
    return [
        told,
        figure(
            "trials.updated_effect", u.share * scale, low=u.low_share * scale, high=u.high_share * scale,
            formula="(m/sm^2 + e/se^2) / (1/sm^2 + 1/se^2), sm = max(even, 0.75 |m|)", source="Gelman (2013) 2.11",
        ),
        figure("trials.model_z", u.z, formula="(e - m) / hypot(sm, se)", source="Gelman (2013) 2.11"),
    ]  # fmt: skip


def _of_riders(given: TrialsInput, said: Answer) -> list[Figure]:
    other = other_answer(given)
    if other is None or other.effect is None or said.effect is None:
        return _absent(("trials.riders_apart", "trials.agreement"), "one_rider_tried")
    found = apart(said.effect, other.effect)
    scale = said.mean_s or said.trial.lap_s
    far = (said.effect.share - other.effect.share) * scale
    return [
        figure(
            "trials.riders_apart", far, half=abs(far / found.t) * 1.645 if found.t else None,
            formula="e1 - e2, error hypot(se1, se2)", source="Welch (1947)",
        ),
        _agreement(said, other),
    ]  # fmt: skip


def _of_sectors(said: Answer) -> list[Figure]:
    """Where along the lap it is won or lost."""
    names = [f"trials.sector.{n}.effect" for n in range(1, MOST_SECTORS + 1)]
    if not said.sectors:
        return _absent(tuple(names), "not_cut")
    made = [
        figure(
            f"trials.sector.{s.number}.effect", s.effect_s, low=s.low_share * s.mean_s, high=s.high_share * s.mean_s,
            basis="measured", formula="the same fit in the sector alone", source="t with 4 df, Lange, Little, Taylor",
        )
        for s in said.sectors
    ]  # fmt: skip
    return made + _absent(tuple(names[len(made) :]), "no_such_sector")


def _agreement(said: Answer, other: Answer) -> Figure:
    """How far both riders' scores of the two settings agree."""
    found = agreed(said.trial, other.trial)
    if found.icc is None:
        return _absent(("trials.agreement",), "few_scored")[0]
    return figure(
        "trials.agreement", found.icc, basis="measured", formula="ICC(2,1) of what the change did to each aspect",
        source="Shrout, Fleiss (1979)",
    )  # fmt: skip


def _of_guesses(said: Answer) -> list[Figure]:
    if not said.trial.blind:
        return _absent(("trials.blind_right", "trials.blind_p"), "not_blind")
    return [
        figure("trials.blind_right", said.right, formula="guesses that were right", source=SOURCE),
        figure("trials.blind_p", said.blind_p, formula="binomial, one-sided, chance 1/2", source="scipy"),
    ]
