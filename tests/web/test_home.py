"""All day at home: units of one's own, the parts box and its file, comparing and branching, the stand, search, painting, the card as a file, another language."""

import csv
import html
import io
import json
import re
import time
from datetime import timedelta

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.urls import reverse
from django.utils import timezone
from django.utils.html import escape
from hypothesis import given, settings
from hypothesis import strategies as st

from lynxwort.core import report
from lynxwort.core.errors import InputRefused
from lynxwort.core.model.parts import KINDS
from lynxwort.core.units.convert import OPTIONS, chosen_units
from lynxwort.core.units.lines import read_values, write_value
from lynxwort.web.bench import services as bench_services
from lynxwort.web.bench import standing
from lynxwort.web.bench.models import Pairing
from lynxwort.web.bikes.models import Bike, Draft, Revision, Setup
from lynxwort.web.jobs import worker
from lynxwort.web.jobs.models import Job
from lynxwort.web.parts import services as parts
from lynxwort.web.parts.models import OwnedPart
from lynxwort.web.races.models import Race, Rider
from lynxwort.web.readings.models import Reading
from lynxwort.words.explained.glossary import TERMS
from tests.full_garage import fill
from tests.support import unled

HX = {"HTTP_HX_REQUEST": "true"}
STATIONS = ("purpose", "baseline", "chassis", "fuelling", "drive", "range")


def notch(client, tunable, value, station="drive", base=None, setup=None):
    version = Draft.objects.get(setup=setup or client.setup).version
    return client.post(
        f"{base or client.base}{station}/notch/", {"version": version, "moves": json.dumps([[tunable, value]])}, **HX
    )


def keep(client, reason, station="drive"):
    return client.post(
        f"{client.base}{station}/keep/",
        {"version": Draft.objects.get(setup=client.setup).version, "reason": reason},
        **HX,
    )


def benches():
    return [
        (p.race.document, f"/bench/{p.setup_id}/{p.race_id}/")
        for p in Pairing.objects.select_related("race").order_by("race__start")
    ]


# units ------------------------------------------------------------------------------------------------------------------
def test_every_choice_of_units_shows_the_same_bike(demo):
    pages = {}
    for wanted in ({}, {"distance": "mi"}, {k: v[-1] for k, v in OPTIONS.items()}):
        choices = {k: v[0] for k, v in OPTIONS.items()} | wanted
        assert demo.post(reverse("garages:settings"), choices | {"theme": "night"}).status_code == 302
        pages[json.dumps(wanted)] = [demo.get(f"{demo.base}{s}/").content.decode() for s in STATIONS]
    shown = [[re.findall(r'data-figure="([^"]+)" data-si="([^"]+)"', p) for p in found] for found in pages.values()]
    assert shown[0] == shown[1] == shown[2]
    texts = ["".join(p) for p in pages.values()]
    assert 'data-theme="night"' in texts[0]
    assert ("41.5 km" in texts[0], "25.8 mi" in texts[1], "N/mm" in texts[1]) == (True, True, True)
    for sign in ("25.8 mi", "imp gal", "lbf/in", "inHg", "°F", " lb"):
        assert sign in texts[2], sign
    assert demo.post(reverse("garages:settings"), choices | {"theme": "dusk"}).status_code == 422


def test_a_bare_gallon_is_the_persons_own(demo):
    demo.post(
        reverse("garages:settings"), {k: v[0] for k, v in OPTIONS.items()} | {"volume": "imp gal", "theme": "auto"}
    )
    for typed, litres in (("1.9 gal", 8.637571), ("1.9 US gal", 7.192282), ("8 L", 8.0)):
        demo.post(
            f"{demo.base}range/notch/",
            {"version": Draft.objects.get().version, "tunable": "fuel_fill_m3", "typed": typed},
            **HX,
        )
        assert Draft.objects.get().values["fuel_fill_m3"] == pytest.approx(litres / 1000, rel=1e-6), typed


