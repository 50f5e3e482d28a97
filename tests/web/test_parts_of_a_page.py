"""What the page has already is named, not sent; what waits says so and comes with the neighbours."""

import json
import re

from lynxwort.web.bikes.models import Draft

HX = {"HTTP_HX_REQUEST": "true"}
MARK = re.compile(r'id="([^"]+)" data-mark="(\w+)"')
STUB = re.compile(r'<(\w+) id="([^"]+)" data-same="(\w+)"></\1>')


def part(client, station="drive", have=(), **query):
    more = HX | ({"HTTP_X_HAVE": " ".join(have)} if have else {})
    return client.get(f"{client.base}{station}/", query, **more).content.decode()


def step(client, station, tunable, value, have=()):
    data = {"version": Draft.objects.get().version, "moves": json.dumps([[tunable, value]])}
    more = HX | ({"HTTP_X_HAVE": " ".join(have)} if have else {})
    answer = client.post(f"{client.base}{station}/notch/", data, **more)
    assert answer.status_code == 200
    return answer.content.decode()


def test_what_the_page_has_is_named_and_what_it_has_not_is_sent_whole(demo):
    whole = part(demo)
    marks = dict(MARK.findall(whole))
    assert {"lap", "figures", "drawing-1", "row-rear_sprocket_teeth"} <= marks.keys()
    assert len(set(marks.values())) == len(marks)
    again = part(demo, have=marks.values())
    assert {(name, mark) for _tag, name, mark in STUB.findall(again)} == set(marks.items())
    assert len(again) < 0.5 * len(whole)
    # put back where their names stand, the parts make the whole again
    for tag, name, mark in STUB.findall(again):
        start = whole.index(f'<{tag} id="{name}" data-mark="{mark}"')
        assert whole.count(f'id="{name}"') == 1
        assert whole[start:].startswith(f"<{tag} ")
    lacking = part(demo, have=[m for n, m in marks.items() if n != "figures"])
    assert 'id="figures" data-mark=' in lacking
    # rubbish in the header is nothing the page has
    assert MARK.findall(part(demo, have=["<b>", "x" * 4000, "0"])) == MARK.findall(whole)


def test_a_step_sends_what_it_changed_and_names_the_rest(demo):
    marks = dict(MARK.findall(part(demo, "fuelling")))
    answer = step(demo, "fuelling", "main_jet", 168.0, have=marks.values())
    sent, named = dict(MARK.findall(answer)), {name for _tag, name, _mark in STUB.findall(answer)}
    assert "row-main_jet" in sent
    assert sent.keys() | named == marks.keys()
    assert all(marks[name] != mark for name, mark in sent.items())
    # the same from nothing says the same
    fresh = dict(MARK.findall(part(demo, "fuelling")))
    assert {name: mark for name, mark in fresh.items() if name in sent} == sent


def test_the_ride_over_the_bumps_waits_where_it_is_not_shown(injected):
    answer = step(injected, "chassis", "shock_preload_m", 0.016)
    line = answer[answer.index('id="rail-damping"') :][:600]
    assert 'aria-label="working"' in line
    assert '<span class="rail-line">working</span>' in line
    assert "unknown" not in line
    beside = injected.get(f"{injected.base}chassis/neighbours/", **HX)
    assert beside["HX-Version"] == str(Draft.objects.get().version)
    late = beside.content.decode()
    assert 'id="rail-damping" hx-swap-oob="lay"' in late
    assert "working" not in late[late.index('id="rail-damping"') :]
    # known from now on, and on its own station at once
    assert "working</span>" not in part(injected, "chassis").split('id="rail-fuelling"')[0].split("rail-damping")[1]
    clicked = step(injected, "damping", "shock_rebound_clicks", 4)
    assert 'aria-label="working"' not in clicked


def test_the_words_along_the_lap_come_when_they_are_asked_for(demo):
    words = demo.get(f"{demo.base}along/").json()
    assert len(words) == 121
    assert words[0][0].startswith("0.0 km")
    assert all("limit:" in second for _first, second in words)
    assert "limit:" not in part(demo)
