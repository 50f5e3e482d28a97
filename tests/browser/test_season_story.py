"""A poor box and some money: what a shop has is put down with its price, what to buy for two races is told, bought, and
the plan does with it.
"""

import re

from playwright.sync_api import expect

from lynxwort.web.parts.models import OwnedPart
from lynxwort.web.stations.proposing import sureness

STATIONS = ("Chassis", "Damping", "Fuelling", "Drive", "Kit")


def test_a_poor_box_some_money_and_two_races(whole, monkeypatch):
    monkeypatch.setattr(sureness, "COUNT", 16)
    OwnedPart.objects.all().delete()
    w = whole()
    page = w.page
    w.go("/parts/")
    page.get_by_label("Part", exact=True).select_option("Tank")
    page.get_by_label("What").fill("15.5 L")
    page.get_by_label("Condition").select_option("to buy")
    page.get_by_label("Price of one").fill("240")
    page.get_by_label("Fitting it takes").fill("45 min")
    page.get_by_role("button", name="Put in the box").click()
    shelf = page.locator(".shelf", has_text="Tank")
    expect(shelf.locator("summary")).to_have_text(re.compile(r"15.5\s*to buy\s*price 240"))
    w.axe()
    w.go(f"{w.bench}/card/plan/")
    page.get_by_role("link", name="What to buy for several races").click()
    heading = page.get_by_role("heading", level=1)
    expect(heading).to_have_text("Say for which races")
    expect(page.get_by_label(re.compile("Gannach"))).to_be_checked()
    w.axe()
    page.get_by_label("Parts you would buy, at most").fill("1")
    page.get_by_label("Money for parts and items, at most").fill("250")
    page.get_by_text("More limits").click()
    for station in STATIONS:
        page.get_by_label(station, exact=True).check()
    page.get_by_role("button", name="Work it out").click()
    expect(heading).to_contain_text("Working it out for 2 races")
    w.axe()
    w.run_jobs()
    expect(heading).to_have_text("Best with one part: tank 15.5 L for 240", timeout=120_000)
    alone, tank = page.locator(".season-way").all()
    expect(alone.get_by_role("listitem")).to_have_count(2)
    expect(tank).to_contain_text(re.compile(r"It settles: finishes \d+"))
    w.axe()
    w.no_sideways_scroll()
    tank.get_by_role("button", name="Onto the list of what to buy").click()
    expect(page.get_by_text("They stand on the list of what to buy already.")).to_be_visible()
    page.locator(".shelf", has_text="Tank").locator("summary").click()
    page.get_by_role("button", name="Bought: it lies in the box").click()
    expect(page.locator(".shelf", has_text="Tank").locator("summary")).to_have_text(re.compile(r"15.5\s*new"))
    # it is in the box from now on: the same plan buys nothing
    w.go(f"{w.bench}/card/plan/?{'&'.join(f'leave={s.lower()}' for s in STATIONS)}")
    w.run_jobs()
    expect(heading).to_contain_text(re.compile(r"1 step, 45 min, nothing to buy"), timeout=120_000)
    expect(page.locator(".plan-moves")).to_contain_text("in the box")