# parts ------------------------------------------------------------------------------------------------------------------
def test_several_parts_from_one_line_and_nonsense_refused(demo):
    assert (
        demo.post(
            "/parts/", {"kind": "main_jet", "text": "172.5 175, 178", "count": 2, "condition": "new", "place": "tin"}
        ).status_code
        == 302
    )
    assert set(OwnedPart.objects.filter(place="tin").values_list("value", "count", "condition")) == {
        (v, 2, "new") for v in (172.5, 175.0, 178.0)
    }
    demo.post(
        "/parts/", {"kind": "shock_spring_rate_n_per_m", "text": "5.6 kgf/mm; 58", "count": 1, "condition": "good"}
    )
    assert OwnedPart.objects.filter(kind="shock_spring_rate_n_per_m", value__range=(54917.2, 54917.3)).exists()
    for kind, text, words in (
        ("main_jet", "", "required"),
        ("main_jet", "165 big", "not known here"),
        ("main_jet", "big", "Not a number"),
        ("main_jet", "0.1", "Outside what such a part can be"),
        ("main_jet", "3 kg", "something else"),
        ("needle", "0=2.7; 10", "Write a needle"),
        ("needle", "10=2.7; 0=2.5", "must rise"),
        ("needle", "0=2.5; 10=2.7", "does not grow"),
        ("wheel", "left 140/80-18", "Write a wheel"),
        ("wheel", "rear fat", "sidewall"),
        ("shim", "24", "Write shims"),
        ("front_sprocket_teeth", "13.5", "whole number"),
    ):
        before = OwnedPart.objects.count()
        answer = demo.post("/parts/", {"kind": kind, "text": text, "count": 1, "condition": "good"})
        assert answer.status_code == 422, text
        assert words in html.unescape(unled(answer.content.decode())), text
        assert OwnedPart.objects.count() == before
    part = OwnedPart.objects.filter(kind="main_jet", value=168.0).get()
    demo.post(f"/parts/{part.pk}/", {"count": 3, "condition": "spent", "place": "", "label": "worn"})
    assert 168.0 not in parts.parts_box(part.garage).main_jet
    demo.post(f"/parts/{part.pk}/", {"count": 0, "condition": "good"})
    part.refresh_from_db()
    assert (part.count, part.condition) == (3, "spent")
    demo.post(f"/parts/{part.pk}/remove/")
    assert not OwnedPart.objects.filter(pk=part.pk).exists()


def test_the_box_goes_to_a_file_and_back_the_same(whole, client, stranger):
    written = whole.get(reverse("parts:export")).content
    rows = ("kind", "value", "details", "label", "count", "condition", "place")
    before = list(OwnedPart.objects.values_list(*rows))
    client.force_login(stranger, backend="django.contrib.auth.backends.ModelBackend")
    table = list(csv.reader(io.StringIO(written.decode())))

    def again(delimiter):
        out = io.StringIO()
        csv.writer(out, delimiter=delimiter).writerows(table)
        return out.getvalue().encode()

    for form in (written, again(";"), again("\t"), b"\xef\xbb\xbf" + written):
        assert client.post(reverse("parts:file"), {"file": io.BytesIO(form)}).status_code == 302
        mine = OwnedPart.objects.filter(garage__memberships__user=stranger)
        assert list(mine.values_list(*rows)) == before
        assert client.get(reverse("parts:export")).content == written


@pytest.mark.parametrize(
    ("content", "words"),
    [
        (b"", "empty"),
        (b"a,b\n1,2", "first line must name"),
        (b"kind,value\nwings,3", "line 2"),
        (b"kind,value,unit\nmain_jet,165,\nmain_jet,big,", "line 3"),
        (b"kind,value,count\nmain_jet,165,many", "whole number"),
        (b"kind,value,condition\nmain_jet,165,rusty", "Choose one"),
        (b"\xff\xfe\x00", "Text, please"),
        (b"kind,value\n" + b"main_jet,165\n" * 2100, "Too many"),
        (b"kind,value\nmain_jet," + b"9" * 1_100_000, "over 1 MB"),
        (b"kind,value\nmain_jet," + b"165 " * 20_000, "Too long"),
        (b"kind,value" + b",x" * 300 + b"\nmain_jet,165", "columns"),
    ],
)
def test_a_broken_file_of_parts_is_refused_by_line_and_nothing_is_taken(demo, content, words):
    before = list(OwnedPart.objects.values())
    answer = demo.post(reverse("parts:file"), {"file": io.BytesIO(content)})
    assert answer.status_code == 422
    assert words in html.unescape(answer.content.decode())
    assert list(OwnedPart.objects.values()) == before


