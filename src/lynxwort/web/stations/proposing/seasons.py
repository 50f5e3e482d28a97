"""What to buy for several races: worked out beside the server, shown race by race, put on the list of what to buy."""

from typing import Any

from django.db import transaction
from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from lynxwort.core.model.inputs import Inputs
from lynxwort.core.model.parts import FITTED_KINDS
from lynxwort.core.propose.levels import SAFETY, is_elsewhere
from lynxwort.core.propose.season import season
from lynxwort.core.propose.single import moved
from lynxwort.core.propose.wish import Wish
from lynxwort.core.report import Move, plain
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.present import small
from lynxwort.web.bench.services import Bench
from lynxwort.web.bench.slots import tunable_text
from lynxwort.web.bikes.models import Sensitivity, Setup
from lynxwort.web.evaluation import assembled, door
from lynxwort.web.jobs import worker
from lynxwort.web.jobs.models import Job
from lynxwort.web.parts import services as parts
from lynxwort.web.races.models import Race
from lynxwort.web.stations.proposing.planning import finding_of, is_new, let_go, lines, money_text
from lynxwort.words.catalogue import tunable_word

#: setups that are looked at for each race, about; it is shown as nearly done by then
MANY = 420.0


def others(bench: Bench) -> list[Race]:
    """Other races of the garage, those of the same rider first."""
    rows = Race.objects.filter(garage=bench.race.garage).exclude(pk=bench.race.pk).select_related("rider")
    return sorted(rows, key=lambda r: (r.rider_id != bench.race.rider_id, r.start, r.pk))


def choices(bench: Bench) -> list[tuple[str, str]]:
    """Other races, with who rides them."""
    return [(str(r.pk), f"{r.name} · {r.rider.name}") for r in others(bench)]


def ticked(bench: Bench) -> dict[str, Any]:
    """Those that are ticked at first: of the same rider."""
    return {"race": [str(r.pk) for r in others(bench) if r.rider_id == bench.race.rider_id]}


def ask(bench: Bench, races: list[int], wish: Wish, *, again: bool = False) -> Job:
    """The job for the draft, this race and others; one per input and wish, and one at a time for a bench. Raises
    InputRefused where a race cannot be ridden with it, its path naming the race.
    """
    rows = [bench.race, *(r for r in others(bench) if r.pk in races)]
    payload = {
        "setup": bench.setup.pk, "race": bench.race.pk, "races": [r.pk for r in rows], "values": bench.draft.values,
        "wish": wish.model_dump(mode="json", exclude_unset=True),
    }  # fmt: skip
    digest = door.digest_of((document for _name, document in _documents(payload)), payload["races"])
    key = f"{digest[:40]}{wish.digest()[:24]}"
    if is_new("season", key) or again:
        let_go(bench, "season", but=key)
    return worker.ask("season", key, payload, again=again)


def _documents(payload: dict[str, Any]) -> list[tuple[str, Inputs]]:
    """The documents of a job, race by race, without what is planned for their weeks. Raises InputRefused."""
    setup = Setup.objects.select_related("bike__garage").get(pk=payload["setup"])
    rows = {r.pk: r for r in Race.objects.filter(pk__in=payload["races"]).select_related("course", "rider")}
    found = []
    for pk in payload["races"]:
        inputs = assembled.assemble(setup, rows[pk], payload["values"])
        race = inputs.race.model_copy(update={"week": None})
        found.append((rows[pk].name, inputs.model_copy(update={"race": race})))
    return found


@worker.register_stepping("season")
def compute(payload: dict[str, Any], step: worker.Step) -> dict[str, Any]:
    """Job: the sets of parts as plain data; until they are there how many setups were looked at."""
    named = _documents(payload)
    documents = [inputs for _name, inputs in named]
    keys = [door.ridden_key(inputs) for inputs in documents]
    known = {row.input_key: row.values for row in Sensitivity.objects.filter(input_key__in=keys)}
    ranges = []
    for key, inputs in zip(keys, documents, strict=True):
        step(0.0, {"looked": 0})
        ranges.append(
            {k: (v[0], v[1]) for k, v in known[key].items()} if key in known else door.sensitivities_of(inputs)
        )
    most = MANY * len(documents)
    found = season(
        documents,
        Wish.model_validate(payload["wish"]),
        sensitivities=ranges,
        beat=lambda looked: step(min(looked / most, 0.97), {"looked": looked}),
    )
    return {"looked": found.looked, "season": plain(found), "names": [name for name, _inputs in named]}


