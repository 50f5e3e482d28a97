"""The Damping station's pages: valving bench, what was felt, the ride, the setting sheet; bad input."""

import html
import json
import re
from itertools import pairwise

import numpy as np
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from lynxwort.core.model.damper import STOCK_FACTS, STOCK_STACKS, write_stack
from lynxwort.core.physics.damping.damper import force_at
from lynxwort.core.stations.damping import dampers, rides
from lynxwort.core.stations.damping.input import DampingInput
from lynxwort.web.bench import services
from lynxwort.web.bench.models import Felt, Pairing
from lynxwort.web.evaluation import assembled
from lynxwort.web.jobs import worker
from lynxwort.web.jobs.models import Job
from lynxwort.web.parts.models import OwnedPart
from lynxwort.web.stations.damping import clickmaps
from lynxwort.web.stations.damping import dyno as damperdyno
from tests.demo import OPEN
from tests.web.conftest import loaded


def text(answer) -> str:
    """The words of a page."""
    page = re.sub(r"(?s)<(script|style|svg)[^>]*>.*?</\1>", " ", answer.content.decode())
    return html.unescape(re.sub(r"\s+", " ", re.sub(r"<[^>]+>", " ", page)))


@pytest.fixture
def saltern(whole):
    """The desert race: its whoops bottom the rear."""
    pairing = Pairing.objects.select_related("race").get(race__name__startswith="Saltern")
    whole.base = f"/bench/{pairing.setup_id}/{pairing.race_id}/"
    whole.setup, whole.race = pairing.setup, pairing.race
    return whole


def bench_of(client):
    client.setup.draft.refresh_from_db()
    return services.open_bench(client.setup, client.race)


def stacks(end="shock", **changes):
    return {p: write_stack(STOCK_STACKS[f"{end}_{p}"]) for p in ("base", "piston", "rebound")} | changes


def sent(client, end="shock", **changes):
    client.setup.draft.refresh_from_db()
    return client.post(
        f"{client.base}damping/valving/{end}/", {"version": client.setup.draft.version} | stacks(end, **changes)
    )


def test_the_station_says_what_the_ride_found(saltern):
    page = text(saltern.get(f"{saltern.base}damping/"))
    assert "Rear bottoms on whoops; clicks will not fix this" in page
    assert "licensed shop" in page
    assert "7.0 m × 590 mm" in page
    shown = re.findall(
        r'data-figure="(damping[^"]+)" data-si="([^"]+)"',
        saltern.get(f"{saltern.base}damping/", HTTP_X_OPEN=OPEN).content.decode(),
    )
    report = bench_of(saltern).report
    assert len(shown) >= 14
    assert all(float(si) == pytest.approx(report.value(name)) for name, si in shown)


def test_shims_are_typed_drafted_kept_and_put_back(saltern):
    answer = sent(saltern, piston="9x40.15 2x36.15, 2x32.15 28.15x2 2x25.15")
    assert answer.status_code == 302
    bench = bench_of(saltern)
    assert bench.changed == ["shock_piston_stack"]
    assert (
        write_stack(bench.inputs.setup.shock_piston_stack)
        == "9 × 40 × 0.15, 2 × 36 × 0.15, 2 × 32 × 0.15, 2 × 28 × 0.15, 2 × 25 × 0.15"
    )
    assert bench.report.value("damping.rear.zeta_compression") > bench.kept.value("damping.rear.zeta_compression")
    page = text(saltern.get(f"{saltern.base}damping/valving/shock/"))
    row = page.split("Draft against kept")[-1]
    assert re.search(r"compression \+\d+ % \+\d+ % \+\d+ %", re.sub(r"\s+", " ", row))
    assert "9 × 40 × 0.15" in text(saltern.get(f"{saltern.base}damping/"))
    back = saltern.post(
        f"{saltern.base}damping/put-back/",
        {"version": saltern.setup.draft.version, "tunable": "shock_piston_stack"},
        headers={"hx-request": "true"},
    )
    assert back.status_code == 200
    assert bench_of(saltern).changed == []


