"""A day logged on a phone and remembered on the next; a session's file cut into runs; two riders who differ."""

from playwright.sync_api import expect

from lynxwort.core.standin.session import recorded
from lynxwort.demo import scenario
from lynxwort.web.bikes.models import Setup
from lynxwort.web.races.models import Race
from lynxwort.web.races.tracks import add_course
from lynxwort.web.runs.models import ClickTurn, RiddenDay, Trial
from tests.browser.test_trials_story import changed, planned
from tests.trials import a_trial, stood_in


def press(page, name):
    page.get_by_role("button", name=name, exact=True).click()


def test_a_day_is_logged_in_taps_and_remembered(demo):
    """Nothing typed: a lap is a tap, a click two; a reason without an adjuster is told, a wrong one struck out."""
    w = demo(phone=True)
    page, race = w.page, Race.objects.get()
    base = f"/bench/{Setup.objects.get(bike__name='Quern 293', name='').pk}/{race.pk}/"
    w.go(f"{base}trials/")
    page.get_by_role("link", name="The day").tap()
    expect(page.get_by_text("Log every click with its reason in two taps")).to_be_visible()
    press(page, "Begin the day")
    press(page, "Lap 1 is ridden")
    expect(page.locator(".day-of")).to_contain_text("one lap ridden")
    w.axe()
    w.no_sideways_scroll()
    w.expect.add(422)
    press(page, "packs down")
    expect(page.get_by_role("alert").filter(has_text="Say first what was turned")).to_be_visible()
    w.expect.discard(422)
    tile = page.get_by_role("group", name="shock rebound")
    tile.get_by_label("out", exact=True).check()
    press(page, "packs down")
    expect(page.locator(".day-log")).to_contain_text("shock rebound 2 out")
    page.get_by_role("group", name="fork compression").get_by_label("in", exact=True).check()
    press(page, "harsh")
    page.get_by_role("button", name="Strike out fork compression 2 in").tap()
    expect(page.locator(".day-log li")).to_have_count(1)
    page.go_back()
    press(page, "Lap 2 is ridden")  # from a page that is older than the log
    assert ClickTurn.objects.count() == 2
    page.get_by_text("The ground, the tyres, how it ended").tap()
    page.get_by_label("How it ended").select_option("finished")
    page.get_by_role("textbox", name="Place").fill("7")
    press(page, "Keep this")
    expect(page.locator(".day-of")).to_contain_text("place 7")
    w.axe()
    press(page, "Begin another day")
    expect(page.locator(".day-next")).to_contain_text("shock rebound 2 out before lap 2")
    assert RiddenDay.objects.count() == 2
    w.go(f"{base}card/")
    expect(page.get_by_text("before lap 2: shock rebound 2 out (packs down, last time)")).to_be_visible()
    w.no_sideways_scroll()


def test_a_session_of_nine_laps_is_cut_and_kept(demo):
    """One recording with a stand in the fifth lap: the lap is left out by itself, the others are the runs in order."""
    w = demo()
    page, base = w.page, changed(rear_sprocket_teeth=50.0)
    course = scenario.track("gannach-meadow")
    add_course(Race.objects.get().garage, course)
    planned(w, base)
    press(page, "Show what it takes")
    press(page, "Start")
    page.get_by_role("link", name="Runs from a file").click()
    order = Trial.objects.get().document["order"]
    true = [300.0 - 0.2 * k - 7.0 * (c == "B") for k, c in enumerate(order)]
    data = recorded(course, [*true[:4], 310.0, *true[4:]], 3, pause_in=4)
    page.get_by_label("Ridden on").select_option(label=course.name)
    page.locator("input[type=file]").set_input_files(
        {"name": "session.gpx", "mimeType": "application/gpx+xml", "buffer": data}
    )
    press(page, "Read it")
    expect(page.get_by_role("heading", name="9 whole laps")).to_be_visible()
    expect(page.get_by_text("stood 2:")).to_have_count(1)
    w.axe()
    press(page, "Keep the runs")
    expect(page.get_by_text("8 runs are kept.")).to_be_visible()
    page.locator("#trial").get_by_role("link", name="What the runs say").click()
    expect(page.get_by_role("img", name="Difference along the lap, sector by sector")).to_be_visible()
    expect(page.get_by_text("rear sprocket 48 → 50: Keep:").first).to_be_visible()
    w.axe()
    w.no_sideways_scroll()


def test_two_riders_who_differ_are_told_apart(demo):
    """The same tooth, quicker under one and slower under the other: told at the station, side by side, and compared."""
    w = demo()
    setup = Setup.objects.get(bike__name="Quern 293", name="")
    mine = a_trial(setup)
    other = Trial.objects.create(setup=setup, document=mine.document | {"rider": "Isk"}, values=mine.values, outcome="left")  # fmt: skip
    stood_in(other, effect_share=0.02, lap_sd=0.005)
    page, base = w.page, f"/bench/{setup.pk}/{Race.objects.get().pk}/"
    w.go(f"{base}trials/answer/")
    expect(page.get_by_text("Suits Wren, not Isk").first).to_be_visible()
    expect(page.get_by_role("region", name="Riders side by side, never averaged")).to_be_visible()
    w.axe()
    page.get_by_role("link", name="Compare").click()
    page.get_by_label("The first").select_option(f"{mine.uid}:B")
    page.get_by_label("The second").select_option(f"{other.uid}:B")
    press(page, "Side by side")
    expect(page.get_by_text("The second is slower")).to_be_visible()
    w.axe()
    w.no_sideways_scroll()
