"""Every finding the product can say is reached by a scenario, has the verdict it should, and reads as words."""

import math

import pytest

from lynxwort.core.evaluate import evaluate
from lynxwort.core.model.bike import FourStrokeInjected, FourStrokeJetted, Transmission, TwoStrokeRod
from lynxwort.core.model.inputs import Track
from lynxwort.core.model.race import CriticalHill, RaceAir
from lynxwort.core.report import SEVERITIES
from lynxwort.words.catalogue import FINDINGS, INPUT_NAMES, STATION_NAMES, say
from tests.support import CACHE, demo_inputs, demo_report, setup_with


def with_setup(**changes):
    return demo_inputs().model_copy(update={"setup": setup_with(**changes)})


def with_stage(**changes):
    race = demo_inputs().race
    return demo_inputs().model_copy(update={"race": race.model_copy(update={"stages": (race.stages[0].model_copy(update=changes),)})})


def with_air(**changes):
    race = demo_inputs().race
    return demo_inputs().model_copy(update={"race": race.model_copy(update={"air": race.air.model_copy(update=changes)})})


def with_readings(change):
    return demo_inputs().model_copy(update={"readings": tuple(filter(None, map(change, demo_inputs().readings)))})


def with_track(**changes):
    track = demo_inputs().courses["brackenmere"]
    known = {k: getattr(track, k) for k in Track.model_fields}
    return demo_inputs().model_copy(update={"courses": {"brackenmere": Track(**(known | changes))}})


def with_bike(**changes):
    return demo_inputs().model_copy(update={"bike": demo_inputs().bike.model_copy(update=changes)})


def no(kind):
    return with_readings(lambda r: None if r.kind == kind else r)


def odd(kind, **changes):
    return with_readings(lambda r: r.model_copy(update=changes) if r.kind == kind else r)


def elsewhere():
    return with_readings(lambda r: r.model_copy(update={"under": r.under.model_copy(update={"course_key": "another"})}) if r.kind == "fill_up" else r)


def bare(name):
    """A demo without its readings."""
    return demo_inputs(name).model_copy(update={"readings": ()})


def framed(**changes):
    return with_bike(frame=demo_inputs().bike.frame.model_copy(update=changes))


def electric(**changes):
    inputs = demo_inputs("hollowood")
    return inputs.model_copy(update={"setup": inputs.setup.model_copy(update=changes)})


def fed(engine, *, proven=True, **changes):
    """The first demo with another engine; its jets stay behind, its base setting is the proven one."""
    inputs = demo_inputs()
    setup = inputs.setup.model_copy(update={"main_jet": None})
    readings = [r for r in inputs.readings if r.kind != "known_good" or proven]
    readings = [r.model_copy(update={"under": r.under.model_copy(update={"setup": setup})}) for r in readings]
    bike = inputs.bike.model_copy(update={"engine": engine})
    return inputs.model_copy(update={"bike": bike, "setup": setup.model_copy(update=changes), "readings": tuple(readings)})


SIZE = {"displacement_m3": 293e-6, "peak_power_w": 36e3, "peak_power_rpm": 8500.0}
WIDE_BOX = Transmission(primary_ratio=2.667, gear_ratios=(2.6, 1.7, 1.4, 1.2, 1.0))
HIGH_AIR = {"temperature_low_k": 295.0, "temperature_high_k": 308.0, "pressure_kind": "station", "pressure_pa": 80_000.0}

