"""What Fuelling says of its figures, lean side first."""

from collections.abc import Callable
from typing import Any

from lynxwort.core.model.bike import Engine, Injected, Jetted
from lynxwort.core.model.fitted import oil_way
from lynxwort.core.model.readings import FeelReading
from lynxwort.core.physics.fuelling.fuels import fuel_of
from lynxwort.core.physics.fuelling.leanness import LOWER, UPPER
from lynxwort.core.physics.fuelling.window import COLDEST_K
from lynxwort.core.report import Finding
from lynxwort.core.stations.fuelling.candidates import leaner, lower_groups, rich_severity, richer
from lynxwort.core.stations.fuelling.figures import MARGINS, WANTED, WHOLE
from lynxwort.core.stations.fuelling.input import FuellingInput
from lynxwort.core.stations.fuelling.leanness import (
    TURNS_HIGH,
    TURNS_LOW,
    ends_of,
    far_from_proven,
    lean_of,
    limits_of,
    part_that_rules,
    worst,
)
from lynxwort.core.stations.fuelling.window import day_pressures
from lynxwort.core.stations.station import Known
from lynxwort.core.tunables import current_value

EPSILON = 1e-9
#: octane numbers in hand, upper end, below which it is to look at, and to act on; flow in hand wanted over full
#: throttle; float height off [m] (assumption)
KNOCK_LOOK, KNOCK_ACT, FLOW_LOOK, FLOAT_OFF_M = 0.0, -2.0, 0.25, 0.001
#: remaining error of a map to look at [1] (assumption)
TRIM_LOOK = 0.02


def findings(given: FuellingInput, known: Known) -> list[Finding]:
    metering = given.metering
    if metering == "electric":
        return [
            Finding(
                station="fuelling", code="nothing_to_meter", severity="ok", figures=("fuelling.longest_full_throttle",)
            )
        ]
    if given.mixture.good is None:
        return [
            Finding(
                station="fuelling",
                code=f"no_proven_{metering}",
                severity="unknown",
                figures=("fuelling.richness_full_densest",),
            ),
            *_beside_findings(given, known),
        ]
    return [
        *_lean_findings(given),
        *_rich_findings(given, known),
        *_far_findings(given),
        *_beside_findings(given, known),
    ]


def _lean_findings(given: FuellingInput) -> list[Finding]:
    """Half and full lift as a pair; each part below half lift that runs some ranges lean; or that all is safe."""
    metering, limits, ends = given.metering, limits_of(given), ends_of(given)
    tunable = WHOLE[metering]
    said: dict[str, float | str] = {"jet": current_value(given.setup, tunable)} if metering == "jetted" else {}
    risk = {"risk": "risk_two_stroke" if given.two_stroke else "risk_four_stroke"}
    upper = worst(ends, limits, UPPER)
    lean, found = lean_of(given, LOWER), list[Finding]()
    figures_of = ("fuelling.lean_margin_min", "fuelling.richness_full_densest", WANTED[tunable])
    if upper != "ok":
        # one knob or trim moves the whole, so one finding says it all
        names = UPPER if metering == "jetted" else (*UPPER, *(r.name for r in lean))
        upper, lean = worst(ends, limits, names), lean if metering == "jetted" else []
        moves, leaves = richer(given, names)
        at = min((r for r in limits if r.name in UPPER), key=lambda r: ends[r.name] - r.limit)
        found.append(
            Finding(
                station="fuelling",
                code=f"too_lean_{metering}",
                severity=upper,
                figures=(*figures_of, *(MARGINS[n] for n in names)),
                parameters={**said, **risk, "part": f"part_{part_that_rules(given, at)}"},
                proposals=tuple(moves),
                leaves=tuple(leaves),
            )
        )
    elif not lean:
        found.append(
            Finding(
                station="fuelling",
                code=f"lean_side_safe_{metering}",
                severity="ok",
                figures=(*figures_of, *MARGINS.values()),
                parameters=said,
            )
        )
    for part, ranges in lower_groups(given, lean):
        names = tuple(r.name for r in ranges)
        leanest = min(ranges, key=lambda r: ends[r.name] - r.limit)
        moves, leaves = richer(given, names)
        found.append(
            Finding(
                station="fuelling",
                code="lean_below_half",
                severity=worst(ends, limits, names),
                figures=tuple(MARGINS[n] for n in names),
                parameters={
                    **risk,
                    "part": f"part_{part}",
                    "range": f"between_{ranges[0].name}_{ranges[-1].name}",
                    "lean_richness": ends[leanest.name] - leanest.limit,
                },
                proposals=tuple(moves),
                leaves=tuple(leaves),
            )
        )
    return found


