"""What the bench's templates show, made from the reports. No physics here: figures, words and drawings are asked
for.
"""

import json
from collections.abc import Callable, Collection, Iterable
from dataclasses import dataclass, replace
from typing import Any

from django.utils.module_loading import import_string
from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from lynxwort.core.asks import along
from lynxwort.core.asks.worth import Worth, worth
from lynxwort.core.figures import FIGURES, table_of
from lynxwort.core.judging import Consequence, consequences
from lynxwort.core.report import STATIONS, Finding, Report
from lynxwort.core.tunables import WHOLES, kind_of, said_value
from lynxwort.core.units.convert import Units
from lynxwort.web.bench import registry, rows
from lynxwort.web.bench import ribbon as ribbons
from lynxwort.web.bench.services import MAY_WAIT, Bench
from lynxwort.web.bench.slots import slot_name, tunable_name, tunable_text, whole_text
from lynxwort.web.evaluation import door
from lynxwort.web.ui.drawings.ribbon import draw_ribbon, pattern_defs
from lynxwort.words.baseline import MEASURES, READINGS
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
from lynxwort.words.formatting import number_text, unit_text, value_text
from lynxwort.words.service.checks import CHECKS

ALL_STATIONS = (*STATIONS, "card")


@dataclass(frozen=True, slots=True)
class Said:
    """A finding with its words and its proposals, each as (label, moves as text, tags); trying: they are still to
    be tried; room: where it is settled, when that is not here.
    """

    finding: Finding
    words: Words
    proposals: list[dict[str, Any]]
    room: registry.Room | None = None
    trying: range = range(0)


def small(words: str) -> str:
    """With a small first letter, inside a sentence; units keep theirs."""
    return words[:1].lower() + words[1:]


def said(report: Report, finding: Finding, preset: Units | str) -> Said:
    """A finding as shown."""
    proposals = []
    for i, moves in enumerate(finding.proposals):
        bike = report.ask(along.document).bike
        label = ", ".join(
            f"{small(ribbons.move_name(report, m.tunable))} {tunable_text(bike, m.tunable, m.value, preset)}"
            for m in moves
        )
        tags = {m.owned for m in moves if m.owned is not None}
        tag = _("buy") if False in tags else _("in the box") if True in tags else ""
        left = leaves_text(finding.leaves[i], preset, _) if i < len(finding.leaves) else ""
        proposals.append(
            {"label": label, "moves": json.dumps([[m.tunable, m.value] for m in moves]), "tag": tag, "leaves": left}
        )
    room = registry.room_of(finding.station, finding.code, report.ask(along.document).bike)
    return Said(finding, say(finding, report, preset, _), proposals, room)


def findings(bench: Bench, station: str, preset: Units | str, *, compute: bool) -> dict[str, Any]:
    """What a station says. compute False: where its proposals were not tried yet none is shown."""
    found = door.judged(bench.inputs, bench.report, station, compute=compute)
    doubt = doubt_words(bench.report, station)
    if found is not None:
        return {"findings": [said(bench.report, f, preset) for f in found], "trying": False, "doubt": doubt}
    bare = [(replace(f, proposals=(), leaves=()), range(len(f.proposals))) for f in bench.report.of(station)]
    return {
        "findings": [replace(said(bench.report, f, preset), trying=trying) for f, trying in bare],
        "trying": True,
        "doubt": doubt,
    }


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
                "severity": "pending" if report.is_pending(station) else report.verdicts[station],
                "line": _("working") if report.is_pending(station) else not_judged(report, station) or line,
                "here": station == here,
            }
        )
    pending = any(row["severity"] == "pending" for row in rows)
    waiting = sum(report.verdicts[s] in ("unknown", "act") for s in STATIONS)
    line = (
        _("working")
        if pending
        else _("ready to print")
        if not waiting
        else ngettext("%(n)s station unsettled", "%(n)s stations unsettled", waiting) % {"n": waiting}
    )
    rows.append(
        {
            "id": "card",
            "name": _(STATION_NAMES["card"]),
            "key": 0,
            "severity": "pending" if pending else "unknown" if waiting else "ok",
            "line": line,
            "here": here == "card",
        }
    )
    return rows


def not_judged(report: Report, station: str) -> str:
    """Which check of the gate took a station's verdict; what is to act on goes before."""
    check = report.not_judged.get(station)
    if check is None or report.verdicts[station] == "act":
        return ""
    return _("not judged: %(check)s") % {"check": small(_(CHECKS[check][0]))}


def doubt_words(report: Report, station: str) -> str:
    """What failed or wants a look at the gate, beside what another station proposes; empty when nothing did."""
    if station == "baseline" or not report.doubted:
        return ""
    taken = report.not_judged.get(station)
    if taken is not None:
        told = {"check": small(_(CHECKS[taken][0]))}
        return _("Not judged, and nothing proposed, while this is not sound: %(check)s") % told
    checks = ", ".join(small(_(CHECKS[check][0])) for check in report.doubted)
    return _("With a doubt, while this is not sound: %(checks)s") % {"checks": checks}


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
        {"tunable": t, "name": tunable_name(t, bench.inputs.bike)}
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


