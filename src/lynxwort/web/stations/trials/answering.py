"""What a trial's runs say, and what is done with it."""

from dataclasses import dataclass
from typing import Any

from django.db import transaction
from django.utils.safestring import SafeString
from django.utils.translation import gettext as _

from lynxwort.core.model.trials import Trial as CoreTrial
from lynxwort.core.stations.trials.answer import Answer, answer_among, looks_of
from lynxwort.core.stations.trials.scored import agreed
from lynxwort.core.units.convert import Units
from lynxwort.web.bench import services
from lynxwort.web.bench.services import Bench
from lynxwort.web.bikes import changes
from lynxwort.web.runs import services as runs
from lynxwort.web.runs.models import Trial
from lynxwort.web.stations.trials.planning import refusal, share_words
from lynxwort.web.stations.trials.running import change_words, next_place
from lynxwort.web.ui.drawings import trials as drawings
from lynxwort.web.ui.sheets import csv_text
from lynxwort.words.formatting import value_text
from lynxwort.words.trials import ASPECTS, OUTCOMES, VERDICTS


@dataclass(frozen=True, slots=True)
class Line:
    """A trial in the list. said: its verdict in words."""

    row: Trial
    what: str
    rider: str
    said: str
    runs: int
    of: int
    outcome: str


def core_of(row: Trial) -> CoreTrial:
    """A trial as the core reads it."""
    return CoreTrial.model_validate(row.as_document())


def said_of(row: Trial) -> Answer:
    """What a trial's runs say, among all that were tried that day on this bike."""
    others = Trial.objects.filter(setup__bike=row.setup.bike_id).prefetch_related("runs")
    return answer_among(core_of(row), [core_of(t) for t in others])


def verdict_words(found: Answer) -> str:
    """The verdict in a line, with its size and range."""
    words = _(VERDICTS[found.verdict])
    if found.effect is None:
        return words
    told = {
        "verdict": words,
        "size": share_words(found.size_share),
        "low": share_words(found.effect.low_share),
        "high": share_words(found.effect.high_share),
    }
    if found.size_share != found.effect.share:
        # a small trial that says keep exaggerates: the size told is the one with the model's
        told["runs"] = share_words(found.effect.share)
        return _("%(verdict)s: %(size)s with the model; the runs alone %(runs)s [%(low)s to %(high)s]") % told
    return _("%(verdict)s: %(size)s [%(low)s to %(high)s]") % told


def lines(bench: Bench, preset: Units | str) -> list[Line]:
    """Trials of this setup, the newest first."""
    found = []
    rows = bench.setup.trials.prefetch_related("runs").order_by("-id")
    others = [core_of(row) for row in Trial.objects.filter(setup__bike=bench.setup.bike_id).prefetch_related("runs")]
    every = {trial.id: trial for trial in others}
    for row in rows:
        answer = answer_among(every[str(row.uid)], others)
        said = verdict_words(answer) if answer.is_due else _("being ridden")
        found.append(
            Line(
                row, change_words(bench, row, preset), row.document["rider"], said, len(answer.trial.counted),
                len(answer.trial.order), _(OUTCOMES[row.outcome]),
            )
        )  # fmt: skip
    return found


def laps_drawing(found: Answer, preset: Units | str) -> SafeString:
    """Laps in the order they were ridden, with what the fit says."""
    marks = [
        drawings.Mark(k, lap.time_s, lap.fitted_s, lap.setting, lap.counts) for k, lap in enumerate(found.laps, start=1)
    ]
    told = [value_text(m.time_s, "lap_time", preset) for m in marks]
    return drawings.laps(marks, told, _("Laps in the order they were ridden"))


def along_drawing(found: Answer, preset: Units | str) -> SafeString | None:
    """The difference summed sector by sector along the lap."""
    if not found.sectors:
        return None
    said = [(False, ""), *((s.is_named, f"{s.number}: {_signed(s.effect_s, preset)}") for s in found.sectors)]
    steps = [drawings.Step(a.time_s, a.sum_s, a.half_s, *told) for a, told in zip(found.along, said, strict=True)]
    return drawings.along(steps, (_("quicker"), _("slower")), _("Difference along the lap, sector by sector"))


def _signed(seconds: float, preset: Units | str) -> str:
    return f"{'−' if seconds < 0 else '+'}{value_text(abs(seconds), 'seconds', preset)}"


