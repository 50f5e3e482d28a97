"""The demo as one document: a two-stroke of no make, a loop nobody has ridden, a rider called Wren."""

from importlib.resources import files
from typing import Any

from lynxwort.core.course.gpx import read_gpx
from lynxwort.core.model.inputs import Inputs, Track, load_inputs

COURSE_KEY = "brackenmere"

GROUND = (
    (0, 5200, "gravel"), (5200, 10400, "single_track"), (10400, 13100, "rock"), (13100, 19500, "loam"), (19500, 23000, "sand"),
    (23000, 29400, "single_track"), (29400, 31200, "rock"), (31200, 37400, "hardpack"), (37400, 39200, "whoops"), (39200, 41530, "gravel"),
)  # fmt: skip

SETUP: dict[str, Any] = {
    "front_sprocket_teeth": 14,
    "rear_sprocket_teeth": 48,
    "main_jet": 165.0,
    "needle_clip": 3,
    "premix_ratio": 50.0,
    "fork_spring_rate_n_per_m": 4400.0,
    "fork_preload_m": 0.006,
    "shock_spring_rate_n_per_m": 50000.0,
    "shock_preload_m": 0.012,
    "tank_capacity_m3": 0.0115,
    "fuel_fill_m3": 0.0115,
}

RIDER: dict[str, Any] = {"name": "Wren", "mass_in_gear_kg": 88.0, "pace": 0.75, "posture": "standing"}


def course_bytes() -> bytes:
    """The demo course as GPX."""
    return files("lynxwort.demo").joinpath("brackenmere.gpx").read_bytes()


def track() -> Track:
    """The demo course as a track."""
    return read_gpx(course_bytes(), heights="satellite")


def document() -> dict[str, Any]:
    """The demo document, course left out."""
    under = {"setup": SETUP, "rider": RIDER}
    return {
        "format": 1,
        "bike": {
            "name": "Quern 293",
            "engine": {
                "kind": "jetted_two_stroke", "displacement_m3": 293e-6, "peak_power_w": 36000.0, "peak_power_rpm": 8500.0,
                "carburettor": {"jet_numbering": "diameter"},
            },
            "transmission": {"primary_ratio": 2.667, "gear_ratios": [2.142, 1.75, 1.444, 1.217, 1.045, 0.909]},
            "tyre": {"marking": "140/80-18"},
            "frame": {"mass_dry_kg": 104.0},
        },
        "setup": SETUP,
        "parts": {
            "front_sprocket_teeth": [13, 14],
            "rear_sprocket_teeth": [48, 50, 52],
            "main_jet": [160.0, 162.5, 165.0, 168.0, 170.0],
            "fork_spring_rate_n_per_m": [4400.0, 4600.0],
            "shock_spring_rate_n_per_m": [50000.0, 54000.0],
            "tank_capacity_m3": [0.009, 0.0115, 0.0145],
        },
        "riders": [RIDER],
        "race": {
            "name": "Brackenmere three-lapper",
            "start": "2027-04-18T07:30",
            "time_zone": "Europe/London",
            "air": {
                "temperature_low_k": 276.15, "temperature_high_k": 289.15, "pressure_kind": "sea_level", "pressure_pa": 102100.0,
                "relative_humidity_low": 0.45, "relative_humidity_high": 0.95,
            },
            "stages": [
                {
                    "course_key": COURSE_KEY,
                    "laps": 3,
                    "ground": [{"from_m": float(a), "to_m": float(b), "ground": g} for a, b, g in GROUND],
                    "hills": [{"at_m": 22060.0, "length_m": 90.0, "grade": 0.53, "ground": "deep_sand"}],
                }
            ],
        },
        "readings": [
            {"id": "sag-rear-free", "kind": "sag", "end": "rear", "state": "free", "value_m": 0.026, "under": {**under, "fuel_aboard_m3": 0.006}},
            {"id": "sag-rear-race", "kind": "sag", "end": "rear", "state": "race", "value_m": 0.112, "under": {**under, "fuel_aboard_m3": 0.006}},
            {"id": "fill-up-1", "kind": "fill_up", "fuel_m3": 0.0034, "laps": 1.0, "under": {**under, "fuel_aboard_m3": 0.009, "course_key": COURSE_KEY}},
            {"id": "good-1", "kind": "known_good", "under": {**under, "air": {"pressure_pa": 96000.0, "temperature_k": 281.15, "relative_humidity": 0.6}}},
        ],
        "seed": 7,
    }  # fmt: skip


def inputs() -> Inputs:
    """The demo as inputs of `evaluate`."""
    return load_inputs(document() | {"courses": {COURSE_KEY: track()}})