def test_a_stack_as_stock_is_no_change(saltern):
    assert sent(saltern).status_code == 302
    assert bench_of(saltern).changed == []
    assert sent(saltern, piston="").status_code == 302
    assert bench_of(saltern).changed == []


@pytest.mark.parametrize(
    ("changes", "words"),
    [
        ({"piston": "many"}, "Write shims from the face to the clamp"),
        ({"piston": "24.15"}, "must cover the ports"),
        ({"base": "99x24.15"}, "Write shims"),
        ({"rebound": "36.15 " * 60}, "Too many"),
        ({"piston": "<script>"}, "Write shims"),
    ],
)
def test_what_is_no_stack_is_refused_and_what_was_typed_stays(saltern, changes, words):
    answer = sent(saltern, **changes)
    assert answer.status_code == 422
    page = answer.content.decode()
    assert words in text(answer)
    typed = next(iter(changes.values())).strip()
    assert typed.replace("<", "&lt;").replace(">", "&gt;") in page
    assert bench_of(saltern).changed == []


def test_another_window_moved_the_draft(saltern):
    stale = saltern.setup.draft.version - 1
    answer = saltern.post(
        f"{saltern.base}damping/valving/shock/", {"version": stale} | stacks(piston="9x40.15 25.15"), follow=True
    )
    assert "moved on in another window" in text(answer)
    assert bench_of(saltern).changed == []


def test_shims_in_the_box_are_offered_and_a_shortfall_is_said(saltern):
    asked = saltern.get(f"{saltern.base}damping/valving/shock/", {"place": "piston", "change": "5", "speed": "0.5"})
    page = text(asked)
    assert "In the box:" in page
    assert "40 × 0.20" in page
    forms = re.findall(r'name="piston" value="([^"]+)"', asked.content.decode())
    assert len(forms) >= 2
    assert sent(saltern, piston=forms[0]).status_code == 302
    assert bench_of(saltern).changed == ["shock_piston_stack"]
    OwnedPart.objects.filter(kind="shim").delete()
    page = text(saltern.get(f"{saltern.base}damping/valving/fork/", {"place": "base", "change": "140", "speed": "0.1"}))
    assert "No shims in the box" in page
    assert "No stack in this place makes +140 %" in page
    assert "is the nearest" not in page


@pytest.mark.parametrize(
    "query",
    [
        {"place": "piston", "change": "lots", "speed": "0.5"},
        {"place": "piston", "change": "10", "speed": "-1"},
        {"place": "lid", "change": "1", "speed": "1"},
        {"place": "base", "change": "1e999", "speed": "1"},
    ],
)
def test_a_wish_that_is_none_is_refused(saltern, query):
    assert saltern.get(f"{saltern.base}damping/valving/shock/", query).status_code == 422


def test_what_was_felt_leads_to_a_tool_and_into_the_draft(saltern):
    asked = saltern.get(f"{saltern.base}damping/felt/", {"what": "bottoms", "end": "rear", "when": "hot"})
    page = text(asked)
    assert "Is the bike sound?" in page
    assert "Only hot" in page
    assert "Hardly" in page
    assert page.index("high speed in") < page.index("stiffer spring") < page.index("clicks in")
    moves = next(
        m for m in re.findall(r'name="moves" value="([^"]+)"', asked.content.decode()) if "spring" in m
    ).replace("&quot;", '"')
    assert json.loads(moves) == [["shock_spring_rate_n_per_m", 56000.0]]
    saltern.post(
        f"{saltern.base}damping/notch/",
        {"version": saltern.setup.draft.version, "moves": moves},
        headers={"hx-request": "true"},
    )
    assert bench_of(saltern).changed == ["shock_spring_rate_n_per_m"]
    shim = re.search(
        r'name="only" value="(\w+)"><input type="hidden" name="\w+" value="([^"]+)"', asked.content.decode()
    )
    saltern.setup.draft.refresh_from_db()
    answer = saltern.post(
        f"{saltern.base}damping/valving/shock/",
        {"version": saltern.setup.draft.version, "only": shim.group(1), shim.group(1): shim.group(2)},
    )
    assert answer.status_code == 302
    assert set(bench_of(saltern).changed) == {"shock_spring_rate_n_per_m", f"shock_{shim.group(1)}_stack"}
    saltern.setup.draft.refresh_from_db()
    kept = {"version": saltern.setup.draft.version, "reason": "bottomed on the whoops"}
    assert saltern.post(f"{saltern.base}damping/keep/", kept, headers={"hx-request": "true"}).status_code == 200
    saltern.setup.refresh_from_db()
    assert saltern.setup.head.number == 2
    assert saltern.setup.head.values["shock_spring_rate_n_per_m"] == 56000.0
    assert bench_of(saltern).changed == []


