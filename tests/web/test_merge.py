"""Two copies of a garage, van and home, made one again: by hand where it is told what must become of it, and over random
histories by laws.
"""

import io
import json
import random
import uuid
from contextlib import contextmanager

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import transaction
from django.urls import reverse

from lynxwort.core.errors import InputRefused
from lynxwort.web.bench.models import Pairing
from lynxwort.web.bikes import services as bikes
from lynxwort.web.bikes.models import Bike, Draft, Revision, Setup
from lynxwort.web.garages.models import Garage, Membership, User
from lynxwort.web.machine import garage_lines, merging
from lynxwort.web.machine.models import Gone, Taken
from lynxwort.web.machine.travel import decide
from lynxwort.web.parts.models import OwnedPart
from lynxwort.web.races.models import Course, Race, Rider
from lynxwort.web.readings.models import Reading
from lynxwort.web.runs import loading
from lynxwort.web.runs.models import LoadLine
from lynxwort.web.service import services
from lynxwort.web.service.models import ServiceLine

VAN = uuid.UUID(int=7)
NAMES = uuid.UUID(int=1)


@contextmanager
def undone():
    """What is done within is taken back."""
    with transaction.atomic():
        yield
        transaction.set_rollback(True)


def written(garage):
    return "".join(garage_lines.lines(garage)).encode()


def merged(garage, lines, **more):
    return merging.merge(garage, io.BytesIO(lines), **more)


class Copies:
    """One database that is home or van by turns: uids are one of a database. What each of them is, is its lines."""

    def __init__(self, garage):
        self.garage, self.uid = garage, garage.uid
        self.start, self.marks = written(garage), None

    def become_van(self):
        """The van took home's lines in when both were the same."""
        Garage.objects.filter(pk=self.garage.pk).update(uid=VAN)
        self.garage.refresh_from_db()
        if self.marks is None:
            merged(self.garage, self.start)
            self.marks = garage_lines.marks_in(Taken.objects.get(garage=self.garage))
        garage_lines.note_taken(self.garage, str(self.uid), self.marks)

    @contextmanager
    def van(self):
        with undone():
            self.become_van()
            yield
        self.garage.refresh_from_db()

    def van_after(self, change):
        """The van's lines after a change there."""
        with self.van():
            change()
            return written(self.garage)

    def home_after(self, change):
        with undone():
            change()
            return written(self.garage)


@pytest.fixture
def copies(demo):
    return Copies(Garage.objects.get())


def keep(setup, name, values=None):
    """A revision on top of a setup's head, named apart by its uid."""
    setup = Setup.objects.select_related("head").get(pk=setup.pk)
    head = setup.head
    row = Revision.objects.create(
        uid=uuid.uuid5(NAMES, name), setup=setup, number=head.number + 1, parent=head, reason=name,
        document=head.document | ({"setup": values} if values else {}), report=head.report,
        core_version=head.core_version, input_key=head.input_key, race_name=head.race_name,
    )  # fmt: skip
    setup.head = row
    setup.save()
    return row


