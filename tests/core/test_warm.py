"""What comes out of the cache is what would be reckoned anew, whatever single thing was changed, given or no longer given (300 changes)."""

import random

import pytest

from lynxwort.core.cache import StageCache
from lynxwort.core.errors import InputRefused
from lynxwort.core.evaluate import evaluate
from lynxwort.core.model.base import Part
from lynxwort.core.model.inputs import Inputs, dump_inputs, load_inputs
from tests.core.test_kinds import made, proven

CHANGES, KINDS = 300, ("jetted_two_stroke", "injected_four_stroke", "electric")
#: what names or numbers a thing is no value of it
SKIPPED = {"format", "id", "name", "kind", "course_key", "rider", "time_zone", "start", "number"}


def changes_of(part: Part, path: tuple = ()):
    """Every single change of a document: another value, an assumed value said, a said value taken back."""
    for name, info in type(part).model_fields.items():
        if name in SKIPPED or name in ("courses", "readings", "parts"):
            continue
        value, here = getattr(part, name), (*path, name)
        if isinstance(value, Part):
            yield from changes_of(value, here)
        elif isinstance(value, tuple) and value and isinstance(value[0], Part):
            yield from changes_of(value[0], (*here, 0))
        elif name in part.model_fields_set:
            if not info.is_required():
                yield here, None
            if isinstance(value, float):
                yield here, value * 1.02
        elif isinstance(value, int | float | str) and not isinstance(value, bool):
            yield here, value
            if isinstance(value, float):
                yield here, value * 0.97
        elif value is None and (low := next((m.ge for m in info.metadata if hasattr(m, "ge")), None)) is not None:
            high = next(m.le for m in info.metadata if hasattr(m, "le"))
            whole = "int" in str(info.annotation)
            yield here, round(0.5 * (low + high)) if whole else 0.7 * low + 0.3 * high


def changed(inputs: Inputs, path: tuple, value) -> Inputs | None:
    """The document with one change; None when the door refuses it."""
    document = dump_inputs(inputs)
    item = document
    for step in path[:-1]:
        item = item.setdefault(step, {}) if isinstance(item, dict) else item[step]
    if value is None:
        item.pop(path[-1], None)
    else:
        item[path[-1]] = value
    try:
        return load_inputs(document)
    except InputRefused:
        return None


def drawn(kind: str) -> list[tuple[Inputs, Inputs, tuple]]:
    base = proven(made(kind, "laps"))
    ways = list(changes_of(base))
    random.Random(kind).shuffle(ways)
    found = []
    for path, value in ways:
        other = changed(base, path, value)
        if other is not None:
            found.append((base, other, path))
        if len(found) == CHANGES // len(KINDS):
            break
    return found


@pytest.mark.parametrize("kind", KINDS)
def test_warm_is_fresh(kind):
    cache, seen = StageCache(400), 0
    trials = drawn(kind)
    evaluate(trials[0][0], cache=cache)
    for _base, other, path in trials:
        try:
            fresh = evaluate(other, cache=StageCache()).to_json()
        except InputRefused:
            with pytest.raises(InputRefused):
                evaluate(other, cache=cache)
            continue
        warm = evaluate(other, cache=cache).to_json()
        for name, figure in fresh["figures"].items():
            assert warm["figures"][name] == figure, (path, name)
        assert warm["findings"] == fresh["findings"], path
        assert warm["verdicts"] == fresh["verdicts"], path
        seen += 1
    assert seen > 0.9 * CHANGES / len(KINDS)
