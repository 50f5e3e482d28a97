"""Nobody leaves the bench: every tool is a room of its station, with the lap, the answer and the ledger around it."""

import re

import pytest
from playwright.sync_api import expect

from lynxwort.web.evaluation import door
from lynxwort.web.stations.rooms import ROOMS
from tests.browser.test_damping_story import saltern


@pytest.mark.parametrize("phone", [False, True], ids=["laptop", "phone"])
def test_a_change_goes_through_the_rooms_and_is_kept_in_one(demo, phone):
    w = demo(phone=phone)
    page = w.page
    rooms = page.get_by_role("navigation", name="Rooms")
    w.go(f"{w.bench}/drive/?at=22100")
    before = int(page.locator("#bench").get_attribute("data-version"))
    page.locator("#more-rear_sprocket_teeth").click()
    expect(page.locator("#bench")).to_have_attribute("data-version", str(before + 1))
    # the place goes along, and the answer stands over every room
    answer = page.get_by_role("heading", level=1).inner_text()
    rooms.get_by_role("link", name="Metre by metre").click()
    expect(page.get_by_role("rowheader", name=re.compile("^22.1 km|^22.10 km")).first).to_be_visible()
    expect(page.get_by_role("heading", level=1)).to_have_text(answer)
    expect(rooms.get_by_role("link", name="Metre by metre")).to_have_attribute("aria-current", "page")
    expect(rooms.get_by_role("link", name="Metre by metre")).to_be_in_viewport()
    # another place, in the room
    page.locator("#scrub").evaluate("(e) => { e.value = 3000; e.dispatchEvent(new Event('change', {bubbles: true})); }")
    expect(page.locator("#place")).to_contain_text("3.0 km")
    expect(page).to_have_url(re.compile(r"/drive/metres/\?at=3000"))
    expect(page.get_by_role("rowheader", name=re.compile("^3.00 km")).first).to_be_visible()
    w.axe()
    w.no_sideways_scroll()
    # undone and done again without leaving it
    if phone:
        page.get_by_role("button", name="See, keep").click()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_text("No draft")).to_be_visible()
    expect(page).to_have_url(re.compile("/drive/metres/"))
    w.go(f"{w.bench}/drive/")
    page.locator("#more-rear_sprocket_teeth").click()
    expect(page.locator("ul.chips li")).to_have_count(1)
    w.go(f"{w.bench}/range/holders/")
    if phone:
        page.get_by_role("button", name="See, keep").click()
    page.locator("summary", has_text="Keep").click()
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text("Say in a few words why, then keep.")).to_be_visible()
    if phone:
        page.get_by_role("button", name="See, keep").click()
    page.locator("summary", has_text="Keep").click()
    page.get_by_label("Why this change?").fill("shorter for the heap")
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text("against No. 2")).to_be_visible()
    expect(page).to_have_url(re.compile("/range/holders/"))


def test_keys_and_search_go_through_every_room(whole):
    w = whole()
    page = w.page
    for station, rooms in ROOMS.items():
        w.go(f"{saltern()}/{station}/")
        rooms = [room for room in rooms if not room.fed or "injected" in room.fed]
        for room in rooms[1:]:
            page.keyboard.press("]")
            here = page.get_by_role("navigation", name="Rooms").locator("[aria-current]")
            expect(here).to_contain_text(str(room.name))
            expect(page.get_by_role("heading", level=1)).to_be_visible()
            w.axe()
            w.no_sideways_scroll()
        page.keyboard.press("[")
        expect(page.get_by_role("navigation", name="Rooms").locator("[aria-current]")).to_contain_text(
            str(rooms[-2].name)
        )
    w.rest()
    page.keyboard.press("/")
    page.get_by_role("searchbox").fill("metre by")
    page.get_by_role("link", name=re.compile("Metre by metre")).click()
    expect(page.get_by_role("columnheader", name="Throttle open")).to_be_visible()


