"""What is drawn and tabled of a lap: metres, habits, the chain's poses, heights by source; the stand-ins and the words of readings."""

import itertools
import json
import subprocess
import sys
from math import hypot

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lynxwort.core.evaluate import evaluate
from lynxwort.core.model.bike import FourStrokeInjected
from lynxwort.core.model.inputs import dump_inputs, load_inputs
from lynxwort.core.model.race import GROUNDS, CriticalHill, GroundSegment
from lynxwort.core.model.readings import (
    HillReading,
    RiddenLapReading,
    RollOutReading,
    RpmSpeedReading,
    TopSpeedReading,
    Under,
)
from lynxwort.core.physics.course.gpx import read_ridden
from lynxwort.core.physics.course.match import clock_along
from lynxwort.core.physics.course.prepare import climb_by_source, climb_of, lay_line, noisiest, prepare_course
from lynxwort.core.physics.course.surface import lay_surfaces
from lynxwort.core.physics.drive import chain, lift
from lynxwort.core.standin import logger
from lynxwort.core.stations.drive import pulls
from lynxwort.core.stations.drive import view as drive_view
from lynxwort.core.stations.drive.input import DriveInput
from lynxwort.core.stations.drive.view import metre_rows, ruled_by
from lynxwort.core.stations.purpose.view import round_view, windows
from lynxwort.core.stations.range.view import level_view
from lynxwort.demo import scenario
from lynxwort.words.catalogue import TERMS
from lynxwort.words.choices import HABITS, LIMIT_WORDS
from lynxwort.words.readings import reading_words
from tests.support import CACHE, demo_inputs, demo_report

RACES = ("brackenmere", "saltern", "gannach", "hollowood")


# the lap as rows and as shares -------------------------------------------------------------------------------------------
@pytest.mark.parametrize("race", RACES)
def test_rows_of_any_length_hold_the_whole_round_once(race):
    work = demo_report(race).behind.up
    for length in (20.0, 100.0, 500.0):
        rows = metre_rows(DriveInput.of(work), length_m=length)
        assert rows[0].from_m == 0.0
        assert rows[-1].to_m == pytest.approx(work.around.whole.length_m)
        assert all(a.to_m == b.from_m for a, b in itertools.pairwise(rows))
        assert sum((r.to_m - r.from_m) / r.speed_m_per_s for r in rows) == pytest.approx(work.lap.whole.lap_time_s)
        assert {r.limit for r in rows} <= set(LIMIT_WORDS)
        assert {r.ground for r in rows} <= set(GROUNDS) <= set(TERMS)
        assert all(r.throttle_share is None or 0 <= r.throttle_share <= 1 for r in rows)
    assert (metre_rows(DriveInput.of(work), length_m=100.0)[0].throttle_share is None) is (
        race == "hollowood"
    )  # a motor has no throttle plate
    some = metre_rows(DriveInput.of(work), length_m=100.0, from_m=3_050.0, most=5)
    assert len(some) == 5
    assert some[0].from_m <= 3_050.0 < some[0].to_m


@pytest.mark.parametrize("race", RACES)
def test_every_division_of_a_lap_is_whole_and_has_words(race):
    report = demo_report(race)
    habits = {h.name: dict(h.parts) for h in drive_view.habits(DriveInput.of(report.behind.up))}
    for name, parts in habits.items():
        assert sum(parts.values()) == pytest.approx(1.0)
        assert all(share >= 0 for share in parts.values())
        assert name in HABITS
        assert all(f"{name}.{code}" in HABITS or code.isdigit() for code in parts)
    for group in ("power", "grip", "pace"):
        assert habits["limit"].get(group, 0.0) == pytest.approx(report.value(f"drive.share.{group}"))
    if race == "hollowood":
        assert {"gear", "lift"}.isdisjoint(habits)
    else:
        assert habits["lift"].get("eighth", 0.0) == pytest.approx(report.value("drive.lift_share.low"))
        assert (
            len(pulls.drops(DriveInput.of(report.behind.up))) == len(report.behind.up.lap.ride_input.overall_ratios) - 1
        )
        assert pulls.drops(DriveInput.of(report.behind.up))[0] == report.value("drive.first_second_drop")


