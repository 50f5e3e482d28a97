"""Nothing said of the demo's races and of every kind of engine moves unnoticed: a change that is meant writes the snapshot anew (tools/snapshot.py)."""

from tests import snapshot

#: another machine's arithmetic may end a root this far off
REL = 1e-7


def test_every_report_says_what_it_said():
    assert list(snapshot.differences(snapshot.read(), snapshot.taken(), REL)) == []
