"""Chassis: loads, sag at both ends, and the springs that meet both sags."""

from dataclasses import dataclass, replace

import numpy as np

from lynxwort.core.cache import Key
from lynxwort.core.coupling import stance
from lynxwort.core.derived.springs import STAMPED
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.figures import figure, step
from lynxwort.core.learned.sag import PRELOAD, SHARE
from lynxwort.core.model.base import field_facts
from lynxwort.core.model.bike import Electric
from lynxwort.core.model.defaults import LINK_LOG_SD, LINK_TABLE_LOG_SD, REAR_SHARE_OF_RIDER, RIDER_MASS_LOG_SD, Z90
from lynxwort.core.model.readings import GeometryReading, SagReading, SteadyReading, TiltReading, WeighingReading
from lynxwort.core.model.setup import Setup
from lynxwort.core.physics.chassis import ride_quality, sag
from lynxwort.core.physics.chassis.fitted import leg_rate, legs_rate, oil_gap
from lynxwort.core.physics.chassis.springs import Spring, straight
from lynxwort.core.report import Figure, Finding, Move, Severity
from lynxwort.core.units.detents import DETENTS, is_owned

#: beyond its band by more than this a race sag is to act on (assumption)
RACE_SAG_ACT_M = 0.008
#: this near a band is in it [m]: nobody measures finer
BAND_EDGE_M = 5e-4
RATE_FIELD = STAMPED
PRELOAD_FIELD = {"front": "fork_preload_m", "rear": "shock_preload_m"}
#: share of the bottoming drop that a load may take before it asks for spring (HANDBOOK 6: assumption)
LOAD_DROP_SHARE = 0.05
#: preloads that exist as read on the bike [m], and rates that are sold [N/m] of one of two fork springs and of a shock spring (common practice, no source)
PRELOAD_EXISTS_M = {"front": (0.002, 0.012), "rear": (0.004, 0.015)}
SOLD_N_PER_M = {"front": (3200.0, 6200.0), "rear": (30_000.0, 140_000.0)}
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
        """The notch nearest to the middle of the preloads."""
        return on_notch(0.5 * (self.preload_low_m + self.preload_high_m))


def on_notch(preload_m: float) -> float:
    """The nearest notch of a preload [m]."""
    notch = DETENTS["shock_preload_m"].step
    return round(round(preload_m / notch) * notch, 9)


def line_at(work: Upstream, end: str, mass_kg: float, sag_m: float) -> tuple[float, float]:
    """Load on the springs [N], of both legs in front, and their stroke [m] of one end at a sag."""
    setup = work.inputs.setup
    if end == "front":
        return sag.front_line(work.springs.fork(setup), mass_kg, sag_m)
    return sag.rear_line(work.springs.shock(setup), mass_kg, sag_m)


def _preload_offset(work: Upstream, end: str) -> float:
    return work.springs.offsets.mean[PRELOAD[end]]


def on_air(work: Upstream, end: str) -> bool:
    """Whether an end stands on air, not on a coil spring."""
    return end == "front" and work.inputs.bike.frame.fork_springing == "air"


def spring_at(work: Upstream, end: str, rate_n_per_m: float) -> Spring:
    """The spring an end would stand on with this rate: the present one with its shape and its true rate, any other straight and true."""
    setup = work.inputs.setup
    present = abs(rate_n_per_m - getattr(setup, RATE_FIELD[end])) <= 1.0
    if end == "front":
        fork = work.springs.fork(setup, work.springs.offsets.mean)
        return (fork.spring or straight(fork.rate_n_per_m)) if present else straight(legs_rate(work.inputs.bike.frame, setup, rate_n_per_m))
    shock = work.springs.shock(setup, work.springs.offsets.mean)
    return (shock.spring or straight(shock.rate_n_per_m)) if present else straight(rate_n_per_m)


