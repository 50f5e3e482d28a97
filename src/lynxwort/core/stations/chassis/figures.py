"""Figures of Chassis: loads, sags, springs."""

import numpy as np

from lynxwort.core.figures import figure, step
from lynxwort.core.learned.sag import PRELOAD, SHARE
from lynxwort.core.model.bike import Electric
from lynxwort.core.model.defaults import (
    LINK_LOG_SD,
    LINK_TABLE_LOG_SD,
    REAR_SHARE_OF_RIDER,
    RIDER_MASS_LOG_SD,
    WEIGHT_OF_KIND_LOG_SD,
    Z90,
)
from lynxwort.core.model.readings import SagReading
from lynxwort.core.report import Figure
from lynxwort.core.stations.chassis import attitude
from lynxwort.core.stations.chassis.input import ChassisInput
from lynxwort.core.stations.chassis.springs import (
    BAND_EDGE_M,
    PRELOAD_FIELD,
    RATE_FIELD,
    on_air,
    preload_with,
    preloads_for,
    pressures_wanted,
    span,
    wanted,
)

SAG_SOURCE = "free-body balance at rest, Boyle's law for the trapped air; bands: common practice, no source"


#: states a bike sags in, and whether the rider is aboard
STATES = {"free_sag": False, "race_sag": True, "race_sag_full": True, "race_sag_empty": True}
LOADS_FROM = (
    "bike.frame.mass_dry_kg",
    "bike.frame.front_share",
    "riders.entry.mass_in_gear_kg",
    "bike.frame.fuel_front_share",
)


def figures(given: ChassisInput) -> list[Figure]:
    """Loads, sags and springs, then how the bike stands."""
    return [*_springs(given), *attitude.figures(given)]


def some(given: ChassisInput, names: frozenset[str]) -> list[Figure]:
    """These figures at least, sags without their range: those of an end alone, or how the bike stands alone, where no
    more is asked for.
    """
    made = [
        f
        for end in ("front", "rear")
        if not names.isdisjoint(f"chassis.{end}.{state}" for state in STATES)
        for f in _sags(given, end, ranged=False)
    ]
    if names - {f.id for f in made}:
        made += attitude.figures(given)
    return figures(given) if names - {f.id for f in made} else made


def _sags(given: ChassisInput, end: str, *, ranged: bool = True) -> list[Figure]:
    fill, electric = given.setup.fill_m3, isinstance(given.bike.engine, Electric)
    fuels = {"race_sag_full": fill, "race_sag_empty": 0.0}
    race_kg, free_kg = given.loaded.sprung(end)
    formula = (
        "rate (x + preload) + air force = sprung mass g cos(rake)"
        if end == "front"
        else "ratio' x rate (stroke + preload) = sprung mass g"
    )
    made = []
    for state, race in STATES.items():
        if electric and state in fuels:
            made.append(figure(f"chassis.{end}.{state}", None, status="not_applicable", reason="pack_keeps_mass"))
            continue
        fuel = fuels.get(state, 0.5 * fill)
        value = given.loaded.sag_m(end, race=race, fuel_m3=fuel)
        half = given.loaded.sag(end, race=race, fuel_m3=fuel)[1] if ranged else None
        made.append(
            figure(
                f"chassis.{end}.{state}",
                value,
                low=None if half is None else max(value - half, 0.0),
                high=None if half is None else value + half,
                basis=_basis(given),
                formula=formula,
                steps=(
                    step("sprung mass", race_kg if race else free_kg, "kg", "axle load - unsprung mass, half the fill"),
                    step("preload offset", given.springs.offsets.mean[PRELOAD[end]], "m", "learned from sag readings"),
                ),
                inputs=(f"setup.{RATE_FIELD[end]}", f"setup.{PRELOAD_FIELD[end]}", *LOADS_FROM),
                readings=given.springs.offsets.used,
                source=SAG_SOURCE,
            )
        )
    return made


def _basis(given: ChassisInput) -> str:
    return "calibrated" if given.springs.offsets.used or given.loads.weighed.used else "computed"


def _wanted_ends(given: ChassisInput, end: str) -> tuple[float, float]:
    """Ends of the wanted rate [N/m]: of its span, widened by 90 % of what the rider's share and mass and the linkage
    may lie off.
    """
    offset = given.springs.offsets
    share = REAR_SHARE_OF_RIDER[given.rider.posture] + offset.mean[SHARE]
    mine = share if end == "rear" else 1.0 - share
    link = 0.0 if end == "front" else 2.0 * (LINK_TABLE_LOG_SD if given.bike.frame.linkage else LINK_LOG_SD)
    sd = float(np.sqrt(offset.covariance[SHARE][SHARE] / mine**2 + RIDER_MASS_LOG_SD**2 + link**2))
    low, high = span(given, end)
    return low * float(np.exp(-Z90 * sd)), high * float(np.exp(Z90 * sd))


