"""Steps: two thousand notches on ten benches through the server, and what memory it then holds; then notches on one
bench alone, and with long reckoning running beside.
"""

import os
import random
import re
import sqlite3
import statistics
import tempfile
import time
import urllib.error
import urllib.parse
import urllib.request
from collections.abc import Callable
from contextlib import closing
from pathlib import Path

from tests.served import Visitor, bench_page, environment_of, prepare, serve
from tools.soaking.uploads import log, sent

STEPS = int(os.environ.get("STEPS", "2000"))
#: resident memory that the server may hold after them [MB]
MOST_MB = 700.0
#: a notch with reckoning beside may take this much more of what it takes alone
MOST_SLOWER = 1.0 + 1.0 / 3.0
BENCHES = [(setup, race) for setup in (1, 2) for race in (1, 2, 3, 4)] + [(3, 3), (3, 4)]
STATIONS = ("chassis", "damping", "fuelling", "drive", "range")
CELL = re.compile(r"""hx-post="([^"]+)"><input type="hidden" name="moves" value='(\[\["\w+", [^\]]+\]\])'>""")
HX = {"HX-Request": "true"}


def press(visitor: Visitor, base: str, dice: random.Random) -> float:
    """One notch of one station, its answer and its neighbours'; how long the answer took [s]."""
    station = dice.choice(STATIONS)
    page = visitor.get(f"{base}{station}/", **HX).read().decode()
    cells = CELL.findall(page)
    if not cells:
        return 0.0
    path, moves = dice.choice(cells)
    version = re.search(r'data-version="(\d+)"', page)
    said = {"moves": moves, "version": version[1] if version else "0"}
    token = next(c.value for c in cookies(visitor) if c.name == "csrftoken")
    asked = urllib.request.Request(
        visitor.base + path, data=urllib.parse.urlencode(said).encode(), headers=HX | {"X-CSRFToken": token}
    )
    begun = time.perf_counter()
    try:
        visitor.opener.open(asked, timeout=60).read()
    except urllib.error.HTTPError as error:
        if error.code not in (409, 422):  # no further notch
            raise
    took = time.perf_counter() - begun
    visitor.get(f"{base}{station}/neighbours/", **HX).read()
    return took


def cookies(visitor: Visitor) -> list:
    """What the visitor was given."""
    jars = [h.cookiejar for h in visitor.opener.handlers if isinstance(h, urllib.request.HTTPCookieProcessor)]
    return [cookie for jar in jars for cookie in jar]


def at_work(folder: Path) -> bool:
    """Whether long reckoning runs or waits."""
    with closing(sqlite3.connect(folder / "lynxwort.sqlite3", timeout=20)) as rows:
        return bool(rows.execute("SELECT count(*) FROM jobs_job WHERE state IN ('waiting', 'running')").fetchone()[0])


def until(wanted: bool, folder: Path, most_s: float) -> None:
    """Wait for reckoning to begin, or to end."""
    end = time.monotonic() + most_s
    while at_work(folder) != wanted and time.monotonic() < end:
        time.sleep(0.05)


def run() -> int:
    """Memory, then company."""
    folder = Path(tempfile.mkdtemp(prefix="lynxwort-steps-"))
    environment = environment_of(folder)
    prepare(environment)
    process, visitor = serve(environment)
    try:
        visitor.post("/demo/", visitor.text("/in/"))
        bench_page(visitor, "drive")
        dice, held = random.Random(7), []
        print("| notches | resident, MB |\n|---|---|")
        for n in range(STEPS):
            setup, race = dice.choice(BENCHES)
            press(visitor, f"/bench/{setup}/{race}/", dice)
            if (n + 1) % max(STEPS // 8, 1) == 0:
                status = Path(f"/proc/{process.pid}/status").read_text()
                held.append(int(status.split("VmRSS:")[1].split()[0]) / 1024)
                print(f"| {n + 1} | {held[-1]:.0f} |", flush=True)
        slower = beside(visitor, folder)
    finally:
        process.kill()
        process.wait(20)
    return int(held[-1] > MOST_MB or max(slower) > MOST_SLOWER)


def beside(visitor: Visitor, folder: Path) -> list[float]:
    """Notches alone and with company, in turns; how much longer they take with it, in the median."""
    long_log = log(1_000_000)
    company: dict[str, Callable[[], object]] = {
        "a sprocket sweep": lambda: visitor.text("/bench/1/2/drive/sprockets/"),
        "a click map": lambda: visitor.text("/bench/1/2/damping/clicks/"),
        "a log of a million rows": lambda: sent(visitor, "/bench/2/2/fuelling/map/", long_log),
    }
    print("\n| beside | alone, ms | with it, ms | longer by | notches with it |\n|---|---|---|---|---|")
    slower, dice = [], random.Random(11)
    for name, begin in company.items():
        alone, along = [], []
        for _turn in range(4):
            until(False, folder, 120.0)
            alone += [press(visitor, "/bench/1/1/", dice) for _ in range(15)]
            until(False, folder, 120.0)
            begin()
            until(True, folder, 5.0)
            while at_work(folder) and len(along) < 60:
                along.append(press(visitor, "/bench/1/1/", dice))
        middle = [1e3 * statistics.median(t for t in times if t) for times in (alone, along)]
        slower.append(middle[1] / middle[0])
        print(f"| {name} | {middle[0]:.0f} | {middle[1]:.0f} | {slower[-1] - 1.0:+.0%} | {len(along)} |", flush=True)
    return slower