def _band_lines(work: Upstream, end: str) -> tuple[tuple[tuple[float, float], ...], tuple[tuple[float, float], ...]]:
    """Lines (load, stroke) of race and free sag at the low ends of their bands, and at the high ends: the same for every spring."""

    def make() -> tuple[tuple[tuple[float, float], ...], tuple[tuple[float, float], ...]]:
        race_kg, free_kg = work.stand.sprung(end)
        t = work.springs.targets(end)
        return (
            (line_at(work, end, race_kg, t.race_low_m), line_at(work, end, free_kg, t.free_low_m)),
            (line_at(work, end, race_kg, t.race_high_m), line_at(work, end, free_kg, t.free_high_m)),
        )

    return work.once(f"band_lines_{end}", make)


def preloads_for(work: Upstream, end: str, rate_n_per_m: float) -> tuple[float, float]:
    """Preloads as read on the bike [m], of those that exist, with which both sags lie in their bands at this rate; low > high when there is none."""
    low, high = sag.preload_band(spring_at(work, end, rate_n_per_m), *_band_lines(work, end))
    offset, (least, most) = _preload_offset(work, end), PRELOAD_EXISTS_M[end]
    return max(low - offset, least), min(high - offset, most)


def pressures_wanted(work: Upstream) -> tuple[float, float | None]:
    """Gauge pressures [Pa] of an air-sprung fork's main and balance chamber that meet the middle of the bands."""
    race_kg, free_kg = work.stand.sprung("front")
    t = work.springs.targets("front")
    return sag.pressures_for_both(
        work.springs.fork(work.inputs.setup, work.springs.offsets.mean), line_at(work, "front", race_kg, t.race_m), line_at(work, "front", free_kg, t.free_m)
    )


def preload_with(work: Upstream, end: str) -> float:
    """Preload as read on the bike [m] that suits the present spring best: the middle of what meets both sags, else what meets race sag."""
    low, high = preloads_for(work, end, getattr(work.inputs.setup, RATE_FIELD[end]))
    if low <= high:
        return 0.5 * (low + high)
    load, stroke = line_at(work, end, work.stand.sprung(end)[0], work.springs.targets(end).race_m)
    spring = spring_at(work, end, getattr(work.inputs.setup, RATE_FIELD[end]))
    return max(spring.deflection(load) - stroke - _preload_offset(work, end), 0.0)


def sold_rates(work: Upstream, end: str) -> list[float]:
    """Rates [N/m] that are sold, in their steps, and those in the box, softest first."""
    step_n, (least, most) = DETENTS[RATE_FIELD[end]].step, SOLD_N_PER_M[end]
    legs = 2.0 if end == "front" and work.inputs.bike.frame.fork_springs == "one" else 1.0
    steps = {round(k * step_n, 6) for k in range(round(legs * least / step_n), round(legs * most / step_n) + 1)}
    return sorted(steps | set(work.inputs.parts.owned(RATE_FIELD[end])))


def spring_choices(work: Upstream, end: str) -> list[SpringChoice]:
    """Every rate that is sold or in the box and meets both sags with a preload that exists, softest first."""
    if on_air(work, end):
        return []

    def make() -> list[SpringChoice]:
        found = []
        for rate in sold_rates(work, end):
            low, high = preloads_for(work, end, rate)
            if low <= high:
                owned = bool(is_owned(work.inputs.parts, RATE_FIELD[end], rate))
                found.append(SpringChoice(rate_n_per_m=rate, preload_low_m=low, preload_high_m=high, owned=owned))
        return found

    return work.once(f"spring_choices_{end}", make)


def span(work: Upstream, end: str) -> tuple[float, float]:
    """Softest and stiffest rate [N/m] that meets both sags; where none does, the one that comes nearest, twice."""
    rates = [c.rate_n_per_m for c in spring_choices(work, end)]
    if rates:
        return rates[0], rates[-1]

    def apart(rate_n_per_m: float) -> float:
        low, high = preloads_for(work, end, rate_n_per_m)
        return low - high

    nearest = min(sold_rates(work, end), key=apart)
    return nearest, nearest