def _springs(given: ChassisInput) -> list[Figure]:
    setup = given.setup
    fill = setup.fill_m3
    made: list[Figure] = []
    electric = isinstance(given.bike.engine, Electric)
    if electric:
        made += [
            figure(f"chassis.axle_load.{end}_{level}", None, status="not_applicable", reason="pack_keeps_mass")
            for end in ("front", "rear")
            for level in ("half", "empty")
        ]
    scales = given.loads.weighed.used
    calibrated = _basis(given)
    for suffix, fuel in (("", fill), ("_half", 0.5 * fill), ("_empty", 0.0))[: 1 if electric else 3]:
        loads = given.loaded.loads(fuel, share_offset=given.springs.offsets.mean[2])
        seat = given.rider.mass_in_gear_kg * float(np.sqrt(given.springs.offsets.covariance[2][2]))
        # a weight that is only as such bikes have it lies off at both wheels alike
        weight = 0.5 * given.loads.frame.mass_dry_kg * (WEIGHT_OF_KIND_LOG_SD if given.loads.weight_of_kind else 0.0)
        sd = 1.645 * float(np.hypot(seat, weight))
        for end, value in (("front", loads.front_kg), ("rear", loads.rear_kg)):
            made.append(
                figure(
                    f"chassis.axle_load.{end}{suffix}",
                    value,
                    half=sd,
                    basis=calibrated,
                    inputs=LOADS_FROM,
                    readings=(*scales, *given.springs.offsets.used),
                    formula="bike share + fuel share + rider share by posture + what rides along",
                    source="statics; rider's share: assumption until weighed",
                )
            )
    for end in ("front", "rear"):
        made += _sags(given, end)
        made += _wanted_figures(given, end, calibrated)
    made.append(
        figure(
            "chassis.cg_height",
            given.loads.cg_height_m(setup, given.rider),
            half=0.03 if given.loads.weighed.cg_height_m else 0.06,
            basis="calibrated" if given.loads.weighed.cg_height_m else "assumed",
            inputs=("bike.frame.cg_height_m",),
            readings=scales,
            formula="(load - level load) L / (m tan) above the axles; rider and what rides along by their masses",
            source="tilted weighing, Cossalter 2006, 3.2; rider's own height by posture: assumption",
        )
    )
    return made


def _wanted_figures(given: ChassisInput, end: str, calibrated: str) -> list[Figure]:
    """What the springs should be, how far to turn, and what they truly are."""
    setup, frame, readings = given.setup, given.bike.frame, given.springs.offsets.used
    part, place = "fork" if end == "front" else "shock", given.springs.rate_place(end, setup)
    names = {
        n: f"chassis.{end}.{n}"
        for n in ("spring_rate_wanted", "preload_wanted", "preload_turns", "rate_true", "friction_band")
    }
    friction = figure(
        names["friction_band"],
        given.springs.friction_m(end, setup),
        formula="half of how far apart it settles from above and below",
        basis="measured"
        if any(isinstance(r, SagReading) and r.end == end and r.apart_m is not None for r in given.readings)
        else "assumed",
        inputs=(f"bike.frame.{part}_friction_n",),
        source="the sag clinic measures it",
    )
    if on_air(given, end):
        none = [
            figure(n, None, status="not_applicable", reason="fork_on_air")
            for k, n in names.items()
            if k != "friction_band"
        ]
        main, balance = pressures_wanted(given)
        source = "Boyle's law at rest, two chambers, two sags: two linear equations"
        has = balance is not None
        return [
            friction,
            *none,
            figure("chassis.front.air_pressure_wanted", main, formula="race load", inputs=LOADS_FROM, source=source),
            figure(
                "chassis.front.balance_pressure_wanted",
                balance,
                formula="race and free load",
                source=source,
                status="ok" if has else "not_applicable",
                reason="" if has else "no_balance_chamber",
            ),
        ]
    (rate, preload), (rate_low, rate_high) = wanted(given, end), _wanted_ends(given, end)
    pitch = frame.fork_preload_pitch_m if end == "front" else frame.shock_preload_pitch_m
    now, (low, high) = getattr(setup, PRELOAD_FIELD[end]), preloads_for(given, end, getattr(setup, RATE_FIELD[end]))
    turns = (
        None
        if pitch is None
        else 0.0
        if low - BAND_EDGE_M <= now <= high + BAND_EDGE_M
        else (preload_with(given, end) - now) / pitch
    )
    true = getattr(setup, RATE_FIELD[end]) * float(np.exp(given.springs.offsets.mean[place]))
    half = 1.645 * true * float(np.sqrt(given.springs.offsets.covariance[place][place]))
    made = [
        friction,
        figure(
            names["spring_rate_wanted"],
            rate,
            low=rate_low,
            high=rate_high,
            basis=calibrated,
            formula="middle of the rates sold that meet both bands with a preload that exists",
            inputs=LOADS_FROM,
            readings=readings,
            source=SAG_SOURCE,
            steps=tuple(
                step(name, value, "N/m", words)
                for name, value, words in zip(
                    ("softest", "stiffest"),
                    span(given, end),
                    ("that meets both bands", "that meets both bands"),
                    strict=True,
                )
            ),
        ),
        figure(
            names["preload_wanted"],
            preload,
            basis=calibrated,
            formula="middle of the preloads that meet both bands at that rate",
            inputs=LOADS_FROM,
            readings=readings,
            source=SAG_SOURCE,
        ),
        figure(
            names["preload_turns"],
            turns,
            basis=calibrated,
            formula="(preload that suits this spring - preload) / thread pitch; 0 within both bands",
            inputs=(f"bike.frame.{part}_preload_pitch_m", f"setup.{PRELOAD_FIELD[end]}"),
            source="thread pitch as read",
        ),
        figure(
            names["rate_true"],
            true,
            half=half,
            basis=calibrated,
            formula="stamped rate x what the sags say of it",
            readings=readings,
            inputs=(f"setup.{RATE_FIELD[end]}",),
            source="springs are made within about 3 % (common practice, no source)",
        ),
    ]
    if end == "front":
        made += [
            figure(f"chassis.front.{n}", None, status="not_applicable", reason="fork_on_coils")
            for n in ("air_pressure_wanted", "balance_pressure_wanted")
        ]
    return made
