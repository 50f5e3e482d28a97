"""Pictures of the main views from the demo, into docs/screenshots: python tools/shots.py [OUTDIR] [NAME ...].

Needs a demo server on 127.0.0.1:8000 (make demo) and Debian's chromium.
"""

import sys
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

BASE = "http://127.0.0.1:8000"
FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]
STATIONS = ("purpose", "baseline", "chassis", "damping", "fuelling", "drive", "range", "kit", "card")
WIDE, PHONE, LARGE = (1280, 800), (390, 844), (1920, 1080)


def enter(page: Page) -> str:
    """Into the demo and onto the bench; the bench's address."""
    page.goto(f"{BASE}/in/")
    page.get_by_role("button", name="Open the demo garage").click()
    page.get_by_role("link", name="To the bench Brackenmere").click()
    page.wait_for_selector("#bench", timeout=60_000)
    return page.url.rsplit("/", 2)[0]


def settle(page: Page) -> None:
    page.wait_for_load_state("networkidle")
    page.evaluate("document.fonts.ready")


def main() -> None:
    out = Path(sys.argv[1]) if len(sys.argv) > 1 else Path(__file__).parents[1] / "docs/screenshots"
    wanted = sys.argv[2:]
    out.mkdir(parents=True, exist_ok=True)
    with sync_playwright() as p:
        browser = p.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        for tag, size in (("", WIDE), ("-phone", PHONE), ("-large", LARGE), ("-night", WIDE)):
            context = browser.new_context(
                color_scheme="dark" if tag == "-night" else "light",
                viewport={"width": size[0], "height": size[1]},
                reduced_motion="reduce",
                has_touch=tag == "-phone",
            )
            page = context.new_page()
            page.on("console", lambda m: print(m.type, m.text) if m.type in ("error", "warning") else None)
            page.on("pageerror", lambda e: print("pageerror", e))
            if tag == "" and "sign-in" in wanted:
                page.goto(f"{BASE}/in/")
                settle(page)
                page.screenshot(path=out / "sign-in.png")
            base = enter(page)
            views = [(s, f"{base}/{s}/") for s in STATIONS if s != "damping"] + [
                ("stand", f"{BASE}/"),
                ("parts", f"{BASE}/parts/"),
                ("race", f"{BASE}/races/1/"),
                ("facts", f"{BASE}/bikes/1/facts/"),
                ("history", f"{BASE}/setups/1/history/"),
                ("new-race", f"{BASE}/races/new/"),
                ("kinds", f"{BASE}/bikes/new/"),
                ("stage", f"{BASE}/races/1/stages/0/?from=19500&to=23000"),
                ("purpose-stages", f"{BASE}/bench/2/3/purpose/"),
                ("settings", f"{BASE}/settings/"),
                ("sprockets", f"{base}/drive/sprockets/"),
                ("course", f"{BASE}/bench/courses/1/"),
                ("clinic", f"{base}/chassis/sag/rear/"),
                ("jets", f"{base}/fuelling/jets/"),
                ("trials", f"{base}/trials/answer/"),
                ("damping", f"{BASE}/bench/2/2/damping/"),
                ("valving", f"{BASE}/bench/2/2/damping/valving/shock/?place=piston&change=10&speed=0.5"),
                ("felt", f"{BASE}/bench/2/2/damping/felt/?what=bottoms&end=rear"),
                ("service", f"{base}/baseline/service/"),
                ("sheet", f"{BASE}/bench/2/2/damping/setting-sheet/"),
                ("stops", f"{BASE}/bench/2/2/range/stops/"),
                ("crew", f"{base}/range/crew/"),
                ("week", f"{base}/card/week/"),
                ("plan", f"{base}/card/plan/"),
                ("pump", f"{BASE}/bench/2/2/range/pump/"),
                ("holders", f"{base}/range/holders/"),
                ("metres", f"{base}/drive/metres/?rows=100&at=21500"),
                ("drive-hills", f"{base}/drive/?at=22100"),
                ("range-electric", f"{BASE}/bench/3/4/range/"),
            ]
            default = {
                "": {
                    "purpose",
                    "baseline",
                    "chassis",
                    "fuelling",
                    "drive",
                    "range",
                    "card",
                    "stand",
                    "service",
                    "stage",
                    "sprockets",
                    "kit",
                    "jets",
                    "trials",
                    "plan",
                    "damping",
                    "crew",
                    "kinds",
                },
                "-phone": {"week"},
                "-large": set(),
                "-night": set(),
            }
            for name, address in views:
                if (name + tag) not in wanted if wanted else name not in default[tag]:
                    continue
                page.goto(address + ("?at=22100" if name == "drive" else ""))
                settle(page)
                if name == "sprockets":
                    page.get_by_text("with the smallest change").wait_for()
                if name == "plan":
                    page.locator("#plan-how-sure b").wait_for(timeout=400_000)
                if name == "drive-hills":
                    page.locator(".work").evaluate("e => e.scrollTo(0, 1180)")
                page.screenshot(path=out / f"{name}{tag}.png", full_page=tag == "-phone" or name in ("card", "race"))
            context.close()
        browser.close()


if __name__ == "__main__":
    main()
