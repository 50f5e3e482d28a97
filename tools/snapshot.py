"""The snapshot of every report: `write` keeps it, `compare` says where what is reckoned now parts from it by more than
1e-12.

Two machines may part by more in the last digits, so a rebuild is compared on the machine that wrote its snapshot: write
one, rebuild, compare.
"""

import sys
from pathlib import Path

ROOT = Path(__file__).parents[1]
sys.path[:0] = [str(ROOT / "src"), str(ROOT)]
REL = 1e-12


def main() -> int:
    from tests import snapshot

    what, path = sys.argv[1], Path(sys.argv[2]) if len(sys.argv) > 2 else snapshot.KEPT
    now = snapshot.taken()
    if what == "write":
        snapshot.write(path, now)
        return 0
    found = list(snapshot.differences(snapshot.read(path), now, REL))
    print("\n".join(found[:60]) or f"{len(now)} reports, the same to {REL:g}")
    return 1 if found else 0


if __name__ == "__main__":
    sys.exit(main())