@pytest.mark.parametrize(
    "query",
    [{"what": "sings", "end": "rear"}, {"what": "packs", "end": "left"}, {"what": "packs", "end": "rear", "when": "x"}],
)
def test_what_nobody_felt_is_refused(saltern, query):
    assert saltern.get(f"{saltern.base}damping/felt/", query).status_code == 422


def test_the_ride_moves_over_each_piece(saltern):
    for kind in ("whoops", "dip", "landing", "nothing"):
        data = saltern.get(f"{saltern.base}damping/ride.json", {"piece": kind}).json()
        frames = data["frames"]
        assert 40 < len(frames) <= 250  # at most five seconds
        assert data["kept"] == []
        assert all(0.5 < share < 1.0 for share in data["bump"])
        assert all(b[0] > a[0] for a, b in pairwise(frames))
        assert max(abs(f[2]) for f in frames) < 0.9
        ends = data["ground_from"], data["ground_from"] + data["ground_step"] * (len(data["ground"]) - 1)
        assert ends[0] <= frames[0][0]
        assert ends[1] >= frames[-1][0] + 1.0 or kind == "landing"


def test_a_draft_is_ridden_over_the_kept_bike_and_the_old_address_leads_there(saltern):
    moves = json.dumps([["shock_rebound_clicks", 4]])
    saltern.post(f"{saltern.base}damping/notch/", {"version": saltern.setup.draft.version, "moves": moves})
    data = saltern.get(f"{saltern.base}damping/ride.json", {"piece": "whoops"}).json()
    kept, now = (np.array(data[name]) for name in ("kept", "frames"))
    assert kept.shape == now.shape
    assert np.allclose(kept[:, 0], now[:, 0])  # side by side at the same speed
    assert np.abs(kept[:, 1:6] - now[:, 1:6]).max() > 0.002
    moved = saltern.get(f"{saltern.base}damping/ride/?piece=dip")
    assert (moved.status_code, moved["Location"]) == (301, f"{saltern.base}damping/?piece=dip")


def test_the_setting_sheet_says_everything_and_what_was_felt_where(saltern):
    felt = {
        "what": "kicks",
        "end": "rear",
        "piece": "whoops",
        "when": "hot",
        "words": "goes <b>sideways</b>, want it calmer",
    }
    assert "Written down" in text(saltern.post(f"{saltern.base}damping/felt/", felt, follow=True))
    page = text(saltern.get(f"{saltern.base}damping/setting-sheet/"))
    for words in (
        "96.0 kg",
        "54.0 N/mm",
        "7 × 40 × 0.15",
        "assumed",
        "Rear bottoms on whoops",
        "licensed shops",
        "Rear, kicks up, springs back, whoops at 12.7 km, only hot",
        "goes <b>sideways</b>, want it calmer",
    ):
        assert words in page
    assert saltern.post(f"{saltern.base}damping/felt/", felt | {"words": "x" * 301}).status_code == 422
    assert saltern.post(f"{saltern.base}damping/felt/", felt | {"piece": "rocks"}).status_code == 422
    line = Felt.objects.get()
    saltern.post(f"{saltern.base}damping/felt/", {"strike": "nothing"})
    assert Felt.objects.count() == 1
    saltern.post(f"{saltern.base}damping/felt/", {"strike": str(line.pk)})
    assert "sideways" not in text(saltern.get(f"{saltern.base}damping/setting-sheet/"))


