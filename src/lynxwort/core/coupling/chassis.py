"""Chassis: loads, sag at both ends, and the springs that meet both sags."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from lynxwort.core.cache import Key
from lynxwort.core.chassis import sag
from lynxwort.core.coupling.build import figure, step
from lynxwort.core.coupling.stages import Work
from lynxwort.core.model.base import field_facts
from lynxwort.core.model.bike import Electric
from lynxwort.core.model.readings import SagReading
from lynxwort.core.model.setup import Setup
from lynxwort.core.report import Figure, Finding, Move, Severity
from lynxwort.core.units.detents import DETENTS, is_owned

#: beyond its band by more than this a race sag is to act on (assumption)
RACE_SAG_ACT_M = 0.008
RATE_FIELD = {"front": "fork_spring_rate_n_per_m", "rear": "shock_spring_rate_n_per_m"}
PRELOAD_FIELD = {"front": "fork_preload_m", "rear": "shock_preload_m"}
SAG_SOURCE = "free-body balance at rest, Boyle's law for the trapped air; bands: common practice, no source"


@dataclass(frozen=True, slots=True, kw_only=True)
class SpringChoice:
    """A rate [N/m] (one fork spring or the shock spring) and the preloads [m] that meet both sags with it."""

    rate_n_per_m: float
    preload_low_m: float
    preload_high_m: float
    owned: bool

    @property
    def preload_m(self) -> float:
        """Middle of the preloads, to the whole millimetre when one lies between."""
        middle = round(500.0 * (self.preload_low_m + self.preload_high_m)) / 1000.0
        return min(max(middle, self.preload_low_m), self.preload_high_m)


def sprung_masses(work: Work, end: str) -> tuple[float, float]:
    """Sprung mass [kg] at one end: rider in position, and bike alone, at half the fill and with the calibrated share."""
    return work.once(f"sprung_{end}", lambda: _sprung_masses(work, end))


def _sprung_masses(work: Work, end: str) -> tuple[float, float]:
    frame, half = work.inputs.bike.frame, 0.5 * work.inputs.setup.fill_m3
    race = work.loads(half, share_offset=work.offsets.mean[2])
    free = work.loads(half, with_rider=False)
    if end == "front":
        return race.front_kg - frame.unsprung_front_kg, free.front_kg - frame.unsprung_front_kg
    return race.rear_kg - frame.unsprung_rear_kg, free.rear_kg - frame.unsprung_rear_kg


def line_at(work: Work, end: str, mass_kg: float, sag_m: float) -> tuple[float, float]:
    """Spring load [N] and stroke [m] of one end at a sag."""
    frame, setup = work.inputs.bike.frame, work.inputs.setup
    if end == "front":
        fork = sag.fork_of(frame, leg_rate_n_per_m=setup.fork_spring_rate_n_per_m, preload_m=setup.fork_preload_m)
        load, stroke = sag.front_line(fork, mass_kg, sag_m)
        return 0.5 * load, stroke
    return sag.rear_line(work.shock(setup), mass_kg, sag_m)


def wanted(work: Work, end: str) -> tuple[float, float]:
    """Rate [N/m] and preload [m] that meet the middle of both bands; preload as read on the bike (calibrated offset taken out)."""
    race_kg, free_kg = sprung_masses(work, end)
    targets = work.targets(end)
    rate, preload = sag.rate_for_both(line_at(work, end, race_kg, targets.race_m), line_at(work, end, free_kg, targets.free_m))
    return rate, preload - work.offsets.mean[0 if end == "front" else 1]


def preloads_for(work: Work, end: str, rate_n_per_m: float) -> tuple[float, float]:
    """Preloads as read on the bike [m] with which both sags lie in their bands at this rate; low > high when there is none."""
    race_kg, free_kg = sprung_masses(work, end)
    t = work.targets(end)
    low, high = sag.preload_band(
        rate_n_per_m,
        (line_at(work, end, race_kg, t.race_low_m), line_at(work, end, free_kg, t.free_low_m)),
        (line_at(work, end, race_kg, t.race_high_m), line_at(work, end, free_kg, t.free_high_m)),
    )
    offset = work.offsets.mean[0 if end == "front" else 1]
    return max(low - offset, 0.0), min(high - offset, field_facts(Setup, PRELOAD_FIELD[end]).high or 1.0)


def spring_choices(work: Work, end: str) -> Iterator[SpringChoice]:
    """Every rate in steps or in the box that meets both sags, softest first."""
    tunable = RATE_FIELD[end]
    step_n = DETENTS[tunable].step
    middle, parts = wanted(work, end)[0], work.inputs.parts
    rates = {round(middle / step_n + k) * step_n for k in range(-6, 7)} | set(parts.owned(tunable))
    for rate in sorted(r for r in rates if r > 0):
        low, high = preloads_for(work, end, rate)
        if low <= high:
            yield SpringChoice(rate_n_per_m=rate, preload_low_m=low, preload_high_m=high, owned=bool(is_owned(parts, tunable, rate)))


def _wanted_half(work: Work, end: str, rate: float) -> float:
    """Half of the 90 % interval of the wanted rate: the uncertainty of the rider's share on the load difference."""
    race_kg, free_kg = sprung_masses(work, end)
    sd_kg = work.inputs.rider.mass_in_gear_kg * float(np.sqrt(work.offsets.covariance[2][2]))
    return 1.645 * rate * sd_kg / (race_kg - free_kg)


