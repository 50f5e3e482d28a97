"""The coupling in one pure function: `evaluate(inputs) -> Report`."""

from collections.abc import Callable, Mapping
from typing import Literal

from lynxwort.core import CORE_VERSION
from lynxwort.core.cache import Key, StageCache
from lynxwort.core.coupling import baseline, chassis, damping, doubt, drive, fuelling, purpose, reach
from lynxwort.core.coupling.build import with_inputs
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.errors import InputRefused, OutOfModelRange, Refusal
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.report import STATIONS, Figure, Finding, Report, verdict

Said = tuple[list[Figure], list[Finding]]
Judge = Callable[[Upstream, dict[str, Figure]], list[Finding]]


def _station(work: Upstream, figures: list[Figure], judge: Judge | None) -> Said:
    """A station's figures, and what it says of them (nothing without a judge): it looks at its own figures only."""
    return figures, judge(work, {f.id: f for f in figures}) if judge else []


def _ride_key(work: Upstream, stored: Mapping[str, tuple[float, float]]) -> Key:
    """Everything that the stations which rest on the ride alone read: a jet or a preload leaves them as they are."""
    inputs, seen, setup = work.inputs, work.road.seen, work.inputs.setup
    grips = tuple(sorted((g, k.low, k.high) for g, k in seen.grip.items()))
    ranges = tuple(sorted((k, tuple(v)) for k, v in stored.items()))
    return Key(work.around.given, work.day.air, work.lap.what, inputs.race, inputs.riders, inputs.bike, inputs.parts, seen.used, seen.questioned, seen.stalled,
               grips, ranges, setup.front_sprocket_teeth, setup.rear_sprocket_teeth, setup.gearbox, setup.power_mode)  # fmt: skip


def evaluate(
    inputs: Inputs,
    *,
    depth: Literal["bench", "full"] = "bench",
    cache: StageCache | None = None,
    sensitivities: Mapping[str, tuple[float, float]] | None = None,
    unridden: bool = False,
) -> Report:
    """Judge one setup for one race.

    unridden: figures alone, and none of the Damping station, whose rides cost the most: for a notch of which only some outcomes are shown.

    depth "bench": one course simulation, ranges of what rests on it from `sensitivities` (those of the kept revision).
    depth "full": the sensitivities are computed too, by simulating perturbed rides. The values are the same.
    Raises InputRefused when the inputs cannot be put together (ground beyond the course, air outside the model).
    """
    work = Upstream.of(inputs, cache or StageCache())
    try:
        stored = dict(doubt.sensitivities(work) if depth == "full" else sensitivities or {})
        key = _ride_key(work, stored)
        cached = work.cache.get
        said = {
            "purpose": cached("purpose", key, lambda: _station(work, purpose.figures(work), purpose.findings)),
            "baseline": _station(work, baseline.figures(work), None if unridden else baseline.findings),
            "chassis": _station(work, chassis.figures(work), None if unridden else chassis.findings),
            "damping": ([], []) if unridden else _station(work, damping.figures(work), damping.findings),
            "fuelling": _station(work, fuelling.figures(work), None if unridden else fuelling.findings),
            "drive": cached("drive", key, lambda: _station(work, drive.figures(work, stored), drive.findings)),
            "range": _station(work, reach.figures(work), None if unridden else reach.findings),
        }
        known = {f.id: f for figures, _ in said.values() for f in figures}
        findings = () if unridden else tuple(f for _, found in said.values() for f in found)
    except OutOfModelRange as error:
        raise InputRefused(
            Refusal(path="race.air", code="out_of_model_range", low=error.low, high=error.high, unit=error.unit, message=error.quantity)
        ) from error
    return Report(
        core_version=CORE_VERSION,
        figures=with_inputs(known, inputs),
        findings=findings,
        verdicts={s: verdict(tuple(f for f in findings if f.station == s)) for s in STATIONS},
        sensitivities=stored,
        bands=chassis.bands(work),
        work=work,
    )
