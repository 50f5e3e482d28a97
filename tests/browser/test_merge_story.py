"""A garage merged after a weekend apart: the van's file looked at, chosen from, and made one with home's."""

import io

from django.db import transaction
from playwright.sync_api import expect

from lynxwort.web.bikes.models import Setup
from lynxwort.web.garages.models import Garage
from lynxwort.web.machine import garage_lines, merging
from lynxwort.web.parts.models import OwnedPart
from lynxwort.web.races.models import Rider
from tests.browser.test_day_story import press
from tests.web.test_merge import VAN, keep


def at_the_van(garage, setup, part):
    """The van's file after its weekend, nothing of it done here."""
    start = "".join(garage_lines.lines(garage)).encode()
    with transaction.atomic():
        Garage.objects.filter(pk=garage.pk).update(uid=VAN)
        garage.refresh_from_db()
        merging.merge(garage, io.BytesIO(start))
        keep(setup, "one richer at the race")
        OwnedPart.objects.filter(pk=part.pk).update(count=5)
        Rider.objects.filter(pk=Rider.objects.first().pk).update(name="Wren Ashby")
        lines = "".join(garage_lines.lines(garage)).encode()
        transaction.set_rollback(True)
    garage.refresh_from_db()
    return lines


def test_a_garage_is_merged_after_a_weekend_apart(demo):
    w = demo()
    page, garage = w.page, Garage.objects.get()
    setup, part = Setup.objects.get(bike__name="Quern 293", name=""), OwnedPart.objects.first()
    van = at_the_van(garage, setup, part)
    keep(setup, "softer at home")
    OwnedPart.objects.filter(pk=part.pk).update(count=3)
    w.go("/back-ups/")
    page.get_by_label("File of a garage").set_input_files(
        [{"name": "garage.jsonl", "mimeType": "application/x-ndjson", "buffer": van}]
    )
    page.get_by_label("What you call the other copy").fill("van")
    page.get_by_role("button", name="Look at it", exact=True).click()
    heading = page.get_by_role("heading", level=1)
    expect(heading).to_have_text("1 thing to choose, then merge")
    expect(page.get_by_text("Nothing has been changed yet.")).to_be_visible()
    expect(page.get_by_text("2, van")).to_be_visible()
    w.axe()
    page.set_viewport_size({"width": 390, "height": 844})
    w.no_sideways_scroll()
    page.set_viewport_size({"width": 1280, "height": 800})
    page.get_by_label("As it is there").check()
    page.get_by_role("button", name="Merge", exact=True).click()
    expect(page.get_by_text("The copies are merged: 1 row is new")).to_be_visible()
    part.refresh_from_db()
    assert part.count == 5
    w.go("/riders/")
    expect(page.get_by_text("Wren Ashby").first).to_be_visible()
    # both kept setups stand, the van's on a line of its own
    line = Setup.objects.get(name="2, van")
    w.go(f"/setups/{line.pk}/history/")
    expect(page.get_by_role("listitem").filter(has_text="one richer at the race")).to_be_visible()
    w.go(f"/setups/{setup.pk}/history/")
    expect(page.get_by_role("listitem").filter(has_text="softer at home")).to_be_visible()
    # the same file once more brings nothing
    w.go("/back-ups/")
    page.get_by_label("File of a garage").set_input_files(
        [{"name": "garage.jsonl", "mimeType": "application/x-ndjson", "buffer": van}]
    )
    page.get_by_role("button", name="Look at it", exact=True).click()
    expect(heading).to_have_text("Nothing is new in this file")
    press(page, "Leave everything as it stands")
    expect(heading).to_have_text("Back-ups")
