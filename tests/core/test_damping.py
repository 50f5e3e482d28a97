"""Plates, shim stacks, valves and dampers against closed forms, an independent solver and their own limits."""

import math
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import solve_bvp
from scipy.sparse import lil_matrix
from scipy.sparse.linalg import spsolve

from lynxwort.core.physics.damping import damper, orifices, plates, stack, valve
from lynxwort.core.physics.damping.stack import Shim, Stack, bend
from tests.support import Published

PA, MM = 1e6, 1e-3
TAPER = "3x24.15 22.15 20.15 18.15 16.15 14.15"
SHOCK = "5x40.20 38.20 36.20 34.20 32.25 30.25 28.25 26.25 24.30"


def made(text, clamp=12.0, ports=(7.5, 10.5), preload=0.0):
    """A stack written the usual way, diameter.thickness in hundredths, from the face."""
    shims = []
    for word in text.split():
        count, _, size = word.rpartition("x")
        diameter, thick = size.split(".")
        shims += [Shim(float(diameter) * MM, float(thick) / 100 * MM)] * int(count or 1)
    return Stack(shims=tuple(shims), clamp_m=clamp * MM, ports_m=(ports[0] * MM, ports[1] * MM), preload_m=preload * MM)


def lift(text, pressure=1.0, **kwargs):
    return float(bend(made(text, **kwargs), [pressure * PA]).lift_m[0]) / MM


# plates -----------------------------------------------------------------------------------------------------------------
@pytest.mark.parametrize(
    ("size", "clamp", "band", "whole", "stress", "rim", "rim_stress", "banded"),
    [
        ("24.10", 12, (7.5, 10.5), 9.440709, 14996.37, 4.621699, 5679.903, 3.876455),
        ("24.15", 12, (7.5, 10.5), 2.797247, 6665.05, 1.369392, 2524.402, 1.148579),
        ("24.15", 10, (7.5, 10.5), 5.145493, 9731.06, 2.194848, 3213.096, 2.266017),
        ("40.20", 20, (13, 18), 9.105622, 10414.15, 2.674595, 2366.626, 4.459015),
        ("40.20", 22, (13, 18), 5.973727, 8115.46, 1.930667, 2026.750, 2.790002),
        ("20.10", 10, (6, 8.5), 4.552811, 10414.15, 2.674595, 4733.253, 1.542209),
    ],
)
def test_plates_agree_with_roark(size, clamp, band, whole, stress, rim, rim_stress, banded):
    diameter, thick = size.split(".")
    a, b, t = float(diameter) / 2 * MM, clamp / 2 * MM, float(thick) / 100 * MM
    stiffness, source = (
        plates.rigidity(t),
        "Roark's annular plate functions, cases 1l and 2l; finite elements and an ODE route agree (handbook)",
    )
    Published(whole, 1e-6, source).check(plates.band_deflection(a, a, b, (b, a)) / stiffness * PA / MM)
    Published(stress, 1e-6, source).check(6 * plates.band_moment(b, a, b, (b, a)) / t**2)
    line = 2 * math.pi * a / MM  # 1 N/mm all round
    Published(rim, 1e-6, source).check(plates.ring_deflection(a, a, a, b) / stiffness * line * MM / MM**1 * 1e3)
    Published(rim_stress, 1e-6, source).check(6 * plates.ring_moment(b, a, a, b) / t**2 * line * MM / 1e6 * 1e3)
    Published(banded, 1e-6, source).check(
        plates.band_deflection(a, a, b, (band[0] * MM, band[1] * MM)) / stiffness * PA / MM
    )


def test_a_plate_under_pressure_agrees_with_a_general_solver_of_its_equation():
    a, b, t = 12 * MM, 6 * MM, 0.15 * MM
    stiffness, x = float(plates.rigidity(t)), np.linspace(1.0, 2.0, 60)

    def slopes(r, y):  # y, y', moment-like curvature sum, its slope: r-scaled axisymmetric plate, unit load
        w1, w2, w3 = y[1], y[2], y[3]
        return np.vstack([w1, w2, w3, 1.0 - 2.0 / r * w3 + w2 / r**2 - w1 / r**3])

    def ends(inner, outer):
        nu = plates.POISSON
        return np.array(
            [inner[0], inner[1], outer[2] + nu / 2.0 * outer[1], outer[3] + outer[2] / 2.0 - outer[1] / 4.0]
        )

    solved = solve_bvp(slopes, ends, x, np.zeros((4, x.size)), tol=1e-9, max_nodes=20000)
    assert solved.success
    radii = np.array([7.0, 8.0, 9.0, 10.0, 11.0, 12.0]) * MM
    ours = plates.band_deflection(radii, a, b, (b, a)) / stiffness * PA
    assert ours == pytest.approx(solved.sol(radii / b)[0] * b**4 / stiffness * PA, rel=1e-6)
    assert ours / MM == pytest.approx(
        [0.1654, 0.561613, 1.079287, 1.648611, 2.227966, 2.797247], rel=5e-4
    )  # handbook's profile


