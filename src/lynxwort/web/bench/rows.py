"""The rows of notches: one notch less, now, one notch more, with what each does; as data and as HTML.

The rows are the hottest part of a page: many, alike, and mostly unchanged by a step. They are written here and not in a
template, and each is kept as long as it says the same.
"""

from collections.abc import Callable, Collection
from dataclasses import dataclass
from functools import lru_cache

from django.urls import reverse
from django.utils.html import format_html, format_html_join
from django.utils.safestring import SafeString
from django.utils.translation import get_language
from django.utils.translation import gettext as _

from lynxwort.core.figures import FIGURES
from lynxwort.core.judging import consequences, still_lean
from lynxwort.core.model.setup.kit import ITEM_FIELDS
from lynxwort.core.report import Report
from lynxwort.core.tunables import TUNABLES, is_owned, item_of, kind_of, said_value, tunables_of
from lynxwort.core.units.convert import Units
from lynxwort.web.bench import services
from lynxwort.web.bench.services import Bench
from lynxwort.web.bench.slots import slot_name, step_words
from lynxwort.web.ui.templatetags.explained import glossed
from lynxwort.words.catalogue import tunable_word
from lynxwort.words.choices import GROUPS, outcome_word
from lynxwort.words.formatting import number_text, short_text, unit_text


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
    outcomes: tuple[Outcome, ...]
    step_word: str = ""


def outcomes_of(report: Report | None, base: Report, tunable: str, preset: Units | str) -> tuple[Outcome, ...]:
    """What a tunable's figures come to, each judged against another report."""
    shown = TUNABLES[tunable].shows
    if report is None:
        return tuple(Outcome("…", "") for _name in shown)
    judged = {c.figure: c.judgement for c in consequences(base, report, shown)}
    found, held = [], [n for n in shown if report.figures[n].withheld]
    for name in shown:
        if base.figures[name].status == "not_applicable" or name in held:
            continue
        value = report.value(name)
        pending = base.figures[name].status == "pending" or report.figures[name].status == "pending"
        text = "…" if pending else _("unknown") if value is None else short_text(value, FIGURES[name].kind, preset)
        found.append(
            Outcome(
                f"{text} {_(outcome_word(tunable, name))}",
                "lean" if still_lean(name, value) and judged.get(name) != "worse" else judged.get(name, ""),
            )
        )
    if held:
        # said once; what was worse behind it stays so
        found.append(Outcome(_("not judged"), "worse" if "worse" in map(judged.get, held) else ""))
    return tuple(found)


def _number(value: float | None, tunable: str, preset: Units | str) -> str:
    """The number in a cell; what may fall below zero carries its sign."""
    if value is None:
        return _("not said")
    text = number_text(value, kind_of(tunable), preset)
    return f"+{text}" if TUNABLES[tunable].signed and value > 1e-12 else text


@dataclass(frozen=True, slots=True, kw_only=True)
class Row:
    """A row of three: one notch less, now, one notch more. at: the address that its station's pages begin with."""

    tunable: str
    at: str
    name: str
    unit: str
    less: Cell | None
    now: Cell
    more: Cell | None
    signed: bool
    changed: bool

    @property
    def id(self) -> str:
        return f"row-{self.tunable}"

    def html(self) -> SafeString:
        """As it stands in the page; rendered once as long as it says the same."""
        return _html(self, get_language())


def _is_changed(bench: Bench, tunable: str) -> bool:
    now, kept = said_value(bench.inputs.setup, tunable), said_value(bench.kept_inputs.setup, tunable)
    return tunable in bench.changed or now != kept


def notch_row(bench: Bench, tunable: str, preset: Units | str, around: services.Pair) -> Row:
    """A row of three: one notch less, now, one notch more. around: the neighbours."""
    parts = bench.inputs.parts
    now, kept, bike = (
        said_value(bench.inputs.setup, tunable),
        said_value(bench.kept_inputs.setup, tunable),
        bench.inputs.bike,
    )
    changed = _is_changed(bench, tunable)
    less, more = around

    def side(neighbour: services.Neighbour | None, direction: int) -> Cell | None:
        if neighbour is None:
            return None
        notch = neighbour.notch
        here = kept is not None and abs(notch.value - kept) < 1e-9
        tag = _("kept") if here else {True: _("in the box"), False: _("buy"), None: ""}[notch.owned]
        tag = slot_name(bike, tunable, notch.value) or tag
        step_word = step_words(bike, tunable)[0 if direction < 0 else 1]
        outcomes = outcomes_of(neighbour.report, bench.report, tunable, preset)
        return Cell(notch.value, _number(notch.value, tunable, preset), tag, outcomes, step_word)

    own = None if now is None else is_owned(parts, tunable, now)
    tag = _("draft") if changed else _("kept") if now is not None else _("type it")
    if tunable in bench.inputs.setup.assumed:
        tag = _("assumed")
    if changed and own is False:
        tag = _("draft, buy")
    slot = "" if now is None else slot_name(bike, tunable, now)
    tag = f"{slot}, {tag}" if slot else tag
    return Row(
        tunable=tunable,
        at=reverse("bench:station", args=[bench.setup.pk, bench.race.pk, TUNABLES[tunable].station]),
        name=_(tunable_word(tunable, bike)),
        # the cells leave the unit of their speeds out, so the row says it once
        unit=_("teeth; speeds in %(u)s") % {"u": unit_text("speed", preset)}
        if tunable.endswith("_teeth")
        else unit_text(kind_of(tunable), preset),
        less=side(less, -1),
        now=Cell(now, _number(now, tunable, preset), tag, outcomes_of(bench.report, bench.kept, tunable, preset)),
        more=side(more, 1),
        signed=TUNABLES[tunable].signed,
        changed=changed,
    )