UNITS = st.builds(
    chosen_units,
    st.sampled_from(["metric", "us"]),
    st.fixed_dictionaries({k: st.sampled_from(v) for k, v in OPTIONS.items()}),
)


@given(
    kind=st.sampled_from([k for k in KINDS if k not in ("needle", "wheel", "shim")]),
    value=st.floats(0.05, 2e5),
    units=UNITS,
)
@settings(max_examples=150, deadline=None)
def test_a_written_part_reads_back_the_same_whoever_reads_it(kind, value, units):
    try:
        part = parts.checked(read_values(kind, repr(value), units)[0])
    except InputRefused:
        return
    text, unit = write_value(part)
    assert parts.checked(read_values(kind, f"{text} {unit}", units)[0]).value == pytest.approx(part.value, rel=1e-11)


# revisions --------------------------------------------------------------------------------------------------------------
def test_two_kept_setups_are_compared_as_they_were_judged(demo):
    notch(demo, "rear_sprocket_teeth", 50)
    keep(demo, "sand climb")
    notch(demo, "main_jet", 168.0, "fuelling")
    keep(demo, "cold start", "fuelling")
    first, third = Revision.objects.get(number=1), Revision.objects.get(number=3)
    page = html.unescape(
        demo.get(reverse("bikes:compare", args=[demo.setup.pk]), {"a": first.pk, "b": third.pk}).content.decode()
    )
    for words in (
        "Rear sprocket",
        "Main jet",
        "sand climb",
        "cold start",
        "Does not pull",
        "better",
        "Lean margin",
        "No. 1 against No. 3",
    ):
        assert words in page, words
    rider = Rider.objects.get()
    rider.document = rider.document | {"mass_in_gear_kg": 120.0}
    rider.save()
    assert demo.get(
        reverse("bikes:compare", args=[demo.setup.pk]), {"a": first.pk, "b": third.pk}
    ).content.decode().count("better") == page.count("better")
    for query in ({}, {"a": first.pk, "b": first.pk}, {"a": "x", "b": "y"}, {"a": 99999, "b": first.pk}):
        assert demo.get(reverse("bikes:compare", args=[demo.setup.pk]), query).status_code == 302


def test_name_branch_and_copy(whole):
    quern = Setup.objects.get(bike__name="Quern 293")
    kept = quern.head
    whole.post(reverse("bikes:name", args=[kept.pk]), {"name": "dry spring"})
    whole.post(reverse("bikes:branch", args=[kept.pk]), {"name": ""})
    assert Setup.objects.filter(bike=quern.bike).count() == 1
    whole.post(reverse("bikes:branch", args=[kept.pk]), {"name": "wet"})
    wet = Setup.objects.get(name="wet")
    assert (wet.draft.values, wet.draft.parent, wet.title) == (kept.values, kept, "Quern 293, wet")
    race = Race.objects.get(name__startswith="Brackenmere")
    whole.post(reverse("bench:mount"), {"setup": wet.pk, "race": race.pk})
    wet.refresh_from_db()
    assert wet.head.parent == kept
    assert Pairing.objects.get(race=race).setup == wet
    address = reverse("bikes:copy", args=[kept.pk])
    vole = Setup.objects.get(bike__name="Vole E")
    assert whole.post(address, {"setup": vole.pk, "take": "main_jet", "version": vole.draft.version}).status_code == 302
    assert "main_jet" not in Setup.objects.get(bike__name="Vole E").draft.values
    # another bike with its own jet and springs, and a smaller tank: each with what it would do there
    document = kept.setup.bike.document | {"name": "Quern 250"}
    other = Setup.objects.create(
        bike=Bike.objects.create(garage=quern.bike.garage, name="Quern 250", document=document)
    )
    own = {"main_jet": 150.0, "fork_spring_rate_n_per_m": 4000.0, "tank_capacity_m3": 0.008, "fuel_fill_m3": 0.008}
    Draft.objects.create(setup=other, values=kept.values | own)
    whole.post(reverse("bench:mount"), {"setup": other.pk, "race": Race.objects.get(name__startswith="Saltern").pk})
    other.refresh_from_db()
    page = whole.get(address, {"setup": other.pk}).content.decode()
    ticks = dict(re.findall(r'name="take" value="(\w+)"( checked)?', page))
    assert set(ticks) == set(own)
    # what ran right on one engine is not taken for another by itself
    assert {f for f, ticked in ticks.items() if not ticked} == {"main_jet"}
    assert "prove the pair anew" in page
    assert re.search(r"4\.0.{0,40}→.{0,40}4\.4", page, re.S)
    assert page.count('class="outs"') == len(own)
    version = other.draft.version
    answer = whole.post(address, {"setup": other.pk, "take": ["fork_spring_rate_n_per_m"], "version": version})
    assert answer["Location"].startswith(f"/bench/{other.pk}/")  # to where the draft is
    other.draft.refresh_from_db()
    assert other.draft.values == kept.values | own | {"fork_spring_rate_n_per_m": 4400.0}
    assert other.draft.past[-1] == kept.values | own
    # twice, by a page that is older, or with nothing ticked: nothing is changed
    for sent in ({"take": ["tank_capacity_m3"], "version": version}, {"version": version + 1}):
        whole.post(address, {"setup": other.pk} | sent)
        other.draft.refresh_from_db()
        assert other.draft.values["tank_capacity_m3"] == 0.008
    history = whole.get(reverse("bikes:history", args=[quern.pk])).content.decode()
    assert "dry spring" in history
    assert "Line: Quern 293, wet" in history


