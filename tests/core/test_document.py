"""The document's door, the round trip, the command line, and what `evaluate` promises."""

import copy
import json
import math
import re
from pathlib import Path

import pytest

from lynxwort.cli.main import main
from lynxwort.core import evaluate as evaluation
from lynxwort.core.cache import StageCache
from lynxwort.core.errors import InputRefused
from lynxwort.core.figures import FIGURES
from lynxwort.core.judging import consequences
from lynxwort.core.model.inputs import dump_inputs, load_inputs
from lynxwort.core.tunables import current_value, move, neighbour, of_another_kind, tunables_of
from lynxwort.demo.bikes import SETUP
from lynxwort.demo.scenario import COURSE_KEY, document
from lynxwort.words.catalogue import REASONS, say
from lynxwort.words.refusals import MESSAGES, explain
from tests.support import demo_inputs, demo_report, report_with, setup_with

DOCS = Path(__file__).parents[2] / "docs"
SHORT_COURSE = {
    "heights": "barometer",
    "latitude_deg": [54.0, 54.01, 54.02],
    "longitude_deg": [-2.0, -2.0, -2.01],
    "height_m": [500.0, 520.0, 510.0],
}
DELETE = object()
#: what is changed (path, value), the path and code of the refusal that must come
BAD = [
    ("format", 2, "format", "not_a_choice"),
    ("format", DELETE, "format", "missing"),
    ("colour", "green", "colour", "unknown_key"),
    ("bike", DELETE, "bike", "missing"),
    ("bike", 7, "bike", "not_an_object"),
    ("bike.name", "", "bike.name", "too_short"),
    ("bike.name", 5, "bike.name", "not_text"),
    ("bike.wings", 2, "bike.wings", "unknown_key"),
    ("bike.engine.kind", "steam", "bike.engine.kind", "not_a_choice"),
    ("bike.engine.kind", DELETE, "bike.engine.kind", "missing"),
    ("bike.engine.displacement_m3", 293.0, "bike.engine.displacement_m3", "too_high"),
    ("bike.engine.displacement_m3", -1.0, "bike.engine.displacement_m3", "too_low"),
    ("bike.engine.peak_power_w", "36 kW", "bike.engine.peak_power_w", "not_a_number"),
    ("bike.engine.peak_power_w", math.nan, "bike.engine.peak_power_w", "not_finite"),
    ("bike.engine.peak_power_w", math.inf, "bike.engine.peak_power_w", "not_finite"),
    ("bike.engine.peak_power_w", True, "bike.engine.peak_power_w", "not_a_number"),
    ("bike.engine.carburettor.jet_numbering", "letters", "bike.engine.carburettor.jet_numbering", "not_a_choice"),
    ("bike.transmission.gear_ratios", [], "bike.transmission.gear_ratios", "too_few"),
    ("bike.transmission.gear_ratios", [1.0, 2.0], "bike.transmission.gear_ratios", "not_falling"),
    ("bike.transmission.gear_ratios", "2.1 1.7", "bike.transmission.gear_ratios", "not_a_list"),
    ("bike.transmission.gear_ratios", [2.0, 99.0], "bike.transmission.gear_ratios.1", "too_high"),
    ("bike.tyre.marking", "fat", "bike.tyre.marking", "not_a_tyre_marking"),
    ("bike.frame.mass_dry_kg", None, "bike.frame.mass_dry_kg", "not_a_number"),
    ("bike.tyre.speed_symbol", "Ö", "bike.tyre.speed_symbol", "not_a_choice"),
    ("bike.tyre.inside", "foam", "bike.tyre.inside", "not_a_choice"),
    ("bike.engine.clutch", "none", "bike.engine.clutch", "not_a_choice"),
    ("bike.engine.torque_table", [{"rpm": 3000.0, "torque_nm": 20.0}], "bike.engine.torque_table", "too_few"),
    (
        "bike.engine.torque_table",
        [{"rpm": r, "torque_nm": 20.0} for r in (5000.0, 4000.0, 6000.0)],
        "bike.engine.torque_table",
        "rpm_not_rising",
    ),
    ("bike.engine.torque_table", [{"rpm": 3000.0}], "bike.engine.torque_table.0.torque_nm", "missing"),
    ("bike.transmission.others", [{"name": "", "gear_ratios": [2.0]}], "bike.transmission.others.0.name", "too_short"),
    (
        "bike.transmission.others",
        [{"name": "close", "gear_ratios": [1.0, 2.0]}],
        "bike.transmission.others.0.gear_ratios",
        "not_falling",
    ),
    ("bike.frame.front_tyre", "thin", "bike.frame.front_tyre", "not_a_tyre_marking"),
    ("bike.frame.clamp_offset_m", 22.0, "bike.frame.clamp_offset_m", "too_high"),
    ("riders.0.inseam_m", 32.0, "riders.0.inseam_m", "too_high"),
    ("setup.gearbox", 3, "setup.gearbox", "beyond_gearboxes"),
    ("setup.fork_up_m", 0.5, "setup.fork_up_m", "too_high"),
    ("setup.rear_tyre_pressure_pa", -1.0, "setup.rear_tyre_pressure_pa", "too_low"),
    ("race.air.wind_m_per_s", 90.0, "race.air.wind_m_per_s", "too_high"),
    ("race.stages.0.state", "icy", "race.stages.0.state", "not_a_choice"),
    (
        "race.stages.0.ground",
        [{"from_m": 0.0, "to_m": 9.0, "ground": "sand", "depth_m": 4.0}],
        "race.stages.0.ground.0.depth_m",
        "too_high",
    ),
    (
        "race.stages.0.ground",
        [{"from_m": 0.0, "to_m": 9.0, "ground": "sand", "tightness": "very"}],
        "race.stages.0.ground.0.tightness",
        "not_a_choice",
    ),
    (
        "race.stages.0.hills",
        [{"at_m": 10.0, "length_m": 1.0, "grade": 0.5, "ground": "mud"}],
        "race.stages.0.hills.0.length_m",
        "too_low",
    ),
    (
        "race.stages.0.hills",
        [{"at_m": 10.0, "length_m": 9.0, "grade": 0.5, "ground": "mud", "entry_speed_m_per_s": 400.0}],
        "race.stages.0.hills.0.entry_speed_m_per_s",
        "too_high",
    ),
    (
        "readings",
        [{"id": "a", "kind": "hill", "at_m": 5.0, "outcome": "flew", "under": {"setup": {}}}],
        "readings.0.outcome",
        "not_a_choice",
    ),
    (
        "readings",
        [{"id": "a", "kind": "roll_out", "distance_m": 0.1, "under": {"setup": {}}}],
        "readings.0.distance_m",
        "too_low",
    ),
    (
        "readings",
        [{"id": "a", "kind": "ridden_lap", "clock_s": [0.0, 9.0, 5.0], "under": {"setup": {}}}],
        "readings.0.clock_s",
        "clock_not_rising",
    ),
    (
        "readings",
        [{"id": "a", "kind": "rpm_speed", "rpm": 7000.0, "speed_m_per_s": 20.0, "under": {"setup": {}}}],
        "readings.0.gear",
        "missing",
    ),
    ("setup.front_sprocket_teeth", 13.5, "setup.front_sprocket_teeth", "not_a_whole_number"),
    ("setup.front_sprocket_teeth", 0, "setup.front_sprocket_teeth", "too_low"),
    ("setup.fuel_fill_m3", 0.02, "setup.fuel_fill_m3", "fill_over_tank"),
    ("setup.needle_clip", 7, "setup.needle_clip", "clip_beyond_needle"),
    ("setup.shock_preload_m", 12.0, "setup.shock_preload_m", "too_high"),
    ("parts.main_jet", 165.0, "parts.main_jet", "not_a_list"),
    ("riders", [], "riders", "too_few"),
    ("riders.0.posture", "lying", "riders.0.posture", "not_a_choice"),
    ("riders.0.mass_in_gear_kg", DELETE, "riders.0.mass_in_gear_kg", "missing"),
    ("race.air.temperature_low_k", 310.0, "race.air", "temperature_order"),
    ("race.air.temperature_low_k", 3.0, "race.air.temperature_low_k", "too_low"),
    ("race.air.relative_humidity_low", 0.99, "race.air", "humidity_order"),
    ("race.start", "next Sunday", "race.start", "not_a_moment"),
    ("race.time_zone", "Moon/Base", "race.time_zone", "not_a_time_zone"),
    ("race.stages", [], "race.stages", "too_few"),
    ("race.stages.0.laps", 0, "race.stages.0.laps", "too_low"),
    ("race.stages.0.course_key", "elsewhere", "race.stages.0.course_key", "course_missing"),
    ("race.stages.0.ground", [{"from_m": 5.0, "to_m": 1.0, "ground": "sand"}], "race.stages.0", "segment_order"),
    (
        "race.stages.0.ground",
        [{"from_m": 0.0, "to_m": 9.0, "ground": "sand"}, {"from_m": 5.0, "to_m": 20.0, "ground": "mud"}],
        "race.stages.0",
        "segment_overlap",
    ),
    (
        "race.stages.0.ground",
        [{"from_m": 0.0, "to_m": 9.0, "ground": "lava"}],
        "race.stages.0.ground.0.ground",
        "not_a_choice",
    ),
    ("race.entries", [{"rider": 4}], "race.entries.0.rider", "rider_missing"),
    ("courses", {}, "courses", "too_few"),
    ("courses.c.latitude_deg", [54.0], "courses.c", "too_few_points"),
    ("courses.c.latitude_deg", [54.0, 54.1], "courses.c", "lengths_differ"),
    ("courses.c.latitude_deg", [54.0, 99.0, 54.0], "courses.c", "not_on_earth"),
    ("courses.c.height_m", [1.0, 2.0, 99999.0], "courses.c", "height_out_of_range"),
    ("courses.c.height_m", DELETE, "courses.c", "heights_missing"),
    ("courses.c.breaks", [9], "courses.c", "break_out_of_range"),
    ("readings.0.value_m", 3.0, "readings.0.value_m", "too_high"),
    ("readings.0.kind", "guess", "readings.0.kind", "not_a_choice"),
    ("readings.0.under", DELETE, "readings.0.under", "missing"),
    ("seed", -1, "seed", "too_low"),
    (
        "bike.engine",
        {
            "kind": "injected_four_stroke",
            "displacement_m3": 3e-4,
            "peak_power_w": 3e4,
            "peak_power_rpm": 9000.0,
            "injection": {"sensors": "nose"},
        },
        "bike.engine.injection.sensors",
        "not_a_choice",
    ),
    (
        "bike.engine",
        {
            "kind": "injected_two_stroke",
            "displacement_m3": 3e-4,
            "peak_power_w": 3e4,
            "peak_power_rpm": 9000.0,
            "injection": {"map_shifts": [0.0, 9.0]},
        },
        "bike.engine.injection.map_shifts.1",
        "too_high",
    ),
    (
        "bike.engine",
        {
            "kind": "rod_two_stroke",
            "displacement_m3": 3e-4,
            "peak_power_w": 3e4,
            "peak_power_rpm": 9000.0,
            "carburettor": {"compensation": 1.4},
        },
        "bike.engine.carburettor.compensation",
        "too_high",
    ),
    (
        "bike.engine",
        {
            "kind": "electric",
            "peak_power_w": 3e4,
            "peak_torque_nm": 40.0,
            "limiter_rpm": 9000.0,
            "mode_power_shares": [0.5, 1.0],
        },
        "bike.engine.mode_power_shares",
        "modes_not_falling",
    ),
    (
        "bike.engine",
        {"kind": "electric", "peak_power_w": 3e4, "peak_torque_nm": 40.0, "limiter_rpm": 9000.0},
        "setup.pack_energy_j",
        "missing",
    ),
    (
        "bike.engine",
        {"kind": "electric", "peak_power_w": 3e4, "peak_torque_nm": 4000.0, "limiter_rpm": 9000.0},
        "bike.engine.peak_torque_nm",
        "too_high",
    ),
    ("setup.main_jet", DELETE, "setup.main_jet", "missing"),
    ("setup.tank_capacity_m3", DELETE, "setup.tank_capacity_m3", "missing"),
    ("setup.knob_clicks", 3.5, "setup.knob_clicks", "not_a_whole_number"),
    ("setup.charge_share", 1.2, "setup.charge_share", "too_high"),
    ("race.stages.0.hours_s", 7200.0, "race.stages.0", "laps_and_hours"),
    ("race.stages", [{"course_key": "c", "hours_s": 7200.0}, {"course_key": "c"}], "race", "hours_alone"),
    ("race.stages", [{"course_key": "c"}] * 21, "race.stages", "too_many"),
    ("race.stages", [{"course_key": "c"}, {"course_key": "d"}], "race.stages.1.course_key", "course_missing"),
    ("race.stages.0.kind", "sprint", "race.stages.0.kind", "not_a_choice"),
    ("race.stages.0.allowed_s", 5.0, "race.stages.0.allowed_s", "too_low"),
    (
        "race.stages.0.zones",
        [{"from_m": 0.0, "to_m": 90.0, "kind": "speed_limit"}],
        "race.stages.0.zones.0",
        "limit_missing",
    ),
    (
        "race.stages.0.zones",
        [{"from_m": 90.0, "to_m": 10.0, "kind": "night"}],
        "race.stages.0.zones.0",
        "segment_order",
    ),
    (
        "race.stages.0.zones",
        [{"from_m": 0.0, "to_m": 90.0, "kind": "fog"}],
        "race.stages.0.zones.0.kind",
        "not_a_choice",
    ),
    ("race.stages.0.crew_points", [{"at_m": -4.0}], "race.stages.0.crew_points.0.at_m", "too_low"),
    (
        "readings",
        [{"id": "c", "kind": "charge", "energy_j": -1.0, "laps": 1.0, "under": {"setup": SETUP}}],
        "readings.0.energy_j",
        "too_low",
    ),
    ("parts.pack_energy_j", "big", "parts.pack_energy_j", "not_a_list"),
]


