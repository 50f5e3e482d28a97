"""Facts of a field stand at the field: one more field with its marker is found by schema, notches, form and card, and nothing is asked without words."""

import dataclasses
import typing
from typing import Annotated

import pytest
from django.core.exceptions import ValidationError
from django.utils.html import escape
from pydantic import create_model

from lynxwort.core import tunables
from lynxwort.core.model import damper, readings
from lynxwort.core.model.base import field_facts, quantity
from lynxwort.core.model.bike import (
    ENGINE_OF,
    Carburettor,
    Frame,
    Injection,
    MeteringRodCarburettor,
    Needle,
    Transmission,
    Tyre,
    metering_of,
)
from lynxwort.core.model.bike.patterns import PATTERNS
from lynxwort.core.model.box import PartsBox
from lynxwort.core.model.setup import Setup
from lynxwort.core.model.tunable import Tunable
from lynxwort.core.units.convert import KINDS
from lynxwort.web.bench import card, rows, services
from lynxwort.web.bikes import forms as forms_of_bikes
from lynxwort.web.bikes.models import Setup as SetupRow
from lynxwort.web.bikes.starting import FirstFacts
from lynxwort.web.races import forms as forms_of_races
from lynxwort.web.races.models import Race
from lynxwort.web.readings import forms
from lynxwort.web.ui.forms import QuantityField
from lynxwort.words import bike as words
from lynxwort.words import readings as reading_words
from lynxwort.words.bike import HOW
from lynxwort.words.catalogue import PART_KINDS, TUNABLE_NAMES
from tests.demo import OPEN

FENDER = Annotated[
    float | None,
    Tunable(step=0.01, station="chassis", group="rider", shows=("chassis.seat_height",), unset=0.02, signed=True),
]


@pytest.fixture
def fender_up(monkeypatch):
    """A setup with one field more: the field, and its word."""
    fields = {"fender_up_m": (FENDER, quantity(0.0, 0.05, "m", "travel", None, source="assumption: as it came"))}
    wider = create_model("WiderSetup", __base__=Setup, **fields)
    monkeypatch.setattr(tunables, "Setup", wider)
    monkeypatch.setitem(tunables.TUNABLES, "fender_up_m", tunables.tunables_in(wider)["fender_up_m"])
    monkeypatch.setitem(TUNABLE_NAMES, "fender_up_m", "Fender raised")
    return wider


def test_one_more_field_is_a_new_tunable_everywhere(demo, fender_up):
    told = fender_up.model_json_schema()["properties"]["fender_up_m"]
    assert (told["station"], told["step"], told["anyOf"][0]["maximum"]) == ("chassis", 0.01, 0.05)
    bench = services.open_bench(SetupRow.objects.get(), Race.objects.get())
    wide = bench.inputs.model_copy(
        update={"setup": fender_up.model_validate(bench.inputs.setup.model_dump(exclude_unset=True))}
    )
    bench = dataclasses.replace(bench, inputs=wide, kept_inputs=wide)
    groups = rows.notch_groups(bench, "chassis", "metric", compute=False, opened=OPEN.split())
    group = next(g.rows for g in groups if any(r.tunable == "fender_up_m" for r in g.rows))
    assert {"seat_up_m", "peg_down_m"} <= {r.tunable for r in group}
    row = next(r for r in group if r.tunable == "fender_up_m")
    assert (row.name, row.less.number, row.now.number, row.more.number, row.unit) == (
        "Fender raised",
        "+10",
        "+20",
        "+30",
        "mm",
    )
    assert tunables.move(wide.setup, "fender_up_m", 0.04).fender_up_m == 0.04
    assert ("Fender raised", "20 mm") in [
        (name, text.replace("\u202f", " ")) for name, text in card.card(bench, "metric")["fitted"]
    ]


def test_what_needs_a_part_is_a_tunable_with_a_place_in_the_box():
    boxes = set(PartsBox.model_fields) - {"shims", "priced"}
    assert boxes <= set(tunables.TUNABLES)
    assert boxes <= set(PART_KINDS)


#: facts that nobody can measure with the damper closed, so they stay as stock; the footprint comes from a dynamometer run
NOT_ASKED = {"needle_fixed_m2", "rebound_fixed_m2", "footprint"}


