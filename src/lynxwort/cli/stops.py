"""The stop plan of a document with its alternatives, the race on the clock, tanks or packs side by side; of a relay,
who rides what.
"""

import argparse
from dataclasses import asdict
from typing import Any

from lynxwort.cli.files import read_document


def add(verbs: Any) -> None:
    """Add the verb to the command line."""
    verb = verbs.add_parser("stops", help="where to stop and for how much; tanks, packs, riders")
    verb.add_argument("file")
    verb.set_defaults(run=run)


def run(arguments: argparse.Namespace) -> Any:
    """The stop plan of a document with its alternatives, the race on the clock, tanks or packs side by side; of a
    relay, who rides what.
    """
    from lynxwort.core.asks import tanks
    from lynxwort.core.asks.stops import kept_plan, plans
    from lynxwort.core.evaluate import evaluate
    from lynxwort.core.model.inputs import load_inputs
    from lynxwort.core.stations.range.moments import moments
    from lynxwort.core.stations.range.view import stints

    report = evaluate(load_inputs(read_document(arguments.file)))
    kept, rows, shared = report.ask(kept_plan), report.ask(tanks.fitted_stores), report.ask(stints)
    best = tanks.smallest(rows)
    return {
        "kept": None
        if kept is None
        else asdict(kept) | {"fills": [f.model_dump(exclude_none=True) for f in kept.fills]},
        "plans": [asdict(p) | {"fills": [f.model_dump(exclude_none=True) for f in p.fills]} for p in report.ask(plans)],
        "moments": [asdict(m) for m in report.ask(moments)],
        "relay": None if shared is None else [asdict(s) | {"name": name} for s, name in shared],
        "holders": [asdict(h) for h in rows],
        "smallest": None if best is None else best.holds,
        "modes": [asdict(m) for m in report.ask(tanks.modes)],
    }
