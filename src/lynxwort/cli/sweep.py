"""Sprockets, one by one, on the document's race."""

import argparse
from dataclasses import asdict
from typing import Any

from lynxwort.cli.files import read_document


def add(verbs: Any) -> None:
    """Add the verb to the command line."""
    verb = verbs.add_parser("sweep", help="sprockets, one by one, on the document's race")
    verb.add_argument("file")
    verb.set_defaults(run=run)


def run(arguments: argparse.Namespace) -> Any:
    """Sprockets, one by one, on the document's race."""
    from lynxwort.core.evaluate import evaluate
    from lynxwort.core.model.inputs import load_inputs
    from lynxwort.core.sweep import equal_ratios, near_equal, proposal, schools, sweep

    inputs = load_inputs(read_document(arguments.file))
    rows = list(sweep(inputs))
    best = proposal(rows, evaluate(inputs, depth="full"))
    near, equal = near_equal(rows), equal_ratios(rows)
    pair = lambda row: None if row is None else {"front": row.front, "rear": row.rear}  # noqa: E731
    return {
        "rows": [
            asdict(r)
            | {
                "near_equal": (r.front, r.rear) in near,
                "equal_ratio": [list(p) for p in equal.get((r.front, r.rear), [])],
            }
            for r in rows
        ],
        "proposal": pair(best),
        "schools": {name: pair(row) for name, row in schools(rows).items()},
    }
