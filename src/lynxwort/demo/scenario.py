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
from lynxwort.demo.bikes import ISK, PARTS, QUERN, SETUP, TAMSIN, TARN, TARN_SETUP, VOLE, VOLE_SETUP, WREN

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


RIDER = WREN


def _stage(key: str, **more: Any) -> dict[str, Any]:
    ground = [{"from_m": float(a), "to_m": float(b), "ground": g} | WHOOPS.get((key, g), {}) for a, b, g in GROUND[key]]
    return {"course_key": key, "ground": ground} | more


RACES: dict[str, dict[str, Any]] = {
    "brackenmere": {
        "name": "Brackenmere three-lapper",
        "starters": 140,
        "sound_limit_db": 94.0,
        "sound_test": "piston_speed",
        "asked": [
            {"rule": "spark_arrester", "must": True, "done": "2027-03-02", "paper": "stamp 2026-114"},
            {"rule": "sound_sheet", "must": True},
            {"rule": "lanyard", "must": True, "done": "2027-03-02"},
            {"rule": "mat", "must": False},
        ],
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
                crawling_s=90.0,
                standing_s=60.0,
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
                "id": "sheet-1",
                "kind": "sound",
                "level_db": 93.5,
                "background_db": 74.0,
                "distance_m": 0.5,
                "rpm": 5400.0,
                "under": under,
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
