"""Verbs of the bench: assemble inputs, put on the bench, keep, neighbours' outcomes. Nothing is evaluated inside a
transaction.
"""

import threading
from collections import OrderedDict
from collections.abc import Callable, Collection, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace
from typing import Any

from lynxwort.core.asks import along
from lynxwort.core.model.fit import setup_misfit
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.report import Report
from lynxwort.core.tunables import TUNABLES, Notch, move, neighbour, of_another_kind
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.models import Pairing
from lynxwort.web.bikes import services as bikes
from lynxwort.web.bikes.models import AS_ENTERED, Draft, Revision, Sensitivity, Setup
from lynxwort.web.evaluation import door
from lynxwort.web.evaluation.ahead import Overtaken
from lynxwort.web.evaluation.assembled import assemble, document_of, with_setup
from lynxwort.web.jobs import worker
from lynxwort.web.races.models import Race
from lynxwort.web.races.services import courses_of
from lynxwort.web.readings.forms import Places
from lynxwort.web.readings.models import Reading
from lynxwort.web.readings.services import by_name
from lynxwort.web.ui.trouble import noting
from lynxwort.words.formatting import value_text

#: the ride over the bumps and the heat of brakes wait where they are not shown: they come with the neighbours
MAY_WAIT = ("damping", "kit")


@dataclass(frozen=True, slots=True)
class Bench:
    """One view of the bench: rows, the kept report under this race, and the draft's; dropped: what a draft or revision
    holds of another kind of bike; zoom: what of the round the ribbon shows, see ribbon.window_of.
    """

    setup: Setup
    race: Race
    draft: Draft
    kept_inputs: Inputs
    kept: Report
    inputs: Inputs
    report: Report
    changed: list[str]
    sensitivities: dict[str, Any]
    kept_values: dict[str, Any]
    dropped: tuple[str, ...] = ()
    zoom: int = 0


def open_bench(setup: Setup, race: Race, *, if_known: Collection[str] = ()) -> Bench:
    """Kept and draft, both judged for this race. if_known: stations of the draft that may wait. Raises InputRefused."""
    draft = setup.draft
    kept_values = setup.head.values if setup.head else draft.values
    kept_inputs = assemble(setup, race, kept_values)
    key = door.ridden_key(kept_inputs)
    known = _ranges(key)
    stored = known or {}
    if known is None:
        with noting("ranges to work out"):
            worker.submit("sensitivities", key, {"setup": setup.pk, "race": race.pk, "values": kept_values})
    kept = door.report_of(kept_inputs, stored)
    foreign = tuple(of_another_kind(kept_inputs.bike, dict.fromkeys((*kept_values, *draft.values))))
    changed = [f for f in bikes.changed_fields(draft, kept_values) if f not in foreign]
    values = bikes.fitting(kept_inputs.bike, draft.values)
    inputs = kept_inputs if not changed else with_setup(kept_inputs, bikes.checked_setup(values))
    report = kept if not changed else door.report_of(inputs, stored, if_known=if_known)
    return Bench(setup, race, draft, kept_inputs, kept, inputs, report, changed, stored, kept_values, foreign)


def _ranges(key: str) -> dict[str, Any] | None:
    """What the job of the ranges found of the inputs with this key; None as long as it has not."""
    row = Sensitivity.objects.filter(input_key=key).first()
    return row.values if row else None


def is_settled(setup: Setup, race: Race) -> bool:
    """Whether nothing that a bench shows is still worked out beside it."""
    return setup.head is not None and _ranges(door.ridden_key(assemble(setup, race, setup.head.values))) is not None


def on_the_round(bench: Bench, at_m: float) -> float:
    """A place [m] no farther than the round goes."""
    return min(at_m, bench.report.ask(along.length_m))


def kept_report(setup: Setup, race: Race) -> Report:
    """The kept setup judged for a race. Raises InputRefused."""
    return door.report_of(assemble(setup, race, setup.head.values if setup.head else setup.draft.values))


def keep(bench: Bench, version: int, *, reason: str, author: str) -> Revision:
    """Keep the draft as a numbered revision with its frozen document and report. Raises bikes.StaleDraft, also where
    the page shows another version of the draft than the one that was judged here.
    """
    if bench.draft.version != version:
        raise bikes.StaleDraft
    return bikes.keep(
        bench.draft,
        version,
        reason=reason,
        document=document_of(bench.inputs, with_course=False),
        report=bench.report.to_json(),
        input_key=door.input_key(bench.inputs),
        race_name=bench.race.name,
        author=author,
    )


