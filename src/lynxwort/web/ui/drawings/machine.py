"""The machine on a plate: wheels, chain, motor, frame and what is bolted on, each part by its own numbers. Nobody's
shape: what no number of the model says is drawn as such bikes are.
"""

from collections.abc import Iterable
from math import acos, atan2, cos, hypot, pi, sin

from lynxwort.web.ui.drawings.plate import (
    Group,
    Look,
    Outline,
    Part,
    Point,
    along,
    around,
    bar,
    below,
    rim_radius_m,
    ring,
    smooth,
    sprocket_radius_m,
    tube,
)

#: rotors, front and rear [m]; common practice, no source: the model holds none yet
ROTORS_M = (0.13, 0.11)


def machine(o: Outline, look: Look, sprocket: Point) -> list[Part]:
    """Every part of a bike, what lies behind first. sprocket: centre of the front one."""
    return [*wheels(o, look), *between_wheels(o, look, sprocket)]


def wheels(o: Outline, look: Look) -> list[Part]:
    """Both wheels, most of a bike's lines."""
    rear = wheel("rear", o.rear, o.rear_radius_m, look.tyres[1], ROTORS_M[1])
    return [*rear, *wheel("front", o.front, o.front_radius_m, look.tyres[0], ROTORS_M[0])]


def between_wheels(o: Outline, look: Look, sprocket: Point) -> list[Part]:
    """All but the wheels."""
    return [
        Part("arm", "alloy", bar((o.pivot, o.rear), 0.085, 0.055), "swingarm"),
        *_behind(o, look),
        *_motor(o, look),
        *_frame(o, look),
        *_above(o, look),
        *_chain(o, look, sprocket),
        Part("arm", "ink", (o.rear,), "rear axle", 0.014),
        Part("body", "ink", (o.pivot,), "swingarm pivot", 0.012),
        Part("body", "ink", bar(around(o.peg, (-0.055, 0.0), (0.055, 0.0)), 0.026, 0.026), "foot peg"),
        *_fork(o, look),
    ]


def wheel(group: Group, axle: Point, radius: float, marking: str, rotor_m: float) -> Iterable[Part]:
    """A wheel: tyre with its knobs, rim, spokes, rotor, hub."""
    rim = min(rim_radius_m(marking, radius), radius - 0.03)
    yield Part(group, "tyre", ring(axle, radius, 44, radius - 0.009), "tyre")
    yield Part(group, "rim", (axle,), "rim", rim + 0.004)
    yield Part(group, "rim", (axle,), "rim", rim - 0.014)
    for k in range(18):
        turn, lead, reach = 2 * pi * k / 18, 0.34 if k % 2 else -0.34, rim - 0.014
        ends = (0.032 * sin(turn + lead), 0.032 * cos(turn + lead)), (reach * sin(turn), reach * cos(turn))
        yield Part(group, "spoke", around(axle, *ends), "spoke", closed=False)
    yield Part(group, "rotor", (axle,), "rotor", rotor_m)
    yield Part(group, "rotor", (axle,), "rotor", rotor_m - 0.028)
    yield Part(group, "hub", (axle,), "hub", 0.03)


def _chain(o: Outline, look: Look, front: Point) -> Iterable[Part]:
    small, large = (sprocket_radius_m(t) for t in look.teeth)
    way = atan2(front[1] - o.rear[1], front[0] - o.rear[0])
    lean = acos((large - small) / max(hypot(front[0] - o.rear[0], front[1] - o.rear[1]), large))
    for side in (1, -1):
        x, y = cos(way + side * lean), sin(way + side * lean)
        run = tuple((c[0] + r * x, c[1] + r * y) for c, r in ((o.rear, large), (front, small)))
        yield Part("arm", "chain", run, "chain", closed=False)
    yield Part("arm", "sprocket", ring(o.rear, large + 0.003, look.teeth[1], large - 0.005), "rear sprocket")
    yield Part("arm", "rim", (o.rear,), "rear sprocket", large - 0.026)
    yield Part("body", "sprocket", ring(front, small + 0.003, look.teeth[0], small - 0.005), "front sprocket")


