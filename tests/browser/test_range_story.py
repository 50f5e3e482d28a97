"""Range through the pages: three laps with one stop, a relay of four over stages, a pack chosen, and the pump on a phone."""

import re

from playwright.sync_api import expect

from lynxwort.web.bench.models import Pairing
from lynxwort.web.races.models import Race
from lynxwort.web.readings.models import Reading


def bench_of(race: str) -> str:
    pair = Pairing.objects.get(race__name__startswith=race)
    return f"/bench/{pair.setup_id}/{pair.race_id}"


def a_ford(w, at="31 km"):
    """A refuel point on the lap, a wrong unit first."""
    page = w.page
    w.go(f"/races/{Race.objects.get(name__startswith='Brackenmere').pk}/stages/0/")
    points = page.get_by_role("region", name="Refuel points")
    points.get_by_label("At km").fill(at)
    points.get_by_label("Name").fill("ford")
    points.get_by_label("Fills").fill("0")
    points.get_by_role("button", name="Add the point").click()
    expect(page.get_by_role("alert").first).to_contain_text("Too small")
    expect(points.get_by_label("Name")).to_have_value("ford")
    points.get_by_label("Fills").fill("40 L/min")
    points.get_by_role("button", name="Add the point").click()
    expect(points.get_by_role("list")).to_contain_text("ford, 40.0 L/min")


def test_three_laps_with_one_stop(demo):
    w = demo()
    page = w.page
    w.expect.add(422)
    w.go(f"{w.bench}/range/stops/")
    expect(page.get_by_text("This race has no refuel point yet")).to_be_visible()
    w.axe()
    a_ford(w)
    w.go(f"{w.bench}/range/")
    w.room("Stops")
    expect(page.get_by_role("heading", name=re.compile("The quickest that holds: 1 stop,"))).to_be_visible()
    expect(page.get_by_role("img", name="Stops on the clock")).to_be_visible()
    w.axe()
    w.no_sideways_scroll()
    page.get_by_role("button", name="Take this plan The quickest that holds").click()
    expect(page.get_by_text("1 stop planned in the draft")).to_be_visible()
    expect(page.get_by_role("heading", name=re.compile("As planned: 1 stop"))).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("Put back Stops"))).to_be_visible()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Fuel lasts: 99")
    page.locator("summary", has_text="Keep").click()
    page.get_by_label("Why this change?").fill("one stop at the ford")
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text("against No. 2")).to_be_visible()
    w.room("Crew")
    expect(page.get_by_role("row").filter(has_text="fill to")).to_have_count(1)
    w.axe()
    w.no_sideways_scroll()
    with page.expect_download() as calendar:
        page.get_by_role("link", name="As a calendar").click()
    assert calendar.value.suggested_filename == "crew-sheet.ics"


def test_litres_at_the_pump_on_a_phone(demo):
    w = demo(phone=True)
    page = w.page
    w.expect.add(422)
    a_ford(w)
    Reading.objects.filter(document__kind="fill_up").delete()
    w.go(f"{w.bench}/range/pump/")
    expect(page.get_by_role("heading", name=re.compile("Next stop: ford"))).to_be_visible()
    w.axe()
    w.no_sideways_scroll()
    before = page.locator(".big-number").inner_text()
    page.get_by_label("Went in").fill("lots")
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text("Not a number").first).to_be_visible()
    expect(page.get_by_label("Went in")).to_have_value("lots")
    page.get_by_label("Here").select_option(index=0)
    page.get_by_label("Went in").fill("3.4")
    page.get_by_label("Filled to").fill("11.5")
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text("Kept as a fill-up")).to_be_visible()
    expect(page.locator("dl.fitted")).to_contain_text("burnt")
    assert not page.locator(".big-number").count() or page.locator(".big-number").inner_text() != before
    w.axe()


def test_a_long_relay_of_four_over_stages(whole):
    w = whole()
    page = w.page
    w.expect.add(422)
    w.go("/riders/")
    page.get_by_label("Rider's name").fill("Ivo Marrel")
    page.get_by_label("Weight in riding gear").fill("74 kg")
    page.get_by_label("Can ride at a stretch").fill("90")
    page.get_by_role("button", name=re.compile("Add|Keep")).first.click()
    expect(page.get_by_text("Ivo Marrel").first).to_be_visible()
    race = Race.objects.get(name__startswith="Gannach")
    w.go(f"/races/{race.pk}/")
    page.get_by_label("All of them share the race by turns").check()
    page.get_by_role("button", name="Keep the race").click()
    expect(page.get_by_text("A relay needs two riders or more").first).to_be_visible()
    for name in ("Isk", "Tamsin", "Ivo Marrel"):
        page.get_by_role("checkbox", name=name).check()
    page.get_by_label("A hand-over costs").fill("60 s")
    page.get_by_role("button", name="Keep the race").click()
    expect(page.get_by_text("Kept.")).to_be_visible()
    w.go(f"{bench_of('Gannach')}/range/crew/")
    table = page.get_by_role("region", name="Who rides what")
    for name in ("Wren", "Isk", "Tamsin", "Ivo Marrel"):
        expect(table).to_contain_text(name)
    expect(page.get_by_role("row").filter(has_text="hand-over")).to_have_count(3)
    expect(page.get_by_text("Rear, least wrong for all riders")).to_be_visible()
    w.axe()
    w.no_sideways_scroll()


def test_an_electric_bike_chooses_its_pack(whole):
    w = whole()
    page = w.page
    w.go(f"{bench_of('Hollowood')}/range/")
    page.get_by_role("link", name="Packs and modes").click()
    expect(page.get_by_role("row").filter(has_text="long")).to_contain_text("15 mm")
    expect(page.get_by_role("region", name="Power modes")).to_be_visible()
    w.axe()
    w.no_sideways_scroll()
    page.get_by_role("row").filter(has_text="long").get_by_role("button", name="Try").click()
    expect(page.get_by_role("button", name=re.compile("Put back Pack"))).to_be_visible()
    expect(page.locator(".effects")).to_contain_text("Rear race sag")
