"""Plans against the stations' own proposals over seeded starts, and against every setup of a bike of which most is
held.
"""

import os
import time
from collections import Counter

from tests.plans import brute, by_hand, is_leaner, perturbed

from lynxwort.core.cache import StageCache
from lynxwort.core.evaluate import evaluate
from lynxwort.core.propose.plan import propose
from lynxwort.core.propose.wish import Wish
from lynxwort.core.tunables import tunables_of
from lynxwort.demo import scenario

STARTS = int(os.environ.get("STARTS", "15"))
#: of each race what is free while all else is held
FREE = {
    "brackenmere": (
        ("main_jet", "needle_clip"),
        ("main_jet", "pilot_jet", "needle_clip"),
        ("tank_capacity_m3", "fuel_fill_m3"),
        ("tank_capacity_m3", "fuel_fill_m3", "main_jet"),
        ("rear_sprocket_teeth", "front_sprocket_teeth"),
        ("rear_sprocket_teeth", "tank_capacity_m3", "fuel_fill_m3"),
        ("shock_spring_rate_n_per_m", "shock_preload_m"),
        ("fork_preload_m", "fork_up_m"),
        ("rear_tyre_pressure_pa", "front_tyre_pressure_pa"),
        ("shock_spring_rate_n_per_m", "shock_preload_m", "rear_sprocket_teeth"),
        ("crawl_share", "main_jet"),
        ("fork_compression_clicks", "fork_preload_m"),
    ),
    "saltern": (("fuel_trim", "fork_compression_clicks"), ("shock_preload_m", "fuel_trim")),
    "gannach": (("fuel_trim", "rear_sprocket_teeth"), ("crawl_share", "fork_preload_m")),
}


def run() -> int:
    """Print both tables; 1 when a plan is worse than either, or leans."""
    bad = 0
    print("| race | starts | better | equal | worse | leaner | seconds, most | looked at, mean |\n" + "|---" * 8 + "|")
    for race in scenario.RACES:
        inputs, cache = scenario.inputs(race), StageCache(size=400)
        ranges = evaluate(inputs, depth="full", cache=cache).sensitivities
        said, leaner, slowest, looked = Counter[str](), 0, 0.0, 0
        for seed in range(STARTS):
            start, begun = perturbed(inputs, seed), time.perf_counter()
            found = propose(start, Wish.model_validate({"changes": 12}), cache=cache, sensitivities=ranges)
            slowest, looked = max(slowest, time.perf_counter() - begun), looked + found.looked
            other = by_hand(start, cache, ranges).key
            said["better" if found.after.key < other else "equal" if found.after.key == other else "worse"] += 1
            leaner += is_leaner(start, found.setup, cache)
        bad += said["worse"] + leaner
        counts = " | ".join(str(said[k]) for k in ("better", "equal", "worse"))
        print(f"| {race} | {STARTS} | {counts} | {leaner} | {slowest:.0f} | {looked / STARTS:.0f} |", flush=True)
    print("\n| race | free | plan | every setup |\n" + "|---" * 4 + "|")
    for race, sets in FREE.items():
        inputs, cache = scenario.inputs(race), StageCache(size=400)
        ranges = evaluate(inputs, depth="full", cache=cache).sensitivities
        for free in sets:
            wish = Wish.model_validate({"leave": [t for t in tunables_of(inputs.bike) if t not in free]})
            found, best = propose(inputs, wish, cache=cache, sensitivities=ranges), brute(inputs, free, cache, ranges)
            bad += found.after.key > best  # brute tries but so many notches of each
            print(f"| {race} | {', '.join(free)} | {found.after.key} | {best} |", flush=True)
    return int(bad > 0)