def test_an_injected_engine_opens_a_butterfly():
    """A butterfly passes 1 - cos of its angle: half open area at 60 degrees, two thirds of the way."""
    assert lift.butterfly_area(np.array([0.0, 2 / 3, 1.0])) == pytest.approx([0.0, 0.5, 1.0], abs=1e-12)
    engine = FourStrokeInjected(displacement_m3=350e-6, peak_power_w=33.5e3, peak_power_rpm=10_500.0)
    torque, crank = np.array([-5.0, 5.0, 20.0, 40.0]), np.full(4, 800.0)
    opened = lift.throttle_lift(engine, torque, crank, np.full(4, 40.0))
    assert opened[0] == 0.0  # closed on the overrun
    assert opened[-1] == 1.0
    assert (np.diff(opened) > 0).all()


# the chain through the travel -------------------------------------------------------------------------------------------
@given(front=st.integers(11, 16), rear=st.integers(40, 56), height=st.floats(-0.16, 0.13))
@settings(max_examples=40, deadline=None)
def test_tangents_touch_both_circles_at_right_angles_and_have_the_chains_length(front, rear, height):
    arm = chain.Swingarm(
        length_m=0.59, sprocket_ahead_m=0.075, sprocket_above_m=0.005, axle_low_m=-0.17, axle_high_m=0.14
    )
    pose = chain.poses(arm, front, rear, {"here": height}, play_m=0.02)[0]
    centres, radii = ((0.075, 0.005), pose.axle), (chain.pitch_radius(front), chain.pitch_radius(rear))
    for run in pose.runs:
        along = np.subtract(run[1], run[0])
        for point, centre, radius in zip(run, centres, radii, strict=True):
            spoke = np.subtract(point, centre)
            assert hypot(*spoke) == pytest.approx(radius)
            assert float(spoke @ along) == pytest.approx(0.0, abs=1e-9)
        assert hypot(*along) == pytest.approx(chain.span(front, rear, float(chain.centre_at(arm, height))))


def test_the_poses_are_loosest_where_they_hang_and_tightest_in_line():
    poses = {
        p.name: p
        for p in drive_view.chain_poses(
            DriveInput.of(demo_report().behind.up), demo_report().behind.up.loaded.race_sag("rear")
        )
    }
    assert set(poses) == {"topped_out", "race_sag", "tightest", "full_travel"}
    assert (
        min(p.play_m for p in poses.values())
        == poses["tightest"].play_m
        == pytest.approx(demo_inputs().bike.frame.chain_play_m)
    )
    assert poses["topped_out"].play_m == pytest.approx(demo_report().value("drive.chain.slack_on_stand"))


# heights and surfaces ------------------------------------------------------------------------------------------------------
def test_climb_by_source_is_what_each_source_would_give():
    track = demo_inputs().courses["brackenmere"]
    found = climb_by_source(track)
    assert (
        found["barometer"].climb_m > found["satellite"].climb_m > found["terrain"].climb_m
    )  # the coarser the source, the more is smoothed away
    course = prepare_course(lay_line(track), (), ())
    assert found["satellite"].climb_m == course.climb_m
    assert found["satellite"].raw_climb_m == course.raw_climb_m > 1.5 * course.climb_m
    assert climb_by_source(track.model_copy(update={"heights": "none", "height_m": ()})) == {}
    assert track.told("terrain").content_key() != track.content_key()
    assert track.told("satellite").content_key() == track.content_key()


