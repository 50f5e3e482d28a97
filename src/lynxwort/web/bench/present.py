"""What the bench's templates show, made from the reports. No physics here: figures, words and drawings are asked
for.
"""

import json
from collections.abc import Collection
from dataclasses import dataclass, replace
from typing import Any

from django.utils.module_loading import import_string
from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from lynxwort.core.asks import along
from lynxwort.core.asks.worth import Worth, worth
from lynxwort.core.figures import FIGURES, table_of
from lynxwort.core.judging import Consequence, consequences, still_lean
from lynxwort.core.report import STATIONS, Finding, Report
from lynxwort.core.tunables import TUNABLES, WHOLES, is_owned, kind_of, said_value, tunables_of
from lynxwort.core.units.convert import Units
from lynxwort.web.bench import registry, services
from lynxwort.web.bench import ribbon as ribbons
from lynxwort.web.bench.services import Bench
from lynxwort.web.bench.slots import slot_name, step_words, tunable_text, whole_text
from lynxwort.web.evaluation import door
from lynxwort.web.ui.drawings.ribbon import draw_ribbon, pattern_defs
from lynxwort.words.baseline import MEASURES
from lynxwort.words.catalogue import (
    FIGURE_NAMES,
    JUDGEMENTS,
    REASONS,
    STATION_NAMES,
    TUNABLE_NAMES,
    Words,
    leaves_text,
    say,
)
from lynxwort.words.choices import GROUPS, outcome_word
from lynxwort.words.formatting import number_text, short_text, unit_text, value_text

ALL_STATIONS = (*STATIONS, "card")


@dataclass(frozen=True, slots=True)
class Said:
    """A finding with its words and its proposals, each as (label, moves as text, tags); trying: they are still to
    be tried.
    """

    finding: Finding
    words: Words
    proposals: list[dict[str, Any]]
    trying: range = range(0)


@dataclass(frozen=True, slots=True)
class Outcome:
    """One outcome of a notch. css: better, worse, lean, even or empty."""

    text: str
    css: str


@dataclass(frozen=True, slots=True)
class Cell:
    """One of a notch row's three cells."""

    value: float | None
    number: str
    tag: str
    outcomes: list[Outcome]
    step_word: str = ""


def said(report: Report, finding: Finding, preset: Units | str) -> Said:
    """A finding as shown."""
    proposals = []
    for i, moves in enumerate(finding.proposals):
        bike = report.ask(along.document).bike
        label = ", ".join(
            f"{_(TUNABLE_NAMES[m.tunable]).lower()} {tunable_text(bike, m.tunable, m.value, preset)}" for m in moves
        )
        tags = {m.owned for m in moves if m.owned is not None}
        tag = _("buy") if False in tags else _("in the box") if True in tags else ""
        left = leaves_text(finding.leaves[i], preset, _) if i < len(finding.leaves) else ""
        proposals.append(
            {"label": label, "moves": json.dumps([[m.tunable, m.value] for m in moves]), "tag": tag, "leaves": left}
        )
    return Said(finding, say(finding, report, preset, _), proposals)


def findings(bench: Bench, station: str, preset: Units | str, *, compute: bool) -> dict[str, Any]:
    """What a station says. compute False: where its proposals were not tried yet none is shown."""
    found = door.judged(bench.inputs, bench.report, station, compute=compute)
    if found is not None:
        return {"findings": [said(bench.report, f, preset) for f in found], "trying": False}
    bare = [(replace(f, proposals=(), leaves=()), range(len(f.proposals))) for f in bench.report.of(station)]
    return {"findings": [replace(said(bench.report, f, preset), trying=trying) for f, trying in bare], "trying": True}


def rail(report: Report, preset: Units | str, here: str) -> list[dict[str, Any]]:
    """The stations with their verdicts and one-line answers."""
    rows = []
    for i, station in enumerate(STATIONS, start=1):
        first = report.of(station)[0] if report.of(station) else None
        line = say(first, report, preset, _).rail if first else ""
        rows.append(
            {
                "id": station,
                "name": _(STATION_NAMES[station]),
                "key": i,
                "severity": report.verdicts[station],
                "line": line,
                "here": station == here,
            }
        )
    waiting = sum(report.verdicts[s] in ("unknown", "act") for s in STATIONS)
    line = (
        _("ready to print")
        if not waiting
        else ngettext("%(n)s station unsettled", "%(n)s stations unsettled", waiting) % {"n": waiting}
    )
    rows.append(
        {
            "id": "card",
            "name": _(STATION_NAMES["card"]),
            "key": 0,
            "severity": "unknown" if waiting else "ok",
            "line": line,
            "here": here == "card",
        }
    )
    return rows


