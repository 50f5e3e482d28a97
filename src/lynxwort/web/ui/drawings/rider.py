"""The rider on a plate of a bike: limbs by height and inseam, standing or sitting, feet and hands where they belong."""

from math import acos, atan2, cos, hypot, sin

from lynxwort.web.ui.drawings.plate import Look, Outline, Part, Point, around


def joint(a: Point, b: Point, first: float, second: float, side: int) -> Point:
    """The joint of two limbs from a to b, on one side of the way; stretched out where they do not reach."""
    far = min(hypot(b[0] - a[0], b[1] - a[1]), first + second - 1e-6)
    turn = acos(max(-1.0, min(1.0, (first * first + far * far - second * second) / (2 * first * far))))
    way = atan2(b[1] - a[1], b[0] - a[0]) + side * turn
    return a[0] + first * cos(way), a[1] + first * sin(way)


def _limb(a: Point, b: Point, width: float, *sway: float) -> Part:
    return Part("rider", "limb", (a, b), "rider", closed=False, width=width, sway=sway)


def rider(o: Outline, look: Look) -> list[Part]:
    """The rider on pegs and bar. Shares of the height after D. A. Winter, Biomechanics and Motor Control of Human
    Movement (from memory); the leg by the inseam where it is known.
    """
    h = look.height_m
    leg = look.inseam_m or 0.47 * h
    shank, thigh, torso, arm, fore = 0.50 * leg + 0.04, 0.50 * leg, 0.29 * h, 0.185 * h, 0.21 * h
    foot, hand = (o.peg[0] - 0.02, o.peg[1] + 0.05), (o.bar[0] - 0.02, o.bar[1] + 0.01)
    standing = (foot[0] - 0.20, foot[1] + 0.90 * (shank + thigh))
    hip = standing if look.standing else (o.seat[0] - 0.05, o.seat[1] + 0.10)
    reach = hypot(hand[0] - hip[0], hand[1] - hip[1])
    lean = atan2(hand[1] - hip[1], hand[0] - hip[0])
    turn = acos(max(-1.0, min(1.0, (torso**2 + reach**2 - (0.93 * (arm + fore)) ** 2) / (2 * torso * reach))))
    shoulder = (hip[0] + torso * cos(lean + turn), hip[1] + torso * sin(lean + turn))
    knee, elbow = joint(foot, hip, shank, thigh, -1), joint(shoulder, hand, arm, fore, -1)
    neck = (shoulder[0] + 0.09, shoulder[1] + 0.10)
    head = (neck[0] + 0.05, neck[1] + 0.10)
    visor = around(head, (0.06, 0.11), (0.22, 0.085), (0.12, 0.03), (0.17, -0.06), (0.14, -0.12), (-0.02, -0.11))
    return [
        _limb((foot[0] - 0.10, foot[1] - 0.01), (foot[0] + 0.14, foot[1] - 0.02), 0.075, 0, 0),
        _limb(foot, knee, 0.10, 0, 0.5),
        _limb(knee, hip, 0.145, 0.5, 1),
        _limb(hip, shoulder, 0.21, 1, 1),
        _limb(shoulder, elbow, 0.095, 1, 0.5),
        _limb(elbow, hand, 0.08, 0.5, 0),
        _limb(shoulder, neck, 0.11, 1, 1),
        Part("rider", "head", (head,), "helmet", 0.125, sway=(1,)),
        Part("rider", "head", visor, "rider", sway=(1,) * len(visor)),
    ]
