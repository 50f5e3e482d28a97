"""Command line: JSON in, JSON out.

    python -m lynxwort evaluate FILE.json | --example | --schema
    python -m lynxwort sweep FILE.json
    python -m lynxwort course FILE.gpx --heights barometer|satellite|terrain [--stage STAGE.json] [--out geojson]
    python -m lynxwort log LOG.csv --setup FILE.json [--column lambda=3 ...] [--gauge 14.7]
    python -m lynxwort stops FILE.json
    python -m lynxwort dyno RUN.csv [RUN.csv ...] --setup FILE.json [--place wheel|crank] [--standard none|sae_j1349|iso_1585|din_70020]

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
    import itertools

    import numpy as np
    from pydantic import ValidationError

    from lynxwort.core.model.race import GROUNDS, Stage
    from lynxwort.core.model.refused import refusals_of
    from lynxwort.core.physics.course.export import to_geojson
    from lynxwort.core.physics.course.gpx import read_gpx
    from lynxwort.core.physics.course.prepare import climb_by_source, lay_line, prepare_course
    from lynxwort.core.physics.course.surface import COLUMNS

    track = read_gpx(Path(arguments.file).read_bytes(), heights=arguments.heights)
    stage = Stage(course_key="course")
    if arguments.stage:
        try:
            stage = Stage.model_validate(read_document(arguments.stage) | {"course_key": "course"})
        except ValidationError as error:
            raise InputRefused(*refusals_of(error, "stage.", root=Stage)) from None
    if arguments.out == "geojson":
        return to_geojson(track, stage)
    line = lay_line(track)
    course = prepare_course(line, stage.ground, stage.hills, stage.zones, state=stage.state)
    steps = course.sine.size

    edges = [0, *(np.flatnonzero(np.diff(course.surface)) + 1).tolist(), steps]
    bends = np.abs(course.curvature_per_m)
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
        "climb_by_source": {s: asdict(c) for s, c in climb_by_source(track).items()},
        "ground": [
            {"from_m": float(course.distance_m[a]), "to_m": float(course.distance_m[b]), "ground": GROUNDS[int(course.ground[a])],
             "surface": dict(zip(COLUMNS, course.rows[course.surface[a]].tolist(), strict=True))}
            for a, b in itertools.pairwise(edges)
        ],
        "bends": {"radius_m_median": float(1.0 / max(np.median(bends), 1e-6)), "share_under_20_m": float((bends > 0.05).mean())},
        "hills": [h.model_dump(exclude_defaults=True) for h in stage.hills],
    }  # fmt: skip


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


def stops_verb(arguments: argparse.Namespace) -> Any:
    """The stop plan of a document with its alternatives, the race on the clock, tanks or packs side by side; of a relay, who rides what."""
    from lynxwort.core.asks import tanks
    from lynxwort.core.asks.stops import kept_plan, plans
    from lynxwort.core.evaluate import evaluate
    from lynxwort.core.model.inputs import load_inputs
    from lynxwort.core.stations.range.moments import moments
    from lynxwort.core.stations.range.view import stints

    report = evaluate(load_inputs(read_document(arguments.file)))
    kept, rows, shared = report.ask(kept_plan), report.ask(tanks.holders), report.ask(stints)
    best = tanks.smallest(rows)
    return {
        "kept": None if kept is None else asdict(kept) | {"fills": [f.model_dump(exclude_none=True) for f in kept.fills]},
        "plans": [asdict(p) | {"fills": [f.model_dump(exclude_none=True) for f in p.fills]} for p in report.ask(plans)],
        "moments": [asdict(m) for m in report.ask(moments)],
        "relay": None if shared is None else [asdict(s) | {"name": name} for s, name in shared],
        "holders": [asdict(h) for h in rows],
        "smallest": None if best is None else best.holds,
        "modes": [asdict(m) for m in report.ask(tanks.modes)],
    }


def stack_verb(arguments: argparse.Namespace) -> Any:
    """Each shim stack of a document at a shaft speed, force tables of both dampers; with --change the nearest stacks of one valve."""
    from lynxwort.core.asks import stacks
    from lynxwort.core.evaluate import evaluate
    from lynxwort.core.model.damper import PLACES, write_stack
    from lynxwort.core.model.inputs import load_inputs
    from lynxwort.core.physics.damping.damper import SPEEDS
    from lynxwort.core.stations.damping import dampers

    inputs = load_inputs(read_document(arguments.file))
    report, bike, setup = evaluate(inputs), inputs.bike, inputs.setup
    found: dict[str, Any] = {"speed_m_per_s": SPEEDS.tolist()}
    for end in ("fork", "shock"):
        curve = dampers.curve_of(bike, setup, end)
        bent = {p: stacks.bent(bike, setup, end, p, arguments.speed) for p in PLACES}
        found[end] = {"compression_n": curve.compression_n.tolist(), "rebound_n": curve.rebound_n.tolist(), "cavitates_m_per_s": curve.cavitates_m_per_s,
                      "stacks": {p: asdict(b) | {"text": write_stack(dampers.shims_of(setup, end, p))} for p, b in bent.items()}}  # fmt: skip
    if arguments.change is not None:
        end, place = arguments.valve.split("_")
        answer = report.ask(stacks.answer, end, place, arguments.change / 100.0, arguments.speed)
        found["answer"] = {"reachable": answer.reachable, "stacks": [{"text": write_stack(s.shims), "change": s.change} for s in answer.suggestions]}
    return found


def ride_verb(arguments: argparse.Namespace) -> Any:
    """Every piece of the document's course ridden, and what would cure a complaint."""
    from lynxwort.core.asks import complaints
    from lynxwort.core.evaluate import evaluate
    from lynxwort.core.model.inputs import load_inputs
    from lynxwort.core.stations.damping import rides

    report = evaluate(load_inputs(read_document(arguments.file)))
    found: dict[str, Any] = {"pieces": [asdict(r) for r in report.ask(rides.ridden)]}
    if arguments.felt:
        found["advice"] = asdict(report.ask(complaints.advise, arguments.felt, arguments.end))
        for tool in found["advice"]["tools"]:
            tool["changes"] = {k: v if isinstance(v, int | float) else [s.model_dump() for s in v] for k, v in tool["changes"].items()}
    return found


