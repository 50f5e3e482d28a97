"""Command line: JSON in, JSON out.

    python -m lynxwort evaluate FILE.json | --example | --schema
    python -m lynxwort sweep FILE.json
    python -m lynxwort course FILE.gpx --heights barometer|satellite|terrain

Exit 0, or 2 with {"errors": [{path, code, low, high, unit, message}]} on standard output.
"""

import argparse
import json
import sys
from dataclasses import asdict
from pathlib import Path
from typing import Any

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.words.refusals import explain


def _print(data: Any) -> None:
    json.dump(data, sys.stdout, indent=1, allow_nan=False)
    sys.stdout.write("\n")


def read_document(path: str) -> Any:
    """The document in a file. Raises InputRefused (not_json)."""
    try:
        return json.loads(Path(path).read_bytes())
    except (ValueError, RecursionError) as error:
        raise InputRefused(Refusal(path="", code="not_json", message=str(error))) from None


def evaluate_verb(arguments: argparse.Namespace) -> Any:
    from lynxwort.core.evaluate import evaluate
    from lynxwort.core.model.inputs import Inputs, load_inputs
    from lynxwort.words.catalogue import say

    if arguments.schema:
        return Inputs.model_json_schema()
    if arguments.example:
        from lynxwort.demo.scenario import COURSE_KEY, document, track

        return document() | {"courses": {COURSE_KEY: track().model_dump(mode="json")}}
    if not arguments.file:
        raise InputRefused(Refusal(path="", code="missing"))
    report = evaluate(load_inputs(read_document(arguments.file)), depth="full")
    answer = report.to_json()
    for plain, finding in zip(answer["findings"], report.findings, strict=True):
        plain["words"] = asdict(say(finding, report))
    return answer


def course_verb(arguments: argparse.Namespace) -> Any:
    from lynxwort.core.course.gpx import read_gpx
    from lynxwort.core.course.prepare import lay_line, prepare_course
    from lynxwort.core.model.race import GROUNDS

    track = read_gpx(Path(arguments.file).read_bytes(), heights=arguments.heights)
    line = lay_line(track)
    course = prepare_course(line, (), ())
    return {
        "name": track.name,
        "heights": track.heights,
        "points": len(track.latitude_deg),
        "gaps_m": list(line.gaps_m),
        "distance_m": line.length_m,
        "climb_m": course.climb_m if track.heights != "none" else None,
        "climb_low_m": course.climb_low_m,
        "climb_high_m": course.climb_high_m,
        "raw_climb_m": course.raw_climb_m,
        "lowest_m": float(course.height_m.min()),
        "highest_m": float(course.height_m.max()),
        "ground": [{"from_m": 0.0, "to_m": line.length_m, "ground": GROUNDS[int(course.ground[0])]}],
    }


def sweep_verb(arguments: argparse.Namespace) -> Any:
    from lynxwort.core.evaluate import evaluate
    from lynxwort.core.model.inputs import load_inputs
    from lynxwort.core.sweep import equal_ratios, near_equal, proposal, schools, sweep

    inputs = load_inputs(read_document(arguments.file))
    rows = list(sweep(inputs))
    best = proposal(rows, evaluate(inputs, depth="full"))
    near, equal = near_equal(rows), equal_ratios(rows)
    pair = lambda row: None if row is None else {"front": row.front, "rear": row.rear}  # noqa: E731
    return {
        "rows": [asdict(r) | {"near_equal": (r.front, r.rear) in near, "equal_ratio": [list(p) for p in equal.get((r.front, r.rear), [])]} for r in rows],
        "proposal": pair(best),
        "schools": {name: pair(row) for name, row in schools(rows).items()},
    }


def main(argv: list[str] | None = None) -> int:
    """Run one verb; see the module's head."""
    parser = argparse.ArgumentParser(prog="python -m lynxwort", description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    verbs = parser.add_subparsers(dest="verb", required=True)
    one = verbs.add_parser("evaluate", help="judge one document")
    one.add_argument("file", nargs="?")
    one.add_argument("--example", action="store_true", help="print the demo's document")
    one.add_argument("--schema", action="store_true", help="print the JSON Schema of the document")
    one.set_defaults(run=evaluate_verb)
    two = verbs.add_parser("course", help="read a GPX course")
    two.add_argument("file")
    two.add_argument("--heights", choices=("barometer", "satellite", "terrain"), required=True)
    two.set_defaults(run=course_verb)
    three = verbs.add_parser("sweep", help="sprockets, one by one, on the document's race")
    three.add_argument("file")
    three.set_defaults(run=sweep_verb)
    arguments = parser.parse_args(argv)
    try:
        _print(arguments.run(arguments))
    except InputRefused as refused:
        _print({"errors": [asdict(r) | {"message": explain(r)} for r in refused.refusals]})
        return 2
    except OSError as error:
        _print({"errors": [asdict(Refusal(path="", code="unreadable", message=str(error)))]})
        return 2
    return 0


if __name__ == "__main__":
    sys.exit(main())
