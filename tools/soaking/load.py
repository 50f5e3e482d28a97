"""Load: five actions a second, beside an older version in turns when BASE names a checkout of it; then more sessions
than the machine can carry.
"""

import json
import os
import random
import re
import statistics
import tempfile
import threading
import time
import urllib.error
from pathlib import Path

from tests.served import ROOT, Visitor, bench_page, environment_of, prepare, serve

RATE_PER_S, TURN_S, TURNS, SESSIONS = 5.0, 60.0, int(os.environ.get("TURNS", "5")), 12
STATIONS = ("purpose", "baseline", "chassis", "damping", "fuelling", "drive", "range", "card")
MOVES = (
    ("rear_sprocket_teeth", (47, 48, 49, 50)),
    ("main_jet", (165.0, 167.5, 170.0, 172.5)),
    ("shock_preload_m", (0.010, 0.011, 0.012)),
)


def act(visitor: Visitor, rng: random.Random) -> tuple[float, str]:
    """One thing that somebody does; how long it took [s], and "ok", "wait" or what was wrong."""
    start = time.perf_counter()
    try:
        kind = rng.random()
        if kind < 0.55:
            visitor.text(f"/bench/1/1/{rng.choice(STATIONS)}/")
        elif kind < 0.65:
            visitor.text("/")
        else:
            page = visitor.text("/bench/1/1/drive/")
            version = re.search(r'data-version="(\d+)"', page)
            start = time.perf_counter()
            tunable, values = rng.choice(MOVES)
            visitor.post(
                "/bench/1/1/drive/notch/",
                page,
                version=version.group(1) if version else "1",
                moves=json.dumps([[tunable, rng.choice(values)]]),
            )
    except urllib.error.HTTPError as error:
        error.read()
        code = {503: "wait", 409: "ok", 422: "ok"}.get(error.code, str(error.code))
        return time.perf_counter() - start, code
    except OSError as error:
        return time.perf_counter() - start, type(error).__name__
    return time.perf_counter() - start, "ok"


def paced(visitors: list[Visitor], seconds: float, seed: int) -> list[tuple[float, str]]:
    """Actions at the rate, whoever is slow; what they took."""
    found, lock, rng = [], threading.Lock(), random.Random(seed)
    threads = []

    def one(visitor: Visitor, own: random.Random) -> None:
        try:
            took = act(visitor, own)
        except AttributeError:  # a page without what was looked for
            took = (0.0, "other page")
        with lock:
            found.append(took)

    end, n = time.perf_counter() + seconds, 0
    while time.perf_counter() < end:
        thread = threading.Thread(
            target=one, args=(visitors[n % len(visitors)], random.Random(rng.random())), daemon=True
        )
        thread.start()
        threads.append(thread)
        n += 1
        time.sleep(max(0.0, end - seconds + n / RATE_PER_S - time.perf_counter()))
    for thread in threads:
        thread.join(120)
    return found


def pressed(environment: dict[str, str], sessions: int, seconds: float) -> list[tuple[float, str]]:
    """So many sessions, each as quick as it is answered."""
    found, lock, stop = [], threading.Lock(), time.perf_counter() + seconds

    def one(n: int) -> None:
        visitor, own = visited(environment), random.Random(n)
        while time.perf_counter() < stop:
            took = act(visitor, own)
            with lock:
                found.append(took)
            if took[1] == "wait":
                time.sleep(3.0)  # as the page does

    def quiet(n: int) -> None:
        try:
            one(n)
        except (OSError, AttributeError) as error:
            with lock:
                found.append((0.0, type(error).__name__))

    threads = [threading.Thread(target=quiet, args=(n,), daemon=True) for n in range(sessions)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(seconds + 120)
    return found


def visited(environment: dict[str, str]) -> Visitor:
    """Somebody who has come in."""
    visitor = Visitor(f"http://127.0.0.1:{environment['PORT']}")
    for _ in range(60):
        try:
            visitor.post("/demo/", visitor.text("/in/"))
            return visitor
        except urllib.error.HTTPError as error:
            error.read()
            time.sleep(2.0)
    return visitor


def said(name: str, found: list[tuple[float, str]]) -> str:
    """A row of the table."""
    good = sorted(t for t, code in found if code == "ok")
    p95 = good[max(0, round(0.95 * len(good)) - 1)] if good else float("nan")
    wrong: dict[str, int] = {}
    for _t, code in found:
        if code not in ("ok", "wait"):
            wrong[code] = wrong.get(code, 0) + 1
    waits = sum(code == "wait" for _t, code in found)
    return (
        f"| {name} | {len(found)} | {statistics.median(good) if good else 0:.3f} | {p95:.3f} | "
        f"{max(t for t, _c in found):.1f} | {waits} | {wrong or 0} |"
    )


def run() -> int:
    """Both servers in turns, then the press."""
    roots = {"now": ROOT} | ({"older": Path(os.environ["BASE"])} if os.environ.get("BASE") else {})
    served, visitors, environments = {}, {}, {}
    every: dict[str, list] = {name: [] for name in roots}
    try:
        for name, root in roots.items():
            environments[name] = environment_of(Path(tempfile.mkdtemp(prefix="lynxwort-load-")))
            prepare(environments[name], root=root)
            served[name], first = serve(environments[name], root)
            first.post("/demo/", first.text("/in/"))
            bench_page(first, "drive")
            visitors[name] = [visited(environments[name]) for _ in range(SESSIONS)]
            paced(visitors[name], 10.0, 0)
        for turn in range(TURNS):
            for name in roots:
                every[name] += paced(visitors[name], TURN_S, turn + 1)
        print("| run | actions | median s | p95 s | longest s | asked to wait | wrong |\n|---|---|---|---|---|---|---|")
        for name, found in every.items():
            print(said(f"{name}, 5 a second", found), flush=True)
        wrong = sum(code not in ("ok", "wait") for _t, code in every["now"])
        for sessions in (50, 200):
            found = pressed(environments["now"], sessions, 40.0)
            wrong += sum(code not in ("ok", "wait") for _t, code in found)
            print(said(f"now, {sessions} sessions", found), flush=True)
        after = paced(visitors["now"], 20.0, 99)
        print(said("now, 5 a second again", after), flush=True)
    finally:
        for process in served.values():
            process.kill()
            process.wait(20)
    return int(wrong > 0)
