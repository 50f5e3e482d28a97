"""The demo: three bikes of no make, riders of no fame, courses nobody has ridden, four races of different formats."""

from collections.abc import Sequence
from functools import cache
from importlib.resources import files
from typing import Any

from lynxwort.core.model.inputs import Inputs, load_inputs
from lynxwort.core.model.track import Track
from lynxwort.core.physics.course.gpx import read_gpx, read_ridden
from lynxwort.core.physics.course.match import clock_along
from lynxwort.core.physics.course.prepare import lay_line

COURSE_KEY = "brackenmere"
COURSES = ("brackenmere", "saltern", "hollowood", "gannach-up", "gannach-col", "gannach-down", "gannach-meadow")

#: ground along each course: borders [m] and the ground between them
GROUND: dict[str, tuple[tuple[float, float, str], ...]] = {
    "brackenmere": (
        (0, 5200, "gravel"),
        (5200, 10400, "single_track"),
        (10400, 13100, "rock"),
        (13100, 19500, "loam"),
        (19500, 23000, "sand"),
        (23000, 29400, "single_track"),
        (29400, 31200, "rock"),
        (31200, 37400, "hardpack"),
        (37400, 39200, "whoops"),
        (39200, 41530, "gravel"),
    ),
    "saltern": (
        (0, 8200, "hardpack"),
        (8200, 11800, "sand"),
        (11800, 13600, "whoops"),
        (13600, 19400, "hardpack"),
        (19400, 23010, "gravel"),
    ),
    "hollowood": (
        (0, 2900, "single_track"),
        (2900, 4100, "loam"),
        (4100, 5000, "mud"),
        (5000, 7300, "single_track"),
        (7300, 9309, "loam"),
    ),
    "gannach-up": (
        (0, 6000, "gravel"),
        (6000, 12400, "single_track"),
        (12400, 14800, "rock"),
        (14800, 16780, "gravel"),
    ),
    "gannach-col": ((0, 2100, "single_track"), (2100, 3300, "rock"), (3300, 4990, "loam")),
    "gannach-down": (
        (0, 5100, "single_track"),
        (5100, 9000, "gravel"),
        (9000, 10200, "rock"),
        (10200, 14190, "gravel"),
    ),
    "gannach-meadow": ((0, 2000, "loam"), (2000, 3100, "sand"), (3100, 4140, "loam")),
}

#: whoops as a tape had them: crest to crest, trough to crest [m]
WHOOPS: dict[tuple[str, str], dict[str, float]] = {
    ("saltern", "whoops"): {"whoop_length_m": 7.0, "whoop_height_m": 0.59}
}

SETUP: dict[str, Any] = {
    "front_sprocket_teeth": 14,
    "rear_sprocket_teeth": 48,
    "main_jet": 165.0,
    "needle_clip": 3,
    "pilot_jet": 48.0,
    "screw_turns": 1.5,
    "premix_ratio": 50.0,
    "fork_spring_rate_n_per_m": 4400.0,
    "fork_preload_m": 0.006,
    "shock_spring_rate_n_per_m": 50000.0,
    "shock_preload_m": 0.012,
    "front_tyre_pressure_pa": 90_000.0,
    "rear_tyre_pressure_pa": 80_000.0,
    "tank_capacity_m3": 0.0115,
    "fuel_fill_m3": 0.0115,
}
TARN_SETUP: dict[str, Any] = {
    "front_sprocket_teeth": 14,
    "rear_sprocket_teeth": 50,
    "map_slot": 1,
    "fuel_trim": 0.0,
    "fork_spring_rate_n_per_m": 4400.0,
    "fork_preload_m": 0.005,
    "fork_oil_up_m": -0.03,
    "shock_spring_rate_n_per_m": 54000.0,
    "shock_preload_m": 0.009,
    "tank_capacity_m3": 0.0085,
    "fuel_fill_m3": 0.0085,
}
VOLE_SETUP: dict[str, Any] = {
    "front_sprocket_teeth": 12,
    "rear_sprocket_teeth": 55,
    "power_mode": 2,
    "charge_share": 1.0,
    "pack_energy_j": 5.2 * 3.6e6,
    "fork_spring_rate_n_per_m": 4400.0,
    "fork_preload_m": 0.006,
    "shock_spring_rate_n_per_m": 52000.0,
    "shock_preload_m": 0.008,
}

