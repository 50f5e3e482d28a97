"""Range's own pages: stops, tanks and packs, the crew's sheet, the pump; with what a tired hand types wrong."""

import json
import re
from datetime import datetime, timedelta

import pytest
from icalendar import Calendar

from lynxwort.core.asks import stops as planned_stops
from lynxwort.core.stations.range import moments as clocked
from lynxwort.core.stations.range.input import RangeInput
from lynxwort.web.bench.services import open_bench
from lynxwort.web.bikes.forms import FactsPage as BikeFacts
from lynxwort.web.bikes.models import Bike, Setup
from lynxwort.web.races import services as races
from lynxwort.web.races.models import Race, Rider
from lynxwort.web.readings.models import Reading
from lynxwort.web.ui.stale import mark_of
from tests.demo import load
from tests.people import a_member
from tests.support import unled


def text(answer) -> str:
    return unled(answer.content.decode())


def garage(client, name):
    """A demo bike on the bench, signed in."""

    from lynxwort.web.evaluation import door
    from lynxwort.web.garages.models import User

    load(name)
    door._ready.set()
    client.force_login(User.objects.get(username="demo"), backend="django.contrib.auth.backends.ModelBackend")
    client.setup, client.race = Setup.objects.get(), Race.objects.get()
    client.base = f"/bench/{client.setup.pk}/{client.race.pk}/"
    return client


@pytest.fixture
def jetted(db, client):
    return garage(client, "brackenmere")


@pytest.fixture
def electric(db, client):
    return garage(client, "hollowood")


def bench_of(client):
    return open_bench(
        Setup.objects.select_related("bike__garage", "head", "draft").get(pk=client.setup.pk),
        Race.objects.get(pk=client.race.pk),
    )


def place(client, **typed):
    return client.post(f"/races/{client.race.pk}/stages/0/refuel_points/", {"at_m": "20", "name": "ford"} | typed)


def test_a_refuel_point_is_placed_with_its_rate_and_a_bad_one_is_refused(jetted):
    assert place(jetted, rate_m3_per_s="40", fixed_s="25", must_stop="on").status_code == 302
    point = Race.objects.get().document["stages"][0]["refuel_points"][0]
    assert point["rate_m3_per_s"] == pytest.approx(40e-3 / 60)
    assert (point["fixed_s"], point["must_stop"]) == (25.0, True)
    for typed, said in (
        ({"rate_m3_per_s": "0"}, "Too small"),
        ({"at_m": "200"}, "Beyond the end of the course"),
        ({"fixed_s": "-3"}, "Too small"),
        ({"rate_m3_per_s": "3 kg"}, "measures something else"),
    ):
        answer = place(jetted, **typed)
        assert answer.status_code == 422, typed
        assert said in text(answer), typed
    assert len(Race.objects.get().document["stages"][0]["refuel_points"]) == 1


def test_a_plan_is_taken_kept_and_put_back(jetted):
    assert "no refuel point yet" in text(jetted.get(f"{jetted.base}range/stops/"))
    place(jetted)
    page = text(jetted.get(f"{jetted.base}range/stops/"))
    assert "The quickest that holds" in page
    bench = bench_of(jetted)
    plan = planned_stops.plans(RangeInput.of(bench.report.behind.up))[0]
    fills = json.dumps([f.model_dump(exclude_none=True) for f in plan.fills])
    answer = jetted.post(
        f"{jetted.base}range/stops/take/", {"version": bench.draft.version, "fills": fills}, follow=True
    )
    assert "In the draft" in text(answer)
    after = bench_of(jetted)
    assert after.changed == ["stops"]
    assert after.report.value("range.p_finish") == pytest.approx(plan.chance, abs=1e-6)
    assert after.report.value("range.p_finish") >= after.inputs.race.certainty - 1e-9
    assert "Stops" in text(jetted.get(f"{jetted.base}range/"))  # the ledger names it
    stale = jetted.post(
        f"{jetted.base}range/stops/take/", {"version": bench.draft.version, "fills": "none"}, follow=True
    )
    assert "another window" in text(stale)
    for bad in ("", "[1]", '[{"passing": 0}]', "x"):
        assert (
            jetted.post(f"{jetted.base}range/stops/take/", {"version": after.draft.version, "fills": bad}).status_code
            == 404
        )
    jetted.post(f"{jetted.base}range/stops/take/", {"version": after.draft.version, "fills": "none"})
    assert bench_of(jetted).draft.values["stops"] == []
    assert bench_of(jetted).changed == ["stops"]
    jetted.post(f"{jetted.base}range/put-back/", {"version": bench_of(jetted).draft.version, "tunable": "stops"})
    assert bench_of(jetted).changed == []


