"""Service and gate of a document: hours, what is due, risk, wear, bolts, checks and what they take back."""

import argparse
from typing import Any

from lynxwort.cli.files import read_document
from lynxwort.cli.tongue import _


def add(verbs: Any) -> None:
    """Add the verb to the command line."""
    verb = verbs.add_parser("service", help=_("hours, what falls due, wear, bolts, and the gate"))
    verb.add_argument("file")
    verb.set_defaults(run=run)


def run(arguments: argparse.Namespace) -> Any:
    """Each part with its clock, each check with its state, what was measured, the bolts; figures and findings."""
    from lynxwort.core.evaluate import evaluate
    from lynxwort.core.model.inputs import load_inputs
    from lynxwort.core.report import plain, station_of
    from lynxwort.core.stations.baseline.asked import gate_seen, service_seen, wear_seen

    report = evaluate(load_inputs(read_document(arguments.file)))
    seen, gate, wear = report.ask(service_seen), report.ask(gate_seen), report.ask(wear_seen)
    mine = {k: f for k, f in report.figures.items() if station_of(k) == "baseline" and f.status == "ok"}
    return {
        "hours_s": seen.log.line.now_s,
        "due": [
            {"kind": d.part.kind, "name": d.part.name, "run_s": d.run_s, "interval_s": d.interval_s,
             "left_after_race_s": d.left_after_s, "state": d.state, "because": d.because, "due_day": d.due_day}
            for d in seen.due
        ],
        "risks": plain(seen.risks),
        "gate": [{"check": c.check.name, "state": c.state, "lapsed": c.lapsed} for c in gate.checks],
        "not_judged": dict(report.not_judged),
        "worn": {k: {"value": w.value, "state": w.state, "because": w.because, "earliest_s": w.earliest_s}
                 for k, w in wear.worn.items()},
        "bolts": [{"name": b.bolt.name, "preload_n": b.preload_n, "open": b.open, "again": b.again, "moved": b.moved}
                  for b in wear.bolts],
        "figures": {k: f.value for k, f in mine.items()},
        "findings": plain(report.of("baseline")),
    }  # fmt: skip
