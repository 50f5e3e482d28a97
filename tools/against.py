"""This revision against an older one, in one run and in turns: make bench AGAINST=REV.

Both are set up with the demo and a full garage, each with its own data, and served; one Chromium presses the same
notches on both, one after the other. Printed as JSON: milliseconds of both, and the share of now in then.
Shares are what budgets are told in: the machine swings, and both swing with it.
"""

import json
import os
import statistics
import subprocess
import sys
import time
import urllib.request
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from playwright.sync_api import Page, sync_playwright

ROOT = Path(__file__).parents[1]
PLACE = ROOT / ".data" / "against"
FLAGS = ["--no-sandbox", "--disable-gpu", "--disable-background-networking", "--disable-sync", "--no-first-run"]
STEPS = {"chassis": 12, "damping": 10, "fuelling": 12, "drive": 14, "range": 10}
#: what fills a garage, run in each tree's own code
FULL = """
import django; django.setup()
from django.core.management import call_command
call_command("migrate", verbosity=0)
try:
    call_command("load_demo", verbosity=0, bare=True)
except TypeError:  # before there was a season
    call_command("load_demo", verbosity=0)
call_command("collectstatic", interactive=False, verbosity=0)
from tests.full_garage import fill
from lynxwort.web.bikes.models import Setup
from lynxwort.web.races.models import Race
fill(Setup.objects.get(bike__name="Quern 293"), Race.objects.get(name__startswith="Brackenmere"))
"""
#: in the page: press a notch and time its paint, which may come before the answer, and the paint of the neighbours'
#: outcomes, which never does
CLOCK = """() => { window.stepAndTime = (id, hand) => new Promise((done) => {
  let start = performance.now();
  const at = {};
  if (hand) document.addEventListener('click', () => { start = performance.now(); }, { once: true, capture: true });
  const painted = (name) => requestAnimationFrame(() => setTimeout(() => {
    at[name] ??= performance.now() - start;
    if (at.painted && at.neighbours) { document.removeEventListener('htmx:afterSwap', heard); done(at); }
  }, 0));
  const heard = (event) => {
    if (event.target.id === 'bench' || event.detail.target.id === 'bench') painted('painted');
    else if (event.detail.target.id === 'notches') painted('neighbours');
  };
  document.addEventListener('htmx:afterSwap', heard);
  if (!hand) document.getElementById(id).click();
}); }"""
#: how long a hand's pointer rests on a notch before it is pressed [ms] (from memory: pointing at a target and pressing
#: it takes some 100 to 300 ms more than getting there); a script's press comes out of nowhere
REST_MS = 150
#: in the page: count what of the document is touched, and how far things jump
WATCH = """() => {
  window.touched = 0; window.jumped = 0;
  new MutationObserver((records) => records.forEach((r) => {
    if (r.type !== 'childList') window.touched++;
    r.addedNodes.forEach((n) => { window.touched += 1 + (n.querySelectorAll ? n.querySelectorAll('*').length : 0); });
  })).observe(document.body, { subtree: true, childList: true, attributes: true, characterData: true });
  new PerformanceObserver((l) => l.getEntries().forEach((e) => { if (!e.hadRecentInput) window.jumped += e.value; }))
    .observe({ type: 'layout-shift' });
}"""


