"""The course and the drive: from a noisy recording to a kept sprocket."""

import numpy as np
from playwright.sync_api import expect

from lynxwort.core.physics.course.export import write_gpx
from lynxwort.demo.scenario import track


def noisy_course(tmp_path):
    """Eight kilometres of the demo's loop, closed, with heights that jump by metres."""
    whole = track()
    cut = slice(3000, 5000)
    rng = np.random.default_rng(5)
    heights = np.array(whole.height_m[cut]) + rng.normal(0.0, 4.0, 2000)
    noisy = whole.model_copy(
        update={
            "name": "Old quarry",
            "latitude_deg": whole.latitude_deg[cut],
            "longitude_deg": whole.longitude_deg[cut],
            "height_m": tuple(heights.tolist()),
            "breaks": (),
        }
    )
    path = tmp_path / "quarry.gpx"
    path.write_bytes(write_gpx(noisy))
    return path


def test_a_noisy_recording_becomes_a_course_with_a_hill_that_wants_another_sprocket(demo, tmp_path):
    w = demo()
    page = w.page
    w.go("/races/new/")
    page.get_by_label("Course file, GPX").set_input_files(noisy_course(tmp_path))
    page.get_by_label("Race", exact=True).fill("Quarry dash")
    page.get_by_label("Start, local time").fill("2027-05-02T10:00")
    page.get_by_label("Coldest hour").fill("6")
    page.get_by_label("Hottest hour").fill("15")
    page.get_by_label("Rider", exact=True).select_option(label="Wren")
    page.get_by_role("button", name="Keep the race").click()

    # the course: what the heights are worth by their source, and the one that recorded it
    page.get_by_role("link", name="Old quarry").click()
    expect(page.get_by_text("If every point were believed it would climb")).to_be_visible()
    before = page.get_by_role("row", name="terrain model").inner_text()
    w.axe()
    page.get_by_role("button", name="Take this terrain model").click()
    expect(page.get_by_role("row", name="terrain model").get_by_text("as it is")).to_be_visible()
    assert before.split("\t")[1] in page.get_by_role("row", name="terrain model").inner_text()
    with page.expect_download() as out:
        page.get_by_role("link", name="GPX", exact=True).click()
    assert out.value.suggested_filename == "course.gpx"

    # paint deep wet sand round the hill, then the hill
    page.get_by_role("link", name="Quarry dash").last.click()
    page.get_by_role("link", name="Ground, points, zones 1").click()
    page.get_by_label("Start, typed").fill("3.0")
    page.get_by_label("Start, typed").press("Enter")
    expect(page.get_by_text("Under the loupe: 3.00 km – 3.00 km")).to_be_visible()
    page.get_by_label("End, typed").fill("3.6")
    page.get_by_label("End, typed").press("Enter")
    expect(page.get_by_text("Under the loupe: 3.00 km – 3.60 km")).to_be_visible()
    page.get_by_text("More about this stretch").click()
    page.get_by_label("Loose ground, deep").fill("18 cm")
    page.get_by_role("button", name="deep sand").click()
    expect(page.get_by_text("deep sand, 180 mm deep")).to_be_attached()
    page.get_by_text("The ground as a table").click()
    expect(page.get_by_text("deep sand, 180 mm deep")).to_be_visible()
    hills = page.get_by_role("region", name="Critical hills")
    hills.get_by_label("Begins at").fill("3.2")
    hills.get_by_label("Length").fill("80")
    hills.get_by_label("Grade").fill("58")
    hills.get_by_label("Ground").select_option(label="deep sand")
    hills.get_by_label("Name").fill("Spoil heap")
    hills.get_by_role("button", name="Add the hill").click()
    expect(page.get_by_text("(Spoil heap)")).to_be_visible()
    w.axe()

    # on the bench it does not pull; the table says what each sprocket needs; the proposal pulls it; the ledger says what it costs
    w.go("/")
    card = page.get_by_role("article").filter(has=page.get_by_role("button", name="Put on the bench"))
    race = card.get_by_label("for the race")
    race.focus()
    race.select_option(label=race.locator("option", has_text="Quarry dash").text_content())
    card.get_by_role("button", name="Put on the bench").click()
    page.wait_for_selector("#bench")
    page.get_by_role("link", name="Drive").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("Pulls all but")
    expect(page.get_by_role("heading", name="Critical hills: speed needed at the foot")).to_be_visible()
    w.axe()
    page.get_by_role("article").filter(has_text="no gear holds walking pace").get_by_role(
        "button", name="Try"
    ).first.click()
    expect(page.get_by_role("heading", level=1)).not_to_contain_text("Pulls all but")
    expect(page.get_by_text("Does not pull, better")).to_be_visible()
    page.locator("summary", has_text="Keep").click()
    page.get_by_label("Why this change?").fill("spoil heap")
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text("against No. 2")).to_be_visible()

    # metre by metre, and back to the bench at that place
    w.room("Metre by metre")
    page.get_by_role("link", name="20 m").click()
    expect(page.get_by_role("columnheader", name="Throttle open")).to_be_visible()
    w.axe()
    page.get_by_role("link", name="0.20 km").click()
    expect(page.locator("#place")).to_contain_text("0.2 km")


def test_a_ridden_lap_and_a_climb_shape_the_ride(demo):
    w = demo()
    page = w.page
    w.go(f"{w.bench}/baseline/readings/")
    page.get_by_text("A lap really ridden").click()
    page.get_by_role("button", name="let the stand-in ride a lap").click()
    expect(page.get_by_text("The stand-in rode a lap")).to_be_visible()
    expect(page.get_by_text("as ridden, to")).to_be_visible()
    w.axe()
    w.room("On the bike")
    expect(page.get_by_text("A ridden lap sets the pace")).to_be_visible()
    w.room("Readings")
    page.get_by_text("A climb that was tried").click()
    page.get_by_label("How it went").select_option(label="climbed")
    page.get_by_label("Speed at its foot").fill("45")
    page.locator("form", has=page.get_by_label("How it went")).get_by_role("button", name="Keep the reading").click()
    expect(page.get_by_text("Hill at 22.1 km, 45.0 km/h at its foot: climbed")).to_be_visible()
    w.expect.add(422)
    page.get_by_text("A roll-out of the rear wheel").click()
    page.get_by_label("Rolled").fill("two metres")
    page.locator("form", has=page.get_by_label("Rolled")).get_by_role("button", name="Keep the reading").click()
    expect(page.get_by_text("Not a number").first).to_be_visible()
    expect(page.get_by_label("Rolled")).to_have_value("two metres")
