"""Whole stories through the real pages, as riders would do them."""

import gzip
import json
import re
import subprocess
import sys

import pytest
from django.test import override_settings
from playwright.sync_api import expect

from lynxwort.demo.scenario import course_bytes

STATIONS = ("purpose", "baseline", "chassis", "fuelling", "drive", "range", "kit", "card")


def settle(w):
    w.page.wait_for_load_state("networkidle")


def test_the_demo_from_the_sand_climb_to_a_kept_setup_and_the_card(demo, tmp_path):
    w = demo()
    page = w.page
    expect(page.get_by_role("heading", level=1)).to_contain_text("124.6 km in 3 laps")
    w.axe()

    # drive: the answer says where it will not pull; the next problem leads there; the proposal pulls it
    page.get_by_role("link", name="Drive").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Pulls all but 60 m, at 22.1 km")
    page.get_by_role("link", name="Next problem").click()
    expect(page.locator("#place")).to_contain_text("22.1 km · deep sand, up 53 %")
    w.axe()
    page.get_by_role("button", name="Try rear sprocket 50").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Engine pulls Sow's Back, 22.1 km; grip decides")
    expect(page.get_by_role("button", name="Put back Rear sprocket 48")).to_be_visible()
    expect(page.get_by_text("Does not pull, better")).to_be_visible()
    # the neighbours' outcomes come by themselves
    expect(page.locator("#more-rear_sprocket_teeth")).to_contain_text("51")
    expect(page.locator("#notches [data-stale]")).to_have_count(0)
    expect(page.locator("#more-rear_sprocket_teeth")).to_contain_text("126 top")

    # fuelling, range, chassis: one proposal each
    page.get_by_role("link", name="Fuelling").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Main 165 too lean")
    expect(page.get_by_text("it is crispest just before it seizes")).to_be_visible()
    page.get_by_role("button", name="Try main jet 168").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Main 168 safe on the lean side")
    w.axe()
    page.get_by_role("link", name="Range").click()
    page.get_by_role("button", name="Try tank 15.0 L").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Fuel lasts")
    w.axe()
    page.get_by_role("link", name="Chassis").click()
    page.get_by_role("button", name="Try shock spring 54.0 N/mm").click()
    expect(page.get_by_role("heading", level=1)).not_to_contain_text("Rear spring")
    w.axe()

    # why, on a figure of the table
    settle(w)
    page.locator("[data-figure='chassis.rear.race_sag']").first.click()
    expect(page.get_by_role("dialog")).to_contain_text("Range, 90 %")
    expect(page.get_by_role("dialog")).to_contain_text("Source:")
    w.axe()
    page.keyboard.press("Escape")

    # the draft survives a reload; put back all can be taken back
    w.move("again")
    expect(page.get_by_text("6 in draft")).to_be_visible()
    page.get_by_role("button", name="Put back all").click()
    expect(page.get_by_text("No draft")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_text("6 in draft")).to_be_visible()

    # keep wants a reason
    w.expect.add(422)
    page.locator("summary", has_text="Keep").click()
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_role("alert")).to_contain_text("Say in a few words why")
    page.get_by_label("Why this change?").fill("wet sand, three laps")
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text("against No. 2")).to_be_visible()

    # what the pages show is what the command line prints of the downloaded document
    with page.expect_download() as download:
        page.get_by_role("link", name="This setup as a document").click()
    download.value.save_as(tmp_path / "setup.json")
    shown = dict(page.eval_on_selector_all("[data-si]", "all => all.map(e => [e.dataset.figure || '', e.dataset.si])"))
    printed = json.loads(
        subprocess.run(
            [sys.executable, "-m", "lynxwort", "evaluate", str(tmp_path / "setup.json")],
            capture_output=True,
            check=True,
        ).stdout
    )
    names = [n for n in shown if n]
    assert len(names) > 12
    for name in names:
        value = printed["figures"][name]["value"]
        assert (value is None) if shown[name] == "" else float(shown[name]) == pytest.approx(value, rel=1e-9), name

    # the card, then back to No. 1 from the history
    page.get_by_role("link", name="Pit card").first.click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Brackenmere three-lapper")
    expect(page.locator(".card-what", has_text="setup No. 2")).to_be_visible()
    expect(page.locator(".card-start")).to_have_text("07:30 Sunday 18 April 2027 Europe/London")
    w.axe()
    w.go(f"{w.bench}/drive/")
    page.get_by_role("link", name="No. 2").click()
    expect(page.get_by_text("wet sand, three laps", exact=True)).to_be_visible()
    w.axe()
    page.get_by_role("button", name="Return to No. 1").click()
    expect(page.get_by_text("6 in draft")).to_be_visible()