def _tail(o: Outline) -> Point:
    return o.seat[0] - 0.62, o.seat[1] + 0.045


def _behind(o: Outline, look: Look) -> Iterable[Part]:
    """Subframe, airbox, damper."""
    seat, pivot, tail = o.seat, o.pivot, _tail(o)
    yield Part(
        "body",
        "frame",
        bar(((seat[0] - 0.06, seat[1] - 0.12), (tail[0] + 0.14, tail[1] - 0.05)), 0.024, 0.018),
        "subframe",
    )
    yield Part(
        "body",
        "frame",
        bar(((pivot[0] - 0.01, pivot[1] + 0.12), (tail[0] + 0.22, tail[1] - 0.07)), 0.022, 0.016),
        "subframe",
    )
    if look.motor != "electric":
        box = around(seat, (-0.22, -0.07), (0.02, -0.08), (0.05, -0.30), (-0.12, -0.36), (-0.21, -0.30))
        yield Part("body", "frame", box, "airbox")
    foot, top = (pivot[0] - 0.045, pivot[1] - 0.015), (seat[0] - 0.015, seat[1] - 0.13)
    yield Part("body", "paper", bar((foot, top), 0.034, 0.034), "shock")
    coil = tuple(along(foot, top, 0.22 + 0.6 * k / 11, 0.034 * (1 if k % 2 else -1)) for k in range(12))
    yield Part("body", "coil", coil, "shock spring", closed=False)


def _case(o: Outline) -> Point:
    return o.pivot[0] + 0.175, max(o.lowest[1] + 0.155, o.pivot[1] - 0.06)


def _motor(o: Outline, look: Look) -> Iterable[Part]:
    if look.motor == "electric":
        case = _case(o)
        box = around(case, (-0.12, 0.08), (0.17, 0.08), (0.25, 0.36), (-0.02, 0.43), (-0.13, 0.30))
        yield Part("body", "alloy", box, "pack")
        for k in (0.14, 0.20, 0.26):
            yield Part("body", "fin", around(case, (-0.1, k), (0.19, k)), "pack", closed=False)
        yield Part("body", "alloy", (case,), "motor", 0.105)
        yield Part("body", "paper", (case,), "motor", 0.06)
        return
    yield from _exhaust(o, look)
    yield from _engine(o, look)


def _exhaust(o: Outline, look: Look) -> Iterable[Part]:
    """A pipe with its belly, or a header of one width; the silencer."""
    case, low, seat = _case(o), o.lowest, o.seat
    port = (case[0] + 0.10, case[1] + (0.19 if look.big else 0.17))
    down = (low[0] + 0.20, low[1] + 0.20)
    end = (seat[0] - 0.50, seat[1] - 0.07)
    muffler = along(end, (o.pivot[0] - 0.06, o.pivot[1] + 0.17), 0.62)
    if look.motor == "two_stroke":
        bend = (down[0], port[1]), (down[0] + 0.035, down[1]), (down[0] - 0.09, low[1] + 0.05)
        way = smooth([port, *bend, (case[0] - 0.05, low[1] + 0.05), (o.pivot[0] + 0.03, o.pivot[1] + 0.02), muffler])
        wide = [0.045 + 0.085 * max(0.0, sin(pi * min(k / (0.62 * len(way)), 1.0))) for k in range(len(way))]
        yield Part("body", "pipe", tube(way, wide), "pipe")
    else:
        bend = (down[0] - 0.01, port[1] - 0.03), (down[0] - 0.02, down[1] - 0.03), (case[0] + 0.02, low[1] + 0.045)
        way = smooth([port, *bend, (o.pivot[0] + 0.02, o.pivot[1] + 0.03), muffler])
        yield Part("body", "pipe", tube(way, [0.042] * len(way)), "header")
    yield Part("body", "alloy", bar((muffler, end), 0.075, 0.105), "silencer")


