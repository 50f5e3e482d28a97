"""A stranger's first hour: six riders, each with a bike of another kind, to the first answer on few pages and fields."""

from pathlib import Path

import pytest
from playwright.sync_api import expect

from lynxwort.demo.scenario import course_bytes
from lynxwort.web.bikes.models import Bike
from lynxwort.web.races.models import Race

COURSES = Path(__file__).parents[2] / "src/lynxwort/demo"
#: pages with something to fill or press, and fields, up to the first answer
MOST_PAGES, MOST_FIELDS = 4, 12
#: who: kind and how it is fed, its facts, the course, who rides and how many laps, the station that answers first, the
#: answer, on a phone
RIDERS = {
    "a desert team on a big two-stroke": (
        ("300 two-stroke", "jets"),
        {"Sprockets": "13/48", "Main jet": "#175", "Tank holds": "4 1/2 gal", "It carries": "12 lb"},
        ("saltern.gpx", "Orrin", "16 st 4 lb", "3"),
        ("range", "Not measured on this bike"),
        False,
    ),
    "a light rider on a tall 250": (
        ("250 four-stroke", "injection"),
        {"Sprockets": "13T 50T", "Tank holds": "8,5"},
        ("hollowood.gpx", "Fen", "8 st 7 lb", "2"),
        ("chassis", "spring"),
        True,
    ),
    "an electric bike with two packs": (
        ("full-size electric", "battery"),
        {"Sprockets": "12-52", "Pack holds": "54 Ah x 96 V"},
        ("hollowood.gpx", "Ebba", "70", "1"),
        ("range", "Not measured on this bike"),
        False,
    ),
    "an old trail bike made road-legal": (
        ("old air-cooled trail bike", "jets"),
        {"Sprockets": "15 48", "Main jet": "No. 115", "Tank holds": "2 1/2 gallons"},
        ("hollowood.gpx", "Bram", "85 kg", "1"),
        ("drive", ""),
        True,
    ),
    "a rally bike with tower and bags": (
        ("450 four-stroke", "injection"),
        {"Sprockets": "14/48", "Tank holds": "16", "It carries": "17 kg", "Fork spring": "0.48 kg/mm"},
        ("saltern.gpx", "Kestrel", "92", "1"),
        ("chassis", ""),
        False,
    ),
    "a club's youth 125": (
        ("125 two-stroke", "jets"),
        {"Sprockets": "13:51", "Main jet": "165", "Tank holds": "8"},
        ("hollowood.gpx", "Pip", "95 lb", "2"),
        ("chassis", "spring"),
        True,
    ),
}


class Hand:
    """Fills and presses, and counts both."""

    def __init__(self, w, phone):
        self.w, self.page, self.phone, self.fields, self.pages = w, w.page, phone, 0, 0

    def fill(self, label, text):
        self.page.get_by_label(label).fill(text)
        self.fields += 1

    def press(self, place):
        place.tap() if self.phone else place.click()
        self.pages += 1
        self.page.wait_for_load_state("networkidle")


@pytest.mark.parametrize("who", RIDERS)
def test_a_stranger_sets_an_unknown_bike_up_in_few_pages_and_fields(demo, who):
    (kind, fed), facts, (course, rider, weight, laps), (station, says), phone = RIDERS[who]
    w = demo(phone=phone)
    page, hand = w.page, Hand(w, phone)
    w.go("/bikes/new/")
    tile = page.locator("li.kind", has=page.get_by_role("heading", name=kind, exact=True))
    expect(tile.locator("svg")).to_be_visible()
    hand.press(tile.get_by_role("link", name=fed))
    w.axe()
    for label, text in facts.items():
        hand.fill(label, text)
    hand.press(page.get_by_role("button", name="Stand it up"))
    # it stands, drawn, with what is assumed marked on it
    expect(page.get_by_role("heading", level=1)).to_have_text(kind)
    expect(page.get_by_role("heading", name="facts are assumed")).to_be_visible()
    if not phone:
        expect(page.locator("svg.standing a").filter(has_text="~").first).to_be_visible()
    w.no_sideways_scroll()
    w.axe()
    hand.press(page.get_by_role("link", name="Its race", exact=True))
    w.axe()
    page.get_by_label("Course file").set_input_files(COURSES / course)
    hand.fields += 1
    day = {"Race": f"{rider}'s race", "Start, local time": "2027-05-02T09:00", "Laps": laps}
    day |= {"Coldest hour": "8", "Hottest hour": "72 f", "Rider's name": rider, "Weight in riding gear": weight}
    for label, text in day.items():
        page.get_by_label(label, exact=label in ("Race", "Laps")).fill(text)
        hand.fields += 1
    hand.press(page.get_by_role("button", name="Keep the race, and to the bench"))
    # the first answer
    expect(page.locator("#main h1")).to_contain_text("km in")
    assert hand.pages <= MOST_PAGES
    assert hand.fields <= MOST_FIELDS
    base = page.url.split("/purpose")[0]
    page.goto(f"{base}/{station}/")
    page.wait_for_load_state("networkidle")
    expect(page.locator("#main h1")).to_contain_text(says)
    if station == "chassis":
        expect(page.locator(".notch-row .cell.now").filter(has_text="assumed").first).to_be_attached()
    w.no_sideways_scroll()
    w.axe()
    AFTER.get(who, lambda *_: None)(w, hand, base.removeprefix(w.base))


