"""Every page in every language, at 1280 and at 390, by day and by night, and at 1280 as it is printed: nothing cut off, nothing
beyond the edge of a page or a drawing. LANGUAGES, RACES: fewer of them.
"""

import json
import os
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from pathlib import Path

from playwright.sync_api import Page, sync_playwright
from tests.served import ROOT, environment_of, prepare, serve

from lynxwort.words import LANGUAGES

ASKED = [code for code in os.environ.get("LANGUAGES", ",".join(LANGUAGES)).split(",") if code]
RACES = [int(n) for n in os.environ.get("RACES", "1,4").split(",")]
PATHS = "import django, sys; django.setup(); from tools.soaking import edges; edges.say_paths(*map(int, sys.argv[1:]))"
#: no page: what a script asks for, what is only posted to, what leads elsewhere
PASSED = (
    "/why/",
    "/ahead/",
    "/out/",
    "/tour/",
    "crt",
    ".csv",
    ".ics",
    ".json",
    ".gpx",
    ".js",
    "webmanifest",
    "sheets.html",
)
#: an ellipsis is meant here: the hint of a folded group, a race's own name on the stand of a phone
SHORTENED = ("SPAN hint", "A on-stand", "DD on-stand")
LOOK = """() => {
  const found = [], root = document.documentElement;
  if (root.scrollWidth > root.clientWidth + 1) found.push('the page is wider than its window');
  const clip = v => v === 'hidden' || v === 'clip';
  for (const e of document.querySelectorAll('body *')) {
    if (e.closest('svg') || e.closest('.sr') || e.closest('.top') || /^(TEXTAREA|INPUT|SELECT)$/.test(e.tagName)) continue;
    const box = e.getBoundingClientRect(), style = getComputedStyle(e), text = (e.innerText || '').trim();
    if (!text || box.width < 2 || box.height < 2 || style.visibility === 'hidden') continue;
    const who = `${e.tagName} ${e.className}: ${text.slice(0, 60)}`;
    if (clip(style.overflowX) && e.clientWidth && e.scrollWidth > e.clientWidth + 2) found.push(`cut ${who}`);
    if (clip(style.overflowY) && e.clientHeight && e.scrollHeight > e.clientHeight + 4) found.push(`cut ${who}`);
    const holds = /^(BUTTON|TH|TD)$/.test(e.tagName) || e.classList.contains('button');
    if (holds && style.display !== 'inline' && !clip(style.overflowX) && e.scrollWidth > e.clientWidth + 2)
      found.push(`over its edge ${who}`);
  }
  for (const drawing of document.querySelectorAll('svg.drawing')) {
    const edge = drawing.getBoundingClientRect();
    for (const words of drawing.querySelectorAll('text')) {
      const box = words.getBoundingClientRect();
      if (box.width > 2 && (box.left < edge.left - 4 || box.right > edge.right + 4))
        found.push(`beyond its drawing: ${words.textContent.slice(0, 60)}`);
    }
  }
  return found;
}"""


def say_paths(*races: int) -> None:
    """Every page of these races' benches, as JSON. Run in a process of its own."""
    from tests.odd import pages

    from lynxwort.web.races.models import Race

    found = []
    for race in Race.objects.filter(pk__in=races):
        setup = race.pairing.setup if hasattr(race, "pairing") else race.garage.bike_set.first().setups.first()
        found += [p for p in pages(setup, race) if not any(word in p for word in PASSED)]
    print(json.dumps(list(dict.fromkeys(found))))


def _looked_at(page: Page, base: str, path: str) -> Iterator[str]:
    asked = page.context.request.get(base + path)
    if asked.status != 200 or "html" not in asked.headers["content-type"] or "content-disposition" in asked.headers:
        return
    page.goto(base + path)
    page.wait_for_timeout(120)
    # paper is as wide as a page on a screen, never as a phone
    for media in ("screen", "print") if page.viewport_size["width"] > 700 else ("screen",):  # type: ignore[index]
        page.emulate_media(media=media)
        for found in page.evaluate(LOOK):
            if not any(found.startswith(f"cut {short}") for short in SHORTENED):
                yield f"{path}, {media}: {' '.join(found.split())}"
    page.emulate_media(media="screen")


def run() -> int:
    """What is cut or spills, by language, width and light."""
    environment = environment_of(Path(tempfile.mkdtemp(prefix="lynxwort-edges-")))
    prepare(environment)
    told = subprocess.run(
        [sys.executable, "-c", PATHS, *map(str, RACES)],
        env=environment | {"DJANGO_SETTINGS_MODULE": "lynxwort.web.settings", "PYTHONPATH": f"{ROOT}/src:{ROOT}"},
        check=True, capture_output=True, text=True,
    )  # fmt: skip
    paths, bad = json.loads(told.stdout), 0
    process, _first = serve(environment)
    try:
        with sync_playwright() as started:
            browser = started.chromium.launch(executable_path="/usr/bin/chromium", args=["--no-sandbox"])
            for language in ASKED:
                for width, height in ((1280, 800), (390, 844)):
                    for light in ("light", "dark"):
                        context = browser.new_context(
                            viewport={"width": width, "height": height}, locale=language, color_scheme=light
                        )
                        page, base = context.new_page(), f"http://127.0.0.1:{environment['PORT']}"
                        page.goto(base)
                        page.locator("form[action*=demo] button").click()
                        page.wait_for_load_state("networkidle")
                        found = [line for path in paths for line in _looked_at(page, base, path)]
                        print(f"{language}, {width} px, {light}: {len(paths)} pages, {len(found)} places", flush=True)
                        for line in found:
                            print(f"  {line}")
                        bad += len(found)
                        context.close()
            browser.close()
    finally:
        process.kill()
        process.wait(20)
    return int(bad > 0)
