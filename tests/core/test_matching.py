"""Fixes laid on a course: legs that run side by side, a crossing, a gap, a pause, laps after each other."""

import time
from types import SimpleNamespace

import numpy as np
import pytest

from lynxwort.core.physics.course.viterbi import BACK_M, matched
from lynxwort.core.physics.trials import sessions

STEP_M = 2.0


def folded(closed=True):
    """A course of legs 12 m apart that is crossed once: east, north on an even grid [m]."""
    legs = [
        (0, 0),
        (400, 0),
        (400, 12),
        (0, 12),
        (0, 24),
        (400, 24),
        (400, 36),
        (200, 36),
        (200, -40),
        (-30, -40),
        (-30, 0),
    ]
    corners = np.array([*legs, (0, 0)] if closed else legs, float)
    along = np.concatenate([[0], np.cumsum(np.hypot(*np.diff(corners, axis=0).T))])
    at = np.arange(0, along[-1], STEP_M)
    east, north = (np.interp(at, along, corners[:, k]) for k in (0, 1))
    return SimpleNamespace(east=east, north=north, length=east.size * STEP_M)


def session(course, laps, seed, *, noise_m, every_s=1.0, pause_s=120.0):
    """Fixes of a rider at 4 to 14 m/s with a wandering error, a tenth of one lap lost, a pause: east, north, time,
    true place going on over the laps.
    """
    rng = np.random.default_rng(seed)
    place, clock, found = 0.0, 0.0, []
    whole = laps * course.length
    paused = False
    while place < whole - 1.0:
        found.append((place, clock))
        speed = 9.0 + 5.0 * np.sin(place / 70.0)
        place, clock = place + speed * every_s, clock + every_s
        if not paused and place > 0.6 * whole:
            clock, paused = clock + pause_s, True
    place, clock = np.array(found).T
    lost = (
        (place % course.length > 0.3 * course.length)
        & (place % course.length < 0.4 * course.length)
        & (place < course.length)
    )
    place, clock = place[~lost], clock[~lost]
    grid = np.arange(course.east.size) * STEP_M
    # a receiver's error wanders over a minute, with half a metre of its own beside
    keep = np.exp(-every_s / 60.0)
    drift = np.zeros((place.size, 2))
    for i in range(1, place.size):
        drift[i] = keep * drift[i - 1] + np.sqrt(1 - keep**2) * rng.normal(0, noise_m, 2)
    off = drift + rng.normal(0, 0.5, (place.size, 2))
    lap = place % course.length
    return np.interp(lap, grid, course.east) + off[:, 0], np.interp(lap, grid, course.north) + off[:, 1], clock, place


@pytest.mark.parametrize("noise_m", [2.0, 4.0, 6.0])
@pytest.mark.parametrize("every_s", [1.0, 5.0])
def test_legs_side_by_side_are_not_changed_for_one_another(noise_m, every_s):
    """Thirty sessions of three laps each: never 45 m off, never back further than a step, laps counted."""
    course = folded()
    worst = []
    for seed in range(30):
        east, north, clock, place = session(course, 3, seed, noise_m=noise_m, every_s=every_s)
        found = matched(
            course_closed(course)[0], course_closed(course)[1], east, north, clock, spacing_m=STEP_M, closed=True
        )
        assert found.index.size > 0.97 * clock.size
        assert (np.diff(found.place_m) >= -BACK_M - 1e-9).all()
        worst.append(np.abs(found.place_m - place[found.index]).max())
    assert max(worst) < 45.0, sorted(worst)[-5:]


def course_closed(course):
    """As a laid line has it: its last place is its first again."""
    return np.append(course.east, course.east[0]), np.append(course.north, course.north[0])


def test_a_session_of_nine_laps_is_cut_at_the_line():
    """A pause within one: its lap is long, its stand is told, the others' times and sectors are the rider's."""
    course = folded()
    east, north, clock, place = session(course, 9, 5, noise_m=2.0)
    found = matched(*course_closed(course), east, north, clock, spacing_m=STEP_M, closed=True)
    gates = np.array([0.25, 0.5, 0.75, 1.0]) * course.length
    laps = [lap for lap in sessions.laps_of(found.place_m, clock[found.index], course.length, gates) if lap.whole]
    assert [lap.number for lap in laps] in ([*range(8)], [*range(9)], [*range(1, 9)], [*range(1, 8)])
    true = np.interp(np.arange(10) * course.length, place, clock)
    for lap in laps:
        assert sum(lap.sectors_s) == pytest.approx(lap.time_s)
        assert lap.time_s == pytest.approx(true[lap.number + 1] - true[lap.number], abs=4 * lap.error_s + 0.1)
        assert 0.1 < lap.error_s < 1.0
    (paused,) = [lap for lap in laps if lap.stood_s]
    assert paused.stood_s == pytest.approx(120.0, abs=3.0)
    assert paused.number == 5


def test_two_hours_once_a_second_take_less_than_two_seconds():
    """On a course of 24 km; kernels are compiled at install, so once before."""
    rng = np.random.default_rng(1)
    turn = np.cumsum(rng.normal(0, 0.02, 12_000))
    east, north = np.cumsum(2 * np.cos(turn)), np.cumsum(2 * np.sin(turn))
    clock = np.arange(7200.0)
    place = 3.3 * clock
    fixes = [np.interp(place, np.arange(12_000) * 2.0, v) + rng.normal(0, 3, 7200) for v in (east, north)]
    matched(east, north, *(f[:50] for f in fixes), clock[:50], spacing_m=2.0, closed=False)
    began = time.perf_counter()
    found = matched(east, north, *fixes, clock, spacing_m=2.0, closed=False)
    took = time.perf_counter() - began
    assert np.abs(found.place_m - place[found.index]).max() < 45.0
    assert took < 2.0


def test_who_loses_the_way_is_found_again():
    """Ten minutes elsewhere leave no place; after them the way goes on where it is ridden."""
    course = folded()
    east, north, clock, place = session(course, 1, 3, noise_m=2.0)
    away = np.full(600, 900.0)
    half = clock.size // 2
    out = [np.concatenate([v[:half], w, v[half:]]) for v, w in ((east, away), (north, away))]
    times = np.concatenate([clock[:half], clock[half - 1] + 1 + np.arange(600.0), clock[half:] + 620])
    found = matched(*course_closed(course), *out, times, spacing_m=STEP_M, closed=True)
    assert not set(range(half, half + 600)) & set(found.index.tolist())
    assert abs(found.place_m[-1] - place[-1]) < 20.0


def test_nothing_near_the_course_is_matched():
    course = folded()
    far = np.full(20, 5000.0)
    found = matched(*course_closed(course), far, far, np.arange(20.0), spacing_m=STEP_M, closed=True)
    assert found.index.size == 0
