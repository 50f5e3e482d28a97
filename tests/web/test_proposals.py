"""What helps is tried before it is offered: a page says what a station says at once, and what holds a moment later."""

import json
import re

import pytest
from django.utils.html import escape

from lynxwort.web.bench import present, services
from lynxwort.web.bikes import changes
from lynxwort.web.bikes.models import Setup
from lynxwort.web.evaluation import door
from lynxwort.web.races.models import Race

TRYING, LEAN = escape("trying what helps …"), 'class="lean"'


@pytest.fixture
def fresh(demo):
    """The demo's bench, nothing of it tried yet."""
    door._cache = None
    return demo


def test_a_page_says_what_it_says_and_offers_only_what_was_tried(fresh):
    page = fresh.get(f"{fresh.base}fuelling/").content.decode()
    assert "Main 165 too lean" in page
    assert TRYING in page
    assert "Try main jet" not in page
    assert f'hx-get="{fresh.base}fuelling/findings/"' in page
    part = fresh.get(f"{fresh.base}fuelling/findings/").content.decode()
    assert "Try main jet 168" in part
    assert "settles it" in part
    assert TRYING not in part
    assert "hx-trigger" not in part.split("<h2")[0]
    # tried once, it is known
    again = fresh.get(f"{fresh.base}fuelling/").content.decode()
    assert "Try main jet 168" in again
    assert TRYING not in again


def test_what_is_offered_does_what_it_says(fresh):
    part = fresh.get(f"{fresh.base}range/findings/?at=12000").content.decode()
    moves = json.loads(re.search(r'name="moves" value="([^"]+)"', part)[1].replace("&quot;", '"'))
    setup = Setup.objects.get()
    assert changes.take(setup.draft, setup.draft.version, changes.Moves(tuple(map(tuple, moves)))).state == "taken"
    bench = services.open_bench(Setup.objects.get(), Race.objects.get())
    assert "may_run_dry" in [f.code for f in bench.kept.of("range")]
    assert "may_run_dry" not in [f.code for f in bench.report.of("range")]
    assert bench.report.verdicts["fuelling"] == bench.kept.verdicts["fuelling"]


def test_a_station_that_proposes_nothing_needs_no_second_look(fresh):
    page = fresh.get(f"{fresh.base}purpose/").content.decode()
    assert TRYING not in page
    assert "/findings/" not in page
    assert fresh.get(f"{fresh.base}nowhere/findings/").status_code == 404
    assert fresh.post(f"{fresh.base}fuelling/findings/").status_code == 405


def test_places_are_kept_for_as_many_as_are_being_tried(fresh):
    bench = services.open_bench(Setup.objects.get(), Race.objects.get())
    waiting = present.findings(bench, "chassis", "metric", compute=False)
    offered = present.findings(bench, "chassis", "metric", compute=True)
    assert waiting["trying"]
    assert not offered["trying"]
    for before, after in zip(waiting["findings"], offered["findings"], strict=True):
        assert before.words == after.words
        assert before.proposals == []
        assert len(before.trying) >= len(after.proposals)
        assert len(after.trying) == 0


def test_what_leaves_its_finding_is_not_offered_and_out_of_lean_into_rich_is_said(injected):
    chassis = injected.get(f"{injected.base}chassis/findings/").content.decode()
    assert "Try shock preload" not in chassis
    fuelling = injected.get(f"{injected.base}fuelling/findings/").content.decode()
    assert re.search(r"Try map trim \+9.*leaves full throttle high up at \+14.4", fuelling, re.S)


def test_less_lean_and_still_lean_is_not_called_better(fresh):
    rows = fresh.get(f"{fresh.base}fuelling/neighbours/").content.decode()
    told = {m[1]: m[0] for m in re.findall(r'<span class="(\w*)">(−[\d.]+\u202f?.? lean margin)</span>', rows)}
    assert told
    assert set(told.values()) <= {"lean", "worse"}
    assert LEAN in rows
    assert not re.search(r'class="better">−[^<]*(margin|½)', rows)
