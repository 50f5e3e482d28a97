"""The drawn bike: every part where the model's numbers put it, whatever the bike."""

import re
from dataclasses import dataclass, replace
from math import hypot

import pytest

from lynxwort.web.bench import services
from lynxwort.web.bikes.models import Setup
from lynxwort.web.races.models import Race
from lynxwort.web.stations.baseline.rooms import draw
from lynxwort.web.stations.pictured import look_of
from lynxwort.web.ui.drawings.machine import machine
from lynxwort.web.ui.drawings.plate import Look, as_data, below, rim_radius_m, section_m, sprocket_radius_m, svg
from lynxwort.web.ui.drawings.rider import rider
from tests.demo import load


@dataclass(frozen=True)
class Places:
    rear: tuple = (0.0, 0.324)
    front: tuple = (1.48, 0.33)
    rear_radius_m: float = 0.324
    front_radius_m: float = 0.33
    pivot: tuple = (0.588, 0.407)
    leg_top: tuple = (1.096, 1.032)
    axis_top: tuple = (1.048, 1.006)
    seat: tuple = (0.597, 0.874)
    peg: tuple = (0.586, 0.333)
    bar: tuple = (1.006, 1.119)
    lowest: tuple = (0.798, 0.266)
    trail_m: float = 0.118
    rake_rad: float = 0.5


SPROCKET = (0.663, 0.412)
LOOKS = [
    Look(motor="two_stroke", level=0.6, teeth=(14, 48), tyres=("80/100-21", "120/90-18")),
    Look(motor="four_stroke", big=True, level=1.0, lamp=True, bags=True, standing=False),
    Look(motor="electric", teeth=(12, 70), inseam_m=0.7, height_m=1.55),
]


def named(parts, stands):
    return [p for p in parts if p.stands == stands]


def area(points):
    return 0.5 * abs(sum(a[0] * b[1] - b[0] * a[1] for a, b in zip(points, (*points[1:], points[0]), strict=True)))


@pytest.mark.parametrize("look", LOOKS, ids=lambda look: look.motor)
def test_what_a_number_says_is_drawn_as_it_says(look):
    o = Places()
    parts = [*machine(o, look, SPROCKET), *rider(o, look)]
    # wheels stand on the ground, and nothing but the ground is below them
    for tyre, axle, radius in zip(named(parts, "tyre"), (o.rear, o.front), (0.324, 0.33), strict=True):
        far = [hypot(x - axle[0], y - axle[1]) for x, y in tyre.points]
        assert max(far) == pytest.approx(radius)
    assert min(y for p in parts for _x, y in p.points) == pytest.approx(0.0, abs=2e-3)
    # a tooth has four points: two on its top, two at its foot
    for name, teeth in zip(("front sprocket", "rear sprocket"), look.teeth, strict=True):
        wheel = named(parts, name)[0]
        assert len(wheel.points) == 4 * teeth
    # the chain runs at the pitch radius off each centre, square to its way
    for run in named(parts, "chain"):
        (ax, ay), (bx, by) = run.points
        for (x, y), (cx, cy), teeth in (((ax, ay), o.rear, look.teeth[1]), ((bx, by), SPROCKET, look.teeth[0])):
            assert hypot(x - cx, y - cy) == pytest.approx(sprocket_radius_m(teeth))
            assert ((x - cx) * (bx - ax) + (y - cy) * (by - ay)) == pytest.approx(0.0, abs=1e-9)
    assert {p.stands for p in parts} >= {
        "seat",
        "frame",
        "swingarm",
        "silencer" if look.motor != "electric" else "pack",
    }
    assert bool(named(parts, "lamp")) == look.lamp
    assert bool(named(parts, "bags")) == look.bags
    # hands on the bar, feet on the pegs, and no limb longer than the body has
    limbs = [p for p in rider(o, look) if p.style == "limb"]
    assert min(hypot(x - o.bar[0], y - o.bar[1]) for p in limbs for x, y in p.points) < 0.05
    assert min(hypot(x - o.peg[0], y - o.peg[1]) for p in limbs for x, y in p.points) < 0.08
    assert all(0.05 < hypot(p.points[1][0] - p.points[0][0], p.points[1][1] - p.points[0][1]) < 0.6 for p in limbs)
    assert all(len(p.sway) == len(p.points) for p in rider(o, look))


def test_the_level_fills_its_part_of_the_tank():
    o = Places()
    areas = []
    for level in (0.0, 0.25, 0.5, 1.0):
        parts = machine(o, replace(LOOKS[0], level=level), SPROCKET)
        fuel = named(parts, "fuel")
        areas.append(area(fuel[0].points) if fuel else 0.0)
    whole = area(named(machine(o, LOOKS[0], SPROCKET), "tank")[0].points)
    assert areas[0] < 1e-6
    assert areas == sorted(areas)
    assert areas[-1] == pytest.approx(whole)
    assert area(below([(0, 0), (1, 0), (1, 1), (0, 1)], 0.3)) == pytest.approx(0.3)


def test_sizes_of_markings_and_sprockets():
    # ISO 606 08B and 520 chain: pitch 15.875 mm; pitch diameter 15.875 / sin(180 deg / 48) = 242.73 mm
    assert 2000 * sprocket_radius_m(48) == pytest.approx(242.73, abs=0.01)
    # 80/100-21: section 80 mm, rim 21 in
    assert section_m("80/100-21") == pytest.approx(0.080)
    assert rim_radius_m("80/100-21", 0.33) == pytest.approx(0.26670)
    assert rim_radius_m("", 0.33) < 0.33


def test_drawing_and_moving_picture_show_the_same_parts():
    parts = machine(Places(), LOOKS[0], SPROCKET)
    drawn = svg(parts, lambda p: f"{1000 * p[0]:.0f} {1000 * p[1]:.0f}")
    moving = as_data(parts)
    assert len(moving) == len(parts)
    assert drawn.count("M") + drawn.count("<circle") == len(parts)
    assert {m[1] for m in moving} == set(re.findall(r'class="pl (\w+)"', drawn))


@pytest.mark.parametrize("race", ["brackenmere", "saltern", "hollowood"])
def test_the_look_is_the_documents(db, race):
    load(race)
    bench = services.open_bench(Setup.objects.select_related("bike__garage", "head", "draft").get(), Race.objects.get())
    look, bike = look_of(bench.inputs), bench.inputs.bike
    kind = bike.engine.kind
    assert look.motor == ("electric" if "electric" in kind else "two_stroke" if "two_stroke" in kind else "four_stroke")
    assert look.teeth == (bench.inputs.setup.front_sprocket_teeth, bench.inputs.setup.rear_sprocket_teeth)
    assert (look.level is None) == (look.motor == "electric")
    assert look.tyres == (bike.frame.front_tyre, bike.tyre.marking)
    # another wheel, another tyre; what is not there is not called out
    if bike.frame.other_rear_wheels:
        other = bench.inputs.model_copy(update={"setup": bench.inputs.setup.model_copy(update={"rear_wheel": 2})})
        assert look_of(other).tyres[1] == bike.frame.other_rear_wheels[0].marking != bike.tyre.marking
    drawn = draw(bench, "metric", None)["drawings"][0][1]
    assert ("tank " in drawn) == (look.motor != "electric")
    assert "fork 0" not in drawn
    frame = bike.frame.model_copy(update={"fork_springing": "air"})
    on_air = bench.inputs.model_copy(update={"bike": bike.model_copy(update={"frame": frame})})
    assert "fork " not in draw(replace(bench, kept_inputs=on_air), "metric", None)["drawings"][0][1]
