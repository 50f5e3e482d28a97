"""The other places: stand, race, parts, facts, documents, units, wide screens; each as a rider would go through it."""

import json
import re

import pytest
from playwright.sync_api import expect

from lynxwort.web.bikes.models import Setup
from lynxwort.web.races.models import Race

PAGES = (
    "/",
    "/parts/",
    "/races/new/",
    "/bikes/new/",
    "/bench/document/",
    "/races/{race}/",
    "/bikes/{bike}/facts/",
    "/bikes/{bike}/",
    "/bikes/{bike}/van-door/",
    "/races/{race}/bikes/",
    "/setups/{setup}/history/",
    "/races/{race}/stages/0/",
    "/riders/",
    "/settings/",
    "/bench/search/?q=quern",
    "/parts/?open=1",
    "/bench/courses/{course}/",
    "/bench/{setup}/{race}/drive/metres/",
    "/races/{race}/?weather=1",
)


def pages_of(pdf: bytes) -> int:
    """How many pages a PDF says it has."""
    return max(int(n) for n in re.findall(rb"/Count (\d+)", pdf))


@pytest.mark.parametrize("phone", [False, True], ids=["laptop", "phone"])
def test_every_other_page_is_accessible_and_never_scrolls_sideways(demo, phone):
    w = demo(phone=phone)
    setup, race = Setup.objects.select_related("bike").get(), Race.objects.get()
    for address in PAGES:
        w.go(address.format(setup=setup.pk, race=race.pk, bike=setup.bike_id, course=race.course_id))
        w.no_sideways_scroll()
        w.axe()


def test_wide_screens_put_a_second_drawing_beside_the_first(demo):
    w = demo()
    w.page.set_viewport_size({"width": 1920, "height": 1080})
    for station in ("chassis", "drive", "range"):
        w.go(f"{w.bench}/{station}/")
        w.no_sideways_scroll()
        tops = w.page.eval_on_selector_all(
            "figure.panel", "all => all.map(e => Math.round(e.getBoundingClientRect().top))"
        )
        assert tops[0] == tops[1]
    w.page.set_viewport_size({"width": 1280, "height": 720})
    w.go(f"{w.bench}/drive/")
    assert w.page.evaluate("document.body.scrollHeight <= innerHeight")
    assert w.page.locator(".notch-row").first.is_visible()


def test_the_race_is_changed_and_the_bench_follows(demo):
    w = demo()
    w.expect.add(422)
    page = w.page
    w.go(f"/races/{Race.objects.get().pk}/stages/0/")
    hills = page.locator("section", has=page.get_by_role("heading", name="Critical hills"))
    hills.get_by_label("Begins at").fill("99 km")
    for label, value in (("Length", "60"), ("Grade", "40")):
        hills.get_by_label(label).fill(value)
    hills.get_by_role("button", name="Add the hill").click()
    expect(page.get_by_text("Beyond the end of the course, 41.5 km.")).to_be_visible()
    expect(hills.get_by_label("Begins at")).to_have_value("99 km")
    hills.get_by_label("Begins at").fill("10 mi")
    hills.get_by_role("button", name="Add the hill").click()
    expect(page.get_by_text("16.09 km: 60 m, 40")).to_be_visible()
    page.get_by_role("button", name="Take away: 22.06 km").click()
    stops = page.locator("section", has=page.get_by_role("heading", name="Refuel points"))
    stops.get_by_label("At km", exact=True).fill("20")
    stops.get_by_label("Name").fill("van")
    stops.get_by_role("button", name="Add the point").click()
    expect(page.get_by_text("20.00 km: van")).to_be_visible()
    page.get_by_role("link", name="Brackenmere three-lapper").click()
    page.get_by_label("Hottest hour").fill("nice")
    page.get_by_label("Coldest hour").fill("-2")
    page.get_by_role("button", name="Keep the race").click()
    expect(page.get_by_text("Not a number")).to_be_visible()
    expect(page.get_by_label("Coldest hour")).to_have_value("-2")
    page.get_by_label("Hottest hour").fill("70 °F")
    page.get_by_role("button", name="Keep the race").click()
    expect(page.get_by_text("Kept.")).to_be_visible()
    w.go(f"{w.bench}/drive/")
    expect(page.get_by_role("heading", level=1)).to_contain_text("Pulls everywhere")
    w.go(f"{w.bench}/range/")
    expect(page.get_by_role("heading", level=1)).to_contain_text("Fuel lasts")
    w.go(f"{w.bench}/fuelling/")
    expect(page.get_by_role("heading", level=1)).to_contain_text("Main 165 too lean")


