"""Fuelling through the pages: jets for a cold dawn from the box, a log that becomes trims, a dyno run that changes the gearing's verdict."""

import re

from playwright.sync_api import expect

from lynxwort.core.physics.air.moist import AirState
from lynxwort.core.standin import bench_dyno
from lynxwort.demo import scenario


def test_a_cold_dawn_is_jetted_from_the_box_and_the_window_goes_on_the_card(demo):
    w = demo()
    page = w.page
    w.expect.add(422)
    w.go(f"{w.bench}/fuelling/?at=24500")
    expect(page.get_by_role("heading", level=1)).to_contain_text("Main 165 too lean at the cold low point")
    # the needle stands in its jet as the throttle has it at this place
    expect(page.get_by_role("img", name="The needle in its jet, to scale")).to_be_visible()
    w.room("Jets and weather")
    expect(page.get_by_role("img", name=re.compile("Coldest safe thermometer"))).to_be_visible()
    w.axe()
    w.no_sideways_scroll()
    expect(page.get_by_role("row").filter(has_text="168 is safe down to")).to_contain_text(
        "colder or higher pressure: 170"
    )
    page.get_by_label("A can holds").fill("ten")
    page.get_by_role("button", name="Work it out").click()
    expect(page.get_by_role("alert")).to_contain_text("Not a number")
    expect(page.get_by_label("A can holds")).to_have_value("ten")
    page.get_by_label("A can holds").fill("5 L")
    page.get_by_role("button", name="Work it out").click()
    expect(page.get_by_role("row").filter(has_text="98 mL / 3.3 fl oz").first).to_be_visible()
    page.get_by_role("row").filter(has_text="168 is safe down to").get_by_role("button", name="Try").click()
    expect(page.get_by_role("button", name=re.compile("Put back Main jet 165 → 168"))).to_be_visible()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Main 168 safe on the lean side")
    # a group of notches opens, an airbox by its name leans it again, and is put back
    w.room("Richness")
    page.get_by_role("heading", name="What it breathes through").click()
    page.locator("#more-airbox").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("too lean")
    page.get_by_role("button", name="Put back Airbox").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Main 168 safe")
    page.locator("summary", has_text="Keep").click()
    page.get_by_label("Why this change?").fill("frost at the start")
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text("against No. 2")).to_be_visible()
    page.get_by_role("link", name="Pit card").first.click()
    expect(page.get_by_role("heading", name="If the air changes")).to_be_visible()
    expect(page.get_by_text(re.compile("168 is safe down to"))).to_be_visible()
    # what the last Keep changed stands first, with what it was; then what goes into the tank, its oil apart
    expect(page.locator(".card-set > div").first).to_contain_text(re.compile(r"Main jet\s+168\s+was 165"))
    expect(page.locator(".card-pour")).to_contain_text("225 mL of oil in 11.3 L of petrol, 50 : 1")
    # something is felt: ranked, never leaner
    w.go(f"{w.bench}/fuelling/diagnose/")
    page.get_by_label("What it does").select_option(label="idle hangs")
    page.get_by_label("Throttle", exact=True).select_option(label="closed")
    expect(page.get_by_role("heading", name="It sounds lean")).to_be_visible()
    expect(page.get_by_role("listitem").filter(has_text="Air leak").first).to_be_visible()
    # or by a tap on the throttle as drawn
    page.get_by_role("link", name="about ½").click()
    expect(page.get_by_label("Throttle", exact=True)).to_have_value("half")
    expect(page.get_by_label("What it does")).to_have_value("hangs_idle")
    w.axe()


def test_a_lean_pilot_is_told_where_it_rules_and_nothing_of_it_is_better(demo):
    w = demo()
    page = w.page
    w.go(f"{w.bench}/fuelling/")
    for size in ("47.5", "45"):
        page.locator("#less-pilot_jet").click()
        expect(page.locator(".chips")).to_contain_text(f"Pilot jet 48 → {size}")
    page.locator("#less-needle_clip").click()
    expect(page.locator(".chips")).to_contain_text("Needle clip 3 → 2")
    expect(page.get_by_role("heading", level=3, name=re.compile("Lean at closed to ¼ throttle"))).to_be_visible()
    expect(page.get_by_role("heading", level=3, name=re.compile("Lean at ¼ to ½ throttle"))).to_be_visible()
    expect(page.locator(".effects")).to_contain_text("worse")
    expect(page.locator(".effects")).not_to_contain_text("better")
    # each proposal says what it leaves; the one that settles it does
    pilot = page.locator("article").filter(has=page.get_by_role("heading", name=re.compile("Lean at closed")))
    expect(pilot.get_by_role("button", name=re.compile("Try pilot jet")).first).to_contain_text(
        re.compile("settles it|leaves")
    )
    w.axe()
    w.go(f"{w.bench}/range/")
    expect(page.locator(".effects")).not_to_contain_text("Chance to finish, better")