@pytest.mark.parametrize(
    ("model", "asked"),
    [
        (Frame, words.FRAME),
        *(
            (m, words.ELECTRIC if k == "electric" else words.COMBUSTION | words.TWO_STROKE)
            for k, m in ENGINE_OF.items()
        ),
        (Carburettor, words.CARBURETTOR),
        (Needle, words.NEEDLE),
        (MeteringRodCarburettor, words.ROD_CARBURETTOR),
        (Injection, words.INJECTION),
        (Transmission, words.TRANSMISSION),
        (Tyre, words.TYRE),
        (damper.DamperFacts, words.DAMPER),
        (damper.ValveSeat, words.SEAT),
    ],
)
def test_every_fact_of_a_bike_is_asked_in_words(model, asked):
    facts = [field_facts(model, name) for name in model.model_fields if name not in NOT_ASKED]
    assert {f.name for f in facts if f.kind in KINDS or f.kind == "choice"} <= set(asked)


@pytest.mark.parametrize("kind", ["jetted_two_stroke", "rod_four_stroke", "injected_four_stroke", "electric"])
def test_a_fields_help_says_how_to_find_the_number_never_its_label_again(kind):
    made = [forms_of_bikes.FactsPage(preset="metric", kind=kind), forms_of_races.RiderForm(preset="metric")]
    pattern = next(p for p in PATTERNS if kind in PATTERNS[p].engines)
    made += [FirstFacts(preset="metric", kind=pattern, engine=kind)]
    small = {"the", "a", "an", "of", "it", "its", "what", "is"}
    for form in made:
        for path, field in form.fields.items():
            name = path.rpartition(".")[2]
            helped, label = (
                {w.strip(",.:;").lower() for w in str(text).split()} - small for text in (field.help_text, field.label)
            )
            assert not helped or not helped <= label, path
            if isinstance(field, QuantityField) and field.facts.kind not in ("count", "factor"):
                assert name in HOW or name.endswith("_area_m2"), path


def test_every_reading_is_asked_in_words_and_narrows_a_figure(demo):
    page = demo.get(f"{demo.base}baseline/readings/").content.decode()
    for kind, reading in readings.KINDS.items():
        assert set(reading_words.ASKED.get(kind, ())) >= set(reading.asked) - {"end", "state"}
        told = "jetted" in reading.engines and kind != "hill"
        for label in (label for name, label in reading_words.ASKED.get(kind, {}).items() if name in reading.asked):
            assert escape(label) in page or not told
        assert reading.figure or kind in ("sag", "geometry", "rotor", "lever", "flats")


@pytest.mark.parametrize(
    ("engine", "without"),
    [
        ("jetted_two_stroke", {"charge"}),
        ("rod_four_stroke", {"charge"}),
        ("injected_four_stroke", {"charge"}),
        ("electric", {"fill_up", "known_good", "rpm_speed", "flow", "coolant", "generator", "sound"}),
    ],
)
def test_readings_are_asked_by_the_kind_of_engine_and_the_race(engine, without):
    hills = forms.Places(courses=[("c", "a course")], hills=[("c:100", "a hill")])
    told = forms.forms_for(engine, "metric", hills)
    with_forms = {k for k, c in readings.KINDS.items() if c.asked}
    assert set(told) == with_forms - without
    assert set(forms.forms_for(engine, "metric", forms.Places(courses=hills.courses, hills=[]))) == set(told) - {"hill"}
    for kind, form in told.items():
        for name, field in form.fields.items():
            assert str(field.label), (kind, name)
    if "known_good" in told:
        setting = set(told["known_good"].fields) - {"longest_full_throttle_s", "temperature_k", "pressure_pa"}
        assert setting - {"relative_humidity"} == set(reading_words.setting_of(metering_of(engine)))


@pytest.mark.parametrize("kind", list(ENGINE_OF))
def test_every_count_among_a_bikes_facts_is_taken_as_typed(kind):
    """Teeth, links, plates, packs, clicks: a whole number comes through every form that asks for one, "2.5" is refused."""
    form = forms_of_bikes.FactsPage(preset="metric", current={"bike": {}}, kind=kind)
    counts = {n: f for n, f in form.fields.items() if isinstance(f, QuantityField) and f.facts.kind == "count"}
    assert counts
    for name, field in counts.items():
        low = int(max(field.facts.low or 1, 2))
        value = field.clean(str(low))
        assert (value, type(value)) in ((low, int), (low, float)), name
        if int in typing.get_args(field.facts.annotation) or field.facts.annotation is int:
            assert type(value) is int, name
            with pytest.raises(ValidationError):
                field.clean("2.5")
