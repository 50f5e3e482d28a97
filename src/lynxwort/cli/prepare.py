"""Getting ready for a race: the build in its order, the spares that are worth their grams, the week worked backward."""

import argparse
from collections.abc import Mapping
from dataclasses import asdict
from typing import Any

from lynxwort.cli.files import read_document
from lynxwort.cli.tongue import _


def add(verbs: Any) -> None:
    """Add the verbs to the command line."""
    for name, what in (
        ("build", _("the build: money, mass, work, its order")),
        ("spares", _("which spares are carried")),
    ):
        verb = verbs.add_parser(name, help=what)
        verb.add_argument("file")
        verb.set_defaults(run=run, verb=name)
    verb = verbs.add_parser("week", help=_("the week before the race, worked backward from it"))
    verb.add_argument("file")
    verb.add_argument(
        "--today", metavar="DAY", default="", help=_("a day like 2027-04-02: what should be ordered by now")
    )
    verb.set_defaults(run=week)


def _plain(data: Any) -> Any:
    """What JSON can hold."""
    if isinstance(data, Mapping):
        return {k: _plain(v) for k, v in data.items()}
    if isinstance(data, tuple | list):
        return [_plain(v) for v in data]
    return data.model_dump(mode="json") if hasattr(data, "model_dump") else data


def run(arguments: argparse.Namespace) -> Any:
    """The figures of build or spares with what they are made of. Raises InputRefused."""
    from lynxwort.core.evaluate import evaluate
    from lynxwort.core.model.inputs import load_inputs
    from lynxwort.core.stations.kit import building

    report = evaluate(load_inputs(read_document(arguments.file)), need=("kit.figures",))
    figures = {
        k: v for k, v in report.to_json()["figures"].items() if k.startswith(f"kit.{arguments.verb}.")
    }  # fmt: skip
    if arguments.verb == "spares":
        return {"figures": figures} | _plain(asdict(report.ask(building.pack)))
    needs = [
        {"items": n.wanted.items, "need": n.wanted.need, "why": n.wanted.why, "on": [i.id for i in n.on],
         "overruled": n.overruled}
        for n in report.ask(building.race_needs)
    ]  # fmt: skip
    return {"figures": figures, "needs": needs} | _plain(asdict(report.ask(building.build)))


def week(arguments: argparse.Namespace) -> Any:
    """The jobs in their order with evenings, days to order by, what is in hand; the same without what comes too late.
    Raises InputRefused.
    """
    from lynxwort.core.errors import InputRefused, Refusal
    from lynxwort.core.evaluate import evaluate
    from lynxwort.core.model.days import checked_day
    from lynxwort.core.model.inputs import load_inputs
    from lynxwort.core.stations.baseline.asked import week_seen

    try:
        checked_day(arguments.today or None)
    except ValueError:
        raise InputRefused(Refusal(path="today", code="not_a_day")) from None
    report = evaluate(load_inputs(read_document(arguments.file)), need=("baseline",))
    seen = report.ask(week_seen, arguments.today)
    figures = {k: f for k, f in report.to_json()["figures"].items() if k.startswith("service.week.")}
    return {"figures": figures} | asdict(seen) | {"passed": sorted(seen.passed)}
