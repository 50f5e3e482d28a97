"""Drawings are well-formed, finite and escaped, in both presets, at every station, kept or in draft."""

import itertools
import re
from xml.etree import ElementTree

import numpy as np
import pytest
from django.template import Context, Template
from hypothesis import given, settings
from hypothesis import strategies as st

from lynxwort.core.evaluate import evaluate
from lynxwort.web.bench import present, registry, ribbon, rows, services
from lynxwort.web.bikes import changes
from lynxwort.web.bikes.models import Setup
from lynxwort.web.ui.drawings import bike, dampers
from lynxwort.web.ui.drawings.plot import Plot, nice_ticks
from lynxwort.web.ui.drawings.ribbon import PATTERNS, Quantity, RibbonData, draw_ribbon
from lynxwort.words.catalogue import TERMS
from lynxwort.words.formatting import difference_text, minutes_seconds, number_text, short_text, value_text
from tests.demo import OPEN
from tests.trials import a_trial


def well_formed(svg: str) -> ElementTree.Element:
    root = ElementTree.fromstring(svg)
    assert not re.search(r"\b(nan|inf)\b", svg.lower())
    for element in root.iter():
        for name in ("width", "height", "r"):
            value = element.get(name, "0").rstrip("%")
            assert float(value) >= 0, (element.tag, name, value)
    return root


@pytest.mark.parametrize("preset", ["metric", "us"])
def test_every_station_draws_in_both_presets_and_with_a_draft(demo, preset):
    a_trial(demo.setup)
    moves = (("rear_sprocket_teeth", 51), ("shock_preload_m", 0.015), ("main_jet", 170.0))
    assert changes.take(demo.setup.draft, demo.setup.draft.version, changes.Moves(moves)).done
    bench = services.open_bench(Setup.objects.select_related("bike__garage", "head", "draft").get(), demo.race)
    for station in registry.names():
        page = present.page(bench, station, preset, 22_100.0, opened=OPEN.split())
        well_formed(page["ribbon"])
        assert page["place"][0].startswith("22.1 km" if preset == "metric" else "13.7 mi")
        for title, drawing in page["view"]["drawings"]:
            root = well_formed(drawing)
            assert title
            assert root.get("aria-label")
        groups = rows.notch_groups(bench, station, preset, compute=True, opened=OPEN.split())
        assert all(group.known for group in groups)
        for row in (row for group in groups for row in group.rows):
            for cell in filter(None, (row.less, row.now, row.more)):
                assert cell.outcomes
        assert len(page["table"]) >= 4
    assert (
        "ghost"
        in dict(present.page(bench, "drive", preset, None)["view"]["drawings"])[
            "Pull and resistance, level ground unless said"
        ]
    )


def test_the_ribbon_marks_problems_wide_enough_and_in_order(demo):
    bench = services.open_bench(demo.setup, demo.race)
    places = ribbon.problems(bench.report, "drive")
    assert places == sorted(places)
    assert present.next_problem(bench.report, "drive", None) == places[0]
    assert present.next_problem(bench.report, "drive", places[-1]) == places[0]
    data = ribbon.ribbon_data(bench.report, "drive", None, "metric")
    root = well_formed(draw_ribbon(data))
    circles = [e for e in root.iter() if e.get("class") == "problem"]
    assert len(circles) == len(places)
    assert all(float(c.get("r")) * 2 >= 6 for c in circles)
    assert sum(b - a for a, b, *_ in data.ground) == pytest.approx(
        bench.report.behind.up.around.whole.length_m, rel=1e-6
    )
    words = ribbon.scrub_words(bench.report, "metric")
    assert len(words) == ribbon.PLACES
    assert all(len(pair) == 2 for pair in words)


def test_words_in_drawings_are_escaped():
    plot = Plot(x=(0, 1), y=(0, 1), height=100)
    plot.text(0.5, 20, '<script>"x"&</script>')
    root = well_formed(plot.svg('<b>"label"'))
    assert root.find("text").text == '<script>"x"&</script>'
    data = RibbonData(
        distance_m=np.array([0.0, 100.0]),
        height_m=np.array([5.0, 5.0]),
        ground=((0.0, 100.0, "sand", "<i>sand</i>"),),
        quantity=Quantity(title="<t>"),
        at_m=None,
    )
    well_formed(draw_ribbon(data))


def test_every_ground_has_a_pattern_and_a_name():
    from lynxwort.core.model.race import GROUNDS

    assert set(PATTERNS) == set(GROUNDS) <= set(TERMS)


@given(low=st.floats(-1e5, 1e5), span=st.floats(0.01, 1e6), count=st.integers(2, 12))
@settings(max_examples=120, deadline=None)
def test_ticks_are_round_inside_and_not_too_many(low, span, count):
    ticks = nice_ticks(low, low + span, count)
    assert all(low - 1e-9 * span <= t <= low + span * (1 + 1e-9) for t in ticks)
    assert len(ticks) <= count + 2
    steps = np.diff(ticks)
    assert len(ticks) < 3 or np.allclose(steps, steps[0], rtol=1e-6, atol=1e-9 * max(abs(low), span))