def test_the_noisiest_stretch_is_where_the_noise_was_put():
    track = demo_inputs().courses["brackenmere"]
    heights = np.array(track.height_m)
    heights[6000:6300] += np.random.default_rng(2).normal(0.0, 15.0, 300)
    line = lay_line(track.model_copy(update={"height_m": tuple(heights.tolist())}))
    cut = noisiest(line, 1500.0)
    middle = line.distance_m[(cut.start + cut.stop) // 2]
    assert line.distance_m[cut.stop] - line.distance_m[cut.start] == pytest.approx(1500.0, abs=5.0)
    assert 23_500 < middle < 25_700  # points 6000 to 6300 of a track of 4 m steps
    assert climb_of(line.height_m, line).raw_climb_m > climb_by_source(track)["satellite"].raw_climb_m + 1000


def test_a_hill_takes_the_look_of_the_ground_it_stands_on():
    middle = np.arange(1.0, 1000.0, 2.0)
    deep = GroundSegment(from_m=200.0, to_m=600.0, ground="sand", depth_m=0.2, state="wet")
    on, off = (CriticalHill(at_m=300.0, length_m=50.0, grade=0.4, ground=g) for g in ("sand", "rock"))
    for hill, rows in ((on, 2), (off, 3)):
        surfaces, index, tight = lay_surfaces(middle, (deep,), (hill,), default="single_track", state="dry")
        assert surfaces.rows.shape == (rows, 7)
        here = surfaces.ground[index[(middle > 300) & (middle < 350)]]
        assert set(here.tolist()) == {GROUNDS.index(hill.ground)}
        assert not tight.any()


# stand-ins, ridden laps over several stages, words ----------------------------------------------------------------------------
def test_the_stand_in_rides_the_same_lap_twice_and_another_with_another_seed():
    work = demo_report("gannach").behind.up
    one = logger.stand_in_lap(work, stage=1, start="2027-06-19T08:00:00", seed=4)
    assert one == logger.stand_in_lap(work, stage=1, start="2027-06-19T08:00:00", seed=4)
    assert one != logger.stand_in_lap(work, stage=1, start="2027-06-19T08:00:00", seed=5)
    track, times = read_ridden(one)
    assert times[0] == pytest.approx(np.datetime64("2027-06-19T08:00:00").astype("int64"))
    assert (
        0.95 * (times[-1] - times[0]) < len(track.latitude_deg) <= times[-1] - times[0] + 2
    )  # once a second, some lost
    assert len(set(logger.hidden_pace(4))) == len(GROUNDS)


def test_a_lap_of_one_stage_sets_the_pace_on_all_and_stands_on_its_own_part_of_the_ribbon():
    base = demo_report("gannach")
    inputs, work = demo_inputs("gannach"), base.behind.up
    clock = clock_along(
        work.around.lines[1],
        inputs.courses["gannach-col"],
        *read_ridden(logger.stand_in_lap(work, stage=1, start="2027-06-19T08:00:00", seed=9)),
    )
    under = Under(setup=inputs.setup, rider=inputs.rider, course_key="gannach-col")
    reading = RiddenLapReading(id="lap", under=under, clock_s=tuple(clock.tolist()))
    report = evaluate(inputs.model_copy(update={"readings": (*inputs.readings, reading)}), cache=CACHE)
    assert report.behind.up.lap.rides[3].lap_time_s != base.behind.up.lap.rides[3].lap_time_s  # the meadow has loam too
    seen = report.behind.up.road.ridden_speed()
    assert (seen.from_m, seen.to_m) == pytest.approx(tuple(work.around.starts_m[1:3]))
    assert (seen.to_m - seen.from_m) / clock[-1] == pytest.approx(1.0 / np.mean(1.0 / seen.speed_m_per_s), rel=1e-6)
    assert base.behind.up.road.ridden_speed() is None


@pytest.mark.parametrize("preset", ["metric", "us"])
def test_every_kind_of_reading_is_said_in_a_line_in_ones_units(preset):
    under = Under(setup=demo_inputs().setup, rider=demo_inputs().rider)
    more = [
        RollOutReading(id="1", under=under, distance_m=6.1, turns=3),
        RpmSpeedReading(id="2", under=under, rpm=7000.0, speed_m_per_s=20.0, gear=4),
        TopSpeedReading(id="3", under=under, speed_m_per_s=36.0),
        HillReading(id="4", under=under, at_m=22_060.0, outcome="spun"),
        HillReading(id="5", under=under, at_m=22_060.0, outcome="climbed", entry_speed_m_per_s=9.0),
        RiddenLapReading(id="6", under=under, clock_s=(0.0, 60.0, 131.0)),
    ]
    lines = [
        reading_words(r, demo_inputs(race).bike, preset) for race in RACES for r in (*demo_inputs(race).readings, *more)
    ]
    assert all(line and not set("{}_") & set(line) for line in lines)
    assert any("mph" in line for line in lines) is (preset == "us")
    assert any(line.startswith("A lap ridden in 2:11") for line in lines)


# from outside ---------------------------------------------------------------------------------------------------------------
def course_verb(tmp_path, stage, *more):
    file, said = tmp_path / "lap.gpx", tmp_path / "stage.json"
    file.write_bytes(scenario.course_bytes("hollowood"))
    said.write_text(json.dumps(stage))
    command = [
        sys.executable,
        "-m",
        "lynxwort",
        "course",
        str(file),
        "--heights",
        "satellite",
        "--stage",
        str(said),
        *more,
    ]
    done = subprocess.run(command, capture_output=True, check=False)
    return done.returncode, json.loads(done.stdout)


def test_the_course_verb_takes_a_stage_and_gives_surfaces_and_geojson(tmp_path):
    stage = {
        "state": "wet",
        "ground": [{"from_m": 0.0, "to_m": 3000.0, "ground": "mud", "depth_m": 0.15}],
        "hills": [{"at_m": 4000.0, "length_m": 40.0, "grade": 0.4, "ground": "rock", "name": "Step"}],
    }
    code, made = course_verb(tmp_path, stage)
    assert code == 0
    assert [g["ground"] for g in made["ground"]] == ["mud", "single_track", "rock", "single_track"]
    assert made["ground"][0]["surface"]["c0"] > 0.110
    assert made["hills"][0]["name"] == "Step"
    assert made["climb_by_source"]["satellite"]["raw_climb_m"] == made["raw_climb_m"]
    code, drawn = course_verb(tmp_path, stage, "--out", "geojson")
    assert code == 0
    assert {f["geometry"]["type"] for f in drawn["features"]} == {"LineString", "Point"}
    code, refused = course_verb(tmp_path, {"state": "icy", "ground": [{"from_m": 9.0, "to_m": 3.0, "ground": "mud"}]})
    assert code == 2
    assert all(e["path"].startswith("stage") and e["message"] for e in refused["errors"])


def test_what_was_given_stays_given_through_the_document():
    """Facts of the road and the attitude go out and come in again as they were; what was left out stays left out."""
    document = scenario.document() | {"courses": {"brackenmere": scenario.track().model_dump(mode="json")}}
    inputs = load_inputs(document)
    assert inputs.bike.transmission.others[0].name == "wide"
    assert "home_temperature_k" not in inputs.bike.frame.model_fields_set
    assert inputs.race.stages[0].hills[0].name == "Sow's Back"
    assert dump_inputs(inputs)["bike"] == document["bike"]


# a day or a stage of the round alone ----------------------------------------------------------------------------------
def test_the_windows_of_a_round_join_and_their_curves_meet():
    """Stage after stage the windows tile the round; what one ends with the next begins with; a window has detail of its own."""
    report = demo_report("gannach")
    stages = [w for w in report.ask(windows) if w.kind == "stage"]
    length = report.ask(round_view).length_m
    assert [w.from_m for w in stages[1:]] == [w.to_m for w in stages[:-1]]
    assert (stages[0].from_m, stages[-1].to_m) == (0.0, length)
    for a, b in itertools.pairwise(stages):
        assert report.ask(round_view, a.part).distance_m[-1] == pytest.approx(
            report.ask(round_view, b.part).distance_m[0], abs=0.01
        )
        assert report.ask(level_view, a.part).laps[0][-1] == pytest.approx(report.ask(level_view, b.part).laps[0][0])
        assert report.ask(ruled_by, a.part)[-1][1] == pytest.approx(report.ask(ruled_by, b.part)[0][0], abs=20.0)
    for w in stages:
        seen = report.ask(round_view, w.part).distance_m
        assert (seen[0], seen[-1]) == pytest.approx((w.from_m, w.to_m), abs=20.0)
        assert np.unique(seen).size > 300
    assert not demo_report().ask(windows)