def test_a_log_becomes_trims_and_the_error_falls(whole, tmp_path):
    w = whole()
    page = w.page
    w.go("/")
    page.get_by_role("link", name="To the bench Saltern").click()
    page.wait_for_selector("#bench")
    base = page.url.removeprefix(w.base).rsplit("/", 2)[0]
    w.go(f"{base}/fuelling/map/")
    error = page.locator("[data-figure='fuelling.trim_rms']")
    before = float(error.get_attribute("data-si"))
    w.axe()
    w.no_sideways_scroll()
    page.get_by_role("button", name="Take the proposed trims").click()
    expect(page.get_by_text("In the draft.")).to_be_visible()
    after = float(error.get_attribute("data-si"))
    assert after < 0.75 * before
    # a log of one's own, its columns named by hand
    path = tmp_path / "mine.csv"
    rows = [
        f"{0.05 * i:.2f},{6500 + 1000 * ((i // 50) % 2)},{35 + 15 * ((i // 100) % 2)},{0.93 + 0.002 * (i % 3):.3f}"
        for i in range(1200)
    ]
    path.write_text("\n".join(["one,two,three,four", *rows]))
    page.get_by_label("Log, delimited text").set_input_files(path)
    page.get_by_role("button", name="Read the log").click()
    expect(page.get_by_role("heading", name="Which column is what?")).to_be_visible()
    for label, column in (("Time", "one"), ("Revs", "two"), ("Throttle", "three"), ("Lambda", "four")):
        page.get_by_label(label, exact=True).select_option(label=column)
    page.get_by_role("button", name="Read the log").click()
    expect(page.get_by_role("progressbar")).to_be_visible()
    w.run_jobs()
    expect(page.get_by_role("button", name="Keep it as a reading")).to_be_visible()
    w.axe()
    w.go(f"{base}/fuelling/")
    expect(page.get_by_role("button", name=re.compile(r"Put back Map, cell by cell none → \d+ cells"))).to_be_visible()
    expect(page.locator(".effects")).to_contain_text("Lean margin")


def test_a_dyno_run_changes_what_the_gearing_says(demo, tmp_path):
    w = demo()
    page = w.page
    w.expect.add(422)
    w.go(f"{w.bench}/drive/")
    hill = "[data-figure='drive.hill.1.run_up_speed']"
    page.locator(".table-behind summary").click()
    before = float(page.locator(hill).get_attribute("data-si"))
    w.go(f"{w.bench}/fuelling/")
    w.room("Dyno")
    w.axe()
    engine = scenario.inputs().bike.engine
    weak = engine.model_copy(update={"peak_power_w": 0.85 * engine.peak_power_w})
    air = AirState(pressure_pa=100_000.0, temperature_k=293.15, relative_humidity=0.5)
    path = tmp_path / "weak.csv"
    path.write_text("\n".join(bench_dyno.run(weak, air, efficiency=0.9, seed=2, number=0)))
    page.get_by_label("Run, delimited text").set_input_files(path)
    page.get_by_role("button", name="Read the run").click()
    expect(page.get_by_text("An uncorrected run needs its air")).to_be_visible()
    page.get_by_label("Run, delimited text").set_input_files(path)
    for label, value in (("Temperature", "20"), ("Pressure at the place", "1000"), ("Humidity", "50")):
        page.get_by_label(label).fill(value)
    page.get_by_role("button", name="Read the run").click()
    expect(page.get_by_text("The run is kept as a reading.")).to_be_visible()
    page.get_by_role("button", name="Use this run").click()
    expect(page.get_by_text("Drive and Range are judged by it")).to_be_visible()
    w.no_sideways_scroll()
    w.axe()
    w.go(f"{w.bench}/drive/")
    page.locator(".table-behind summary").click()
    after = float(page.locator(hill).get_attribute("data-si"))
    assert after > before + 0.3