@dataclass
class Side:
    """One of the two: its tree, and where it is served."""

    name: str
    root: Path
    port: int
    server: subprocess.Popen[bytes] | None = None

    @property
    def base(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    @property
    def env(self) -> dict[str, str]:
        data = PLACE / f"data-{self.name}"
        return os.environ | {
            "PYTHONPATH": f"{self.root / 'src'}:{self.root}",
            "LYNXWORT_DATA": str(data),
            "LYNXWORT_DEMO": "1",
            "NUMBA_CACHE_DIR": str(PLACE / f"kernels-{self.name}"),
            "DJANGO_SETTINGS_MODULE": "lynxwort.web.settings",
            "PORT": str(self.port),
        }

    def set_up(self) -> None:
        subprocess.run(["rm", "-rf", str(PLACE / f"data-{self.name}")], check=True)
        subprocess.run([sys.executable, "-c", FULL], cwd=self.root, env=self.env, check=True, stdout=subprocess.DEVNULL)

    def start(self) -> float:
        """Seconds from the command to the first page."""
        begun = time.perf_counter()
        command = [sys.executable, str(self.root / "manage.py"), "serve"]
        self.server = subprocess.Popen(command, cwd=self.root, env=self.env, stdout=subprocess.DEVNULL)
        while True:
            try:
                urllib.request.urlopen(f"{self.base}/in/", timeout=5).read()  # noqa: S310 - our own address
                return time.perf_counter() - begun
            except OSError:
                time.sleep(0.02)

    def stop(self) -> None:
        if self.server is not None:
            self.server.terminate()
            self.server.wait()

    def resident_mb(self) -> float:
        assert self.server is not None
        status = Path(f"/proc/{self.server.pid}/status").read_text()
        return round(int(status.split("VmRSS:")[1].split()[0]) / 1024, 0)


def entered(browser: Any, side: Side) -> tuple[Page, str]:
    """A page in the demo garage, and the address of its first race's bench once it is warm."""
    page = browser.new_page(viewport={"width": 1280, "height": 800})
    page.goto(f"{side.base}/in/")
    page.get_by_role("button", name="Open the demo garage").click()
    page.get_by_role("link", name="To the bench Brackenmere").click()
    page.wait_for_selector("#bench", timeout=600_000)
    return page, page.url.rsplit("/", 2)[0]


def button_of(page: Page, k: int, *, hand: bool = False) -> str:
    """The k-th press of a walk over the rows, of a hand over those in sight: one more, one more, one less."""
    rows = page.locator(".notch-row:has(button[data-side])" + (":visible" if hand else ""))
    n = rows.count()
    side = "more" if (k // n) % 3 < 2 else "less"
    button = rows.nth(k % n).locator(f"button[data-side={side}]")
    return str((button if button.count() else rows.nth(k % n).locator("button[data-side]").first).get_attribute("id"))


def in_turns(
    pages: dict[str, tuple[Page, str]], each: Callable[[str, Page, str, int], Any], times: int
) -> dict[str, list[Any]]:
    """What `each` gives of both, one after the other, this one first and then that one."""
    found: dict[str, list[Any]] = {name: [] for name in pages}
    for k in range(times):
        for name in list(pages)[:: 1 if k % 2 else -1]:
            found[name].append(each(name, *pages[name], k))
    return found


def told(found: dict[str, list[float]], unit: str = "ms") -> dict[str, Any]:
    """Median and 95 % of both, and the share of now in then."""
    middle = {n: statistics.median(v) for n, v in found.items()}
    high = {n: sorted(v)[max(0, round(0.95 * len(v)) - 1)] for n, v in found.items()}
    return {f"{n} [{unit}]": [round(middle[n], 1), round(high[n], 1)] for n in found} | {
        "share, median and p95": [round(middle["now"] / middle["then"], 2), round(high["now"] / high["then"], 2)]
    }


def pressed(page: Page, name: str, hand: bool) -> dict[str, float]:
    """What a press of a notch takes [ms]: by a script, or by a hand whose pointer rests on it first."""
    if not hand:
        return dict(page.evaluate("id => window.stepAndTime(id, false)", name))
    button = page.locator(f"#{name}")
    button.scroll_into_view_if_needed()
    button.hover()
    page.wait_for_timeout(REST_MS)
    page.evaluate("id => { window.clocked = window.stepAndTime(id, true); }", name)
    page.mouse.down()
    page.mouse.up()
    times = dict(page.evaluate("window.clocked"))
    page.mouse.move(2, 2)
    return times


def notches(pages: dict[str, tuple[Page, str]], *, hand: bool) -> dict[str, Any]:
    """Every station's notches: to paint, and to the neighbours' outcomes."""
    how = "by hand" if hand else "by a script"
    found, whole = {}, {k: {n: [] for n in pages} for k in ("painted", "neighbours")}
    for station, steps in STEPS.items():
        for page, bench in pages.values():
            page.goto(f"{bench}/{station}/")
            page.wait_for_load_state("networkidle")
            page.evaluate(CLOCK)

        def step(_name: str, page: Page, _bench: str, k: int) -> dict[str, float]:
            times = pressed(page, button_of(page, k, hand=hand), hand)
            page.wait_for_load_state("networkidle")
            return times

        times = in_turns(pages, step, steps)
        found[station] = told({n: [t["painted"] for t in v] for n, v in times.items()})
        for kind, into in whole.items():
            for name, v in times.items():
                into[name] += [t[kind] for t in v]
    return {f"notch on {s} {how}, to paint": v for s, v in found.items()} | {
        f"notch, all {how}, to paint": told(whole["painted"]),
        f"neighbours' outcomes, all {how}": told(whole["neighbours"]),
    }


def touched(pages: dict[str, tuple[Page, str]]) -> dict[str, Any]:
    """Presses of a hand, watched: bytes of the answer, nodes touched with the neighbours', and layout jumps."""
    found = {}
    for name, (page, bench) in pages.items():
        sizes: list[int] = []
        page.on(
            "response",
            lambda r, sizes=sizes: (
                sizes.append(int(r.headers.get("content-length", 0))) if r.url.endswith("/notch/") else None
            ),
        )
        nodes, jumps = [], 0.0
        for station in STEPS:
            page.goto(f"{bench}/{station}/")
            page.wait_for_load_state("networkidle")
            page.evaluate(CLOCK)
            page.evaluate(WATCH)
            for k in range(10):
                before = page.evaluate("window.touched")
                pressed(page, button_of(page, k, hand=True), hand=True)
                nodes.append(page.evaluate("window.touched") - before)
            jumps += page.evaluate("window.jumped")
        found[name] = {
            "bytes of an answer": statistics.median(sizes),
            "nodes touched": statistics.median(nodes),
            "layout shift, 50 notches": round(jumps, 4),
        }
    return {"a notch, in the page": found}


def at_rest(page: Page, home: str) -> None:
    """Wait until no race is judged beside any more; 0.8.0 may go on for ever, where two races are alike."""
    for _turn in range(20):
        page.goto(home)
        if not page.locator("#races[hx-trigger]").count():
            return
        page.wait_for_timeout(2_000)


def loads(pages: dict[str, tuple[Page, str]]) -> dict[str, Any]:
    """From one station to the next, by a load and as a hand goes by the rail, and the home page of a full garage."""

    def load(page: Page, address: str) -> float:
        begun = time.perf_counter()
        page.goto(address)
        page.wait_for_load_state("load")
        took = 1e3 * (time.perf_counter() - begun)
        page.wait_for_load_state("networkidle")
        return took

    def go(page: Page, station: str) -> float:
        link = page.locator(f".rail a[href*='/{station}/']")
        link.hover()
        page.wait_for_timeout(REST_MS)
        begun = time.perf_counter()
        page.mouse.down()
        page.mouse.up()
        page.wait_for_selector(f"#bench[data-station={station}] .answer h1")
        page.wait_for_load_state("load")
        page.evaluate("new Promise((done) => requestAnimationFrame(() => setTimeout(done, 0)))")
        took = 1e3 * (time.perf_counter() - begun)
        page.wait_for_load_state("networkidle")
        return took

    stations = list(STEPS)
    by_load = in_turns(pages, lambda _n, page, bench, k: load(page, f"{bench}/{stations[k % len(stations)]}/"), 15)
    by_rail = in_turns(pages, lambda _n, page, _b, k: go(page, stations[k % len(stations)]), 15)
    for page, bench in pages.values():
        at_rest(page, bench.split("/bench/")[0] + "/")
    home = in_turns(pages, lambda _n, page, bench, _k: load(page, bench.split("/bench/")[0] + "/"), 15)
    return {
        "station to station, to load": told(by_load),
        "station to station by the rail, to paint": told(by_rail),
        "home page, full garage, to load": told(home),
    }


def imports() -> dict[str, Any]:
    """What the start imports, and the dearest of it [ms]."""
    env = Side("now", ROOT, 8022).env
    command = [sys.executable, "-X", "importtime", "-c", "import django; django.setup(); import lynxwort.web.wsgi"]
    lines = subprocess.run(command, cwd=ROOT, env=env, capture_output=True, text=True, check=True).stderr.splitlines()
    rows = [
        (int(a), b.strip()) for a, b in (line.split("|")[1:] for line in lines if "|" in line and "[us]" not in line)
    ]
    dearest = sorted(rows, reverse=True)[:12]
    return {"imports of the start": {"modules": len(rows)} | {name: round(us / 1e3) for us, name in dearest}}


def sides_of(revision: str) -> list[Side]:
    """An older revision and this one, each set up and begun once."""
    tree = PLACE / "tree"
    PLACE.mkdir(parents=True, exist_ok=True)
    subprocess.run(["rm", "-rf", str(tree)], check=True)
    subprocess.run(["git", "clone", "--quiet", "--shared", "--no-checkout", str(ROOT), str(tree)], check=True)
    subprocess.run(["git", "checkout", "--quiet", revision], cwd=tree, check=True)
    sides = [Side("then", tree, 8021), Side("now", ROOT, 8022)]
    for side in sides:
        side.set_up()
        side.start()
        side.stop()
    return sides


@contextmanager
def in_chromium(sides: list[Side]) -> Iterator[tuple[Any, dict[str, tuple[Page, str]]]]:
    """All of them served, a browser, and of each a page with the address of its bench."""
    try:
        for side in sides:
            side.start()
        with sync_playwright() as p:
            browser = p.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
            yield browser, {side.name: entered(browser, side) for side in sides}
            browser.close()
    finally:
        for side in sides:
            side.stop()


def main(revision: str) -> None:
    sides = sides_of(revision)
    starts: dict[str, list[float]] = {s.name: [] for s in sides}
    for _turn in range(5):
        for side in sides:
            starts[side.name].append(side.start())
            side.stop()
    found = {"against": revision, "cold start to the first page": told(starts, "s")} | imports()
    with in_chromium(sides) as (_browser, pages):
        found |= notches(pages, hand=True) | notches(pages, hand=False) | touched(pages) | loads(pages)
        found["resident then [MB]"] = {side.name: side.resident_mb() for side in sides}
    print(json.dumps(found, indent=1))


if __name__ == "__main__":
    main(sys.argv[1])