# insides of the dampers -------------------------------------------------------------------------------------------------
def test_insides_are_typed_kept_reckoned_with_and_outlive_the_facts(saltern):
    bike = saltern.setup.bike
    page = f"/bikes/{bike.pk}/dampers/"
    assert "assumed 50.00 mm" in text(saltern.get(page))
    sent = {"shock_damper.bore_m": "46", "shock_damper.piston.height_most_m": "2", "fork_damper.base.clamp_m": "0,5 in"}
    assert saltern.post(page, sent).status_code == 302
    bike.refresh_from_db()
    assert bike.document["shock_damper"]["bore_m"] == pytest.approx(0.046)
    assert bike.document["fork_damper"]["base"]["clamp_m"] == pytest.approx(0.0127)
    assert "2.25 mm high, the nut holds 2.00 mm" in text(saltern.get(f"{saltern.base}damping/"))
    shown = saltern.get(page).content.decode()
    assert 'value="46.00"' in shown
    assert "assumed 50.00 mm" not in shown
    damperdyno.take(bench_of(saltern), "shock", "1.7")
    facts = saltern.get(f"/bikes/{bike.pk}/facts/").content.decode()
    known = {
        html.unescape(k): html.unescape(v) for k, v in re.findall(r'<input[^>]*name="([^"]+)" value="([^"]*)"', facts)
    }
    chosen = {
        name: re.search(r'value="([^"]*)" selected', body)
        for name, body in re.findall(r'(?s)<select name="([^"]+)".*?>(.*?)</select>', facts)
    }
    kept = saltern.post(
        f"/bikes/{bike.pk}/facts/",
        known | {k: m.group(1) for k, m in chosen.items() if m} | {"bike.frame.mass_dry_kg": "109"},
    )
    assert kept.status_code == 302
    bike.refresh_from_db()
    assert bike.document["frame"]["mass_dry_kg"] == 109.0
    assert bike.document["shock_damper"]["bore_m"] == pytest.approx(0.046)
    assert bike.document["shock_damper"]["footprint"] == 1.7
    assert saltern.post(page, {}).status_code == 302  # emptied: stock again, what the dyno fitted stays
    bike.refresh_from_db()
    assert "fork_damper" not in bike.document
    assert bike.document["shock_damper"] == STOCK_FACTS["shock"].model_dump(mode="json") | {"footprint": 1.7}


@pytest.mark.parametrize(
    ("sent", "words"),
    [
        ({"fork_damper.rod_m": "30"}, "not thinner than the bore"),
        ({"shock_damper.base.port_inner_m": "12"}, "not smaller than their outer"),
        ({"shock_damper.bore_m": "wide"}, "Not a number"),
        ({"fork_damper.compression_clicks": "22,5"}, "whole number"),
        ({"shock_damper.reservoir_pa": "-3"}, "at least"),
    ],
)
def test_insides_that_cannot_be_are_refused_and_nothing_is_changed(saltern, sent, words):
    before = saltern.setup.bike.document
    answer = saltern.post(f"/bikes/{saltern.setup.bike_id}/dampers/", sent)
    assert answer.status_code == 422
    assert words in text(answer)
    saltern.setup.bike.refresh_from_db()
    assert saltern.setup.bike.document == before