def test_a_stop_of_ones_own_by_level_or_litres(jetted):
    place(jetted)

    def own(**typed):
        return jetted.post(
            f"{jetted.base}range/stops/", {"version": bench_of(jetted).draft.version, "passing": "2"} | typed
        )

    for typed, said in (
        ({"how": "pour"}, "This is needed"),
        ({"how": "level", "amount_m3": "20"}, "More fuel than the tank holds"),
        ({"how": "pour", "amount_m3": "lots"}, "Not a number"),
        ({"how": "full", "passing": "9"}, "not one of the available choices"),
    ):
        answer = own(**typed)
        assert answer.status_code == 422, typed
        assert said in text(answer), typed
    assert bench_of(jetted).changed == []
    assert own(how="pour", amount_m3="4.5").status_code == 302
    assert own(how="level", amount_m3="9", passing="1").status_code == 302
    assert bench_of(jetted).draft.values["stops"] == [
        {"passing": 1, "to_level_m3": pytest.approx(0.009)},
        {"passing": 2, "add_m3": pytest.approx(0.0045)},
    ]
    bench = bench_of(jetted)
    here = planned_stops.cans(RangeInput.of(bench.report.behind.up))
    assert [(c.times, c.name) for c in here] == [(2, "ford")]
    assert here[0].most > here[0].likely > 0.0045
    assert "As planned" in text(jetted.get(f"{jetted.base}range/stops/"))
    jetted.post(f"{jetted.base}range/stops/take/", {"version": bench.draft.version, "drop": "1"})
    assert bench_of(jetted).draft.values["stops"] == [{"passing": 2, "add_m3": pytest.approx(0.0045)}]


def test_tanks_and_packs_are_typed_as_lines_and_bad_ones_refused(electric):
    bike = Bike.objects.get()
    page = text(electric.get(f"/bikes/{bike.pk}/facts/"))
    assert "long; 6; 42" in page
    form = BikeFacts({"bike.engine.packs": "tall; 96 x 62; 55; ; 20; ; "}, preset="metric", kind="electric")
    form.is_valid()
    assert form.cleaned_data["bike.engine.packs"][0]["energy_j"] == pytest.approx(96 * 62 * 3600.0)
    for line, field, kind in (
        ("tall; 9", "bike.engine.packs", "electric"),
        ("tall; 3; 5; 60; 0; ;", "bike.frame.other_tanks", "jetted_two_stroke"),
        ("tall; lots; ; ; ; ;", "bike.frame.other_tanks", "jetted_two_stroke"),
    ):
        form = BikeFacts({field: line}, preset="metric", kind=kind)
        form.is_valid()
        assert field in form.errors, line


def test_the_crews_sheet_goes_out_as_calendar_and_table(jetted):
    place(jetted)
    page = text(jetted.get(f"{jetted.base}range/crew/"))
    moments = clocked.moments(RangeInput.of(bench_of(jetted).kept.behind.up))
    assert page.count("<tr>") >= len(moments)
    calendar = Calendar.from_ical(jetted.get(f"{jetted.base}crew.ics").content)
    events = calendar.walk("VEVENT")
    assert len(events) == len(moments)
    start = Race.objects.get().start
    assert events[0]["dtstart"].dt == start
    for event, moment in zip(events, moments, strict=True):
        assert (event["dtend"].dt - event["dtstart"].dt).total_seconds() == pytest.approx(
            moment.late_s - moment.early_s, abs=1.5
        )
    rows = text(jetted.get(f"{jetted.base}crew.csv")).splitlines()
    assert len(rows) == len(moments) + 1
    assert rows[1].startswith("start,")


