"""Write docs/validation.md: every outside check with source, expected and found, as the tests did them just now."""

import os
import sys
from pathlib import Path

ROOT = Path(__file__).parents[1]
sys.path[:0] = [str(ROOT / "src"), str(ROOT)]
os.environ["LYNXWORT_VALIDATION"] = "write"
#: the tests' modules in the order of the page, each with its heading
HEADINGS = {
    "test_check_values": "Air, mixture, gearing, geometry: shared check values",
    "test_outside": "Air, units, springs: published tables and general-purpose libraries",
    "test_day": "The day's air",
    "test_springing": "Springs, closed air, sags",
    "test_moments": "Weight on the wheels",
    "test_damping": "Damping",
    "test_halfcar": "The half car",
    "test_valving": "Shim stacks",
    "test_fuelling": "Fuelling",
    "test_ride": "The ride",
    "test_stations": "Across the stations",
    "test_stops": "Fuel, charge and light",
    "test_kit_values": "Kit: shared check values",
    "test_service": "Service: shared check values",
    "test_trials": "Trials: shared check values",
}
HEAD = """# Validation

Every outside check of the job: where the expected value is from, what it is, how near it must be, and what
Lynxwort's own functions found. Written by `make validation` from what the tests did, not by hand; a check that is not
here fails the tests.

*library*: agrees with the general-purpose library named. *second method*: two separately written computations agree.
*memory*: rests on a standard or table recalled; confirm it before calling it normative. *source*: a published result,
recalled and reproduced by calculation. Values that only restate a formula guard the coding and are left out.
What has no outside value is listed at the foot of [References](references.md); properties, limits and Monte Carlo of
the same model are in the tests beside these.
HANDBOOK, DAMPING, RIDE, KIT and TRIALS are the project's own notes, tried by calculation before the code was written:
a check against them is a second computation, not a published source.
"""


def main() -> int:
    """Run the tests that check against the outside, and write what they set down."""
    import pytest
    from tests import outside

    files = sorted(
        str(f)
        for f in (ROOT / "tests/core").glob("test_*.py")
        if any(word in f.read_text() for word in ("Published(", "seen_value", "outside.seen"))
    )
    if pytest.main(["-q", "-x", "--no-header", *files]):
        return 1
    text, count = [HEAD], 0
    order = [*HEADINGS, *sorted(set(outside.SEEN) - set(HEADINGS))]
    for module in order:
        rows = outside.SEEN.get(module, {})
        if rows:
            heading = HEADINGS.get(module, module.removeprefix("test_").replace("_", " ").capitalize())
            text += [f"\n## {heading}\n", "| what | source | expected | within | found |", "|---|---|---|---|---|"]
            text += [row.line() for row in rows]
            count += len(rows)
    text.append(f"\n{count} checks.")
    outside.PAGE.write_text("\n".join(text) + "\n")
    return 0


if __name__ == "__main__":
    sys.exit(main())