def test_forces_and_places_change_sides_without_a_change():  # Betti
    one = plates.ring_deflection(9 * MM, 11 * MM, 12 * MM, 6 * MM)
    assert one == pytest.approx(plates.ring_deflection(11 * MM, 9 * MM, 12 * MM, 6 * MM), rel=1e-12)


# stacks -----------------------------------------------------------------------------------------------------------------
@pytest.mark.parametrize(
    ("text", "kwargs", "wanted", "face", "largest"),
    [
        ("24.15 18.15", {}, 0.61416, 1602, 1621),
        ("24.15 20.30", {}, 0.13424, 359, 718),
        (TAPER, {}, 0.16491, 385, 535),
        (TAPER, {"clamp": 11.0}, 0.23168, 475, 628),
        (SHOCK, {"clamp": 22.0, "ports": (13.0, 18.0)}, 0.18950, 211, 479),
    ],
)
def test_stacks_agree_with_finite_elements(text, kwargs, wanted, face, largest):
    bent = bend(made(text, **kwargs), [PA])
    source = "finite elements with contact, handbook DAMPING 2"
    Published(wanted, 1e-3, source).check(float(bent.lift_m[0]) / MM)
    Published(largest, 0.02, source).check(float(bent.stress_pa.max()) / PA)
    assert float(bent.stress_pa[0, 0]) / PA == pytest.approx(face, rel=0.06 if "clamp" in kwargs else 0.01)


@pytest.mark.parametrize(
    ("crossover", "lifts"),
    [
        ("14.10", (0.02662, 0.13308, 0.23082, 0.39590, 0.72401)),
        ("13.20", (0.03114, 0.15570, 0.29495, 0.45453, 0.77480)),
    ],
)
def test_a_crossover_opens_soft_and_closes_near_the_clamp(crossover, lifts):
    text = TAPER.replace("24.15", f"24.15 {crossover}", 1)
    found = bend(made(text), np.array([0.1, 0.5, 1.0, 2.0, 4.0]) * PA).lift_m / MM
    assert found == pytest.approx(
        lifts, rel=0.02
    )  # finite elements; the handbook's own solver is up to 1.8 % off before the gap closes
    plain, first = lift(TAPER), lift("3x24.15")
    assert plain < found[2] < first
    assert found[0] / 0.1 > found[4] / 4.0


def test_a_large_crossover_never_closes_and_is_one_more_leaf():
    for pressure in (0.1, 1.0, 6.0):
        text = TAPER.replace("24.15", "24.15 18.10", 1)
        Published(0.1635, 2e-3, "handbook DAMPING 4, crossover table").check(lift(text, pressure) / pressure)


def test_preload_holds_it_shut_until_its_pressure():
    assert lift(TAPER, 0.5, preload=0.1) == pytest.approx(0.1, abs=1e-6)
    for pressure, above in ((1.0, 0.0649), (2.0, 0.2298), (4.0, 0.5596)):
        Published(above, 5e-3, "finite elements, handbook DAMPING 2").check(lift(TAPER, pressure, preload=0.1) - 0.1)


def glued(text, clamp=12.0, ports=(7.5, 10.5), count=240):
    """Edge lift [mm] at 1 MPa if the shims were one stepped plate: cubic elements over the plate's bending energy. A bound from below."""
    shims = made(text).shims
    b, a = clamp / 2 * MM, shims[0].diameter_m / 2
    r = np.linspace(b, a, count + 1)
    matrix, load = lil_matrix((2 * count + 2, 2 * count + 2)), np.zeros(2 * count + 2)
    points, weights = np.polynomial.legendre.leggauss(5)
    for e in range(count):
        h, start = r[e + 1] - r[e], 2 * e
        for point, weight in zip(points, weights, strict=True):
            s = 0.5 * (point + 1.0)
            x = r[e] + s * h
            stiffness = sum(float(plates.rigidity(m.thickness_m)) for m in shims if m.diameter_m / 2 > x)
            value = np.array(
                [1 - 3 * s**2 + 2 * s**3, h * (s - 2 * s**2 + s**3), 3 * s**2 - 2 * s**3, h * (s**3 - s**2)]
            )
            first = (
                np.array([-6 * s + 6 * s**2, h * (1 - 4 * s + 3 * s**2), 6 * s - 6 * s**2, h * (3 * s**2 - 2 * s)]) / h
            )
            second = np.array([-6 + 12 * s, h * (-4 + 6 * s), 6 - 12 * s, h * (6 * s - 2)]) / h**2
            turned, nu = first / x, plates.POISSON
            element = (
                np.outer(second, second)
                + np.outer(turned, turned)
                + nu * (np.outer(second, turned) + np.outer(turned, second))
            )
            share = 2 * math.pi * x * stiffness * weight * h / 2
            for i in range(4):
                for j in range(4):
                    matrix[start + i, start + j] += share * element[i, j]
            if ports[0] * MM < x < ports[1] * MM:
                load[start : start + 4] += PA * 2 * math.pi * x * value * weight * h / 2
    free = np.arange(2, 2 * count + 2)
    solved = spsolve(matrix.tocsr()[free][:, free], load[free])
    return float(solved[-2]) / MM


