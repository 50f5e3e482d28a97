"""The week before a race through its own pages: planned with a late part, as a calendar across a change of clocks, what
is loaded, and what was forgotten.
"""

import html
import re
from datetime import UTC, date, datetime, timedelta

import pytest
import vobject
from django.urls import reverse
from django.utils import timezone

from lynxwort.web.races import weeks
from lynxwort.web.races.models import Race
from lynxwort.web.races.services import change_stages
from lynxwort.web.runs import loading
from lynxwort.web.service import services
from tests.logged import H
from tests.web.forms import sent_back


def said(client, **data):
    return client.post(f"{client.base}card/week/", data, follow=True)


def page(client, part="card/week/"):
    return html.unescape(client.get(client.base + part).content.decode())


@pytest.fixture
def due(demo):
    """The demo with a piston due before its race of 2027-04-18."""
    bike = demo.setup.bike
    services.write(bike, "ride", {"meter_s": 118 * H})
    services.write(bike, "part", {"kind": "piston", "fitted_s": 70 * H})
    return demo


def test_a_week_is_planned_with_a_part_that_comes_late(due):
    assert "Say which evening is the first" in page(due)
    answer = said(due, what="evenings", **{"week.begins": "2027-04-12", "week.evening_s": "3", "away": "2027-04-14"})
    assert answer.redirect_chain
    shown = page(due)
    assert "Begin on Thu 15 Apr" in shown
    # three hours of work there is, longer the first time, an hour of running in; nothing on the day of the race
    assert re.search(r"Piston and rings</b>\s*<span class=\"unit\">Thu 15 Apr, 19:30, to Fri 16 Apr · 4.5 h", shown)
    assert "Sat 17 Apr" in shown
    said(due, what="await", job="part:piston", arrives="2027-04-17")
    shown = page(due)
    assert "Piston and rings: its part comes too late" in shown
    assert "The plan without it" in shown
    assert "Left out: Piston and rings." in shown
    # it is said of the bike, too, with the way here
    assert "card/week/" in page(due, "baseline/")
    # another source
    said(due, what="await", job="part:piston", arrives="2027-04-13")
    assert "The plan without it" not in page(due)
    # done: it leaves the list by itself, and nothing of the engine is left to run in
    services.write(due.setup.bike, "part", {"kind": "piston", "fitted_s": 118 * H})
    assert "Piston and rings" not in page(due).split('id="jobs"')[-1]


def test_what_is_not_ordered_is_told_by_when_and_that_it_is_past(due):
    due.race.document = due.race.document | {"start": (timezone.localdate() + timedelta(days=3)).isoformat() + "T09:00"}
    due.race.save()
    said(due, what="await", job="part:piston", order_days="30")
    assert "that day is past" in page(due)
    said(due, what="await", job="part:piston", order_days="0")
    assert "that day is past" not in page(due)


@pytest.mark.parametrize(
    ("sent", "words"),
    [
        ({"what": "evenings", "week.begins": "soon"}, "A day, like 2027-04-02."),
        ({"what": "evenings", "week.evening_at": "six"}, "An hour of the day, like 18:00."),
        ({"what": "evenings", "week.evening_s": "90 h"}, "Too large: at most 16"),
        ({"what": "evenings", "away": "2027-02-31"}, "A day, like 2027-04-02."),
        ({"what": "await", "job": "part:piston", "arrives": "tomorrow"}, "A day, like 2027-04-02."),
        ({"what": "await", "job": "part:piston", "order_days": "-3"}, "Too small: at least 0"),
        ({"what": "chore", "name": "", "takes_s": "1"}, "required"),
        ({"what": "chore", "name": "wash it", "takes_s": "1 s"}, "Too small: at least 0.0"),
    ],
)
def test_what_a_tired_hand_types_wrong_is_said_and_nothing_is_kept(due, sent, words):
    answer = due.post(f"{due.base}card/week/", sent)
    assert answer.status_code == 422
    assert words in html.unescape(answer.content.decode())
    due.race.refresh_from_db()
    assert "week" not in due.race.document


def test_two_windows_and_a_bike_of_another_garage(due, stranger, client):
    first = sent_back(page(due))
    said(due, what="evenings", **{"week.begins": "2027-04-12"})
    stale = due.post(f"{due.base}card/week/", {"what": "evenings", "was": first["was"], "week.begins": "2027-04-10"})
    assert stale.status_code == 409
    assert "changed in another window" in stale.content.decode()
    assert due.post(f"{due.base}card/week/", {"what": "nonsense"}).status_code == 404
    # small things said at once from two phones both stand
    weeks.change(due.race, lambda week: week | {"chores": [{"id": "a", "name": "a"}]})
    said(due, what="chore", name="b", takes_s="1")
    due.race.refresh_from_db()
    assert [c["name"] for c in due.race.document["week"]["chores"]] == ["a", "b"]
    assert due.race.document["week"]["begins"] == "2027-04-12"
    said(due, what="done", chore="a")
    said(due, what="drop", chore=due.race.document["week"]["chores"][1]["id"])
    due.race.refresh_from_db()
    assert due.race.document["week"]["chores"] == [{"id": "a", "name": "a", "done": True}]


