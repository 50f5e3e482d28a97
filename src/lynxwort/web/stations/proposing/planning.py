"""A plan across all stations: worked out beside the server, shown step by step, taken into the draft as one change."""

from typing import Any

from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.propose.levels import is_elsewhere
from lynxwort.core.propose.plan import Plan, by_place, leans, propose
from lynxwort.core.propose.single import moved
from lynxwort.core.propose.tries import Tried
from lynxwort.core.propose.wish import Wish
from lynxwort.core.report import Finding, Leaves, Move, Report, plain
from lynxwort.core.tunables import is_of_mixture, tunables_of
from lynxwort.core.units.convert import Units
from lynxwort.web.bench import registry
from lynxwort.web.bench.present import small
from lynxwort.web.bench.ribbon import move_name
from lynxwort.web.bench.services import Bench
from lynxwort.web.bench.slots import tunable_name, tunable_text
from lynxwort.web.bikes.models import Sensitivity, Setup
from lynxwort.web.evaluation import assembled, door
from lynxwort.web.jobs import worker
from lynxwort.web.jobs.models import Job
from lynxwort.web.races.models import Race
from lynxwort.words.catalogue import FIGURE_NAMES, say
from lynxwort.words.choices import PLACE_NAMES
from lynxwort.words.formatting import plain_number, value_text
from lynxwort.words.fuelling import CAUTIONS

#: a plan is shown as nearly done when so many setups were looked at; most need fewer
MANY = 320.0
#: of a chore's name [letters], and the least that it takes [s]: what the document takes
LONGEST_CHORE, LEAST_CHORE_S = 60, 300.0
#: plans of a bench that are kept beside the present one
KEPT = 12


def ask(bench: Bench, wish: Wish, *, again: bool = False) -> Job:
    """The job that plans for the draft; one per input and wish, and one at a time for a bench: what was asked for
    before is not waited for any more. again: a cancelled one is asked for anew.
    """
    payload = {
        "setup": bench.setup.pk, "race": bench.race.pk, "values": bench.draft.values,
        "wish": wish.model_dump(mode="json", exclude_unset=True), "ridden": door.ridden_key(bench.kept_inputs),
    }  # fmt: skip
    # a check of the gate that fails since makes another plan; what is put on the list of the week does not
    race = bench.inputs.race.model_copy(update={"week": None})
    key = f"{door.input_key(bench.inputs.model_copy(update={'race': race}))[:40]}{wish.digest()[:24]}"
    payload["before"] = _made_before(bench, key)
    if is_new("plan", key) or again:
        for kind in ("plan", "plan_sure"):
            let_go(bench, kind, but=key)
    return worker.ask("plan", key, payload, again=again)


def _made_before(bench: Bench, key: str) -> list[dict[str, Any]]:
    """Moves of the newest plan of a bench within the same limits, made for another document."""
    mine = Job.objects.filter(kind="plan", payload__setup=bench.setup.pk, payload__race=bench.race.pk, state="done")
    last = mine.filter(input_key__endswith=key[40:]).exclude(input_key=key).order_by("-pk").first()
    moves = moves_of(last.result["plan"]) if last is not None and last.result else []
    return [{"tunable": m.tunable, "value": m.value} for m in moves]


def is_new(kind: str, key: str) -> bool:
    """Whether a job was never asked for: a window that only looks how far its own is must not stop what another one
    asked for since.
    """
    return not Job.objects.filter(kind=kind, input_key=key).exists()


def let_go(bench: Bench, kind: str, *, but: str) -> None:
    """What was asked for before at a bench is not waited for any more, and of what was done the oldest goes."""
    mine = Job.objects.filter(kind=kind, payload__setup=bench.setup.pk, payload__race=bench.race.pk)
    others = mine.exclude(input_key=but)
    for job in others.filter(state="running"):
        worker.cancel(job)
    others.filter(state="waiting").delete()
    ended = others.exclude(state="running").order_by("-pk").values_list("pk", flat=True)
    Job.objects.filter(pk__in=list(ended[KEPT:])).delete()


def taken(payload: dict[str, Any]) -> tuple[Inputs, dict[str, tuple[float, float]]]:
    """The document of a job, and the ranges of what rests on the ride, whose job goes before."""
    setup = Setup.objects.select_related("bike__garage").get(pk=payload["setup"])
    race = Race.objects.select_related("course", "rider").get(pk=payload["race"])
    row = Sensitivity.objects.filter(input_key=payload["ridden"]).first()
    ranges = {k: (v[0], v[1]) for k, v in (row.values if row else {}).items()}
    return assembled.assemble(setup, race, payload["values"]), ranges