def test_a_weekend_apart(demo, copies):
    """Van and home go on by themselves; merged, everything of both is there, and what both changed is asked."""
    rider, setup, bike = Rider.objects.first(), Setup.objects.get(), Bike.objects.get()
    part, other = OwnedPart.objects.all()[:2]
    reading = Reading.objects.first()

    def at_the_race():
        keep(setup, "one richer, cold")
        services.write(bike, "ride", {"time_s": 7200.0})
        Reading.objects.create(uid=uuid.uuid5(NAMES, "r"), bike=bike, document=reading.document)
        Reading.objects.filter(pk=reading.pk).update(struck_out=True)
        Rider.objects.filter(pk=rider.pk).update(name="W.")
        OwnedPart.objects.filter(pk=part.pk).update(count=5)
        other.delete()
        loading.say(demo.race, "own:ground sheet", "forgotten")

    van = copies.van_after(at_the_race)
    # meanwhile at home: another setup kept, the same part counted too, nothing said of the rider
    keep(setup, "softer at home")
    OwnedPart.objects.filter(pk=part.pk).update(count=3)
    before = written(copies.garage)
    told = merged(copies.garage, van, label="van", dry=True)
    assert written(copies.garage).splitlines()[1:] == before.splitlines()[1:]
    (asked,) = told.asked
    assert (asked.uid, asked.differs) == (str(part.uid), (("count", "3", "5"),))
    done = merged(copies.garage, van, label="van")
    assert (done.counts, done.branches) == (told.counts, told.branches) == (done.counts, [f"{bike.name}, 2, van"])
    # both kept setups stand, each on its own line, what is kept at home as it was
    setup.refresh_from_db()
    assert setup.head.reason == "softer at home"
    line = Setup.objects.get(name="2, van")
    assert (line.head.reason, line.head.parent, line.draft.parent) == (
        "one richer, cold", setup.head.parent, line.head,
    )  # fmt: skip
    rider.refresh_from_db()
    part.refresh_from_db()
    assert (rider.name, part.count) == ("W.", 3)
    assert not OwnedPart.objects.filter(uid=other.uid).exists()
    assert Reading.objects.get(pk=reading.pk).struck_out
    assert Reading.objects.count() > 1
    assert ServiceLine.objects.count() == 1
    assert loading.forgotten(demo.race) == {}
    assert LoadLine.objects.get().state == "forgotten"
    # once more is the same
    stands = written(copies.garage)
    again = merged(copies.garage, van, label="van")
    assert (again.many("new", "theirs", "remove"), again.asked) == (0, [])
    assert written(copies.garage).splitlines()[1:] == stands.splitlines()[1:]
    # the pages of both lines open
    for one in Setup.objects.all():
        assert demo.get(f"/setups/{one.pk}/history/").status_code == 200


def test_theirs_is_taken_where_it_is_chosen(copies):
    part = OwnedPart.objects.first()
    van = copies.van_after(lambda: OwnedPart.objects.filter(pk=part.pk).update(count=5, place="van"))
    OwnedPart.objects.filter(pk=part.pk).update(count=3)
    merged(copies.garage, van, choices={str(part.uid): "theirs"})
    part.refresh_from_db()
    assert (part.count, part.place) == (5, "van")


def test_put_away_here_and_changed_there_is_asked_both_ways(copies):
    part = OwnedPart.objects.first()
    changed = copies.van_after(lambda: OwnedPart.objects.filter(pk=part.pk).update(count=5))
    away = copies.van_after(lambda: OwnedPart.objects.get(pk=part.pk).delete())
    with undone():
        OwnedPart.objects.filter(pk=part.pk).update(count=3)
        assert [(a.gone, a.uid) for a in merged(copies.garage, away, dry=True).asked] == [("there", str(part.uid))]
        assert OwnedPart.objects.filter(uid=part.uid).exists()
        merged(copies.garage, away, choices={str(part.uid): "theirs"})
        assert not OwnedPart.objects.filter(uid=part.uid).exists()
    OwnedPart.objects.get(pk=part.pk).delete()
    assert [(a.gone, a.uid) for a in merged(copies.garage, changed, dry=True).asked] == [("here", str(part.uid))]
    assert not OwnedPart.objects.filter(uid=part.uid).exists()
    merged(copies.garage, changed, choices={str(part.uid): "theirs"})
    assert OwnedPart.objects.get(uid=part.uid).count == 5


def test_lines_go_back_and_forth_without_a_line_too_many(copies):
    """Each side hangs the other's revisions on a line of its own; going on and merging again adds to it."""
    setup = Setup.objects.get()
    van = copies.van_after(lambda: keep(setup, "17 van"))
    keep(setup, "17 home")
    merged(copies.garage, van, label="van")

    def at_the_van():
        keep(Setup.objects.get(pk=setup.pk), "17 van")
        # what home knows came back, and the van rode on
        merged(copies.garage, home, label="home")
        line = Setup.objects.get(name="2, home")
        assert (line.head.reason, Setup.objects.get(pk=setup.pk).head.reason) == ("17 home", "17 van")
        assert Setup.objects.count() == 2
        keep(Setup.objects.get(pk=setup.pk), "18 van")

    home = written(copies.garage)
    with undone():
        # the van as it was: home's start, without what home did since
        Setup.objects.filter(pk=setup.pk).update(head=Revision.objects.get(setup=setup, number=1))
        Draft.objects.exclude(setup=setup).delete()
        Setup.objects.exclude(pk=setup.pk).update(head=None)
        for row in Revision.objects.exclude(number=1).order_by("-number"):
            row.delete()
        Setup.objects.exclude(pk=setup.pk).delete()
        copies.become_van()
        at_the_van()
        van = written(copies.garage)
    copies.garage.refresh_from_db()
    done = merged(copies.garage, van, label="van")
    assert (done.branches, Setup.objects.count()) == ([], 2)
    assert Setup.objects.get(name="2, van").head.reason == "18 van"
    assert Setup.objects.get(name="").head.reason == "17 home"


