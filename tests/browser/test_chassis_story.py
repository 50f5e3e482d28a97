"""Springs and steering: from a spring that is too soft to tubes raised through the clamps."""

import re

from playwright.sync_api import expect


def test_a_softer_rear_is_mended_then_the_front_goes_down_and_the_steering_follows(demo):
    w = demo()
    page = w.page
    w.go(f"{w.bench}/chassis/")
    expect(page.get_by_role("heading", level=1)).to_contain_text("Rear spring too soft")
    drawing = page.get_by_role("group", name="The bike from the side at race sag")
    expect(drawing).to_contain_text("trail 118 mm")
    expect(page.get_by_text("Chain and swingarm carry")).to_be_visible()
    w.axe()
    page.get_by_role("button", name="Try shock spring 54.0 N/mm").click()
    expect(page.get_by_role("heading", level=1)).not_to_contain_text("Rear spring")
    # the rear sinks less, so the bike stands steeper; the kept one stays as its ghost
    expect(drawing).to_contain_text(re.compile("trail 11[67] mm"))
    expect(page.locator(".plate.ghost").first).to_be_attached()
    page.get_by_role("heading", name="Steering and heights").click()
    page.locator("#more-fork_up_m").click()
    expect(page.get_by_role("button", name="Put back Fork tubes through the clamps")).to_be_visible()
    expect(drawing).to_contain_text(re.compile("trail 11[56] mm"))
    expect(page.locator("#more-fork_up_m")).to_contain_text("tubes up, front down")
    expect(page.locator(".effects")).to_contain_text("Trail")
    w.page.wait_for_load_state("networkidle")
    page.get_by_text("The figures, with their 90 % range").click(trial=True)
    page.locator("button[data-figure='chassis.trail']").first.click()
    expect(page.get_by_role("dialog")).to_contain_text("(R sin e - o) / cos e")
    w.axe()
    page.keyboard.press("Escape")

    # a typed value beyond what clamps allow is refused and stays typed
    w.expect.add(422)
    page.locator("#now-fork_up_m").click()
    box = page.get_by_label("Exact value of Fork tubes through the clamps")
    box.fill("90 mm")
    box.press("Enter")
    expect(page.get_by_role("alert").filter(has_text="Too large")).to_be_visible()
    expect(page.get_by_label("Exact value of Fork tubes through the clamps")).to_have_value("90 mm")

    # raised far enough the tyre comes near its guard
    box = page.get_by_label("Exact value of Fork tubes through the clamps")
    box.fill("22")
    box.press("Enter")
    expect(page.get_by_role("heading", level=1)).to_contain_text("Front tyre to the guard: 3 mm left at full travel")
    expect(page.get_by_text("A tyre that jams in its guard").first).to_be_visible()
    page.get_by_role("button", name="Put back Fork tubes through the clamps").click()
    expect(page.get_by_role("heading", level=1)).not_to_contain_text("left at full travel")
    page.locator("summary", has_text="Keep").click()
    page.get_by_label("Why this change?").fill("stiffer behind")
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text("against No. 2")).to_be_visible()