def lower(w, hand, base):
    """She says her inside leg, sees what of the foot comes down, and takes the list of least work: it is reached."""
    page = w.page
    w.go(f"{base}/chassis/feet/")
    hand.press(page.get_by_role("link", name="Facts of Fen"))
    page.get_by_label("Inside leg").fill("31 in")
    hand.press(page.get_by_role("button", name="Keep"))
    w.go(f"{base}/chassis/feet/")
    flat = page.locator(".levels > li").first
    expect(flat).not_to_contain_text("reached")
    w.axe()
    hand.press(flat.get_by_role("button", name="Try it: Both feet flat"))
    expect(flat).to_contain_text("reached")
    w.no_sideways_scroll()
    # limited inside instead: what it says, and where it is done
    w.go(f"{base}/chassis/")
    hand.press(page.locator("#more-shock_spacer_m"))
    hand.press(page.locator("#more-fork_spacer_m"))
    expect(page.locator("#findings")).to_contain_text("Travel limited inside")
    expect(page.locator("#findings")).to_contain_text("a licensed shop opens it")
    w.axe()


def two_packs(w, hand, base):
    """Two packs and a charger behind a generator: what goes out at each swap, and what a break gives."""
    page = w.page
    bike = Bike.objects.order_by("-pk").first()
    w.go(f"/bikes/{bike.pk}/facts/#place-fuel")
    for label, text in (
        ("Packs alike, in all", "2"),
        ("Charger, power kW", "3.3 kW"),
        ("Generator for the charger, power kW", "2000 W"),
    ):
        page.get_by_label(label, exact=True).fill(text)
    page.get_by_role("button", name="Keep the facts").click()
    expect(page.get_by_text("Kept. What was kept before stays as it was.")).to_be_visible()
    race = Race.objects.order_by("-pk").first()
    stage = race.document["stages"][0]
    race.document = race.document | {"stages": [stage | {"laps": 6, "refuel_points": [{"at_m": 0.0, "name": "van"}]}]}
    race.save()
    w.go(f"{base}/range/stops/")
    rows = page.get_by_role("region", name="Packs go round").locator("tbody tr")
    expect(rows).to_have_count(5)
    expect(rows.first).to_contain_text("%")
    w.axe()
    w.go(f"{base}/range/holders/")
    expect(page.get_by_text("The generator gives the charger only 1.8 kW.")).to_be_visible()
    expect(page.get_by_role("region", name="Charging between two rides").locator("tbody tr")).to_have_count(8)
    w.axe()
    w.no_sideways_scroll()


#: what a rider does after the first answer
AFTER = {"a light rider on a tall 250": lower, "an electric bike with two packs": two_packs}


def test_facts_by_place_found_by_their_words_and_wrong_ones_at_their_field(demo):
    w = demo()
    w.expect.add(422)
    page = w.page
    bike = Bike.objects.get()
    w.go(f"/bikes/{bike.pk}/")
    w.go(f"/bikes/{bike.pk}/facts/")
    # a press on the drawn fork opens the fork's facts
    page.locator("svg.standing a", has_text="fork").click()
    fork = page.locator("#place-fork")
    expect(fork).to_have_attribute("open", "")
    expect(page.locator("#place-engine")).not_to_have_attribute("open", "")
    # looked for by its words, wherever it lies
    page.get_by_label("Find a fact").fill("zebra")
    expect(page.get_by_text("No fact has these words.")).to_be_visible()
    page.get_by_label("Find a fact").fill("wheelbase")
    expect(page.get_by_label("Wheelbase")).to_be_visible()
    expect(fork).to_be_hidden()
    page.get_by_label("Wheelbase").fill("1480")
    page.get_by_role("button", name="Keep the facts").click()
    expect(page.get_by_text("Is 1480 mm meant? Write it with its unit.")).to_be_visible()
    expect(page.get_by_label("Wheelbase")).to_be_focused()
    expect(page.get_by_label("Wheelbase")).to_have_value("1480")
    w.axe()
    with page.context.expect_page() as opened:
        page.locator(".field.bad").get_by_role("link", name="How to write it").click()
    expect(opened.value.get_by_role("heading", level=1)).to_have_text("How to write numbers")
    opened.value.close()
    page.get_by_label("Wheelbase").fill("4' 10 1/4\"")
    page.get_by_role("button", name="Keep the facts").click()
    expect(page.get_by_text("Kept. What was kept before stays as it was.")).to_be_visible()
    bike.refresh_from_db()
    assert bike.document["frame"]["wheelbase_m"] == pytest.approx(58.25 * 0.0254)