def test_only_ones_own_bench_and_a_damper_that_is_there(saltern, client, stranger):
    assert saltern.get(f"{saltern.base}damping/valving/axle/").status_code == 404
    assert saltern.get(f"{saltern.base}damping/damper-dyno/axle/").status_code == 404
    saltern.post(f"{saltern.base}damping/felt/", {"what": "packs", "end": "front", "words": "in the whoops"})
    line = Felt.objects.get()
    saltern.logout()
    for page in (
        "damping/valving/shock/",
        "damping/felt/",
        "damping/ride.json",
        "damping/setting-sheet/",
        "damping/clicks/",
        "damping/damper-dyno/fork/",
    ):
        assert client.get(saltern.base + page).status_code == 302
    # another garage sees nothing of it and strikes nothing
    client.force_login(stranger, backend="django.contrib.auth.backends.ModelBackend")
    for page in (
        f"{saltern.base}damping/felt/",
        f"{saltern.base}damping/setting-sheet/",
        f"/bikes/{saltern.setup.bike_id}/dampers/",
    ):
        assert client.get(page).status_code == 404
    assert client.post(f"{saltern.base}damping/felt/", {"strike": str(line.pk)}).status_code == 404
    assert Felt.objects.count() == 1


def test_felt_belongs_to_one_setup_at_one_race(saltern):
    saltern.post(f"{saltern.base}damping/felt/", {"what": "packs", "end": "front", "words": "in the whoops"})
    line = Felt.objects.get()
    other = Pairing.objects.exclude(race=saltern.race).first()
    saltern.post(f"/bench/{other.setup_id}/{other.race_id}/damping/felt/", {"strike": str(line.pk)})
    assert Felt.objects.count() == 1
    assert "in the whoops" not in text(saltern.get(f"/bench/{other.setup_id}/{other.race_id}/damping/setting-sheet/"))
    asked = saltern.get(f"{saltern.base}damping/felt/", {"what": "harsh", "end": "rear", "piece": "landing"})
    assert "a landing, 36.0 km/h" in text(asked)


def test_every_kind_of_bike_has_a_damping_station(whole):
    for pairing in Pairing.objects.select_related("race"):
        base = f"/bench/{pairing.setup_id}/{pairing.race_id}/"
        assert whole.get(f"{base}damping/").status_code == 200
        work = services.open_bench(pairing.setup, pairing.race).report.behind.up
        assert {c.feature.kind for c in rides.ridden(DampingInput.of(work))} >= {"dip", "landing"}


# clicks against clicks, the damper dyno ---------------------------------------------------------------------------------
def test_the_map_of_clicks_grows_is_stopped_and_goes_on(saltern, monkeypatch):
    address = f"{saltern.base}damping/clicks/"
    first = saltern.get(address)
    assert "of the clicks ridden" in text(first)
    assert "Through the day: the whoops deepen" in text(first)
    job = Job.objects.get(kind="clicks")
    saltern.post(f"{address}?end=rear&piece=whoops&show=stop_n", {"cancel": "1"}, headers={"hx-request": "true"})
    while worker.run_next():
        pass
    job.refresh_from_db()
    assert job.state == "cancelled"
    assert "Stopped before the end" in text(saltern.get(address))
    # the rest of the way on fewer pairs, so that the test does not ride them all
    few = [(12, 12), (0, 0), (0, 18), (18, 0), (18, 18)]

    def fewer(given: DampingInput, end: str):
        return few

    monkeypatch.setattr(clickmaps.clickmap, "pairs_of", fewer)
    saltern.post(f"{address}?end=rear&piece=whoops&show=stop_n", {"again": "1"}, headers={"hx-request": "true"})
    while worker.run_next():
        pass
    page = saltern.get(f"{address}?end=rear&piece=whoops&show=stop_n")
    assert "All clicks ridden" in text(page)
    assert "Ten clicks of compression out" in text(page)
    assert page.content.decode().count('class="heat"') == len(few)
    moves = re.search(r'name="moves" value="([^"]+)"', page.content.decode()).group(1).replace("&quot;", '"')
    assert [m[0] for m in json.loads(moves)] == ["shock_compression_clicks", "shock_rebound_clicks"]
    assert "packs" not in text(saltern.get(f"{address}?end=rear&piece=whoops&show=share"))