@worker.register_stepping("plan")
def compute(payload: dict[str, Any], step: worker.Step) -> dict[str, Any]:
    """Job: the plan as plain data; until it is there how many setups were looked at, the best so far, and the first
    whole plan once there is one.
    """
    inputs, ranges = taken(payload)
    stands: dict[str, Any] = {}

    def beat(looked: int, best: Tried | None) -> None:
        so_far = [] if best is None else [c.tunable for c in best.changes]
        step(min(looked / MANY, 0.97), {"looked": looked, "so_far": so_far} | stands)

    def first(plan: Plan) -> None:
        stands["first"] = _kept(plan)

    wish = Wish.model_validate(payload["wish"])
    found = propose(
        inputs,
        wish,
        cache=door.stage_cache(),
        sensitivities=ranges,
        beat=beat,
        first=first,
        before=[Move(**m) for m in payload["before"]],
    )
    return {"looked": found.looked, "plan": _kept(found)}


def _kept(plan: Plan) -> dict[str, Any]:
    """A plan as plain data."""
    return plain(plan) | {"setup": None}


def standing(job: Job) -> dict[str, Any] | None:
    """The plan that can be taken: the one that was found, or the first where it was stopped before that."""
    result = job.result or {}
    return result.get("plan") or (None if job.state in worker.AT_WORK else result.get("first"))


def is_first(job: Job) -> bool:
    """Whether what stands is the first plan, not the one that was found."""
    return not (job.result or {}).get("plan")


def finding_of(data: dict[str, Any]) -> Finding:
    """A finding that was kept as plain data."""
    moves = tuple(tuple(Move(**m) for m in p) for p in data["proposals"])
    more = {"figures": tuple(data["figures"]), "proposals": moves, "leaves": tuple(Leaves(**x) for x in data["leaves"])}
    return Finding(**data | more)


def _changes(bench: Bench, changes: list[dict[str, Any]], units: Units | str) -> list[dict[str, Any]]:
    """Moves in words."""
    bike, found = bench.inputs.bike, []
    for c in changes:
        name = move_name(bench.report, c["tunable"])
        before, after = (tunable_text(bike, c["tunable"], c[k], units) for k in ("before", "after"))
        tag = "" if c["owned"] is None else _("in the box") if c["owned"] else _("buy")
        price = c.get("cost")
        tag = tag if price is None else f"{tag or _('costs')} {money_text(price)}"
        found.append({"name": name, "before": before, "after": after, "tag": tag, "buy": c["owned"] is False})
    return found


def lines(bench: Bench, report: Report, findings: list[dict[str, Any]], units: Units | str) -> list[dict[str, Any]]:
    """Findings as lines, each with the way to where it stands."""
    found = []
    for f in map(finding_of, findings):
        words = say(f, report, units, _)
        room = registry.room_of(f.station, f.code, bench.inputs.bike)
        path = f"{room.station}/{room.path}" if room else f"{f.station}/"
        found.append(
            {
                "words": words.answer,
                "elsewhere": is_elsewhere(f),
                "severity": f.severity,
                "path": path,
                "caution": words.caution,
            }
        )
    return found


def money_text(money: float) -> str:
    """Money as it is told: of a currency nothing is known."""
    return plain_number(money, 0 if abs(money - round(money)) < 0.005 else 2)


def _time(work_s: float, units: Units | str) -> str:
    """How long work takes: in minutes while it is short."""
    return value_text(work_s, "minutes" if work_s < 5400.0 else "engine_hours", units)


def moves_of(data: dict[str, Any], steps: list[int] | None = None) -> list[Move]:
    """Moves of a plan, or of some of its steps."""
    chosen = [s for i, s in enumerate(data["steps"]) if steps is None or i in steps]
    return _moves([c for s in chosen for c in s["changes"]])


def moves_of_way(data: dict[str, Any], which: int) -> list[Move]:
    """Moves of another way that was found; none where there is no such way."""
    ways = _other_ways(data)
    return _moves(ways[which]["changes"]) if 0 <= which < len(ways) else []


def _moves(changes: list[dict[str, Any]]) -> list[Move]:
    return [Move(tunable=c["tunable"], value=c["after"]) for c in changes]


def _other_ways(data: dict[str, Any]) -> list[dict[str, Any]]:
    return [*data["shorter"], *([data["from_box"]] if data["from_box"] else [])]


def work_of(bench: Bench, data: dict[str, Any], steps: list[int]) -> list[dict[str, Any]]:
    """The work of some steps as chores of the race's week, one for each place that is opened: the week lays chores in
    an order of its own. They name no value: what is set is said by the card alone, of what is kept. What is bolted on
    and off is none of them: Kit's build says it; nor are the stops, which are made in the race.
    """
    bike, found = bench.inputs.bike, []
    places = by_place(bench.inputs, moves_of(data, steps))
    for place, (tunables, takes_s) in places.items():
        if place not in ("items", "stops"):
            name = f"{_(PLACE_NAMES[place])}: {', '.join(small(tunable_name(t, bike)) for t in tunables)}"
            name = name if len(name) <= LONGEST_CHORE else f"{name[: LONGEST_CHORE - 1]}…"
            found.append({"name": name, "takes_s": max(takes_s, LEAST_CHORE_S)})
    return found