#: code -> inputs that reach it, and the severity it must have
SCENARIOS = {
    "race_read": (demo_inputs, "ok"),
    "race_read_one": (lambda: with_stage(laps=1), "ok"),
    "heights_missing": (lambda: with_track(heights="none", height_m=()), "look"),
    "ground_unset": (lambda: with_stage(ground=()), "look"),
    "track_gap": (lambda: with_track(breaks=(5000,), latitude_deg=(*demo_inputs().courses["brackenmere"].latitude_deg[:5000],
                  *(v + 0.004 for v in demo_inputs().courses["brackenmere"].latitude_deg[5000:]))), "look"),
    "thin_air": (lambda: with_air(**HIGH_AIR), "look"),
    "air_read": (demo_inputs, "ok"),
    "readings_used": (demo_inputs, "ok"),
    "sag_missing": (demo_inputs, "unknown"),
    "fill_up_missing": (lambda: no("fill_up"), "unknown"),
    "known_good_missing": (lambda: no("known_good"), "unknown"),
    "sag_questioned": (lambda: odd("sag", value_m=0.21), "look"),
    "fill_up_doubted": (lambda: odd("fill_up", fuel_m3=0.034), "look"),
    "fill_up_elsewhere": (elsewhere, "look"),
    "sag_right": (lambda: with_setup(shock_spring_rate_n_per_m=56000.0, shock_preload_m=0.0078), "ok"),
    "preload_off": (demo_inputs, "look"),
    "spring_soft": (demo_inputs, "look"),
    "spring_stiff": (lambda: with_setup(shock_spring_rate_n_per_m=72000.0, shock_preload_m=0.008), "act"),
    "fuel_moves_sag": (demo_inputs, "ok"),
    "no_proven_jetted": (lambda: no("known_good"), "unknown"),
    "too_lean_jetted": (demo_inputs, "act"),
    "lean_side_safe_jetted": (lambda: with_setup(main_jet=170.0), "ok"),
    "rich_high_up": (lambda: with_setup(main_jet=180.0), "act"),
    "needle_unmeasured": (demo_inputs, "ok"),
    "short_on_climb": (demo_inputs, "look"),
    "pulls_everywhere": (lambda: with_stage(hills=()), "ok"),
    "grip_unknown": (lambda: with_setup(rear_sprocket_teeth=52), "look"),
    "wide_first_second": (lambda: with_bike(transmission=WIDE_BOX), "look"),
    "top_speed_revs": (demo_inputs, "ok"),
    "top_speed_power": (lambda: with_setup(front_sprocket_teeth=17, rear_sprocket_teeth=40), "ok"),
    "may_run_dry": (demo_inputs, "act"),
    "lasts": (lambda: with_setup(tank_capacity_m3=0.02, fuel_fill_m3=0.018), "ok"),
    "fuel_not_measured": (lambda: no("fill_up"), "look"),
    "chain_fits": (demo_inputs, "ok"),
    "chain_no_stretch": (lambda: framed(chain_links=116, swingarm_length_m=0.575), "look"),
    "chain_no_length": (lambda: framed(adjuster_half_range_m=0.001), "act"),
    "chain_other_length": (lambda: framed(chain_links=104), "act"),
    "sprocket_hits_case": (lambda: framed(case_gap_m=0.042), "act"),
    "race_read_hours": (lambda: demo_inputs("saltern"), "ok"),
    "race_read_tests": (lambda: demo_inputs("gannach"), "ok"),
    "race_read_stages": (lambda: demo_inputs("hollowood"), "ok"),
    "schedule_tight": (lambda: demo_inputs("gannach"), "look"),
    "schedule_holds": (lambda: with_stage(allowed_s=40_000.0), "ok"),
    "air_and_motor": (lambda: demo_inputs("hollowood"), "ok"),
    "charge_missing": (lambda: bare("hollowood"), "unknown"),
    "no_proven_rod": (lambda: fed(TwoStrokeRod(**SIZE), proven=False), "unknown"),
    "too_lean_rod": (lambda: fed(TwoStrokeRod(**SIZE), knob_clicks=-4), "act"),
    "lean_side_safe_rod": (lambda: fed(TwoStrokeRod(**SIZE), knob_clicks=8), "ok"),
    "no_proven_injected": (lambda: bare("saltern"), "unknown"),
    "too_lean_injected": (lambda: demo_inputs("saltern"), "look"),
    "lean_side_safe_injected": (lambda: demo_inputs("gannach"), "ok"),
    "sensors_unasked": (lambda: fed(FourStrokeInjected(**SIZE)), "unknown"),
    "nothing_to_meter": (lambda: demo_inputs("hollowood"), "ok"),
    "top_speed_revs_electric": (lambda: demo_inputs("hollowood"), "ok"),
    "top_speed_power_electric": (lambda: electric(power_mode=3, front_sprocket_teeth=18, rear_sprocket_teeth=40), "ok"),
    "may_run_dry_energy": (lambda: electric(pack_energy_j=1.2e7), "act"),
    "lasts_energy": (lambda: demo_inputs("hollowood"), "ok"),
    "energy_not_measured": (lambda: bare("hollowood"), "look"),
}  # fmt: skip


def test_the_scenarios_cover_the_catalogue():
    assert set(SCENARIOS) == set(FINDINGS)


@pytest.mark.parametrize("code", SCENARIOS)
def test_a_finding_is_reached_judged_and_worded(code):
    make, severity = SCENARIOS[code]
    report = evaluate(make(), cache=CACHE)
    found = [f for f in report.findings if f.code == code]
    assert found, sorted({f.code for f in report.findings})
    assert found[0].severity == severity
    worst = max(SEVERITIES.index(f.severity) for f in report.of(found[0].station))
    assert SEVERITIES.index(report.verdicts[found[0].station]) == worst
    for preset in ("metric", "us"):
        words = say(found[0], report, preset)
        for text in (words.answer, words.rail, words.text):
            assert text
            assert not set("{}_") & set(text), text
            assert "nan" not in text.lower()
        assert len(words.rail) <= 34, words.rail
    assert all(name in report.figures for name in found[0].figures)