def _outcomes(report: Report | None, base: Report, tunable: str, preset: Units | str) -> list[Outcome]:
    shown = TUNABLES[tunable].shows
    if report is None:
        return [Outcome("…", "") for _name in shown]
    judged = {c.figure: c.judgement for c in consequences(base, report, shown)}
    found = []
    for name in shown:
        if base.figures[name].status == "not_applicable":
            continue
        value = report.value(name)
        text = _("unknown") if value is None else short_text(value, FIGURES[name].kind, preset)
        found.append(
            Outcome(
                f"{text} {_(outcome_word(tunable, name))}",
                "lean" if still_lean(name, value) and judged.get(name) != "worse" else judged.get(name, ""),
            )
        )
    return found


def _number(value: float | None, tunable: str, preset: Units | str) -> str:
    """The number in a cell; what may fall below zero carries its sign."""
    if value is None:
        return _("not said")
    text = number_text(value, kind_of(tunable), preset)
    return f"+{text}" if TUNABLES[tunable].signed and value > 1e-12 else text


def notch_row(bench: Bench, tunable: str, preset: Units | str, *, compute: bool) -> dict[str, Any]:
    """A row of three: one notch less, now, one notch more."""
    parts = bench.inputs.parts
    now, kept, bike = (
        said_value(bench.inputs.setup, tunable),
        said_value(bench.kept_inputs.setup, tunable),
        bench.inputs.bike,
    )
    changed = tunable in bench.changed or now != kept
    less, more = services.neighbours(bench, tunable, compute=compute)

    def side(neighbour: services.Neighbour | None, direction: int) -> Cell | None:
        if neighbour is None:
            return None
        notch = neighbour.notch
        here = kept is not None and abs(notch.value - kept) < 1e-9
        tag = _("kept") if here else {True: _("in the box"), False: _("buy"), None: ""}[notch.owned]
        tag = slot_name(bike, tunable, notch.value) or tag
        step_word = step_words(bike, tunable)[0 if direction < 0 else 1]
        outcomes = _outcomes(neighbour.report, bench.report, tunable, preset)
        return Cell(notch.value, _number(notch.value, tunable, preset), tag, outcomes, step_word)

    own = None if now is None else is_owned(parts, tunable, now)
    tag = _("draft") if changed else _("kept") if now is not None else _("type it")
    if changed and own is False:
        tag = _("draft, buy")
    slot = "" if now is None else slot_name(bike, tunable, now)
    tag = f"{slot}, {tag}" if slot else tag
    return {
        "tunable": tunable,
        "name": _(TUNABLE_NAMES[tunable]),
        # the cells leave the unit of their speeds out, so the row says it once
        "unit": _("teeth; speeds in %(u)s") % {"u": unit_text("speed", preset)}
        if tunable.endswith("_teeth")
        else unit_text(kind_of(tunable), preset),
        "less": side(less, -1),
        "now": Cell(now, _number(now, tunable, preset), tag, _outcomes(bench.report, bench.kept, tunable, preset)),
        "more": side(more, 1),
        "signed": TUNABLES[tunable].signed,
        "changed": changed,
    }


@dataclass(frozen=True, slots=True)
class NotchGroup:
    """Rows of notches under one heading. name: empty for rows that stand without one; summary: what is set there,
    for a closed group; known: whether its neighbours' outcomes are those of this draft.
    """

    name: str
    rows: list[dict[str, Any]]
    open: bool
    summary: str
    known: bool

    @property
    def tunables(self) -> list[str]:
        return [r["tunable"] for r in self.rows]


def notch_groups(
    bench: Bench, station: str, preset: Units | str, *, compute: bool, only: Collection[str] | None = None
) -> list[NotchGroup]:
    """All rows of a station under their headings; open: the first group, and every one with something in draft.

    only: first tunables of the groups whose neighbours are computed, besides those without a heading; None: all.
    """
    tunables: dict[str, list[str]] = {}
    for tunable in (t for t in tunables_of(bench.inputs.bike) if TUNABLES[t].station == station):
        tunables.setdefault(TUNABLES[tunable].group, []).append(tunable)
    found = []
    for i, (group_id, names) in enumerate(tunables.items()):
        words = _(GROUPS[group_id]) if group_id else ""
        wanted = compute and (not words or only is None or names[0] in only)
        group = [notch_row(bench, t, preset, compute=wanted) for t in names]
        summary = ", ".join(r["name"] for r in group[:3]) + (", …" if len(group) > 3 else "")
        found.append(NotchGroup(words, group, i == 0 or any(r["changed"] for r in group), summary, wanted))
    return found


def _before_after(bench: Bench, field: str, preset: Units | str) -> tuple[str, str]:
    """What a changed field was kept at and is now; a number is said without its unit before."""
    kept, now, bike = bench.kept_inputs.setup, bench.inputs.setup, bench.inputs.bike
    if field in WHOLES:
        return whole_text(field, getattr(kept, field)), whole_text(field, getattr(now, field))
    before, after = said_value(kept, field), said_value(now, field)
    named = before is None or slot_name(bike, field, before) != "" or field == "premix_ratio"
    first = tunable_text(bike, field, before, preset) if named else number_text(before or 0.0, kind_of(field), preset)
    return first, tunable_text(bike, field, after, preset)


