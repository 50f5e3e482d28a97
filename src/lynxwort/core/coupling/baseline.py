"""Baseline: what was measured, and what is still to measure."""

from collections.abc import Callable

from lynxwort.core.coupling.build import figure
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.learned.pace import LEAST_M
from lynxwort.core.model.readings import SagReading, WeighingReading
from lynxwort.core.report import Figure, Finding


def figures(work: Upstream) -> list[Figure]:
    ids = (
        work.springs.offsets.used
        + work.loads.weighed.used
        + work.springs.geometry.used
        + work.supply.factor.used
        + ((work.mixture.good.id,) if work.mixture.good else ())
        + work.road.seen.used
    )
    return [figure(work, "baseline.readings_used", len(ids), readings=ids, basis="measured", formula="readings not struck out that the model can use",
                   source="Baseline")]  # fmt: skip


def _seen(work: Upstream, add: Callable[..., None]) -> None:
    """What was seen on the road: what shapes the ride, and what nothing explains."""
    seen = work.road.seen
    for reading in work.live_readings:
        if reading.id in seen.radius.doubted or reading.id in seen.power.doubted:
            add("seen_questioned", "look", what=reading.kind)
    for ground, grip in seen.grip.items():
        if grip.questioned:
            add("hills_contradict", "look", ground=ground)
    if seen.stalled:
        add("stalled_unexplained", "look")
    if seen.elsewhere:
        add("seen_elsewhere", "ok", count=len(seen.elsewhere))
    for fit in seen.fits_of(work.inputs.rider)[-1:]:
        add("ridden_lap_used", "ok", ridden_time=fit.ridden_s, model_time=fit.assumed_s, grounds=sum(m >= LEAST_M for m in fit.metres))


def _measured(work: Upstream, add: Callable[..., None]) -> None:
    """What scales, tape and gauge say that the bike cannot explain."""
    for reading in work.live_readings:
        if reading.id in work.loads.weighed.questioned or (isinstance(reading, WeighingReading) and reading.id in work.springs.offsets.questioned):
            add("weighing_doubted", "look")
    for odd in work.springs.geometry.unexplained:
        if odd.of == "rake":
            add("angle_questioned", "look", what=odd.of, because=odd.because, off_tilt_rad=abs(odd.miss_si))
        else:
            add("length_questioned", "look", what=odd.of, because=odd.because, off_m=abs(odd.miss_si))


def findings(work: Upstream, known: dict[str, Figure]) -> list[Finding]:
    found = []

    def add(code: str, severity: str, **parameters: float | str) -> None:
        found.append(Finding(station="baseline", code=code, severity=severity, parameters=parameters, figures=("baseline.readings_used",)))  # type: ignore[arg-type]

    live = work.live_readings
    _seen(work, add)
    for reading in live:
        if isinstance(reading, SagReading) and reading.id in work.springs.offsets.questioned:
            add("sag_questioned", "look", value_m=reading.value_m, end=reading.end, state=reading.state)
    _measured(work, add)
    for _ in work.supply.factor.doubted:
        add("fill_up_doubted", "look")
    for _ in work.supply.fill_ups[1]:
        add("fill_up_elsewhere", "look")
    measured = {(r.end, r.state) for r in live if isinstance(r, SagReading)}
    missing = [f"{end}_{state}" for end in ("rear", "front") for state in ("free", "race") if (end, state) not in measured]
    if missing:
        add("sag_missing", "unknown", count=len(missing), first=missing[0])
    if not work.supply.factor.used:
        add("fill_up_missing" if work.supply.store.kind == "fuel" else "charge_missing", "unknown")
    if work.mixture.good is None and work.inputs.bike.metering != "electric":
        add("known_good_missing", "unknown")
    if known["baseline.readings_used"].value:
        add("readings_used", "ok", count=known["baseline.readings_used"].value or 0.0)
    return found
