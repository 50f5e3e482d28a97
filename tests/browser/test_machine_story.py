"""The machine itself: a back-up written, taken away, broken, sent in and laid ready; the garage as a file there and back; out, everywhere."""

import pytest
from playwright.sync_api import expect

from lynxwort.web.machine import shelf


@pytest.mark.parametrize("phone", [False, True])
def test_a_back_up_is_taken_away_and_another_laid_ready(demo, tmp_path, phone):
    w = demo(phone=phone)
    w.expect.add(422)
    page = w.page
    try:
        w.go("/settings/")
        w.axe()
        page.get_by_role("link", name="Back-ups").click()
        expect(page.get_by_text("None has been taken off this machine yet")).to_be_visible()
        page.get_by_role("button", name="Write a back-up now").click()
        expect(page.get_by_text("Back-up written")).to_be_visible()
        with page.expect_download() as download:
            page.get_by_role("link", name="Take away").first.click()
        good = tmp_path / "away.zip"
        download.value.save_as(good)
        (tmp_path / "cut.zip").write_bytes(good.read_bytes()[:5000])
        page.get_by_label("Back-up of this or another machine").set_input_files(tmp_path / "cut.zip")
        page.get_by_role("button", name="Look at it and lay it ready").click()
        expect(page.get_by_role("alert")).to_contain_text("not whole")
        w.axe()
        page.get_by_label("Back-up of this or another machine").set_input_files(good)
        page.get_by_role("button", name="Look at it and lay it ready").click()
        expect(page.get_by_role("heading", name="A back-up lies ready")).to_be_visible()
        w.axe()
        w.no_sideways_scroll()
        page.get_by_role("button", name="Leave everything as it stands").click()
        expect(page.get_by_role("heading", name="A back-up lies ready")).not_to_be_visible()
        with page.expect_download() as download:
            page.get_by_role("link", name="Write garage.jsonl").click()
        lines = tmp_path / "garage.jsonl"
        download.value.save_as(lines)
        page.get_by_label("File of a garage").set_input_files(lines)
        page.get_by_role("button", name="Look at it", exact=True).click()
        expect(page.get_by_role("heading", name="Nothing is new in this file")).to_be_visible()
        w.axe()
        page.get_by_role("button", name="Leave everything as it stands").click()
        w.go("/authority/")
        expect(page.get_by_text("served without TLS")).to_be_visible()
        w.axe()
        w.go("/settings/")
        page.get_by_role("button", name="Sign out everywhere").click()
        expect(page.get_by_role("button", name="Open the demo garage")).to_be_visible()
    finally:
        shelf.let_go()
        for path in shelf.folder().iterdir():
            path.unlink()
