"""A tooth tried on a phone, the van away for an hour; a clicker turned blind that nobody feels."""

import re

from playwright.sync_api import expect

from lynxwort.web.bikes.changes import Moves, take
from lynxwort.web.bikes.models import Setup
from lynxwort.web.races.models import Race
from lynxwort.web.runs.models import Trial

#: laps of the two settings [s], and what each lap is quicker for a drying track
LAPS, DRY = {"A": 300.0, "B": 297.3}, 0.4


#: the phone's two clocks go by laps alone
BY_LAPS = """
let t = Number(sessionStorage.getItem("t") || 1000);
performance.now = () => t;
Date.now = () => 1.8e12 + t;
window.passes = (ms) => { t += ms; sessionStorage.setItem("t", t); };
"""


def changed(**moves):
    """The demo's bike with a mixture that may be ridden, kept; then a change in the draft. The address of its bench."""
    setup, race = Setup.objects.get(bike__name="Quern 293", name=""), Race.objects.get()
    head = setup.head
    head.document = head.document | {"setup": head.document["setup"] | {"main_jet": 170.0}}
    head.save()
    setup.draft.values = setup.draft.values | {"main_jet": 170.0}
    setup.draft.save()
    assert take(setup.draft, setup.draft.version, Moves(tuple(moves.items()))).state == "taken"
    return f"/bench/{setup.pk}/{race.pk}/"


def planned(w, base, see="3 % of the lap", pairs="4"):
    page = w.page
    w.go(f"{base}trials/")
    page.get_by_role("link", name="Plan a trial of it").click()
    w.axe()
    w.no_sideways_scroll()
    page.get_by_label("What would you like to see?").select_option(see)
    page.get_by_label("Pairs of runs").select_option(pairs)
    page.get_by_label("A lap of the trial takes").fill("5:00")


def press(page, name):
    page.get_by_role("button", name=name, exact=True).tap()


def lap(page, seconds, *, clean=True, guess="", score=7):
    """One lap from tap to tap, told how it was before its time is shown."""
    press(page, "Start the lap")
    page.evaluate("ms => passes(ms)", round(seconds * 1000))
    press(page, "Lap")
    expect(page.locator("[data-time]")).to_be_hidden()
    press(page, "Clean" if clean else "Botched")
    if clean:
        page.locator(f"[data-aspect=drive] [data-score='{score}']").tap()
        if guess:
            press(page, guess)
        press(page, "Done: show the time")
    expect(page.locator("[data-time]")).to_have_text(f"{int(seconds // 60)}:{seconds % 60:04.1f}")
    press(page, "Next run")


def test_a_tooth_is_tried_in_blocks_and_kept(demo):
    """One lap botched and ridden again, the van out of reach for four laps, a page loaded anew in the middle of one."""
    w = demo(phone=True)
    page, base = w.page, changed(rear_sprocket_teeth=50.0)
    page.add_init_script(BY_LAPS)
    planned(w, base)
    press(page, "Show what it takes")
    expect(page.get_by_text("Smallest difference seen, four times in five")).to_be_visible()
    press(page, "Start")
    expect(page.locator("#trial")).to_be_visible()
    trial = Trial.objects.get()
    order = trial.document["order"]
    assert order in ("ABBAABBA", "BAABBAAB")
    w.axe()
    w.no_sideways_scroll()
    w.context.unroute_all()
    for k in range(8):
        expect(page.locator(".trial-now")).to_contain_text(f"Run {k + 1} of 8")
        expect(page.locator("[data-letter]")).to_have_text(order[k])
        expect(page.locator("[data-fitted]")).to_contain_text("50" if order[k] == "B" else "48")
        time = LAPS[order[k]] - DRY * k
        if k == 2:
            lap(page, 345.0, clean=False)
            expect(page.locator(".trial-now")).to_contain_text("Run 3 of 8")
        if k == 3:
            w.expect.add("offline")
            w.context.set_offline(True)
        lap(page, time)
        if k == 5:
            expect(page.locator("[data-line]")).to_contain_text("3 kept in this phone")
            assert trial.runs.count() == 4
        if k == 6:
            w.context.set_offline(False)
            expect(page.locator("[data-line]")).to_have_text("All runs are in the van.")
            page.reload()  # what was sent is not sent again, and the order goes on
    expect(page.get_by_text("All runs are ridden.").first).to_be_visible()
    expect(page.locator("[data-line]")).to_have_text("All runs are in the van.")
    assert trial.runs.count() == 9
    assert [r.document["botched"] for r in trial.runs.order_by("id")].count(True) == 1
    times = {r.document["place"]: r.document["time_s"] for r in trial.runs.all() if not r.document["botched"]}
    assert all(abs(times[k] - (LAPS[order[k]] - DRY * k)) < 0.06 for k in range(8))
    page.get_by_role("link", name="What the runs say").first.tap()
    expect(page.locator("main h1").first).to_contain_text("Keep it:")
    expect(page.get_by_text("rear sprocket 48 → 50").first).to_be_visible()
    w.axe()
    w.no_sideways_scroll()
    press(page, "Keep it")
    expect(page.get_by_text("Done, with the trial as its reason.")).to_be_visible()
    head = Setup.objects.get(bike__name="Quern 293", name="").head
    assert head.reason.startswith("Trial: Keep: −0.9")
    assert head.values["rear_sprocket_teeth"] == 50
    assert Trial.objects.get().outcome == "kept"


def test_a_clicker_turned_blind_is_not_felt(demo):
    """The rider's phone never says which; the friend's does, for the next run alone; five of eight are guessed."""
    w = demo(phone=True)
    page, base = w.page, changed(shock_compression_clicks=8.0)
    page.add_init_script(BY_LAPS)
    planned(w, base)
    page.get_by_label("Blind: a friend turns it, or not").check()
    press(page, "Show what it takes")
    press(page, "Start")
    expect(page.locator("#trial")).to_be_visible()
    order = Trial.objects.get().document["order"]
    # the friend's phone: a page of its own is looked at once, then only asked, as it asks itself
    friend = w.another()
    friend.goto(f"{w.base}{base}trials/friend/")
    expect(friend.locator("#friend")).to_contain_text("Before run 1 of 8")
    friend.close()
    said = re.compile(r"shock compression, clicks out (\d+)")
    for k in range(8):
        told = w.context.request.get(
            f"{w.base}{base}trials/friend/", headers={"HX-Request": "true", "HX-Target": "friend"}
        )
        assert f"Before run {k + 1} of 8" in told.text()
        assert ("8" in said.findall(told.text())) == (order[k] == "B")
        box = page.locator("#trial")
        assert "data-a" not in box.evaluate("b => b.getAttributeNames()")
        assert order not in page.content()
        right = k < 5
        guess = "changed" if (order[k] == "B") == right else "as it stood"
        lap(page, 300.0 - 0.3 * k + (0.8, -0.9, 0.4, -0.2)[k % 4], guess=guess)
        expect(page.locator("[data-line]")).to_have_text("All runs are in the van.")
    w.go(f"{base}trials/answer/")
    expect(page.get_by_text("5 of 8").first).to_be_visible()
    w.go(f"{base}trials/")
    expect(page.get_by_text("Not felt: 5 of 8 blind runs guessed")).to_be_visible()
    w.axe()
    w.go(f"{base}trials/answer/")
    press(page, "Put it back")
    expect(page.get_by_text("Done, with the trial as its reason.")).to_be_visible()
    setup = Setup.objects.get(bike__name="Quern 293", name="")
    assert setup.draft.values == setup.head.values
