"""Each shim stack of a document at a shaft speed, force tables of both dampers; with --change the nearest stacks of one
valve.
"""

import argparse
from dataclasses import asdict
from typing import Any

from lynxwort.cli.files import read_document
from lynxwort.cli.tongue import _


def add(verbs: Any) -> None:
    """Add the verb to the command line."""
    verb = verbs.add_parser("stack", help=_("shim stacks and force curves of the document's dampers"))
    verb.add_argument("file")
    verb.add_argument("--speed", type=float, default=1.0, help=_("of the shaft [m/s]"))
    verb.add_argument(
        "--valve",
        choices=[f"{e}_{p}" for e in ("fork", "shock") for p in ("base", "piston", "rebound")],
        default="shock_piston",
    )
    verb.add_argument("--change", type=float, help=_("of the force, in %%: find stacks"))
    verb.set_defaults(run=run)


def run(arguments: argparse.Namespace) -> Any:
    """Each shim stack of a document at a shaft speed, force tables of both dampers; with --change the nearest stacks of
    one valve.
    """
    from lynxwort.core.asks import stacks
    from lynxwort.core.evaluate import evaluate
    from lynxwort.core.model.damper import PLACES, write_stack
    from lynxwort.core.model.inputs import load_inputs
    from lynxwort.core.physics.damping.damper import SPEEDS
    from lynxwort.core.stations.damping import dampers

    inputs = load_inputs(read_document(arguments.file))
    report, bike, setup = evaluate(inputs), inputs.bike, inputs.setup
    found: dict[str, Any] = {"speed_m_per_s": SPEEDS.tolist()}
    for end in ("fork", "shock"):
        curve = dampers.curve_of(bike, setup, end)
        bent = {p: stacks.bent(bike, setup, end, p, arguments.speed) for p in PLACES}
        found[end] = {
            "compression_n": curve.compression_n.tolist(),
            "rebound_n": curve.rebound_n.tolist(),
            "cavitates_m_per_s": curve.cavitates_m_per_s,
            "stacks": {p: asdict(b) | {"text": write_stack(dampers.shims_of(setup, end, p))} for p, b in bent.items()},
        }
    if arguments.change is not None:
        end, place = arguments.valve.split("_")
        answer = report.ask(stacks.answer, end, place, arguments.change / 100.0, arguments.speed)
        found["answer"] = {
            "reachable": answer.reachable,
            "stacks": [{"text": write_stack(s.shims), "change": s.change} for s in answer.suggestions],
        }
    return found