#: what a random weekend is made of; what each does is told by its number alone, so that it can be done again
def _random_change(bike, seed):
    rng = random.Random(seed)
    parts, readings = list(OwnedPart.objects.all()), list(Reading.objects.filter(struck_out=False))
    what = rng.choice(["reading", "strike", "count", "away", "rider", "service", "part", "about"])
    name = uuid.uuid5(NAMES, f"{what} {seed}")
    if what == "reading":
        Reading.objects.create(uid=name, bike=bike, document=Reading.objects.first().document)
    elif what == "strike" and readings:
        one = rng.choice(readings)
        Reading.objects.filter(pk=one.pk).update(struck_out=True)
    elif what == "count" and parts:
        OwnedPart.objects.filter(pk=rng.choice(parts).pk).update(count=rng.randint(1, 4))
    elif what == "away" and parts:
        rng.choice(parts).delete()
    elif what == "rider":
        Rider.objects.filter(pk=Rider.objects.first().pk).update(name=rng.choice("abc"))
    elif what == "service":
        services.write(bike, "ride", {"time_s": 3600.0 * rng.randint(1, 3)}, name=name)
    elif what == "about":
        services.say(bike, practice_s=3600.0 * rng.randint(1, 3))
    elif what == "part":
        OwnedPart.objects.create(uid=name, garage=bike.garage, kind="main_jet", value=rng.randint(150, 180))


def immutable(lines):
    """What is never changed, and whether it was struck out."""
    rows = [json.loads(line) for line in lines.splitlines()]
    return {
        (r["uid"], json.dumps(r["document"], sort_keys=True), r["struck_out"])
        for r in rows
        if r.get("row") in ("reading", "service") and r.get("kind") != "about"
    }


def contents(lines):
    """Every row by its uid, but for counts of changes and stamps of the last one."""
    rows = [json.loads(line) for line in lines.splitlines()[1:]]
    stamps = ("version", "updated", "changed")
    return {
        r["uid"]: {k: v for k, v in r.items() if k not in stamps}
        for r in rows
        if r["row"] not in ("gone", "base", "blob")
    }


@pytest.fixture
def small(demo):
    """The demo without what is long to say: no kept setup with its report."""
    Setup.objects.update(head=None)
    Revision.objects.all().delete()
    keep_few = [r.pk for r in Reading.objects.all()[:3]], [p.pk for p in OwnedPart.objects.all()[:4]]
    Reading.objects.exclude(pk__in=keep_few[0]).delete()
    OwnedPart.objects.exclude(pk__in=keep_few[1]).delete()
    for model in (Pairing, Race, Course, Gone):
        model.objects.all().delete()
    return demo


def test_two_hundred_random_weekends_keep_the_laws(small):
    """Of the immutable part: van into home is home into van. Merged twice is merged once. Nothing of either is lost but
    by being put away; struck out in one is struck out in both.
    """
    bike, copies = Bike.objects.get(), Copies(Garage.objects.get())
    seen = 0
    for history in range(200):
        rng = random.Random(1000 + history)
        ours, theirs = ([rng.random() for _ in range(rng.randint(0, 4))] for _ in range(2))
        van = copies.van_after(lambda t=theirs: [_random_change(bike, s) for s in t])
        home = copies.home_after(lambda o=ours: [_random_change(bike, s) for s in o])
        with undone():
            for seed in ours:
                _random_change(bike, seed)
            merged(copies.garage, van)
            van_into_home = written(copies.garage)
            again = merged(copies.garage, van)
            assert contents(written(copies.garage)) == contents(van_into_home), history
            assert again.many("new", "theirs", "remove") == 0, history
        with copies.van():
            for seed in theirs:
                _random_change(bike, seed)
            merged(copies.garage, home)
            home_into_van = written(copies.garage)
        assert immutable(van_into_home) == immutable(home_into_van), history
        both = immutable(van) | immutable(home)
        assert {u for u, _d, _s in both} == {u for u, _d, _s in immutable(van_into_home)}, history
        struck = {u for u, _d, s in both if s}
        assert struck == {u for u, _d, s in immutable(van_into_home) if s}, history
        # a row that only one of them touched is as that one left it
        start, a, b, end = (contents(x) for x in (copies.start, home, van, van_into_home))
        for uid in start:
            if a.get(uid) == start[uid]:
                assert end.get(uid) == b.get(uid) or "struck_out" in start[uid], (history, uid)
            elif b.get(uid) == start[uid]:
                assert end.get(uid) == a.get(uid), (history, uid)
        seen += len(ours) + len(theirs)
    assert seen > 400