def pump(client, **typed):
    bench = bench_of(client)
    coming = planned_stops.to_come(RangeInput.of(bench.kept.behind.up), 0, bench.kept.behind.up.supply.store.aboard)
    return client.post(
        f"{client.base}range/pump/", {"passing": str(coming[0].passed.number), "level_m3": "11.5"} | typed
    )


def test_litres_typed_at_the_pump_change_what_is_to_come(jetted):
    Reading.objects.filter(document__kind="fill_up").delete()
    place(jetted)
    before = bench_of(jetted)
    first = planned_stops.to_come(RangeInput.of(before.kept.behind.up), 0, before.kept.behind.up.supply.store.aboard)[0]
    assert "Next stop" in text(jetted.get(f"{jetted.base}range/pump/"))
    likely = 1000 * (before.kept.behind.up.supply.store.aboard - first.before)
    for typed, said in (
        ({"put_m3": ""}, "This field is required"),
        ({"put_m3": "-2"}, "Too small"),
        ({"put_m3": "3 kg"}, "measures something else"),
        ({"put_m3": "3", "passing": "77"}, "not one of the available choices"),
        ({"put_m3": "3", "level_m3": "30"}, "More fuel than the tank holds"),
    ):
        answer = pump(jetted, **typed)
        assert answer.status_code == 422, typed
        assert said in text(answer), typed
    assert not Reading.objects.filter(document__kind="fill_up").exists()
    assert pump(jetted, put_m3=f"{1.1 * likely:.2f}").status_code == 302
    after = bench_of(jetted)
    reading = Reading.objects.get(document__kind="fill_up")
    # who helps at the pits may send this, and no more: its form alone keeps its button
    jetted.force_login(a_member(jetted.race.garage, "crew"), backend="django.contrib.auth.backends.ModelBackend")
    forms = re.findall(r'<form\b[^>]*method="post"[^>]*>', jetted.get(f"{jetted.base}range/pump/").content.decode())
    assert any("data-not-yours" not in tag for tag in forms)
    assert jetted.post(f"{jetted.base}range/stops/", {}).status_code == 403
    assert reading.document["to_m"] == pytest.approx(first.passed.race_m)
    assert after.kept.value("range.k_sd") < 0.6 * before.kept.value("range.k_sd")
    page = text(jetted.get(f"{jetted.base}range/pump/"))
    assert "burnt" in page


def test_tanks_and_packs_stand_side_by_side_and_one_is_tried(jetted):
    page = text(jetted.get(f"{jetted.base}range/holders/"))
    assert "smallest that does it" in page
    assert "tall" in page
    bike = Bike.objects.get()
    facts = jetted.get(f"/bikes/{bike.pk}/facts/")
    assert "tall; 14.5; 0.6; 64; 0.9; 310; 30" in text(facts)
    bench = bench_of(jetted)
    moves = json.dumps([["tank_capacity_m3", 0.0145], ["fuel_fill_m3", 0.0145]])
    jetted.post(f"{jetted.base}range/notch/", {"version": bench.draft.version, "moves": moves})
    assert bench_of(jetted).inputs.setup.tank_capacity_m3 == 0.0145
    assert bench_of(jetted).report.value("range.unusable") == pytest.approx(0.0006)


def test_an_electric_bike_chooses_its_pack_and_has_no_pump(electric):
    page = text(electric.get(f"{electric.base}range/holders/"))
    assert "Power modes" in page
    assert "long" in page
    assert "High voltage can kill" in page
    assert electric.get(f"{electric.base}range/pump/").status_code == 404
    assert electric.get(f"{electric.base}range/crew/").status_code == 200
    assert electric.get(f"{electric.base}range/stops/").status_code == 200