WREN: dict[str, Any] = {"name": "Wren", "mass_in_gear_kg": 88.0, "inseam_m": 0.83, "pace": 0.75, "posture": "standing"}
ISK: dict[str, Any] = {"name": "Isk", "mass_in_gear_kg": 96.0, "pace": 0.85, "posture": "standing"}
TAMSIN: dict[str, Any] = {"name": "Tamsin", "mass_in_gear_kg": 71.0, "pace": 0.65, "posture": "attack"}
RIDER = WREN

QUERN: dict[str, Any] = {
    "name": "Quern 293",
    "engine": {
        "kind": "jetted_two_stroke",
        "displacement_m3": 293e-6,
        "peak_power_w": 36000.0,
        "peak_power_rpm": 8500.0,
        "carburettor": {"jet_numbering": "diameter"},
        "shake_rpm": 7600.0,
        "compression_ratio": 10.4,
        "squish_m": 0.0014,
        "power_valve": "adjustable",
        "fittings": [
            {"place": "airbox", "name": "lid off", "leaner_low": 0.01, "leaner_high": 0.05, "power_scale": 1.01},
            {
                "place": "exhaust_insert",
                "name": "quiet core",
                "leaner_low": -0.03,
                "leaner_high": 0.0,
                "power_scale": 0.97,
            },
        ],
        "head_inserts": [{"name": "for height", "compression_ratio": 11.3, "squish_m": 0.0012}],
        "ignition_maps": [{"name": "soft", "advance_rad": -0.06, "low_scale": 0.97, "high_scale": 0.95}],
    },
    "transmission": {
        "primary_ratio": 2.667,
        "gear_ratios": [2.142, 1.75, 1.444, 1.217, 1.045, 0.909],
        "others": [{"name": "wide", "gear_ratios": [2.37, 1.81, 1.44, 1.19, 0.99, 0.83]}],
    },
    "tyre": {"marking": "140/80-18", "speed_symbol": "R", "inside": "heavy_tube"},
    "frame": {
        "mass_dry_kg": 104.0,
        "front_guard_gap_m": 0.325,
        "home_height_m": 60.0,
        "rear_seat_gap_m": 0.332,
        "bar_gap_m": 0.022,
        "side_stand_m": 0.39,
        "fork_preload_pitch_m": 0.0015,
        "shock_preload_pitch_m": 0.0015,
        "other_rear_wheels": [{"marking": "120/90-18", "heavier_kg": -0.6}],
        "other_tanks": [
            {
                "name": "tall",
                "capacity_m3": 0.0145,
                "unusable_m3": 0.0006,
                "front_share": 0.64,
                "heavier_kg": 0.9,
                "cost": 310.0,
                "fitting_s": 1800.0,
            }
        ],
    },
}
TARN: dict[str, Any] = {
    "name": "Tarn 350i",
    "engine": {
        "kind": "injected_four_stroke",
        "displacement_m3": 350e-6,
        "peak_power_w": 33500.0,
        "peak_power_rpm": 10500.0,
        "injection": {"sensors": "air_temperature", "map_shifts": [0.0, 0.03]},
    },
    "transmission": {"primary_ratio": 3.04, "gear_ratios": [2.29, 1.73, 1.39, 1.16, 0.99, 0.85]},
    "tyre": {"marking": "140/80-18", "rolling_radius_m": 0.329},
    "frame": {
        "mass_dry_kg": 108.5,
        "payload": [{"name": "tool pouch", "mass_kg": 1.4, "ahead_m": 0.12, "height_m": 0.86}],
    },
}
VOLE: dict[str, Any] = {
    "name": "Vole E",
    "engine": {
        "kind": "electric",
        "peak_power_w": 32000.0,
        "peak_torque_nm": 42.0,
        "limiter_rpm": 11500.0,
        "nominal_voltage_v": 96.0,
        "mode_power_shares": [1.0, 0.75, 0.5],
        "regeneration_share": 0.3,
        "weighed_pack_j": 5.2 * 3.6e6,
        "packs": [
            {
                "name": "long",
                "energy_j": 6.0 * 3.6e6,
                "mass_kg": 42.0,
                "seat_up_m": 0.015,
                "cost": 2400.0,
                "fitting_s": 600.0,
            }
        ],
    },
    "transmission": {"primary_ratio": 2.4, "gear_ratios": [1.0], "efficiency": 0.92},
    "tyre": {"marking": "120/90-18"},
    "frame": {"mass_dry_kg": 111.0, "wheelbase_m": 1.45},
}