@pytest.mark.parametrize(
    ("value", "kind", "preset", "words"),
    [
        (36.5, "speed", "metric", "131.4 km/h"),
        (36.5, "speed", "us", "81.6 mph"),
        (0.0115, "volume", "metric", "11.5 L"),
        (0.0115, "volume", "us", "3.04 US gal"),
        (0.996, "share", "metric", "99.6\u202f%"),
        (0.99999, "share", "metric", "99.9\u202f%"),
        (1.0, "share", "metric", "100\u202f%"),
        (0.002, "share", "metric", "<1\u202f%"),
        (-0.014, "richness", "metric", "−1.4\u202f%"),
        (0.027, "richness", "metric", "+2.7\u202f%"),
        (-0.00001, "richness", "metric", "0.0\u202f%"),
        (54000.0, "spring_rate", "metric", "54.0 N/mm"),
        (54000.0, "spring_rate", "us", "308.3 lbf/in"),
        (165.0, "number", "metric", "165"),
        (162.5, "number", "metric", "162.5"),
        (4035.4, "duration", "metric", "1:07:15"),
        (59.6, "duration", "us", "1:00"),
        (283.15, "temperature", "us", "50 °F"),
        (9243.0, "rpm", "metric", "9\u202f243 rpm"),
    ],
)
def test_values_read_as_riders_write_them(value, kind, preset, words):
    assert value_text(value, kind, preset) == words


def test_differences_and_short_forms():
    assert difference_text(0.003, "travel", "metric") == "+3 mm"
    assert difference_text(-5.0, "temperature", "us") == "−9 °F"
    assert difference_text(-12.0, "duration", "metric") == "−12 s"
    assert (short_text(36.5, "speed", "metric"), short_text(2.7, "speed", "metric")) == ("131", "9.7")
    assert (minutes_seconds(-61), number_text(1e-15, "tiny", "metric")) == ("−1:01", "1e-15")


def test_a_value_tag_follows_the_person(rf):
    request = rf.get("/")
    for preset, words in (("metric", "41.5 km"), ("us", "25.8 mi")):
        request.preset = preset
        assert Template('{% val 41529 "distance" %}').render(Context({"request": request})) == words


def test_a_map_of_clicks_paints_finer_cells_over_coarser_ones():
    cells = [(12, 12, 5.0, 6), (0, 0, 1.0, 6), (2, 2, 2.0, 2), (3, 3, 9.0, 1)]
    svg = str(dampers.heat(cells, (12, 12), (22, 22), x_axis="x", y_axis="y", label="map", words="now"))
    widths = [float(w) for w in re.findall(r'width="([0-9.]+)%" height="[0-9.]+" class="heat"', svg)]
    assert len(widths) == len(cells)
    assert widths == sorted(widths, reverse=True)
    assert widths[0] == pytest.approx(6 * widths[-1], rel=0.01)
    lefts = [
        float(x)
        for x in re.findall(r'<rect x="([0-9.]+)%" y="[0-9.]+" width="[0-9.]+%" height="[0-9.]+" class="heat"', svg)
    ]
    assert min(lefts) >= 8.0  # a cell at the edge ends there
    shades = [float(o) for o in re.findall(r'class="heat" fill-opacity="([0-9.]+)"', svg)]
    assert (min(shades), max(shades)) == (0.08, 0.92)
    assert dampers.heat([], (0, 0), (4, 4), x_axis="", y_axis="", label="", words="")


def test_a_ribbon_says_what_the_figures_say(demo):
    """0.8.0: +12.1 % here and +10.8 % there for main 175; "neither bottoms nor packs" beside "15 mm packs"."""
    bench = services.open_bench(demo.setup, demo.race)
    inputs = bench.inputs.model_copy(update={"setup": bench.inputs.setup.model_copy(update={"main_jet": 175.0})})
    report = evaluate(inputs)
    said = " ".join(words for _css, words in ribbon.quantity(report, "fuelling", "metric").legend)
    for figure, end in (("fuelling.richness_full_thinnest", "value"), ("fuelling.richness_full_densest", "low")):
        assert value_text(getattr(report.figures[figure], end), "richness", "metric") in said
    page = demo.get(f"{demo.base}damping/").content.decode()
    assert "deeper" in page
    assert not re.search(r"\d+ mm packs|packs \d+ mm", page)


def test_words_of_the_chain_keep_apart_and_inside():
    """Four poses close together: each has two lines of its own within the picture, in letters large enough for a phone (44 units)."""
    near = [
        (css, (-0.58, y), (((-0.55, y + 0.05), (0.0, 0.05)), ((-0.55, y - 0.05), (0.0, -0.05))), ("where", "play"))
        for css, y in (("far", 0.06), ("tight", -0.07), ("now", -0.08), ("far", -0.12))
    ]
    drawn = str(
        bike.chain(
            near, sprocket=(0.06, 0.0), radii=(0.03, 0.1), words={"pivot": "pivot", "scale": "100 mm"}, label="chain"
        )
    )
    tall = float(re.search(r'viewBox="0 0 \d+ (\d+)"', drawn)[1])
    lines = [float(y) for y in re.findall(r'<text x="320" y="([-\d.]+)"', drawn)]
    assert len(lines) == 4
    assert lines[0] >= 44.0
    assert min(b - a for a, b in itertools.pairwise(lines)) >= 2 * 44.0
    assert lines[-1] + 1.05 * 44.0 <= tall
