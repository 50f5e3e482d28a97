"""Courses: files good and bad, heights, ground, hills."""

import itertools
import math
import re

import numpy as np
import pytest

from lynxwort.core.errors import InputRefused
from lynxwort.core.model.race import GROUNDS, CrewPoint, CriticalHill, GroundSegment, RefuelPoint, Stage, Zone
from lynxwort.core.model.track import Track
from lynxwort.core.physics.course.cut import cut_stage, cut_track, overlapping, pits_every
from lynxwort.core.physics.course.gpx import MAX_BYTES, read_gpx, read_ridden
from lynxwort.core.physics.course.prepare import curvature, lay_line, prepare_course, rise_over_run
from lynxwort.demo.scenario import course_bytes
from lynxwort.words.refusals import explain


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


def test_a_refusal_says_at_which_line_or_point():
    with pytest.raises(InputRefused) as refused:
        read_gpx(b"<gpx>\n<trk>\n<<oops</trk></gpx>")
    assert "at line 3." in explain(refused.value.refusals[0])
    whole = gpx(trk(*(pt(54 + 0.001 * k, -2) for k in range(30))))
    timed = re.sub(rb"</trkpt>", b"<time>2027-01-01T10:00:00Z</time></trkpt>", whole, count=4)
    with pytest.raises(InputRefused) as refused:
        read_ridden(timed)
    assert explain(refused.value.refusals[0]).startswith("Point 5 of the file")


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


# cut at its pits ----------------------------------------------------------------------------------------------------------
def test_a_course_cut_at_its_pits_is_the_same_course_in_pieces():
    """Lengths add up, heights and places join where it is cut, breaks stay between the same points; the date line too."""
    whole = read_gpx(course_bytes())
    length = lay_line(whole).length_m
    at = [7_500.0, 7_912.3, 21_000.0]
    pieces = cut_track(whole, at)
    lengths = [lay_line(p).length_m for p in pieces]
    # great circles between the same points: but for the two halves of a step that is cut
    assert lengths == pytest.approx(np.diff([0.0, *at, length]), rel=1e-6, abs=0.01)
    for a, b in itertools.pairwise(pieces):
        assert (a.latitude_deg[-1], a.longitude_deg[-1], a.height_m[-1]) == pytest.approx(
            (b.latitude_deg[0], b.longitude_deg[0], b.height_m[0])
        )
    assert len({p.content_key() for p in pieces}) == 4
    across = Track(heights="none", latitude_deg=(10.0, 10.0, 10.0), longitude_deg=(179.9, -179.95, -179.9), breaks=(2,))
    east, west = cut_track(across, [11_000.0])
    assert max(map(abs, (*east.longitude_deg, *west.longitude_deg))) <= 180.0
    assert (east.breaks, west.breaks) == ((), (2,))
    for bad in ([50.0], [length - 10.0], [7_500.0, 7_550.0]):
        with pytest.raises(InputRefused):
            cut_track(whole, bad)


def test_what_lies_on_a_stage_goes_to_the_piece_it_lies_on():
    """Every metre of ground, every hill, point and zone comes out once, where it was."""
    stage = Stage(
        name="Long", course_key="k", allowed_s=30_000, standing_s=120.0, queue_at_m=61_000.0,
        ground=(GroundSegment(from_m=0, to_m=40_000, ground="sand"), GroundSegment(from_m=40_000, to_m=90_000, ground="gravel")),
        hills=(CriticalHill(at_m=29_900, length_m=300, grade=0.4, ground="sand", name="edge"),),
        refuel_points=tuple(RefuelPoint(at_m=a, name=f"pit {a:.0f}", must_stop=True) for a in (30_000.0, 60_000.0)),
        crew_points=(CrewPoint(at_m=75_000, name="bridge"),),
        zones=(Zone(from_m=20_000, to_m=70_000, kind="night"),),
    )  # fmt: skip
    cuts = [30_000.0, 60_000.0]
    parts = cut_stage(stage, cuts, 90_000.0, ["a", "b", "c"])
    starts = [0.0, *cuts]
    assert [p.course_key for p in parts] == ["a", "b", "c"]
    for kind in ("sand", "gravel"):
        spans = [
            (s + g.from_m, s + g.to_m) for s, p in zip(starts, parts, strict=True) for g in p.ground if g.ground == kind
        ]
        assert sum(b - a for a, b in spans) == pytest.approx(40_000 if kind == "sand" else 50_000)
    assert sum(z.to_m - z.from_m for p in parts for z in p.zones) == pytest.approx(50_000)
    # the pit stands at the start of the piece after it: fuel is taken there as it was on the whole
    assert [[(r.name, r.at_m, r.must_stop) for r in p.refuel_points] for p in parts] == [
        [], [("pit 30000", 0.0, True)], [("pit 60000", 0.0, True)],
    ]  # fmt: skip
    assert [len(p.hills) for p in parts] == [1, 0, 0]
    assert parts[0].hills[0].at_m + parts[0].hills[0].length_m == pytest.approx(30_000)
    assert parts[2].crew_points[0].at_m == pytest.approx(15_000)
    assert [p.standing_s for p in parts] == [0.0, 0.0, 120.0]
    assert parts[2].queue_at_m == pytest.approx(1_000)
    for several in (stage.model_copy(update={"laps": 2}), stage.model_copy(update={"hours_s": 7200.0})):
        with pytest.raises(InputRefused):
            cut_stage(several, cuts, 90_000.0, ["a", "b", "c"])


def test_pits_every_so_far_and_hills_on_the_same_ground():
    assert pits_every(880_000.0, 100_000.0) == [100_000.0 * k for k in range(1, 9)]
    assert pits_every(800_000.0, 100_000.0, [301_000.0]) == [100_000.0 * k for k in (1, 2, 4, 5, 6, 7)]
    with pytest.raises(InputRefused):
        pits_every(40_000.0, 50_000.0)
    hills = [
        CriticalHill(at_m=a, length_m=n, grade=0.3, ground="rock")
        for a, n in ((900, 200), (100, 300), (350, 20), (1100, 50))
    ]
    assert overlapping(hills) == [(1, 2)]