def check(bench: Bench, moves: list[Move]) -> None:
    """Raises InputRefused where what is left out would leave some range of the throttle leaner."""
    if leans(bench.report, bench.inputs, moves, door.stage_cache()):
        raise InputRefused(Refusal(path="steps", code="leaner_without"))


def _steps(bench: Bench, data: dict[str, Any], units: Units | str) -> list[dict[str, Any]]:
    found = []
    for i, step in enumerate(data["steps"]):
        worse = [small(_(FIGURE_NAMES[c["figure"]])) for c in step["worse"]]
        settles = [x | {"words": small(x["words"])} for x in lines(bench, bench.report, step["settles"], units)]
        cautions = [x["caution"] for x in settles if x["caution"]]
        # a jet or a trim is never turned without its caution; one that makes it richer has that of its finding
        of_mixture = any(is_of_mixture(c["tunable"]) for c in step["changes"])
        if of_mixture and not any(f["code"].startswith("too_lean_") for f in step["settles"]):
            cautions.append(_(CAUTIONS["rich_high_up"]))
        found.append(
            {
                "index": i, "place": _(PLACE_NAMES[step["place"]]), "changes": _changes(bench, step["changes"], units),
                "work": _time(step["work_s"], units) if step["work_s"] else "",
                "settles": settles, "worse": ", ".join(worse),
                "needed": step["needed"], "waits": step.get("waits", False),
                "cautions": list(dict.fromkeys(cautions)),
            }
        )  # fmt: skip
    return found


def _ways(bench: Bench, data: dict[str, Any], units: Units | str) -> list[dict[str, Any]]:
    """With fewer changes, and without buying."""
    found = []
    for i, way in enumerate(_other_ways(data)):
        count, levels = way["steps"], way["levels"]
        name = ngettext("%(n)s step", "%(n)s steps", count) % {"n": count}
        moved_ = (f"{c['name']} {c['before']} → {c['after']}" for c in _changes(bench, way["changes"], units))
        found.append(
            {
                "index": i, "name": _("From the box alone") if way is data["from_box"] else name,
                "work": _time(way["cost"]["work_s"], units), "changes": "; ".join(moved_),
                "lean": levels["lean"] > 0, "act": levels["act"], "look": levels["look"],
            }
        )  # fmt: skip
    return found


def page(bench: Bench, job: Job, units: Units | str) -> dict[str, Any]:
    """The plan while it is worked out and after."""
    result = job.result or {}
    working = job.state in worker.AT_WORK
    shown: dict[str, Any] = {
        "job": job, "working": working, "looked": result.get("looked", 0), "percent": round(100 * job.progress),
    }  # fmt: skip
    data = result.get("first") if working else standing(job)
    if data is None:
        known = [t for t in result.get("so_far") or [] if t in tunables_of(bench.inputs.bike)]
        return shown | {"so_far": ", ".join(small(tunable_name(t, bench.inputs.bike)) for t in known)}
    after = door.report_of(
        assembled.with_setup(bench.inputs, moved(bench.inputs.setup, moves_of(data))), bench.sensitivities
    )
    left, new = (lines(bench, after, data[kind], units) for kind in ("left", "new"))
    asking = [line for line in (*new, *left) if not line["elsewhere"]]
    for line, given in zip(asking, data["given_up"], strict=True):
        line["instead"] = [small(x["words"]) for x in lines(bench, after, given["instead"] or [], units)]
        if reckoned := given.get("shown"):
            line["shown"] = {k: value_text(v, "share", units) for k, v in reckoned.items()}
    return shown | {
        "plan": data,
        "first": is_first(job),
        "steps": _steps(bench, data, units),
        "work": _time(data["cost"]["work_s"], units),
        "purchases": data["cost"]["purchases"],
        "money": money_text(data["cost"]["money"]) if data["cost"]["money"] else "",
        "unpriced": data["cost"].get("unpriced", 0),
        "settled": lines(bench, bench.report, data["settled"], units),
        "left": [line for line in left if not line["elsewhere"]],
        "new": new,
        "never": any(given["instead"] is None for given in data["given_up"]),
        "others": sum(line["elsewhere"] for line in left),
        "worst": "act" if "act" in {x["severity"] for x in asking} else "look" if asking else "ok",
        "ways": _ways(bench, data, units),
    }
