"""What stated ranges hold over thousands of truths."""

import os
import time

from tests.truths import Cover, ridden, sprung

from lynxwort.core.evaluate import evaluate
from lynxwort.demo import scenario

TRUTHS = int(os.environ.get("TRUTHS", "2000"))


def said(race: str, name: str, cover: Cover) -> str:
    """One row of the table."""
    whole = cover.low + cover.inside + cover.high
    return (
        f"| {race} | {name} | {100 * cover.low / whole:.1f} | {100 * cover.share:.1f} | "
        f"{100 * cover.high / whole:.1f} | {'yes' if cover.bounded else ''} |"
    )


def run() -> int:
    """Print the coverage of every stated range on every demo race; 1 when one holds too little."""
    started, short = time.perf_counter(), []
    print("| race | figure | below % | in % | above % | discrete or bounded |\n|---|---|---|---|---|---|")
    for race in scenario.RACES:
        inputs = scenario.inputs(race)
        report = evaluate(inputs, depth="full")
        found = ridden(report, TRUTHS, seed=2027) | {
            f"rear spring wanted, {k}": v for k, v in sprung(inputs, report, TRUTHS // 8, seed=2027).items()
        }
        for name, cover in found.items():
            print(said(race, name, cover), flush=True)
            if cover.share < 0.85:
                short.append((race, name))
    print(f"\n{TRUTHS} truths a race, {time.perf_counter() - started:.0f} s; under 85 %: {short or 'none'}")
    return 1 if short else 0
