"""Races as they are: a team of four over nearly nine hundred kilometres with a pit every hundred, from one file to the pit card."""

import re

import numpy as np
from playwright.sync_api import expect

from lynxwort.core.model.track import Track
from lynxwort.core.physics.course.export import write_gpx
from lynxwort.demo.scenario import course_bytes
from lynxwort.web.bikes.models import Bike
from tests.browser.test_first_hour import Hand

MOST_PAGES, MOST_FIELDS = 8, 25


def desert(points=4000, length_m=880_000.0) -> bytes:
    """A long way through an invented desert."""
    turns = 0.6 * np.sin(np.linspace(0.0, 40.0, points))
    step = length_m / (points - 1)
    lat = 30.0 + np.cumsum(step * np.cos(turns)) / 111_195.0
    lon = 5.0 + np.cumsum(step * np.sin(turns)) / 111_195.0 / np.cos(np.radians(33.0))
    ele = 400.0 + 150.0 * np.sin(np.linspace(0.0, 60.0, points))
    known = {"latitude_deg": tuple(lat.tolist()), "longitude_deg": tuple(lon.tolist()), "height_m": tuple(ele.tolist())}
    return write_gpx(Track(name="Long sand", heights="barometer", **known))


def test_a_team_of_four_is_entered_over_a_long_course_with_a_pit_every_hundred_kilometres(demo):
    w = demo()
    page, hand = w.page, Hand(w, False)
    w.go("/riders/")
    for name, weight in (("Orrin", "16 st 4 lb"), ("Sable", "71"), ("Teasel", "85 kg")):
        hand.fill("Rider's name", name)
        hand.fill("Weight in riding gear", weight)
        hand.press(page.get_by_role("button", name="Add the rider"))
    w.go("/races/new/")
    w.axe()
    page.get_by_label("Course file").set_input_files(
        {"name": "long-sand.gpx", "mimeType": "text/xml", "buffer": desert()}
    )
    hand.fields += 1
    day = {
        "Race": "Long sand relay",
        "Start, local time": "2027-05-02T06:00",
        "Coldest hour": "12",
        "Hottest hour": "88 f",
    }
    for label, text in day.items():
        page.get_by_label(label, exact=label == "Race").fill(text)
        hand.fields += 1
    page.get_by_label("Rider", exact=True).select_option(label="Wren")
    page.locator("summary", has_text="A team by turns").click()
    for name in ("Orrin", "Sable", "Teasel"):
        page.get_by_role("checkbox", name=name).check()
    page.get_by_label("All of them share the race by turns").check()
    hand.fields += 5
    hand.press(page.get_by_role("button", name="Keep the race"))
    page.goto(f"{page.url}stages/0/")
    points = page.get_by_role("region", name="Refuel points")
    points.locator("summary", has_text="A pit every so far").click()
    hand.fill("One every", "100 km")
    hand.press(page.get_by_role("button", name="Lay the pits"))
    expect(points.get_by_role("listitem")).to_have_count(8)
    points.locator("summary", has_text="A pit every so far").click()
    w.axe()
    hand.press(page.get_by_role("button", name="Cut it at its pits"))
    expect(page.get_by_role("link", name="Ground, points, zones")).to_have_count(9)
    w.axe()
    w.no_sideways_scroll()
    hand.press(page.get_by_role("button", name="Put on the bench"))
    expect(page.locator("#main h1")).to_contain_text("9 stages")
    base = page.url.split("/purpose")[0]
    hand.press(page.get_by_role("link", name="Pit card").first)
    expect(page.locator("#main")).to_contain_text("Long sand relay")
    assert hand.pages <= MOST_PAGES
    assert hand.fields <= MOST_FIELDS
    # hand-overs at pits, each waits where he takes over, and everybody rides
    page.goto(f"{base}/range/crew/")
    turns = page.get_by_role("region", name="Who rides what").locator("tbody tr")
    who = {t.split("\t")[0].strip() for t in turns.all_inner_texts()}
    assert who == {"Wren", "Orrin", "Sable", "Teasel"}
    expect(turns.nth(1)).to_contain_text(re.compile(r"\b\d00\.0 km, \d\d:\d\d"))
    w.axe()
    w.no_sideways_scroll()


