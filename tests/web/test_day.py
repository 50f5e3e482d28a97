"""The day through its door: begun once, logged in two taps, told wrong, struck out, proposed next time."""

import re
import uuid

import pytest

from lynxwort.web.bikes.models import Setup
from lynxwort.web.bikes.services import make_bike
from lynxwort.web.evaluation import assembled, door
from lynxwort.web.races.models import Race
from lynxwort.web.runs.models import ClickTurn, RiddenDay
from tests.trials import a_trial
from tests.web.test_trials import text


def said(client, do, day=None, **more):
    form = {"do": do} | ({"day": str(day.uid)} if day else {}) | more
    return client.post(f"{client.base}trials/day/", form)


@pytest.fixture
def day(demo):
    assert said(demo, "begin", days=0).status_code == 302
    return RiddenDay.objects.get()


def turned(client, day, **more):
    plain = {"turned": "rear.rebound.out", "by": "2", "lap": "3", "why": "packs", "name": str(uuid.uuid4())}
    return said(client, "turn", day, **plain | more)


def test_a_day_is_logged_and_its_click_proposed_for_the_next(demo, day):
    """Pressed twice it is begun once, and a click logged once; next day it stands on page and pit card."""
    said(demo, "begin", days=0)
    assert RiddenDay.objects.count() == 1
    name = str(uuid.uuid4())
    for _twice in range(2):
        assert turned(demo, day, name=name, lap="1").status_code == 302
    (click,) = ClickTurn.objects.all()
    assert click.document == {"lap": 1, "end": "rear", "way": "rebound", "why": "packs", "clicks": -2}
    day.refresh_from_db()
    assert day.document["laps"] == 1  # so many laps were ridden, then
    page = text(demo.get(f"{demo.base}trials/day/"))
    assert "shock rebound 2 out" in page
    assert "What to click when" not in page
    said(demo, "begin", days=1)
    page = text(demo.get(f"{demo.base}trials/day/"))
    assert re.search(r"What to click when.*before lap 2, whoops \d+ mm deep.*packs down · last time", page, re.DOTALL)
    card = text(demo.get(f"{demo.base}card/"))
    assert "before lap 2: shock rebound 2 out (packs down, last time)" in card
    said(demo, "strike", day, click=str(click.uid))
    assert "What to click when" not in text(demo.get(f"{demo.base}trials/day/"))


def test_a_log_changes_nothing_that_is_ridden(demo, day):
    setup, race = Setup.objects.get(pk=day.setup_id), Race.objects.get(pk=day.race_id)
    before = assembled.assemble(setup, race, setup.draft.values)
    turned(demo, day)
    setup = Setup.objects.get(pk=day.setup_id)
    after = assembled.assemble(setup, race, setup.draft.values)
    assert door.ridden_key(before) == door.ridden_key(after)
    assert after.days[0].clicks[0].clicks == -2
    assert door.report_of(after).figures["trials.day.clicks.rear.rebound"].value == -2


@pytest.mark.parametrize(
    ("do", "form", "words"),
    [
        ("turn", {"turned": ""}, "Say first what was turned"),
        ("turn", {"by": "77"}, "not one of the available choices"),
        ("turn", {"lap": "-1"}, "greater than or equal to 0"),
        ("seen", {"lap": "2"}, "Say how deep the whoops are"),
        ("seen", {"lap": "2", "depth_m": "9 m"}, "at most"),
        ("facts", {"starters": "0"}, "at least 1"),
        ("facts", {"tyre_rear_pa": "2 miles"}, "pressure"),
        ("facts", {"ended": "abducted"}, "not one of the available choices"),
    ],
)
def test_what_is_told_wrong_is_said_and_nothing_is_kept(demo, day, do, form, words):
    plain = {"turned": "rear.rebound.out", "by": "2", "lap": "3", "why": "packs", "name": str(uuid.uuid4())}
    answer = said(demo, do, day, **(plain if do == "turn" else {}) | form)
    assert answer.status_code == 422
    assert words in text(answer)
    day.refresh_from_db()
    assert not ClickTurn.objects.exists()
    assert not day.document.get("laps")
    assert "tapes" not in day.document


