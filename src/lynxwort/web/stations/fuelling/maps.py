"""Fuel maps and mixture logs: a file or the stand-in's stream is understood by the worker, kept as a reading, turned
into trims of the draft.
"""

import hashlib
import re
import time
import uuid
from collections.abc import Iterator, Sequence
from itertools import islice
from pathlib import Path
from typing import Any

import numpy as np
from django import forms
from django.core import signing
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.bike import Injected, Injection
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.physics.fuelling import logs
from lynxwort.core.standin import afr
from lynxwort.core.stations.fuelling.view import map_table, middle_air, newest_log, trims_wanted
from lynxwort.core.units.tables import HEAD_LINES, Head, guess_columns, read_columns, read_head
from lynxwort.web.bench.services import Bench
from lynxwort.web.bikes.changes import Whole
from lynxwort.web.bikes.models import Setup
from lynxwort.web.evaluation import assembled, door
from lynxwort.web.jobs import uploads, worker
from lynxwort.web.jobs.models import Job
from lynxwort.web.races.models import Race
from lynxwort.web.readings import services as readings
from lynxwort.web.ui.sheets import csv_text
from lynxwort.web.ui.typed import lines_within, whole_number
from lynxwort.words.catalogue import TERMS
from lynxwort.words.refusals import explain

MAX_BYTES = 75_000_000
CHUNK_LETTERS = 4_000_000
#: channels one may choose a column for
CHANNELS = {
    "time": gettext_lazy("Time"),
    "rpm": gettext_lazy("Revs"),
    "throttle": gettext_lazy("Throttle"),
    "lambda": gettext_lazy("Lambda"),
    "afr": gettext_lazy("or air/fuel"),
    "coolant": gettext_lazy("Coolant"),
}
#: shares of a stand-in's lap told at once, and the pause between [s]
LIVE_STEPS, LIVE_PAUSE_S = 24, 0.12


class LogForm(forms.Form):
    """A log's file, and the scale of its gauge."""

    file = forms.FileField(label=gettext_lazy("Log, delimited text"))
    gauge = forms.FloatField(
        label=gettext_lazy("Air/fuel that the gauge shows at lambda 1"),
        initial=14.7,
        min_value=5.0,
        max_value=20.0,
        required=False,
    )