@pytest.mark.parametrize(
    "query", ["end=both&piece=whoops&show=share", "end=rear&piece=rocks&show=share", "end=rear&piece=whoops&show=love"]
)
def test_a_map_of_nothing_is_refused(saltern, query):
    assert saltern.get(f"{saltern.base}damping/clicks/?{query}").status_code == 422


def run_file(scale=1.4, rows=40):
    """A run as a machine writes it: the stock shock, everything so much weaker."""
    inputs = assembled.assemble(*rows_of_saltern())
    made = dampers.curve_of(inputs.bike, inputs.setup, "shock")
    lines = ["Speed [mm/s];Force [N]"]
    for k in range(1, rows + 1):
        speed = 2.0 * k / rows
        lines += [
            f"{1000 * speed:.1f};{force_at(made.compression_n, speed) / scale:.1f}",
            f"{-1000 * speed:.1f};{-force_at(made.rebound_n, speed) / scale:.1f}",
        ]
    return SimpleUploadedFile("run.csv", "\n".join(lines).encode(), content_type="text/csv")


def rows_of_saltern():
    pairing = Pairing.objects.select_related("race").get(race__name__startswith="Saltern")
    return pairing.setup, pairing.race, pairing.setup.draft.values


def test_a_damper_dyno_run_anchors_the_damper(saltern):
    address = f"{saltern.base}damping/damper-dyno/shock/"
    assert "No run yet" in text(saltern.get(address))
    before = bench_of(saltern).report.value("damping.rear.zeta_compression")
    read = saltern.post(address, {"file": run_file(), "speed_unit": "mm/s", "force_unit": "N", "inward": "plus"})
    assert read.status_code == 200
    assert "It fits a factor of" in text(read)
    value = re.search(r'name="take" value="([^"]+)"', read.content.decode()).group(1)
    assert float(value) > 1.2
    assert saltern.post(address, {"take": value}).status_code == 302
    assert "Reckoned with a factor of" in text(saltern.get(address))
    saltern.setup.bike.refresh_from_db()
    assert bench_of(saltern).report.value("damping.rear.zeta_compression") < before


@pytest.mark.parametrize(
    ("body", "words"),
    [
        ("", "empty"),
        ("nothing here", "No table"),
        ("Speed;Force\n1;2\n2;3", "Too few points"),
        ("a;b\n1;2\n2;3\n3;4", "column"),
        ("Speed;Force\n" + "\n".join(f"{k};{k}" for k in range(1, 20)), "No shaft goes so fast"),
    ],
)
def test_a_broken_run_is_refused_with_its_reason(saltern, body, words):
    sent_ = {
        "file": SimpleUploadedFile("run.csv", body.encode(), content_type="text/csv"),
        "speed_unit": "m/s",
        "force_unit": "N",
        "inward": "plus",
    }
    answer = saltern.post(f"{saltern.base}damping/damper-dyno/shock/", sent_)
    assert answer.status_code == 422
    assert words in text(answer)


def test_a_factor_from_elsewhere_is_not_taken(saltern):
    for value in ("1e9", "nan", "a lot", "-1"):
        assert "cannot be taken" in text(
            saltern.post(f"{saltern.base}damping/damper-dyno/shock/", {"take": value}, follow=True)
        )
    assert bench_of(saltern).inputs.bike.shock_damper.footprint == 1.0


@pytest.mark.parametrize("what", ["bottoms", "blows_through", "harsh", "packs", "kicks", "skips"])
def test_every_complaint_is_answered_on_a_course_that_may_not_have_its_piece(db, client, what):
    hollowood = loaded(client, "hollowood")
    page = text(hollowood.get(f"{hollowood.base}damping/felt/", {"what": what, "end": "front"}))
    assert "In the trade's order" in page
    assert re.search(r"\d km/h; ", page)
