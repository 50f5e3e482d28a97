"""A real Chromium against the live server; any console message, failed request or stray request fails the test."""

import os
import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect, sync_playwright

from lynxwort.web.evaluation import door
from lynxwort.web.jobs import worker
from tests.demo import load

os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "true"
expect.set_options(timeout=20_000)  # two browsers and two servers share two cores
FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]
AXE = (Path(__file__).parent / "axe.min.js").read_text()
WIDE, PHONE = {"width": 1280, "height": 800}, {"width": 390, "height": 844}


@pytest.fixture(scope="session")
def chromium():
    with sync_playwright() as p:
        browser = p.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        yield browser
        browser.close()


class Watched:
    """A page under watch. expect: statuses that the test asks for."""

    def __init__(self, browser, base: str, *, phone: bool = False, language: str = "en-GB") -> None:
        self.base, self.expect, self.complaints = base, set(), []
        self.context = browser.new_context(
            viewport=PHONE if phone else WIDE,
            has_touch=phone,
            reduced_motion="reduce",
            accept_downloads=True,
            locale=language,
        )
        self.context.set_default_timeout(
            45_000
        )  # a page may wait for a busy machine; each expect still says what must be there
        self.context.route(re.compile(".*"), self._route)
        self.page = self.another()

    def another(self) -> Page:
        page = self.context.new_page()
        page.on("console", self._console)
        page.on("pageerror", lambda e: self.complaints.append(f"pageerror {e}"))
        page.on("response", self._response)
        return page

    def _route(self, route):
        if route.request.url.startswith(self.base) or route.request.url.startswith("data:"):
            route.continue_()
        else:
            self.complaints.append(f"left the server: {route.request.url}")
            route.abort()

    def _console(self, message):
        expected = any(f"status of {s}" in message.text for s in self.expect) or (
            "offline" in self.expect and ("ERR_" in message.text or "htmx:" in message.text)
        )
        if (
            message.type in ("error", "warning")
            and not expected
            and not ("Response Status Error Code" in message.text and self.expect)
        ):
            self.complaints.append(f"{message.type}: {message.text}")

    def _response(self, response):
        if response.status >= 400 and response.status not in self.expect:
            self.complaints.append(f"{response.status} {response.url}")

    def go(self, path: str) -> None:
        self.page.goto(self.base + path)
        self.rest()

    def rest(self) -> None:
        """Nothing under way. A page that asks every half second for a table being worked out is never so quiet: it need only have loaded."""
        self.page.wait_for_load_state()
        asks_again = self.page.locator("[hx-trigger^=every]").count()
        self.page.wait_for_load_state("load" if asks_again else "networkidle")

    def room(self, name: str) -> None:
        """Into a room of this station by its tab."""
        self.page.get_by_role("navigation", name="Rooms").get_by_role("link", name=name).click()

    def move(self, go: str, times: int = 1) -> None:
        """Through the history ("back", "forward") or "again", once the page that was asked for before stands: a browser under way has no history to tell."""
        for _ in range(times):
            self.rest()
            # the page may be loaded only after the history moved
            self.page.evaluate("window.isLeft = true")
            {"back": self.page.go_back, "forward": self.page.go_forward, "again": self.page.reload}[go]()
            self.page.wait_for_function("!window.isLeft")
            self.rest()

    def axe(self) -> None:
        """No accessibility violation, target size included."""
        self.rest()
        # what the next notches would do is still to come: it is faded until then, and not to be read
        expect(self.page.locator("[data-stale] .cell.side:visible")).to_have_count(0)
        self.page.evaluate(AXE)
        bad = self._violations()
        if bad:  # on a busy machine a page may still be coming to rest: what a second look finds is there
            self.page.wait_for_timeout(1_000)
            bad = self._violations()
        assert not bad, f"{self.page.url}: {bad}"

    def _violations(self) -> list[str]:
        found = self.page.evaluate("axe.run(document, {rules: {'target-size': {enabled: true}}})")
        return [f"{v['id']}: {v['help']} at {[n['target'] for n in v['nodes'][:4]]}" for v in found["violations"]]

    @staticmethod
    def run_jobs() -> None:
        """What the worker thread would do."""
        while worker.run_next():
            pass

    def no_sideways_scroll(self) -> None:
        assert self.page.evaluate("document.documentElement.scrollWidth <= document.documentElement.clientWidth"), (
            self.page.url
        )

    def close(self) -> None:
        self.context.close()
        assert not self.complaints, self.complaints


@pytest.fixture
def watch(chromium, live_server, transactional_db):
    door.warm()
    opened = []

    def make(**options) -> Watched:
        opened.append(Watched(chromium, live_server.url, **options))
        return opened[-1]

    yield make
    while worker.run_next():
        pass
    for item in opened:
        item.close()


@pytest.fixture
def demo(watch):
    """The demo loaded, entered by its button, its bike on the bench."""
    load("brackenmere")

    return entering(watch)


@pytest.fixture
def whole(watch):
    """The demo with all its bikes and races, entered; the first bike on the bench."""
    load()
    return entering(watch)


def entering(watch):
    """Into the demo by its button, and the first bike onto the bench."""

    def enter(**options) -> Watched:
        w = watch(**options)
        w.go("/")
        w.page.get_by_role("button", name="Open the demo garage").click()
        w.page.get_by_role("button", name="Put on the bench").first.click()
        w.page.wait_for_selector("#bench")
        w.page.wait_for_load_state("networkidle")  # a key pressed before the scripts are there is nobody's
        w.bench = w.page.url.removeprefix(w.base).rsplit("/", 2)[0]
        return w

    return enter
