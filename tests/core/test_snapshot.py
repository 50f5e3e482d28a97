"""Nothing said of the demo's races and of every kind of engine moves unnoticed: a change that is meant writes the snapshot anew (tools/snapshot.py)."""

from functools import cache

from tools import catalogue

from tests import snapshot

#: another machine's arithmetic may end a root this far off
REL = 1e-7


@cache
def reports():
    return dict(snapshot.reports())


def test_every_report_says_what_it_said():
    now = {name: snapshot.told(report) for name, report in reports().items()}
    assert list(snapshot.differences(snapshot.read(), now, REL)) == []


def test_every_formula_and_source_can_be_said_in_another_language():
    known, said = {clause for clause, _place in catalogue.formulas()}, set()
    for report in reports().values():
        for figure in report.figures.values():
            for text in (figure.formula, figure.source, *(t for s in figure.steps for t in (s.symbol, s.formula))):
                said |= set(text.split("; "))
    assert {clause for clause in said - known if catalogue.WORDS.search(clause)} == set()