def test_a_rider_finds_the_tool_by_the_word_he_uses(demo):
    w = demo()
    page = w.page
    for typed, name, leads in (
        ("stator", "generator", "/kit/electrics/"),
        ("pinging", "detonation", "/fuelling/"),
        ("tiptoe", "feet on the ground", "/chassis/feet/"),
        ("revalve", "shim stack", "/damping/valving/"),
    ):
        w.go(f"{w.bench}/purpose/")
        page.keyboard.press("/")
        page.locator("#search-dialog input").fill(typed)
        page.locator("#search-found").get_by_role("link", name=name).first.click()
        page.wait_for_load_state("networkidle")
        assert leads in page.url, typed
    for address in ("/words/", "/how-to-write/"):
        w.go(address)
        w.axe()
        w.no_sideways_scroll()
    page.get_by_label("Find a quantity").fill("Ah x")
    expect(page.locator("section.field:visible")).to_have_count(2)


def test_without_scripts_a_bike_and_a_race_are_made_by_whole_pages(demo, chromium):
    w = demo()
    context = chromium.new_context(java_script_enabled=False, storage_state=w.context.storage_state())
    page = context.new_page()
    page.goto(f"{w.base}/bikes/new/two_stroke_125/jetted_two_stroke/")
    for label, text in (("Sprockets", "13/50"), ("Main jet", "165"), ("Tank holds", "many")):
        page.get_by_label(label).fill(text)
    page.get_by_role("button", name="Stand it up").click()
    expect(page.get_by_text("Not a number. Write it like")).to_be_visible()
    page.get_by_label("Tank holds").fill("8")
    page.get_by_role("button", name="Stand it up").click()
    page.get_by_role("link", name="Its race", exact=True).click()
    page.get_by_label("Course file").set_input_files(
        {"name": "c.gpx", "mimeType": "text/xml", "buffer": course_bytes()}
    )
    for label, text in (("Start, local time", "2027-05-02T09:00"), ("Coldest hour", "8"), ("Hottest hour", "20")):
        page.get_by_label(label).fill(text)
    page.get_by_label("Race", exact=True).fill("Plain")
    page.get_by_label("Rider", exact=True).select_option(index=1)
    page.get_by_role("button", name="Keep the race, and to the bench").click()
    expect(page.locator("#main h1")).to_contain_text("41.5 km")
    context.close()


@pytest.mark.parametrize("phone", [False, True], ids=["laptop", "phone"])
def test_a_second_bike_takes_the_springs_but_not_the_jets_of_the_first(demo, phone):
    """Copied with ticks into a bike made by its kind: what was ticked stands in its draft, the mixture stays its own."""
    w = demo(phone=phone)
    w.expect.add(422)
    page = w.page
    w.go("/bikes/new/two_stroke_300/jetted_two_stroke/")
    for label, text in (("Sprockets", "13/50"), ("Main jet", "180"), ("Tank holds", "9.5"), ("It carries", "4 kg")):
        page.get_by_label(label).fill(text)
    page.get_by_role("button", name="Stand it up").dblclick()
    expect(page.get_by_role("heading", level=1)).to_have_text("300 two-stroke")
    spare = Bike.objects.exclude(pk=1).order_by("pk").first()
    w.go("/")
    row = page.locator("article", has=page.get_by_role("link", name="300 two-stroke", exact=True)).first
    row.get_by_role("button", name="Put on the bench").click()
    expect(page.locator("#main h1")).to_contain_text("124.6 km")
    base = page.url.split("/purpose")[0]
    # from the first bike's kept setup
    w.go(f"/setups/{w.bench.split('/')[-2]}/history/")
    page.locator("summary", has_text="Name, branch, copy").first.click()
    page.get_by_label("Copy to another bike").first.select_option(label="300 two-stroke")
    page.get_by_role("button", name="Look what would be copied").first.click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("for 300 two-stroke")
    expect(page.get_by_text("prove the pair anew with a plug check")).to_be_visible()
    w.axe()
    w.no_sideways_scroll()
    springs, jet = page.get_by_label("Fork spring, each leg"), page.get_by_label("Main jet")
    expect(springs).to_be_checked()
    expect(jet).not_to_be_checked()
    expect(page.locator("li", has=springs)).to_contain_text("mm race sag")
    page.get_by_role("button", name="Copy into its draft").click()
    # to where the draft is; undone in one press
    expect(page.get_by_text("The draft of 300 two-stroke holds it now.")).to_be_visible()
    assert page.url.startswith(base)
    draft = spare.setups.get().draft
    assert (draft.values["main_jet"], draft.values["fork_spring_rate_n_per_m"]) == (180.0, 4400.0)
    assert "assumed" not in draft.values or draft.values["assumed"] == []
    # back, and sent once more from the older page: nothing is lost, nothing done twice
    w.move("back")
    page.get_by_role("button", name="Copy into its draft").click()
    page.wait_for_load_state("networkidle")
    draft.refresh_from_db()
    assert draft.values["main_jet"] == 180.0


