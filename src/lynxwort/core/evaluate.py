"""The coupling in one pure function: `evaluate(inputs) -> Report`."""

from collections.abc import Mapping
from typing import Literal

from lynxwort.core import CORE_VERSION
from lynxwort.core.cache import StageCache
from lynxwort.core.coupling import baseline, chassis, drive, fuelling, purpose, reach
from lynxwort.core.coupling.stages import Work, ride_sensitivities
from lynxwort.core.errors import InputRefused, OutOfModelRange, Refusal
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.report import STATIONS, Report, verdict


def evaluate(
    inputs: Inputs,
    *,
    depth: Literal["bench", "full"] = "bench",
    cache: StageCache | None = None,
    sensitivities: Mapping[str, tuple[float, float]] | None = None,
) -> Report:
    """Judge one setup for one race.

    depth "bench": one course simulation, ranges of what rests on it from `sensitivities` (those of the kept revision).
    depth "full": the sensitivities are computed too, by simulating perturbed rides. The values are the same.
    Raises InputRefused when the inputs cannot be put together (ground beyond the course, air outside the model).
    """
    work = Work(inputs=inputs, cache=cache or StageCache())
    try:
        stored = dict(ride_sensitivities(work) if depth == "full" else sensitivities or {})
        figures = [
            *purpose.figures(work),
            *baseline.figures(work),
            *chassis.figures(work),
            *fuelling.figures(work),
            *drive.figures(work, stored),
            *reach.figures(work, stored),
        ]
        known = {f.id: f for f in figures}
        findings = tuple(
            f
            for station in (purpose, baseline, chassis, fuelling, drive, reach)
            for f in station.findings(work, known)  # type: ignore[attr-defined]
        )
    except OutOfModelRange as error:
        raise InputRefused(
            Refusal(path="race.air", code="out_of_model_range", low=error.low, high=error.high, unit=error.unit, message=error.quantity)
        ) from error
    return Report(
        core_version=CORE_VERSION,
        figures=known,
        findings=findings,
        verdicts={s: verdict(tuple(f for f in findings if f.station == s)) for s in STATIONS},
        sensitivities=stored,
        bands=chassis.bands(work),
        work=work,
    )