class ColumnsForm(forms.Form):
    """Which column is what."""

    def __init__(self, *args: Any, names: Sequence[str], guessed: dict[str, int], **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        choices = [("", "-"), *((str(i), n or str(i + 1)) for i, n in enumerate(names))]
        for what, label in CHANNELS.items():
            self.fields[what] = forms.ChoiceField(
                label=label, choices=choices, required=False, initial=str(guessed[what]) if what in guessed else ""
            )


def take_file(file: Any, garage: int) -> str:
    """Keep an uploaded file for the worker; a signed token of it. Raises InputRefused."""
    if file.size > MAX_BYTES:
        raise InputRefused(Refusal(path="file", code="too_large", high=MAX_BYTES / 1e6, unit="MB"))
    name = uuid.uuid4().hex
    path = uploads.folder() / name
    try:
        with path.open("wb") as out:
            for chunk in file.chunks():
                out.write(chunk)
        head_of(path)
    except BaseException:  # it leads to nothing: it does not stay
        path.unlink(missing_ok=True)
        raise
    return signing.dumps({"file": name, "garage": garage})


def path_of(token: str, garage: int) -> Path:
    """The file of a token. Raises InputRefused when it is not this garage's or gone."""
    try:
        known = signing.loads(token, max_age=86_400)
    except signing.BadSignature:
        raise InputRefused(Refusal(path="file", code="missing")) from None
    path = uploads.folder() / str(known["file"])
    if known["garage"] != garage or not re.fullmatch(r"[0-9a-f]{32}", path.name) or not path.exists():
        raise InputRefused(Refusal(path="file", code="missing"))
    return path


def head_of(path: Path) -> Head:
    """How a file is laid out. Raises InputRefused."""
    with path.open(encoding="utf-8-sig", errors="replace") as file:
        return read_head(list(islice(lines_within(file), HEAD_LINES)))


def _chunks(path: Path) -> Iterator[list[str]]:
    with path.open(encoding="utf-8-sig", errors="replace") as file:
        lines, held = [], 0
        for line in lines_within(file):
            lines.append(line)
            held += len(line)
            if held > CHUNK_LETTERS:
                yield lines
                lines, held = [], 0
        yield lines


def guess(head: Head) -> dict[str, int]:
    """Which columns a heading gives away."""
    return guess_columns(head.names, logs.HEADINGS)


def enough(columns: dict[str, int]) -> bool:
    """Whether the columns make a log."""
    return {"time", "rpm", "throttle"} <= set(columns) and bool({"lambda", "afr"} & set(columns))


def ask(bench: Bench, token: str, columns: dict[str, int], gauge: float) -> Job:
    """The job that understands a file."""
    payload = {
        "setup": bench.setup.pk,
        "race": bench.race.pk,
        "token": token,
        "garage": bench.setup.bike.garage_id,
        "columns": columns,
        "gauge": gauge,
    }
    return worker.submit("log", hashlib.sha256(repr(sorted(payload.items())).encode()).hexdigest()[:40], payload)


def ask_stand_in(bench: Bench) -> Job:
    """The job that rides a lap with the stand-in's logger on the bike as it is in draft."""
    payload = {
        "setup": bench.setup.pk,
        "race": bench.race.pk,
        "values": bench.draft.values,
        "n": Job.objects.filter(kind="live_log").count(),
    }
    return worker.submit("live_log", uuid.uuid4().hex, payload)


def _injection(inputs: Inputs) -> Injection:
    engine = inputs.bike.engine
    if not isinstance(engine, Injected):
        raise InputRefused(Refusal(path="bike.engine.kind", code="not_a_choice"))
    return engine.injection


def _judge(inputs: Inputs, columns: dict[str, Any], names: dict[str, str], gauge: float) -> logs.Judged:
    engine = inputs.bike.engine
    assert isinstance(engine, Injected)
    made = engine.injection
    return logs.judge(
        logs.channels(columns, names, gauge_afr=gauge),
        rpm_axis=np.array(made.rpm_axis),
        throttle_axis=np.array(made.throttle_axis),
        part=made.target_part,
        full=made.target_full,
        idle_rpm=engine.idle_rpm,
    )


def _plain(
    found: logs.Judged, made: Injection, *, holes: int, values: dict[str, Any], invented: bool
) -> dict[str, Any]:
    """A judged log as a job's result: what a reading of it would hold."""
    cells = [
        {
            "rpm": rpm,
            "throttle": throttle,
            "hits": round(float(found.binned.hits[i, j]), 2),
            "error": round(float(found.binned.error[i, j]), 5),
            "sd": round(float(found.binned.sd[i, j]), 5),
        }
        for i, rpm in enumerate(made.rpm_axis)
        for j, throttle in enumerate(made.throttle_axis)
        if found.binned.hits[i, j] >= 1.0
    ]
    return {
        "cells": cells,
        "delay_s": round(found.lag_s, 3),
        "samples": found.rows,
        "kept": found.kept,
        "holes": holes,
        "values": values,
        "invented": invented,
    }


@worker.register_stepping("log")
def understand(payload: dict[str, Any], step: worker.Step) -> dict[str, Any]:
    """Job: a log's file on the map's axes."""
    setup = Setup.objects.select_related("bike__garage", "head").get(pk=payload["setup"])
    race = Race.objects.select_related("course", "rider").get(pk=payload["race"])
    kept = setup.head.values if setup.head else setup.draft.values
    inputs = assembled.assemble(setup, race, kept)
    made, path = _injection(inputs), path_of(payload["token"], payload["garage"])
    try:
        head, done, size = head_of(path), 0, max(path.stat().st_size, 1)

        def watched() -> Iterator[list[str]]:
            nonlocal done
            for lines in _chunks(path):
                done += sum(map(len, lines))
                step(min(0.8 * done / size, 0.8), None)
                yield lines

        columns, holes = read_columns(watched(), head, payload["columns"])
        names = {k: head.names[i] for k, i in payload["columns"].items()}
        return _plain(
            _judge(inputs, columns, names, payload["gauge"]),
            made,
            holes=holes,
            values=setup.head.values,  # type: ignore[union-attr]
            invented=False,
        )
    except InputRefused as refused:
        return {"refused": [[r.path, explain(r, translate=_)] for r in refused.refusals]}
    finally:
        path.unlink(missing_ok=True)


@worker.register_stepping("live_log")
def ride_and_log(payload: dict[str, Any], step: worker.Step) -> dict[str, Any]:
    """Job: the stand-in rides a lap and its stream is understood as it comes, through the same door as a file."""
    setup = Setup.objects.select_related("bike__garage").get(pk=payload["setup"])
    race = Race.objects.select_related("course", "rider").get(pk=payload["race"])
    inputs = assembled.assemble(setup, race, payload["values"])
    made = _injection(inputs)
    stream = door.report_of(inputs).ask(afr.lap_stream, seed=setup.bike_id, number=payload["n"])
    head, result = read_head(stream), {}
    for k in range(1, LIVE_STEPS + 1):
        text = stream[: max(len(stream) * k // LIVE_STEPS, 80)]
        columns, holes = read_columns([text], head, guess(head))
        try:
            judged = _judge(inputs, columns, {what: head.names[i] for what, i in guess(head).items()}, 14.7)
            result = _plain(judged, made, holes=holes, values=payload["values"], invented=True)
        except InputRefused:
            continue  # nothing counts yet: the engine is still warming up
        step(k / (LIVE_STEPS + 1), result)
        time.sleep(LIVE_PAUSE_S)
    return result


def keep_log(bench: Bench, result: dict[str, Any]) -> None:
    """Keep a judged log as a reading. Raises InputRefused."""
    document = {
        "kind": "afr_log",
        "cells": result["cells"],
        "delay_s": result["delay_s"],
        "samples": float(result["samples"]),
    }
    air = bench.report.ask(middle_air)
    under = readings.under(
        result["values"],
        bench.race.rider.document,
        bench.race.document["stages"][0]["course_key"],
        air={
            "pressure_pa": air.pressure_pa,
            "temperature_k": air.temperature_k,
            "relative_humidity": air.relative_humidity,
        },
    )
    readings.add_reading(bench.setup.bike, document | {"under": under})


def _shade(value: float | None) -> str:
    """The class of a cell by how far it is off: sides told by sign, word and pattern, not by colour alone."""
    if value is None:
        return "empty"
    steps = min(int(abs(value) / 0.02), 3)
    return "even" if steps == 0 else f"{'rich' if value > 0 else 'lean'}-{steps}"


def grid(bench: Bench, live: dict[str, Any] | None) -> dict[str, Any]:
    """The map as a table: of a job's result while it comes in, else what the newest log leaves with the draft's
    trims.
    """
    made = _injection(bench.inputs)
    coming = {(c["rpm"], c["throttle"]): c for c in live["cells"]} if live else {}
    rows = []
    for rpm, cells in zip(made.rpm_axis, bench.report.ask(map_table), strict=True):
        row = []
        for throttle, cell in zip(made.throttle_axis, cells, strict=True):
            error, hits = cell.error, cell.hits
            if live:
                seen = coming.get((rpm, throttle))
                hits = seen["hits"] if seen else 0.0
                error = seen["error"] if seen and hits >= logs.LEAST_HITS else None
            row.append(
                {
                    "error": error,
                    "hits": hits,
                    "spread": None if live else cell.spread,
                    "css": _shade(error),
                    "trim": cell.trim,
                    "step": 0.0 if live else cell.step,
                }
            )
        rows.append((rpm, row))
    moves = not live and any(abs(c["step"]) > 5e-4 for _r, row in rows for c in row)  # type: ignore[arg-type]
    return {"throttles": made.throttle_axis, "rows": rows, "log": bench.report.ask(newest_log), "moves": moves}


def csv_of(bench: Bench) -> str:
    """The draft's trims as CSV: revs down, openings across, percent."""
    made = _injection(bench.inputs)
    rows = [[_("rpm \\ throttle %%") % (), *(f"{100 * t:g}" for t in made.throttle_axis)]]
    for rpm, cells in zip(made.rpm_axis, bench.report.ask(map_table), strict=True):
        rows.append([f"{rpm:g}", *(f"{100 * c.trim:.2f}" for c in cells)])
    return csv_text(rows)


def next_trims(bench: Bench) -> Whole:
    """The change to the trims that the newest log asks for next."""
    return Whole({"map_trims": list(bench.report.ask(trims_wanted))})


def by_ground(text: str) -> dict[str, int]:
    """Maps by ground from lines like "rock 2". Raises InputRefused."""
    words = {str(_(v)).lower(): k for k, v in TERMS.items() if k in GROUND_CODES} | {k: k for k in GROUND_CODES}
    found = {}
    for line in text.splitlines():
        if not line.strip():
            continue
        name, _space, number = line.strip().rpartition(" ")
        code = words.get(name.strip().lower())
        if code is None or whole_number(number) is None:
            raise InputRefused(Refusal(path="map_by_ground", code="not_a_ground_line"))
        found[code] = int(number)
    return found


GROUND_CODES = ("hardpack", "gravel", "loam", "sand", "deep_sand", "mud", "rock", "whoops", "single_track")


def ground_lines(bench: Bench) -> str:
    """The draft's maps by ground as lines."""
    return "\n".join(f"{_(TERMS[g])} {m}" for g, m in bench.inputs.setup.map_by_ground.items())