def test_a_team_by_turns(jetted):
    race = Race.objects.select_related("garage").get()
    ivo = races.save_rider(race.garage, {"name": "Ivo Marrel", "mass_in_gear_kg": 70.0, "pace": 0.55})
    form = {
        "race.name": race.name,
        "race.start": "2027-04-18T07:30",
        "race.time_zone": "Europe/London",
        "race.air.temperature_low_k": "3",
        "race.air.temperature_high_k": "16",
        "race.air.pressure_kind": "sea_level",
        "race.air.pressure_pa": "1021",
        "rider": str(race.rider_id),
        "team": "on",
    }
    alone = jetted.post(f"/races/{race.pk}/", form)
    assert alone.status_code == 422
    assert "two riders" in text(alone)
    done = jetted.post(f"/races/{race.pk}/", form | {"others": [str(ivo.pk)], "race.relay.hand_over_s": "60"})
    assert done.status_code == 302
    assert Race.objects.get().document["relay"] == {"hand_over_s": 60.0}
    page = text(jetted.get(f"{jetted.base}range/crew/"))
    assert "Who rides what" in page
    assert "Ivo Marrel" in page
    assert "hand-over" in page
    assert Rider.objects.count() == 2
    for where in (
        "range/",
        "range/stops/",
        "range/pump/",
        "card/",
        "purpose/",
    ):  # 0.8.0: 500 where a team rides by laps
        assert jetted.get(f"{jetted.base}{where}").status_code == 200, where
    tight = jetted.post(f"/races/{race.pk}/", form | {"others": [str(ivo.pk)], "race.relay.longest_stint_s": "10"})
    assert tight.status_code == 302
    assert "left to nobody" in text(jetted.get(f"{jetted.base}range/crew/"))


