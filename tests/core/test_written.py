"""Numbers as people write them, met by pint's own factors (International Yard and Pound Agreement of 1959, NIST SP 811)."""

from math import inf, radians, tan

import pytest
from tools.units import PINT, registry

from lynxwort.core.units.convert import KINDS, PRESETS, UnitNotUnderstood, parse_typed, shown_unit
from lynxwort.core.units.spellings import SPELLINGS
from lynxwort.core.units.written import SYNONYMS, numbers_of, unit_named
from lynxwort.words.explained.glossary import QUANTITIES
from lynxwort.words.refusals import accepted_of

ROWS = [(kind, s) for kind, rows in SPELLINGS.items() for s in rows]
PINT_KNOWS = registry()


def by_pint(value: float, unit: str, si_unit: str) -> float:
    if unit in ("1", "dB"):
        return value
    target = PINT.get(si_unit, si_unit)
    return float(PINT_KNOWS.Quantity(value, PINT[unit]).to(target or "dimensionless").magnitude)


def test_the_table_holds_every_quantity_a_form_asks_and_a_good_many_spellings():
    assert len(ROWS) >= 150
    assert set(SPELLINGS) == set(QUANTITIES) <= set(KINDS)


@pytest.mark.parametrize(("kind", "spelling"), ROWS, ids=[f"{k}: {s.written}" for k, s in ROWS])
def test_each_spelling_means_what_the_table_says(kind, spelling):
    si_unit = KINDS[kind][0]
    meant = spelling.value if kind == "rpm" else by_pint(spelling.value, spelling.unit, si_unit)
    assert parse_typed(spelling.written, kind, "metric") == pytest.approx(meant, rel=1e-9, abs=1e-12)


def test_degrees_of_a_grade_are_their_tangent_and_a_clock_goes_by_its_quantity():
    assert parse_typed("30°", "grade", "metric") == pytest.approx(tan(radians(30.0)))
    assert parse_typed("1:30", "minutes", "metric") == 60.0 * parse_typed("1:30", "seconds", "metric")
    assert parse_typed("2:05:30", "seconds", "metric") == 2 * 3600 + 5 * 60 + 30


@pytest.mark.parametrize(
    "text",
    ["1e400", "nan", "inf", "-inf", "", "1:7:5", "5'3\" 4", "one", "1/0", "--3", "1 2 3", "½½", "5 st 3 kg", "Ah"],
)
def test_what_is_no_number_is_refused_for_every_quantity(text):
    for kind in SPELLINGS:
        with pytest.raises(UnitNotUnderstood):
            parse_typed(text, kind, "metric")


@pytest.mark.parametrize(
    ("text", "kind", "low", "high", "meant"),
    [
        ("0.46", "spring_rate", 1000.0, 20000.0, "0.46 kgf/mm"),
        ("960", "length", 0.5, 1.2, "960 mm"),
        ("83", "length", 0.5, 1.1, "83 cm"),
        ("5400", "minutes", 60.0, 86400.0, "5400 s"),
    ],
)
def test_a_bare_number_that_another_unit_makes_possible_is_asked_back(text, kind, low, high, meant):
    with pytest.raises(UnitNotUnderstood) as refused:
        parse_typed(text, kind, "metric", low=low, high=high)
    assert (refused.value.code, refused.value.message) == ("other_unit", meant)
    # written with it, it is taken; a number no unit helps is left to its bounds
    assert low <= parse_typed(meant, kind, "metric", low=low, high=high) <= high
    assert parse_typed("1e9", kind, "metric", low=low, high=high) > high


def test_every_other_name_leads_to_a_unit_that_is_known():
    from lynxwort.core.units.factors import UNITS

    assert {unit_named(name) for name in SYNONYMS} <= set(UNITS)
    assert unit_named("furlong") == "furlong"
    # large or small letters: a unit of one name only
    assert (unit_named("KW"), unit_named("psi"), unit_named("PSI"), unit_named("nm")) == ("kW", "psi", "psi", "Nm")


@pytest.mark.parametrize(
    ("text", "numbers"),
    [
        ("2.40 1.80 1.40", [2.4, 1.8, 1.4]),
        ("2,40 1,80 1,40", [2.4, 1.8, 1.4]),
        ("2.40,1.80,1.40", [2.4, 1.8, 1.4]),
        ("2.40, 1.80; 1.40", [2.4, 1.8, 1.4]),
        ("2,40; 1,80; 1,40", [2.4, 1.8, 1.4]),
        ("30/14 27/16", [30 / 14, 27 / 16]),
        ("100 75 50", [100.0, 75.0, 50.0]),
        ("100,75,50", [100.0, 75.0, 50.0]),
        ("", []),
    ],
)
def test_a_list_of_numbers_by_points_or_decimal_commas(text, numbers):
    assert numbers_of(text) == pytest.approx(numbers)


def test_a_refusal_says_what_is_accepted_for_this_quantity_in_ones_own_unit_first():
    for kind in SPELLINGS:
        for preset, units in PRESETS.items():
            examples = accepted_of(kind, preset)
            assert 1 <= len(examples) <= 3
            for example in examples:
                assert -inf < parse_typed(example, kind, units) < inf
    assert accepted_of("mass", "us")[0] == "194 lb"
    assert shown_unit("mass", "us") == "lb"


def test_a_clock_has_sixty_minutes():
    with pytest.raises(UnitNotUnderstood):
        parse_typed("1:75", "minutes", "metric")
