"""In the pits: sheets kept in the phone and shown without the van, hours tapped, a team's settings turned for each rider."""

import re

from playwright.sync_api import expect

from lynxwort.web.bikes.models import Setup
from lynxwort.web.races import services as races
from lynxwort.web.races.models import Race


def a_team():
    """The demo's race shared with a heavier rider; the address of its bench."""
    race, setup = Race.objects.get(), Setup.objects.get(bike__name="Quern 293", name="")
    bryn = races.save_rider(race.garage, {"name": "Bryn Aske", "mass_in_gear_kg": 104.0, "pace": 0.5})
    Race.objects.filter(pk=race.pk).update(document=race.document | {"relay": {"hand_over_s": 60.0}})
    race.others.set([bryn])
    return f"/bench/{setup.pk}/{race.pk}/"


def test_sheets_are_in_the_phone_without_the_van(demo):
    """The page says which way there is; kept pages open without the van, with what was tapped; forgotten they are gone."""
    w = demo(phone=True)
    page, base = w.page, a_team()
    w.go(f"{base}range/crew/phone/")
    w.axe()
    w.no_sideways_scroll()
    expect(page.get_by_text("This connection is secure")).to_be_visible()
    expect(page.get_by_text("This connection is plain")).to_be_hidden()
    with page.expect_download() as saved:
        page.get_by_role("link", name="Save the sheets").click()
    alone = saved.value.path().read_text()
    assert not re.search(r"<script|src=\"/|href=\"/", alone)
    w.context.unroute_all()
    page.get_by_role("button", name="Keep these pages in the phone").click()
    expect(page.locator("#kept-sheets")).to_contain_text("Kept, last at")
    w.expect.add("offline")
    w.context.set_offline(True)
    page.get_by_role("link", name="Crew sheet", exact=True).click()
    expect(page.get_by_role("heading", name="Crew sheet")).to_be_visible()
    ford = page.get_by_role("button", name=re.compile("ford, lap 1"))
    ford.tap()
    expect(ford).to_have_attribute("aria-pressed", "true")
    page.reload()
    expect(ford).to_have_attribute("aria-pressed", "true")
    expect(ford).to_contain_text(":")
    page.goto(f"{w.base}{base}card/")
    expect(page.get_by_role("heading", level=1).first).to_be_visible()
    w.context.set_offline(False)
    page.goto(f"{w.base}{base}range/crew/")
    w.axe()
    w.no_sideways_scroll()
    ford.tap()
    expect(ford).to_have_attribute("aria-pressed", "false")
    page.goto(f"{w.base}{base}range/crew/phone/")
    page.get_by_role("button", name="Forget them").click()
    expect(page.locator("#kept-sheets")).to_contain_text("None are kept")
    assert page.evaluate("caches.keys()") == []


def test_what_is_turned_for_each_rider_stands_on_the_crews_sheet(demo):
    """From the crew's sheet to what suits a heavy rider, levers of his own, kept; his hand-over then says what is turned."""
    w = demo(phone=True)
    page, base = w.page, a_team()
    w.go(f"{base}range/crew/")
    page.get_by_role("link", name="What is turned for each rider").tap()
    w.axe()
    w.no_sideways_scroll()
    bryn = page.locator("section", has_text="Bryn Aske").first
    expect(bryn).to_contain_text("outside its band")
    bryn.locator("summary").tap()
    bryn.get_by_label("What else: levers, seat").fill("levers down")
    bryn.get_by_label("Shock rebound, clicks out").fill("nine")
    w.expect.add(422)
    bryn.get_by_role("button", name="Into the draft").tap()
    expect(page.get_by_text("Not a number").first).to_be_visible()
    bryn.get_by_label("Shock rebound, clicks out").fill("9")
    bryn.get_by_role("button", name="Take the preloads that suit").tap()
    expect(bryn).to_contain_text("shock preload 12.0 mm → 15.0 mm")
    expect(bryn).to_contain_text("levers down")
    page.get_by_role("button", name="See, keep").tap()
    page.locator("summary", has_text="Keep").tap()
    page.get_by_label("Why this change?").fill("two riders")
    page.get_by_role("button", name="Keep it").tap()
    expect(page.get_by_text("against No. 2")).to_be_visible()
    w.go(f"{base}range/crew/")
    expect(page.get_by_text("levers down").first).to_be_visible()
    w.axe()