def test_each_rider_of_a_team_has_what_is_turned_for_him(jetted):
    """Preloads that suit taken in one press, a wheel and levers of one's own; the crew reads it at the hand-over; what
    is typed wrong is refused at its field and nothing is lost; kept, it comes back after a hand-over the other way.
    """
    address = f"{jetted.base}range/crew/turned/"
    assert jetted.get(address).status_code == 404  # one rider
    race = jetted.race
    bryn = races.save_rider(race.garage, {"name": "Bryn Aske", "mass_in_gear_kg": 104.0})
    document = race.document | {"relay": {"hand_over_s": 60.0}}
    Race.objects.filter(pk=race.pk).update(document=document)
    race.others.set([bryn])
    assert "What is turned for each rider" in text(jetted.get(f"{jetted.base}range/crew/"))
    page = text(jetted.get(address))
    assert "Bryn Aske" in page
    assert "outside its band" in page
    version = bench_of(jetted).draft.version
    own = {
        "rider": "1",
        "version": version,
        "r1-l0-rear_wheel": "2",
        "r1-l0-also": "levers down",
        "r1-l0-shock_rebound_clicks": "many",
    }
    refused = jetted.post(address, own)
    assert refused.status_code == 422
    assert "Not a number" in text(refused)
    assert 'value="levers down"' in text(refused)
    assert not bench_of(jetted).inputs.setup.turned
    assert "go beyond what this bike has" in text(jetted.post(address, own | {"r1-l0-shock_rebound_clicks": "38"}))
    assert not bench_of(jetted).inputs.setup.turned
    assert jetted.post(address, own | {"r1-l0-shock_rebound_clicks": "9", "suit": "1"}).status_code == 302
    assert "for 1 rider" in text(jetted.get(address))  # the ledger says it
    setup = bench_of(jetted).inputs.setup
    assert setup.turned_for("Bryn Aske")["shock_preload_m"] > setup.shock_preload_m
    assert setup.turned_for("Bryn Aske") | {"shock_preload_m": 0, "fork_preload_m": 0} == {
        "rear_wheel": 2, "shock_rebound_clicks": 9, "shock_preload_m": 0, "fork_preload_m": 0,
    }  # fmt: skip
    # a page that is behind moves nothing
    jetted.post(address, own | {"r1-l0-shock_rebound_clicks": "3"})
    assert bench_of(jetted).inputs.setup.turned_for("Bryn Aske")["shock_rebound_clicks"] == 9
    version = bench_of(jetted).draft.version
    jetted.post(f"{jetted.base}range/keep/", {"version": version, "reason": "a team", "back": address})
    sheet = text(jetted.get(f"{jetted.base}range/crew/"))
    for words in (
        "set for Bryn Aske: shock preload 12.0 mm → 15.0 mm",
        "levers down",
        "on to Wren: shock preload 15.0",
    ):
        assert words in sheet, words
    assert any(f.code == "turning_outlasts" for f in bench_of(jetted).report.findings)
    # the event marks the wheels: the swap is told as what it may cost, on crew's sheet and time card it stands what is marked
    shown = jetted.get(f"/races/{race.pk}/")
    assert 'name="marked"' in text(shown)
    Race.objects.filter(pk=race.pk).update(document=race.document | document | {"marked": ["wheels", "frame"]})
    assert any(f.code == "marked_swapped" and f.severity == "act" for f in bench_of(jetted).report.findings)
    assert "not to be replaced before the finish: wheels, frame" in text(jetted.get(f"{jetted.base}range/crew/"))
    assert "Marked: wheels, frame" in text(jetted.get(f"{jetted.base}range/time-card/"))
    # on one of the legs alone: the form names those that are likely ridden; the crew reads it there, and there only
    assert "legs alone" not in text(jetted.get(address))  # each has one
    short = document["relay"] | {"longest_stint_s": 5000.0}
    Race.objects.filter(pk=race.pk).update(document=race.document | document | {"relay": short})
    form = text(jetted.get(address))
    assert "On one of Wren’s legs alone" in form
    version = bench_of(jetted).draft.version
    one = {"rider": "0", "leg": "100", "version": version, "r0-l100-leg": "2", "r0-l100-fork_rebound_clicks": "3"}
    assert jetted.post(address, one | {"r0-l100-leg": "60"}).status_code == 422
    assert jetted.post(address, one).status_code == 302
    setup = bench_of(jetted).inputs.setup
    assert setup.turned_for("Wren", 2) == setup.turned_for("Wren") | {"fork_rebound_clicks": 3}
    assert "for 2 riders" in text(jetted.get(address))
    version = bench_of(jetted).draft.version
    jetted.post(f"{jetted.base}range/keep/", {"version": version, "reason": "the rocky leg", "back": address})
    sheet = text(jetted.get(f"{jetted.base}range/crew/"))
    assert re.findall(r"on to ([\w ]+): [^<]*?(?:fork rebound, clicks out (\S+ → \S+),|<)", sheet) == [
        ("Bryn Aske", ""),
        ("Wren", "12 → 3"),
    ]
    for rider, leg in (("0", "2"), ("1", "0")):
        version = bench_of(jetted).draft.version
        jetted.post(address, {"rider": rider, "leg": leg, "version": version})
    assert not bench_of(jetted).inputs.setup.turned
    assert jetted.post(address, {"rider": "0", "leg": "2", "version": version}).status_code == 404
    assert jetted.post(address, {"rider": "7", "version": version}).status_code == 404


def test_the_sheets_come_as_one_file_and_the_page_says_what_the_connection_allows(jetted):
    """One file without a script or an address of the van; in clear nothing is kept by the browser, and it says so."""
    page = jetted.get(f"{jetted.base}sheets.html")
    assert page["Content-Disposition"] == 'attachment; filename="sheets.html"'
    alone = text(page)
    for words in (jetted.race.name, "Crew sheet", "Time card", "key time", "Made "):
        assert words in alone, words
    assert not re.search(r"<script|<link|(src|href)=.(/|http)", alone)
    address = f"{jetted.base}range/crew/phone/"
    here, clear = (text(jetted.get(address, HTTP_HOST=host)) for host in ("127.0.0.1", "10.1.2.3:8000"))
    assert 'data-secure="yes">' in here
    assert 'data-secure="no" hidden' in here
    assert 'data-secure="yes" hidden' in clear
    jetted.logout()
    assert jetted.get("/sheets.js")["Content-Type"].startswith("text/javascript")
    assert json.loads(jetted.get("/app.webmanifest").content)["start_url"] == "/"


