"""The sprocket table: swept by the worker, shown while it grows, sorted as one likes."""

from dataclasses import asdict
from typing import Any
from urllib.parse import urlencode

from django import forms
from django.utils.safestring import SafeString
from django.utils.translation import gettext as _

from lynxwort.core.figures import FIGURES
from lynxwort.core.model.base import field_facts
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.model.race import RefuelPoint, Zone
from lynxwort.core.stations.range import view as stores
from lynxwort.core.sweep import Row, columns, combinations, equal_ratios, meets, near_equal, proposal, schools, sweep
from lynxwort.core.units.convert import Units, shown_values
from lynxwort.web.bench.services import Bench
from lynxwort.web.bikes.models import Setup
from lynxwort.web.evaluation import assembled, door
from lynxwort.web.jobs import worker
from lynxwort.web.jobs.models import Job
from lynxwort.web.races.models import Race
from lynxwort.web.ui.drawings import charts
from lynxwort.web.ui.forms import QuantityField
from lynxwort.words.catalogue import FIGURE_NAMES
from lynxwort.words.formatting import plain_number, unit_text, value_text

SHORT, SHAKES = "drive.metres_short", "drive.time_over_shake"


def ask(bench: Bench, *, again: bool = False) -> Job:
    """The job that sweeps the draft; one per input. again: a cancelled one is asked for anew."""
    payload = {"setup": bench.setup.pk, "race": bench.race.pk, "values": bench.draft.values}
    return worker.ask("sweep", door.ridden_key(bench.inputs), payload, again=again)


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


class WishForm(forms.Form):
    """A top speed one would like to have, and how long at most it may shake."""

    def __init__(self, *args: Any, preset: Units | str, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["wish"] = QuantityField(
            field_facts(Zone, "limit_m_per_s"), preset, label=_("Wished top speed"), required=False
        )
        self.fields["shake"] = QuantityField(
            field_facts(RefuelPoint, "fixed_s"), preset, label=_("Shaking, a lap at most"), required=False
        )
        self.fields["shake"].assumed = ""  # type: ignore[attr-defined]

    @property
    def query(self) -> str:
        """What was typed, as an address carries it."""
        return urlencode({name: self.data.get(name, "") for name in self.fields})


def _field(rows: list[Row], best: Row | None, wish_m_per_s: float | None, preset: Units | str) -> SafeString | str:
    """The pairs as a field; empty where nothing crawls on idle, and before there is more than one."""
    drawn = [r for r in rows if r.values["drive.crawl_speed"] is not None and r.values["drive.top_speed"] is not None]
    if len(drawn) < 2:
        return ""

    def shown(row: Row, name: str) -> float:
        return float(shown_values(row.values[name] or 0.0, FIGURES[name].kind, preset))

    most = {n: max([r.values.get(n) or 0.0 for r in drawn] + [1e-9]) for n in (SHORT, SHAKES)}

    def said(row: Row) -> str:
        names = [n for n in ("drive.top_speed", "drive.crawl_speed", SHORT) if row.values[n] is not None]
        told = [f"{_(FIGURE_NAMES[n])} {value_text(row.values[n] or 0.0, FIGURES[n].kind, preset)}" for n in names]
        return f"{row.front}/{row.rear}: {', '.join(told)}"

    pairs = [
        charts.Pair(
            name=f"{r.front}/{r.rear}",
            crawl=shown(r, "drive.crawl_speed"),
            top=shown(r, "drive.top_speed"),
            short=(r.values[SHORT] or 0.0) / most[SHORT],
            shaking=(r.values.get(SHAKES) or 0.0) / most[SHAKES],
            owned=r.owned,
            kept=r.kept,
            proposed=best is not None and (r.front, r.rear) == (best.front, best.rear),
            said=said(r),
        )
        for r in drawn
    ]
    unit = unit_text("speed", preset)
    return charts.field_of_pairs(
        pairs,
        None if wish_m_per_s is None else float(shown_values(wish_m_per_s, "speed", preset)),
        words={
            "x": _("crawl on idle, %(u)s") % {"u": unit},
            "y": _("top speed, %(u)s") % {"u": unit},
            "wish": _("wished"),
        },
        label=_("Pairs of sprockets by crawl and top speed; each leads to its row"),
    )


def table(bench: Bench, job: Job, preset: Units | str, sort: str, wish: WishForm) -> dict[str, Any]:
    """The pairs as a field and in words, with near-equals, equal ratios, schools and the proposal."""
    rows = [Row(**r) for r in job.result or []]
    names = columns(bench.report.ask(stores.store).kind)
    names = tuple(n for n in names if bench.report.figures[n].status != "not_applicable")
    working = job.state in ("waiting", "running")
    near, equal = near_equal(rows), equal_ratios(rows)
    best = proposal(rows, bench.report) if rows and not working else None
    said = {(row.front, row.rear): name for name, row in schools(rows).items()} if rows else {}
    wished, shaking = (wish.cleaned_data.get(n) if wish.is_valid() else None for n in ("wish", "shake"))
    words = {"keep": _("as it is"), "down": _("next shorter"), "up": _("next taller")}

    def order(row: Row) -> tuple[bool, float]:
        value = row.ratio if sort == "ratio" or sort not in names else row.values.get(sort)
        value = 0.0 if value is None else value
        return False, -value if FIGURES.get(sort) is not None and FIGURES[sort].better == "higher" else value

    def shown(row: Row) -> dict[str, Any]:
        pair = (row.front, row.rear)
        return {
            "front": row.front,
            "rear": row.rear,
            "owned": row.owned,
            "kept": row.kept,
            "ratio": plain_number(row.ratio, 3),
            "cells": [
                (
                    n,
                    "" if row.values.get(n) is None else value_text(row.values[n] or 0.0, FIGURES[n].kind, preset),
                    row.values.get(n),
                )
                for n in names
            ],
            "meets": meets(row, wished, shaking),
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
        "field": _field(rows, best, wished, preset),
        "wish": wish,
        "wished": wish.query,
        "felt": bench.report.value("drive.time_over_shake") is not None or SHAKES not in names,
    }
