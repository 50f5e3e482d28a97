"""What Baseline says of the readings."""

from collections.abc import Callable

from lynxwort.core.learned.pace import LEAST_M
from lynxwort.core.model.readings import SagReading, WeighingReading
from lynxwort.core.report import Finding, Severity
from lynxwort.core.stations.baseline.input import BaselineInput
from lynxwort.core.stations.baseline.judged import service_findings
from lynxwort.core.stations.station import Known


def _seen(given: BaselineInput, add: Callable[..., None]) -> None:
    """What was seen on the road: what shapes the ride, and what nothing explains."""
    seen = given.learned
    for reading in given.readings:
        if reading.id in seen.radius.doubted or reading.id in seen.power.doubted:
            add("seen_questioned", "look", what=reading.kind)
    for ground, grip in seen.grip.items():
        if grip.questioned:
            add("hills_contradict", "look", ground=ground)
    if seen.stalled:
        add("stalled_unexplained", "look")
    if seen.elsewhere:
        add("seen_elsewhere", "ok", count=len(seen.elsewhere))
    for fit in seen.fits_of(given.springs.rider)[-1:]:
        add(
            "ridden_lap_used",
            "ok",
            ridden_time=fit.ridden_s,
            model_time=fit.assumed_s,
            grounds=sum(m >= LEAST_M for m in fit.metres),
        )


def _measured(given: BaselineInput, add: Callable[..., None]) -> None:
    """What scales, tape and gauge say that the bike cannot explain."""
    for reading in given.readings:
        if reading.id in given.springs.loads.weighed.questioned or (
            isinstance(reading, WeighingReading) and reading.id in given.springs.offsets.questioned
        ):
            add("weighing_doubted", "look")
    for odd in given.springs.geometry.unexplained:
        if odd.of == "rake":
            add("angle_questioned", "look", what=odd.of, because=odd.because, off_tilt_rad=abs(odd.miss_si))
        else:
            add("length_questioned", "look", what=odd.of, because=odd.because, off_m=abs(odd.miss_si))


def findings(given: BaselineInput, known: Known) -> list[Finding]:
    found = []

    def told(code: str, severity: Severity, figure: str, **parameters: float | str) -> None:
        found.append(
            Finding(station="baseline", code=code, severity=severity, parameters=parameters, figures=(figure,))
        )

    def add(code: str, severity: Severity, **parameters: float | str) -> None:
        told(code, severity, "baseline.readings_used", **parameters)

    service_findings(given, told)
    live = given.readings
    _seen(given, add)
    for reading in live:
        if isinstance(reading, SagReading) and reading.id in given.springs.offsets.questioned:
            add("sag_questioned", "look", value_m=reading.value_m, end=reading.end, state=reading.state)
    _measured(given, add)
    for _ in given.factor.doubted:
        add("fill_up_doubted", "look")
    for _ in given.elsewhere:
        add("fill_up_elsewhere", "look")
    measured = {(r.end, r.state) for r in live if isinstance(r, SagReading)}
    missing = [
        f"{end}_{state}" for end in ("rear", "front") for state in ("free", "race") if (end, state) not in measured
    ]
    if missing:
        add("sag_missing", "unknown", count=len(missing), first=missing[0])
    if not given.factor.used:
        add("fill_up_missing" if given.store == "fuel" else "charge_missing", "unknown")
    if given.good is None and given.springs.bike.metering != "electric":
        add("known_good_missing", "unknown")
    if known["baseline.readings_used"].value:
        add("readings_used", "ok", count=known["baseline.readings_used"].value or 0.0)
    return found
