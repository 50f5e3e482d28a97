"""Trials' first room: what is on trial, and what was tried."""

from typing import Any

from django.utils.translation import gettext as _

from lynxwort.core.stations.trials import learnt
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.services import Bench
from lynxwort.web.stations.trials import answering
from lynxwort.web.stations.trials.running import next_place, open_trial
from lynxwort.words.formatting import value_text
from lynxwort.words.trials import KINDS


def draw(bench: Bench, preset: Units | str, at_m: float | None) -> dict[str, Any]:
    """Trials of this setup with what they said, the newest first."""
    now = open_trial(bench)
    lines = answering.lines(bench, preset)
    factors = [
        {
            "kind": _(KINDS[f.kind]),
            "trials": f.trials,
            "said": value_text(f.factor, "factor", preset) if f.is_told else "",
            "low": value_text(f.low_factor, "factor", preset),
            "high": value_text(f.high_factor, "factor", preset),
        }
        for f in bench.report.ask(learnt.factors)
    ]
    return {
        "drawings": [],
        "tries": {
            "lines": lines,
            "open": now,
            "next": now and next_place(now),
            "changed": len(bench.changed),
            "factors": factors,
        },
        "title": _("Trials"),
    }
