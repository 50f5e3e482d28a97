"""Kit through its real pages: a tower, foam made for a light bike, a larger rotor, a wheel for the race; also by phone."""

import pytest
from playwright.sync_api import expect

from lynxwort.web.bench.models import Pairing


def settle(w):
    w.page.wait_for_load_state("networkidle")


def heading(page):
    return page.get_by_role("heading", level=1)


@pytest.mark.parametrize("width", [1280, 390])
def test_a_tower_asks_for_spring_in_front_and_comes_off_again(demo, width):
    w = demo(phone=width < 500)
    page = w.page
    page.keyboard.press("8")
    expect(page.get_by_role("heading", level=1)).to_contain_text("The coolant boils on this lap")
    w.axe()
    page.get_by_role("link", name="Items", exact=True).click()
    expect(page.get_by_role("heading", name="Put on the list")).to_be_visible()
    w.axe()
    page.get_by_role("button", name="tower and navigation").click()
    expect(page.get_by_role("row", name="tower and navigation")).to_contain_text("off")
    page.get_by_role("button", name="Put on tower and navigation").click()
    expect(page.get_by_role("row", name="tower and navigation")).to_contain_text("Take off")
    w.go(f"{w.bench}/kit/")
    expect(page.locator(".standing")).to_contain_text("tower and navigation 6.0 kg")
    expect(page.locator("#now-kit_on__tower")).to_contain_text("on")
    w.go(f"{w.bench}/chassis/")
    expect(page.get_by_role("heading", name="Front: the load aboard takes travel in hand")).to_be_visible()
    w.go(f"{w.bench}/kit/")
    if width < 500:
        page.get_by_role("button", name="See, keep").click()
    page.get_by_role("button", name="Put back tower and navigation").click()
    expect(page.locator(".standing")).not_to_contain_text("tower")
    expect(page.locator("#now-kit_on__tower")).to_contain_text("off")


@pytest.mark.parametrize("phone", [False, True])
def test_foam_for_a_light_bike_is_warned_of_and_the_tubes_settle_it(whole, phone):
    """The desert four-stroke: its foam wheel in, to act; the first wheel back in by the proposal."""
    w = whole(phone=phone)
    page = w.page
    pair = Pairing.objects.get(race__name__startswith="Saltern")
    bench = f"/bench/{pair.setup_id}/{pair.race_id}"
    w.go(f"{bench}/kit/wheels/")
    w.axe()
    page.get_by_role("button", name="Try 130/90-18").click()
    settle(w)
    expect(page.get_by_text("Rear foam, hottest")).to_be_visible()
    w.go(f"{bench}/kit/")
    expect(page.get_by_role("heading", name="Rear foam is too light")).to_be_visible()
    expect(page.get_by_text("Foam is for closed courses, not for the road")).to_be_visible()
    page.get_by_role("button", name="Try rear wheel fitted its own").click()
    expect(page.get_by_role("heading", name="Rear foam is too light")).to_have_count(0)


@pytest.mark.parametrize("phone", [False, True])
def test_a_larger_rotor_with_a_larger_master_bites_as_before(demo, phone):
    """Both sides of "larger feels less grabby", in numbers, and each with one press."""
    w = demo(phone=phone)
    page = w.page
    w.go(f"{w.bench}/kit/brakes/")
    w.axe()
    front = page.get_by_role("region", name="Front")
    expect(front.get_by_role("row", name="rotor 240 mm, master 9.5 mm, sintered")).to_contain_text("24 N")
    expect(front.get_by_role("row", name="rotor 280 mm, master 9.5 mm, sintered")).to_contain_text("20 N")
    expect(front.get_by_role("row", name="rotor 280 mm, master 10.5 mm")).to_contain_text("25 N")
    page.get_by_role("button", name="Try rotor 280 mm, master 10.5 mm").click()
    expect(page.get_by_role("region", name="Front").locator("tr.now")).to_contain_text("rotor 280 mm, master 10.5 mm")
    # what is known of them is kept, and a wrong month is told at its field
    page.get_by_text("What is known of the brakes").click()
    page.get_by_label("Changed in, like 2026-03").first.fill("soon")
    w.expect.add(422)
    page.get_by_role("button", name="Keep", exact=True).click()
    expect(page.get_by_text("Year and month, like 2026-03.")).to_be_visible()
    page.get_by_label("Changed in, like 2026-03").first.fill("2027-03")
    page.locator("#facts").get_by_role("button", name="Keep").click()
    expect(page.get_by_text("Kept among the bike's facts.")).to_be_visible()
    w.axe()


@pytest.mark.parametrize("phone", [False, True])
def test_the_wheel_that_grips_this_ground_is_chosen_from_those_there(demo, phone):
    w = demo(phone=phone)
    page = w.page
    w.go(f"{w.bench}/kit/wheels/")
    w.axe()
    rows = page.get_by_role("region", name="Rear wheels").get_by_role("row")
    expect(rows.filter(has_text="120/90-18")).to_contain_text("knobby for soft ground")
    page.get_by_role("button", name="Try 120/90-18").click()
    expect(page.get_by_role("region", name="Rear wheels").locator("tr.now")).to_contain_text("120/90-18")
