"""Steering, heights and tyres through the pages."""

import html
import json
import re

import pytest

from lynxwort.web.bikes.models import Draft
from tests.demo import OPEN

HX = {"HTTP_HX_REQUEST": "true"}


def step(client, tunable, value):
    version = Draft.objects.get(setup=client.setup).version
    return client.post(
        f"{client.base}chassis/notch/", {"version": version, "moves": json.dumps([[tunable, value]])}, **HX
    ).content.decode()


def test_a_step_of_the_clamps_moves_the_drawing_the_ledger_and_the_figures(demo):
    before = demo.get(f"{demo.base}chassis/").content.decode()
    assert "trail 118 mm" in before
    assert "plate ghost" not in before
    after = step(demo, "fork_up_m", 0.010)
    assert "trail 115 mm" in after
    assert "plate ghost" in after
    assert "Trail" in after.split('class="effects"')[1]
    assert "+10" in after
    table = demo.get(f"{demo.base}chassis/").content.decode()
    for figure in (
        "chassis.rake",
        "chassis.wheelbase",
        "chassis.reach_margin",
        "chassis.anti_squat",
        "chassis.rear.frequency",
        "chassis.front.bottoming_drop",
    ):
        assert f'data-figure="{figure}"' in table
        assert "Source:" in demo.get(f"{demo.base}why/{figure}/").content.decode()


def test_tyres_are_told_as_they_stand_at_the_start_in_ones_own_unit(demo):
    page = demo.get(f"{demo.base}chassis/", HTTP_X_OPEN=OPEN).content.decode()
    assert "Wheels, and tyres by the gauge at home" in page
    # set at 0.80 bar and 18 °C near the sea; at the start it is 955 hPa and 10 °C: the thinner air and the cold nearly cancel
    assert "0.80 bar at the start" in page
    user = demo.setup.bike.garage.memberships.get().user
    user.units, user.unit_choices = "us", {}
    user.save()
    assert "psi" in demo.get(f"{demo.base}chassis/", HTTP_X_OPEN=OPEN).content.decode()


@pytest.mark.parametrize(
    ("tunable", "typed", "words"),
    [
        ("fork_up_m", "90 mm", "Too large"),
        ("rear_up_m", "1 kg", "measures something else"),
        ("offset_change_m", "wide", "Not a number"),
        ("rear_tyre_pressure_pa", "-1 psi", "Too small"),
        ("front_tyre_pressure_pa", "900 psi", "Too large"),
    ],
)
def test_what_no_clamp_or_tyre_can_be_is_refused(demo, tunable, typed, words):
    version = Draft.objects.get(setup=demo.setup).version
    answer = demo.post(f"{demo.base}chassis/notch/", {"version": version, "tunable": tunable, "typed": typed}, **HX)
    assert answer.status_code == 422
    page = answer.content.decode()
    assert words in page
    assert typed in page
    assert Draft.objects.get(setup=demo.setup).values.get(tunable) in (None, 80_000.0, 90_000.0)


def test_a_light_rider_lowers_her_bike_by_the_list_of_least_work(demo):
    """The feet room says each level with what reaches it; a press puts the list into the draft, and the level is reached."""
    rider = demo.race.rider
    rider.document["inseam_m"] = 0.77
    rider.save()
    room = demo.get(f"{demo.base}chassis/feet/").content.decode()
    assert room.count("Try it:") >= 1
    flat = room.split("Both feet flat")[1].split("On the balls")[0]
    moves = html.unescape(re.search(r'name="moves" value="([^"]+)"', flat)[1])
    version = Draft.objects.get(setup=demo.setup).version
    demo.post(f"{demo.base}chassis/notch/", {"version": version, "moves": moves, "back": f"{demo.base}chassis/feet/"})
    after = demo.get(f"{demo.base}chassis/feet/").content.decode()
    assert "reached" in after.split("Both feet flat")[1].split("On the balls")[0]
    # limited inside: another travel, its own bands, and the caution where it is done
    step(demo, "shock_spacer_m", 0.008)
    page = step(demo, "fork_spacer_m", 0.025)
    assert "Travel limited inside" in page
    assert "a licensed shop opens it" in page
    rider.document.pop("inseam_m")
    rider.save()
    assert "Without the rider" in demo.get(f"{demo.base}chassis/feet/").content.decode()
