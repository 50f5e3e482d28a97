"""The docs' site in a browser: it asks nobody else for anything, is found through, and read on a phone."""

import functools
import http.server
import threading

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import Watched
from tests.installed import site_built


class Quiet(http.server.SimpleHTTPRequestHandler):
    def log_message(self, *_said):
        pass


@pytest.fixture(scope="module")
def base(tmp_path_factory):
    handler = functools.partial(Quiet, directory=site_built(tmp_path_factory.mktemp("site")))
    with http.server.ThreadingHTTPServer(("127.0.0.1", 0), handler) as server:
        threading.Thread(target=server.serve_forever, daemon=True).start()
        yield f"http://127.0.0.1:{server.server_address[1]}"
        server.shutdown()


@pytest.mark.parametrize("phone", [False, True])
def test_a_reader_goes_round_and_finds_what_a_sprocket_does(chromium, base, phone):
    w = Watched(chromium, base, phone=phone)
    for page, heading in (
        ("index", "A bike set up for one race"),
        ("guides/fuelling", "Fuelling"),
        ("validation", "Validation"),
    ):
        w.go(f"/{page}.html")
        expect(w.page.get_by_role("heading", level=1)).to_have_text(heading)
        w.no_sideways_scroll()
    if phone:
        w.page.locator("label.md-header__button[for=__search]").click()
    box = w.page.get_by_role("textbox", name="Search")
    box.click()
    box.press_sequentially("rear sprocket", delay=30)
    hit = w.page.locator(".md-search-result__item a[href*='guides/drive.html']").first
    expect(hit).to_be_visible()
    hit.click()
    w.page.wait_for_url("**/guides/drive.html*")
    w.close()