def small_document() -> dict:
    made = copy.deepcopy(document())
    made["race"]["stages"][0] |= {"course_key": "c", "ground": [], "hills": []}
    for reading in made["readings"]:
        reading["under"].pop("course_key", None)
    return made | {"courses": {"c": copy.deepcopy(SHORT_COURSE)}}


def damage(path: str, value) -> dict:
    made = small_document()
    item, (*parents, last) = made, path.split(".")
    for step in parents:
        item = item[int(step)] if isinstance(item, list) else item[step]
    if value is DELETE:
        del item[last]
    else:
        item[last] = value
    return made


@pytest.mark.parametrize(
    ("path", "value", "where", "code"), BAD, ids=lambda v: "left out" if v is DELETE else str(v)[:40]
)
def test_a_bad_document_is_refused_at_the_right_place(path, value, where, code):
    with pytest.raises(InputRefused) as refused:
        load_inputs(damage(path, value))
    found = {(r.path, r.code) for r in refused.value.refusals}
    assert (where, code) in found
    for refusal in refused.value.refusals:
        assert refusal.code in MESSAGES
        assert "{" not in explain(refusal)
        if refusal.code in ("too_low", "too_high") and refusal.path.rsplit(".", 1)[-1] not in ("seed", "1"):
            assert refusal.unit
            assert refusal.low is not None or refusal.high is not None