# the stand, search, budgets ---------------------------------------------------------------------------------------------
def test_the_stand_says_what_is_unsettled_and_what_to_do_next(whole):
    page = html.unescape(whole.get("/").content.decode())
    for words in (
        "main 165 too lean",
        "Round the tarn",
        "Main 165 too lean at the cold low point",
        "Hollowood two stages",
    ):
        assert words in page, words
    race = Race.objects.get(name__startswith="Brackenmere")
    Race.objects.filter(pk=race.pk).update(version=race.version + 1)
    assert "being judged again" in whole.get("/").content.decode()
    while worker.run_next():
        pass
    assert "being judged again" not in whole.get("/", **HX).content.decode()
    Pairing.objects.all().delete()
    assert "Put a bike on the bench for it" in whole.get("/").content.decode()


def test_a_standing_is_out_of_date_when_anything_it_rests_on_changes(demo):
    def fresh():
        return all(s.fresh for s in standing.standings(demo.setup.bike.garage))

    def judged():
        while worker.run_next():
            pass
        assert fresh()

    demo.get(f"{demo.base}purpose/")
    assert fresh()
    OwnedPart.objects.first().delete()
    assert fresh()
    demo.post("/riders/" + str(demo.race.rider_id) + "/", {"rider.name": "Wren", "rider.mass_in_gear_kg": "90"})
    assert not fresh()
    judged()
    demo.post(f"{demo.base}readings/sag/", {"which": "front_free", "value_m": "34 mm", "fuel_aboard_m3": "6"})
    assert not fresh()
    judged()
    demo.post(f"{demo.base}strike/{demo.setup.bike.readings.last().pk}/", {"struck": "1"})
    assert not fresh()
    judged()
    demo.post(f"/races/{demo.race.pk}/stages/0/crew_points/", {"at_m": "3", "name": "gate"})
    assert not fresh()
    judged()
    bike = Bike.objects.get()
    bike.document["frame"]["mass_dry_kg"] = 99.0
    bike.save()
    assert not fresh()
    judged()
    notch(demo, "rear_sprocket_teeth", 50)
    assert fresh()
    keep(demo, "sand climb")
    assert fresh()
    assert Pairing.objects.get().standing["verdicts"]["drive"] == "look"
    bike.document["frame"]["mass_dry_kg"] = 104.0
    bike.save()
    assert not fresh()


def test_how_another_core_said_it_stood_is_not_read_but_judged_again(demo):
    """A database of an older version: findings without what today's words need, or with codes that are gone."""
    demo.get(f"{demo.base}purpose/")
    row = Pairing.objects.get()
    row.standing |= {
        "core_version": "2026.1.0",
        "findings": [{"station": "fuelling", "code": "a_code_of_old", "severity": "act"}],
    }
    row.key = "as another core knew it"
    row.save()
    assert "being judged" in demo.get("/").content.decode()
    while worker.run_next():
        pass
    assert "being judged" not in demo.get("/", **HX).content.decode()