@pytest.mark.parametrize(
    "text", [TAPER, "24.15 18.15", "2x24.15 2x20.10 16.20", "3x24.10 21.10 18.10 15.10", "24.20 22.10 20.10 14.30"]
)
def test_glued_shims_are_a_bound_and_a_single_plate_is_exact(text):
    loose, bound = lift(text), glued(text)
    assert bound <= loose * (1 + 2e-4)
    assert loose <= lift(text.split()[0]) * (1 + 1e-9)
    assert glued("24.15") == pytest.approx(lift("24.15"), rel=1e-3)


sizes = st.lists(st.sampled_from([14, 16, 18, 20, 22]), min_size=1, max_size=5, unique=True).map(
    lambda s: sorted(s, reverse=True)
)
thick = st.sampled_from([10, 15, 20])


@settings(max_examples=25, deadline=None)
@given(sizes, thick, thick)
def test_what_always_holds_of_a_taper(diameters, first, other):
    text = f"2x24.{first} " + " ".join(f"{d}.{other}" for d in diameters)
    plain = lift(text)
    bent = bend(made(text), np.array([0.3, 1.0, 3.0]) * PA)
    assert bent.lift_m / bent.pressure_pa == pytest.approx(plain * MM / PA, rel=1e-9)  # no gap: straight
    touch = bent.contacts
    assert (touch.force_n >= 0).all()
    assert (touch.gap_m >= -1e-12).all()
    assert (touch.force_n * touch.gap_m <= 1e-9 * touch.force_n.max()).all()
    assert lift(f"{text} 13.10") < plain * (1 + 1e-9)  # one more leaf
    assert lift(text, clamp=11.5) > plain  # a smaller clamp
    assert lift(f"{text} 11.30 10.20") == pytest.approx(plain, rel=1e-12)  # behind the clamp
    double = Stack(
        shims=tuple(Shim(2 * s.diameter_m, 2 * s.thickness_m) for s in made(text).shims),
        clamp_m=24 * MM,
        ports_m=(15 * MM, 21 * MM),
    )
    assert float(bend(double, [PA]).lift_m[0]) == pytest.approx(2 * plain * MM, rel=1e-9)


def test_equal_shims_share_and_thickness_counts_in_the_cube():
    assert lift("4x24.15") == pytest.approx(lift("24.15") / 4, rel=1e-12)
    assert lift("24.30") == pytest.approx(lift("24.15") / 8, rel=1e-12)
    assert lift("24.15 24.20 24.10 20.15") == pytest.approx(lift("24.10 24.15 24.20 20.15"), rel=1e-12)


@pytest.mark.parametrize(("change", "stiffer"), [("24", 14.6), ("22", 14.2), ("18", 12.6), ("14", 4.9)])
def test_where_one_more_shim_goes(change, stiffer):
    words = TAPER.split()
    at = next(k for k, w in enumerate(words) if w.rpartition("x")[2].startswith(change))
    words.insert(at, f"{change}.15")
    Published(stiffer, 0.04, "handbook DAMPING 4, adding one shim").check(
        100 * (lift(TAPER) / lift(" ".join(words)) - 1)
    )


def test_large_deflection_bends_the_line_and_small_does_not():
    made_ = made(TAPER)
    small, large = stack.true_lift(made_, np.array([1e-6, 0.3e-3]))
    assert small == pytest.approx(1e-6, rel=1e-4)
    te = math.sqrt(sum(s.thickness_m**3 for s in made_.shims) / made_.height_m)
    assert large / te + stack.KAPPA * (large / te) ** 3 == pytest.approx(0.3e-3 / te, rel=1e-9)