def test_a_refused_step_says_why_and_keeps_what_was_typed(demo):
    w = demo()
    w.expect.add(422)
    w.go(f"{w.bench}/chassis/")
    w.page.locator("#now-shock_preload_m").click()
    box = w.page.get_by_label("Exact value of Shock preload")
    box.fill("3 kg")
    box.press("Enter")
    expect(w.page.get_by_role("alert").filter(has_text="measures something else")).to_be_visible()
    expect(w.page.get_by_label("Exact value of Shock preload")).to_have_value("3 kg")
    box = w.page.get_by_label("Exact value of Shock preload")
    box.fill("0.5 in")
    box.press("Enter")
    expect(w.page.locator("[data-tunable-value='shock_preload_m']")).to_have_text("12.7")


def test_two_windows_and_the_van_out_of_reach(demo):
    w = demo()
    w.go(f"{w.bench}/drive/")
    other = w.another()
    other.goto(w.base + f"{w.bench}/drive/")
    other.wait_for_load_state("networkidle")
    w.page.locator("#more-rear_sprocket_teeth").click()
    expect(w.page.locator("[data-tunable-value='rear_sprocket_teeth']")).to_have_text("49")
    w.expect.add(409)
    other.locator("#less-rear_sprocket_teeth").click()
    expect(other.get_by_role("alert").filter(has_text="Another window moved this draft")).to_contain_text("there 49")
    expect(other.get_by_role("alert").filter(has_text="Another window")).to_contain_text("here 47")
    late = []
    other.route("**/neighbours/", lambda route: late.append((route, route.fetch())), times=1)
    other.get_by_role("button", name="Take this window's value").click()
    expect(other.locator("[data-tunable-value='rear_sprocket_teeth']")).to_have_text("47")
    # offline: a banner, the page stays, the next press works
    while not late:
        other.wait_for_timeout(50)
    w.expect.add("offline")
    w.context.set_offline(True)
    other.locator("#more-rear_sprocket_teeth").click()
    expect(other.locator("#offline")).to_be_visible()
    # what was asked for before and comes only now does not say that the press was taken
    [(route, answer)] = late
    route.fulfill(response=answer)
    expect(other.locator("#notches[data-fresh]")).to_be_attached()
    expect(other.locator("#offline")).to_be_visible()
    w.context.set_offline(False)
    other.locator("#more-rear_sprocket_teeth").click()
    expect(other.locator("[data-tunable-value='rear_sprocket_teeth']")).to_have_text("48")
    expect(other.locator("#offline")).to_be_hidden()


def test_keyboard_only(demo):
    w = demo()
    keys = w.page.keyboard
    keys.press("6")
    expect(w.page.get_by_role("heading", level=1)).to_contain_text("Pulls all but")
    settle(w)
    keys.press("ArrowDown")
    keys.press("ArrowDown")
    expect(w.page.locator("#now-rear_sprocket_teeth")).to_be_focused()
    keys.press("+")
    expect(w.page.locator("[data-tunable-value='rear_sprocket_teeth']")).to_have_text("49")
    settle(w)
    keys.press("=")
    expect(w.page.locator("[data-tunable-value='rear_sprocket_teeth']")).to_have_text("50")
    settle(w)
    keys.press("z")
    expect(w.page.locator("[data-tunable-value='rear_sprocket_teeth']")).to_have_text("49")
    settle(w)
    keys.press("w")
    expect(w.page.get_by_role("dialog")).to_be_visible()
    keys.press("Escape")
    expect(w.page.get_by_role("dialog")).to_be_hidden()
    keys.press("n")
    expect(w.page.locator("#place")).to_contain_text("22.1 km")
    settle(w)
    keys.press("?")
    expect(w.page.get_by_role("dialog")).to_contain_text("Keys")
    w.page.get_by_label("Single keys work").uncheck()
    keys.press("Escape")
    keys.press("1")
    expect(w.page.get_by_role("heading", level=1)).to_contain_text("Pulls all but")
    w.page.get_by_role("button", name="? keys").click()
    w.page.get_by_label("Single keys work").check()
    keys.press("Escape")
    # the ribbon by keyboard
    w.page.locator("#scrub").focus()
    keys.press("Home")
    expect(w.page.locator("#place")).to_contain_text("0.0 km · gravel")
    w.page.wait_for_url("**at=0")
    settle(w)
    keys.press("k")
    expect(w.page.get_by_label("Why this change?")).to_be_focused()
    keys.type("by keys 1 2 3")
    keys.press("Enter")
    expect(w.page.get_by_text("against No. 2")).to_be_visible()
    keys.press("c")
    expect(w.page.locator(".card-what", has_text="setup No. 2")).to_be_visible()