def wanted(work: Upstream, end: str) -> tuple[float, float]:
    """Middle of the rates that meet both sags [N/m] (of one fork spring or the shock's), and the middle of its preloads [m] as read on the bike."""
    rate = 0.5 * sum(span(work, end))
    low, high = preloads_for(work, end, rate)
    return rate, 0.5 * (low + high)


def one_spring(work: Upstream, end: str, rate_n_per_m: float, half_n_per_m: float) -> tuple[float, float]:
    """Rate and half range [N/m] of the one spring that is stamped, from those of the end: both legs of a fork work together."""
    if end == "rear":
        return rate_n_per_m, half_n_per_m
    frame, setup = work.inputs.bike.frame, work.inputs.setup
    rate = leg_rate(frame, setup, rate_n_per_m)
    return rate, leg_rate(frame, setup, rate_n_per_m + half_n_per_m) - rate


def examples(work: Upstream, end: str) -> list[tuple[str, float, float]]:
    """A soft, a right and a stiff spring with race sag set by preload: code, free and race sag [m]."""
    race_kg, free_kg = work.stand.sprung(end)
    t, setup, found = work.springs.targets(end), work.inputs.setup, []
    middle = wanted(work, end)[0]
    for code, factor in (("soft", 0.75), ("right", 1.0), ("stiff", 1.3)):
        load, stroke = line_at(work, end, race_kg, t.race_m)
        rate = middle * factor
        legs = legs_rate(work.inputs.bike.frame, setup, rate) if end == "front" else rate
        preload = load / legs - stroke
        if end == "front":
            free = sag.front_sag(replace(work.springs.fork(setup), rate_n_per_m=legs, preload_m=preload, spring=None, main=None, balance=None), free_kg)
        else:
            free = sag.rear_sag(replace(work.springs.shock(setup), rate_n_per_m=legs, preload_m=preload, spring=None), free_kg)
        found.append((code, free, t.race_m))
    return found


def _wanted_ends(work: Upstream, end: str) -> tuple[float, float]:
    """Ends of the wanted rate [N/m]: of its span, widened by 90 % of what the rider's share and mass and the linkage may lie off."""
    offset = work.springs.offsets
    share = REAR_SHARE_OF_RIDER[work.inputs.rider.posture] + offset.mean[SHARE]
    mine = share if end == "rear" else 1.0 - share
    link = 0.0 if end == "front" else 2.0 * (LINK_TABLE_LOG_SD if work.inputs.bike.frame.linkage else LINK_LOG_SD)
    sd = float(np.sqrt(offset.covariance[SHARE][SHARE] / mine**2 + RIDER_MASS_LOG_SD**2 + link**2))
    low, high = span(work, end)
    return low * float(np.exp(-Z90 * sd)), high * float(np.exp(Z90 * sd))


def measured_sag(work: Upstream, end: str) -> bool:
    """Whether a sag of this end was measured and counts: without one no spring is proposed."""
    return any(isinstance(r, SagReading) and r.end == end and r.id in work.springs.offsets.used for r in work.live_readings)


#: what of the setup the springs' station reads
SPRING_FIELDS = (
    "fork_spring_rate_n_per_m", "fork_other_rate_n_per_m", "fork_second_rate_n_per_m", "fork_second_from_m", "fork_second_at_m", "fork_preload_m",
    "shock_spring_rate_n_per_m", "shock_second_rate_n_per_m", "shock_second_from_m", "shock_second_at_m", "shock_preload_m", "fork_oil_up_m",
    "fork_air_pressure_pa", "fork_balance_pressure_pa", "pack_energy_j", "payload_left", "front_wheel", "rear_wheel",
)  # fmt: skip
KINDS = (SagReading, WeighingReading, TiltReading, GeometryReading, SteadyReading)