def test_a_relay_of_two_on_one_electric_bike_with_two_packs(whole):
    """Six laps, a swap at the line, a charger behind a generator: who rides what, and what each pack holds when it goes out."""
    w = whole()
    page, hand = w.page, Hand(w, False)
    bike = Bike.objects.get(name="Vole E")
    w.go(f"/bikes/{bike.pk}/facts/#place-fuel")
    hand.fill("Packs alike, in all", "2")
    hand.press(page.get_by_role("button", name="Keep the facts"))
    w.go("/races/new/")
    page.get_by_label("Course file").set_input_files(
        {"name": "hollowood.gpx", "mimeType": "text/xml", "buffer": course_bytes("hollowood")}
    )
    day = {
        "Race": "Two by turns",
        "Start, local time": "2027-05-02T10:00",
        "Laps": "6",
        "Coldest hour": "9",
        "Hottest hour": "15",
    }
    for label, typed in day.items():
        page.get_by_label(label, exact=label in ("Race", "Laps")).fill(typed)
        hand.fields += 1
    page.get_by_label("Rider", exact=True).select_option(label="Tamsin")
    page.locator("summary", has_text="A team by turns").click()
    page.get_by_role("checkbox", name="Wren").check()
    page.get_by_label("All of them share the race by turns").check()
    hand.fields += 4
    hand.press(page.get_by_role("button", name="Keep the race"))
    race = page.url
    page.goto(f"{race}stages/0/")
    points = page.get_by_role("region", name="Refuel points")
    points.get_by_label("At km").fill("0")
    points.get_by_label("Name").fill("line")
    hand.fields += 2
    hand.press(points.get_by_role("button", name="Add the point"))
    # changed where it stands, not entered anew
    points.get_by_role("link", name="line").click()
    change = page.locator("#change-it")
    change.get_by_label("Also done there").fill("visor and drink")
    change.get_by_label("which takes").fill("1:00")
    hand.press(change.get_by_role("button", name="Keep the change"))
    w.axe()
    page.goto(race)
    page.get_by_label("On the bench for it").select_option(label="Vole E")
    hand.press(page.get_by_role("button", name="Put on the bench"))
    base = page.url.split("/purpose")[0]
    page.goto(f"{base}/range/stops/")
    rows = page.get_by_role("region", name="Packs go round").locator("tbody tr")
    expect(rows).to_have_count(5)
    expect(rows.first).to_contain_text("100")
    w.axe()
    page.goto(f"{base}/range/crew/")
    turns = page.get_by_role("region", name="Who rides what").locator("tbody tr")
    assert {t.split("\t")[0].strip() for t in turns.all_inner_texts()} == {"Tamsin", "Wren"}
    expect(page.get_by_role("region", name="On the clock")).to_contain_text("swap the pack, likely")
    expect(page.get_by_role("region", name="On the clock")).to_contain_text("visor and drink")
    w.axe()
    w.no_sideways_scroll()
    assert hand.pages <= MOST_PAGES
    assert hand.fields <= MOST_FIELDS


def test_two_days_with_a_closed_park_between_them(demo):
    """A day as one file, another as the next, fifteen minutes' work between them and the night in a closed park; on a phone."""
    w = demo(phone=True)
    page, hand = w.page, Hand(w, True)
    w.go("/races/new/")
    both = [
        {"name": f"{n}.gpx", "mimeType": "text/xml", "buffer": course_bytes(c)}
        for n, c in (("1 out", "hollowood"), ("2 home", "gannach-meadow"))
    ]
    page.get_by_label("Course file").set_input_files(both)
    day = {"Race": "Two days", "Start, local time": "2027-05-02T09:00", "Coldest hour": "4", "Hottest hour": "17"}
    for label, typed in day.items():
        page.get_by_label(label, exact=label == "Race").fill(typed)
        hand.fields += 1
    page.get_by_label("Rider", exact=True).select_option(label="Wren")
    hand.fields += 2
    hand.press(page.get_by_role("button", name="Keep the race"))
    expect(page.get_by_role("heading", level=1)).to_have_text("Two days")
    page.locator("summary", has_text="Change the stage 1").tap()
    first = page.locator("ol.stages > li").first
    first.get_by_label("Time allowed on the schedule").fill("24 h")
    first.get_by_label("The bike may be worked on after it").fill("15")
    first.get_by_label("Then it stands in a closed park").check()
    hand.fields += 3
    w.axe()
    hand.press(first.get_by_role("button", name="Keep the stage"))
    expect(first).to_contain_text("min allowed")
    w.no_sideways_scroll()
    hand.press(page.get_by_role("button", name="Put on the bench"))
    expect(page.locator("#main h1")).to_contain_text("%")
    base = page.url.split("/purpose")[0]
    page.goto(f"{base}/range/crew/")
    clock = page.get_by_role("region", name="On the clock")
    expect(clock).to_contain_text("work on the bike")
    expect(clock).to_contain_text("nobody touches it until the next start")
    w.axe()
    # the card for the bars: the second day starts a day after one's own minute
    page.goto(f"{base}/range/time-card/?minute=7")
    card = page.locator(".tape")
    expect(card).to_contain_text("key time 09:07")
    expect(card.locator("tbody tr").nth(1)).to_contain_text("09:07")
    w.axe()
    w.no_sideways_scroll()
    assert hand.pages <= MOST_PAGES
    assert hand.fields <= MOST_FIELDS


