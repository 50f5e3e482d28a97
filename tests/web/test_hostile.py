"""Six hundred of all the values that somebody may send, or all with HOSTILE=all: no page breaks, what is refused changes nothing, and it is said where."""

import os
import random
import tempfile
from pathlib import Path

import pytest

from tests.hostile import cases, standing, wrong

DRAWN, SHARES = 600, 2
ALL = os.environ.get("HOSTILE") == "all"


@pytest.mark.parametrize("share", range(SHARES))
def test_nothing_that_can_be_sent_breaks_a_page(demo, monkeypatch, share):
    demo.raise_request_exception = False
    monkeypatch.setattr("lynxwort.web.machine.shelf.make", lambda kind: None)
    every = cases(demo)
    before = standing()  # once every page was opened: to open one may judge a race anew
    assert len(every) > 20_000
    drawn = every[share::SHARES] if ALL else random.Random(2027 + share).sample(every, DRAWN // SHARES)
    found = []
    for number, case in enumerate(drawn, start=1):
        if said := wrong(demo, case, before):
            found.append((case.place, (case.data or {}).get(case.place.rpartition("[")[2][:-1], case.path)[-80:], said))
        if ALL and number % 2000 == 0:  # a long run says how far it is
            with (Path(tempfile.gettempdir()) / f"lynxwort-hostile-{share}").open("w") as said_so_far:
                said_so_far.write(f"{number} of {len(drawn)} requests, wrong: {found}\n")
    assert not found, found