def test_search_finds_everything(whole):
    Revision.objects.filter(setup__bike__name="Quern 293").update(reason="for the sand climb")
    for text, found in (
        ("quern", "Quern 293"),
        ("isk", "Isk"),
        ("saltern", "Saltern flats"),
        ("sand climb", "Quern 293 No. 1"),
        ("mud wheel", "Wheel mud wheel"),
        ("165", "Main jet"),
        ("race sag", "Rear race sag"),
        ("units", "Units, language, account"),
        ("back", "Back-ups"),
        ("fuelling", "station"),
        ("xyzzy", "Nothing called"),
    ):
        assert found in html.unescape(whole.get(reverse("bench:search"), {"q": text}, **HX).content.decode()), text
    assert whole.get(reverse("bench:search"), {"q": "<script>"}).content.decode().count("<script>") == 0
    assert whole.get(reverse("bench:search")).status_code == 200


def test_a_full_garage_asks_no_more_questions(demo, django_assert_max_num_queries):
    """200 revisions, 50 bikes, 100 courses and races."""
    setup, race = demo.setup, demo.race
    fill(setup, race)
    for address, most in (
        ("/", 24),
        (reverse("bikes:history", args=[setup.pk]), 14),
        (f"{demo.base}drive/", 19),
        ("/parts/", 8),
        ("/riders/", 8),
        (f"/races/{race.pk}/", 12),
        (f"/races/{race.pk}/stages/0/", 10),
        (reverse("bench:search") + "?q=race", 16),
        ("/races/new/", 8),
    ):
        with django_assert_max_num_queries(most):
            answer = demo.get(address)
        assert answer.status_code == 200
        assert len(answer.content) < 400_000, address
    page = bench_services.open_bench(Setup.objects.get(pk=setup.pk), race)
    assert page.kept.value("drive.top_speed") > 0


# painting ---------------------------------------------------------------------------------------------------------------
@pytest.mark.parametrize(
    ("query", "low", "high"),
    [
        ({"tap": "0.25"}, 10_256, 10_256),
        ({"from": "10256", "to": "10256", "next": "to", "tap": "0.5"}, 10_256, 20_764),
        ({"tap": "0.5", "tap_to": "0.25"}, 10_256, 20_764),
        ({"from": "100", "to": "900", "nudge": "to:100.0"}, 100, 1000),
        ({"from": "100", "to": "900", "nudge": "from:-500"}, 0, 900),
        ({"from": "100", "to": "900", "nudge": "from:5000"}, 5100, 5100),
        ({"handle_from": "300", "to": "900"}, 300, 900),
        ({"from": "100", "to": "900", "typed_to": "2 mi"}, 100, 3219),
        ({"from": "nan", "to": "1e999"}, 0, 1000),
        ({"from": "100", "to": "900", "typed_from": "far"}, 100, 900),
        ({"from": "-5", "to": "9e9"}, 0, 41_528),
        ({"tap": "7"}, 41_528, 41_528),
    ],
)
def test_every_way_of_choosing_a_stretch(demo, query, low, high):
    page = demo.get(f"/races/{demo.race.pk}/stages/0/", query, **HX).content.decode()
    found = [float(re.search(f'name="{end}" value="([^"]+)"', page).group(1)) for end in ("from", "to")]
    assert found == pytest.approx([low, high], abs=1.0)
    if query.get("typed_from") == "far":
        assert "Not a number" in page
        assert 'value="far"' in page


# the card as a file -----------------------------------------------------------------------------------------------------
def test_the_card_file_needs_nothing_else(whole):
    for document, base in benches():
        answer = whole.get(f"{base}pit-card.html")
        page = answer.content.decode()
        assert "attachment" in answer["Content-Disposition"]
        assert document["name"] in page
        assert not re.search(r"<script|<link|src=|href=|@import|url\((?!#)|hx-", page)
        assert "never a speed to ride" in page
    tests = whole.get(benches()[2][1] + "pit-card.html").content.decode()
    assert "09:07" in tests  # the tarn starts 55 minutes after 08:12