def spring_key(work: Upstream) -> Key:
    """Everything that figures and findings of this station rest on."""
    inputs = work.inputs
    setup, parts = inputs.setup, inputs.parts
    values = tuple(getattr(setup, f) for f in SPRING_FIELDS)
    marks = tuple(r.model_dump_json() for r in inputs.readings if isinstance(r, KINDS))
    return Key(inputs.bike.frame, inputs.bike.engine, values, setup.fill_m3, inputs.riders, inputs.race.entries, marks, parts)


def figures(work: Upstream) -> list[Figure]:
    return work.cache.get("chassis_figures", Key(spring_key(work), stance.key_of(work)), lambda: [*_figures(work), *stance.figures(work)])


def findings(work: Upstream, known: dict[str, Figure]) -> list[Finding]:
    return work.cache.get("chassis_findings", Key(spring_key(work), stance.key_of(work)), lambda: [*_findings(work, known), *stance.findings(work, known)])


def _figures(work: Upstream) -> list[Figure]:
    setup = work.inputs.setup
    fill = setup.fill_m3
    made: list[Figure] = []
    electric = isinstance(work.inputs.bike.engine, Electric)
    no_fuel = [f"chassis.{end}.race_sag_{level}" for end in ("front", "rear") for level in ("full", "empty")]
    no_fuel += [f"chassis.axle_load.{end}_{level}" for end in ("front", "rear") for level in ("half", "empty")]
    if electric:
        made += [figure(name, None, status="not_applicable", reason="pack_keeps_mass") for name in no_fuel]
    loads_from = ("bike.frame.mass_dry_kg", "bike.frame.front_share", "riders.entry.mass_in_gear_kg", "bike.frame.fuel_front_share")
    scales = work.loads.weighed.used
    calibrated = "calibrated" if work.springs.offsets.used or scales else "computed"
    for suffix, fuel in (("", fill), ("_half", 0.5 * fill), ("_empty", 0.0))[: 1 if electric else 3]:
        loads = work.stand.loads(fuel, share_offset=work.springs.offsets.mean[2])
        sd = 1.645 * work.inputs.rider.mass_in_gear_kg * float(np.sqrt(work.springs.offsets.covariance[2][2]))
        for end, value in (("front", loads.front_kg), ("rear", loads.rear_kg)):
            made.append(figure(f"chassis.axle_load.{end}{suffix}", value, half=sd, basis=calibrated, inputs=loads_from,
                               readings=(*scales, *work.springs.offsets.used), formula="bike share + fuel share + rider share by posture + what rides along",
                               source="statics; rider's share: assumption until weighed"))  # fmt: skip
    for end in ("front", "rear"):
        rate_path, preload_path = f"setup.{RATE_FIELD[end]}", f"setup.{PRELOAD_FIELD[end]}"
        race_kg, free_kg = work.stand.sprung(end)
        formula = "rate (x + preload) + air force = sprung mass g cos(rake)" if end == "front" else "ratio' x rate (stroke + preload) = sprung mass g"
        for state, race, fuel in (
            ("free_sag", False, 0.5 * fill),
            ("race_sag", True, 0.5 * fill),
            ("race_sag_full", True, fill),
            ("race_sag_empty", True, 0.0),
        )[: 2 if electric else 4]:
            value, half = work.stand.sag(end, race=race, fuel_m3=fuel)
            made.append(
                figure(f"chassis.{end}.{state}", value, low=max(value - half, 0.0), high=value + half, basis=calibrated, formula=formula,
                       steps=(step("sprung mass", race_kg if race else free_kg, "kg", "axle load - unsprung mass, half the fill"),
                              step("preload offset", work.springs.offsets.mean[PRELOAD[end]], "m", "learned from sag readings")),
                       inputs=(rate_path, preload_path, *loads_from), readings=work.springs.offsets.used, source=SAG_SOURCE))  # fmt: skip
        made += _wanted_figures(work, end, calibrated, loads_from)
    made.append(
        figure("chassis.cg_height", work.loads.cg_height_m(setup, work.inputs.rider), half=0.03 if work.loads.weighed.cg_height_m else 0.06,
               basis="calibrated" if work.loads.weighed.cg_height_m else "assumed", inputs=("bike.frame.cg_height_m",), readings=scales,
               formula="(load - level load) L / (m tan) above the axles; rider and what rides along by their masses",
               source="tilted weighing, Cossalter 2006, 3.2; rider's own height by posture: assumption"))  # fmt: skip
    return made