def put_on_bench(setup: Setup, race: Race, author: str) -> None:
    """Keep No. 1, as entered, when nothing is kept yet. Raises InputRefused."""
    if setup.head is None:
        keep(open_bench(setup, race), setup.draft.version, reason=AS_ENTERED, author=author)


def pair(setup: Setup, race: Race) -> None:
    """The race is ridden with this bike from now on; how it stands is judged anew."""
    known = Pairing.objects.filter(race=race, setup=setup).exists()
    if not known:
        Pairing.objects.update_or_create(race=race, defaults={"setup": setup, "standing": None, "key": ""})


@dataclass(frozen=True, slots=True)
class Neighbour:
    """One neighbour of a tunable: its notch, and its report, or the last one known, or None while it is still to
    compute.
    """

    notch: Notch
    report: Report | None


_last: "OrderedDict[tuple, Report]" = OrderedDict()
_last_lock = threading.Lock()


Pair = tuple[Neighbour | None, Neighbour | None]
#: neighbours worked out side by side: what rides lets go of the interpreter's lock, what draws it together does not
_HANDS = ThreadPoolExecutor(3, thread_name_prefix="neighbours")


def neighbours(
    bench: Bench, tunables: Sequence[str], *, compute: bool, go_on: Callable[[], bool] = lambda: True
) -> dict[str, Pair]:
    """Of each tunable the notch less and the notch more with their reports. compute False: only what was seen last.
    Raises Overtaken once go_on says no.
    """

    def side(which: tuple[str, int]) -> Neighbour | None:
        if not go_on():
            raise Overtaken
        return _neighbour(bench, *which, compute)

    both = [(t, direction) for t in tunables for direction in (-1, 1)]
    sides = dict(zip(both, (_HANDS.map if compute else map)(side, both), strict=True))
    return {t: (sides[t, -1], sides[t, 1]) for t in tunables}


def _neighbour(bench: Bench, tunable: str, direction: int, compute: bool) -> Neighbour | None:
    notch = neighbour(bench.inputs.bike, bench.inputs.setup, bench.inputs.parts, tunable, direction)
    if notch is None:
        return None
    place = (bench.setup.pk, bench.race.pk, tunable, direction)
    moved = bench.inputs.model_copy(update={"setup": move(bench.inputs.setup, tunable, notch.value)})
    if setup_misfit(moved.bike, moved.setup):
        return None  # no such notch on this bike: the needle ends, the tank is full
    if compute:
        report = door.report_of(moved, bench.sensitivities, shown=TUNABLES[tunable].shows)
        with _last_lock:
            _last[place] = replace(report, behind=None)  # for a cell's words; it would hold on to whole rides
            _last.move_to_end(place)
            while len(_last) > 240:
                _last.popitem(last=False)
        return Neighbour(notch, report)
    with _last_lock:
        return Neighbour(notch, _last.get(place))


def places_of(race: Race, units: Units | str) -> Places:
    """Courses and critical hills of a race, for readings that speak of them."""
    courses, hills = {}, []
    for stage, course in zip(race.document["stages"], courses_of(race), strict=True):
        key = stage["course_key"]
        courses[key] = course.name
        for h in stage.get("hills", ()):
            hills.append(
                (f"{key}:{h['at_m']}", (f"{h.get('name') or course.name}, {value_text(h['at_m'], 'distance', units)}"))
            )
    return Places(courses=list(courses.items()), hills=list(dict.fromkeys(hills)))


@dataclass(frozen=True, slots=True)
class ReadingLine:
    """A reading with the range of its figure with it and without it."""

    row: Reading
    reading: Any
    figure: str
    with_it: tuple[float, float] | None
    without_it: tuple[float, float] | None


def _range(report: Report, figure: str) -> tuple[float, float] | None:
    f = report.figures[figure]
    return None if f.low is None or f.high is None else (f.low, f.high)


def reading_lines(bench: Bench) -> list[ReadingLine]:
    """Each reading of the bike, and what it is worth: the range it narrows, with and without."""
    rows = by_name(bench.setup.bike)
    found = []
    for reading in bench.kept_inputs.readings:
        figure = reading.narrows
        flipped = tuple(
            r.model_copy(update={"struck_out": not reading.struck_out}) if r.id == reading.id else r
            for r in bench.kept_inputs.readings
        )
        # both without what the job of the ranges found: that is of the readings as they are
        other = door.report_of(bench.kept_inputs.model_copy(update={"readings": flipped}))
        now, then = _range(door.report_of(bench.kept_inputs), figure), _range(other, figure)
        pair = (then, now) if reading.struck_out else (now, then)
        found.append(ReadingLine(rows[reading.id], reading, figure, *pair))
    return found