# the sprocket table -----------------------------------------------------------------------------------------------------
def test_the_sprocket_table_streams_is_stopped_goes_on_and_is_taken(demo):
    address = f"{demo.base}drive/sprockets/"
    assert "of the pairs ridden" in demo.get(address).content.decode()
    job = Job.objects.get(kind="sweep")
    demo.post(address, {"cancel": "1"}, **HX)
    while worker.run_next():
        pass
    job.refresh_from_db()
    assert job.state == "cancelled"
    assert "Stopped before the end." in demo.get(address, **HX).content.decode()
    assert "of the pairs ridden" in demo.post(address, {"again": "1"}, **HX).content.decode()
    while worker.run_next():
        pass
    page = html.unescape(demo.get(address, {"sort": "drive.top_speed"}, **HX).content.decode())
    assert "14/50 mends what does not pull" in page
    speeds = [float(v) for v in re.findall(r'data-sweep="drive.top_speed" data-si="([^"]+)"', page)]
    assert len(speeds) == 40
    assert speeds == sorted(speeds, reverse=True)
    shorts = [
        float(v)
        for v in re.findall(
            r'data-sweep="drive.metres_short" data-si="([^"]+)"',
            demo.get(address, {"sort": "drive.metres_short"}).content.decode(),
        )
    ]
    assert shorts == sorted(shorts)
    # what is wished stands as marks at the pairs that do, in one's own unit, and goes with the address
    wished = html.unescape(demo.get(address, {"wish": "110 km/h"}).content.decode())
    assert wished.count("as wished") == sum(v >= 110 / 3.6 for v in speeds) > 0
    assert "wish=110+km%2Fh" in wished
    assert "wished" in wished.split("<svg")[-1]
    shaken = [float(v) for v in re.findall(r'data-sweep="drive.time_over_shake" data-si="([^"]+)"', page)]
    both = html.unescape(demo.get(address, {"wish": "110 km/h", "shake": "20 s"}).content.decode())
    assert both.count("as wished") == sum(v >= 110 / 3.6 and t <= 20 for v, t in zip(speeds, shaken, strict=True))
    assert demo.get(address, {"shake": "-3"}).status_code == 422
    version = Draft.objects.get().version
    moves = '[["front_sprocket_teeth", 13], ["rear_sprocket_teeth", 52]]'
    assert demo.post(f"{address}take/", {"version": version, "moves": moves}).status_code == 302
    assert Draft.objects.get().values["front_sprocket_teeth"] == 13
    demo.post(f"{address}take/", {"version": version, "moves": moves.replace("13", "12")})
    assert Draft.objects.get().values["front_sprocket_teeth"] == 13
    assert "of the pairs ridden" in demo.get(address).content.decode()


def test_a_stepping_job_obeys_cancel_between_its_steps(db):
    steps = []

    @worker.register_stepping("test-steps")
    def work(payload, step):
        for k in range(50):
            steps.append(k)
            if k == 3:
                Job.objects.filter(kind="test-steps").update(cancel=True)
                time.sleep(0.3)
            step((k + 1) / 50, steps)
        return steps

    worker.submit("test-steps", "k", {})
    worker.run_next()
    job = Job.objects.get(kind="test-steps")
    assert job.state == "cancelled"
    assert len(steps) == 4
    assert 0 < len(job.result) <= 4


def test_two_races_alike_are_each_judged_and_the_stand_comes_to_rest(demo):
    race = demo.race
    race.start = timezone.now() + timedelta(days=9)
    race.save(update_fields=["start"])
    twin = Race.objects.create(
        garage=race.garage,
        name="The same again",
        course=race.course,
        rider=race.rider,
        document=race.document,
        start=race.start,
        version=race.version,
    )
    Pairing.objects.create(race=twin, setup=demo.setup)
    Pairing.objects.update_or_create(race=race, defaults={"setup": demo.setup, "standing": None, "key": ""})
    assert 'hx-trigger="every 2s"' in demo.get("/").content.decode()
    while worker.run_next():
        pass
    assert all(p.standing and p.key for p in Pairing.objects.filter(race__in=(race, twin)))
    assert 'hx-trigger="every 2s"' not in demo.get("/").content.decode()