def moved_words(bench: Bench, tunables: Iterable[str], preset: Units | str) -> str:
    """What a step moved, and to where, as a reader for the blind says it before the answer."""
    bike, setup = bench.inputs.bike, bench.inputs.setup
    return ", ".join(f"{tunable_name(t, bike)} {tunable_text(bike, t, said_value(setup, t), preset)}" for t in tunables)


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
                "form": form if (form := "sag" if w.code.startswith("sag_") else w.code) in READINGS else "",
            }
        )
    return rows


def table_rows(report: Report, station: str) -> list[tuple[str, str]]:
    """Names and ids of the figures behind a station's drawing; what does not apply to this bike or race is left
    out.
    """
    return figure_rows(report, table_of(station))


def figure_rows(report: Report, figures: Iterable[str]) -> list[tuple[str, str]]:
    """Names and ids of some figures, without those that do not apply."""
    return [(_(FIGURE_NAMES[name]), name) for name in figures if report.figures[name].status != "not_applicable"]


#: of these nobody wants a list: there is one for each part that nobody spoke of
UNSAID = ("no_log", "unsaid")


def left_out(report: Report, station: str) -> list[tuple[str, str]]:
    """Names of figures that do not apply, each with the reason."""
    figures = [(name, report.figures[name]) for name in table_of(station)]
    return [
        (_(FIGURE_NAMES[name]), _(REASONS[f.reason]))
        for name, f in figures
        if f.status == "not_applicable" and f.reason not in UNSAID
    ]


def next_problem(report: Report, station: str, at_m: float | None) -> float | None:
    """The next place a finding speaks of, round the lap."""
    places = ribbons.problems(report, station)
    if not places:
        return None
    after = [p for p in places if at_m is None or p > at_m + 1.0]
    return after[0] if after else places[0]


def _capital(words: str) -> str:
    return words[:1].upper() + words[1:]


@dataclass(frozen=True, slots=True)
class Tab:
    """The way to a room of the station. waits: "look" or "act" when a finding is settled there."""

    path: str
    name: str
    here: bool
    waits: str


def tabs(bench: Bench, station: str, room: str) -> list[Tab]:
    """The rooms of a station; none where it has but one."""
    bike, report = bench.inputs.bike, bench.report
    rooms = registry.rooms_of(station, bike)
    return [Tab(r.path, r.name_on(bike), r.id == room, r.waits(report)) for r in rooms if len(rooms) > 1]


def shell(bench: Bench, station: str, preset: Units | str, at_m: float | None, *, room: str = "") -> dict[str, Any]:
    """What stands around every room of a station: rail, ribbon, answer, tabs, ledger."""
    report = bench.report
    data = ribbons.ribbon_data(report, station, at_m, preset, room, bench.zoom)
    first = report.of(station)
    own = registry.settled_in(report, station, room, bench.inputs.bike)
    head = own[0] if own else first[0] if first else None
    return {
        "bench": bench,
        "report": report,
        "station": station,
        "pattern_defs": pattern_defs(),
        "station_name": _(STATION_NAMES[station]),
        "rail": rail(report, preset, station),
        "answer": _capital(not_judged(report, station)) or (say(head, report, preset, _).answer if head else ""),
        "verdict": own[0].severity if own else report.verdicts[station],
        "settled_here": [say(f, report, preset, _) for f in own],
        "tabs": tabs(bench, station, room),
        "ribbon": draw_ribbon(data),
        "ribbon_data": data,
        "reach_m": (float(data.distance_m[0]), float(data.distance_m[-1])),
        "zooms": ribbons.zooms(report, bench.zoom),
        "at_m": at_m,
        "place": ribbons.place_words(report, at_m, preset) if at_m is not None else None,
        "problem": next_problem(report, station, at_m),
        "ledger": ledger(bench, preset),
    }


def neighbours(
    bench: Bench, station: str, preset: Units | str, opened: Collection[str], go_on: Callable[[], bool]
) -> dict[str, Any]:
    """What of a station came in after its step: its rows with the neighbours' outcomes, and rows of the rail. Raises
    Overtaken once go_on says no.
    """
    return {
        "bench": bench,
        "report": bench.report,
        "station": station,
        "notches": rows.notch_groups(bench, station, preset, compute=True, opened=opened, go_on=go_on),
        "fresh": True,
        "waited": [row for row in rail(bench.report, preset, station) if row["id"] in (*MAY_WAIT, "card")],
    }


def page(
    bench: Bench, station: str, preset: Units | str, at_m: float | None, opened: Collection[str] = ()
) -> dict[str, Any]:
    """Everything the bench shows for one station at one place. opened: ids of what stands open in the page."""
    report = bench.report
    found = findings(bench, station, preset, compute=False)
    view = import_string(registry.draw_of(station))(bench, preset, at_m)
    table_open = station in ("purpose", "chassis") or bool(view.get("empty"))
    mine = {
        "dropped": ", ".join(_(TUNABLE_NAMES[t]).lower() for t in bench.dropped),
        "view": view,
        "table_open": table_open,
        "table": table_rows(report, station) if table_open or "figures" in opened else None,
        "left_out": left_out(report, station),
        "notches": rows.notch_groups(bench, station, preset, compute=False, opened=opened),
        "opened": opened,
    }
    return shell(bench, station, preset, at_m) | mine | found