def test_the_phone_has_everything_under_one_thumb(demo):
    w = demo(phone=True)
    for station in STATIONS:
        w.go(f"{w.bench}/{station}/")
        w.no_sideways_scroll()
        w.axe()
    w.page.set_viewport_size({"width": 320, "height": 700})
    for station in STATIONS:
        w.go(f"{w.bench}/{station}/")
        w.no_sideways_scroll()
    w.page.set_viewport_size({"width": 390, "height": 844})
    w.go(f"{w.bench}/drive/")
    order = w.page.eval_on_selector_all(
        ".answer, .ribbon, .finding, .notch-row, figure",
        "all => all.map(e => [e.getBoundingClientRect().top, e.className.split(' ')[0]]).sort((a, b) => a[0] - b[0]).map(p => p[1])",
    )
    assert order[:5] == ["answer", "ribbon", "finding", "notch-row", "notch-row"]
    small = w.page.eval_on_selector_all(
        "#bench button:not(.fig), #bench summary, .rail a",
        "all => all.filter(e => e.offsetParent && e.getBoundingClientRect().height < 34).map(e => e.outerHTML.slice(0, 90))",
    )
    assert not small
    w.page.locator("#more-rear_sprocket_teeth").tap()
    expect(w.page.get_by_text("1 in draft")).to_be_visible()
    settle(w)
    w.page.get_by_role("button", name="See, keep").tap()
    expect(w.page.get_by_text("Top speed, worse")).to_be_visible()
    w.page.locator("summary", has_text="Keep").tap()
    w.page.get_by_label("Why this change?").fill("one tooth")
    w.page.get_by_role("button", name="Keep it").tap()
    expect(w.page.get_by_text("against No. 2")).to_be_visible()
    w.page.get_by_role("button", name="Stations").tap()
    w.page.get_by_role("link", name="Range").tap()
    expect(w.page.get_by_role("heading", level=1)).to_contain_text("Finishes")
    settle(w)
    w.page.locator(".scrub").tap(position={"x": 180, "y": 40})
    expect(w.page.locator("#place")).to_contain_text("km ·")


@override_settings(DEMO=False)
def test_ones_own_bike_and_race_from_nothing(watch, tmp_path):
    w = watch()
    w.expect.add(422)
    page = w.page
    w.go("/")
    w.axe()
    page.get_by_role("link", name="Make the first account").click()
    page.get_by_label("Your name").fill("Ash")
    page.get_by_label("Password").fill("cold greasy hands")
    page.get_by_role("button", name="Open the garage").click()
    expect(page.get_by_role("heading", name="An empty garage")).to_be_visible()
    page.get_by_role("link", name="Add a bike").click()
    w.axe()
    page.locator("li.kind", has_text="250 four-stroke").get_by_role("link", name="jets").click()
    page.get_by_label("What you call the bike").fill("Barrow 250")
    for label, value in (
        ("Sprockets", "13/50"),
        ("Main jet", "168"),
        ("Tank holds", "plenty"),
        ("Fork spring", "4.4"),
        ("Shock spring", "5.4 kgf/mm"),
    ):
        page.get_by_label(label).fill(value)
    page.get_by_role("button", name="Stand it up").click()
    expect(page.get_by_text("Not a number. Write it like 9.5, 2.5 gal or 2 1/2 gallons.")).to_be_visible()
    expect(page.get_by_label("Tank holds")).to_be_focused()
    expect(page.get_by_label("Shock spring")).to_have_value("5.4 kgf/mm")
    page.get_by_label("Tank holds").fill("8")
    page.get_by_role("button", name="Stand it up").click()
    expect(page.get_by_role("heading", level=1)).to_have_text("Barrow 250")

    w.go("/")
    page.get_by_role("link", name="Add a race").click()
    w.axe()
    (tmp_path / "bad.gpx").write_text("<gpx><trk>")
    page.get_by_label("Course file").set_input_files(tmp_path / "bad.gpx")
    page.get_by_label("Its heights come from").select_option("barometer")
    page.get_by_label("Race", exact=True).fill("Fen sprint")
    page.get_by_label("Start, local time").fill("2027-05-02T09:00")
    page.get_by_label("Rider's name").fill("Ash")
    page.get_by_label("Weight in riding gear").fill("88")
    page.get_by_label("Coldest hour").fill("6")
    page.get_by_label("Hottest hour").fill("64 °F")
    page.get_by_role("button", name="Keep the race").click()
    expect(page.get_by_text("not a readable GPX")).to_be_visible()
    expect(page.get_by_label("Weight in riding gear")).to_have_value("88")
    (tmp_path / "good.gpx").write_bytes(course_bytes())
    page.get_by_label("Course file").set_input_files(tmp_path / "good.gpx")
    page.get_by_role("button", name="Keep the race").click()
    w.axe()
    page.get_by_role("link", name="Ground, points, zones").click()
    page.get_by_label("End, typed").fill("5 km")
    page.get_by_label("End, typed").press("Enter")
    expect(page.locator("#typed-to")).to_have_value("5.00")
    page.get_by_role("button", name="sand", exact=True).click()
    expect(page.locator(".loupe")).to_contain_text("sand")
    w.axe()

    w.go("/")
    page.get_by_role("button", name="Put on the bench").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("41.5 km in one lap")
    page.get_by_role("link", name="Fuelling").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Mixture unknown")
    expect(page.get_by_text("nothing can be compared")).to_be_visible()
    w.axe()
    page.get_by_role("link", name="To Baseline").click()
    w.axe()
    # what to measure first leads to its form
    page.get_by_role("link", name="The setting it ran right with").click()
    form = page.locator("details", has=page.get_by_role("heading", name="A setting that ran right"))
    for label, value in (
        ("Main jet", "168"),
        ("Needle clip", "3"),
        ("Temperature", "12"),
        ("Pressure at the place", "980"),
        ("Humidity", "60"),
    ):
        form.get_by_label(label).fill(value)
    form.get_by_role("button", name="Keep the reading").click()
    page.get_by_role("link", name="Fuelling").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Main 168")
    page.get_by_role("link", name="Baseline").click()
    w.room("Readings")
    page.get_by_role("button", name="Strike out").click()
    expect(page.get_by_role("button", name="Count again")).to_be_visible()
    w.go("/parts/")
    page.get_by_label("Part", exact=True).select_option("rear_sprocket_teeth")
    page.get_by_label("What", exact=True).fill("50 52")
    page.get_by_role("button", name="Put in the box").click()
    expect(page.get_by_text("2 new in the box.")).to_be_visible()
    w.axe()
    w.go("/")
    page.get_by_role("link", name="All facts").click()
    page.get_by_role("heading", name="Weight and frame").click()
    expect(page.get_by_text("assumed 1.480 m")).to_be_visible()
    w.axe()
    page.get_by_role("link", name="Units: km, L, kg").click()
    page.get_by_label("Travel and lengths").select_option("in")
    page.get_by_role("button", name="Keep", exact=True).click()
    w.move("back", 2)
    w.move("again")
    page.get_by_role("heading", name="Weight and frame").click()
    expect(page.get_by_text("assumed 58.3 in")).to_be_visible()