def test_a_change_made_beside_is_not_lost_in_a_room(demo):
    w = demo()
    w.expect.add(409)
    page, other = w.page, w.another()
    w.go(f"{w.bench}/drive/")
    page.locator("#more-rear_sprocket_teeth").click()
    expect(page.locator("ul.chips li")).to_have_count(1)
    w.go(f"{w.bench}/drive/metres/")
    other.goto(f"{w.base}{w.bench}/drive/")
    other.locator("#more-rear_sprocket_teeth").click()
    expect(other.locator("#bench")).to_have_attribute("data-version", "3")
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_text("Another window moved the draft. Nothing was put back")).to_be_visible()
    expect(page).to_have_url(re.compile("/drive/metres/"))
    # a Try of a page that another window passed is not said to be in the draft
    w.go(f"{w.bench}/chassis/sag/rear/")
    other.locator("#more-rear_sprocket_teeth").click()
    expect(other.locator("#bench")).to_have_attribute("data-version", "4")
    page.get_by_role("row").get_by_role("button", name="Try").first.click()
    expect(page.get_by_text("The draft moved on in another window. Nothing was changed")).to_be_visible()
    expect(page.get_by_text("In the draft.")).to_have_count(0)
    expect(page).to_have_url(re.compile("/chassis/sag/rear/"))


#: words of drawings that stand over the edge of theirs by more than a pixel
CUT = """() => {
  const cut = [];
  document.querySelectorAll('svg').forEach((svg) => {
    if (svg.parentElement.closest('svg')) return;
    const box = svg.getBoundingClientRect();
    svg.querySelectorAll('text').forEach((text) => {
      const r = text.getBoundingClientRect();
      if (!r.width || !box.width || getComputedStyle(text).display === 'none') return;
      const over = Math.max(box.left - r.left, box.top - r.top, r.right - box.right, r.bottom - box.bottom);
      if (over > 1) cut.push(`${text.textContent} of ${svg.getAttribute('aria-label')}: ${over.toFixed(0)} px`);
    });
  });
  return cut;
}"""


def test_no_label_of_a_drawing_is_cut_off_at_any_width(whole):
    w = whole()
    page = w.page
    pages = [
        f"{w.bench}/{s}/?at=22100" for s in ("purpose", "baseline", "chassis", "damping", "fuelling", "drive", "range")
    ]
    pages += [f"{saltern()}/{s}/{r.path}" for s, rooms in ROOMS.items() for r in rooms]
    for path in pages:
        w.go(path)
        for width in (390, 1280, 1920):
            page.set_viewport_size({"width": width, "height": 900})
            page.evaluate("document.querySelectorAll('details').forEach((d) => { d.open = true; })")
            w.rest()
            assert page.evaluate(CUT) == [], (path, width)


