"""The stop plan of a document with its alternatives, the race on the clock, tanks or packs side by side; of a relay,
who rides what.
"""

import argparse
from dataclasses import asdict
from typing import Any

from lynxwort.cli.files import read_document
from lynxwort.cli.tongue import _


def add(verbs: Any) -> None:
    """Add the verb to the command line."""
    verb = verbs.add_parser("stops", help=_("where to stop and for how much; tanks, packs, riders"))
    verb.add_argument("file")
    verb.set_defaults(run=run)


def _plan(plan: Any) -> dict[str, Any] | None:
    """A plan of stops as plain data, its fills as a document says them."""
    if plan is None:
        return None
    return asdict(plan) | {"fills": [f.model_dump(exclude_none=True) for f in plan.fills]}


def run(arguments: argparse.Namespace) -> Any:
    """The stop plan of a document with its alternatives, the race on the clock, tanks or packs side by side; of a
    relay, who rides what.
    """
    from lynxwort.core.asks import tanks
    from lynxwort.core.asks.compromise import turned_for
    from lynxwort.core.asks.stops import kept_plan, lap_more, plans
    from lynxwort.core.evaluate import evaluate
    from lynxwort.core.model.inputs import load_inputs
    from lynxwort.core.stations.range.moments import moments
    from lynxwort.core.stations.range.view import stints

    report = evaluate(load_inputs(read_document(arguments.file)))
    kept, rows, shared = report.ask(kept_plan), report.ask(tanks.fitted_stores), report.ask(stints)
    best, more = tanks.smallest(rows), report.ask(lap_more)
    return {
        "kept": _plan(kept),
        "plans": [_plan(p) for p in report.ask(plans)],
        "moments": [asdict(m) for m in report.ask(moments)],
        "relay": None if shared is None else [asdict(s) | {"name": name} for s, name in shared],
        "turned": None if shared is None else [asdict(t) for t in report.ask(turned_for)],
        "lap_more": None if more is None else asdict(more) | {"plan": _plan(more.plan)},
        "holders": [asdict(h) for h in rows],
        "smallest": None if best is None else best.holds,
        "modes": [asdict(m) for m in report.ask(tanks.modes)],
    }