@pytest.mark.parametrize(
    ("path", "value", "where", "code"),
    [
        (
            "race.stages.0.ground",
            [{"from_m": 90_000.0, "to_m": 91_000.0, "ground": "sand"}],
            "race.stages.0.ground.0.from_m",
            "beyond_course",
        ),
        (
            "race.stages.0.hills",
            [{"at_m": 90_000.0, "length_m": 50.0, "grade": 0.3, "ground": "sand"}],
            "race.stages.0.hills.0.at_m",
            "beyond_course",
        ),
        ("courses.c.height_m", [8900.0, 8950.0, 8900.0], "race.air", "out_of_model_range"),
    ],
)
def test_what_only_shows_on_the_course_is_refused_too(path, value, where, code):
    with pytest.raises(InputRefused) as refused:
        evaluation.evaluate(load_inputs(damage(path, value)))
    assert (refused.value.refusals[0].path, refused.value.refusals[0].code) == (where, code)


def test_a_course_may_be_named_like_a_kind_of_reading():
    made = small_document()
    made["race"]["stages"][0]["course_key"] = "hill"
    made["courses"] = {"hill": SHORT_COURSE | {"latitude_deg": [54.0, 99.0, 54.0]}}
    with pytest.raises(InputRefused) as refused:
        load_inputs(made)
    assert [(r.path, r.code) for r in refused.value.refusals] == [("courses.hill", "not_on_earth")]


