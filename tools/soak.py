"""The long runs that `make test` has no time for, printed as tables: make soak [TRUTHS=2000]. docs/soak.md keeps what the last one said."""

import os
import sys
import time
from pathlib import Path

ROOT = Path(__file__).parents[1]
os.environ.setdefault("NUMBA_CACHE_DIR", str(ROOT / ".data" / "numba"))
sys.path[:0] = [str(ROOT / "src"), str(ROOT)]

from tests.truths import Cover, ridden, sprung  # noqa: E402

from lynxwort.core.evaluate import evaluate  # noqa: E402
from lynxwort.demo import scenario  # noqa: E402

TRUTHS = int(os.environ.get("TRUTHS", "2000"))


def said(race: str, name: str, cover: Cover) -> str:
    """One row of the table."""
    whole = cover.low + cover.inside + cover.high
    return f"| {race} | {name} | {100 * cover.low / whole:.1f} | {100 * cover.share:.1f} | {100 * cover.high / whole:.1f} | {'yes' if cover.bounded else ''} |"


def main() -> int:
    """Print the coverage of every stated range on every demo race; 1 when one holds too little."""
    started, short = time.perf_counter(), []
    print("| race | figure | below % | in % | above % | discrete or bounded |\n|---|---|---|---|---|---|")
    for race in scenario.RACES:
        inputs = scenario.inputs(race)
        report = evaluate(inputs, depth="full")
        found = ridden(report, TRUTHS, seed=2027) | {f"rear spring wanted, {k}": v for k, v in sprung(inputs, report, TRUTHS // 8, seed=2027).items()}
        for name, cover in found.items():
            print(said(race, name, cover), flush=True)
            if cover.share < 0.85:
                short.append((race, name))
    print(f"\n{TRUTHS} truths a race, {time.perf_counter() - started:.0f} s; under 85 %: {short or 'none'}")
    return 1 if short else 0


if __name__ == "__main__":
    sys.exit(main())