def _part(bench: Bench, part: dict[str, Any], units: Units | str) -> str:
    """A part in words: what it is and which."""
    bike = bench.inputs.bike
    name = small(_(tunable_word(part["tunable"], bike)))
    said = f"{name} {tunable_text(bike, part['tunable'], part['value'], units)}"
    return (
        said
        if part["cost"] is None
        else _("%(part)s for %(money)s") % {"part": said, "money": money_text(part["cost"])}
    )


def _said(bench: Bench, inputs: Inputs, alone: dict[str, Any], at: dict[str, Any], units: Units | str) -> list[str]:
    """What a set settles in a race, with the numbers of that race as it is set up from the box alone."""
    if not at["settled"]:
        return []
    setup = moved(inputs.setup, [Move(tunable=c["tunable"], value=c["after"]) for c in alone["changes"]])
    report = door.report_of(assembled.with_setup(inputs, setup))
    return [small(line["words"]) for line in lines(bench, report, at["settled"], units)]


def _at(at: dict[str, Any], name: str, race: int, settled: list[str]) -> dict[str, Any]:
    """One race with a set of parts."""
    left = [f for f in map(finding_of, at["left"]) if not is_elsewhere(f)]
    worst = "act" if any(f.severity == "act" for f in left) else "look" if left else "ok"
    safety = sum(f.code in SAFETY for f in left)
    count = ngettext("%(n)s finding left", "%(n)s findings left", len(left)) % {"n": len(left)}
    return {
        "name": name, "race": race, "worst": worst, "count": count if left else _("all settled"), "safety": safety,
        "lean": at["levels"]["lean"] > 0, "settled": settled,
    }  # fmt: skip


def page(bench: Bench, job: Job, units: Units | str) -> dict[str, Any]:
    """What to buy while it is worked out and after."""
    result = job.result or {}
    shown: dict[str, Any] = {
        "job": job, "working": job.state in ("waiting", "running"), "looked": result.get("looked", 0),
        "percent": round(100 * job.progress), "asked_races": len(job.payload["races"]),
    }  # fmt: skip
    data = result.get("season")
    if shown["working"] or data is None:
        return shown
    ways, alone = [], data["ways"][0]["races"]
    documents = [inputs for _name, inputs in _documents(job.payload)]
    for i, way in enumerate(data["ways"]):
        named = [_part(bench, p, units) for p in way["parts"]]
        for_races = (", ".join(result["names"][r] for r in p["races"]) for p in way["parts"])
        settled = [_said(bench, *of, units) for of in zip(documents, alone, way["races"], strict=True)]
        rows = zip(way["races"], result["names"], job.payload["races"], settled, strict=True)
        ways.append(
            {
                "index": i,
                "named": ", ".join(named),
                "parts": [{"name": n, "races": r} for n, r in zip(named, for_races, strict=True)],
                "money": money_text(way["money"]) if way["money"] else "",
                "unpriced": way["unpriced"],
                "races": [_at(*row) for row in rows],
                "listed": any(p["tunable"] in FITTED_KINDS for p in way["parts"]),
            }
        )
    return shown | {"ways": ways, "best": ways[-1], "smallest": ways[1] if len(ways) > 1 else None}


@transaction.atomic
def to_buy(bench: Bench, data: dict[str, Any], which: int) -> int:
    """The parts of a set onto the list of what to buy; how many are new there."""
    if not 0 < which < len(data["ways"]):
        return 0
    found = 0
    for part in data["ways"][which]["parts"]:
        if part["tunable"] in FITTED_KINDS:
            document = {"kind": part["tunable"], "value": part["value"], "condition": parts.SHOP.value}
            found += parts.put(bench.race.garage, parts.checked(document))[1]
    return found
