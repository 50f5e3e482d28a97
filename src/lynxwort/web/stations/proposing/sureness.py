"""How sure a plan is: reckoned beside the server once the plan stands, told beside it."""

from dataclasses import replace
from typing import Any

from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from lynxwort.core.propose.draws import DRAWS
from lynxwort.core.propose.sure import sureness
from lynxwort.core.propose.wish import Wish
from lynxwort.core.report import Move, plain
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.present import small
from lynxwort.web.bench.services import Bench
from lynxwort.web.bench.slots import tunable_name
from lynxwort.web.evaluation import door
from lynxwort.web.jobs import worker
from lynxwort.web.jobs.models import Job
from lynxwort.web.stations.proposing.planning import lines, taken
from lynxwort.words import N_
from lynxwort.words.baseline import MEASURES

#: ways in which all may truly be that are looked at
COUNT = DRAWS
#: it is shown as nearly done when so many cases were looked at; most need fewer
MANY = 3000.0

#: what is right once a reading was answered, by its code
RIGHT = {
    "sag_rear_race": N_("The rear sags as it should"),
    "sag_front_race": N_("The front sags as it should"),
    "fill_up": N_("The fuel lasts"),
    "charge": N_("The charge lasts"),
}


def ask(plan: Job) -> Job:
    """The job that looks at a plan that stands; its key is the plan's."""
    data = (plan.result or {})["plan"]
    moves = [_plain(s["changes"]) for s in data["steps"]]
    box = data["from_box"] and _plain(data["from_box"]["changes"])
    return worker.ask("plan_sure", plan.input_key, plan.payload | {"steps": moves, "from_box": box}, again=True)


def _plain(changes: list[dict[str, Any]]) -> list[dict[str, Any]]:
    return [{"tunable": c["tunable"], "value": c["after"], "owned": c["owned"]} for c in changes]


@worker.register_stepping("plan_sure")
def compute(payload: dict[str, Any], step: worker.Step) -> dict[str, Any]:
    """Job: how sure it is, as plain data."""
    inputs, ranges = taken(payload)
    steps = [[Move(**m) for m in moves] for moves in payload["steps"]]
    box = payload.get("from_box")
    found = sureness(
        inputs,
        steps,
        Wish.model_validate(payload["wish"]),
        cache=door.stage_cache(),
        sensitivities=ranges,
        from_box=None if box is None else [Move(**m) for m in box],
        count=COUNT,
        beat=lambda looked: step(min(looked / MANY, 0.97), None),
    )
    return plain(found)  # type: ignore[no-any-return]


def _of_hundred(chance: float) -> str:
    """A chance as so many cases of a hundred."""
    number = round(100.0 * chance)
    return ngettext("%(n)s case of 100", "%(n)s cases of 100", number) % {"n": number}


def _named(bench: Bench, tunables: list[str]) -> str:
    return ", ".join(small(tunable_name(t, bench.inputs.bike)) for t in tunables)


def _line(bench: Bench, likely: dict[str, Any], units: Units | str) -> dict[str, Any]:
    """What may come true, with the figures of one case in which it does."""
    figures = bench.report.figures
    then = {n: replace(figures[n], value=v, low=None, high=None) for n, v in likely["figures"].items() if n in figures}
    return lines(bench, replace(bench.report, figures={**figures, **then}), [likely["finding"]], units)[0]


def page(bench: Bench, job: Job, units: Units | str) -> dict[str, Any]:
    """What is told of it: while it is reckoned how far it is."""
    if job.state in ("waiting", "running"):
        return {"reckoning": True, "percent": round(100 * job.progress), "draws": COUNT}
    found = job.result
    if job.state != "done" or not found:
        return {}
    told = [_line(bench, x, units) for x in found["likely"]]
    return {
        "sure": found,
        "clear": _of_hundred(found["clear_chance"]),
        "box": "" if found.get("box_chance") is None else _of_hundred(found["box_chance"]),
        "dry": _of_hundred(found["dry_chance"]) if found["dry_chance"] >= 0.005 else "",
        "likely": [
            line | {"words": small(line["words"]), "cases": _of_hundred(x["chance"])}
            for line, x in zip(told, found["likely"], strict=True)
        ],
        "first": [
            {
                "what": _(MEASURES[f["code"]][0]), "right": _(RIGHT[f["code"]]), "how": _(MEASURES[f["code"]][1]),
                "small": small(_(MEASURES[f["code"]][0])), "moves": _named(bench, f["tunables"]),
                "now": _of_hundred(f["now_chance"]), "then": _of_hundred(f["then_chance"]),
            }
            for f in found["first"]
        ],
        "vain": [{"what": _named(bench, v["tunables"]), "cases": _of_hundred(v["chance"])} for v in found["vain"]],
    }  # fmt: skip
