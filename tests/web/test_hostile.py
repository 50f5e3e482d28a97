"""Six hundred of all the values somebody may send: no page breaks, nothing changes that was refused, and it is said where."""

import random

from tests.hostile import cases, standing, wrong

DRAWN = 600


def test_nothing_that_can_be_sent_breaks_a_page(demo, monkeypatch):
    demo.raise_request_exception = False
    monkeypatch.setattr("lynxwort.web.machine.shelf.make", lambda kind: None)
    before = standing()
    every = cases(demo)
    assert len(every) > 20_000
    found = [(case.place, (case.data or {}).get(case.place.rpartition("[")[2][:-1], case.path)[-80:], said)
             for case in random.Random(2027).sample(every, DRAWN) if (said := wrong(demo, case, before))]  # fmt: skip
    assert not found, found