def test_the_table_of_the_three_ways():
    """Every case by hand, as TRIALS 7 has it."""
    assert decide(None, "t", ()) == "new"
    assert decide("a", "a", ()) == "same"
    assert decide("a", "b", ("a",)) == "theirs"
    assert decide("a", "b", ("b",)) == "ours"
    assert decide("a", "b", ("c",)) == decide("a", "b", ()) == "ask"
    assert decide("a", None, ()) == "ours"
    assert decide("a", None, ("a",), gone_there=True) == "remove"
    assert decide("a", None, ("b",), gone_there=True) == "ask"
    assert decide(None, "b", ("b",), gone_here=True) == "ours"
    assert decide(None, "b", ("a",), gone_here=True) == "ask"


def test_what_a_file_may_never_bring(copies):
    """People, tokens, sessions, other tables: refused with their line, and nothing of the file stays."""
    before = written(copies.garage)
    head = before.splitlines()[0].decode()
    people = User.objects.count(), Membership.objects.count()
    for row in ("user", "membership", "invitation", "session", "taken", "deed"):
        with pytest.raises(InputRefused):
            merged(copies.garage, f'{head}\n{{"row": "{row}", "uid": "{uuid.uuid4()}"}}\n'.encode())
    for wrong in (
        {"row": "gone", "table": "bike", "uid": "no"},
        {"row": "base", "of": str(copies.uid), "marks": 3},
        {"row": "gone", "table": "part"},
    ):
        with pytest.raises(InputRefused):
            merged(copies.garage, f"{head}\n{json.dumps(wrong)}\n".encode())
    # a bike is not put away by a file, whatever it says
    gone = {"row": "gone", "table": "bike", "uid": str(Bike.objects.get().uid)}
    merged(copies.garage, f"{head}\n{json.dumps(gone)}\n".encode())
    assert Bike.objects.count() == 1
    assert (User.objects.count(), Membership.objects.count()) == people


def test_the_page_says_what_will_become_of_it_first(demo, copies):
    part = OwnedPart.objects.first()
    van = copies.van_after(lambda: OwnedPart.objects.filter(pk=part.pk).update(count=5))
    OwnedPart.objects.filter(pk=part.pk).update(count=3)

    def sent(lines):
        return demo.post(
            reverse("machine:garage-in"), {"file": SimpleUploadedFile("g.jsonl", lines), "label": "van"}, follow=True
        )

    page = sent(van).content.decode()
    assert "Both changed it" in page
    part.refresh_from_db()
    assert part.count == 3
    answer = demo.post(reverse("machine:merge"), {f"row.{part.uid}": "theirs"}, follow=True)
    assert "merged" in answer.content.decode()
    part.refresh_from_db()
    assert part.count == 5
    # done once: pressed again, or gone back to, there is nothing waiting
    assert demo.post(reverse("machine:merge"), follow=True).redirect_chain[-1][0] == reverse("machine:backups")
    assert demo.get(reverse("machine:merge")).status_code == 302
    # left alone, nothing becomes of it
    sent(van)
    demo.post(reverse("machine:merge-leave"))
    assert demo.get(reverse("machine:merge")).status_code == 302
    assert sent(b"{}\n").status_code == 422


def test_values_of_a_bike_are_shown_side_by_side(copies):
    bike = Bike.objects.get()

    def heavier(kg):
        document = bikes.checked_bike(bike.document).model_dump(mode="json", exclude_unset=True)
        document["frame"]["wheelbase_m"] = kg
        Bike.objects.filter(pk=bike.pk).update(document=document)

    van = copies.van_after(lambda: heavier(1.47))
    heavier(1.48)
    (asked,) = merged(copies.garage, van, dry=True).asked
    assert asked.title == bike.name
    assert asked.differs == (("frame.wheelbase_m", "1.48", "1.47"),)