def _rich_findings(given: FuellingInput, known: Known) -> list[Finding]:
    rich = known["fuelling.richness_full_thinnest"].value
    assert rich is not None
    severity = rich_severity(rich)
    if severity == "ok":
        return []
    moves, leaves = leaner(given)
    return [
        Finding(
            station="fuelling",
            code="rich_high_up",
            severity=severity,
            figures=("fuelling.richness_full_thinnest", "fuelling.lean_margin_min"),
            proposals=tuple(moves),
            leaves=tuple(leaves),
        )
    ]


def _far_findings(given: FuellingInput) -> list[Finding]:
    """What stands far from what ran right, and a screw that says another pilot jet is wanted."""
    found = [
        Finding(
            station="fuelling",
            code="far_from_proven",
            severity="look",
            figures=("fuelling.richness_full_densest",),
            parameters={"tunable": f"far_{tunable}", "value": value, "nearest": round(nearest, 1)},
        )
        for tunable, value, nearest in far_from_proven(given)
    ]
    turns = given.setup.screw_turns
    if isinstance(given.engine, Jetted) and turns is not None and not TURNS_LOW - 1e-9 <= turns <= TURNS_HIGH + 1e-9:
        found.append(
            Finding(
                station="fuelling",
                code="screw_at_its_end",
                severity="look",
                figures=("fuelling.lean_margin.closed", "fuelling.pilot.wanted"),
                parameters={"turns": turns},
            )
        )
    return found


def _hardware(engine: Engine, add: Callable[..., None]) -> None:
    """What of carburettor or injection is not measured, not said, or off."""
    if isinstance(engine, Jetted):
        if engine.carburettor.needle is None:
            add("needle_unmeasured", "ok", "richness_full_densest")
        measured, right = engine.carburettor.float_height_m, engine.carburettor.float_height_right_m
        if measured is not None and right is not None and abs(measured - right) > FLOAT_OFF_M:
            add("float_off", "look", "richness_full_densest", off_bore_m=abs(measured - right))
    if isinstance(engine, Injected) and engine.injection.sensors is None:
        add("sensors_unasked", "unknown", "richness_full_thinnest")


def _beside_findings(given: FuellingInput, known: Known) -> list[Finding]:
    """What is not measured, detonation, flow, window, the map's error, what was felt."""
    engine, setup, found = given.engine, given.setup, list[Finding]()

    def add(code: str, severity: Any, *names: str, **parameters: float | str) -> None:
        found.append(
            Finding(
                station="fuelling",
                code=code,
                severity=severity,
                figures=tuple(f"fuelling.{n}" for n in names),
                parameters=parameters,
            )
        )

    def value(name: str) -> float | None:
        return known[f"fuelling.{name}"].value

    _hardware(engine, add)
    if oil_way(engine, setup) == "unsaid":
        add("lubrication_unasked", "look", "oil_per_fill")
    knock, flow, left = known["fuelling.detonation_margin"], value("flow_margin"), value("trim_rms")
    if knock.value is not None and (knock.high or 0.0) < KNOCK_LOOK - EPSILON:
        add("detonation_near", "act" if (knock.high or 0.0) < KNOCK_ACT else "look", "detonation_margin")
    if flow is not None and flow < FLOW_LOOK:
        add("flow_short", "act" if flow < 0.0 else "look", "flow_margin")
    coldest = value("window.temperature_low")
    if coldest is not None and coldest > COLDEST_K + 0.1 and given.mixture.good is not None:
        add("window", "ok", "window.temperature_low", pressure_high=day_pressures(given)[2])
    if left is not None:
        add("map_off" if left > TRIM_LOOK else "map_on_target", "look" if left > TRIM_LOOK else "ok", "trim_rms")
    feels = [r for r in given.readings if isinstance(r, FeelReading)]
    if feels:
        add("felt", "look", "richness_full_densest", what=feels[-1].symptom)
    if setup.fuel in (6, 7):
        add("fuel_care", "look", "richness_full_densest", what=fuel_of(setup.fuel).name)
    return found