def _table(path: str, headings: dict[str, tuple[str, ...]], chosen: list[str]) -> tuple[dict[str, Any], dict[str, str], int]:
    """Columns of a delimited file, their headings, and how many rows had holes. chosen: "what=number" of a column, from 1. Raises InputRefused."""
    from lynxwort.core.units.tables import guess_columns, read_columns, read_head

    with Path(path).open(encoding="utf-8-sig", errors="replace") as file:
        text = file.readlines()
    head = read_head(text)
    columns = guess_columns(head.names, headings)
    for item in chosen:
        what, _, number = item.partition("=")
        if what not in headings or not number.isdigit() or not 1 <= int(number) <= len(head.names):
            raise InputRefused(Refusal(path="column", code="not_a_choice"))
        columns = {k: v for k, v in columns.items() if v != int(number) - 1 and k != what} | {what: int(number) - 1}
    found, holes = read_columns([text], head, columns)
    return found, {k: head.names[i] for k, i in columns.items()}, holes


def log_verb(arguments: argparse.Namespace) -> Any:
    import numpy as np

    from lynxwort.core.model.bike import Electric, Injected, Injection
    from lynxwort.core.model.inputs import load_inputs
    from lynxwort.core.physics.fuelling import logs

    inputs = load_inputs(read_document(arguments.setup))
    engine = inputs.bike.engine
    if isinstance(engine, Electric):
        raise InputRefused(Refusal(path="bike.engine.kind", code="burns_nothing"))
    columns, names, holes = _table(arguments.file, logs.HEADINGS, arguments.column)
    made = engine.injection if isinstance(engine, Injected) else Injection()  # a carburettor's mixture is told on the usual axes, and has no trims
    rpm, throttle = np.array(made.rpm_axis), np.array(made.throttle_axis)
    log = logs.channels(columns, names, gauge_afr=arguments.gauge)
    found = logs.judge(log, rpm_axis=rpm, throttle_axis=throttle, part=made.target_part, full=made.target_full, idle_rpm=engine.idle_rpm)
    shape = rpm.size, throttle.size
    present = np.reshape(inputs.setup.map_trims, shape) if inputs.setup.map_trims else np.zeros(shape)
    trims = logs.proposed_trims(present, found.binned, two_stroke=inputs.bike.is_two_stroke)
    binned = found.binned
    return {
        "columns": names, "rows": found.rows, "holes": holes, "kept_share": found.kept, "lag_s": found.lag_s,
        "rms_error": logs.rms(np.nan_to_num(binned.error), binned.hits), "rpm": list(made.rpm_axis), "throttle": list(made.throttle_axis),
        "hits": binned.hits.tolist(), "error": [[None if np.isnan(v) else float(v) for v in row] for row in binned.error],
        "sd": binned.sd.tolist(), "trims": trims.tolist() if isinstance(engine, Injected) else None,
    }  # fmt: skip


