"""The name of a document: the same for the same facts, another for any other, given or assumed, whoever made it."""

import json

from lynxwort.core.errors import InputRefused
from lynxwort.core.model.inputs import dump_inputs, load_inputs
from tests.support import demo_inputs


def again(document):
    """Through text and back, as another process would read it."""
    return load_inputs(json.loads(json.dumps(document)))


def leaves(value, path=()):
    """Paths of all numbers of a document but the courses' points."""
    if isinstance(value, dict):
        for k, v in value.items():
            if k not in ("courses", "format"):
                yield from leaves(v, (*path, k))
    elif isinstance(value, list):
        for i, v in enumerate(value):
            yield from leaves(v, (*path, i))
    elif isinstance(value, float) and value:
        yield path


def with_leaf(document, path, change):
    made = json.loads(json.dumps(document))
    *way, last = path
    inside = made
    for step in way:
        inside = inside[step]
    change(inside, last)
    return made


def test_every_number_of_a_document_is_in_its_digest():
    document = dump_inputs(demo_inputs())
    whole = again(document)
    assert whole.digest() == again(document).digest() == demo_inputs().digest()
    tried, seen = 0, {whole.digest()}
    for path in leaves(document):
        nudged = with_leaf(document, path, lambda inside, last: inside.__setitem__(last, inside[last] * (1 + 1e-9)))
        try:
            found = again(nudged).digest()
        except InputRefused:  # a bound: that number cannot be so
            continue
        tried += 1
        assert found not in seen, path
        seen.add(found)
    assert tried > 60


def test_given_and_left_out_are_told_apart_and_a_changed_copy_is_digested_anew():
    inputs = demo_inputs()
    inputs.digest()
    rider = inputs.riders[0]
    assumed = rider.model_validate({k: v for k, v in rider.model_dump(exclude_unset=True).items() if k != "posture"})
    assert assumed.posture == type(rider).model_fields["posture"].default
    said = assumed.model_copy(update={"posture": assumed.posture})
    assert said == assumed
    assert said.digest() != assumed.digest()
    other = inputs.model_copy(update={"riders": (said,)})
    assert other.digest() != inputs.model_copy(update={"riders": (assumed,)}).digest()
    moved = inputs.setup.model_copy(update={"main_jet": 170.0})
    assert inputs.model_copy(update={"setup": moved}).digest() != inputs.digest()
    assert inputs.model_copy().digest() == inputs.digest()