def _wanted_figures(work: Upstream, end: str, calibrated: str, loads_from: tuple[str, ...]) -> list[Figure]:
    """What the springs should be, how far to turn, and what they truly are."""
    setup, frame, readings = work.inputs.setup, work.inputs.bike.frame, work.springs.offsets.used
    part, place = "fork" if end == "front" else "shock", work.springs.rate_place(end, setup)
    names = {n: f"chassis.{end}.{n}" for n in ("spring_rate_wanted", "preload_wanted", "preload_turns", "rate_true", "friction_band")}
    friction = figure(names["friction_band"], work.springs.friction_m(end, setup), formula="half of how far apart it settles from above and below",
                      basis="measured" if any(isinstance(r, SagReading) and r.end == end and r.apart_m is not None for r in work.live_readings) else "assumed",
                      inputs=(f"bike.frame.{part}_friction_n",), source="the sag clinic measures it")  # fmt: skip
    if on_air(work, end):
        none = [figure(n, None, status="not_applicable", reason="fork_on_air") for k, n in names.items() if k != "friction_band"]
        main, balance = pressures_wanted(work)
        source = "Boyle's law at rest, two chambers, two sags: two linear equations"
        has = balance is not None
        return [friction, *none, figure("chassis.front.air_pressure_wanted", main, formula="race load", inputs=loads_from, source=source),
                figure("chassis.front.balance_pressure_wanted", balance, formula="race and free load", source=source,
                       status="ok" if has else "not_applicable", reason="" if has else "no_balance_chamber")]  # fmt: skip
    (rate, preload), (rate_low, rate_high) = wanted(work, end), _wanted_ends(work, end)
    pitch = frame.fork_preload_pitch_m if end == "front" else frame.shock_preload_pitch_m
    now, (low, high) = getattr(setup, PRELOAD_FIELD[end]), preloads_for(work, end, getattr(setup, RATE_FIELD[end]))
    turns = None if pitch is None else 0.0 if low - BAND_EDGE_M <= now <= high + BAND_EDGE_M else (preload_with(work, end) - now) / pitch
    true = getattr(setup, RATE_FIELD[end]) * float(np.exp(work.springs.offsets.mean[place]))
    half = 1.645 * true * float(np.sqrt(work.springs.offsets.covariance[place][place]))
    made = [
        friction,
        figure(names["spring_rate_wanted"], rate, low=rate_low, high=rate_high, basis=calibrated,
               formula="middle of the rates sold that meet both bands with a preload that exists", inputs=loads_from, readings=readings, source=SAG_SOURCE,
               steps=tuple(step(name, value, "N/m", words) for name, value, words in zip(
                   ("softest", "stiffest"), span(work, end), ("that meets both bands", "that meets both bands"), strict=True))),
        figure(names["preload_wanted"], preload, basis=calibrated, formula="middle of the preloads that meet both bands at that rate", inputs=loads_from,
               readings=readings, source=SAG_SOURCE),
        figure(names["preload_turns"], turns, basis=calibrated, formula="(preload that suits this spring - preload) / thread pitch; 0 within both bands",
               inputs=(f"bike.frame.{part}_preload_pitch_m", f"setup.{PRELOAD_FIELD[end]}"), source="thread pitch as read"),
        figure(names["rate_true"], true, half=half, basis=calibrated, formula="stamped rate x what the sags say of it", readings=readings,
               inputs=(f"setup.{RATE_FIELD[end]}",), source="springs are made within about 3 % (common practice, no source)"),
    ]  # fmt: skip
    if end == "front":
        made += [
            figure(f"chassis.front.{n}", None, status="not_applicable", reason="fork_on_coils") for n in ("air_pressure_wanted", "balance_pressure_wanted")
        ]
    return made


