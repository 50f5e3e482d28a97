"""A bought bike through the gate on a phone; hours typed after a ride, a piston changed and moved with its clock."""

import io

from PIL import Image
from playwright.sync_api import expect

from lynxwort.web.bikes.models import Setup
from lynxwort.web.bikes.services import make_bike
from lynxwort.web.races.models import Race
from lynxwort.web.service.models import Photo, ServiceLine
from tests.browser.test_day_story import press


def leaf(page, station):
    return page.locator(f"#rail-{station} .leaf")


def a_photo():
    made = io.BytesIO()
    Image.new("RGB", (1600, 1200), (150, 60, 30)).save(made, "JPEG")
    return {"name": "crack.jpg", "mimeType": "image/jpeg", "buffer": made.getvalue()}


def test_a_bought_bike_goes_through_the_gate_a_crack_stops_everything_and_mended_it_all_returns(demo):
    w = demo(phone=True)
    page, race = w.page, Race.objects.get()
    base = f"/bench/{Setup.objects.get(bike__name='Quern 293', name='').pk}/{race.pk}/"
    w.go(f"{base}baseline/gate/")
    press(page, "It was bought used: check it as one")
    expect(page.get_by_text("Piston by borescope")).to_be_visible()
    w.axe()
    w.no_sideways_scroll()
    page.get_by_role("link", name="Begin: Frame, pegs, bolts").tap()
    expect(page.get_by_role("heading", name="Frame, pegs, bolts")).to_be_visible()
    # a heading is there before the styles are: a size counts once they are
    page.wait_for_load_state()
    for name in ("Sound", "Look again", "Failed"):
        box = page.get_by_role("button", name=name, exact=True).bounding_box()
        assert box is not None
        assert box["height"] >= 60
        assert box["width"] > 300
    w.axe()
    w.no_sideways_scroll()
    page.get_by_text("What you saw, a photo, work and money").tap()
    page.get_by_label("What you saw").fill("hairline crack at the left peg")
    page.get_by_label("Photo").set_input_files([a_photo()])
    page.get_by_label("Work to put it right").fill("3 h")
    press(page, "Failed")
    # the next check stands there, and what it means is said at once
    expect(page.get_by_role("heading", name="Throttle, kill switch")).to_be_visible()
    expect(page.get_by_text("Do not ride it. Mend it, then check again.")).to_be_visible()
    press(page, "Sound")
    expect(page.get_by_role("heading", name="Brakes")).to_be_visible()
    page.get_by_role("link", name="Skip").tap()
    # a number beyond its limit goes before the button
    page.get_by_label("Number, if you measured").fill("5")
    press(page, "Sound")
    # the next one is there before one goes back: a page under way cannot be left
    expect(page.get_by_role("heading", name="Spokes and rim")).to_have_count(0)
    w.move("back")
    expect(page.get_by_role("heading", name="Spokes and rim")).to_be_visible()
    w.go(f"{base}baseline/gate/")
    expect(page.locator(".gate-fail")).to_have_count(2)
    expect(page.locator(".to-sound")).to_contain_text("To sound: 5.0 h of work")
    w.axe()
    assert Photo.objects.count() == 1
    w.go(f"{base}drive/")
    expect(page.get_by_role("heading", level=1)).to_contain_text("Not judged: frame, pegs, bolts")
    expect(page.locator(".doubt")).to_contain_text("nothing proposed")
    w.axe()
    w.go(f"{base}card/")
    expect(page.locator(".card-open li").first).to_contain_text("Do not ride: frame, pegs, bolts")
    expect(page.locator(".card-first")).to_contain_text("Brakes")
    w.no_sideways_scroll()
    for check in ("frame", "spokes"):
        w.go(f"{base}baseline/gate/{check}/")
        press(page, "Sound")
    w.go(f"{base}drive/")
    expect(page.get_by_role("heading", level=1)).not_to_contain_text("Not judged")
    expect(page.locator(".doubt")).to_have_count(0)


def test_hours_are_typed_a_piston_is_due_in_the_race_changed_and_taken_to_another_bike(demo):
    w = demo()
    page, race, row = w.page, Race.objects.get(), Setup.objects.get(bike__name="Quern 293", name="")
    other = make_bike(row.bike.garage, row.bike.document | {"name": "Quern, spare"}, row.head.values)
    base = f"/bench/{row.pk}/{race.pk}/"
    w.go(f"{base}baseline/service/")
    w.expect.add(422)
    press(page, "Write it down")
    expect(page.get_by_role("alert").filter(has_text="Say how long it was ridden")).to_be_visible()
    w.expect.discard(422)
    page.get_by_label("Hour meter after it").fill("118")
    press(page, "Write it down")
    expect(page.locator(".lead").filter(has_text="118.0 h")).to_be_visible()
    page.get_by_text("Say when a part was done").click()
    page.get_by_label("Part", exact=True).select_option("piston")
    page.get_by_label("Fitted or done at, hours of the bike").fill("80")
    page.locator("form:has(select[name=kind])").get_by_role("button", name="Write it down").click()
    due = page.locator(".clock-row").filter(has_text="Piston and rings")
    expect(due).to_contain_text("2.0 h left, the race takes")
    expect(page.get_by_role("heading", level=1)).to_contain_text("Due during the race: piston and rings")
    w.axe()
    due.locator("summary").click()
    due.get_by_label("it came off sound").check()
    press(page, "Now changed")
    expect(page.get_by_text("Its clock begins anew")).to_be_visible()
    expect(page.get_by_role("heading", level=1)).not_to_contain_text("Due during the race")
    page.get_by_label("Hours ridden").fill("4,5 h")
    press(page, "Write it down")
    fresh = page.locator(".clock-row").filter(has_text="Piston and rings")
    expect(fresh).to_contain_text("4.5 h")
    fresh.locator("summary").click()
    fresh.get_by_label("It goes to another bike").select_option(label="Quern, spare")
    fresh.get_by_role("button", name="Move it, clock and all").click()
    expect(page.get_by_text("went to Quern, spare with the hours it ran")).to_be_visible()
    assert ServiceLine.objects.get(bike=other, kind="part").document["carried_s"] == 4.5 * 3600
    page.get_by_role("link", name="Wear", exact=True).click()
    page.get_by_role("link", name="Compression").click()
    page.get_by_label("Measured").fill("9.6 bar")
    press(page, "Write it down")
    expect(page.locator(".gate-list")).to_contain_text("9.6 bar, at the sea")
    w.axe()
    page.get_by_role("link", name="Bolts", exact=True).click()
    page.get_by_role("textbox", name="Bolt").fill("Rear rotor")
    page.get_by_label("Where").select_option("rotor")
    press(page, "Write it down")
    expect(page.locator(".bolt-list")).to_contain_text("not tightened yet")
    page.get_by_role("button", name="Tight now Rear rotor").click()
    expect(page.locator(".bolt-list")).to_contain_text("usually locked there")
    w.axe()
    w.no_sideways_scroll()