def test_the_warming_page_opens_by_itself(demo, monkeypatch):
    from lynxwort.web.evaluation import door

    w = demo()
    door._ready.clear()
    monkeypatch.setattr(door, "warm_in_background", lambda: None)
    w.go(f"{w.bench}/drive/")
    expect(w.page.get_by_role("heading", name="Warming up")).to_be_visible()
    door._ready.set()
    expect(w.page.get_by_role("heading", level=1)).to_contain_text("Pulls all but", timeout=10_000)


def test_the_font_is_ours_and_a_first_visit_is_light(demo):
    w = demo()
    sizes = []
    fresh = w.another()
    fresh.on(
        "response", lambda r: sizes.append(len(gzip.compress(r.body())) if "woff2" not in r.url else len(r.body()))
    )
    fresh.goto(w.base + f"{w.bench}/drive/")
    fresh.wait_for_load_state("networkidle")
    loaded = fresh.evaluate("[...document.fonts].filter(f => f.status === 'loaded').map(f => f.family)")
    assert any("Archivo Narrow" in f for f in loaded)
    assert 30_000 < sum(sizes) < 250_000


def test_a_step_shows_itself_pressed_before_it_is_answered(demo):
    w = demo()
    page, held, let, late = w.page, [], [], []
    w.go(f"{w.bench}/drive/")
    settle(w)
    page.route("**/neighbours/", lambda route: late.append(route))
    page.route("**/notch/", lambda route: route.continue_() if let else held.append(route))
    more = page.locator("#more-rear_sprocket_teeth")
    more.click()
    form = page.locator("form.cell-form").filter(has=more)
    # at once, with the answer still to come
    expect(form).to_have_class(re.compile("pressed"), timeout=200)
    assert len(held) == 1
    expect(page.locator(".working")).to_be_visible()
    let.append(True)
    held.pop().continue_()
    expect(page.locator(".chips")).to_contain_text("Rear sprocket 48 → 49")
    expect(page.locator("form.pressed")).to_have_count(0)
    # what is turned away is not left pressed in, and what else comes in afterwards does not take the word back
    w.expect.add(503)
    page.route("**/notch/", lambda route: route.fulfill(status=503, body="busy"))
    page.locator("#more-rear_sprocket_teeth").click()
    expect(page.locator("#busy")).to_be_visible()
    expect(page.locator("form.pressed")).to_have_count(0)
    with page.expect_response("**/neighbours/"):
        late.pop().continue_()
    expect(page.locator("#notches[data-fresh]")).to_be_attached()
    expect(page.locator("#busy")).to_be_visible()
