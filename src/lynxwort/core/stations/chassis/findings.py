"""What Chassis says of its figures."""

from lynxwort.core.learned.sag import SHARE
from lynxwort.core.model.bike import Electric
from lynxwort.core.model.fitted import aboard_of
from lynxwort.core.physics.chassis import ride_quality
from lynxwort.core.physics.chassis.fitted import oil_gap
from lynxwort.core.report import Finding, Move, Severity
from lynxwort.core.stations.chassis import attitude
from lynxwort.core.stations.chassis.candidates import springs_for
from lynxwort.core.stations.chassis.input import ChassisInput
from lynxwort.core.stations.chassis.springs import (
    BAND_EDGE_M,
    PRELOAD_FIELD,
    RATE_FIELD,
    measured_sag,
    on_air,
    preloads_for,
    sold_rates,
    span,
)
from lynxwort.core.stations.station import Known
from lynxwort.core.tunables import TUNABLES, is_owned

#: beyond its band by more than this a race sag is to act on (assumption)
RACE_SAG_ACT_M = 0.008
#: share of the bottoming drop that a load may take before it asks for spring (HANDBOOK 6: assumption)
LOAD_DROP_SHARE = 0.05


def findings(given: ChassisInput, known: Known) -> list[Finding]:
    """Of the springs, then of how the bike stands."""
    return [*_springs(given, known), *attitude.findings(given, known)]


def _verdict(given: ChassisInput, end: str, known: Known) -> tuple[str, Severity]:
    """Code and severity for one end."""
    t = given.springs.targets(end, given.setup)
    race, free = known[f"chassis.{end}.race_sag"], known[f"chassis.{end}.free_sag"]
    assert race.value is not None
    assert free.value is not None
    off = max(t.race_low_m - race.value, race.value - t.race_high_m, 0.0)
    free_off = max(t.free_low_m - free.value, free.value - t.free_high_m, 0.0)
    if off < BAND_EDGE_M and free_off < BAND_EDGE_M:
        return "sag_right", "ok"
    now = getattr(given.setup, RATE_FIELD[end])
    severity: Severity = "act" if off > RACE_SAG_ACT_M and measured_sag(given, end) else "look"
    if on_air(given, end):
        return "fork_air_off", severity
    low, high = preloads_for(given, end, now)
    if low <= high:
        return "preload_off", severity
    return ("spring_soft" if now < span(given, end)[0] else "spring_stiff"), severity


def _preload(given: ChassisInput, end: str, rate_n_per_m: float) -> tuple[Move, ...]:
    """The preload that goes with another spring, to the notch; none where the present one does, or none would."""
    field = PRELOAD_FIELD[end]
    low, high = preloads_for(given, end, rate_n_per_m)
    if low > high or low - 1e-6 <= getattr(given.setup, field) <= high + 1e-6:
        return ()
    step = TUNABLES[field].step
    return (Move(tunable=field, value=round(round(0.5 * (low + high) / step) * step, 6)),)


def _load_aboard(given: ChassisInput) -> list[Finding]:
    """A load that rides along at both sags cancels out of their difference: it asks for spring by the reserve it
    takes.
    """
    setup, payload = given.setup, given.bike.frame.payload
    if not aboard_of(given.bike, setup):
        return []
    bare, half, offset, found = (
        setup.model_copy(update={"payload_left": len(payload), "kit_on": ()}),
        0.5 * setup.fill_m3,
        given.springs.offsets.mean[SHARE],
        [],
    )
    for end in ("rear", "front"):
        kg = [given.springs.sprung(end, s, given.rider, half, offset) for s in (setup, bare)]
        fork, shock = (
            given.springs.fork(setup, given.springs.offsets.mean),
            given.springs.shock(setup, given.springs.offsets.mean),
        )
        drops = [
            ride_quality.front_bottoming_drop(fork, m) if end == "front" else ride_quality.rear_bottoming_drop(shock, m)
            for m in kg
        ]
        if drops[0] >= (1.0 - LOAD_DROP_SHARE) * drops[1] or on_air(given, end):
            continue
        rate, field = getattr(setup, RATE_FIELD[end]), RATE_FIELD[end]
        stiffer = min(
            (r for r in sold_rates(given, end) if r > rate + 1.0),
            key=lambda r: abs(r - rate * kg[0] / kg[1]),
            default=None,
        )
        told = (
            ()
            if stiffer is None or not measured_sag(given, end)
            else (
                (
                    Move(tunable=field, value=stiffer, owned=is_owned(given.box, field, stiffer)),
                    *_preload(given, end, stiffer),
                ),
            )
        )
        found.append(
            Finding(
                station="chassis",
                code="load_wants_spring",
                severity="look",
                figures=(f"chassis.{end}.bottoming_drop",),
                proposals=told,
                parameters={
                    "end": end,
                    "with_drop_m": drops[0],
                    "without_drop_m": drops[1],
                    "load_kg": kg[0] - kg[1],
                    "first": "" if measured_sag(given, end) else "measure_sag_first",
                },
            )
        )
    return found


def _springs(given: ChassisInput, known: Known) -> list[Finding]:
    found = []
    for end in ("rear", "front"):
        code, severity = _verdict(given, end, known)
        softest, stiffest = span(given, end)
        rates: dict[str, float | str] = (
            {"softest_rate": softest, "stiffest_rate": stiffest} if code.startswith("spring_") else {}
        )
        found.append(
            Finding(
                station="chassis",
                code=code,
                severity=severity,
                parameters={
                    "end": end,
                    "measured": "yes" if measured_sag(given, end) else "no",
                    "first": "" if measured_sag(given, end) else "measure_sag_first",
                    **rates,
                },
                figures=(
                    f"chassis.{end}.race_sag",
                    f"chassis.{end}.free_sag",
                    "chassis.front.air_pressure_wanted" if on_air(given, end) else f"chassis.{end}.spring_rate_wanted",
                ),
                proposals=() if severity == "ok" else springs_for(given, end),
            )
        )
    found += _load_aboard(given)
    frame, gap = given.bike.frame, oil_gap(given.bike.frame, given.setup)
    if not frame.fork_oil_least_m - 1e-9 <= gap <= frame.fork_oil_most_m + 1e-9:
        severity = "act" if gap < frame.fork_oil_least_m else "look"
        found.append(
            Finding(
                station="chassis",
                code="oil_beyond",
                severity=severity,
                figures=("chassis.front.bottoming_drop",),
                parameters={
                    "gap_travel_m": gap,
                    "least_travel_m": frame.fork_oil_least_m,
                    "most_travel_m": frame.fork_oil_most_m,
                },
            )
        )
    if isinstance(given.bike.engine, Electric):
        return found
    full, empty = known["chassis.rear.race_sag_full"].value or 0.0, known["chassis.rear.race_sag_empty"].value or 0.0
    found.append(
        Finding(
            station="chassis",
            code="fuel_moves_sag",
            severity="ok",
            parameters={"change_m": full - empty},
            figures=("chassis.rear.race_sag_full", "chassis.rear.race_sag_empty"),
        )
    )
    return found