def test_the_rider_of_the_entry_counts_not_the_first_of_the_list():
    """0.8.0 read the first rider in seven places."""
    made = small_document()
    light = made["riders"][0] | {
        "name": "Another",
        "mass_in_gear_kg": 55.0,
        "pace": 0.4,
        "inseam_m": 0.7,
        "posture": "seated",
    }
    other = copy.deepcopy(made) | {"riders": [light, made["riders"][0]]}
    other["race"]["entries"] = [{"rider": 1}]
    alone, second = (evaluation.evaluate(load_inputs(d)) for d in (made, other))
    for name, figure in alone.figures.items():
        assert second.figures[name].value == figure.value, name
        paths = [(path.replace("riders.0.", "riders.1."), *rest) for path, *rest in figure.inputs]
        assert paths == [tuple(i) for i in second.figures[name].inputs], name
    assert [f.code for f in second.findings] == [f.code for f in alone.findings]


def test_what_is_not_asked_any_more_is_read_and_dropped():
    made = small_document()
    made["bike"]["engine"]["carburettor"] = made["bike"]["engine"].get("carburettor", {}) | {
        "pump_squirt_s": 0.5,
        "leak_jet": 40.0,
    }
    kept = dump_inputs(load_inputs(made))["bike"]["engine"]["carburettor"]
    assert not {"pump_squirt_s", "leak_jet"} & set(kept)