def a_race(page, hand, name, course, *, rider="Wren", laps="", hours="", more=()):
    """A race from its file on the form for new ones, kept."""
    page.get_by_label("Course file").set_input_files(
        {"name": f"{course}.gpx", "mimeType": "text/xml", "buffer": course_bytes(course)}
    )
    day = {"Race": name, "Start, local time": "2027-05-02T10:00", "Coldest hour": "41 f", "Hottest hour": "17"}
    day |= {"Laps": laps} if laps else {}
    day |= {"or hours, and the lap under way": hours} if hours else {}
    for label, typed in (*day.items(), *more):
        field = page.get_by_label(label, exact=label in ("Race", "Laps"))
        if not field.is_visible():
            page.locator("details:not([open]) > summary", has_text=re.compile("More of the day")).first.click()
        field.fill(typed)
        hand.fields += 1
    page.get_by_label("Rider", exact=True).select_option(label=rider)
    hand.fields += 2
    hand.press(page.get_by_role("button", name="Keep the race"))


def on_the_bench(page, hand, bike):
    page.get_by_label("On the bench for it").select_option(label=bike)
    hand.press(page.get_by_role("button", name="Put on the bench"))
    expect(page.locator("#main h1")).to_be_visible()
    return page.url.split("/purpose")[0]


def test_a_hare_scramble_of_three_hours_whose_class_starts_ten_minutes_later(whole):
    """Three hours from the first start, ten minutes of them gone: the clock is one's own, the plan has its unlikely lap beside."""
    w = whole(phone=True)
    page, hand = w.page, Hand(w, True)
    w.go("/races/new/")
    w.expect.add(422)
    gap = ("Own class starts after the first by", "10")
    a_race(page, hand, "Reed bed scramble", "saltern", hours="9 min", more=[gap])
    expect(page.locator(".error").first).to_be_visible()
    page.get_by_label("or hours, and the lap under way").fill("3 h")
    hand.press(page.get_by_role("button", name="Keep the race"))
    expect(page.get_by_role("heading", level=1)).to_have_text("Reed bed scramble")
    w.axe()
    w.no_sideways_scroll()
    page.goto(f"{page.url}stages/0/")
    points = page.get_by_role("region", name="Refuel points")
    points.get_by_label("At km").fill("0")
    points.get_by_label("Name").fill("pits")
    hand.fields += 2
    hand.press(points.get_by_role("button", name="Add the point"))
    page.get_by_role("link", name="Reed bed scramble").first.click()
    base = on_the_bench(page, hand, "Tarn 350i")
    expect(page.locator("#main")).to_contain_text("10 min after the first")
    page.goto(f"{base}/range/crew/")
    clock = page.get_by_role("region", name="On the clock").locator("tbody tr")
    expect(clock.first).to_contain_text("10:10")
    expect(clock.last).to_contain_text("13:")
    w.axe()
    page.goto(f"{base}/range/stops/")
    expect(page.locator("#main")).to_contain_text(re.compile(r"Should lap \d+ come|quickest that holds"))
    w.axe()
    hand.press(page.get_by_role("button", name="Stations"))
    page.get_by_role("link", name="Pit card").first.tap()
    expect(page.locator("#main")).to_contain_text("10:10")
    assert hand.pages <= MOST_PAGES
    assert hand.fields <= MOST_FIELDS


def test_an_electric_bike_with_two_packs_and_a_light_rider_on_two_loops(whole):
    """Two strangers' own races: packs that go round alone, and two loops by one who weighs half a hundredweight less."""
    w = whole()
    page, hand = w.page, Hand(w, False)
    w.go("/riders/")
    hand.fill("Rider's name", "Linnet")
    hand.fill("Weight in riding gear", "8 st 10 lb")
    hand.press(page.get_by_role("button", name="Add the rider"))
    w.go("/races/new/")
    a_race(page, hand, "Two loops", "hollowood", rider="Linnet", laps="2")
    base = on_the_bench(page, hand, "Quern 293")
    expect(page.locator("#main h1")).to_contain_text("2 laps")
    page.goto(f"{base}/chassis/")
    expect(page.locator("#main")).to_contain_text(re.compile("stiff|too little sag|preload"))
    page.goto(f"{base}/card/")
    expect(page.locator("#main")).to_contain_text("Two loops")
    w.axe()
    assert hand.pages <= MOST_PAGES
    assert hand.fields <= MOST_FIELDS
    hand.pages = hand.fields = 0
    w.go("/races/new/")
    a_race(page, hand, "Quiet hour", "hollowood", rider="Tamsin", laps="6")
    race = page.url
    page.goto(f"{race}stages/0/")
    points = page.get_by_role("region", name="Refuel points")
    points.get_by_label("At km").fill("0")
    points.get_by_label("Name").fill("paddock")
    hand.press(points.get_by_role("button", name="Add the point"))
    page.goto(race)
    base = on_the_bench(page, hand, "Vole E")
    page.goto(f"{base}/range/crew/")
    expect(page.get_by_role("region", name="On the clock")).to_contain_text("swap the pack")
    page.goto(f"{base}/card/")
    expect(page.locator("#main")).to_contain_text("Quiet hour")
    w.axe()
    assert hand.pages <= MOST_PAGES
    assert hand.fields <= MOST_FIELDS
