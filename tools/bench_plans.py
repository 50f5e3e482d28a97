"""Plans, measured: make bench PART=plans AGAINST=REV.

A whole evaluation in the process that works plans out; in a browser, that process cold, how long a plan takes to
begin, to be whole for the first time, to be found, to be judged sure, and to stop; and notches by hand while one plan
after the other is worked out, in shares of the older revision's, which works out none. Printed as JSON.
"""

import json
import os
import statistics
import sys
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

TOOLS = Path(__file__).parent
sys.path[:0] = [str(TOOLS.parent / "src"), str(TOOLS)]
RUNS, STOPS = 3, 6
#: another wish this often keeps a plan under way [s]
EVERY_S = 4.0


def evaluations(_payload: dict[str, Any], _step: Any) -> dict[str, Any]:
    """Asked for as a job is, in its process: of each demo race what a plan takes, and a whole evaluation of it [ms]."""
    from lynxwort.core.cache import StageCache
    from lynxwort.core.evaluate import ALL, evaluate
    from lynxwort.core.propose import tries
    from lynxwort.core.propose.plan import propose
    from lynxwort.demo import scenario

    judged, found, every = tries.Tries.report_of, {}, []

    def timed(self: Any, setup: Any, need: frozenset[str], *, explain: bool = False) -> Any:
        begun = time.perf_counter()
        try:
            return judged(self, setup, need, explain=explain)
        finally:
            if need == ALL and not explain:
                taken.append(1e3 * (time.perf_counter() - begun))

    tries.Tries.report_of = timed  # type: ignore[method-assign]
    for race in scenario.RACES:
        inputs = scenario.inputs(race)
        ranges = evaluate(inputs, depth="full", cache=StageCache(size=400)).sensitivities
        for _turn in range(2):  # the second with the kernels there
            taken: list[float] = []
            first: list[float] = []
            begun = time.perf_counter()
            plan = propose(
                inputs, cache=StageCache(size=400), sensitivities=ranges,
                first=lambda _plan, begun=begun, first=first: first.append(time.perf_counter() - begun),
            )  # fmt: skip
            whole_s = time.perf_counter() - begun
        every += taken
        found[race] = {
            "first whole plan [s]": round(first[0] if first else whole_s, 1), "plan [s]": round(whole_s, 1),
            "looked at": plan.looked, "whole evaluation, mean [ms]": round(statistics.mean(taken), 1),
        }  # fmt: skip
    of_races = statistics.mean(v["whole evaluation, mean [ms]"] for v in found.values())
    return found | {
        "whole evaluation, mean of races and of all [ms], budget 25": [
            round(of_races, 1),
            round(statistics.mean(every), 1),
        ]
    }


def in_its_process() -> dict[str, Any]:
    """What evaluations() finds in a process of the kind that does the jobs, begun by what begins it."""
    from lynxwort.web.jobs.apart import MOST_JOBS_BYTES, Mill

    os.environ["PYTHONPATH"] = str(TOOLS)
    mill = Mill("bench", MOST_JOBS_BYTES)
    try:
        return dict(mill.ask("bench_plans:evaluations", {}))
    finally:
        mill.end()
        del os.environ["PYTHONPATH"]


def seen(page: Any, begun: float, selector: str) -> float:
    """When something is there, from what was begun [s]."""
    page.wait_for_selector(selector, timeout=120_000)
    return time.perf_counter() - begun


def in_browser(page: Any, bench: str) -> dict[str, list[float]]:
    """Plans of the demo as it stands, of wishes that bind nothing, its process cold; some are stopped [s]."""
    kinds = ("begun", "first whole plan", "one of several steps", "found", "sure", "stopped")
    told: dict[str, list[float]] = {kind: [] for kind in kinds}
    for run in range(STOPS + RUNS):
        begun = time.perf_counter()
        page.goto(f"{bench}/card/plan/?changes={16 - run}")
        told["begun"].append(seen(page, begun, "#plan progress:not([value='0'])"))
        if run < STOPS:
            page.wait_for_timeout(1_000 * run)
        else:
            told["first whole plan"].append(seen(page, begun, ".plan-steps, #plan-sure"))
            told["one of several steps"].append(seen(page, begun, ".plan-steps > li:nth-child(2), #plan-sure"))
            told["found"].append(seen(page, begun, "#plan-sure"))
            told["sure"].append(seen(page, begun, "#plan-sure:not([hx-trigger])"))
            page.goto(f"{bench}/card/plan/?changes={run - STOPS + 1}")  # another one: the process ends as it is stopped
            page.wait_for_selector("#plan progress:not([value='0'])")
        begun = time.perf_counter()
        page.locator("button[name=cancel]").click()
        told["stopped"].append(seen(page, begun, "button[name=again]"))
    return {k: [round(x, 2) for x in sorted(v)] for k, v in told.items()}


@contextmanager
def planning(browser: Any, bench: str) -> Iterator[None]:
    """One plan after the other asked for, by a rider of his own."""
    import urllib.request

    cookies = "; ".join(f"{c['name']}={c['value']}" for c in browser.contexts[-1].cookies())
    ended = threading.Event()

    def ask() -> None:
        for k in range(10_000):
            asked = urllib.request.Request(f"{bench}/card/plan/?changes={1 + k % 16}", headers={"Cookie": cookies})  # noqa: S310 - our own address
            urllib.request.urlopen(asked, timeout=60).read()  # noqa: S310 - our own address
            if ended.wait(EVERY_S):
                return

    thread = threading.Thread(target=ask)
    thread.start()
    try:
        yield
    finally:
        ended.set()
        thread.join()


def main(revision: str) -> None:
    from against import at_rest, in_chromium, notches, sides_of

    found: dict[str, Any] = {"against": revision, "in its process": in_its_process()}
    sides = sides_of(revision)
    with in_chromium(sides) as (browser, pages):
        page, bench = pages["now"]
        at_rest(page, f"{sides[-1].base}/")
        found["in a browser, its process cold [s]"] = in_browser(page, bench)
        alone = notches(pages, hand=True)
        with planning(browser, bench):
            beside = notches(pages, hand=True)
    found["notches, nothing beside"], found["notches, a plan beside"] = alone, beside
    then = {k: v["then [ms]"] for k, v in alone.items()}
    found["now with a plan beside / then with nothing beside, median and p95"] = {
        k: [round(a / b, 2) for a, b in zip(v["now [ms]"], then[k], strict=True)] for k, v in beside.items()
    }
    print(json.dumps(found, indent=1))


if __name__ == "__main__":
    main(sys.argv[1])
