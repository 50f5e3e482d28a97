"""What every report says, as plain numbers and codes: how a rebuild is held to change nothing.

The demo's races in full, the example of format 1, and every kind of engine in every format of race.
"""

import gzip
import json
from collections.abc import Iterator
from pathlib import Path

from lynxwort.core.cache import StageCache
from lynxwort.core.evaluate import evaluate
from lynxwort.core.model.inputs import load_inputs
from lynxwort.core.report import Report
from lynxwort.demo import scenario

DATA = Path(__file__).parent / "data"
KEPT = DATA / "reports.json.gz"


def told(report: Report) -> dict:
    """A report as plain data: every figure's value and range with what it rests on, every finding with its proposals."""
    whole = report.to_json()
    figures = {
        name: [
            f["value"],
            f["low"],
            f["high"],
            f["status"],
            f["reason"],
            f["basis"],
            f["readings"],
            [(i[0], i[1], i[3]) for i in f["inputs"]],
            [(s["symbol"], s["value"]) for s in f["steps"]],
        ]
        for name, f in whole["figures"].items()
    }
    rest = {k: whole[k] for k in ("findings", "verdicts", "sensitivities", "bands")}
    return json.loads(json.dumps({"figures": figures, **rest}))


def reports() -> Iterator[tuple[str, Report]]:
    """Every document that is held, and its report."""
    cache = StageCache()
    for race in scenario.RACES:
        yield f"demo {race}", evaluate(scenario.inputs(race), depth="full", cache=cache)
    yield "format 1", evaluate(load_inputs(json.loads((DATA / "format-1.json").read_text())), cache=cache)
    known = json.loads((DATA / "kinds.json").read_text())
    for form, race in known["formats"].items():
        for kind, bike in known["kinds"].items():
            document = {"format": 1, "riders": [known["rider"]], "race": race, "courses": {"c": known["course"]}} | bike
            yield f"{kind}, {form}", evaluate(load_inputs(document), cache=cache)


def taken() -> dict:
    """The snapshot as it is now."""
    return {name: told(report) for name, report in reports()}


def write(path: Path, found: dict) -> None:
    """Keep a snapshot; the same one gives the same bytes."""
    path.write_bytes(gzip.compress(json.dumps(found, sort_keys=True).encode(), mtime=0))


def read(path: Path = KEPT) -> dict:
    return json.loads(gzip.decompress(path.read_bytes()))


def differences(was: object, now: object, rel: float, at: str = "") -> Iterator[str]:
    """Where two snapshots part by more than this share [1] (and this much about 0)."""
    if isinstance(was, dict) and isinstance(now, dict):
        for key in sorted(was.keys() | now.keys()):
            if key not in was or key not in now:
                yield f"{at}/{key}: {'new' if key in now else 'gone'}"
            else:
                yield from differences(was[key], now[key], rel, f"{at}/{key}")
    elif isinstance(was, list) and isinstance(now, list) and len(was) == len(now):
        for i, pair in enumerate(zip(was, now, strict=True)):
            yield from differences(*pair, rel, f"{at}/{i}")
    elif isinstance(was, float | int) and isinstance(now, float | int) and not isinstance(was, bool):
        if abs(was - now) > rel * max(1.0, abs(was)):
            yield f"{at}: {was!r} was, {now!r} is"
    elif was != now:
        yield f"{at}: {was!r} was, {now!r} is"
