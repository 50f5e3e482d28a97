"""What Damping says of its figures."""

from typing import Any

from lynxwort.core.model.damper import PLACES, ValveSeat
from lynxwort.core.physics.chassis.fitted import travel_of
from lynxwort.core.report import Finding, Move, Severity
from lynxwort.core.stations.damping.candidates import METAL_ACT, METAL_LOOK, Cure, cures, free_speed, helps
from lynxwort.core.stations.damping.dampers import ENDS, clicks_of, curve_of, facts_of, shims_of, stack_in
from lynxwort.core.stations.damping.figures import worst_stress
from lynxwort.core.stations.damping.input import DampingInput
from lynxwort.core.stations.damping.rides import Ridden, ridden
from lynxwort.core.stations.station import Known

#: bands of the damping ratio (from memory, judgement)
BANDS = {"compression": (0.15, 0.35), "rebound": (0.35, 0.65)}
#: what is called packing: deeper than it stands by this share of the travel (assumption)
PACKING_SHARE = 0.09
STRESS_LOOK_PA = 1.0e9


def _finding(
    code: str, severity: Severity, figures: tuple[str, ...], parameters: dict[str, Any], **more: Any
) -> Finding:
    return Finding(station="damping", code=code, severity=severity, figures=figures, parameters=parameters, **more)


def _bottoming(given: DampingInput, cases: list[Ridden], end: str, cured: bool) -> list[Finding]:
    where = max(cases, key=lambda c: c.mean("metal", end))
    now = where.mean("metal", end)
    if now < METAL_LOOK:
        return []
    tried = cures(given, end, where) if cured else []
    by_clicks = any(helps(c, now) for c in tried if c.clicker)
    good = [c for c in tried if helps(c, now) and c.clicker is by_clicks]
    ranked = sorted(good, key=lambda c: (not all(m.owned is not False for m in c.moves), c.metal))
    of_each: dict[str, Cure] = {}
    for cure in ranked:
        of_each.setdefault(cure.moves[0].tunable, cure)
    best = list(of_each.values())[:2]
    code = "bottoms_click" if by_clicks else "bottoms_no_click" if best or not cured else "bottoms_anyway"
    parameters: dict[str, Any] = {
        "end": end,
        "times": now,
        "feature": where.feature.kind,
        "ridden_speed": where.speed_m_per_s,
    }
    if not best and cured:
        parameters["free_speed"] = free_speed(given, end, where) or "no_speed"
    severity: Severity = "act" if now >= METAL_ACT else "look"
    figures = (f"damping.{end}.bottomings", f"damping.{end}.travel_used")
    return [
        _finding(code, severity, figures, parameters, at_m=where.feature.at_m, proposals=tuple(c.moves for c in best))
    ]


def _packing(given: DampingInput, cases: list[Ridden], end: str, cured: bool) -> list[Finding]:
    travel = travel_of(given.bike.frame, given.setup, end)
    where = max(
        (c for c in cases if c.feature.kind in ("whoops", "rocks")),
        key=lambda c: c.mean("packing_m", end),
        default=None,
    )
    if where is None or where.mean("packing_m", end) < PACKING_SHARE * travel:
        return []
    if not cured:
        return [_finding("packs", "look", (f"damping.{end}.packing",), {"end": end}, at_m=where.feature.at_m)]
    tunable = f"{ENDS[end]}_rebound_clicks"
    more = min(clicks_of(given.setup, ENDS[end])[1] + 2, facts_of(given.bike, ENDS[end]).rebound_clicks)
    opener = given.setup.model_copy(update={tunable: more})
    after = max(c.mean("packing_m", end) for c in ridden(given, opener) if c.feature.kind in ("whoops", "rocks"))
    proposals = ((Move(tunable=tunable, value=more),),) if after < where.mean("packing_m", end) - 1e-4 else ()
    parameters = {"end": end, "feature": where.feature.kind, "after_m": after}
    return [
        _finding("packs", "look", (f"damping.{end}.packing",), parameters, at_m=where.feature.at_m, proposals=proposals)
    ]


def _ratios(known: Known) -> list[Finding]:
    found = []
    for end in ENDS:
        for way, (low, high) in BANDS.items():
            name = f"damping.{end}.zeta_{way}"
            zeta = known[name].value or 0.0
            if not 0.8 * low <= zeta <= 1.25 * high:
                code = f"{'little' if zeta < low else 'much'}_{way}"
                found.append(_finding(code, "look", (name,), {"end": end, "low": f"{low:g}", "high": f"{high:g}"}))
    return found


def _too_high(given: DampingInput) -> list[Finding]:
    found = []
    for name in ENDS.values():
        for place in PLACES:
            seat: ValveSeat = getattr(facts_of(given.bike, name), place)
            high = stack_in(shims_of(given.setup, name, place), seat).height_m
            if seat.height_most_m is not None and high > seat.height_most_m + 1e-9:
                told = {"stack": f"{name}_{place}_stack", "high_m": high, "most_m": seat.height_most_m}
                found.append(_finding("stack_too_high", "act", (), told))
    return found


def quiet(given: DampingInput, known: Known) -> list[Finding]:
    """As findings, without what would cure them: each cure is a ride."""
    return findings(given, known, cured=False)


def findings(given: DampingInput, known: Known, *, cured: bool = True) -> list[Finding]:
    cases = ridden(given)
    found = [f for end in ENDS for f in (*_bottoming(given, cases, end, cured), *_packing(given, cases, end, cured))]
    found += _ratios(known)
    stress, place = worst_stress(given, cases)
    if stress > STRESS_LOOK_PA:
        found.append(_finding("shim_stress", "look", ("damping.stress_max",), {"stack": f"{place}_stack"}))
    found += _too_high(given)
    for end, name in ENDS.items():
        curve = curve_of(given.bike, given.setup, name)
        fastest = max(getattr(m, end).inward_m_per_s for c in cases for m in c.runs)
        if curve.cavitates_m_per_s is not None and curve.cavitates_m_per_s < fastest:
            found.append(_finding("cavitates", "look", (), {"end": end, "tears_from": curve.cavitates_m_per_s}))
    for case in cases:
        if case.slower or not case.holds:
            told = {
                "feature": case.feature.kind,
                "ridden_speed": case.speed_m_per_s,
                "wanted_speed": case.feature.speed_m_per_s,
            }
            found.append(
                _finding("ridden_slower" if case.holds else "beyond_model", "look", (), told, at_m=case.feature.at_m)
            )
    if not found:
        found.append(_finding("rides_well", "ok", ("damping.front.travel_used", "damping.rear.travel_used"), {}))
    return found
