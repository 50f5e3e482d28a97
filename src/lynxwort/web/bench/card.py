"""The pit card: one page for the start line, on the screen, on paper, and as a file that needs nothing else."""

from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from django.utils import timezone
from django.utils.module_loading import import_string
from django.utils.translation import gettext as _

from lynxwort.core.asks.start import ROOMY_ACTS, Pour, is_said, pours, set_by_hand, unsettled
from lynxwort.core.figures import FIGURES, ON_CARD
from lynxwort.core.report import Report
from lynxwort.core.stations.purpose.times import stage_times
from lynxwort.core.stations.range.moments import moments
from lynxwort.core.tunables import said_value, tunables_of
from lynxwort.core.units.convert import Units
from lynxwort.web.bench import registry
from lynxwort.web.bench import ribbon as ribbons
from lynxwort.web.bench.services import Bench
from lynxwort.web.bench.slots import oil_words, tunable_text
from lynxwort.web.bikes.services import changed_between
from lynxwort.web.ui.drawings.ribbon import draw_ribbon, pattern_defs
from lynxwort.words import N_
from lynxwort.words.catalogue import FIGURE_NAMES, LEAF_WORDS, say, tunable_word
from lynxwort.words.choices import STAGE_KINDS
from lynxwort.words.formatting import number_text, value_text

#: passings told with the card, fills and things that only ask to be looked at on it; more would not fit its page
MOST_PASSINGS, MOST_POURS, MOST_LOOKS = 12, 5, 3


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
        if figure.low is not None and figure.high is not None and not figure.withheld:
            spread = f"{number_text(figure.low, kind, preset)} – {number_text(figure.high, kind, preset)}"
        value = (
            _("unknown")
            if figure.value is None
            else _("not judged")
            if figure.withheld
            else value_text(figure.value, kind, preset)
        )
        found.append(CardLine(name, _(FIGURE_NAMES[name]), value, spread))
    return found


def _unsettled(report: Report, preset: Units | str) -> tuple[list[dict[str, Any]], int]:
    """What is not settled in words, and how many more ask only to be looked at."""
    found, more = unsettled(report, MOST_LOOKS)
    rows = [
        {
            "severity": f.severity,
            "word": _(LEAF_WORDS[f.severity]),
            "said": say(f, report, preset, _),
            # the mixture is always told whole; of the others the first few
            "whole": f.severity == "act" and (i < ROOMY_ACTS or f.station == "fuelling"),
        }
        for i, f in enumerate(found)
    ]
    return rows, more


def _sentences(bench: Bench, preset: Units | str, *, place: str) -> list[tuple[str, list[str]]]:
    """What stations have to say under a title, on the front or behind it."""
    told = [c for c in registry.card_lines() if c.place == place]
    return [(str(c.title), import_string(c.lines)(bench, preset)) for c in told]


def _set(bench: Bench, preset: Units | str) -> list[dict[str, Any]]:
    """What is set by hand, and whatever the last Keep changed with what it was before."""
    bike, setup, head = bench.kept_inputs.bike, bench.kept_inputs.setup, bench.setup.head
    before = {t: a for t, a, _b in changed_between(head.parent, head)} if head and head.parent else {}
    return [
        {
            "name": _(tunable_word(t, bike)),
            "value": tunable_text(bike, t, said_value(setup, t), preset),
            "was": tunable_text(bike, t, before[t], preset) if t in before else "",
        }
        for t in set_by_hand(bike, setup, before)
    ]


#: where is poured, as it is known by whatever is said of it in any language
START, AFTER, ON_LAP = N_("At the start"), N_("after the stage"), N_("%(where)s, lap %(n)s")


def _where(pour: Pour, several: bool, say: Callable[[str], str]) -> str:
    if pour.place is None:
        return say(START)
    where = pour.place.name or say(AFTER)
    return where if several else say(ON_LAP) % {"where": where, "n": pour.place.lap}


def pour(bench: Bench, preset: Units | str) -> list[dict[str, str]]:
    """What goes in at the start and at each stop, in words; key: where, the same in every language."""
    rows, setup, bike = [], bench.kept_inputs.setup, bench.kept_inputs.bike
    if bike.metering == "electric":
        share = said_value(setup, "charge_share")
        return [
            {"key": START, "where": _(START), "what": _("to %(s)s") % {"s": value_text(share or 1.0, "share", preset)}}
        ]
    oil, several = oil_words(bike, setup, preset), len(bench.kept_inputs.race.stages) > 1
    for p in bench.kept.ask(pours):
        words = oil and (_("oil: %(how)s") % {"how": oil})
        if p.oil_m3 is not None:
            words = _("%(oil)s of oil in %(petrol)s of petrol, %(ratio)s") % {
                "oil": value_text(p.oil_m3, "oil", preset),
                "petrol": value_text(p.petrol_m3, "volume", preset),
                "ratio": oil,
            }
        rows.append(
            {
                "key": _where(p, several, str),
                "where": _where(p, several, _),
                "what": value_text(p.ready_m3, "volume", preset),
                "level": "" if p.place is None else value_text(p.level_m3, "volume", preset),
                "oil": words,
            }
        )
    return rows


def card(bench: Bench, preset: Units | str) -> dict[str, Any]:
    """What stands on the card: the kept setup, what it means, what to act on, the stages, when the rider comes by."""
    report, inputs = bench.kept, bench.kept_inputs
    waiting, more_looks = _unsettled(report, preset)
    poured = pour(bench, preset)
    fitted = [
        (_(tunable_word(t, inputs.bike)), tunable_text(inputs.bike, t, said_value(inputs.setup, t), preset))
        for t in tunables_of(inputs.bike)
        if is_said(inputs.setup, t)
    ]
    oil = oil_words(inputs.bike, inputs.setup, preset)
    if oil and inputs.setup.premix_ratio is None:
        fitted.append((_("Oil"), oil))

    # local time of the race, without its zone: templates would turn it into the server's
    def clock(seconds: float) -> datetime:
        return inputs.race.clock_at(seconds).replace(tzinfo=None)

    stages = report.ask(stage_times) if len(inputs.race.stages) > 1 else []
    points = [m for m in report.ask(moments) if m.kind in ("refuel", "crew")]
    return {
        "card_report": report,
        "fitted": fitted,
        "electric": inputs.bike.metering == "electric",
        "unsettled": waiting,
        "more_looks": more_looks,
        "set": _set(bench, preset),
        "pours": poured[:MOST_POURS],
        "more_pours": max(len(poured) - MOST_POURS, 0),
        "lines": _lines(bench, preset),
        "start": clock(0.0),
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
        "first": _sentences(bench, preset, place="first"),
        "front": _sentences(bench, preset, place="front"),
        "behind": _sentences(bench, preset, place="behind"),
        "ribbon": draw_ribbon(ribbons.ribbon_data(report, "purpose", None, preset)),
        "pattern_defs": pattern_defs(),
        "made": timezone.now(),
    }