def _engine(o: Outline, look: Look) -> Iterable[Part]:
    """A cylinder that leans forward on its crankcase; a four-stroke stands higher, a big single is larger."""
    case, four, grown = _case(o), look.motor == "four_stroke", 1.12 if look.big else 1.0
    lean, tall, wide = 0.24, (0.25 if four else 0.20) * grown, 0.125 * grown
    foot = (case[0] + 0.04, case[1] + 0.07)
    top = (foot[0] + tall * sin(lean), foot[1] + tall * cos(lean))
    yield Part("body", "alloy", bar((foot, top), wide, wide), "cylinder")
    for k in range(1, 6):
        at = along(foot, top, k / 6)
        fin = along(at, top, 0, wide / 2), along(at, top, 0, -wide / 2)
        yield Part("body", "fin", fin, "cylinder", closed=False)
    head = along(foot, top, 1.0 + (0.075 if four else 0.045) / tall)
    yield Part("body", "paper", bar((top, head), wide * 0.95, wide * 0.7), "head")
    right = (0.09, 0.09), (0.135, 0.0), (0.10, -0.085), (0.0, -0.115)
    shape = around(case, (-0.155, -0.02), (-0.13, 0.085), (-0.02, 0.11), *right, (-0.11, -0.09), (-0.155, -0.02))
    yield Part("body", "alloy", tuple(smooth(shape, 4)), "crankcase")
    cover = (case[0] + 0.045, case[1] - 0.01)
    yield Part("body", "paper", (cover,), "clutch cover", 0.058)
    yield Part("body", "ink", (cover,), "clutch cover", 0.014)
    inlet = (case[0] - 0.03, foot[1] + 0.09), (case[0] - 0.14, foot[1] + 0.11)
    yield Part("body", "paper", bar(inlet, 0.07, 0.06), "carburettor")


def _neck(o: Outline, down: float) -> Point:
    """So far down the steering axis."""
    return o.axis_top[0] + down * sin(o.rake_rad), o.axis_top[1] - down * cos(o.rake_rad)


def _frame(o: Outline, look: Look) -> Iterable[Part]:
    seat, pivot, low = o.seat, o.pivot, o.lowest
    heel = (pivot[0], pivot[1] - 0.06)
    spar = [_neck(o, 0.17), (seat[0] + 0.17, seat[1] - 0.13), (pivot[0] + 0.02, pivot[1] + 0.24), heel]
    yield Part("body", "frame", tube(spar, [0.06, 0.05, 0.045, 0.05]), "frame")
    cradle = [_neck(o, 0.24), *around(low, (0.235, 0.13), (0.13, 0.025), (-0.13, 0.02)), heel]
    yield Part("body", "frame", tube(cradle, [0.042] * 5), "frame")
    plate = around(low, (0.22, 0.10), (0.12, 0.008), (-0.12, 0.004))
    yield Part("body", "guard", tube(plate, [0.02] * 3), "skid plate")
    if look.motor != "electric" and not look.air_cooled:
        core = bar((along(_neck(o, 0.24), _neck(o, 0.17), 0.0, -0.02), (low[0] + 0.29, low[1] + 0.30)), 0.075, 0.075)
        yield Part("body", "paper", core, "radiator")