def _key(work: Work) -> Key:
    """Everything that figures and findings of this station rest on, what was given and what assumed included."""
    inputs = work.inputs
    setup, parts = inputs.setup, inputs.parts
    values = tuple(getattr(setup, f) for f in ("fork_spring_rate_n_per_m", "fork_preload_m", "shock_spring_rate_n_per_m", "shock_preload_m", "pack_energy_j"))
    given = tuple(frozenset(m.model_fields_set) for m in (setup, inputs.bike.frame, inputs.rider))
    sags = tuple(r for r in inputs.readings if isinstance(r, SagReading)) if inputs.readings else ()
    marks = tuple((r.id, r.value_m, r.end, r.state, r.struck_out, r.under.model_dump_json()) for r in sags)
    return Key(inputs.bike.frame, inputs.bike.engine, values, setup.fill_m3, inputs.rider, given, marks, parts)


def figures(work: Work) -> list[Figure]:
    return work.cache.get("chassis_figures", _key(work), lambda: _figures(work))


def findings(work: Work, known: dict[str, Figure]) -> list[Finding]:
    return work.cache.get("chassis_findings", _key(work), lambda: _findings(work, known))


def _figures(work: Work) -> list[Figure]:
    setup = work.inputs.setup
    fill = setup.fill_m3
    made: list[Figure] = []
    electric = isinstance(work.inputs.bike.engine, Electric)
    no_fuel = [f"chassis.{end}.race_sag_{level}" for end in ("front", "rear") for level in ("full", "empty")]
    no_fuel += [f"chassis.axle_load.{end}_{level}" for end in ("front", "rear") for level in ("half", "empty")]
    if electric:
        made += [figure(work, name, None, status="not_applicable", reason="pack_keeps_mass") for name in no_fuel]
    loads_from = ("bike.frame.mass_dry_kg", "bike.frame.front_share", "riders.0.mass_in_gear_kg", "bike.frame.fuel_front_share")
    calibrated = "calibrated" if work.offsets.used else "computed"
    for suffix, fuel in (("", fill), ("_half", 0.5 * fill), ("_empty", 0.0))[: 1 if electric else 3]:
        loads = work.loads(fuel, share_offset=work.offsets.mean[2])
        sd = 1.645 * work.inputs.rider.mass_in_gear_kg * float(np.sqrt(work.offsets.covariance[2][2]))
        for end, value in (("front", loads.front_kg), ("rear", loads.rear_kg)):
            made.append(figure(work, f"chassis.axle_load.{end}{suffix}", value, half=sd, basis=calibrated, inputs=loads_from,
                               formula="bike share + fuel share + rider share by posture", source="statics; rider's share: assumption"))  # fmt: skip
    for end in ("front", "rear"):
        rate_path, preload_path = f"setup.{RATE_FIELD[end]}", f"setup.{PRELOAD_FIELD[end]}"
        race_kg, free_kg = sprung_masses(work, end)
        formula = "rate (x + preload) + air force = sprung mass g cos(rake)" if end == "front" else "ratio' x rate (stroke + preload) = sprung mass g"
        for state, race, fuel in (
            ("free_sag", False, 0.5 * fill),
            ("race_sag", True, 0.5 * fill),
            ("race_sag_full", True, fill),
            ("race_sag_empty", True, 0.0),
        )[: 2 if electric else 4]:
            value, half = work.present_sag(end, race=race, fuel_m3=fuel)
            made.append(
                figure(work, f"chassis.{end}.{state}", value, low=max(value - half, 0.0), high=value + half, basis=calibrated, formula=formula,
                       steps=(step("sprung mass", race_kg if race else free_kg, "kg", "axle load - unsprung mass, half the fill"),
                              step("preload offset", work.offsets.mean[0 if end == "front" else 1], "m", "learned from sag readings")),
                       inputs=(rate_path, preload_path, *loads_from), readings=work.offsets.used, source=SAG_SOURCE))  # fmt: skip
        rate, preload = wanted(work, end)
        made.append(
            figure(work, f"chassis.{end}.spring_rate_wanted", rate, half=_wanted_half(work, end, rate), basis=calibrated,
                   formula="(race load - free load) / (race stroke - free stroke), loads along the spring",
                   inputs=loads_from, readings=work.offsets.used, source=SAG_SOURCE))  # fmt: skip
        if end == "rear":
            made.append(figure(work, "chassis.rear.preload_wanted", preload, basis=calibrated, formula="race load / rate - race stroke",
                               inputs=loads_from, readings=work.offsets.used, source=SAG_SOURCE))  # fmt: skip
    return made


