"""What helps a stranger along: the tour, words behind themselves, what a drawing shows, and a browser without scripts."""

import html
import json
import re
from html.parser import HTMLParser

from django.urls import reverse

from lynxwort.web.bikes.models import Draft
from lynxwort.web.garages.services import add_user
from lynxwort.web.races.models import Course
from lynxwort.web.stations.rooms import ROOMS
from lynxwort.web.ui.templatetags.explained import ELSEWHERE
from lynxwort.words.explained.drawings import DRAWINGS
from lynxwort.words.explained.glossary import TERMS
from lynxwort.words.explained.parts import SPELLED
from lynxwort.words.explained.tour import STEPS


def text(answer):
    return html.unescape(answer.content.decode())


def test_the_tour_is_offered_once_shows_five_steps_and_is_left_at_any(demo):
    assert "New here?" in text(demo.get("/"))
    first = demo.post("/tour/", {"step": "1"}, follow=True)
    assert STEPS[0][1] in text(first)
    assert first.request["PATH_INFO"].endswith("/chassis/")
    for n, (title, words) in enumerate(STEPS[1:], start=2):
        page = text(demo.post("/tour/", {"step": str(n)}, HTTP_HX_REQUEST="true"))
        assert title in page
        assert words in page
        assert f'data-step="{n}"' in page
    assert text(demo.post("/tour/", {"step": "leave"}, HTTP_HX_REQUEST="true")).strip() == ""
    assert "New here?" not in text(demo.get("/"))
    assert 'id="tour"' not in text(demo.get(f"{demo.base}chassis/"))
    for odd in ("", "9", "-1", "one"):
        assert demo.post("/tour/", {"step": odd}).status_code == 302
    assert 'id="tour"' not in text(demo.get(f"{demo.base}chassis/"))


def test_the_tour_is_each_persons_own(db, client):
    """Kept with the person, over sessions; an empty garage has first steps of its own instead."""
    user = add_user("newcomer", "a long enough password", "own")
    client.force_login(user, backend="django.contrib.auth.backends.ModelBackend")
    client.post("/tour/", {"step": "leave"})
    user.refresh_from_db()
    assert user.tour == 6
    assert "New here?" not in text(client.get("/"))


def test_a_word_stands_behind_itself_and_a_drawing_says_what_it_is(demo):
    page = text(demo.get(f"{demo.base}chassis/"))
    linked = re.findall(r'<a class="term" href="/words/#(\w+)">([^<]+)</a>', page)
    assert ("race_sag", "race sag") in linked
    for key, word in linked:
        assert SPELLED.get(word.lower()) == key or TERMS[key].word.lower() in word.lower()
        assert TERMS[key].meaning in text(demo.get(f"/words/{key}/", HTTP_HX_REQUEST="true"))
    assert demo.get("/words/race_sag/")["Location"] == "/words/#race_sag"
    assert demo.get("/words/nonsense/").status_code == 404
    for station in ("purpose", "baseline", "chassis", "damping", "fuelling", "drive", "range", "kit"):
        page = text(demo.get(f"{demo.base}{station}/"))
        for n in range(1, 1 + len(re.findall(r'data-part="drawing', page)) or 2):
            if f"{station}.{n}" in DRAWINGS:
                assert DRAWINGS[f"{station}.{n}"] in page, (station, n)


class Explained(HTMLParser):
    """What a page explains: its words of the trade, what each stands in, and its drawings without "What is this?"."""

    def __init__(self, page):
        super().__init__()
        self.inside, self.terms, self.bare, self.figures = [], [], [], []
        self.feed(page)

    def handle_starttag(self, tag, attrs):
        css = dict(attrs).get("class") or ""
        if css == "term":
            self.terms.append((dict(attrs)["href"].split("#")[1], tuple(self.inside)))
        if tag == "figure":
            self.figures.append([css, False, False])
        elif self.figures:
            self.figures[-1][1] |= tag == "svg"
            self.figures[-1][2] |= css == "what"
        if tag not in {"br", "input", "img", "meta", "link", "hr", "col", "source"}:
            self.inside.append(tag)

    def handle_startendtag(self, tag, attrs):
        pass

    def handle_endtag(self, tag):
        while self.inside and self.inside.pop() != tag:
            pass
        if tag == "figure":
            css, drawn, told = self.figures.pop()
            if drawn and not told:
                self.bare.append(css)