def test_how_it_was_is_kept_and_taken_back(demo, day):
    facts = {"starters": "80", "weather": "mud", "ended": "part", "ended_part": "chain", "place": "4", "in_class": "clubman", "time_s": "2:30", "whoop_height_m": "350 mm"}  # fmt: skip
    assert said(demo, "facts", day, **facts, laps="3").status_code == 302
    said(demo, "seen", day, lap="1", depth_m="400 mm", volume_m3="900 L")
    said(demo, "seen", day, lap="3", depth_m="0.5 m")
    page = text(demo.get(f"{demo.base}trials/day/"))
    for words in ("stopped by a part", "place 4 (clubman)", "2.50 h", "chain", "depth by your tape", "900.0"):
        assert words in page, words
    said(demo, "facts", day, starters="80", laps="3", whoop_height_m="350 mm")
    day.refresh_from_db()
    assert "ended" not in day.document
    assert len(day.document["tapes"]) == 2
    assert day.document["watered"][0]["lap"] == 1
    for k in (4, 4, 3):
        said(demo, "lap", day, laps=k)
    day.refresh_from_db()
    assert day.document["laps"] == 3


def test_what_is_not_there_is_not_found(demo, day):
    for do, more in (("strike", {"click": "x"}), ("lap", {"laps": "many"}), ("dance", {})):
        assert said(demo, do, day, **more).status_code == 404
    assert demo.get(f"{demo.base}trials/day/?day=nonsense").status_code == 404
    assert demo.post(f"{demo.base}trials/day/", {"do": "lap", "day": str(uuid.uuid4())}).status_code == 404


def test_sessions_and_days_stand_side_by_side(demo, day):
    """Another bike's trial against one's own, this year's day against last year's; no lap against a day."""
    mine = a_trial(day.setup)
    other = make_bike(day.setup.bike.garage, day.setup.bike.document | {"name": "Vole E"}, day.setup.head.values)
    theirs = a_trial(other.setups.get(), seed=9)
    day.setup.felt.create(race=day.race, what="harsh", end="front", words="gives up on the ledges")
    said(demo, "facts", day, laps="4", starters="50", weather="mud", whoop_height_m="350 mm")
    said(demo, "begin", days=1)
    last = RiddenDay.objects.last()
    page = f"{demo.base}trials/compare/"
    assert "Side by side" in text(demo.get(page))
    shown = text(demo.get(f"{page}?one={mine.uid}:A&two={theirs.uid}:B"))
    for words in ("Vole E", "second less first", "Two sessions differ in more than the bike", "gives up on the ledges"):
        assert words in shown, words
    shown = text(demo.get(f"{page}?one={day.uid}:day&two={last.uid}:day"))
    for words in ("Bikes past in all", "<td>200</td><td>0</td>", "<td>mud</td><td>dry</td>"):
        assert words in shown, words
    for pair, words in (
        (f"one={day.uid}:day&two={mine.uid}:A", "choose two of a kind"),
        (f"one={mine.uid}:A&two={mine.uid}:A", "These are the same"),
        ("one=nonsense&two=", "not one of the available choices"),
    ):
        answer = demo.get(f"{page}?{pair}")
        assert answer.status_code == 422
        assert words in text(answer), pair


def test_more_than_a_day_holds_is_told_and_the_bench_still_opens(demo, day):
    """Two hundred clicks, forty readings of the tape, sixty notes: the next is refused in words."""
    click = {"lap": 1, "end": "rear", "way": "rebound", "clicks": 1}
    ClickTurn.objects.bulk_create(ClickTurn(day=day, document=click) for _ in range(200))
    day.document = day.document | {"tapes": [{"lap": 1, "depth_m": 0.4}] * 40}
    day.save()
    for answer in (turned(demo, day), said(demo, "seen", day, lap="2", depth_m="0.5 m")):
        assert answer.status_code == 422
        assert "Too many" in text(answer) or "Too long" in text(answer)
    assert day.clicks.count() == 200
    RiddenDay.objects.bulk_create(
        RiddenDay(setup=day.setup, race=day.race, document={"rider": "Wren", "name": f"day {k}"}) for k in range(401)
    )
    assert demo.get(f"{demo.base}trials/day/").status_code == 200
    assert demo.get(f"{demo.base}trials/compare/").status_code == 200
