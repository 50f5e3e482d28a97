"""Every piece of the document's course ridden, and what would cure a complaint."""

import argparse
from dataclasses import asdict
from typing import Any

from lynxwort.cli.files import read_document
from lynxwort.cli.tongue import _


def add(verbs: Any) -> None:
    """Add the verb to the command line."""
    verb = verbs.add_parser("ride", help=_("the bike over the pieces of the document's course"))
    verb.add_argument("file")
    verb.add_argument(
        "--felt",
        choices=("bottoms", "blows_through", "harsh", "packs", "kicks", "skips"),
        help=_("a complaint to look into"),
    )
    verb.add_argument("--end", choices=("front", "rear"), default="rear")
    verb.set_defaults(run=run)


def run(arguments: argparse.Namespace) -> Any:
    """Every piece of the document's course ridden, and what would cure a complaint."""
    from lynxwort.core.asks import complaints
    from lynxwort.core.evaluate import evaluate
    from lynxwort.core.model.inputs import load_inputs
    from lynxwort.core.stations.damping import rides

    report = evaluate(load_inputs(read_document(arguments.file)))
    found: dict[str, Any] = {"pieces": [asdict(r) for r in report.ask(rides.ridden)]}
    if arguments.felt:
        found["advice"] = asdict(report.ask(complaints.advise, arguments.felt, arguments.end))
        for tool in found["advice"]["tools"]:
            tool["changes"] = {
                k: v if isinstance(v, int | float) else [s.model_dump() for s in v] for k, v in tool["changes"].items()
            }
    return found
