"""Nudge, see, keep; two windows; the document; speed of the queries. Through the real views."""

import json

import pytest
from django.template import Context, Template
from django.urls import reverse

from lynxwort.core.evaluate import evaluate
from lynxwort.core.model.inputs import load_inputs
from lynxwort.web.bench import services
from lynxwort.web.bikes.models import Draft, Revision, Setup
from lynxwort.web.evaluation import door
from lynxwort.web.jobs import worker
from lynxwort.web.jobs.models import Job

HX = {"HTTP_HX_REQUEST": "true"}


def notch(client, tunable, value, version=None, station="drive"):
    version = Draft.objects.get().version if version is None else version
    return client.post(
        f"{client.base}{station}/notch/", {"version": version, "moves": json.dumps([[tunable, value]])}, **HX
    )


def test_a_step_moves_the_draft_and_a_double_click_is_harmless(demo):
    version = Draft.objects.get().version
    assert notch(demo, "rear_sprocket_teeth", 50, version).status_code == 200
    after = Draft.objects.get()
    assert after.values["rear_sprocket_teeth"] == 50
    assert notch(demo, "rear_sprocket_teeth", 50, version).status_code == 200
    assert Draft.objects.get().version == after.version
    assert "50" in demo.get(f"{demo.base}drive/").content.decode()


def test_two_windows_get_both_values_and_lose_nothing(demo):
    version = Draft.objects.get().version
    notch(demo, "rear_sprocket_teeth", 50, version)
    answer = notch(demo, "rear_sprocket_teeth", 52, version)
    page = answer.content.decode()
    assert answer.status_code == 409
    assert "there <b>50</b>" in page
    assert "here <b>52</b>" in page
    assert Draft.objects.get().values["rear_sprocket_teeth"] == 50
    assert notch(demo, "rear_sprocket_teeth", 52).status_code == 200


def test_keep_return_put_back_and_take_back(demo):
    notch(demo, "rear_sprocket_teeth", 50)
    empty = demo.post(f"{demo.base}drive/keep/", {"version": Draft.objects.get().version, "reason": " "}, **HX)
    assert empty.status_code == 422
    assert Revision.objects.count() == 1
    kept = demo.post(f"{demo.base}drive/keep/", {"version": Draft.objects.get().version, "reason": "sand climb"}, **HX)
    assert kept.status_code == 200
    second = Revision.objects.get(number=2)
    assert (second.reason, second.parent.number, second.author, second.values["rear_sprocket_teeth"]) == (
        "sand climb",
        1,
        "demo",
        50,
    )
    assert second.report["figures"]["drive.metres_short"]["value"] == 0
    stale = demo.post(f"{demo.base}drive/keep/", {"version": 1, "reason": "again"}, **HX)
    assert stale.status_code == 200  # nothing in draft: nothing to keep
    assert Revision.objects.count() == 2

    notch(demo, "shock_preload_m", 0.015, station="chassis")
    notch(demo, "main_jet", 170.0, station="fuelling")
    changed = Draft.objects.get().values
    back = {"version": Draft.objects.get().version, "tunable": "all"}
    assert demo.post(f"{demo.base}chassis/put-back/", back, **HX).status_code == 200
    assert Draft.objects.get().values == second.values
    assert demo.post(f"{demo.base}chassis/put-back/", back, **HX).status_code == 409
    demo.post(f"{demo.base}chassis/put-back/", {"version": Draft.objects.get().version, "tunable": "last"}, **HX)
    assert Draft.objects.get().values == changed
    demo.post(f"{demo.base}chassis/put-back/", {"version": Draft.objects.get().version, "tunable": "main_jet"}, **HX)
    assert Draft.objects.get().values["main_jet"] == 165.0

    first = Revision.objects.get(number=1)
    demo.post(reverse("bikes:return", args=[first.pk]), {"version": Draft.objects.get().version, "race": demo.race.pk})
    assert Draft.objects.get().values == first.values
    assert Draft.objects.get().parent == first