def test_a_change_to_what_another_kind_of_bike_has_is_refused_and_nothing_is_rounded_in_silence():
    inputs = demo_inputs()
    with pytest.raises(InputRefused, match="not_a_whole_number"):
        move(inputs.setup, "needle_clip", 2.5)
    assert move(inputs.setup, "needle_clip", 2.0 + 1e-12).needle_clip == 2
    assert of_another_kind(inputs.bike, ("main_jet", "knob_clicks", "fuel_trim", "pack_energy_j", "metering_rod")) == [
        "knob_clicks",
        "fuel_trim",
        "pack_energy_j",
        "metering_rod",
    ]


def test_round_trip_keeps_every_given_value_and_every_assumption():
    once = dump_inputs(demo_inputs())
    again = dump_inputs(load_inputs(json.loads(json.dumps(once))))
    assert once == again
    assert "wheelbase_m" not in once["bike"]["frame"]
    assert (
        evaluation.evaluate(load_inputs(once)).to_json()["figures"]
        == evaluation.evaluate(demo_inputs()).to_json()["figures"]
    )


def test_every_figure_is_present_documented_and_complete():
    report = demo_report()
    assert set(report.figures) == set(FIGURES)
    text = (DOCS / "figures.md").read_text()
    for name, spec in FIGURES.items():
        figure = report.figures[name]
        assert f"`{name}`" in text
        assert figure.unit == spec.unit
        if figure.status == "not_applicable":
            assert figure.reason in REASONS, name
            continue
        assert figure.formula, name
        assert figure.source, name
        if figure.low is not None and figure.high is not None:
            assert figure.low <= figure.value <= figure.high, name
    assert "assumed" in {basis for f in report.figures.values() for *_x, basis in f.inputs}


def test_full_depth_adds_ranges_and_moves_no_value():
    bench = evaluation.evaluate(demo_inputs(), cache=StageCache())
    assert bench.figures["drive.metres_short"].low is None
    assert {k: f.value for k, f in bench.figures.items()} == {k: f.value for k, f in demo_report().figures.items()}
    assert demo_report().figures["drive.metres_short"].high > demo_report().value("drive.metres_short")