def _proposals(work: Upstream, end: str) -> tuple[tuple[Move, ...], ...]:
    """At most two: with the present spring, else from the box, else the smallest purchase; another spring only once a sag of this end was measured."""
    setup = work.inputs.setup
    if on_air(work, end):
        return _air_proposals(work)
    rate_field, preload_field = RATE_FIELD[end], PRELOAD_FIELD[end]
    now = getattr(setup, rate_field)
    middle, measured = wanted(work, end)[0], measured_sag(work, end)
    choices = [c for c in spring_choices(work, end) if measured or abs(c.rate_n_per_m - now) <= 1.0]
    ranked = sorted(choices, key=lambda c: (abs(c.rate_n_per_m - now) > 1.0, not c.owned, abs(c.rate_n_per_m - middle)))
    made = []
    for option in ranked[:2]:
        moves = []
        if abs(option.rate_n_per_m - now) > 1.0:
            moves.append(Move(tunable=rate_field, value=option.rate_n_per_m, owned=option.owned))
        if not option.preload_low_m - 1e-6 <= getattr(setup, preload_field) <= option.preload_high_m + 1e-6 or moves:
            moves.append(Move(tunable=preload_field, value=option.preload_m))
        if moves:
            made.append(tuple(moves))
        if abs(option.rate_n_per_m - now) <= 1.0:
            break
    return tuple(made)


def _air_proposals(work: Upstream) -> tuple[tuple[Move, ...], ...]:
    """Pressures of an air-sprung fork, in the steps of a pump's gauge."""
    moves = []
    for tunable, value in zip(("fork_air_pressure_pa", "fork_balance_pressure_pa"), pressures_wanted(work), strict=True):
        facts = field_facts(Setup, tunable)
        if value is not None and (facts.low or 0.0) <= value <= (facts.high or 0.0):
            step_pa = DETENTS[tunable].step
            moves.append(Move(tunable=tunable, value=round(value / step_pa) * step_pa))
    return (tuple(moves),) if moves else ()


def _verdict(work: Upstream, end: str, known: dict[str, Figure]) -> tuple[str, Severity]:
    """Code and severity for one end."""
    t = work.springs.targets(end)
    race, free = known[f"chassis.{end}.race_sag"], known[f"chassis.{end}.free_sag"]
    assert race.value is not None
    assert free.value is not None
    off = max(t.race_low_m - race.value, race.value - t.race_high_m, 0.0)
    free_off = max(t.free_low_m - free.value, free.value - t.free_high_m, 0.0)
    if off < BAND_EDGE_M and free_off < BAND_EDGE_M:
        return "sag_right", "ok"
    now = getattr(work.inputs.setup, RATE_FIELD[end])
    severity: Severity = "act" if off > RACE_SAG_ACT_M and measured_sag(work, end) else "look"
    if on_air(work, end):
        return "fork_air_off", severity
    low, high = preloads_for(work, end, now)
    if low <= high:
        return "preload_off", severity
    return ("spring_soft" if now < span(work, end)[0] else "spring_stiff"), severity


