"""Twelve kinds of bike, so that one of which little is known can be set up at once: what such a bike usually has.

All values from memory: the middle of what such bikes are, nobody's model. What is taken from here stays marked as
assumed (`Bike.assumed`, `ChassisSetup.assumed`) until its owner says it. Springs are those that stand a rider of 80 kg
at the usual sags.
"""

from collections.abc import Iterator, Mapping
from copy import deepcopy
from dataclasses import dataclass
from math import radians
from typing import Any, Literal

PatternKey = Literal[
    "two_stroke_125",
    "two_stroke_250",
    "two_stroke_300",
    "four_stroke_250",
    "four_stroke_350",
    "four_stroke_450",
    "four_stroke_500",
    "four_stroke_650",
    "trail_aircooled",
    "trail_road_legal",
    "electric_light",
    "electric_full",
]
#: a setup's fields that a pattern can stand in for
SetupAssumed = Literal["fork_spring_rate_n_per_m", "shock_spring_rate_n_per_m"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Pattern:
    """What such a bike usually has. engines: kinds it comes with, the usual first; bike, setup: their documents [SI],
    without engine kind and name.
    """

    engines: tuple[str, ...]
    bike: dict[str, Any]
    setup: dict[str, Any]

    @property
    def facts(self) -> dict[str, Any]:
        """What it says of the bike, by dotted path."""
        return dict(flat(self.bike))


def flat(document: Mapping[str, Any], prefix: str = "") -> Iterator[tuple[str, Any]]:
    """The values of a nested document with their dotted paths."""
    for key, value in document.items():
        if isinstance(value, Mapping):
            yield from flat(value, f"{prefix}{key}.")
        else:
            yield f"{prefix}{key}", value


TWO_STROKE = ("jetted_two_stroke", "injected_two_stroke", "rod_two_stroke")
FOUR_STROKE = ("injected_four_stroke", "jetted_four_stroke", "rod_four_stroke")
OLD_FOUR_STROKE = ("jetted_four_stroke", "rod_four_stroke", "injected_four_stroke")
#: where what is carried sits until it is put in its place: behind the seat [m], assumption
CARRIED_AT = {"ahead_m": 0.10, "height_m": 0.95}
#: a full-size competition bike; what is left out is the model's own default
FULL = {"wheelbase_m": 1.48, "seat_height_m": 0.96}
#: a travel bike's frame, heavier and lower
LARGE = {
    "wheelbase_m": 1.49, "rake_rad": radians(27.5), "fork_travel_m": 0.27, "rear_travel_m": 0.265,
    "link_ratio_start": 2.7, "link_ratio_end": 2.3, "seat_height_m": 0.91, "ground_clearance_m": 0.285,
    "peg_height_m": 0.385, "bar_height_m": 1.17, "axle_below_pivot_m": 0.13, "unsprung_front_kg": 15.0,
    "unsprung_rear_kg": 21.0, "drag_area_m2": 0.64, "cg_height_m": 0.88,
}  # fmt: skip
#: a small trail bike's frame: short travel, low seat
SMALL = {
    "wheelbase_m": 1.36, "rake_rad": radians(28.0), "fork_travel_m": 0.215, "rear_travel_m": 0.19,
    "link_ratio_start": 2.1, "link_ratio_end": 1.9, "seat_height_m": 0.84, "ground_clearance_m": 0.27,
    "peg_height_m": 0.365, "peg_ahead_m": 0.52, "bar_height_m": 1.10, "bar_ahead_m": 0.93, "swingarm_length_m": 0.52,
    "axle_below_pivot_m": 0.10, "unsprung_front_kg": 12.0, "unsprung_rear_kg": 16.0, "fork_air_diameter_m": 0.036,
    "cg_height_m": 0.86, "front_tyre": "80/100-21",
}  # fmt: skip
#: an electric bike built like a heavy bicycle
LIGHT = {
    "wheelbase_m": 1.27, "rake_rad": radians(25.0), "fork_travel_m": 0.20, "rear_travel_m": 0.20,
    "link_ratio_start": 2.5, "link_ratio_end": 2.2, "seat_height_m": 0.83, "ground_clearance_m": 0.27,
    "peg_height_m": 0.34, "peg_ahead_m": 0.48, "bar_height_m": 1.04, "bar_ahead_m": 0.88, "swingarm_length_m": 0.46,
    "axle_below_pivot_m": 0.10, "unsprung_front_kg": 7.0, "unsprung_rear_kg": 9.0, "fork_air_diameter_m": 0.032,
    "cg_height_m": 0.90, "front_tyre": "70/100-19", "drag_area_m2": 0.55,
}  # fmt: skip
CLOSE = [2.31, 1.75, 1.41, 1.19, 1.05, 0.96]
WIDE = [2.20, 1.65, 1.31, 1.08, 0.93, 0.81]


def _burning(
    engines: tuple[str, ...],
    frame: dict[str, Any],
    *,
    cc: float,
    power: tuple[float, float],
    gears: tuple[float, list[float]],
    kg: float,
    springs: tuple[float, float],
    sprockets: tuple[int, int],
    tank: float,
    tyre: str = "140/80-18",
    idle: float = 1600.0,
) -> Pattern:
    """A bike that burns fuel. cc [cm3]; power [kW] at [rpm]; gears: primary and each; springs: fork, each leg, and
    shock [N/mm]; tank [L].
    """
    engine = {
        "displacement_m3": cc * 1e-6,
        "peak_power_w": 1000.0 * power[0],
        "peak_power_rpm": power[1],
        "idle_rpm": idle,
    }
    bike = {"transmission": {"primary_ratio": gears[0], "gear_ratios": gears[1]}}
    setup = {"tank_capacity_m3": tank / 1000.0}
    return _pattern(engines, engine, bike, frame, setup, kg=kg, springs=springs, sprockets=sprockets, tyre=tyre)


def _pattern(
    engines: tuple[str, ...],
    engine: dict[str, Any],
    bike: dict[str, Any],
    frame: dict[str, Any],
    setup: dict[str, Any],
    *,
    kg: float,
    springs: tuple[float, float],
    sprockets: tuple[int, int],
    tyre: str,
) -> Pattern:
    """The parts of a pattern put together."""
    return Pattern(
        engines=engines,
        bike=bike | {"engine": engine, "tyre": {"marking": tyre}, "frame": {"mass_dry_kg": kg} | frame},
        setup=setup
        | {
            "front_sprocket_teeth": sprockets[0],
            "rear_sprocket_teeth": sprockets[1],
            "fork_spring_rate_n_per_m": 1000.0 * springs[0],
            "shock_spring_rate_n_per_m": 1000.0 * springs[1],
        },
    )


def _electric(
    frame: dict[str, Any],
    *,
    power: tuple[float, float, float],
    volts: float,
    reduction: float,
    kg: float,
    springs: tuple[float, float],
    sprockets: tuple[int, int],
    pack: float,
    tyre: str,
) -> Pattern:
    """An electric bike. power [kW], torque [N m] and highest motor speed [rpm]; pack [kWh]."""
    joule = 3.6e6 * pack
    engine = {
        "peak_power_w": 1000.0 * power[0],
        "peak_torque_nm": power[1],
        "limiter_rpm": power[2],
        "nominal_voltage_v": volts,
        "weighed_pack_j": joule,
    }
    bike = {"transmission": {"primary_ratio": reduction, "gear_ratios": [1.0]}}
    return _pattern(
        ("electric",),
        engine,
        bike,
        frame,
        {"pack_energy_j": joule},
        kg=kg,
        springs=springs,
        sprockets=sprockets,
        tyre=tyre,
    )


PATTERNS: dict[str, Pattern] = {
    "two_stroke_125": _burning(
        TWO_STROKE, FULL | {"wheelbase_m": 1.46, "seat_height_m": 0.95}, cc=125, power=(25, 11000), gears=(3.35, CLOSE),
        kg=94, springs=(4.0, 47), sprockets=(13, 50), tank=8.5, tyre="120/90-18",
    ),
    "two_stroke_250": _burning(
        TWO_STROKE, FULL, cc=249, power=(36, 8500), gears=(2.86, WIDE), kg=103, springs=(4.2, 49), sprockets=(14, 50),
        tank=9.5,
    ),
    "two_stroke_300": _burning(
        TWO_STROKE, FULL, cc=293, power=(38, 8200), gears=(2.86, WIDE), kg=104, springs=(4.2, 49), sprockets=(14, 50),
        tank=9.5,
    ),
    "four_stroke_250": _burning(
        FOUR_STROKE, FULL, cc=249, power=(30, 10500), gears=(3.05, CLOSE), kg=107, springs=(4.3, 50),
        sprockets=(13, 50), tank=8.5, idle=1900,
    ),
    "four_stroke_350": _burning(
        FOUR_STROKE, FULL, cc=349, power=(34, 10000), gears=(2.90, [2.20, 1.65, 1.32, 1.10, 0.98, 0.88]), kg=109,
        springs=(4.4, 51), sprockets=(14, 50), tank=8.5, idle=1900,
    ),
    "four_stroke_450": _burning(
        FOUR_STROKE, FULL, cc=449, power=(40, 9000), gears=(2.74, [2.14, 1.56, 1.20, 1.00, 0.86, 0.76]), kg=112,
        springs=(4.5, 52), sprockets=(13, 50), tank=8.5, idle=1800,
    ),
    "four_stroke_500": _burning(
        FOUR_STROKE, FULL, cc=510, power=(43, 8500), gears=(2.60, [2.00, 1.50, 1.18, 0.97, 0.83, 0.74]), kg=114,
        springs=(4.6, 53), sprockets=(13, 48), tank=8.5, idle=1700,
    ),
    "four_stroke_650": _burning(
        OLD_FOUR_STROKE, LARGE, cc=644, power=(33, 6500), gears=(2.08, [2.60, 1.65, 1.25, 1.00, 0.84]), kg=150,
        springs=(5.2, 64), sprockets=(15, 45), tank=13, tyre="120/90-18", idle=1400,
    ),
    "trail_aircooled": _burning(
        OLD_FOUR_STROKE, SMALL, cc=199, power=(13, 8500), gears=(3.30, [2.80, 1.85, 1.40, 1.10, 0.92, 0.80]), kg=115,
        springs=(4.6, 46), sprockets=(15, 48), tank=9, tyre="110/80-18", idle=1400,
    ),
    "trail_road_legal": _burning(
        FOUR_STROKE, SMALL, cc=149, power=(11, 8500), gears=(3.10, [2.83, 1.88, 1.42, 1.14, 0.96, 0.85]), kg=122,
        springs=(4.6, 48), sprockets=(14, 48), tank=9, tyre="110/80-18", idle=1500,
    ),
    "electric_light": _electric(
        LIGHT, power=(9, 25, 7500), volts=60, reduction=2.6, kg=58, springs=(3.6, 45), sprockets=(14, 58),
        pack=2.4, tyre="80/100-19",
    ),
    "electric_full": _electric(
        FULL, power=(35, 50, 11500), volts=96, reduction=2.6, kg=113, springs=(4.4, 50), sprockets=(12, 52),
        pack=5.2, tyre="120/90-18",
    ),
}  # fmt: skip


def plant(document: dict[str, Any], path: str, value: Any) -> None:
    """Put a value at a dotted path of a nested document."""
    *parents, last = path.split(".")
    for step in parents:
        document = document.setdefault(step, {})
    document[last] = value


def _has(document: Mapping[str, Any], path: str) -> bool:
    item: Any = document
    for step in path.split("."):
        if not isinstance(item, Mapping) or step not in item:
            return False
        item = item[step]
    return True


def completed(bike: dict[str, Any], pattern: str) -> dict[str, Any]:
    """A bike's document with what its pattern has and it does not say, and marked so; itself without a pattern."""
    if not pattern:
        return {k: v for k, v in bike.items() if k not in ("pattern", "assumed")}
    made, missing = deepcopy(bike), [(p, v) for p, v in PATTERNS[pattern].facts.items() if not _has(bike, p)]
    for path, value in missing:
        plant(made, path, deepcopy(value))
    made["engine"].setdefault("kind", PATTERNS[pattern].engines[0])
    return made | {"pattern": pattern, "assumed": [path for path, _value in missing]}


def first_setup(said: dict[str, Any], pattern: str) -> dict[str, Any]:
    """The document of a bike's first setup: what is said, springs of the pattern where nothing is, and marked so."""
    taken = {name: PATTERNS[pattern].setup[name] for name in SetupAssumed.__args__ if name not in said}  # type: ignore[attr-defined]
    return said | taken | ({"assumed": sorted(taken)} if taken else {})