def test_the_races_own_page_leaves_the_week_alone(due):
    said(due, what="evenings", **{"week.begins": "2027-04-12"})
    address = f"/races/{due.race.pk}/"
    answer = due.post(address, sent_back(due.get(address).content.decode()) | {"race.name": "another name"})
    assert answer.status_code == 302
    due.race.refresh_from_db()
    assert (due.race.name, due.race.document["week"]["begins"]) == ("another name", "2027-04-12")


def test_the_calendar_is_read_back_across_a_change_of_clocks(due):
    """vobject, which is no kin of the one that writes it: zones, hours, sequence, ends after beginnings."""
    due.race.document = due.race.document | {"start": "2027-03-29T07:30", "time_zone": "Europe/London"}
    due.race.save()
    said(due, what="evenings", **{"week.begins": "2027-03-22", "week.evening_at": "22:00"})
    said(due, what="await", job="part:piston", order_days="3")
    raw = due.get(f"{due.base}card/week.ics").content.decode()
    read = vobject.readOne(raw)
    events = {e.uid.value.split("-" + str(due.race.uid))[0]: e for e in read.vevent_list}
    # the night of the change: an evening of three hours from ten on Saturday the 27th ends at two, not at one
    late = [e for e in events.values() if getattr(e, "dtend", None) and "RACE" not in e.uid.value.upper()]
    spans = [(e.dtstart.value.astimezone(UTC), e.dtend.value.astimezone(UTC)) for e in late]
    assert all(a < b for a, b in spans)
    worked = sum((b - a).total_seconds() for a, b in spans if b - a < timedelta(hours=4))
    assert worked == pytest.approx(7.5 * H)
    assert max(b for a, b in spans if b - a < timedelta(hours=4)) == datetime(2027, 3, 29, 0, 0, tzinfo=UTC)
    assert events["race"].dtstart.value.astimezone(UTC) == datetime(2027, 3, 29, 6, 30, tzinfo=UTC)
    order = events["order-part-piston"]
    assert isinstance(order.dtstart.value, date)
    assert order.valarm.trigger.value == -timedelta(hours=12)
    assert "VTIMEZONE" in raw
    assert all(len(line.encode()) <= 75 for line in raw.split("\r\n"))
    again = vobject.readOne(due.get(f"{due.base}card/week.ics").content.decode())
    assert {e.uid.value for e in again.vevent_list} == {e.uid.value for e in read.vevent_list}
    assert int(again.vevent_list[0].sequence.value) >= int(read.vevent_list[0].sequence.value)


def tick(client, **data):
    return client.post(f"{client.base}card/week/load/", data, follow=True).content.decode()


def test_the_load_list_ticks_and_remembers_what_was_forgotten_at_the_next_race(demo):
    race = demo.race
    change = {"posts": [{"place": "ford", "who": "Sorrel", "bring": "goggles, water"}]}
    race.document = race.document | {"crew": change}
    race.save()
    shown = page(demo, "card/week/load/")
    for thing in ("extinguisher", "lever", "goggles", "first aid", "spark arrester"):
        assert thing in shown.lower()
    assert "1 of" in tick(demo, packed="post:ford:goggles")
    assert "0 of" in tick(demo, open="post:ford:goggles")
    assert "Say what." in tick(demo, thing="  ", state="open")
    tick(demo, thing="ground   sheet", state="open")
    tick(demo, thing="Goggles", state="forgotten")
    tick(demo, thing="tyre warmer", state="forgotten")
    assert {k: r.state for k, r in loading.said(race).items()} == {
        "post:ford:goggles": "forgotten", "own:ground sheet": "open", "own:tyre warmer": "forgotten",
    }  # fmt: skip
    assert tick(demo, gone="own:ground sheet").count("ground sheet") == 0
    # the next race's list begins with them
    after = Race.objects.create(
        garage=race.garage, course=race.course, rider=race.rider, name="the next", start=race.start + timedelta(days=90),
        document=race.document | {"crew": {}},
    )  # fmt: skip
    assert list(loading.forgotten(after)) == ["post:ford:goggles", "own:tyre warmer"]
    demo.post(reverse("bench:mount"), {"setup": demo.setup.pk, "race": after.pk})
    demo.base = f"/bench/{demo.setup.pk}/{after.pk}/"
    list_of_next = page(demo, "card/week/load/")
    first = list_of_next.split("Forgotten before")[1].split("</section>")[0]
    assert "goggles" in first
    assert f"forgotten at {race.name}" in first
    # remembered no more, at no race
    assert "Forgotten before" in tick(demo, let_go="own:tyre warmer")
    assert "Forgotten before" not in tick(demo, let_go="post:ford:goggles")
    # what is none of the list's states is refused
    assert demo.post(f"{demo.base}card/week/load/", {"key": "own:x", "state": "eaten"}).status_code == 422
    assert demo.post(f"{demo.base}card/week/load/", {"packed": "k" * 400}).status_code == 422


def test_an_electric_bike_and_one_without_a_log_have_a_week_too(demo):
    assert "Nothing is left to do on the bike" in page(demo)
    said(demo, what="chore", name="load the van", takes_s="1.5", at_the_end="on")
    assert "Load the van" in page(demo)
    change_stages(demo.race, lambda stages: stages)
    assert demo.get(f"{demo.base}card/week.ics").status_code == 200
