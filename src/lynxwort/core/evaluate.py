"""Everything that is said of one document, in one pure function: `evaluate(inputs) -> Report`."""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import replace
from typing import Literal

from lynxwort.core import CORE_VERSION
from lynxwort.core.behind import Behind
from lynxwort.core.cache import StageCache
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.errors import InputRefused, OutOfModelRange, Refusal
from lynxwort.core.figures import FIGURES
from lynxwort.core.learned.truth import LEARNED, Truth
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.report import Figure, Report, station_of, verdict, with_inputs
from lynxwort.core.stations import STATIONS
from lynxwort.core.stations.baseline.gate import gate_of
from lynxwort.core.stations.chassis.input import ChassisInput
from lynxwort.core.stations.chassis.springs import bands
from lynxwort.core.stations.drive.doubt import sensitivities as rides_in_doubt
from lynxwort.core.stations.drive.input import DriveInput
from lynxwort.core.stations.station import Station
from lynxwort.core.withdraw import Failed, withdraw

#: every station, figures and findings; what a kept report holds
ALL = frozenset(s.name for s in STATIONS)
#: every view by its name
VIEWS = {f"views.{s.name}.{room}": question for s in STATIONS for room, question in s.views.items()}
#: what may be asked for
NEEDS = ALL | {f"{name}.figures" for name in ALL} | VIEWS.keys() | FIGURES.keys()
_PENDING = {
    s.name: tuple(
        Figure(id=n, value=None, unit=f.unit, status="pending") for n, f in FIGURES.items() if station_of(n) == s.name
    )
    for s in STATIONS
}


def evaluate(
    inputs: Inputs,
    *,
    depth: Literal["bench", "full"] = "bench",
    cache: StageCache | None = None,
    sensitivities: Mapping[str, tuple[float, float]] | None = None,
    need: Collection[str] = ALL,
    if_known: Collection[str] = (),
    gate: Collection[Failed] = (),
    explain: bool = True,
    truth: Truth = LEARNED,
) -> Report:
    """Judge one setup for one race.

    depth "bench": one course simulation, ranges of what rests on it from `sensitivities` (those of the kept revision).
    depth "full": the sensitivities are computed too, by simulating perturbed rides. The values are the same. need: what
    is asked for: a station "drive", its figures alone "drive.figures", a figure "drive.top_speed", a view
    "views.drive.pull". Figures that were not asked for are pending, a station without findings is unknown, and only the
    views asked for are there. if_known: stations that are left pending unless they were worked out before. gate: checks
    that did not pass, beside those of the log; what they falsify is withdrawn last of all. explain: whether figures
    carry the inputs that they rest on, and findings cures that had to be ridden; who only compares does without. truth:
    how all that is only known within a range truly is; figures are then of that case. Raises
    InputRefused when inputs cannot be put together (ground beyond the course, air outside the model), ValueError for a
    need there is not.
    """
    if not NEEDS.issuperset(need):
        raise ValueError(f"nothing is called {sorted(set(need) - NEEDS)}")
    up = Upstream.of(inputs, cache or StageCache(), truth)
    try:
        stored = dict(rides_in_doubt(DriveInput.of(up)) if depth == "full" else sensitivities or {})
        up = replace(up, ranges=tuple(sorted((k, (v[0], v[1])) for k, v in stored.items())))
        asked = frozenset(need) - {s.name for s in STATIONS if s.name in if_known and not s.is_known(up)}
        measured = {s.name: _measured(s, up, asked) for s in STATIONS}
        said = (s.judged(up, measured[s.name], explain=explain) for s in STATIONS if s.name in asked)
        findings = tuple(f for mine in said for f in mine)
        behind = Behind(up)
        views = {name: behind.ask(VIEWS[name]) for name in sorted(need) if name in VIEWS}
    except OutOfModelRange as error:
        raise InputRefused(
            Refusal(
                path="race.air",
                code="out_of_model_range",
                low=error.low,
                high=error.high,
                unit=error.unit,
                message=error.quantity,
            )
        ) from error
    figures = {f.id: f for mine in measured.values() for f in mine}
    report = Report(
        core_version=CORE_VERSION,
        figures=with_inputs(figures, inputs) if explain else figures,
        findings=findings,
        verdicts={s.name: verdict(tuple(f for f in findings if f.station == s.name)) for s in STATIONS},
        sensitivities=stored,
        bands=bands(ChassisInput.of(up)),
        views=views,
        behind=behind,
    )
    found = gate_of(up.inputs)
    return withdraw(report, (*gate, *found.failed), found.doubts)


def _measured(station: Station, up: Upstream, asked: frozenset[str]) -> Sequence[Figure]:
    """The figures of a station that are asked for; the others are pending."""
    if asked & {station.name, f"{station.name}.figures"}:
        return station.measured(up)
    pending = {f.id: f for f in _PENDING[station.name]}
    names = asked.intersection(pending)
    return (
        tuple((pending | {f.id: f for f in station.measured_in_part(up, names)}).values())
        if names
        else (*pending.values(),)
    )


def figures_needed(shown: Collection[str]) -> frozenset[str]:
    """What evaluate needs to judge these figures against those of another report: they themselves, and the mixture
    wherever leaning it would pay.
    """
    return frozenset(shown) | (
        {"fuelling.figures"} if any(name.startswith(("range.", "fuelling.")) for name in shown) else set()
    )
