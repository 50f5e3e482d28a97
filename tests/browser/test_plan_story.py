"""The demo's two-stroke set up in one press on a phone: looked over, a step left out, kept. The first whole plan kept
instead of waiting. A bike that cannot be made right.
"""

import re

from playwright.sync_api import expect

from lynxwort.web.bikes.models import Setup
from lynxwort.web.jobs import worker
from lynxwort.web.jobs.models import Job
from lynxwort.web.stations.proposing import sureness


def test_set_up_in_one_press_a_step_left_out_and_kept(demo, monkeypatch):
    monkeypatch.setattr(sureness, "COUNT", 16)
    w = demo(phone=True)
    page = w.page
    w.go(f"{w.bench}/fuelling/")
    page.get_by_role("button", name="Ledger").tap()
    page.get_by_role("link", name="Set it up for me").tap()
    heading = page.get_by_role("heading", level=1)
    expect(heading).to_contain_text("Working out a plan")
    w.axe()
    # a finger that rests on the button while the page asks how far it is
    box = page.get_by_role("button", name="Stop").bounding_box()
    page.mouse.move(box["x"] + 20, box["y"] + 20)
    page.mouse.down()
    with page.expect_response("**/card/plan/*"), page.expect_response("**/card/plan/*"):
        page.wait_for_timeout(1500)
    page.mouse.up()
    expect(heading).to_contain_text("Stopped before the end")
    page.get_by_role("button", name="Go on").tap()
    expect(heading).to_contain_text("Working out a plan")
    w.run_jobs()
    expect(heading).to_contain_text(re.compile(r"7 steps, 5\.\d h, no part to buy, kit for 210"), timeout=120_000)
    # how sure it is comes by itself, and moves nothing that was ticked
    sure = page.locator("#plan-sure")
    expect(sure).to_contain_text("Judging it in 16 ways")
    step = page.locator(".plan-steps > li", has_text="Rear sprocket")
    step.get_by_role("checkbox").uncheck()
    w.run_jobs()
    expect(sure).to_contain_text("nothing more is said", timeout=120_000)
    expect(page.locator("#plan-how-sure")).to_contain_text(re.compile(r"\d+ cases? of 100"))
    expect(step.get_by_role("checkbox")).not_to_be_checked()
    w.axe()
    w.no_sideways_scroll()
    expect(step).to_contain_text("48 → 50")
    page.locator(".plan-form").get_by_role("button", name="Into the draft").tap()
    expect(page.get_by_text("The plan is in the draft.")).to_be_visible()
    page.get_by_role("button", name="See, keep").tap()
    chips = page.locator(".chips")
    expect(chips).to_contain_text("Main jet 165 → 168")
    expect(chips).not_to_contain_text("Rear sprocket")
    page.locator("#keep summary").tap()
    page.get_by_label("Why this change?").fill("as planned, the sprocket stays")
    page.get_by_role("button", name="Keep it").tap()
    expect(page.locator(".draft-count")).to_contain_text("against No. 2")
    w.go(f"{w.bench}/fuelling/")
    expect(heading).not_to_contain_text("too lean")


def test_the_first_whole_plan_is_there_soon_and_may_be_kept_instead_of_waiting(demo, monkeypatch):
    w = demo(phone=True)
    page = w.page
    heading, steps = page.get_by_role("heading", level=1), page.locator(".plan-steps > li")
    w.go(f"{w.bench}/card/plan/")
    expect(heading).to_contain_text("Working out a plan")

    def stepper(pk):
        def step(progress, result):
            Job.objects.filter(pk=pk).update(progress=progress, result=result)
            if len(result.get("first", {"steps": []})["steps"]) < 2:
                return  # before the proposals lead no further it is the jet alone
            expect(heading).to_contain_text(re.compile(r"First plan:\s+7 steps, 5\.\d h, no part to buy, kit for 210"))
            expect(steps).to_have_count(7)
            expect(steps.filter(has_text="Carburettor")).to_contain_text("no reason to go leaner")
            expect(page.get_by_role("checkbox")).to_have_count(0)
            w.axe()
            w.no_sideways_scroll()
            page.get_by_role("button", name="Stop").tap()
            expect(page.get_by_role("button", name="Stop")).to_be_visible()  # not before it has stopped
            raise worker.Cancelled

        return step

    with monkeypatch.context() as shown:
        shown.setattr(worker, "_stepper", stepper)
        w.run_jobs()
    expect(page.get_by_text("The search did not come to its end.")).to_be_visible()
    expect(steps.get_by_role("checkbox")).to_have_count(7)
    w.axe()
    page.locator(".plan-form").get_by_role("button", name="Into the draft").tap()
    expect(page.get_by_text("The plan is in the draft.")).to_be_visible()
    page.get_by_role("button", name="See, keep").tap()
    expect(page.locator(".chips")).to_contain_text("Main jet 165 → 168")


def test_a_bike_that_cannot_be_made_right_is_told_so_and_stays_told(whole):
    """Over the mountain no map suits both ends of the day: the plan does what it can, and hides nothing of the rest."""
    w = whole()
    page = w.page
    setup = Setup.objects.get(bike__name="Tarn 350i")
    page.goto(w.base)
    page.locator(f"a[href^='/bench/{setup.pk}/']").filter(has_text="Gannach").first.click()
    page.wait_for_selector("#bench")
    bench = page.url.removeprefix(w.base).rsplit("/", 2)[0]
    w.go(f"{bench}/card/plan/")
    w.run_jobs()
    heading, left = page.get_by_role("heading", level=1), page.locator(".plan-left > li")
    expect(heading).to_contain_text(re.compile(r"\d steps?, \d+ min, nothing to buy"), timeout=120_000)
    # a leaner trim never stands without its caution
    expect(page.locator(".plan-steps > li").filter(has_text="Map trim")).to_contain_text("Never chase crispness")
    rich = left.filter(has_text="Rich at the hot high point")
    expect(rich).to_contain_text("Not only tried but reckoned")
    expect(rich).to_contain_text("No jet, needle, trim or knob does both")
    expect(rich).to_contain_text("rather rich than lean")
    expect(left.filter(has_text="Round the tarn")).to_be_visible()
    w.axe()
    w.no_sideways_scroll()
    page.locator(".plan-form").get_by_role("button", name="Into the draft").click()
    expect(page.get_by_text("The plan is in the draft.")).to_be_visible()
    # what it could not settle is there as before, at its station and in the next plan
    w.go(f"{bench}/fuelling/")
    expect(heading).to_contain_text("Rich at the hot high point")
    w.go(f"{bench}/card/plan/")
    w.run_jobs()
    expect(heading).to_contain_text("Nothing found that does better", timeout=120_000)
    expect(rich).to_contain_text("Not only tried but reckoned")