def dyno_verb(arguments: argparse.Namespace) -> Any:
    import numpy as np

    from lynxwort.core.errors import OutOfModelRange
    from lynxwort.core.model.inputs import load_inputs
    from lynxwort.core.physics.air.moist import AirState
    from lynxwort.core.physics.drive import dyno

    inputs = load_inputs(read_document(arguments.setup))
    try:
        air = AirState(pressure_pa=100.0 * arguments.pressure, temperature_k=arguments.temperature + 273.15, relative_humidity=arguments.humidity / 100.0)
    except OutOfModelRange as error:
        raise InputRefused(Refusal(path="air", code="out_of_model_range", low=error.low, high=error.high, unit=error.unit)) from None
    runs, rows = [], []
    for path in arguments.file:
        columns, _names, holes = _table(path, dyno.HEADINGS, arguments.column)
        rpm, torque, _seen = dyno.run_columns(columns)
        crank = dyno.crank_torque(torque, place=arguments.place, standard=arguments.standard, air=air, efficiency=inputs.bike.transmission.efficiency)
        runs.append((rpm, crank))
        band = dyno.band_of(rpm, crank, float(rpm[0]), float(rpm[-1]))
        rows.append({"file": Path(path).name, "holes": holes, "rpm": rpm.tolist(), "torque_nm": crank.tolist(), **asdict(band)})
    repeat = dyno.repeatability(runs)
    return {"runs": rows, "repeatability": None if repeat is None else {"sd": repeat[0], "sd_high": repeat[1]},
            "factor_to_standard": dyno.to_standard_factor(arguments.standard, air), "mean_torque_nm": float(np.mean([r[1].mean() for r in runs]))}  # fmt: skip


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
    two.add_argument("--stage", help="JSON of a stage: ground, hills, zones, state")
    two.add_argument("--out", choices=("summary", "geojson"), default="summary")
    two.set_defaults(run=course_verb)
    three = verbs.add_parser("sweep", help="sprockets, one by one, on the document's race")
    three.add_argument("file")
    three.set_defaults(run=sweep_verb)
    six = verbs.add_parser("stops", help="where to stop and for how much; tanks, packs, riders")
    six.add_argument("file")
    six.set_defaults(run=stops_verb)
    seven = verbs.add_parser("stack", help="shim stacks and force curves of the document's dampers")
    seven.add_argument("file")
    seven.add_argument("--speed", type=float, default=1.0, help="of the shaft [m/s]")
    seven.add_argument("--valve", choices=[f"{e}_{p}" for e in ("fork", "shock") for p in ("base", "piston", "rebound")], default="shock_piston")
    seven.add_argument("--change", type=float, help="of the force, in %%: find stacks")
    seven.set_defaults(run=stack_verb)
    eight = verbs.add_parser("ride", help="the bike over the pieces of the document's course")
    eight.add_argument("file")
    eight.add_argument("--felt", choices=("bottoms", "blows_through", "harsh", "packs", "kicks", "skips"), help="a complaint to look into")
    eight.add_argument("--end", choices=("front", "rear"), default="rear")
    eight.set_defaults(run=ride_verb)
    four = verbs.add_parser("log", help="a mixture log on the document's map")
    four.add_argument("file")
    four.add_argument("--setup", required=True, help="the document")
    four.add_argument("--column", action="append", default=[], help="what=number of the column, from 1")
    four.add_argument("--gauge", type=float, default=14.7, help="air/fuel that the gauge shows at lambda 1")
    four.set_defaults(run=log_verb)
    five = verbs.add_parser("dyno", help="dynamometer runs to the crank on a standard day")
    five.add_argument("file", nargs="+")
    five.add_argument("--setup", required=True, help="the document")
    five.add_argument("--place", choices=("wheel", "crank"), default="wheel")
    five.add_argument("--standard", choices=("none", "sae_j1349", "iso_1585", "din_70020"), default="none", help="what the sheet has corrected to")
    five.add_argument("--temperature", type=float, default=20.0, help="of the run [°C]")
    five.add_argument("--pressure", type=float, default=1013.25, help="station pressure of the run [hPa]")
    five.add_argument("--humidity", type=float, default=50.0, help="of the run [%%]")
    five.add_argument("--column", action="append", default=[], help="what=number of the column, from 1")
    five.set_defaults(run=dyno_verb)
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