@pytest.mark.parametrize(
    ("data", "words"),
    [
        ({"moves": "[]"}, "not a notch"),
        ({"moves": "nonsense"}, "not a notch"),
        ({"moves": '[["wings", 3]]'}, "not a notch"),
        ({"moves": '[["rear_sprocket_teeth", 1e999]]'}, "not a notch"),
        ({"moves": '[["rear_sprocket_teeth", 500]]'}, "Too large"),
        ({"moves": '[["needle_clip", 6]]'}, "fewer grooves"),
        ({"tunable": "shock_preload_m", "typed": "lots"}, "Not a number"),
        ({"tunable": "shock_preload_m", "typed": "90 mm"}, "at most 40.0 mm"),
        ({"tunable": "shock_preload_m", "typed": "3 kg"}, "measures something else"),
        ({"tunable": "rear_sprocket_teeth", "typed": "50.4"}, "whole number"),
        ({"moves": '[["needle_clip", 2.5]]'}, "whole number"),
        ({"tunable": "needle_clip", "typed": "2.5"}, "whole number"),
        ({"moves": '[["knob_clicks", 3]]'}, "nothing of the kind"),
        ({"moves": '[["fuel_trim", 0.05], ["rear_sprocket_teeth", 50]]'}, "nothing of the kind"),
        ({"tunable": "rear_sprocket_teeth", "typed": "1e400"}, "Not a number"),
    ],
)
def test_a_bad_step_is_refused_in_words_and_changes_nothing(demo, data, words):
    before = Draft.objects.get()
    answer = demo.post(f"{demo.base}chassis/notch/", data | {"version": before.version}, **HX)
    assert answer.status_code == 422
    assert words in answer.content.decode()
    assert Draft.objects.get().values == before.values


def test_what_an_old_draft_holds_of_another_kind_of_bike_is_left_out_with_a_word(demo):
    """0.8.0 took a trim for a carburettor and kept it."""
    draft = Draft.objects.get()
    Draft.objects.filter(pk=draft.pk).update(values=draft.values | {"fuel_trim": 0.1, "knob_clicks": 2})
    page = demo.get(f"{demo.base}fuelling/").content.decode()
    assert "Left out, since this kind of bike has none" in page
    assert services.open_bench(demo.setup, demo.race).inputs.setup.fuel_trim is None
    notch(demo, "rear_sprocket_teeth", 50)
    assert not {"fuel_trim", "knob_clicks"} & set(Draft.objects.get().values)


def test_a_number_that_may_mean_two_things_is_asked_back(demo):
    answer = demo.post(
        reverse("races:item", args=[demo.race.pk, 0, "refuel_points"]), {"at_m": "1,500 m", "name": "ford"}
    )
    assert answer.status_code == 422
    page = answer.content.decode()
    assert "1500" in page
    assert "1,500 m" in page  # and stays typed


def test_a_typed_value_with_its_unit_is_taken(demo):
    version = Draft.objects.get().version
    demo.post(
        f"{demo.base}chassis/notch/",
        {"version": version, "tunable": "shock_spring_rate_n_per_m", "typed": "5.5 kgf/mm"},
        **HX,
    )
    assert Draft.objects.get().values["shock_spring_rate_n_per_m"] == pytest.approx(5.5 * 9806.65)


def test_shown_figures_equal_evaluate_of_the_downloaded_document(demo):
    notch(demo, "rear_sprocket_teeth", 51)
    document = json.loads(demo.get(f"{demo.base}document.json").content)
    report = evaluate(load_inputs(document))
    import re

    seen = {}
    for station in ("purpose", "chassis", "fuelling", "drive", "range"):
        page = demo.get(f"{demo.base}{station}/").content.decode()
        seen |= dict(re.findall(r'data-figure="([^"]+)" data-si="([^"]+)"', page))
    assert len(seen) > 35
    for name, shown in seen.items():
        assert float(shown) == pytest.approx(report.value(name), rel=1e-9, abs=1e-15), name


def test_a_document_goes_out_and_comes_back_the_same(demo, client, stranger, tmp_path):
    path = tmp_path / "d.json"
    path.write_bytes(demo.get(f"{demo.base}document.json").content)
    wanted = door.report_of(load_inputs(json.loads(path.read_text()))).to_json()["figures"]
    client.force_login(stranger, backend="django.contrib.auth.backends.ModelBackend")
    with path.open("rb") as file:
        assert client.post(reverse("bench:upload"), {"file": file}).status_code == 302
    setup = Setup.objects.get(bike__garage__memberships__user=stranger)
    race = setup.bike.garage.races.get()
    services.put_on_bench(setup, race, "stranger")
    found = services.open_bench(Setup.objects.get(pk=setup.pk), race).report.to_json()["figures"]
    assert {k: f["value"] for k, f in found.items()} == {k: f["value"] for k, f in wanted.items()}