PARTS: dict[str, list[float]] = {
    "front_sprocket_teeth": [12.0, 13.0, 14.0],
    "rear_sprocket_teeth": [48.0, 50.0, 52.0, 55.0],
    "main_jet": [160.0, 162.5, 165.0, 168.0, 170.0],
    "pilot_jet": [45.0, 48.0, 50.0],
    "fork_spring_rate_n_per_m": [4400.0, 4600.0, 4800.0],
    "shock_spring_rate_n_per_m": [50000.0, 52000.0, 54000.0],
    "tank_capacity_m3": [0.0085, 0.009, 0.0115, 0.0145],
    "pack_energy_j": [5.2 * 3.6e6],
}

#: what else lies in the box: kind, a line, what one knows of it
BOX: tuple[tuple[str, str, dict[str, Any]], ...] = (
    ("needle", "0=2.74; 10=2.74; 20=2.48; 32=1.96", {"label": "one groove, filed", "condition": "worn"}),
    ("wheel", "rear 120/90-18", {"label": "mud wheel", "place": "van rack"}),
    ("shim", "24x0.15 22x0.15 20x0.1", {"count": 4, "place": "valve drawer"}),
    ("shim", "40x0.15 40x0.2 36x0.2 32x0.2 28x0.2 25x0.2", {"count": 2, "place": "valve drawer"}),
    ("main_jet", "172.5", {"condition": "spent", "label": "drilled by hand"}),
)


def _stage(key: str, **more: Any) -> dict[str, Any]:
    ground = [{"from_m": float(a), "to_m": float(b), "ground": g} | WHOOPS.get((key, g), {}) for a, b, g in GROUND[key]]
    return {"course_key": key, "ground": ground} | more


RACES: dict[str, dict[str, Any]] = {
    "brackenmere": {
        "name": "Brackenmere three-lapper",
        "start": "2027-04-18T07:30",
        "time_zone": "Europe/London",
        "air": {
            "temperature_low_k": 276.15,
            "temperature_high_k": 289.15,
            "pressure_kind": "sea_level",
            "pressure_pa": 102100.0,
            "relative_humidity_low": 0.45,
            "relative_humidity_high": 0.95,
        },
        "stages": [
            _stage(
                "brackenmere",
                laps=3,
                hills=[{"at_m": 22060.0, "length_m": 90.0, "grade": 0.53, "ground": "deep_sand", "name": "Sow's Back"}],
                crew_points=[{"at_m": 13100.0, "name": "ford"}, {"at_m": 31200.0, "name": "quarry gate"}],
            )
        ],
    },
    "saltern": {
        "name": "Saltern three hours",
        "start": "2027-05-09T10:00",
        "time_zone": "Europe/Madrid",
        "air": {
            "temperature_low_k": 288.15,
            "temperature_high_k": 303.15,
            "pressure_kind": "station",
            "pressure_pa": 98600.0,
            "relative_humidity_low": 0.2,
            "relative_humidity_high": 0.5,
        },
        "stages": [
            _stage(
                "saltern",
                hours_s=10800.0,
                refuel_points=[{"at_m": 60.0, "name": "pits"}],
                zones=[{"from_m": 0.0, "to_m": 250.0, "kind": "speed_limit", "limit_m_per_s": 30 / 3.6}],
            )
        ],
    },
    "gannach": {
        "name": "Gannach timed day",
        "start": "2027-06-20T08:12",
        "time_zone": "Europe/Zurich",
        "air": {
            "temperature_low_k": 278.15,
            "temperature_high_k": 295.15,
            "pressure_kind": "sea_level",
            "pressure_pa": 101900.0,
            "relative_humidity_low": 0.35,
            "relative_humidity_high": 0.8,
        },
        "stages": [
            _stage("gannach-up", name="To the col", kind="liaison", allowed_s=3300.0),
            _stage("gannach-col", name="Round the tarn", kind="test", laps=2, allowed_s=1500.0),
            _stage("gannach-down", name="Down the gorge", kind="liaison", allowed_s=2700.0, refuel_after=True),
            _stage("gannach-meadow", name="River meadows", kind="test", laps=2),
        ],
    },
    "hollowood": {
        "name": "Hollowood two stages",
        "start": "2027-09-11T17:30",
        "time_zone": "Europe/Berlin",
        "air": {
            "temperature_low_k": 281.15,
            "temperature_high_k": 290.15,
            "pressure_kind": "station",
            "pressure_pa": 96800.0,
            "relative_humidity_low": 0.6,
            "relative_humidity_high": 0.95,
        },
        "stages": [
            _stage("hollowood", name="Before dusk", laps=2),
            _stage("hollowood", name="In the dark", laps=1, zones=[{"from_m": 0.0, "to_m": 9309.0, "kind": "night"}]),
        ],
    },
}

