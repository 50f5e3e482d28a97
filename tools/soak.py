"""The long runs that `make test` has no time for, printed as tables: make soak
[PART=ranges,uploads,load,kills,steps,hostile,odd,trials,plans,club,edges]. docs/soak.md keeps what the last ones said.
"""

import os
import sys
from importlib import import_module
from pathlib import Path

ROOT = Path(__file__).parents[1]
os.environ.setdefault("NUMBA_CACHE_DIR", str(ROOT / ".data" / "numba"))
sys.path[:0] = [str(ROOT / "src"), str(ROOT)]
PARTS = ("ranges", "uploads", "load", "kills", "steps", "hostile", "odd", "trials", "plans", "club", "edges")


def main() -> int:
    """Run the parts asked for, or all; 1 when one of them is not as it must be."""
    asked = [p for p in os.environ.get("PART", "").split(",") if p] or list(PARTS)
    return max(import_module(f"tools.soaking.{part}").run() for part in asked)


if __name__ == "__main__":
    sys.exit(main())
