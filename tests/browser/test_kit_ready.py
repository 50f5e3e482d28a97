"""Kit's second half through its real pages: a lamp that drains the battery, a queue that boils, an insert for a quiet
event, a build with a late part; also by phone.
"""

import pytest
from playwright.sync_api import expect

from lynxwort.web.bench.models import Pairing


def settle(w):
    w.page.wait_for_load_state("networkidle")


def settled(page):
    """What the room itself has to say."""
    return page.locator(".settled-here")


@pytest.mark.parametrize("phone", [False, True])
def test_the_lamp_that_drains_the_battery_is_cured_from_the_list_and_kept(demo, phone):
    w = demo(phone=phone)
    page = w.page
    w.go(f"{w.bench}/kit/electrics/")
    expect(page.get_by_role("heading", level=1)).to_contain_text("The battery drains")
    expect(page.locator(".ribbon-title")).to_have_text("what is in the battery")
    w.axe()
    region = page.get_by_role("region", name="What each would do")
    page.get_by_role("button", name="Try fan on").click()
    settle(w)
    expect(page.get_by_role("heading", level=1)).to_contain_text("The battery drains")
    page.get_by_role("button", name="Try rewound generator on").click()
    settle(w)
    expect(region.get_by_role("row", name="as it is set")).to_contain_text("17 Wh")
    expect(settled(page)).to_have_count(0)
    # what is on is a change like any other: the ledger has it, and it is kept with a word
    w.go(f"{w.bench}/kit/")
    if phone:
        page.get_by_role("button", name="See, keep").click()
    page.locator("summary", has_text="Keep").click()
    page.get_by_label("Why this change?").fill("lamp and fan through three laps")
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text("against No. 2")).to_be_visible()
    w.go(f"{w.bench}/kit/electrics/")
    expect(page.get_by_role("rowheader", name="rewound generator off")).to_be_visible()
    expect(page.get_by_role("button", name="Put back rewound generator")).to_have_count(0)
    # what is typed wrong is told at its field, and nothing of it is lost
    page.get_by_text("What is known of generator").click()
    page.get_by_label("it gives there").first.fill("lots")
    w.expect.add(422)
    page.locator("#facts").get_by_role("button", name="Keep").click()
    expect(page.locator("#facts").get_by_role("alert").first).to_be_visible()
    expect(page.get_by_label("it gives there").first).to_have_value("lots")
    w.axe()


@pytest.mark.parametrize("phone", [False, True])
def test_boiling_behind_a_queue_is_cured_by_fan_and_pace(demo, phone):
    w = demo(phone=phone)
    page = w.page
    w.go(f"{w.bench}/kit/cooling/")
    page.get_by_role("link", name="the lap", exact=True).click()
    page.get_by_text("Change the stage").first.click()
    page.get_by_label("At a walking pace, each lap").first.fill("4 min")
    page.get_by_role("button", name="Keep the stage").first.click()
    settle(w)
    w.go(f"{w.bench}/kit/cooling/")
    expect(page.get_by_text("It boils after 2 min at a walking pace")).to_be_visible()
    expect(page.get_by_text("Never open a hot cap").first).to_be_visible()
    w.axe()
    hot = page.get_by_role("region", name="What each would do").get_by_role("row", name="as it is set")
    before = hot.inner_text()
    page.get_by_role("button", name="Try Revs at a crawl 80").click()
    settle(w)
    assert hot.inner_text() != before
    page.get_by_role("button", name="Try fan on").click()
    settle(w)
    expect(page.get_by_text("at a walking pace; 4:00 are asked")).to_have_count(0)
    expect(page.get_by_text("The coolant boils on this lap")).to_have_count(0)
    # the fan takes its watts from a battery that had none to spare
    w.go(f"{w.bench}/kit/electrics/")
    expect(page.get_by_role("region", name="What draws").get_by_role("row", name="fan")).to_be_visible()


@pytest.mark.parametrize("phone", [False, True])
def test_an_insert_for_a_quiet_event_moves_the_mixture_too(demo, phone):
    w = demo(phone=phone)
    page = w.page
    w.go(f"{w.bench}/kit/sound/")
    w.axe()
    page.get_by_label("Loudest allowed").fill("92")
    page.get_by_label("sound sheet: seen to on").fill("2027-04-02")
    page.get_by_role("button", name="Keep with the race").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Too loud")
    expect(page.get_by_text("check your local rules", exact=False).first).to_be_visible()
    page.get_by_role("button", name="Try quiet core").click()
    settle(w)
    expect(page.get_by_role("region", name="By insert").locator("tr.now")).to_contain_text("quiet core")
    expect(page.get_by_text("Too loud")).to_have_count(0)
    # what is on moves torque and mixture, and after it comes the plug before full throttle
    w.go(f"{w.bench}/fuelling/")
    if phone:
        page.get_by_role("button", name="See, keep").click()
    expect(page.get_by_role("button", name="Put back exhaust insert")).to_be_visible()
    w.go(f"{w.bench}/kit/build/")
    expect(page.get_by_role("heading", name="Before full throttle")).to_be_visible()
    expect(page.get_by_text("Plug check", exact=False)).to_be_visible()