#: which bike and rider each race is ridden with
SCENARIOS: dict[str, tuple[dict[str, Any], dict[str, Any], dict[str, Any]]] = {
    "brackenmere": (QUERN, SETUP, WREN),
    "saltern": (TARN, TARN_SETUP, ISK),
    "gannach": (TARN, TARN_SETUP, WREN),
    "hollowood": (VOLE, VOLE_SETUP, TAMSIN),
}


@cache
def ridden_clock() -> list[float]:
    """The recorded lap of the flats, laid on its course."""
    course = track("saltern")
    return [
        round(float(t), 2) for t in clock_along(lay_line(course), course, *read_ridden(course_bytes("saltern-ridden")))
    ]


@cache
def logged_cells() -> list[dict[str, float]]:
    """A lap of the flats logged by the stand-in, on the map's axes."""
    rows = files("lynxwort.demo").joinpath("saltern-log.csv").read_text().split()[1:]
    return [
        dict(zip(("rpm", "throttle", "hits", "error", "sd"), map(float, row.split(",")), strict=True)) for row in rows
    ]


def _readings(name: str) -> list[dict[str, Any]]:
    """What was measured on the bike of a scenario."""
    _, setup, rider = SCENARIOS[name]
    under: dict[str, Any] = {"setup": setup, "rider": rider}
    if setup is SETUP:
        return [
            {
                "id": "sag-rear-free",
                "kind": "sag",
                "end": "rear",
                "state": "free",
                "value_m": 0.026,
                "under": {**under, "fuel_aboard_m3": 0.006},
            },
            {
                "id": "sag-rear-race",
                "kind": "sag",
                "end": "rear",
                "state": "race",
                "value_m": 0.112,
                "under": {**under, "fuel_aboard_m3": 0.006},
            },
            {
                "id": "fill-up-1",
                "kind": "fill_up",
                "fuel_m3": 0.0034,
                "laps": 1.0,
                "under": {**under, "fuel_aboard_m3": 0.009, "course_key": COURSE_KEY},
            },
            {
                "id": "good-1",
                "kind": "known_good",
                "under": {**under, "air": {"pressure_pa": 96000.0, "temperature_k": 281.15, "relative_humidity": 0.6}},
            },
        ]
    if setup is TARN_SETUP:
        lap: dict[str, Any] = {
            "id": "lap-1",
            "kind": "ridden_lap",
            "clock_s": ridden_clock(),
            "under": under | {"course_key": "saltern"},
        }
        air = {"pressure_pa": 99000.0, "temperature_k": 293.15, "relative_humidity": 0.4}
        good: dict[str, Any] = {"id": "good-1", "kind": "known_good", "under": under | {"air": air}}
        log: dict[str, Any] = {
            "id": "log-1",
            "kind": "afr_log",
            "cells": logged_cells(),
            "delay_s": 0.18,
            "samples": 19052.0,
            "under": under | {"air": air},
        }
        return [lap, good, log] if name == "saltern" else [good]
    return [
        {
            "id": "charge-1",
            "kind": "charge",
            "energy_j": 1.05 * 3.6e6,
            "laps": 1.0,
            "under": {**under, "course_key": "hollowood"},
        }
    ]


def course_bytes(key: str = COURSE_KEY) -> bytes:
    """A demo course as GPX."""
    return files("lynxwort.demo").joinpath(f"{key}.gpx").read_bytes()


@cache
def track(key: str = COURSE_KEY) -> Track:
    """A demo course as a track."""
    return read_gpx(course_bytes(key), heights="satellite")


def document(name: str = "brackenmere") -> dict[str, Any]:
    """One demo document, courses left out."""
    bike, setup, rider = SCENARIOS[name]
    return {
        "format": 1,
        "bike": bike,
        "setup": setup,
        "parts": PARTS,
        "riders": [rider],
        "race": RACES[name],
        "readings": _readings(name),
        "seed": 7,
    }


def stage_keys(race: dict[str, Any]) -> Sequence[str]:
    """The courses of a race, each once."""
    return tuple(dict.fromkeys(s["course_key"] for s in race["stages"]))


def inputs(name: str = "brackenmere") -> Inputs:
    """One demo as inputs of `evaluate`."""
    return load_inputs(document(name) | {"courses": {key: track(key) for key in stage_keys(RACES[name])}})