def test_every_word_of_the_trade_leads_to_a_room_that_stands(demo):
    page = demo.get("/words/").content.decode()
    rooms = {term.room for term in TERMS.values() if term.room}
    for room in rooms:
        assert f'href="{demo.base}{room}/"' in page
        assert demo.get(f"{demo.base}{room}/").status_code == 200, room
    # and is found by any of its names
    for term in TERMS.values():
        for name in (term.word, *term.also.split(",")):
            found = demo.get("/bench/search/", {"q": name.strip()}).content.decode()
            assert escape(term.meaning) in found, name


def test_a_file_of_parts_says_what_it_would_do_before_it_does_it(demo):
    box = list(OwnedPart.objects.order_by("pk").values())
    first = next(p for p in box if p["kind"] == "main_jet")
    rows = f"kind,value,count\nmain_jet,{first['value']:g},{first['count'] + 3}\nmain_jet,222.5,1\nmain_jet,225,1\n"

    def sent(**more):
        return {"file": SimpleUploadedFile("p.csv", rows.encode())} | more

    looked = demo.post(reverse("parts:file"), sent(look="1")).content.decode()
    assert f"It would add 2, change what is known of 1, and leave {len(box) - 1} as they are." in looked
    assert list(OwnedPart.objects.order_by("pk").values()) == box
    assert demo.post(reverse("parts:file"), sent()).status_code == 302
    assert OwnedPart.objects.count() == len(box) + 2
    assert OwnedPart.objects.get(pk=first["id"]).count == first["count"] + 3
    # said of a file that is refused as before, and of one that says what lies there already
    assert demo.post(reverse("parts:file"), {"file": SimpleUploadedFile("p.csv", b"x"), "look": "1"}).status_code == 422
    again = demo.post(reverse("parts:file"), sent(look="1")).content.decode()
    assert f"It would add 0, change what is known of 0, and leave {len(box) + 2} as they are." in again


def test_a_document_says_what_it_would_make_before_it_makes_it(demo):
    rows = [model.objects.count() for model in (Bike, Race, OwnedPart, Rider, Reading)]
    document = demo.get(f"{demo.base}document.json").content
    sent = {"file": SimpleUploadedFile("d.json", document), "look": "1"}
    page = " ".join(demo.post(reverse("bench:upload"), sent).content.decode().split())
    assert "It would make the bike Quern 293 with" in page
    assert "Nothing was made yet." in page
    assert [model.objects.count() for model in (Bike, Race, OwnedPart, Rider, Reading)] == rows
    bad = {"file": SimpleUploadedFile("d.json", b"{}"), "look": "1"}
    assert demo.post(reverse("bench:upload"), bad).status_code == 422
    assert demo.post(reverse("bench:upload"), {"file": SimpleUploadedFile("d.json", document)}).status_code == 302
    assert Bike.objects.count() == rows[0] + 1


def test_which_of_my_bikes_sets_each_beside_the_others_on_this_race(whole):
    race = Race.objects.get(name__startswith="Saltern")
    page = whole.get(reverse("races:bikes", args=[race.pk])).content.decode()
    lines = list(Setup.objects.select_related("bike"))
    assert page.count("being judged") == len(lines) >= 3
    for line in lines:
        alone = whole.get(reverse("races:bike-judged", args=[race.pk, line.pk]), headers={"HX-Request": "true"})
        said = " ".join(html.unescape(re.sub(r"<[^>]+>", " ", alone.content.decode())).split())
        assert line.title in said
        # each station's leaf, and the figures with their ranges
        assert alone.content.decode().count('class="leaf') == len(report.STATIONS)
        assert re.search(r"Finishes.*?\d+ %|finish.*?\d+ %", said, re.I)
        assert "Put on the bench" in said
    # one that cannot be set up says why, and the others stand
    Setup.objects.filter(pk=lines[0].pk).update(head=None)
    Draft.objects.filter(setup=lines[0]).update(values={})
    refused = whole.get(reverse("races:bike-judged", args=[race.pk, lines[0].pk]), headers={"HX-Request": "true"})
    assert 'class="error"' in refused.content.decode()
    assert whole.get(reverse("races:bike-judged", args=[race.pk, 99999])).status_code == 404
    assert "Which bike for" in whole.get(reverse("races:bike-judged", args=[race.pk, lines[1].pk])).content.decode()
