"""What is bolted on, tyres, brakes and controls of a document: figures, findings, items and what else each brake could
have on.
"""

import argparse
from dataclasses import asdict
from typing import Any

from lynxwort.cli.files import read_document
from lynxwort.cli.tongue import _


def add(verbs: Any) -> None:
    """Add the verb to the command line."""
    verb = verbs.add_parser("kit", help=_("what is bolted on, tyres, brakes and controls"))
    verb.add_argument("file")
    verb.add_argument("--on", metavar="ID", action="append", default=[], help=_("with an item put on"))
    verb.add_argument("--off", metavar="ID", action="append", default=[], help=_("with an item taken off"))
    verb.set_defaults(run=run)


def run(arguments: argparse.Namespace) -> Any:
    """Kit's figures and findings, the items with their state, the brakes' choices. Raises InputRefused for an item that
    is not on the bike's list.
    """
    from lynxwort.core.asks.brakes import choices
    from lynxwort.core.errors import InputRefused, Refusal
    from lynxwort.core.evaluate import evaluate
    from lynxwort.core.model.fitted import items_on
    from lynxwort.core.model.inputs import load_inputs
    from lynxwort.core.stations.kit.input import ENDS
    from lynxwort.core.tunables import item_tunable, move

    inputs = load_inputs(read_document(arguments.file))
    setup = inputs.setup
    for identity, on in [*((i, True) for i in arguments.on), *((i, False) for i in arguments.off)]:
        item = inputs.bike.kit.item(identity)
        if item is None:
            raise InputRefused(Refusal(path="bike.kit.items", code="no_such_item", message=identity))
        setup = move(setup, item_tunable(item), float(on != item.weighed_with))
    inputs = inputs.model_copy(update={"setup": setup})
    report = evaluate(inputs, need=("kit",))
    whole, on_now = report.to_json(), {i.id for i in items_on(inputs.bike, setup)}
    return {
        "items": [i.model_dump(mode="json") | {"is_on": i.id in on_now} for i in inputs.bike.kit.items],
        "figures": {k: v for k, v in whole["figures"].items() if k.startswith("kit.")},
        "findings": [f for f in whole["findings"] if f["station"] == "kit"],
        "brakes": {end: [asdict(c) for c in report.ask(choices, end)] for end in ENDS},
    }
