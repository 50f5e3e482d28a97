"""The command line put together: a verb a module."""

import argparse
import json
import sys
from dataclasses import asdict
from typing import Any

from lynxwort import __version__
from lynxwort.cli import (
    course,
    dyno,
    evaluate,
    installation,
    kit,
    laps,
    log,
    prepare,
    proposals,
    ride,
    service,
    stack,
    stops,
    trial,
)
from lynxwort.cli.tongue import ABOUT, _, speak
from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.words.refusals import explain


def _print(data: Any) -> None:
    json.dump(data, sys.stdout, indent=1, allow_nan=False)
    sys.stdout.write("\n")


def main(argv: list[str] | None = None) -> int:
    """Run one verb; see the package's head. Raises SystemExit where a verb of the installation ends the process."""
    speak()
    parser = argparse.ArgumentParser(
        prog="lynxwort", description=_(ABOUT), formatter_class=argparse.RawDescriptionHelpFormatter
    )
    parser.add_argument("--version", action="version", version=f"%(prog)s {__version__}")
    verbs = parser.add_subparsers(dest="verb", required=True)
    for verb in (
        evaluate,
        course,
        proposals,
        stops,
        stack,
        ride,
        log,
        dyno,
        kit,
        prepare,
        trial,
        laps,
        service,
        installation,
    ):
        verb.add(verbs)
    arguments = parser.parse_args(argv)
    try:
        answer = arguments.run(arguments)
        if answer is not None:
            _print(answer)
    except InputRefused as refused:
        _print({"errors": [asdict(r) | {"message": explain(r, translate=_)} for r in refused.refusals]})
        return 2
    except OSError as error:
        _print({"errors": [asdict(Refusal(path="", code="unreadable", message=str(error)))]})
        return 2
    return 0