def test_jets_and_preload_never_rerun_the_ride():
    cache = StageCache()
    evaluation.evaluate(demo_inputs(), cache=cache)
    rides = cache.misses["ride"]
    for change in (
        {"main_jet": 170.0},
        {"shock_preload_m": 0.02},
        {"needle_clip": 4},
        {"fork_spring_rate_n_per_m": 4600.0},
    ):
        evaluation.evaluate(demo_inputs().model_copy(update={"setup": setup_with(**change)}), cache=cache)
    assert cache.misses["ride"] == rides
    evaluation.evaluate(demo_inputs().model_copy(update={"setup": setup_with(rear_sprocket_teeth=50)}), cache=cache)
    assert cache.misses["ride"] == rides + 1


def test_a_reading_struck_out_leaves_no_trace():
    inputs = demo_inputs()
    for i, reading in enumerate(inputs.readings):
        without = tuple(r for r in inputs.readings if r is not reading)
        struck = tuple(r.model_copy(update={"struck_out": True}) if r is reading else r for r in inputs.readings)
        a, b = (report_with(readings=r).to_json() for r in (without, struck))
        assert a["figures"] == b["figures"], i
        assert a["findings"] == b["findings"]


def test_consequences_judge_and_call_the_small_even():
    found = {
        c.figure: c.judgement
        for c in consequences(demo_report(), report_with(setup=setup_with(rear_sprocket_teeth=50)))
    }
    assert found["drive.metres_short"] == "better"
    assert found["drive.top_speed"] == "worse"
    assert found["drive.lap_time"] == "even"
    assert consequences(demo_report(), demo_report()) == []


def test_every_finding_has_words_and_proposals_do_what_they_say():
    report = demo_report()
    for finding in report.findings:
        for preset in ("metric", "us"):
            words = say(finding, report, preset)
            assert "{" not in words.answer + words.rail + words.text
    by_code = {f.code: f for f in report.findings}

    def after(code: str, choice: int = 0):
        setup = report.behind.up.inputs.setup
        for step in by_code[code].proposals[choice]:
            setup = move(setup, step.tunable, step.value)
        return report_with(setup=setup)

    assert after("short_on_climb").value("drive.metres_short") == 0
    assert after("too_lean_jetted").value("fuelling.lean_margin_min") >= 0
    assert after("may_run_dry").value("range.p_finish") >= 0.985
    sprung = after("spring_soft")
    assert not [
        f
        for f in sprung.findings
        if f.station == "chassis" and f.parameters.get("end") == "rear" and f.severity != "ok"
    ]
    assert by_code["spring_soft"].proposals[0][0].owned is True


def test_notches_step_from_the_box_and_stop_at_the_ends():
    inputs = demo_inputs()
    assert neighbour(inputs.bike, inputs.setup, inputs.parts, "main_jet", 1).value == 167.5
    at_167 = setup_with(main_jet=167.5)
    assert neighbour(inputs.bike, at_167, inputs.parts, "main_jet", 1) == type(
        neighbour(inputs.bike, at_167, inputs.parts, "main_jet", 1)
    )(value=168.0, owned=True)
    assert neighbour(inputs.bike, inputs.setup, inputs.parts, "fuel_fill_m3", 1) is None
    assert neighbour(inputs.bike, setup_with(front_sprocket_teeth=8), inputs.parts, "front_sprocket_teeth", -1) is None
    smaller = move(inputs.setup, "tank_capacity_m3", 0.009)
    assert smaller.fill_m3 == 0.009
    for tunable in tunables_of(inputs.bike):
        for direction in (-1, 1):
            near = neighbour(inputs.bike, inputs.setup, inputs.parts, tunable, direction)
            assert near is None or current_value(move(inputs.setup, tunable, near.value), tunable) == pytest.approx(
                near.value, abs=1e-9
            )


