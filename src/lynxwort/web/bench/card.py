"""The pit card: one page for the start line, on the screen, on paper, and as a file that needs nothing else."""

from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

from django.utils import timezone
from django.utils.module_loading import import_string
from django.utils.translation import gettext as _

from lynxwort.core.figures import FIGURES, ON_CARD
from lynxwort.core.stations.purpose.times import stage_times
from lynxwort.core.stations.range.moments import moments
from lynxwort.core.tunables import TUNABLES, said_value, tunables_of
from lynxwort.core.units.convert import Units
from lynxwort.web.bench import registry
from lynxwort.web.bench import ribbon as ribbons
from lynxwort.web.bench.services import Bench
from lynxwort.web.bench.slots import oil_words, tunable_text
from lynxwort.web.ui.drawings.ribbon import draw_ribbon, pattern_defs
from lynxwort.words.catalogue import FIGURE_NAMES, TUNABLE_NAMES, say
from lynxwort.words.choices import STAGE_KINDS
from lynxwort.words.formatting import number_text, value_text

#: passings on the card; more would not fit the page
MOST_PASSINGS = 12


@dataclass(frozen=True, slots=True)
class CardLine:
    """A figure on the card: its name, value and range as text."""

    id: str
    name: str
    value: str
    spread: str


def _lines(bench: Bench, preset: Units | str) -> list[CardLine]:
    found = []
    # "per lap" of several stages means each of them once, which helps nobody at the start line
    per_lap = ("range.fuel_per_lap", "range.energy_per_lap") if len(bench.kept_inputs.race.stages) > 1 else ()
    for name in (n for n in ON_CARD if n not in per_lap):
        figure, kind = bench.kept.figures[name], FIGURES[name].kind
        if figure.status == "not_applicable":
            continue
        spread = ""
        if figure.low is not None and figure.high is not None:
            spread = f"{number_text(figure.low, kind, preset)} – {number_text(figure.high, kind, preset)}"
        value = _("unknown") if figure.value is None else value_text(figure.value, kind, preset)
        found.append(CardLine(name, _(FIGURE_NAMES[name]), value, spread))
    return found


def card(bench: Bench, preset: Units | str) -> dict[str, Any]:
    """What stands on the card: the kept setup, what it means, what to act on, the stages, when the rider comes by."""
    report, inputs = bench.kept, bench.kept_inputs
    urgent = [say(f, report, preset, _) for s in report.verdicts for f in report.of(s) if f.severity in ("act", "look")]
    said = [t for t in tunables_of(inputs.bike) if not TUNABLES[t].as_built or getattr(inputs.setup, t) is not None]
    fitted = [
        (_(TUNABLE_NAMES[t]), tunable_text(inputs.bike, t, said_value(inputs.setup, t), preset))
        for t in said
        if said_value(inputs.setup, t) is not None
    ]
    oil = oil_words(inputs.bike, inputs.setup, preset)
    if oil and inputs.setup.premix_ratio is None:
        fitted.append((_("Oil"), oil))
    # local time of the race, without its zone: templates would turn it into the server's
    start = bench.race.start.astimezone(ZoneInfo(inputs.race.time_zone)).replace(tzinfo=None)

    def clock(seconds: float) -> datetime:
        return start + timedelta(seconds=seconds)

    stages = report.ask(stage_times) if len(inputs.race.stages) > 1 else []
    points = [m for m in report.ask(moments) if m.kind in ("refuel", "crew")]
    return {
        "card_report": report,
        "fitted": fitted,
        "urgent": urgent,
        "lines": _lines(bench, preset),
        "start": start,
        "zone": inputs.race.time_zone,
        "stages": [
            {
                "name": s.name or f"{_(STAGE_KINDS[s.kind])} {s.index + 1}",
                "kind": _(STAGE_KINDS[s.kind]),
                "starts": clock(s.start_s),
                "length": value_text(s.length_m * s.laps, "distance", preset),
                "allowed": "" if s.allowed_s is None else value_text(s.allowed_s, "minutes", preset),
            }
            for s in stages
        ],
        "passings": [
            {
                "name": p.name or _("fuel after the stage"),
                "lap": p.lap,
                "at": value_text(p.at_m, "ribbon", preset),
                "early": clock(p.early_s),
                "likely": clock(p.likely_s),
                "late": clock(p.late_s),
            }
            for p in points[:MOST_PASSINGS]
        ],
        "more_passings": max(len(points) - MOST_PASSINGS, 0),
        "jets": [line for told in registry.card_lines() for line in import_string(told)(bench, preset)],
        "ribbon": draw_ribbon(ribbons.ribbon_data(report, "purpose", None, preset)),
        "pattern_defs": pattern_defs(),
        "made": timezone.now(),
    }
