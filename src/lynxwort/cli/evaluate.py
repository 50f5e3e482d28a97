"""Judge one document."""

import argparse
from dataclasses import asdict, replace
from typing import Any

from lynxwort.cli.files import read_document
from lynxwort.cli.tongue import _
from lynxwort.core.errors import InputRefused, Refusal


def add(verbs: Any) -> None:
    """Add the verb to the command line."""
    verb = verbs.add_parser("evaluate", help=_("judge one document"))
    verb.add_argument("file", nargs="?")
    verb.add_argument(
        "--views",
        nargs="*",
        metavar="NAME",
        help=_("also the data of the drawings: those named like drive.pull, or all"),
    )
    verb.add_argument("--example", action="store_true", help=_("print the demo's document"))
    verb.add_argument("--schema", action="store_true", help=_("print the JSON Schema of the document"))
    verb.set_defaults(run=run)


def run(arguments: argparse.Namespace) -> Any:
    """Judge one document."""
    from lynxwort.core.evaluate import ALL, VIEWS, evaluate
    from lynxwort.core.model.inputs import Inputs, load_inputs
    from lynxwort.core.propose import single
    from lynxwort.core.report import STATIONS, plain
    from lynxwort.words.catalogue import say

    if arguments.schema:
        return Inputs.model_json_schema()
    if arguments.example:
        from lynxwort.demo.scenario import COURSE_KEY, document, track

        return document() | {"courses": {COURSE_KEY: track().model_dump(mode="json")}}
    if not arguments.file:
        raise InputRefused(Refusal(path="", code="missing"))
    wanted = [f"views.{name}" for name in arguments.views or ()] or (VIEWS if arguments.views is not None else ())
    for name in wanted:
        if name not in VIEWS:
            raise InputRefused(Refusal(path="views", code="not_a_choice", message=name))
    report = evaluate(load_inputs(read_document(arguments.file)), depth="full", need=ALL.union(wanted))
    # what is proposed is tried first
    report = replace(
        report, findings=tuple(f for station in STATIONS for f in report.ask(single.judged, report, station))
    )
    answer = report.to_json()
    if wanted:
        answer["views"] = plain({name.removeprefix("views."): report.views[name] for name in wanted})
    for told, finding in zip(answer["findings"], report.findings, strict=True):
        told["words"] = asdict(say(finding, report, translate=_))
    return answer
