"""What the search comes to: sprockets one by one, one plan across all stations."""

import argparse
from dataclasses import asdict
from typing import TYPE_CHECKING, Any

from lynxwort.cli.files import read_document
from lynxwort.cli.tongue import _

if TYPE_CHECKING:
    from lynxwort.core.propose.wish import Wish


def add(verbs: Any) -> None:
    """Add the verbs to the command line."""
    verb = verbs.add_parser("sweep", help=_("sprockets, one by one, on the document's race"))
    verb.add_argument("file")
    verb.set_defaults(run=sprockets)
    verb = verbs.add_parser("propose", help=_("one plan across all stations, from the parts box first"))
    verb.add_argument("file")
    verb.add_argument(
        "--wish", metavar="FILE", help=_("JSON: purchases, money, work_s, changes, feel, care, school, leave")
    )
    verb.add_argument("--most", type=int, default=None, metavar="N", help=_("setups looked at before it is shortened"))
    verb.add_argument("--sure", action="store_true", help=_("how sure it is, too, and what to measure first"))
    verb.set_defaults(run=plan)
    verb = verbs.add_parser("season", help=_("what to buy for several races of one bike: documents of one setup"))
    verb.add_argument("files", nargs="+")
    verb.add_argument("--wish", metavar="FILE", help=_("JSON as for propose; two parts where purchases is not said"))
    verb.set_defaults(run=bought)


def sprockets(arguments: argparse.Namespace) -> Any:
    """Sprockets, one by one, on the document's race."""
    from lynxwort.core.evaluate import evaluate
    from lynxwort.core.model.inputs import load_inputs
    from lynxwort.core.sweep import equal_ratios, near_equal, proposal, schools, sweep

    inputs = load_inputs(read_document(arguments.file))
    rows = list(sweep(inputs))
    best = proposal(rows, evaluate(inputs, depth="full"))
    near, equal = near_equal(rows), equal_ratios(rows)
    pair = lambda row: None if row is None else {"front": row.front, "rear": row.rear}  # noqa: E731
    return {
        "rows": [
            asdict(r)
            | {
                "near_equal": (r.front, r.rear) in near,
                "equal_ratio": [list(p) for p in equal.get((r.front, r.rear), [])],
            }
            for r in rows
        ],
        "proposal": pair(best),
        "schools": {name: pair(row) for name, row in schools(rows).items()},
    }


def _wish(file: str | None, **usual: Any) -> "Wish":
    """The limits of a file, or as they are assumed. Raises InputRefused."""
    from pydantic import ValidationError

    from lynxwort.core.errors import InputRefused
    from lynxwort.core.model.refused import refusals_of
    from lynxwort.core.propose.wish import Wish

    try:
        return Wish.model_validate(usual | (read_document(file) if file else {}))
    except ValidationError as error:
        raise InputRefused(*refusals_of(error, "wish.", root=Wish)) from None


def bought(arguments: argparse.Namespace) -> Any:
    """The sets of parts, each with what every race makes of it. The first document's bike, setup, readings and box hold
    for all. Raises InputRefused.
    """
    from lynxwort.core.evaluate import evaluate
    from lynxwort.core.model.inputs import load_inputs
    from lynxwort.core.propose.season import PARTS, season
    from lynxwort.core.report import plain

    wish = _wish(arguments.wish, purchases=PARTS)
    first, *more = (load_inputs(read_document(file)) for file in arguments.files)
    there = [{"race": i.race, "courses": i.courses, "riders": i.riders} for i in more]
    races = [first, *(first.model_copy(update=away) for away in there)]
    ranges = [evaluate(inputs, depth="full").sensitivities for inputs in races]
    return plain(season(races, wish, sensitivities=ranges))


def plan(arguments: argparse.Namespace) -> Any:
    """The steps in the order of work, what each is for, what is left, and the setup as it is then. Raises
    InputRefused.
    """
    from lynxwort.core.cache import StageCache
    from lynxwort.core.errors import InputRefused, Refusal
    from lynxwort.core.evaluate import evaluate
    from lynxwort.core.model.inputs import load_inputs
    from lynxwort.core.propose.plan import MOST, moves_of, propose
    from lynxwort.core.report import plain

    if arguments.most is not None and not 1 <= arguments.most <= 5000:
        raise InputRefused(Refusal(path="most", code="out_of_bounds", low=1, high=5000))
    wish = _wish(arguments.wish)
    inputs, cache = load_inputs(read_document(arguments.file)), StageCache(size=400)
    ranges = evaluate(inputs, depth="full", cache=cache).sensitivities
    found = propose(inputs, wish, cache=cache, sensitivities=ranges, most=arguments.most or MOST)
    told = plain(found) | {"setup": found.setup.model_dump(mode="json", exclude_unset=True)}
    if not arguments.sure:
        return told
    from lynxwort.core.propose.sure import sureness

    steps = [moves_of(step.changes) for step in found.steps]
    box = None if found.from_box is None else moves_of(found.from_box.changes)
    return told | {"sure": plain(sureness(inputs, steps, wish, cache=cache, sensitivities=ranges, from_box=box))}