def test_which_bike_and_the_sheet_for_the_van_door(demo):
    w = demo()
    page = w.page
    w.go("/races/1/")
    page.get_by_role("link", name="Which of my bikes?").click()
    card = page.locator("li.card").first
    expect(card.get_by_role("button", name="Put on the bench")).to_be_visible()
    expect(card).to_contain_text("Finishes")
    w.axe()
    w.go(f"/bikes/{Bike.objects.get().pk}/")
    page.get_by_role("link", name="Jets for the van door").click()
    expect(page.get_by_role("columnheader", name="15 °C")).to_be_visible()
    page.emulate_media(media="print")
    assert not page.get_by_role("button", name="Print").is_visible()
    assert page.evaluate("document.querySelector('.van-door').scrollWidth <= innerWidth")


def test_a_document_is_looked_at_before_it_is_loaded_and_the_file_stays_chosen(demo, tmp_path):
    w = demo()
    w.expect.add(422)
    page = w.page
    with page.expect_download() as download:
        page.get_by_role("link", name="This setup as a document").click()
    download.value.save_as(tmp_path / "d.json")
    (tmp_path / "bad.json").write_text("{}")
    before = Bike.objects.count()
    w.go("/bench/document/")
    page.get_by_label("Document, JSON").set_input_files(tmp_path / "bad.json")
    page.get_by_role("button", name="What would it make?").click()
    expect(page.get_by_text("This is needed.").first).to_be_visible()
    page.get_by_label("Document, JSON").set_input_files(tmp_path / "d.json")
    page.get_by_role("button", name="What would it make?").click()
    expect(page.get_by_text("It would make the bike Quern 293")).to_be_visible()
    assert Bike.objects.count() == before
    page.get_by_role("button", name="Load it").click()
    expect(page.get_by_text("The document stands as a bike and a race.")).to_be_visible()
    assert Bike.objects.count() == before + 1


@pytest.mark.parametrize("phone", [False, True], ids=["laptop", "phone"])
def test_a_newcomer_is_shown_around_and_asks_a_word_and_a_drawing_what_they_are(demo, phone):
    w = demo(phone=phone)
    page = w.page
    w.go("/")
    page.get_by_role("button", name="Show me").click()
    tour = page.locator("#tour")
    for n in range(1, 6):
        expect(tour).to_have_attribute("data-step", str(n))
        w.axe()
        w.no_sideways_scroll()
        if n < 5:
            tour.get_by_role("button", name="Next").click()
    tour.get_by_role("button", name="Back").click()
    expect(tour).to_have_attribute("data-step", "4")
    tour.get_by_role("button", name="Leave").click()
    expect(tour).to_have_count(0)
    w.go(f"{w.bench}/chassis/")
    expect(tour).to_have_count(0)
    # a word says what it means where it stands
    page.locator("#findings a.term", has_text="race sag").first.click()
    expect(page.get_by_role("dialog")).to_contain_text("How far an end sinks with the rider aboard")
    w.axe()
    page.get_by_role("dialog").get_by_role("button", name="Close").click()
    what = page.locator("figure .what").first
    what.locator("summary").click()
    expect(what).to_contain_text("as far as it sinks under the rider")
    w.axe()
    w.no_sideways_scroll()


def test_without_scripts_a_notch_is_stepped_kept_and_undone(demo, chromium):
    w = demo()
    context = chromium.new_context(java_script_enabled=False, storage_state=w.context.storage_state())
    page = context.new_page()
    page.goto(f"{w.base}{w.bench}/chassis/")
    page.get_by_role("link", name="Notches by whole pages").click()
    row = page.get_by_role("region", name="Shock preload")
    row.get_by_role("button", name="+").click()
    expect(row).to_contain_text("draft")
    row.get_by_label("Exact value of Shock preload").fill("9 furlongs")
    row.get_by_role("button", name="Set").click()
    expect(page.locator(".message.error")).to_be_visible()
    row.get_by_label("Exact value of Shock preload").fill("9 mm")
    row.get_by_role("button", name="Set").click()
    expect(row).to_contain_text("9.0")
    page.locator("details.keep summary").click()
    page.get_by_label("Why this change?").fill("by hand")
    page.get_by_role("button", name="Keep it").click()
    expect(page.locator(".draft-count")).to_contain_text("No draft")
    context.close()