@pytest.mark.parametrize("phone", [False, True])
def test_a_build_with_a_late_part_comes_to_the_start_line_and_its_lists_are_printed(whole, phone):
    w = whole(phone=phone)
    page = w.page
    pair = Pairing.objects.get(race__name__startswith="Saltern")
    bench = f"/bench/{pair.setup_id}/{pair.race_id}"
    w.go(f"{bench}/kit/build/")
    expect(page.get_by_role("heading", level=1)).to_contain_text("The work is tight")
    expect(page.get_by_role("img", name="The order of work")).to_be_visible()
    w.axe()
    # the part comes later still: after the start
    w.go(f"{bench}/kit/items/?item=clutch_plates#own")
    page.get_by_label("Arrives on").fill("2027-05-08")
    page.get_by_role("button", name="Keep it on the list").click()
    w.go(f"{bench}/kit/build/")
    expect(page.get_by_role("heading", level=1)).to_contain_text("The work ends after the start")
    # longer evenings, and it fits
    page.get_by_text("When the work begins").click()
    page.get_by_label("Work that a day has").fill("6 h")
    page.locator("#facts").get_by_role("button", name="Keep").click()
    expect(page.get_by_role("heading", level=1)).not_to_contain_text("after the start")
    page.get_by_role("link", name="Lists to print").click()
    expect(page.get_by_role("heading", name="Bum bag")).to_be_visible()
    expect(page.locator(".ticks li", has_text="clutch plates, new")).to_contain_text("waits for its part")
    w.axe()
    w.go(f"{bench}/card/")
    page.get_by_text("On the way, and every figure").click()
    expect(page.get_by_text("Bum bag: tube")).to_be_visible()


#: words in a drawing that stand out of it
CLIPPED = """() => [...document.querySelectorAll('#main svg.drawing')].flatMap(svg => {
  const box = svg.getBoundingClientRect()
  return [...svg.querySelectorAll('text')].filter(t => t.textContent.trim() && getComputedStyle(t).display !== 'none').filter(t => {
    const b = t.getBoundingClientRect()
    return b.width && (b.left < box.left - 1 || b.right > box.right + 1 || b.top < box.top - 1 || b.bottom > box.bottom + 1)
  }).map(t => t.textContent)
})"""


@pytest.mark.parametrize("width", [390, 1280, 1920])
def test_every_room_of_kit_stands_whole_at_every_width_and_by_night(whole, width):
    w = whole(phone=width < 500)
    page = w.page
    page.set_viewport_size({"width": width, "height": 900})
    pair = Pairing.objects.get(race__name__startswith="Saltern")
    bench = f"/bench/{pair.setup_id}/{pair.race_id}/kit"
    for name in ("cooling", "electrics", "sound", "build", "build/lists"):
        w.go(f"{bench}/{name}/")
        assert page.evaluate(CLIPPED) == [], name
        assert page.evaluate("document.documentElement.scrollWidth <= innerWidth"), name
        expect(page.get_by_role("navigation", name="Rooms").locator("[aria-current=page]")).to_have_count(1)
    page.emulate_media(color_scheme="dark")
    w.axe()
    # from room to room by key, and every one says something
    w.go(f"{bench}/cooling/")
    if width > 500:
        settle(w)
        page.keyboard.press("]")
        expect(page.locator(".ribbon-title")).to_have_text("what is in the battery")
        settle(w)
        page.keyboard.press("[")
        expect(page.locator(".ribbon-title")).to_have_text("how hot the coolant gets")


def test_a_figures_why_and_the_way_back_from_a_room(demo):
    """The answer's reason in a drawer, the place on the lap kept, back by the browser's own button."""
    w = demo()
    page = w.page
    w.go(f"{w.bench}/kit/cooling/")
    page.get_by_role("button", name="Why?").first.click()
    drawer = page.get_by_role("dialog")
    expect(drawer).to_contain_text("C dT/dt")
    expect(drawer).to_contain_text("Heywood")
    page.keyboard.press("Escape")
    page.get_by_role("link", name="Next problem").click()
    expect(page.locator("#place")).to_contain_text("22.2 km")
    page.get_by_role("link", name="Electrics").click()
    expect(page.locator("#place")).to_contain_text("22.2 km")
    page.go_back()
    expect(page.locator(".ribbon-title")).to_have_text("how hot the coolant gets")
    # two windows: what one tried the other is told, and nothing is lost
    other = w.another()
    other.goto(f"{w.base}{w.bench}/kit/cooling/")
    other.get_by_role("button", name="Try fan on").click()
    other.wait_for_load_state("networkidle")
    page.get_by_role("button", name="Try Thermostat out").click()
    page.wait_for_load_state("networkidle")
    w.go(f"{w.bench}/kit/cooling/")
    expect(page.get_by_role("row", name="fan off")).to_be_visible()