# valves and clicks ------------------------------------------------------------------------------------------------------
NEEDLE = orifices.Needle(bore_m=2.4 * MM, half_angle_rad=math.radians(9), m_per_click=0.06 * MM, fixed_m2=0.1 * MM**2)


def test_the_needle_opens_as_published():
    areas = [NEEDLE.area_m2(n) / MM**2 for n in (0, 1, 4, 8, 12, 16, 20, 22)]
    assert areas == pytest.approx(
        [0.100, 0.170, 0.379, 0.649, 0.910, 1.162, 1.406, 1.525], abs=6e-4
    )  # handbook DAMPING 8
    wide = [NEEDLE.area_m2(n) for n in range(0, 400, 5)]
    assert all(b >= a for a, b in pairwise(wide))
    assert wide[-1] == pytest.approx(NEEDLE.fixed_m2 + math.pi * NEEDLE.bore_m**2 / 4)


def test_a_bleed_goes_with_the_square_the_shims_with_two_thirds():
    shut = valve.Valve(stack=made("9x24.30"), port_area_m2=1.0)
    curve = valve.valve_flow(shut, 1e-6)
    assert valve.pressure_at(curve, np.array([2e-7])) / valve.pressure_at(curve, np.array([1e-7])) == pytest.approx(
        4.0, rel=1e-3
    )
    open_ = valve.Valve(stack=made(TAPER), port_area_m2=1.0)
    curve = valve.valve_flow(open_, 1e-12)
    low, high = valve.pressure_at(curve, np.array([1e-5, 2e-5]))
    assert math.log(high / low) / math.log(2) == pytest.approx(2 / 3, abs=0.01)
    stiff = valve.pressure_at(valve.valve_flow(open_, 1e-12, lift_scale=0.867), np.array([1e-5]))
    assert stiff / low == pytest.approx((1 / 0.867) ** (2 / 3), rel=2e-3)


def test_the_knee_lies_where_bleed_and_shims_pass_the_same():
    soft, bleed, area = stack.softness(made(TAPER)) * 0.7, 0.9 * MM**2, 113.0 * MM**2
    pressure = bleed / (2 * math.pi * 12 * MM * soft)
    Published(0.1034, 0.01, "handbook DAMPING 8").check(pressure / PA)
    through = orifices.DISCHARGE * bleed * math.sqrt(2 * pressure / orifices.OIL_KG_PER_M3)
    Published(0.173, 0.02, "handbook DAMPING 8, oil 870 kg/m3 there").check(2 * through / area)


def test_a_table_agrees_with_a_root_of_the_same_equations():
    from scipy.optimize import brentq

    v = valve.Valve(stack=made(TAPER), port_area_m2=60 * MM**2)
    table = valve.valve_flow(v, 0.5 * MM**2)

    def excess(across, flow):
        real = float(stack.true_lift(v.stack, bend(v.stack, [across * v.cover]).lift_m)[0])
        under = float(orifices.flow(2 * math.pi * 12 * MM * real, across))
        whole = across + float(orifices.pressure_over(v.port_area_m2, under))
        return under + float(orifices.flow(0.5 * MM**2, whole)) - flow

    for flow in (1e-5, 5e-5, 2e-4):
        across = brentq(excess, 1.0, 3e7, args=(flow,))
        real = float(stack.true_lift(v.stack, bend(v.stack, [across * v.cover]).lift_m)[0])
        whole = across + float(
            orifices.pressure_over(v.port_area_m2, float(orifices.flow(2 * math.pi * 12 * MM * real, across)))
        )
        assert float(valve.pressure_at(table, np.array([flow]))[0]) == pytest.approx(whole, rel=3e-3)


# damping ratio ----------------------------------------------------------------------------------------------------------
@pytest.mark.parametrize(
    ("c", "k", "ratio", "mass", "units", "zeta", "critical"),
    [
        (300, 4800, 1.0, 95, 2, 0.314140, 1909.974),
        (4000, 54000, 2.8, 105, 1, 0.299972, 1700.841),
        (6000, 42000, 2.5, 90, 1, 0.617213, None),
    ],
)
def test_damping_ratios(c, k, ratio, mass, units, zeta, critical):
    found = damper.damping_ratio(c, k, ratio, mass, units)
    Published(zeta, 1e-5, "textbook, handbook DAMPING 7").check(found.zeta)
    if critical:
        Published(critical, 1e-5, "textbook, handbook DAMPING 7").check(found.critical_n_s_per_m)
    at_shaft = units**0.5 * c / (2 * ratio * math.sqrt(k * mass))  # the same at shaft and wheel
    assert found.zeta == pytest.approx(at_shaft, rel=1e-12)
