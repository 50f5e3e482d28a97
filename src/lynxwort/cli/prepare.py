"""Getting ready for a race: the build in its order, and the spares that are worth their grams."""

import argparse
from collections.abc import Mapping
from dataclasses import asdict
from typing import Any

from lynxwort.cli.files import read_document


def add(verbs: Any) -> None:
    """Add both verbs to the command line."""
    for name, what in (("build", "the build: money, mass, work, its order"), ("spares", "which spares are carried")):
        verb = verbs.add_parser(name, help=what)
        verb.add_argument("file")
        verb.set_defaults(run=run, verb=name)


def _plain(data: Any) -> Any:
    """What JSON can hold."""
    if isinstance(data, Mapping):
        return {k: _plain(v) for k, v in data.items()}
    if isinstance(data, tuple | list):
        return [_plain(v) for v in data]
    return data.model_dump(mode="json") if hasattr(data, "model_dump") else data


def run(arguments: argparse.Namespace) -> Any:
    """The figures of build or spares with what they are made of. Raises InputRefused."""
    from lynxwort.core.evaluate import evaluate
    from lynxwort.core.model.inputs import load_inputs
    from lynxwort.core.stations.kit import building

    report = evaluate(load_inputs(read_document(arguments.file)), need=("kit.figures",))
    figures = {
        k: v for k, v in report.to_json()["figures"].items() if k.startswith(f"kit.{arguments.verb}.")
    }  # fmt: skip
    if arguments.verb == "spares":
        return {"figures": figures} | _plain(asdict(report.ask(building.pack)))
    needs = [
        {"items": n.wanted.items, "need": n.wanted.need, "why": n.wanted.why, "on": [i.id for i in n.on],
         "overruled": n.overruled}
        for n in report.ask(building.race_needs)
    ]  # fmt: skip
    return {"figures": figures, "needs": needs} | _plain(asdict(report.ask(building.build)))
