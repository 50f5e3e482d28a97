"""The coupling in one pure function: `evaluate(inputs) -> Report`."""

from collections.abc import Callable, Mapping
from dataclasses import replace
from typing import Literal

from lynxwort.core import CORE_VERSION
from lynxwort.core.cache import StageCache
from lynxwort.core.coupling import chassis, damping
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.errors import InputRefused, OutOfModelRange, Refusal
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.report import STATIONS, Figure, Finding, Report, verdict, with_inputs
from lynxwort.core.stations.baseline import BASELINE
from lynxwort.core.stations.drive import DRIVE, doubt
from lynxwort.core.stations.drive.input import DriveInput
from lynxwort.core.stations.fuelling import FUELLING
from lynxwort.core.stations.purpose import PURPOSE
from lynxwort.core.stations.range import RANGE

Said = tuple[list[Figure], list[Finding]]
Judge = Callable[[Upstream, dict[str, Figure]], list[Finding]]


def _station(work: Upstream, figures: list[Figure], judge: Judge | None) -> Said:
    """A station's figures, and what it says of them (nothing without a judge): it looks at its own figures only."""
    return figures, judge(work, {f.id: f for f in figures}) if judge else []


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
        stored = dict(doubt.sensitivities(DriveInput.of(work)) if depth == "full" else sensitivities or {})
        work = replace(work, ranges=tuple(sorted((k, (v[0], v[1])) for k, v in stored.items())))
        said = {
            "purpose": PURPOSE.said(work, work.cache, judged=not unridden),
            "baseline": BASELINE.said(work, work.cache, judged=not unridden),
            "chassis": _station(work, chassis.figures(work), None if unridden else chassis.findings),
            "damping": ([], []) if unridden else _station(work, damping.figures(work), damping.findings),
            "fuelling": FUELLING.said(work, work.cache, judged=not unridden),
            "drive": DRIVE.said(work, work.cache, judged=not unridden),
            "range": RANGE.said(work, work.cache, judged=not unridden),
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