def ledger(bench: Bench, preset: Units | str) -> dict[str, Any]:
    """Draft changes and what they do, better and worse before even."""
    chips = [
        {"tunable": t, "name": _(TUNABLE_NAMES[t])}
        | dict(zip(("before", "after"), _before_after(bench, t, preset), strict=True))
        for t in bench.changed
    ]
    order = {"worse": 0, "better": 0, "changed": 1, "even": 2}
    effects = sorted(consequences(bench.kept, bench.report), key=lambda c: order[c.judgement])
    return {
        "chips": chips,
        "effects": [_effect(c, preset) for c in effects],
        "number": bench.setup.head.number if bench.setup.head else 0,
    }


def _effect(c: Consequence, preset: Units | str) -> dict[str, Any]:
    kind = FIGURES[c.figure].kind
    sure = ""
    if c.half_width is not None:
        sure = f"±{number_text(c.half_width, kind, preset)}" if kind not in ("temperature",) else ""
    return {
        "name": _(FIGURE_NAMES[c.figure]),
        "before": number_text(c.before, kind, preset),
        "after": value_text(c.after, kind, preset),
        "judgement": c.judgement,
        "word": _(JUDGEMENTS[c.judgement]),
        "sure": sure,
        "basis": _(c.basis),
    }


def worth_measuring(bench: Bench, preset: Units | str) -> list[dict[str, str]]:
    """What to measure first on the bike as it is kept."""
    return measures(worth(bench.kept), preset)


def measures(found: list[Worth], preset: Units | str) -> list[dict[str, str]]:
    """What to measure first, each with the range that it narrows and by how much."""
    rows = []
    for w in found:
        what, how = MEASURES[w.code]
        after = f"±{number_text(0.5 * w.after, w.kind, preset)}"
        unit = unit_text(w.kind, preset)
        before = _("unknown") if w.before is None else f"±{number_text(0.5 * w.before, w.kind, preset)}"
        rows.append(
            {
                "what": _(what),
                "how": _(how),
                "figure": _(FIGURE_NAMES[w.figure]),
                "before": before,
                "after": f"{after} {unit}".strip(),
                "code": w.code,
            }
        )
    return rows


def table_rows(report: Report, station: str) -> list[tuple[str, str]]:
    """Names and ids of the figures behind a station's drawing; what does not apply to this bike or race is left
    out.
    """
    return [
        (_(FIGURE_NAMES[name]), name) for name in table_of(station) if report.figures[name].status != "not_applicable"
    ]


def left_out(report: Report, station: str) -> list[tuple[str, str]]:
    """Names of figures that do not apply, each with the reason."""
    figures = [(name, report.figures[name]) for name in table_of(station)]
    return [(_(FIGURE_NAMES[name]), _(REASONS[f.reason])) for name, f in figures if f.status == "not_applicable"]


def next_problem(report: Report, station: str, at_m: float | None) -> float | None:
    """The next place a finding speaks of, round the lap."""
    places = ribbons.problems(report, station)
    if not places:
        return None
    after = [p for p in places if at_m is None or p > at_m + 1.0]
    return after[0] if after else places[0]


def page(bench: Bench, station: str, preset: Units | str, at_m: float | None) -> dict[str, Any]:
    """Everything the bench shows for one station at one place."""
    report = bench.report
    problem = next_problem(report, station, at_m)
    data = ribbons.ribbon_data(report, station, at_m, preset)
    found = findings(bench, station, preset, compute=False)
    return {
        "bench": bench,
        "report": report,
        "station": station,
        "pattern_defs": pattern_defs(),
        "station_name": _(STATION_NAMES[station]),
        "dropped": ", ".join(_(TUNABLE_NAMES[t]).lower() for t in bench.dropped),
        "rail": rail(report, preset, station),
        "answer": found["findings"][0].words.answer if found["findings"] else "",
        "verdict": report.verdicts[station],
        "ribbon": draw_ribbon(data),
        "ribbon_data": data,
        "lap_m": round(report.ask(along.length_m), 1),
        "at_m": at_m,
        "place": ribbons.place_words(report, at_m, preset) if at_m is not None else None,
        "scrub": ribbons.scrub_words(report, preset),
        "problem": problem,
        "view": import_string(registry.draw_of(station))(bench, preset, at_m),
        "table": table_rows(report, station),
        "left_out": left_out(report, station),
        "notches": notch_groups(bench, station, preset, compute=False),
        "ledger": ledger(bench, preset),
    } | found