@dataclass(frozen=True, slots=True)
class NotchGroup:
    """Rows of notches under one heading. name: empty for rows that stand without one; rows: none while it is closed;
    open: whether the page opens it; summary: what is set there; known: whether its neighbours' outcomes are those of
    this draft.
    """

    id: str
    name: str
    rows: list[Row]
    open: bool
    summary: str
    known: bool


def _group_id(first: str) -> str:
    """Id of a group by its first tunable; of items, whichever is the first, the same."""
    return f"group-{ITEM_FIELDS[0] if item_of(first) else first}"


def way_to(bench: Bench, tunable: str) -> str:
    """The address of a tunable's row, below the bench's: its group is opened first where it stands closed."""
    station, group = TUNABLES[tunable].station, TUNABLES[tunable].group
    there = ((t, TUNABLES[t]) for t in tunables_of(bench.inputs.bike))
    first = next(t for t, m in there if (m.station, m.group) == (station, group))
    return f"{station}/?to={_group_id(first)}#now-{tunable}" if group else f"{station}/#now-{tunable}"


def notch_groups(
    bench: Bench,
    station: str,
    preset: Units | str,
    *,
    compute: bool,
    opened: Collection[str] = (),
    go_on: Callable[[], bool] = lambda: True,
) -> list[NotchGroup]:
    """The rows of a station under their headings; the page opens the first group, and every one with something in
    draft. opened: ids of groups that stand open in the page; nothing is made of one that is closed, and neighbours
    are computed only of those that stand open. Raises Overtaken once go_on says no.
    """
    tunables: dict[str, list[str]] = {}
    for tunable in (t for t in tunables_of(bench.inputs.bike) if TUNABLES[t].station == station):
        tunables.setdefault(TUNABLES[tunable].group, []).append(tunable)
    found = []
    for i, (group_id, names) in enumerate(tunables.items()):
        words = _(GROUPS[group_id]) if group_id else ""
        name = _group_id(names[0])
        wanted = compute and (not words or name in opened)
        is_open = i == 0 or any(_is_changed(bench, t) for t in names)
        shown = names if is_open or name in opened else []
        around = services.neighbours(bench, shown, compute=wanted, go_on=go_on)
        group = [notch_row(bench, t, preset, around[t]) for t in shown]
        summary = ", ".join(_(tunable_word(t, bench.inputs.bike)) for t in names[:3]) + (
            ", …" if len(names) > 3 else ""
        )
        found.append(NotchGroup(name, words, group, is_open, summary, wanted))
    return found


def _outs(cell: Cell) -> SafeString:
    return format_html_join("", '<span class="{}">{}</span>', ((o.css, o.text) for o in cell.outcomes))


def _side(row: Row, cell: Cell | None, side: str, sign: str) -> SafeString:
    """A neighbour's cell: a form of one button."""
    if cell is None:
        return format_html('<div class="cell side none">{}</div>', _("no further notch"))
    return format_html(
        """<form class="cell-form" hx-post="{}notch/"><input type="hidden" name="moves" value='[["{}", {}]]'>"""
        '<button id="{}-{}" class="cell side" data-side="{}"><span class="sr">{} </span><span class="cell-top">'
        '<b>{}{}</b><span class="tag">{}</span></span>{}<span class="outs">{}</span></button></form>',
        row.at,
        row.tunable,
        repr(float(cell.value or 0.0)),
        side,
        row.tunable,
        side,
        row.name,
        "" if row.signed else format_html('<i aria-hidden="true">{}</i> ', sign),
        cell.number,
        cell.tag,
        format_html('<span class="step-word">{}</span>', cell.step_word) if cell.step_word else "",
        _outs(cell),
    )


@lru_cache(maxsize=4096)
def _html(row: Row, language: str) -> SafeString:
    """The row in one language. The form for an exact value is made in the page when the value is opened."""
    return format_html(
        '<div class="notch-row" role="group" aria-label="{1}" data-tunable="{0}"><h3>{12}{2}</h3>'
        '<div class="three">{3}<div class="cell now{4}"><details class="exact" data-label="{5}"><summary id="now-{0}">'
        '<span class="sr">{1}, {6}: </span><span class="cell-top"><b data-tunable-value="{0}" data-si="{7}">{8}</b>'
        '<span class="tag">{9}</span></span></summary></details><span class="outs">{10}</span></div>{11}</div></div>\n',
        row.tunable,
        row.name,
        format_html(' <span class="unit">{}</span>', row.unit) if row.unit else "",
        _side(row, row.less, "less", "−"),
        " draft" if row.changed else "",
        _("Exact value of %(name)s") % {"name": row.name},
        _("type a value"),
        "" if row.now.value is None else repr(float(row.now.value)),
        row.now.number,
        row.now.tag,
        _outs(row.now),
        _side(row, row.more, "more", "+"),
        glossed(row.name),
    )
