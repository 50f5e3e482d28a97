"""The week before a race planned on a phone with a part that comes late, and the van loaded from its list."""

from playwright.sync_api import expect

from lynxwort.web.bikes.models import Setup
from lynxwort.web.races.models import Race
from lynxwort.web.service import services
from tests.browser.test_day_story import press
from tests.logged import H


def test_a_week_is_planned_with_a_late_part_and_the_van_is_loaded(demo):
    w = demo(phone=True)
    page, race, setup = w.page, Race.objects.get(), Setup.objects.get(bike__name="Quern 293", name="")
    services.write(setup.bike, "ride", {"meter_s": 118 * H})
    services.write(setup.bike, "part", {"kind": "piston", "fitted_s": 70 * H})
    base = f"/bench/{setup.pk}/{race.pk}/"
    w.go(f"{base}card/")
    page.get_by_role("link", name="Race week").tap()
    heading = page.get_by_role("heading", level=1)
    expect(heading).to_contain_text("Begin on Thu 15 Apr, 19:30, at the latest")
    w.axe()
    w.no_sideways_scroll()
    page.get_by_label("First evening of work").fill("2027-04-12")
    page.locator("#evenings").get_by_role("button", name="Keep").tap()
    expect(page.get_by_text("Kept with the race.")).to_be_visible()
    # the piston is on its way
    job = page.locator(".week-jobs li", has_text="Piston and rings")
    job.get_by_text("Its part").tap()
    job.get_by_label("Ordered: it comes on").fill("2027-04-17")
    press(page, "Keep this")
    expect(heading).to_contain_text("Piston and rings: its part comes too late")
    expect(page.get_by_text("Left out: Piston and rings.")).to_be_visible()
    w.axe()
    w.no_sideways_scroll()
    # a job of one's own goes to the end
    page.get_by_text("A job of your own").tap()
    page.get_by_label("What is to be done").fill("load the van")
    page.get_by_label("Takes").fill("90 min")
    page.get_by_label("Once the bike is done").check()
    press(page, "Put it on the list")
    expect(page.locator(".week-jobs li").last).to_contain_text("Load the van")
    page.get_by_role("link", name="Load list").tap()
    expect(heading).to_contain_text("0 of")
    first = page.get_by_role("button", name="extinguisher")
    first.tap()
    expect(heading).to_contain_text("1 of")
    expect(page.get_by_role("button", name="extinguisher")).to_have_attribute("aria-pressed", "true")
    box = page.get_by_role("button", name="extinguisher").bounding_box()
    assert box is not None
    assert box["height"] >= 44
    page.get_by_label("What was missing there").fill("ground sheet")
    press(page, "Remember it")
    expect(page.get_by_text("Of this race: ground sheet")).to_be_visible()
    w.axe()
    w.no_sideways_scroll()
    # said at Baseline too, with the way here
    w.go(f"{base}baseline/")
    page.get_by_role("link", name="Race week").first.tap()
    expect(heading).to_contain_text("its part comes too late")