def test_a_part_put_in_the_box_is_proposed_as_owned(demo):
    w = demo()
    page = w.page
    w.go(f"{w.bench}/drive/")
    expect(page.locator("#more-rear_sprocket_teeth")).to_contain_text("buy")
    w.go("/parts/")
    page.get_by_label("Part", exact=True).select_option("rear_sprocket_teeth")
    page.get_by_label("What", exact=True).fill("49")
    page.get_by_role("button", name="Put in the box").click()
    w.go(f"{w.bench}/drive/")
    expect(page.locator("#more-rear_sprocket_teeth")).to_contain_text("in the box")
    w.go("/parts/")
    shelf = page.locator("section", has=page.get_by_role("heading", name="Rear sprocket"))
    shelf.locator("summary", has_text="49").click()
    shelf.get_by_role("button", name="Take out of the box").locator("visible=true").click()
    expect(shelf.locator("summary", has_text="49")).to_have_count(0)


def test_units_switch_everywhere_and_back(demo):
    w = demo()
    page = w.page
    w.go(f"{w.bench}/chassis/")
    before = page.eval_on_selector_all("[data-figure]", "all => all.map(e => e.dataset.si)")
    page.get_by_role("link", name="Units: km, L, kg").click()
    page.get_by_role("button", name="All mi, gal, lb").click()
    w.go(f"{w.bench}/chassis/")
    expect(page.get_by_text("lbf/in").first).to_be_visible()
    assert page.eval_on_selector_all("[data-figure]", "all => all.map(e => e.dataset.si)") == before
    w.go(f"{w.bench}/purpose/")
    expect(page.get_by_role("heading", level=1)).to_contain_text("77.4 mi in 3 laps")
    page.locator("#scrub").focus()
    page.keyboard.press("End")
    expect(page.locator("#place")).to_contain_text("25.8 mi")
    page.get_by_role("link", name="Units: mi, US gal, lb").click()
    page.get_by_label("Distance and speed").select_option("km")
    page.get_by_role("button", name="Keep", exact=True).click()
    w.go(f"{w.bench}/purpose/")
    expect(page.get_by_role("heading", level=1)).to_contain_text("124.6 km")


def test_a_document_out_and_in_again_through_the_pages(demo, tmp_path):
    w = demo()
    w.expect.add(422)
    page = w.page
    with page.expect_download() as download:
        page.get_by_role("link", name="This setup as a document").click()
    path = tmp_path / "setup.json"
    download.value.save_as(path)
    document = json.loads(path.read_text())
    document["bike"]["name"] = "Quern 293, the spare"
    document["setup"]["wings"] = 2
    path.write_text(json.dumps(document))
    w.go("/bench/document/")
    page.get_by_label("Document, JSON").set_input_files(path)
    page.get_by_role("button", name="Load it").click()
    expect(page.get_by_text("setup.wings Nothing of this name is known here.")).to_be_visible()
    del document["setup"]["wings"]
    path.write_text(json.dumps(document))
    page.get_by_label("Document, JSON").set_input_files(path)
    page.get_by_role("button", name="Load it").click()
    expect(page.get_by_role("heading", name="Quern 293, the spare")).to_be_visible()
    expect(page.get_by_text("Not on the bench yet")).to_be_visible()