def _load_aboard(work: Upstream) -> list[Finding]:
    """A load that rides along at both sags cancels out of their difference: it asks for spring by the reserve it takes."""
    setup, payload = work.inputs.setup, work.inputs.bike.frame.payload
    if (setup.payload_left or 0) >= len(payload):
        return []
    bare, half, offset, found = setup.model_copy(update={"payload_left": len(payload)}), 0.5 * setup.fill_m3, work.springs.offsets.mean[SHARE], []
    for end in ("rear", "front"):
        kg = [work.springs.sprung(end, s, work.inputs.rider, half, offset) for s in (setup, bare)]
        fork, shock = work.springs.fork(setup, work.springs.offsets.mean), work.springs.shock(setup, work.springs.offsets.mean)
        drops = [ride_quality.front_bottoming_drop(fork, m) if end == "front" else ride_quality.rear_bottoming_drop(shock, m) for m in kg]
        if drops[0] >= (1.0 - LOAD_DROP_SHARE) * drops[1] or on_air(work, end):
            continue
        rate, field = getattr(setup, RATE_FIELD[end]), RATE_FIELD[end]
        stiffer = min((r for r in sold_rates(work, end) if r > rate + 1.0), key=lambda r: abs(r - rate * kg[0] / kg[1]), default=None)
        told = (
            ()
            if stiffer is None or not measured_sag(work, end)
            else ((Move(tunable=field, value=stiffer, owned=is_owned(work.inputs.parts, field, stiffer)),),)
        )
        found.append(Finding(station="chassis", code="load_wants_spring", severity="look", figures=(f"chassis.{end}.bottoming_drop",), proposals=told,
                             parameters={"end": end, "with_drop_m": drops[0], "without_drop_m": drops[1], "load_kg": kg[0] - kg[1],
                                         "first": "" if measured_sag(work, end) else "measure_sag_first"}))  # fmt: skip
    return found


def _findings(work: Upstream, known: dict[str, Figure]) -> list[Finding]:
    found = []
    for end in ("rear", "front"):
        code, severity = _verdict(work, end, known)
        softest, stiffest = span(work, end)
        rates: dict[str, float | str] = {"softest_rate": softest, "stiffest_rate": stiffest} if code.startswith("spring_") else {}
        found.append(
            Finding(station="chassis", code=code, severity=severity,
                    parameters={"end": end, "measured": "yes" if measured_sag(work, end) else "no",
                                "first": "" if measured_sag(work, end) else "measure_sag_first", **rates},
                    figures=(f"chassis.{end}.race_sag", f"chassis.{end}.free_sag",
                             "chassis.front.air_pressure_wanted" if on_air(work, end) else f"chassis.{end}.spring_rate_wanted"),
                    proposals=() if severity == "ok" else _proposals(work, end)))  # fmt: skip
    found += _load_aboard(work)
    frame, gap = work.inputs.bike.frame, oil_gap(work.inputs.bike.frame, work.inputs.setup)
    if not frame.fork_oil_least_m - 1e-9 <= gap <= frame.fork_oil_most_m + 1e-9:
        severity = "act" if gap < frame.fork_oil_least_m else "look"
        found.append(Finding(station="chassis", code="oil_beyond", severity=severity, figures=("chassis.front.bottoming_drop",),
                             parameters={"gap_travel_m": gap, "least_travel_m": frame.fork_oil_least_m, "most_travel_m": frame.fork_oil_most_m}))  # fmt: skip
    if isinstance(work.inputs.bike.engine, Electric):
        return found
    full, empty = known["chassis.rear.race_sag_full"].value or 0.0, known["chassis.rear.race_sag_empty"].value or 0.0
    found.append(Finding(station="chassis", code="fuel_moves_sag", severity="ok", parameters={"change_m": full - empty},
                         figures=("chassis.rear.race_sag_full", "chassis.rear.race_sag_empty")))  # fmt: skip
    return found


def bands(work: Upstream) -> dict[str, tuple[float, float]]:
    """The bands [m] in which sag figures should lie."""
    return {
        f"chassis.{end}.{state}": (t.free_low_m, t.free_high_m) if state == "free_sag" else (t.race_low_m, t.race_high_m)
        for end in ("front", "rear")
        for t in (work.springs.targets(end),)
        for state in ("free_sag", "race_sag")
    }