def _above(o: Outline, look: Look) -> Iterable[Part]:
    """Tank with its level, seat, panels."""
    seat, axis, tail = o.seat, o.axis_top, _tail(o)
    rear = around(seat, (0.22, 0.075), (0.12, 0.02), (0.14, -0.11))
    outline = [*around(axis, (-0.07, -0.025), (-0.135, 0.035)), *rear, (axis[0] - 0.10, axis[1] - 0.20)]
    shape = tuple(smooth([*outline, outline[0]], 4))
    yield Part("body", "tank", shape, "tank")
    if look.level is not None and look.motor != "electric":
        heights = [y for _x, y in shape]
        full = below(shape, min(heights) + look.level * (max(heights) - min(heights)))
        if len(full) > 2:
            yield Part("body", "fuel", full, "fuel")
    top = around(seat, (-0.28, 0.012), (0.0, 0.0), (0.13, 0.025), (0.25, 0.085))
    under = around(seat, (0.16, -0.01), (0.02, -0.06), (-0.28, -0.055))
    saddle = [(tail[0] + 0.16, tail[1] + 0.012), *top, *under, (tail[0] + 0.16, tail[1] - 0.03)]
    yield Part("body", "seat", tuple(smooth([*saddle, saddle[0]], 3)), "seat")
    edge = around(tail, (0.10, -0.035), (-0.08, 0.015), (0.12, 0.005))
    fender = smooth([(seat[0] - 0.20, seat[1] - 0.06), *edge, (seat[0] - 0.22, seat[1] - 0.005)])
    yield Part("body", "plastic", tuple(fender), "rear fender")
    panel = around(seat, (-0.34, -0.075), (-0.03, -0.09), (-0.07, -0.29), (-0.2, -0.22), (-0.34, -0.075))
    yield Part("body", "plastic", tuple(smooth(panel, 4)), "side panel")
    wing = *around(axis, (-0.02, -0.055), (0.005, -0.15)), (o.lowest[0] + 0.25, o.lowest[1] + 0.40)
    shroud = ((seat[0] + 0.16, seat[1] - 0.01), *wing, (seat[0] + 0.30, seat[1] - 0.17))
    yield Part("body", "plastic", shroud, "shroud")
    if look.bags:
        bag = around(tail, (0.06, 0.02), (0.08, 0.15), (0.30, 0.15), (0.34, 0.01), (0.06, 0.02))
        yield Part("body", "bag", tuple(smooth(bag, 3)), "bags")


def _fork(o: Outline, look: Look) -> Iterable[Part]:
    """Legs, clamps, calliper, fender, plate and lamp, bar with its guard. On the leg: so far up from the axle and so
    far behind it.
    """
    length = hypot(o.leg_top[0] - o.front[0], o.leg_top[1] - o.front[1])
    way = o.front[0] - sin(o.rake_rad), o.front[1] + cos(o.rake_rad)

    def on(*places: Point) -> tuple[Point, ...]:
        return tuple(along(o.front, way, up, behind) for up, behind in places)

    yield Part("body", "upper", bar(on((0.36, 0.0), (length, 0.0)), 0.058, 0.058), "fork, upper tube")
    yield Part("legs", "alloy", bar(on((-0.01, 0.0), (0.40, 0.0)), 0.05, 0.046), "fork, lower tube")
    yield Part("legs", "plastic", bar(on((0.02, -0.018), (0.34, -0.03)), 0.028, 0.022), "fork guard")
    yield Part("legs", "alloy", on((0.10, 0.03), (0.09, 0.115), (-0.02, 0.105), (-0.03, 0.03)), "brake calliper")
    yield Part("front", "ink", (o.front,), "front axle", 0.014)
    for up in (length - 0.045, length - 0.235):
        yield Part("body", "alloy", bar(on((up, 0.085), (up, -0.04)), 0.042, 0.036), "clamp")
    under = length - 0.26
    tip = (under + 0.05, -0.14), (under - 0.07, -0.34), (under - 0.27, -0.50), (under - 0.08, -0.30)
    back = (under - 0.03, -0.10), (under - 0.10, 0.22), (under - 0.03, 0.18)
    yield Part("body", "plastic", tuple(smooth(on((under, 0.0), *tip, *back))), "front fender")
    plate = on((length + 0.02, -0.05), (length - 0.20, -0.055), (length - 0.235, -0.13), (length, -0.115))
    if look.lamp:
        yield Part("body", "upper", on((length - 0.11, -0.13)), "lamp", 0.085)
        yield Part("body", "paper", on((length - 0.11, -0.155)), "lamp", 0.06)
    else:
        yield Part("body", "paper", plate, "number plate")
    top, grip = o.axis_top, o.bar
    rise = smooth([top, (top[0] + 0.005, top[1] + 0.055), (grip[0] + 0.05, grip[1] + 0.012), grip])
    yield Part("body", "handlebar", tuple(rise), "handlebar", closed=False)
    if look.lamp:
        return
    guard = around(grip, (-0.015, 0.045), (0.09, 0.06), (0.16, -0.035), (0.05, -0.01), (-0.015, 0.045))
    yield Part("body", "plastic", tuple(smooth(guard, 4)), "hand guard")