@pytest.mark.parametrize(
    ("content", "words"),
    [(b"{", "not a JSON"), (b"[]", "form of the document"), (b'{"format": 9}', "Choose one"), (None, "needed")],
)
def test_a_broken_document_is_refused_and_leaves_nothing(demo, content, words, tmp_path):
    before = Setup.objects.count()
    data = {}
    if content is not None:
        (tmp_path / "x.json").write_bytes(content)
        data = {"file": (tmp_path / "x.json").open("rb")}
    answer = demo.post(reverse("bench:upload"), data)
    assert answer.status_code == 422
    assert words in answer.content.decode()
    assert Setup.objects.count() == before


def test_the_job_stores_sensitivities_and_ranges_appear(demo):
    assert services.open_bench(demo.setup, demo.race).kept.figures["drive.metres_short"].low is None
    assert Job.objects.get().state == "waiting"
    while worker.run_next():
        pass
    assert Job.objects.get().state == "done"
    bench = services.open_bench(Setup.objects.get(), demo.race)
    assert bench.kept.figures["drive.metres_short"].low < bench.kept.value("drive.metres_short")


def test_a_failing_job_says_so_and_a_cancelled_one_does_not_run(db):
    worker.register("test-fail")(lambda payload: 1 / 0)
    job = worker.submit("test-fail", "k1", {})
    worker.run_next()
    job.refresh_from_db()
    assert (job.state, job.error) == ("failed", "division by zero")
    job = worker.submit("test-fail", "k2", {})
    Job.objects.filter(pk=job.pk).update(cancel=True)
    worker.run_next()
    job.refresh_from_db()
    assert job.state == "cancelled"


def test_readings_narrow_and_bad_ones_keep_what_was_typed(demo):
    good = demo.post(f"{demo.base}readings/sag/", {"which": "front_free", "value_m": "34 mm", "fuel_aboard_m3": "6"})
    assert good.status_code == 302
    bad = demo.post(f"{demo.base}readings/sag/", {"which": "front_race", "value_m": "7 m", "fuel_aboard_m3": "6"})
    page = bad.content.decode()
    assert bad.status_code == 422
    assert "Too large: at most 250 mm." in page
    assert 'value="7 m"' in page
    row = demo.setup.bike.readings.last()
    assert row.document["under"]["setup"]["fork_preload_m"] == 0.006
    demo.post(f"{demo.base}strike/{row.pk}/", {"struck": "1"})
    row.refresh_from_db()
    assert row.struck_out


def test_pages_ask_few_questions_of_the_database(demo, django_assert_max_num_queries):
    demo.get(f"{demo.base}drive/")
    for station in ("purpose", "baseline", "chassis", "fuelling", "drive", "range", "card"):
        with django_assert_max_num_queries(16):
            assert demo.get(f"{demo.base}{station}/").status_code == 200
    with django_assert_max_num_queries(22):
        notch(demo, "rear_sprocket_teeth", 50)


def test_both_presets_show_the_same_bike(demo):
    metric = demo.get(f"{demo.base}chassis/").content.decode()
    demo.post(reverse("garages:units"), {"units": "us", "next": "https://elsewhere.example/"})
    us = demo.get(f"{demo.base}chassis/").content.decode()
    import re

    values = [re.findall(r'data-figure="([^"]+)" data-si="([^"]+)"', page) for page in (metric, us)]
    assert values[0] == values[1]
    assert "50.0" in metric
    assert "285.5" in us  # 50 N/mm in lbf/in
    assert "lbf/in" in us


@pytest.mark.parametrize(
    ("bounds", "said"),
    [((-0.0121, -0.0119), "−1.2 %"), ((-0.02, 0.01), "−2.0 to +1.0 %"), ((0.009, 0.024), "+0.9 to +2.4 %")],
)
def test_a_range_without_width_is_one_value(rf, bounds, said):
    request = rf.get("/")
    request.preset = "metric"
    source = "{% load lynx %}{% spread bounds 'fuelling.richness_full_thinnest' %}"
    words = Template(source).render(Context({"request": request, "bounds": bounds}))
    assert " ".join(words.replace("\u202f", " ").replace("\xa0", " ").split()) == said
