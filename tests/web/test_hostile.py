"""Six hundred of all the values that somebody may send, or all with HOSTILE=all: no page breaks, what is refused changes nothing, and it is said where."""

import os
import random

import pytest

from tests.hostile import cases, standing, wrong

DRAWN, SHARES = 600, 2
ALL = os.environ.get("HOSTILE") == "all"


@pytest.mark.parametrize("share", range(SHARES))
def test_nothing_that_can_be_sent_breaks_a_page(demo, monkeypatch, share):
    demo.raise_request_exception = False
    monkeypatch.setattr("lynxwort.web.machine.shelf.make", lambda kind: None)
    before, every = standing(), cases(demo)
    assert len(every) > 20_000
    drawn = every[share::SHARES] if ALL else random.Random(2027 + share).sample(every, DRAWN // SHARES)
    found = [(case.place, (case.data or {}).get(case.place.rpartition("[")[2][:-1], case.path)[-80:], said)
             for case in drawn if (said := wrong(demo, case, before))]  # fmt: skip
    print(f"{len(drawn)} requests, {len(found)} wrong")
    assert not found, found