def test_the_command_line(tmp_path, capsys):
    assert main(["evaluate", "--example"]) == 0
    example = capsys.readouterr().out
    path = tmp_path / "example.json"
    path.write_text(example)
    assert main(["evaluate", str(path)]) == 0
    printed = json.loads(capsys.readouterr().out)
    assert printed["figures"]["drive.top_speed"]["value"] == pytest.approx(
        demo_report().value("drive.top_speed"), rel=1e-9
    )
    assert printed["findings"][0]["words"]["answer"]
    assert "views" not in printed
    # what is printed was tried: each proposal says what it leaves
    assert all(len(f["leaves"]) == len(f["proposals"]) for f in printed["findings"])
    assert main(["evaluate", str(path), "--views", "drive.pull", "range.lap_ends"]) == 0
    views = json.loads(capsys.readouterr().out)["views"]
    printed_gears = json.loads(example)["bike"]["transmission"]["gear_ratios"]
    assert list(views) == ["drive.pull", "range.lap_ends"]
    assert len(views["drive.pull"]["forces_n"]) == len(printed_gears)
    assert len(views["drive.pull"]["speed_m_per_s"]) == len(views["drive.pull"]["forces_n"][0])
    assert main(["kit", str(path), "--on", "fan", "--off", "skid_plate_alloy"]) == 0
    kit = json.loads(capsys.readouterr().out)
    assert [i["id"] for i in kit["items"] if i["is_on"]] == ["hand_guards_wrap", "fan", "lamp_led_40", "tail_lamp"]
    assert kit["figures"]["kit.build.mass"]["value"] == pytest.approx(0.6 - 2.1)
    assert "must_off" in [f["code"] for f in kit["findings"]]
    assert kit["brakes"]["front"][1]["rotor_m"] == 0.28
    assert main(["kit", str(path), "--on", "wings"]) == 2
    assert json.loads(capsys.readouterr().out)["errors"][0]["code"] == "no_such_item"
    assert main(["build", str(path)]) == 0
    plan = json.loads(capsys.readouterr().out)
    assert [n["on"] for n in plan["needs"] if n["need"] == "must"] == [["skid_plate_alloy"]]
    assert main(["spares", str(path)]) == 0
    packed = json.loads(capsys.readouterr().out)
    assert packed["figures"]["kit.spares.loss_left"]["value"] == pytest.approx(packed["left_s"])
    assert packed["spares"][0]["spare"]["id"] == "tube"
    assert main(["evaluate", str(path), "--views", "drive.nothing"]) == 2
    assert json.loads(capsys.readouterr().out)["errors"][0]["path"] == "views"
    path.write_text("{")
    assert main(["evaluate", str(path)]) == 2
    assert json.loads(capsys.readouterr().out)["errors"][0]["code"] == "not_json"
    path.write_text(example)
    assert main(["sweep", str(path)]) == 0
    swept = json.loads(capsys.readouterr().out)
    assert swept["proposal"] == {"front": 14, "rear": 50}
    assert len(swept["rows"]) == 40
    gpx = Path(__file__).parents[2] / "src/lynxwort/demo/brackenmere.gpx"
    assert main(["course", str(gpx), "--heights", "barometer"]) == 0
    course = json.loads(capsys.readouterr().out)
    assert course["distance_m"] == pytest.approx(demo_report().value("purpose.lap_distance"), rel=1e-9)
    assert course["climb_low_m"] < course["climb_m"] < course["raw_climb_m"]


def test_the_published_schema_accepts_the_example():
    import jsonschema

    schema = json.loads((DOCS / "document.schema.json").read_text())
    jsonschema.validate(document() | {"courses": {COURSE_KEY: SHORT_COURSE}}, schema)
    with pytest.raises(jsonschema.ValidationError):
        jsonschema.validate(damage("bike.engine.peak_power_w", -1), schema)


def test_format_1_fixture_still_reads():
    fixture = json.loads((Path(__file__).parents[1] / "data/format-1.json").read_text())
    report = evaluation.evaluate(load_inputs(fixture))
    assert report.value("purpose.lap_distance") > 1000
    assert not re.search(
        r"nan|inf", json.dumps(report.to_json()["figures"], allow_nan=True).lower().replace("information", "")
    )
