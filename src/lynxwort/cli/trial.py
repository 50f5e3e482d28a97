"""The trials of a document: what each plan can show, and what its runs say."""

import argparse
from dataclasses import asdict
from math import isfinite
from typing import Any

from lynxwort.cli.files import read_document
from lynxwort.cli.tongue import _


def add(verbs: Any) -> None:
    """Add the verb to the command line."""
    verb = verbs.add_parser("trial", help=_("trials: what they can show, what their runs say"))
    verb.add_argument("file")
    verb.set_defaults(run=run)


def run(arguments: argparse.Namespace) -> Any:
    """Each trial with its plan, its answer and the looks that were planned; what the log of days says; Trials' figures
    and findings.
    """
    from lynxwort.core.evaluate import evaluate
    from lynxwort.core.model.inputs import load_inputs
    from lynxwort.core.stations.trials import day
    from lynxwort.core.stations.trials.answer import answer_among, looks_of
    from lynxwort.core.stations.trials.planning import planned_of

    inputs = load_inputs(read_document(arguments.file))
    report = evaluate(inputs)
    found = []
    for trial in inputs.trials:
        answer = answer_among(trial, inputs.trials)
        said = {k: v for k, v in asdict(answer).items() if k not in ("trial", "flip")}
        flip = None if not all(map(isfinite, answer.flip)) else answer.flip
        found.append(
            {
                "id": trial.id, "rider": trial.rider, "question": trial.question, "order": trial.order,
                "planned": asdict(planned_of(trial)), "looks": looks_of(trial), "answer": said | {"flip": flip},
            }
        )  # fmt: skip
    return {
        "trials": found,
        "day": {"moments": report.ask(day.through), "learned": [asdict(one) for one in report.ask(day.learned)]},
        "figures": {k: f.value for k, f in report.figures.items() if k.startswith("trials.") and f.status == "ok"},
        "findings": [asdict(f) for f in report.of("trials")],
    }