def test_readings_are_taken_and_a_doubtful_one_is_questioned(demo):
    w = demo()
    page = w.page
    w.go(f"{w.bench}/baseline/")
    w.room("Readings")
    form = page.locator("details", has=page.get_by_role("heading", name="A sag"))
    w.axe()
    if not form.evaluate("e => e.open"):
        form.locator("summary").click()
    for which, value in (("front_free", "33 mm"), ("front_race", "2.5 in")):
        form.get_by_label("Sag").select_option(which)
        form.get_by_label("Sank by").fill(value)
        form.get_by_label("Fuel aboard").fill("6")
        form.get_by_role("button", name="Keep the reading").click()
        w.page.wait_for_load_state("networkidle")
    expect(page.get_by_text("Front race sag 64 mm")).to_be_visible()
    expect(page.get_by_text("6 readings in use")).to_be_visible()
    form.get_by_label("Sag").select_option("rear_race")
    form.get_by_label("Sank by").fill("230 mm")
    form.get_by_role("button", name="Keep the reading").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("A sag that does not fit: 230 mm")
    page.locator("li", has_text="Rear race sag 230 mm").get_by_role("button", name="Strike out").click()
    expect(page.get_by_role("heading", level=1)).not_to_contain_text("does not fit")


def test_the_card_prints_on_one_page(demo):
    w = demo()
    w.go(f"{w.bench}/card/")
    w.page.emulate_media(media="print")
    assert not w.page.get_by_role("button", name="Print").is_visible()
    assert w.page.evaluate("getComputedStyle(document.querySelector('.top')).display") == "none"
    assert pages_of(w.page.pdf(format="A4")) == 1
    w.page.emulate_media(media="screen")


@pytest.mark.parametrize("phone", [False, True], ids=["laptop", "phone"])
def test_settings_for_the_van_hold_on_the_bench(demo, phone):
    """Large type, gloves, sun, left hand, nothing moving: all at once, and gone again."""
    w = demo(phone=phone)
    page = w.page
    w.go("/settings/")
    plain = page.locator("h1").evaluate("e => e.getBoundingClientRect().height")
    for name in ("large type", "gloves", "sun", "left hand", "nothing moves"):
        page.get_by_label(name).check()
    page.get_by_role("button", name="Keep", exact=True).click()
    expect(page.get_by_text("Kept.")).to_be_visible()
    assert page.locator("h1").evaluate("e => e.getBoundingClientRect().height") > 1.15 * plain
    w.axe()
    for address in (f"{w.bench}/chassis/", f"{w.bench}/fuelling/jets/", "/bikes/new/"):
        w.go(address)
        w.no_sideways_scroll()
        small = page.eval_on_selector_all(
            "button, .button, .rail a, .rooms a",
            """all => all.filter((e) => e.checkVisibility() && !e.closest(".sr, svg, table, .drawing"))
                .filter((e) => e.getBoundingClientRect().height < 55.5).map((e) => e.outerHTML.slice(0, 120))""",
        )
        assert small == [], address
        w.axe()
    assert page.evaluate("getComputedStyle(document.documentElement).backgroundColor") == "rgb(255, 255, 255)"
    # what is pressed next stands on the left
    w.go(f"{w.bench}/drive/")
    if phone:
        bar = [page.get_by_role("button", name=n).bounding_box()["x"] for n in ("Ledger", "Stations")]
        assert bar[0] < bar[1]
    else:
        assert page.locator(".rail").bounding_box()["x"] > page.locator("#findings").bounding_box()["x"]
    w.go("/settings/")
    for box in page.locator("label.tick input").all():
        box.uncheck()
    page.get_by_role("button", name="Keep", exact=True).click()
    expect(page.get_by_text("Kept.")).to_be_visible()
    assert page.evaluate("document.documentElement.className") == ""
