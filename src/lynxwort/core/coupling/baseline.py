"""Baseline: what was measured, and what is still to measure."""

from lynxwort.core.coupling.build import figure
from lynxwort.core.coupling.stages import Work
from lynxwort.core.model.readings import SagReading
from lynxwort.core.report import Figure, Finding


def figures(work: Work) -> list[Figure]:
    ids = work.offsets.used + work.factor.used + ((work.known_good.id,) if work.known_good else ())
    return [figure(work, "baseline.readings_used", len(ids), readings=ids, basis="measured", formula="readings not struck out that the model can use",
                   source="Baseline")]  # fmt: skip


def findings(work: Work, known: dict[str, Figure]) -> list[Finding]:
    found = []

    def add(code: str, severity: str, **parameters: float | str) -> None:
        found.append(Finding(station="baseline", code=code, severity=severity, parameters=parameters, figures=("baseline.readings_used",)))  # type: ignore[arg-type]

    live = [r for r in work.inputs.readings if not r.struck_out]
    for reading in live:
        if isinstance(reading, SagReading) and reading.id in work.offsets.questioned:
            add("sag_questioned", "look", value_m=reading.value_m, end=reading.end, state=reading.state)
    for _ in work.factor.doubted:
        add("fill_up_doubted", "look")
    for _ in work.fill_ups[1]:
        add("fill_up_elsewhere", "look")
    measured = {(r.end, r.state) for r in live if isinstance(r, SagReading)}
    missing = [f"{end}_{state}" for end in ("rear", "front") for state in ("free", "race") if (end, state) not in measured]
    if missing:
        add("sag_missing", "unknown", count=len(missing), first=missing[0])
    if not work.factor.used:
        add("fill_up_missing" if work.store.kind == "fuel" else "charge_missing", "unknown")
    if work.known_good is None and work.inputs.bike.metering != "electric":
        add("known_good_missing", "unknown")
    if known["baseline.readings_used"].value:
        add("readings_used", "ok", count=known["baseline.readings_used"].value or 0.0)
    return found