def side_by_side(row: Trial, found: Answer) -> dict[str, Any] | None:
    """Scores of the newest other rider who tried the same beside this one's; None without any."""
    others = Trial.objects.filter(setup__bike=row.setup.bike_id).exclude(pk=row.pk).prefetch_related("runs")
    theirs = [
        t for t in map(core_of, others) if t.question == found.trial.question and t.rider != found.trial.rider
    ]  # fmt: skip
    told = [(t, a) for t in theirs if (a := agreed(found.trial, t)).rows]
    if not told:
        return None
    other, both = told[-1]
    return {
        "mine": found.trial.rider, "other": other.rider, "both": both,
        "rows": [(_(ASPECTS[aspect]), mine, his) for aspect, mine, his in both.rows],
    }  # fmt: skip


def ruler_drawing(found: Answer) -> SafeString | None:
    """The effect with its range against what is even, the model's and both together."""
    if found.effect is None:
        return None
    bars = [drawings.Bar(_("the runs"), found.effect.share, found.effect.low_share, found.effect.high_share, "seen")]
    trial, both = found.trial, found.updated
    if trial.model_share is not None and both is not None:
        bars.append(drawings.Bar(_("the model"), trial.model_share, trial.model_share, trial.model_share, "model"))
        bars.append(drawings.Bar(_("together"), both.share, both.low_share, both.high_share, "both"))
    ends = (_("quicker"), _("slower"), _("even"))
    return drawings.ruler(bars, trial.even_share, ends, _("Difference as a share of the lap, minus is quicker"))


def answer_page(bench: Bench, row: Trial, preset: Units | str, *, look: bool) -> dict[str, Any]:
    """The verdict, the ruler, laps in order, scores; and what may be done. Between the planned looks only how far it
    is, unless one looks all the same.
    """
    found = said_of(row)
    if not found.is_due and not look and found.effect is not None:
        return {"trial": row, "found": found, "waits": True, "runs": len(row.document["order"])}
    stands = row.outcome == "open" and bench.draft.values == row.values
    seen_s = found.effect_s
    return {
        "trial": row,
        "found": found,
        "headline": _(VERDICTS[found.verdict]),
        "said": verdict_words(found),
        "seconds": None if seen_s is None else _signed(seen_s, preset),
        "along": along_drawing(found, preset),
        "sectors": [(s, _signed(s.effect_s, preset)) for s in found.sectors],
        "riders": side_by_side(row, found),
        "ruler": ruler_drawing(found),
        "laps": laps_drawing(found, preset) if found.laps else None,
        "table": [
            (lap.ridden + 1, "?" if row.outcome == "open" and found.trial.blind else lap.setting, lap)
            for lap in found.laps
        ],
        "change": change_words(bench, row, preset),
        "scored": [(_(ASPECTS[s.aspect]), s) for s in found.scored],
        "looks": looks_of(found.trial),
        "next": next_place(row),
        "runs": len(row.document["order"]),
        "stands": stands,
        "outcome": _(OUTCOMES[row.outcome]),
        "reason": _("Trial: %(said)s") % {"said": verdict_words(found)},
    }


def laps_csv(row: Trial) -> str:
    """The laps in the order they were ridden; settings of a blind trial only when it is decided."""
    trial = core_of(row)
    hidden = trial.blind and trial.outcome == "open"
    counted = {r.id for r in trial.counted}
    rows = [
        [_("lap"), _("run"), _("setting"), _("time s"), _("counts"), _("guess"),
         *(_(words) for words in ASPECTS.values()), _("sectors s")]
    ]  # fmt: skip
    for run in sorted(trial.runs, key=lambda r: r.ridden):
        scores = [str(run.scores.get(a, "")) for a in ASPECTS]  # type: ignore[call-overload]
        rows.append(
            [
                str(run.ridden + 1), str(run.place + 1), "" if hidden else run.setting, f"{run.time_s:.3f}",
                _("yes") if run.id in counted else _("no"), run.guess or "", *scores,
                " ".join(f"{s:.3f}" for s in run.sectors_s),
            ]
        )  # fmt: skip
    return csv_text(rows)


def decide(bench: Bench, row: Trial, what: str, version: int, author: str) -> str:
    """Keep the change as the next revision, put it back, or leave the trial; empty, or why it was not done. Raises
    bikes.StaleDraft.
    """
    if row.outcome != "open":
        return _("This trial is decided already.")
    if what != "left" and bench.draft.values != row.values:
        return _("The draft is no longer what was ridden. Bring it back as it was tried, or leave the trial.")
    if what == "kept" and refusal(bench):
        return _(
            "Under this race Fuelling acts on this draft, or it is leaner than what stands. It is not kept from here."
        )
    reason = (_("Trial: %(said)s") % {"said": verdict_words(said_of(row))})[:200]
    with transaction.atomic():
        if what == "kept":
            services.keep(bench, version, reason=reason, author=author)
        elif what == "put_back":
            taken = changes.take(bench.draft, version, changes.PutBack("all"))
            if not taken.done:
                return taken.words("metric")
        runs.decide(row, what)
    return ""
