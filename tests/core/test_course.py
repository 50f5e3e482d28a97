"""Courses: files good and bad, heights, ground, hills."""

import math

import numpy as np
import pytest

from lynxwort.core.errors import InputRefused
from lynxwort.core.model.race import GROUNDS, CriticalHill, GroundSegment
from lynxwort.core.model.track import Track
from lynxwort.core.physics.course.gpx import MAX_BYTES, read_gpx
from lynxwort.core.physics.course.prepare import curvature, lay_line, prepare_course, rise_over_run
from lynxwort.demo.scenario import course_bytes


def gpx(points: str, head: str = '<gpx version="1.1" xmlns="http://www.topografix.com/GPX/1/1">') -> bytes:
    return f'<?xml version="1.0"?>{head}{points}</gpx>'.encode()


def trk(*points: str) -> str:
    return f"<trk><name>Loop</name><trkseg>{''.join(points)}</trkseg></trk>"


def pt(lat, lon, ele=None) -> str:
    return f'<trkpt lat="{lat}" lon="{lon}">{"" if ele is None else f"<ele>{ele}</ele>"}</trkpt>'


def many(count: int) -> bytes:
    return gpx(trk(*(pt(54 + i * 1e-5, -2, 500) for i in range(count))))


BOMB = b'<?xml version="1.0"?><!DOCTYPE gpx [<!ENTITY a "x"><!ENTITY b "&a;&a;&a;&a;">]><gpx>&b;</gpx>'
BAD = [
    (b"", "empty"),
    (b"   \n", "empty"),
    (b"\x00\xff\xfe nonsense", "not_xml"),
    (course_bytes()[:5000], "not_xml"),
    (BOMB, "forbidden_xml"),
    (b"<html><body/></html>", "not_gpx"),
    (gpx(""), "no_points"),
    (gpx(trk(pt(54, -2))), "too_few_points"),
    (gpx(trk(pt(54, -2), pt("north", -2))), "bad_coordinate"),
    (gpx(trk(pt(54, -2), pt("nan", -2))), "bad_coordinate"),
    (gpx(trk(pt(54, -2, 1), pt(54.1, -2, "high"))), "bad_height"),
    (gpx(trk(pt(54, -2), pt(154, -2))), "not_on_earth"),
    (gpx(trk(pt(54, -2, 1), pt(54.1, -2, 20_000))), "height_out_of_range"),
    (gpx(trk(*(pt(54, -2, 500) for _ in range(40)))), "no_length"),
    (many(200_000), "too_many_points"),
    (b"<gpx>" + b" " * (MAX_BYTES + 1), "too_large"),
]


@pytest.mark.parametrize(("data", "code"), BAD, ids=[f"{i}-{c}" for i, (_, c) in enumerate(BAD)])
def test_a_bad_course_is_refused_with_its_reason(data, code):
    with pytest.raises(InputRefused) as refused:
        lay_line(read_gpx(data))
    assert refused.value.refusals[0].code == code


def test_routes_segments_gaps_and_missing_heights():
    route = read_gpx(gpx('<rte><rtept lat="54" lon="-2"/><rtept lat="54.01" lon="-2"/></rte>'))
    assert route.heights == "none"
    two = read_gpx(
        gpx(
            f"<trk><trkseg>{pt(54, -2, 5)}{pt(54.01, -2, 6)}</trkseg><trkseg>{pt(54.02, -2, 7)}{pt(54.03, -2, 8)}</trkseg></trk>"
        )
    )
    assert two.breaks == (2,)
    assert lay_line(two).gaps_m[0] == pytest.approx(1112, rel=0.01)
    some = read_gpx(gpx(trk(*(pt(54 + i / 100, -2, None if i == 5 else 100 + i) for i in range(10)))))
    assert some.height_m[5] == pytest.approx(105)


def test_the_date_line_is_no_obstacle_and_duplicates_add_nothing():
    plain = lay_line(Track(heights="none", latitude_deg=(10.0, 10.0, 10.0), longitude_deg=(20.0, 20.05, 20.1)))
    across = lay_line(
        Track(heights="none", latitude_deg=(10.0, 10.0, 10.0, 10.0), longitude_deg=(179.95, -180.0, -180.0, -179.95))
    )
    assert across.length_m == pytest.approx(plain.length_m, rel=1e-9)
    assert np.ptp(across.east_m) == pytest.approx(across.length_m, rel=0.01)


def test_raw_heights_overstate_the_climb_and_smoothing_takes_it_out():
    """HANDBOOK 4: raw receiver heights inflate climb by half and more."""
    line = lay_line(read_gpx(course_bytes()))
    course = prepare_course(line, (), ())
    assert course.raw_climb_m > 1.5 * course.climb_m
    rng = np.random.default_rng(2)
    s = np.arange(0, 20_000, 5.0)
    true = 500 + 60 * np.sin(2 * np.pi * s / 2500)
    noisy = Track(
        heights="satellite",
        latitude_deg=tuple(54 + s / 111_195.0),
        longitude_deg=(-2.0,) * s.size,
        height_m=tuple(true + rng.normal(0, 2, s.size)),
    )
    found = prepare_course(lay_line(noisy), (), ())
    assert found.climb_m == pytest.approx(np.maximum(np.diff(true), 0).sum(), rel=0.08)


def test_curvature_of_a_circle_is_one_over_its_radius():
    angle = np.linspace(0, 2 * np.pi, 800)
    radius = 80.0
    lat = 54 + radius * np.sin(angle) / 111_195.0
    lon = -2 + radius * np.cos(angle) / (111_195.0 * np.cos(np.radians(54)))
    line = lay_line(Track(heights="none", latitude_deg=tuple(lat), longitude_deg=tuple(lon)))
    middle = curvature(line, 25.0)[60:-60]
    assert np.median(middle) == pytest.approx(1 / radius, rel=0.01)


def test_ground_covers_and_a_hill_brings_its_slope_and_gives_it_back():
    line = lay_line(read_gpx(course_bytes()))
    ground = (
        GroundSegment(from_m=0.0, to_m=1000.0, ground="sand"),
        GroundSegment(from_m=3000.0, to_m=4000.0, ground="rock"),
    )
    hill = CriticalHill(at_m=2000.0, length_m=80.0, grade=0.5, ground="mud")
    plain, hilly = prepare_course(line, ground, ()), prepare_course(line, ground, (hill,))
    names = [GROUNDS[i] for i in hilly.ground]
    at = lambda m: int(m / hilly.spacing_m)  # noqa: E731
    assert (names[at(500)], names[at(2040)], names[at(2500)], names[at(3500)]) == (
        "sand",
        "mud",
        "single_track",
        "rock",
    )
    on = slice(at(2004), at(2074))
    assert np.allclose(hilly.sine[on] / np.sqrt(1 - hilly.sine[on] ** 2), 0.5, atol=0.02)
    assert hilly.height_m[-1] == pytest.approx(plain.height_m[-1])
    assert np.allclose(hilly.height_m[at(2400) :], plain.height_m[at(2400) :])


@pytest.mark.parametrize("angle", [-0.5, -0.02, 0.0, 0.1, 0.6])
def test_rise_over_run_is_the_tangent(angle):
    assert float(rise_over_run(math.sin(angle))) == pytest.approx(math.tan(angle), abs=1e-12)