@pytest.mark.parametrize("phone", [False, True], ids=["laptop", "phone"])
def test_a_draft_of_four_changes_through_five_stations_and_eight_rooms(demo, phone):
    """As on the evening before: gearing, jets, fuel and steering as one draft, the van out of reach in the middle."""
    w = demo(phone=phone)
    w.expect |= {"offline", 409}
    page = w.page
    press = "tap" if phone else "click"

    def step(tunable: str, side: str = "more") -> None:
        page.wait_for_load_state("networkidle")
        version = int(page.locator("#bench").get_attribute("data-version"))
        getattr(page.locator(f"#{side}-{tunable}"), press)()
        expect(page.locator("#bench")).to_have_attribute("data-version", str(version + 1))

    def changes(count: int) -> None:
        expect(page.locator("ul.chips li")).to_have_count(count)

    def ledger() -> None:
        if phone:
            page.get_by_role("button", name="See, keep").tap()

    w.go(f"{w.bench}/drive/")
    step("rear_sprocket_teeth")
    w.room("Chain")
    expect(page.get_by_text("Chain slack on the stand")).to_be_visible()
    w.room("Metre by metre")
    changes(1)
    # jets, in the room that the answer leads to
    w.go(f"{w.bench}/fuelling/")
    page.get_by_role("article").get_by_role("link", name="Jets and weather").first.click()
    page.get_by_role("row").filter(has_text="168 is safe down to").get_by_role("button", name="Try").click()
    expect(page).to_have_url(re.compile("/fuelling/jets/"))
    w.room("Dyno")
    changes(3)  # the set of the box turns the screw with its jet
    # the van is out of reach: nothing is lost, and the next press works
    w.go(f"{w.bench}/range/")
    page.wait_for_load_state("networkidle")
    w.context.set_offline(True)
    getattr(page.locator("#less-fuel_fill_m3"), press)()
    expect(page.locator("#offline")).to_be_visible()
    w.context.set_offline(False)
    step("fuel_fill_m3", "less")
    expect(page.locator("#offline")).to_be_hidden()
    w.room("Tanks")
    w.room("Stops")
    changes(4)
    w.go(f"{w.bench}/chassis/")
    page.get_by_role("heading", name="Steering and heights").click()
    step("fork_up_m")
    w.room("Feet on the ground")
    changes(5)
    # another window takes one further; this one is told, and takes its own back
    other = w.another()
    other.goto(f"{w.base}{w.bench}/drive/")
    other.locator("#more-rear_sprocket_teeth").click()
    expect(other.locator("ul.chips")).to_contain_text("48 → 50")
    ledger()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_text("Another window moved the draft. Nothing was put back")).to_be_visible()
    if phone:
        other.get_by_role("button", name="See, keep").click()
    other.get_by_role("button", name="Undo").click()
    expect(other.locator("ul.chips")).to_contain_text("48 → 49")
    w.go(f"{w.bench}/damping/")
    w.room("What was felt")
    changes(5)
    ledger()
    page.get_by_role("button", name=re.compile("Put back Fork tubes")).click()
    changes(4)
    expect(page).to_have_url(re.compile("/damping/felt/"))
    ledger()
    page.locator("summary", has_text="Keep").click()
    page.get_by_label("Why this change?").fill("shorter, safe in the frost, lighter")
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text("against No. 2")).to_be_visible()
    w.axe()
    w.go(f"{w.bench}/card/")
    expect(page.locator(".card-set .changed")).to_have_count(3)
    expect(page.locator(".card-set")).to_contain_text("was 165")
    expect(page.locator(".card-pour")).to_contain_text("11.0 L")


def test_a_call_out_of_the_drawn_bike_leads_to_its_notch(demo):
    w = demo()
    page = w.page
    for words, tunable in (("shock 50.0 N/mm", "shock_spring_rate_n_per_m"), ("0.80 bar", "rear_tyre_pressure_pa")):
        w.go(f"{w.bench}/baseline/")
        page.get_by_role("link", name=words).click()
        expect(page.locator(f"#now-{tunable}")).to_be_focused()
        expect(page.locator(f"#now-{tunable}")).to_be_in_viewport()
    w.axe()


def test_from_station_to_station_the_frame_stays_and_what_is_no_bench_is_gone_to_as_a_whole(demo, monkeypatch):
    w = demo()
    page = w.page
    rail = page.get_by_role("navigation", name="Stations")
    w.go(f"{w.bench}/drive/")
    rail.get_by_role("link", name="Chassis").click()
    expect(page).to_have_url(re.compile("/chassis/"))
    expect(page).to_have_title(re.compile("^Chassis"))
    expect(page.get_by_role("heading", level=1)).to_be_focused()
    expect(rail.get_by_role("link", name="Chassis")).to_have_attribute("aria-current", "page")
    # the moving picture comes with its station
    rail.get_by_role("link", name="Damping").click()
    expect(page.get_by_role("img", name=re.compile("The bike riding over"))).to_be_visible()
    w.axe()
    with w.context.expect_page() as other:
        rail.get_by_role("link", name="Range").click(modifiers=["Control"])
    expect(other.value.get_by_role("heading", level=1)).to_contain_text("Finishes")
    expect(page).to_have_url(re.compile("/damping/"))
    w.move("back")
    expect(page.get_by_role("heading", level=1)).to_contain_text("Rear spring too soft")
    monkeypatch.setattr(door, "warm_in_background", lambda: None)
    page.wait_for_load_state("networkidle")
    door._ready.clear()
    rail.get_by_role("link", name="Drive").click()
    expect(page.get_by_role("heading", name="Warming up")).to_be_visible()
    door._ready.set()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Pulls all but")