# what else is done at a stop ----------------------------------------------------------------------------------------------
def test_a_tyre_at_a_stop_takes_its_minutes_in_plan_and_on_the_crew_sheet(jetted):
    """The point's form takes it; the stop stands longer by as much, the finish later by as much, the crew reads what to do."""
    address = f"/races/{jetted.race.pk}/stages/0/refuel_points/"
    point = {"at_m": "31 km", "name": "ford", "fixed_s": "20 s", "must_stop": "on"}
    assert jetted.post(address, point | {"also": "rear tyre", "also_s": "soon"}).status_code == 422
    assert jetted.post(address, point).status_code == 302
    plain = bench_of(jetted).report.value("range.arrival.finish")
    jetted.race.refresh_from_db()
    mark = mark_of(jetted.race.document["stages"][0]["refuel_points"][0])
    assert jetted.post(address, point | {"also": "rear tyre", "also_s": "6 min", "mark": mark}).status_code == 302
    work = bench_of(jetted)
    stops = int(work.report.value("range.stops"))
    assert stops >= 1
    assert work.report.value("range.arrival.finish") == pytest.approx(plain + stops * 360.0, abs=1.0)
    assert "; rear tyre" in text(jetted.get(f"{jetted.base}range/crew/"))


# time card --------------------------------------------------------------------------------------------------------------
def test_the_time_card_counts_from_ones_own_minute_by_the_schedule(db, client):
    """Due = start + minute + the allowed times so far, by hand; ~ from the first stage on that has none; print and odd minutes."""
    on = garage(client, "gannach")
    stages = on.race.document["stages"]
    page = text(on.get(f"{on.base}range/time-card/?minute=12"))
    start = datetime.fromisoformat(on.race.document["start"]) + timedelta(minutes=12)
    assert f'key-time">{start:%H:%M}' in page
    due, known = start, True
    for stage in stages:
        known = known and "allowed_s" in stage
        if not known:
            break
        due += timedelta(seconds=stage["allowed_s"])
        assert f"<b>{due:%H:%M}</b>" in page
    for bad in ("-3", "soon", "9999"):
        assert on.get(f"{on.base}range/time-card/", {"minute": bad}).status_code == 422
    assert "Print for the bars" in text(on.get(f"{on.base}range/time-card/"))
    # a stage without a time allowed is only likely from there on
    on.race.document["stages"][0].pop("allowed_s", None)
    on.race.save()
    assert "~" in text(on.get(f"{on.base}range/time-card/"))


# packs ------------------------------------------------------------------------------------------------------------------
def with_engine(client, **facts):
    row = client.setup.bike
    row.document["engine"] |= facts
    row.save()


def test_packs_chargers_and_heat_stand_in_their_room(electric):
    page = text(electric.get(f"{electric.base}range/holders/"))
    for words in (
        "Charging between two rides",
        "The generator gives the charger only 2",
        "Full after",
        "Motor, hottest",
    ):
        assert words in page, words
    with_engine(electric, charger_w=None, generator_w=None)
    assert "Say what the charger gives" in text(electric.get(f"{electric.base}range/holders/"))


def test_two_packs_go_round_on_the_plan_and_the_crew_sheet(electric):
    """A swap after the first stage and two packs, nothing to charge with: the second goes out full, then nothing better waits."""
    race = electric.race
    race.document["stages"][0] |= {"refuel_after": True, "refuel_points": [{"at_m": 0.0, "name": "van"}]}
    race.save()
    with_engine(electric, packs_alike=2, charger_w=None)
    page = text(electric.get(f"{electric.base}range/stops/"))
    assert "Packs go round" in page
    assert "The quickest that holds" not in page
    assert "never charge" in page.lower()
    crew = text(electric.get(f"{electric.base}range/crew/"))
    assert "swap the pack, likely 99.9" in crew or "swap the pack, likely 100" in crew
    assert "the emptiest pack goes out 100" in text(electric.get(f"{electric.base}range/"))
