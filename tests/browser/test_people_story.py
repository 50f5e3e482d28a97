"""Crew joins by a code on a phone, sees its sheet, may not change a jet, and is let out again."""

import re

from playwright.sync_api import expect

from lynxwort.web.bikes.models import Draft, Setup
from lynxwort.web.garages.models import Membership
from lynxwort.web.races.models import Race
from lynxwort.web.runs.models import Arrival
from tests.browser.test_day_story import press
from tests.people import racing


def test_crew_joins_by_a_code_taps_who_comes_by_and_changes_no_jet(demo, watch):
    van, setup, race = demo(), Setup.objects.get(name=""), Race.objects.get()
    base, page = f"/bench/{setup.pk}/{race.pk}/", van.page
    van.go("/people/")
    page.get_by_label("For whom, if you like").fill("Sorrel")
    page.get_by_role("button", name="Make a code").click()
    expect(page.get_by_role("heading", name="Scan to join as crew")).to_be_visible()
    box = page.locator(".qr-box").bounding_box()
    assert box is not None
    assert min(box["width"], box["height"]) > 250
    way = re.search(r"/join/[\w-]{22}", page.locator(".join-address").inner_text())
    assert way
    van.axe()
    van.no_sideways_scroll()

    crew = watch(phone=True)
    crew.go(way.group())
    expect(crew.page.get_by_role("heading", name="Join Demo garage as crew")).to_be_visible()
    crew.axe()
    crew.no_sideways_scroll()
    crew.page.get_by_label("Your name").fill("Sorrel")
    press(crew.page, "Join")
    expect(crew.page.get_by_role("heading", name="Races to come")).to_be_visible()
    crew.go(f"{base}range/crew/")
    expect(crew.page.locator("main")).to_contain_text("finish")
    expect(crew.page.get_by_role("link", name="You are in: crew")).to_be_visible()
    crew.axe()
    crew.no_sideways_scroll()
    # the race is on: what comes by is tapped on the phone, and every other sheet follows
    racing(race, minutes_ago=75)
    van.go(f"{base}range/crew/")
    crew.go(f"{base}range/crew/")
    first = crew.page.locator("#clock-rows tr").nth(1)
    finish = page.locator("#clock-rows tr").last.locator("td").nth(2).locator("b").first
    told = finish.inner_text()
    first.get_by_role("button", name="came by").tap()
    expect(first).to_contain_text("told by Sorrel")
    expect(page.locator("#clock-rows tr").nth(1)).to_contain_text("told by Sorrel", timeout=40_000)
    expect(finish).not_to_have_text(told)
    crew.axe()
    crew.no_sideways_scroll()
    # out of reach it waits in the phone, and goes when the van answers again
    crew.expect |= {"offline"}
    crew.context.set_offline(True)
    first.get_by_role("button").tap()
    expect(crew.page.locator("#came-line")).to_have_text("1 to be sent when the van answers")
    expect(first.get_by_role("button")).to_have_attribute("aria-pressed", "false")
    crew.context.set_offline(False)
    expect(crew.page.locator("#came-line")).to_have_text("", timeout=40_000)
    expect(first).not_to_contain_text("told by")
    assert [a.gone for a in Arrival.objects.all()] == [False, True]
    # a jet is read, and has nothing to be pressed
    crew.go(f"{base}fuelling/")
    expect(crew.page.locator('[data-tunable-value="main_jet"]').first).to_be_visible()
    expect(crew.page.locator(".cell.side:visible")).to_have_count(0)
    expect(crew.page.get_by_text("You read here. Drafts are stepped by")).to_have_count(1)
    crew.axe()
    # and a press that comes all the same, of a page from before, is told and changes nothing
    before = Draft.objects.get(setup=setup).version
    crew.expect.add(403)
    crew.page.evaluate("htmx.ajax('POST', 'notch/', {target: '#bench', values: {moves: '[[\"main_jet\", 170]]'}})")
    expect(crew.page.locator("#not-yours")).to_be_visible()
    assert Draft.objects.get(setup=setup).version == before

    # the owner sees who came, makes a rider of them, and lets them out
    van.go("/people/")
    expect(page.locator(".deeds")).to_contain_text("Sorrel (crew) joined: Sorrel")
    sorrel = page.locator(".people-rows li", has_text="Sorrel").first
    sorrel.get_by_label("What Sorrel is").select_option("rider")
    sorrel.get_by_role("button", name="Change Sorrel").click()
    expect(page.locator(".people-rows li", has_text="Sorrel").first).to_contain_text("rider")
    crew.go(f"{base}fuelling/")
    expect(crew.page.locator(".cell.side:visible").first).to_be_visible()
    expect(crew.page.get_by_role("link", name="You are in: rider")).to_be_visible()
    sorrel.get_by_label("What Sorrel is").select_option("out")
    sorrel.get_by_role("button", name="Change Sorrel").click()
    expect(page.locator(".people-rows").first).not_to_contain_text("Sorrel")
    assert not Membership.objects.filter(user__username="Sorrel").exists()
    crew.go(f"{base}fuelling/")
    expect(crew.page.get_by_role("heading", name="You are in no garage")).to_be_visible()
    crew.axe()
    crew.expect.add(404)
    crew.go(way.group())
    expect(crew.page.get_by_role("heading", name="This code lets nobody in")).to_be_visible()