def test_every_room_leads_its_words_and_says_what_its_drawings_are(demo):
    """Words lead from prose and names of notches, never from inside a link or a button; no drawing is left bare."""
    addresses = [
        f"{demo.base}{s}/{r.path}" for s, rooms in ROOMS.items() for r in rooms if not r.fed or "jetted" in r.fed
    ]
    bike, race = demo.setup.bike_id, demo.race.pk
    course = Course.objects.first().pk
    addresses += [
        f"/bikes/{bike}/",
        f"/bikes/{bike}/facts/",
        reverse("first-facts", args=["two_stroke_250", "jetted_two_stroke"]),
    ]
    addresses += [reverse("bench:course", args=[course]), f"/races/{race}/stages/0/", f"/races/{race}/?weather=1"]
    led = set()
    for address in addresses:
        answer = demo.get(address, follow=True)
        assert answer.status_code == 200, address
        found = Explained(answer.content.decode())
        assert not found.bare, (address, found.bare)
        for key, inside in found.terms:
            assert key in TERMS
            assert not {"a", "button", "summary", "label", "svg"} & set(inside), (address, key, inside)
        led |= {key for key, inside in found.terms}
    assert len(led) >= 40
    assert not led & ELSEWHERE


def test_a_step_is_a_whole_page_without_scripts(demo):
    """Every station's notches as plain forms: a step, a typed value, a bad one, a stale page, keep: no script asked."""
    assert "<noscript>" in text(demo.get(f"{demo.base}chassis/"))
    address = f"{demo.base}chassis/plain/"
    page = text(demo.get(address))
    assert "hx-post" not in page.split('class="room sheet"')[1].split("<footer")[0]
    forms = re.findall(r'<form method="post" action="([^"]+)".*?</form>', page.split('class="room sheet"')[1], re.S)
    assert forms
    sent = re.findall(r'name="moves" value="([^"]+)"', demo.get(address).content.decode())
    moves = next(
        json.loads(html.unescape(m)) for m in sent if m.startswith("[[&quot;shock_preload_m") and m.count("[") == 2
    )
    version = Draft.objects.get(setup=demo.setup).version
    after = demo.post(forms[0], {"version": version, "moves": json.dumps(moves), "back": address}, follow=True)
    assert after.request["PATH_INFO"] == address
    assert Draft.objects.get(setup=demo.setup).values["shock_preload_m"] == moves[0][1]
    # a page that is behind says so and moves nothing
    stale = demo.post(
        forms[0], {"version": version, "moves": '[["shock_preload_m", 0.03]]', "back": address}, follow=True
    )
    assert Draft.objects.get(setup=demo.setup).values["shock_preload_m"] == moves[0][1]
    assert stale.status_code == 200
    version = Draft.objects.get(setup=demo.setup).version
    typed = {"version": version, "tunable": "shock_preload_m", "typed": "a lot", "back": address}
    assert "Not a number" in text(demo.post(forms[0], typed, follow=True))
    demo.post(forms[0], typed | {"typed": "11 mm"})
    assert Draft.objects.get(setup=demo.setup).values["shock_preload_m"] == 0.011
    version = Draft.objects.get(setup=demo.setup).version
    kept = demo.post(f"{demo.base}chassis/keep/", {"version": version, "reason": "plain", "back": address}, follow=True)
    assert kept.status_code == 200
    assert not Draft.objects.get(setup=demo.setup).values.get("nothing")
    other = re.search(r'href="\?group=([^"]+)"(?! aria-current)', page)
    assert "<section" in text(demo.get(f"{address}?group={other[1]}"))
    assert demo.get(f"{demo.base}card/plain/").status_code == 404
