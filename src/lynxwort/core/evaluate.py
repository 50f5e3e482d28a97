"""Everything that is said of one document, in one pure function: `evaluate(inputs) -> Report`."""

from collections.abc import Mapping
from dataclasses import replace
from typing import Literal

from lynxwort.core import CORE_VERSION
from lynxwort.core.behind import Behind
from lynxwort.core.cache import StageCache
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.errors import InputRefused, OutOfModelRange, Refusal
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.report import Report, verdict, with_inputs
from lynxwort.core.stations import STATIONS
from lynxwort.core.stations.chassis.input import ChassisInput
from lynxwort.core.stations.chassis.springs import bands
from lynxwort.core.stations.drive.doubt import sensitivities as rides_in_doubt
from lynxwort.core.stations.drive.input import DriveInput


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
    up = Upstream.of(inputs, cache or StageCache())
    try:
        stored = dict(rides_in_doubt(DriveInput.of(up)) if depth == "full" else sensitivities or {})
        up = replace(up, ranges=tuple(sorted((k, (v[0], v[1])) for k, v in stored.items())))
        said = [s.said(up, judged=not unridden) for s in STATIONS if not (unridden and s.rides)]
    except OutOfModelRange as error:
        raise InputRefused(
            Refusal(path="race.air", code="out_of_model_range", low=error.low, high=error.high, unit=error.unit, message=error.quantity)
        ) from error
    findings = tuple(f for _figures, found in said for f in found)
    return Report(
        core_version=CORE_VERSION,
        figures=with_inputs({f.id: f for figures, _found in said for f in figures}, inputs),
        findings=findings,
        verdicts={s.name: verdict(tuple(f for f in findings if f.station == s.name)) for s in STATIONS},
        sensitivities=stored,
        bands=bands(ChassisInput.of(up)),
        behind=Behind(up),
    )
