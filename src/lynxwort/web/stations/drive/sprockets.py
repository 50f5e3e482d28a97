"""The sprocket table: swept by the worker, shown while it grows, sorted as one likes."""

from dataclasses import asdict
from typing import Any

from django.utils.translation import gettext as _

from lynxwort.core.figures import FIGURES
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.stations.range import view as stores
from lynxwort.core.sweep import Row, columns, combinations, equal_ratios, near_equal, proposal, schools, sweep
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.services import Bench
from lynxwort.web.bikes.models import Setup
from lynxwort.web.evaluation import assembled, door
from lynxwort.web.jobs import worker
from lynxwort.web.jobs.models import Job
from lynxwort.web.races.models import Race
from lynxwort.words.catalogue import FIGURE_NAMES
from lynxwort.words.formatting import value_text


def ask(bench: Bench, *, again: bool = False) -> Job:
    """The job that sweeps the draft; one per input. again: a cancelled one is asked for anew."""
    payload = {"setup": bench.setup.pk, "race": bench.race.pk, "values": bench.draft.values}
    return worker.ask("sweep", door.input_key(bench.inputs), payload, again=again)


@worker.register_stepping("sweep")
def compute(payload: dict[str, Any], step: worker.Step) -> list[dict[str, Any]]:
    """Job: the rows, stored as they come."""
    setup = Setup.objects.select_related("bike__garage").get(pk=payload["setup"])
    race = Race.objects.select_related("course", "rider").get(pk=payload["race"])
    inputs: Inputs = assembled.assemble(setup, race, payload["values"])
    total, rows = len(combinations(inputs)), []
    for row in sweep(inputs, door.stage_cache()):
        rows.append(asdict(row))
        step(len(rows) / total, rows)
    return rows


def table(bench: Bench, job: Job, preset: Units | str, sort: str) -> dict[str, Any]:
    """The rows in words, with near-equals, equal ratios, schools and the proposal."""
    rows = [Row(**r) for r in job.result or []]
    names = columns(bench.report.ask(stores.store).kind)
    names = tuple(n for n in names if bench.report.figures[n].status != "not_applicable")
    working = job.state in ("waiting", "running")
    near, equal = near_equal(rows), equal_ratios(rows)
    best = proposal(rows, bench.report) if rows and not working else None
    said = {(row.front, row.rear): name for name, row in schools(rows).items()} if rows else {}
    words = {"keep": _("as it is"), "down": _("next shorter"), "up": _("next taller")}

    def order(row: Row) -> tuple[bool, float]:
        value = row.ratio if sort == "ratio" or sort not in names else row.values[sort]
        value = 0.0 if value is None else value
        return False, -value if FIGURES.get(sort) is not None and FIGURES[sort].better == "higher" else value

    def shown(row: Row) -> dict[str, Any]:
        pair = (row.front, row.rear)
        return {
            "front": row.front,
            "rear": row.rear,
            "owned": row.owned,
            "kept": row.kept,
            "ratio": f"{row.ratio:.3f}",
            "cells": [
                (
                    n,
                    "" if row.values[n] is None else value_text(row.values[n] or 0.0, FIGURES[n].kind, preset),
                    row.values[n],
                )
                for n in names
            ],
            "near": pair in near,
            "equal": ", ".join(f"{f}/{r}" for f, r in equal.get(pair, [])),
            "school": words.get(said.get(pair, ""), ""),
            "proposed": best is not None and pair == (best.front, best.rear),
            "moves": f'[["front_sprocket_teeth", {row.front}], ["rear_sprocket_teeth", {row.rear}]]',
        }

    return {
        "job": job,
        "working": working,
        "percent": round(100 * job.progress),
        "names": [(n, _(FIGURE_NAMES[n])) for n in names],
        "sort": sort,
        "rows": [shown(r) for r in sorted(rows, key=order)],
        "proposal": best,
    }
