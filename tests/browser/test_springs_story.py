"""Weigh, measure, learn that the spring is too soft, take one from the box, raise the tubes, see steering and reach change, keep."""

import re

from playwright.sync_api import expect


def test_weigh_measure_learn_take_one_from_the_box_raise_the_tubes_and_keep(demo):
    w = demo()
    page = w.page
    w.expect.add(422)
    # weigh: two scales, one of them typed with a letter too many, then right
    w.go(f"{w.bench}/baseline/readings/")
    weighing = page.locator("details", has=page.locator("[id=weighing_front_kg]"))
    weighing.locator("summary").click()
    page.locator("#weighing_front_kg").fill("5O kg")
    page.locator("#weighing_rear_kg").fill("57.6")
    page.locator("#weighing_fuel_aboard_m3").fill("4 L")
    weighing.get_by_role("button", name="Keep the reading").click()
    expect(page.locator("#weighing_front_kg")).to_have_value("5O kg")
    expect(page.get_by_role("alert").filter(has_text="This unit is not known")).to_be_visible()
    page.locator("#weighing_front_kg").fill("112 lb")
    page.locator("details", has=page.locator("[id=weighing_front_kg]")).get_by_role(
        "button", name="Keep the reading"
    ).click()
    expect(page.get_by_text("Weighed 50.8 kg in front, 57.6 kg behind, bike alone")).to_be_visible()

    # the clinic: swapped readings are caught, the right ones say too soft, and that is kept
    w.go(f"{w.bench}/chassis/")
    w.room("Sag clinic")
    expect(page.get_by_role("link", name="Sag clinic")).to_have_attribute("aria-current", "page")
    w.axe()
    page.get_by_role("button", name="What does it say?").click()
    expect(page.get_by_role("alert").first).to_be_visible()
    page.get_by_label("Topped out").fill("620")
    for label, value in (
        ("Bike alone, pushed down", "606"),
        ("Bike alone, lifted", "590"),
        ("Rider aboard, pushed down", "510"),
        ("Rider aboard, lifted", "516"),
    ):
        page.get_by_label(label).fill(value)
    page.get_by_role("button", name="What does it say?").click()
    expect(page.get_by_text("This cannot be")).to_be_visible()
    expect(page.get_by_text("wrong way round")).to_be_visible()
    for label, value in (
        ("Bike alone, pushed down", "600"),
        ("Bike alone, lifted", "605"),
        ("Rider aboard, pushed down", "502"),
        ("Rider aboard, lifted", "507"),
    ):
        page.get_by_label(label).fill(value)
    page.get_by_role("button", name="What does it say?").click()
    expect(page.get_by_role("heading", name="The spring is too soft")).to_be_visible()
    expect(page.get_by_text("too little free sag is left")).to_be_visible()
    w.axe()
    page.get_by_role("button", name="Keep both sags as readings").click()
    expect(page.get_by_text("Two sags kept as readings.")).to_be_visible()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Rear spring too soft")

    # from the box, by the clinic's list; then the tubes
    w.room("Sag clinic")
    page.get_by_role("row").filter(has_text="in the box").first.get_by_role("button", name="Try").click()
    expect(page.get_by_role("button", name="Put back Shock spring")).to_be_visible()
    w.room("From the side")
    drawing = page.get_by_role("group", name="The bike from the side at race sag")
    trail = float(drawing.locator("[data-figure='chassis.trail']").get_attribute("data-si"))
    seat = float(drawing.locator("[data-figure='chassis.seat_height']").get_attribute("data-si"))
    page.get_by_role("heading", name="Steering and heights").click()
    page.locator("#more-fork_up_m").click()
    expect(page.get_by_role("button", name="Put back Fork tubes through the clamps")).to_be_visible()
    page.wait_for_load_state("networkidle")
    assert float(drawing.locator("[data-figure='chassis.trail']").get_attribute("data-si")) < trail - 0.0008
    assert float(drawing.locator("[data-figure='chassis.seat_height']").get_attribute("data-si")) < seat - 0.0005
    expect(page.locator(".effects")).to_contain_text("Trail")

    # a dimension of the drawing opens its Why, by keyboard too
    drawing.get_by_role("link", name=re.compile("Rake")).focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("dialog")).to_contain_text("given rake + pitch")
    page.keyboard.press("Escape")

    # both ends as one move, taken back; what is kept is kept
    w.room("Feet on the ground")
    page.get_by_role("button", name="Both ends 10 mm lower").click()
    expect(page.get_by_role("button", name="Put back Rear raised at the axle")).to_be_visible()
    w.axe()
    page.get_by_role("button", name="Put back Rear raised at the axle").click()
    expect(page.get_by_role("button", name="Put back Rear raised at the axle")).to_have_count(0)
    page.locator("summary", has_text="Keep").click()
    page.get_by_label("Why this change?").fill("weighed and measured")
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text("against No. 2")).to_be_visible()


def test_a_link_table_is_pasted_and_a_spring_is_measured_with_a_calliper(demo):
    w = demo()
    page = w.page
    w.expect.add(422)
    w.go("/")
    page.get_by_role("link", name="All facts").first.click()
    page.get_by_role("heading", name="Shock, link and swingarm").click()
    page.get_by_label("Linkage as measured").fill("wheel shock\n0 0\n100 35.2\n90 71\n310 119")
    page.get_by_role("button", name="Keep the facts").click()
    expect(page.get_by_text("must both rise")).to_be_visible()
    page.get_by_label("Linkage as measured").fill("0 0\n100 35,2\n200 72\n310 119")
    page.get_by_role("button", name="Keep the facts").click()
    expect(page.get_by_text("must both rise")).to_have_count(0)
    w.go(f"{w.bench}/chassis/springs/")
    expect(page.get_by_role("table").first).to_contain_text("chart by weight")
    w.axe()
    for label, value in (("Wire", "12"), ("Outer diameter", "74"), ("Turns in all", "8")):
        page.get_by_label(label, exact=False).first.fill(value)
    page.get_by_role("button", name="Rate of it").click()
    expect(page.locator("p.lead[role=status]")).to_contain_text("143.7 N/mm")
    page.get_by_role("button", name="Put it in the box").click()
    expect(page.get_by_text("1 new in the box.")).to_be_visible()
    w.go(f"{w.bench}/chassis/springs/?what=coil&kind=shock_spring_rate_n_per_m&wire_m=12&outer_m=20&turns=8")
    expect(page.get_by_text("No spring is wound like that")).to_be_visible()