@pytest.mark.parametrize("code", SCENARIOS)
def test_no_scenario_breaks_a_figure(code):
    """Across all scenarios: finite values inside their ranges, energy in balance, an honest status."""
    report = evaluate(SCENARIOS[code][0](), cache=CACHE)
    for name, figure in report.figures.items():
        if figure.value is None:
            assert figure.status in ("unknown", "not_applicable"), name
            continue
        assert math.isfinite(figure.value), name
        assert figure.status == "ok"
        for bound, right in ((figure.low, lambda b, v: b <= v + 1e-12), (figure.high, lambda b, v: b >= v - 1e-12)):
            assert bound is None or right(bound, figure.value), name
    assert report.value("drive.energy_residual") < 1e-9


def test_severities_follow_the_numbers():
    thresholds = [
        (with_setup(main_jet=165.0), "too_lean_jetted", "act"),
        (with_bike(engine=FourStrokeJetted(displacement_m3=293e-6, peak_power_w=36e3, peak_power_rpm=8500.0)), "lean_side_safe_jetted", "ok"),
        (with_stage(hills=(CriticalHill(at_m=22_060.0, length_m=220.0, grade=0.6, ground="deep_sand"),)), "short_on_climb", "act"),
        (with_setup(tank_capacity_m3=0.013, fuel_fill_m3=0.013), "may_run_dry", "look"),
    ]
    for inputs, code, severity in thresholds:
        assert {f.code: f.severity for f in evaluate(inputs, cache=CACHE).findings}[code] == severity, code


def test_a_lean_warning_never_proposes_leaner_and_safety_words_stand_by():
    report = demo_report()
    for finding in report.findings:
        if finding.code == "too_lean_jetted":
            assert all(move.value > 165.0 for moves in finding.proposals for move in moves)
            assert "crispest just before it seizes" in say(finding, report).caution
        if finding.code in ("spring_soft", "spring_stiff"):
            assert "under load" in say(finding, report).caution
    for jet in (172.5, 175.0, 180.0):
        rich = evaluate(with_setup(main_jet=jet), cache=CACHE)
        for finding in (f for f in rich.findings if f.code == "rich_high_up"):
            for moves in finding.proposals:
                after = evaluate(with_setup(main_jet=moves[0].value), cache=CACHE)
                assert after.value("fuelling.lean_margin_min") >= -1e-9


def test_pressure_kinds_agree_when_they_describe_the_same_air():
    """The same station pressure said in three ways gives the same thinnest air."""
    from lynxwort.core.air.standard import pressure_altitude
    from lynxwort.core.air.station import station_pressure

    height, temperature = 560.0, 283.0
    base = {"temperature_low_k": temperature, "temperature_high_k": temperature, "reading_height_m": height, "pressure_spread_pa": 0.0,
            "relative_humidity_low": 0.5, "relative_humidity_high": 0.5}  # fmt: skip
    here = station_pressure("sea_level", 101_800.0, height_m=height, temperature_k=temperature)
    from scipy.optimize import brentq

    setting = brentq(lambda q: station_pressure("altimeter", q, height_m=height, temperature_k=temperature) - here, 95_000, 105_000)
    found = []
    for kind, pressure in (("sea_level", 101_800.0), ("station", here), ("altimeter", setting)):
        air = RaceAir(pressure_kind=kind, pressure_pa=float(pressure), **base)
        race = demo_inputs().race.model_copy(update={"air": air})
        found.append(evaluate(demo_inputs().model_copy(update={"race": race}), cache=CACHE).value("purpose.density_ratio_min"))
    assert found == pytest.approx([found[0]] * 3, rel=1e-9)
    assert pressure_altitude(here) == pytest.approx(height, abs=60)


def test_station_and_input_names_are_complete():
    report = demo_report()
    assert {f.station for f in report.findings} < set(STATION_NAMES)
    reports = [report, *(demo_report(name) for name in ("saltern", "gannach", "hollowood")), evaluate(fed(TwoStrokeRod(**SIZE)), cache=CACHE)]
    paths = {path for r in reports for f in r.figures.values() for path, *_rest in f.inputs}
    assert {p for p in paths if not p.startswith("setup.")} <= set(INPUT_NAMES)