def _proposals(work: Work, end: str) -> tuple[tuple[Move, ...], ...]:
    """At most two: with the present spring, else from the box, else the smallest purchase."""
    setup = work.inputs.setup
    rate_field, preload_field = RATE_FIELD[end], PRELOAD_FIELD[end]
    now = getattr(setup, rate_field)
    middle = wanted(work, end)[0]
    ranked = sorted(spring_choices(work, end), key=lambda c: (abs(c.rate_n_per_m - now) > 1.0, not c.owned, abs(c.rate_n_per_m - middle)))
    made = []
    for option in ranked[:2]:
        moves = []
        if abs(option.rate_n_per_m - now) > 1.0:
            moves.append(Move(tunable=rate_field, value=option.rate_n_per_m, owned=option.owned))
        if not option.preload_low_m - 1e-6 <= getattr(setup, preload_field) <= option.preload_high_m + 1e-6 or moves:
            moves.append(Move(tunable=preload_field, value=round(option.preload_m, 6)))
        if moves:
            made.append(tuple(moves))
        if abs(option.rate_n_per_m - now) <= 1.0:
            break
    return tuple(made)


def _verdict(work: Work, end: str, known: dict[str, Figure]) -> tuple[str, Severity]:
    """Code and severity for one end."""
    t = work.targets(end)
    race, free = known[f"chassis.{end}.race_sag"], known[f"chassis.{end}.free_sag"]
    assert race.value is not None
    assert free.value is not None
    off = max(t.race_low_m - race.value, race.value - t.race_high_m, 0.0)
    free_off = max(t.free_low_m - free.value, free.value - t.free_high_m, 0.0)
    if off < 5e-4 and free_off < 5e-4:
        return "sag_right", "ok"
    now = getattr(work.inputs.setup, RATE_FIELD[end])
    low, high = preloads_for(work, end, now)
    measured = bool(work.offsets.used)
    severity: Severity = "act" if off > RACE_SAG_ACT_M and measured else "look"
    if low <= high:
        return "preload_off", severity
    return ("spring_soft" if now < wanted(work, end)[0] else "spring_stiff"), severity


def _findings(work: Work, known: dict[str, Figure]) -> list[Finding]:
    found = []
    for end in ("rear", "front"):
        code, severity = _verdict(work, end, known)
        found.append(
            Finding(station="chassis", code=code, severity=severity,
                    parameters={"end": end, "measured": "yes" if work.offsets.used else "no"},
                    figures=(f"chassis.{end}.race_sag", f"chassis.{end}.free_sag", f"chassis.{end}.spring_rate_wanted"),
                    proposals=() if severity == "ok" else _proposals(work, end)))  # fmt: skip
    if isinstance(work.inputs.bike.engine, Electric):
        return found
    full, empty = known["chassis.rear.race_sag_full"].value or 0.0, known["chassis.rear.race_sag_empty"].value or 0.0
    found.append(Finding(station="chassis", code="fuel_moves_sag", severity="ok", parameters={"change_m": full - empty},
                         figures=("chassis.rear.race_sag_full", "chassis.rear.race_sag_empty")))  # fmt: skip
    return found


def bands(work: Work) -> dict[str, tuple[float, float]]:
    """The bands [m] in which sag figures should lie."""
    return {
        f"chassis.{end}.{state}": (t.free_low_m, t.free_high_m) if state == "free_sag" else (t.race_low_m, t.race_high_m)
        for end in ("front", "rear")
        for t in (work.targets(end),)
        for state in ("free_sag", "race_sag")
    }
