"""Trials' first room: what is on trial, and what was tried."""

from typing import Any

from django.utils.translation import gettext as _

from lynxwort.core.units.convert import Units
from lynxwort.web.bench.services import Bench
from lynxwort.web.stations.trials import answering
from lynxwort.web.stations.trials.running import next_place, open_trial


def draw(bench: Bench, preset: Units | str, at_m: float | None) -> dict[str, Any]:
    """Trials of this setup with what they said, the newest first."""
    now = open_trial(bench)
    lines = answering.lines(bench, preset)
    return {
        "drawings": [],
        "tries": {"lines": lines, "open": now, "next": now and next_place(now), "changed": len(bench.changed)},
        "title": _("Trials"),
    }
