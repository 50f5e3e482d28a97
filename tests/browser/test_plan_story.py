"""The demo's two-stroke set up in one press on a phone: looked over, a step left out, kept."""

import re

from playwright.sync_api import expect

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
