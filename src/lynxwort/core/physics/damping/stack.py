"""A shim stack under pressure: plates in unilateral contact, clamped in the middle.

Each shim is a thin annular plate (`plates`); shims of one size that lie on one another are merged exactly. Where two
plates face each other they push, never pull: gap = g0 + p gp + A z with z >= 0, gap >= 0, z gap = 0, A symmetric and
positive definite, so there is one answer. A small shim between two large ones (a crossover) only makes g0 > 0 beyond
its rim; without any gap and without preload the answer is proportional to the pressure.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import nnls

from lynxwort.core.physics.damping.plates import band_deflection, band_moment, rigidity, ring_deflection, ring_moment

Array = NDArray[np.float64]
#: where two plates may touch, as shares of the stretch over which they face each other (DAMPING 3: edges alone are
#: wrong by 4 to 160 %)
POINTS = (0.2, 0.4, 0.6, 0.8, 1.0)
#: large deflection: linear lift / te = x + KAPPA x^3, te^2 = sum t^3 / sum t (between 0.05 and 0.10: nobody here can
#: say)
KAPPA = 0.07
#: rounds of block pivoting before the standard solver takes over
ROUNDS = 60
TOLERANCE = 1e-8


@dataclass(frozen=True, slots=True)
class Shim:
    """One leaf: outer diameter and thickness [m]."""

    diameter_m: float
    thickness_m: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Stack:
    """shims: from the face to the clamp; clamp_m: its diameter; ports_m: inner and outer radius of the pressed band;
    preload_m: how much higher the seat at the rim of the face shim stands than the clamp.
    """

    shims: tuple[Shim, ...]
    clamp_m: float
    ports_m: tuple[float, float]
    preload_m: float = 0.0

    @property
    def face_radius_m(self) -> float:
        return self.shims[0].diameter_m / 2.0

    @property
    def height_m(self) -> float:
        return sum(s.thickness_m for s in self.shims)


@dataclass(frozen=True, slots=True, kw_only=True)
class Contacts:
    """Where plates touch: lower and upper plate (by order from the face; -1: the seat), radius [m], force [N] on the
    ring, gap [m]; each shape (n,).
    """

    lower: NDArray[np.int64]
    upper: NDArray[np.int64]
    radius_m: Array
    force_n: Array
    gap_m: Array


@dataclass(frozen=True, slots=True, kw_only=True)
class Bent:
    """A stack at some pressures: lift [m] of the face shim's rim above where it is clamped, linear, shape (p,); stress
    [Pa] of the worst leaf of each size, shape (p, plates); contacts at the last pressure.
    """

    pressure_pa: Array
    lift_m: Array
    stress_pa: Array
    contacts: Contacts


@dataclass(frozen=True, kw_only=True)
class _Assembly:
    """Merged plates, what may touch, and how each answers a force."""

    radius_m: Array
    stiffness: Array
    leaf: Array
    lower: NDArray[np.int64]
    upper: NDArray[np.int64]
    at: Array
    gap: Array
    matrix: Array
    by_pressure: Array
    lift_by_force: Array
    lift_m_per_pa: float
    row_plate: NDArray[np.int64]
    moment_by_force: Array
    moment_by_pressure: Array
    proportional: bool


@dataclass(slots=True)
class _Plate:
    """Shims of one size that lie on one another. below_m: thickness of what lies between it and the plate below, itself
    not reaching beyond the clamp.
    """

    radius_m: float
    cubes_m3: float
    thickest_m: float
    thick_m: float
    below_m: float = 0.0


def _plates(stack: Stack) -> list[_Plate]:
    inner, spacing = stack.clamp_m / 2.0, 0.0
    found: list[_Plate] = []
    for shim in stack.shims:
        radius, t = shim.diameter_m / 2.0, shim.thickness_m
        if radius <= inner * (1.0 + 1e-9):
            spacing += t
            continue
        if found and spacing == 0.0 and abs(found[-1].radius_m - radius) < 1e-9:
            found[-1].cubes_m3 += t**3
            found[-1].thickest_m = max(found[-1].thickest_m, t)
            found[-1].thick_m += t
        else:
            found.append(_Plate(radius, t**3, t, t, spacing))
        spacing = 0.0
    return found


def _candidates(
    plates: list[_Plate], inner: float, preload_m: float
) -> tuple[list[int], list[int], list[float], list[float]]:
    """Lower plate, upper plate, radius and gap at rest of every place where two plates may touch."""
    lower, upper, at, gap = [], [], [], []
    if preload_m > 0.0:
        lower, upper, at, gap = [-1], [0], [plates[0].radius_m], [-preload_m]
    for i, plate in enumerate(plates):
        reach, between = inner, 0.0
        for k in range(i + 1, len(plates)):
            between += plates[k].below_m
            edge = min(plate.radius_m, plates[k].radius_m)
            if edge > reach * (1.0 + 1e-9):
                for share in POINTS:
                    lower.append(i)
                    upper.append(k)
                    at.append(reach + share * (edge - reach))
                    gap.append(between)
                reach = edge
            between += plates[k].thick_m
            if reach >= plate.radius_m * (1.0 - 1e-9):
                break
    return lower, upper, at, gap


@lru_cache(maxsize=512)
def _assembly(stack: Stack) -> _Assembly:
    inner, plates = stack.clamp_m / 2.0, _plates(stack)
    radius = np.array([p.radius_m for p in plates])
    stiffness = rigidity(1.0) * np.array([p.cubes_m3 for p in plates])
    lower_, upper_, at_, gap_ = _candidates(plates, inner, stack.preload_m)
    lower, upper = np.array(lower_, dtype=np.int64), np.array(upper_, dtype=np.int64)
    at, gap = np.array(at_), np.array(gap_)
    matrix = np.zeros((at.size, at.size))
    for mine, sign in ((lower, -1.0), (upper, 1.0)):
        for other, other_sign in ((lower, -1.0), (upper, 1.0)):
            same = (mine[:, None] == other[None, :]) & (mine[:, None] >= 0)
            rows, columns = np.nonzero(same)
            if rows.size:
                plate = mine[rows]
                bent = ring_deflection(at[rows], at[columns], radius[plate], inner) / stiffness[plate]
                matrix[rows, columns] += sign * other_sign * bent
    face = radius[0]
    on_face = np.where(upper == 0, 1.0, 0.0) - np.where(lower == 0, 1.0, 0.0)
    pressed = band_deflection(at, face, inner, stack.ports_m) / stiffness[0] if at.size else np.zeros(0)
    lift_by_force = on_face * ring_deflection(face, at, face, inner) / stiffness[0] if at.size else np.zeros(0)
    row_plate, row_at = _stress_rows(radius, inner, lower, upper, at, stack.ports_m)
    pushed = np.where(upper[None, :] == row_plate[:, None], 1.0, 0.0) - np.where(
        lower[None, :] == row_plate[:, None], 1.0, 0.0
    )
    moments = (
        pushed * ring_moment(row_at[:, None], at[None, :], radius[row_plate][:, None], inner)
        if at.size
        else np.zeros((row_at.size, 0))
    )
    return _Assembly(
        radius_m=radius,
        stiffness=stiffness,
        leaf=np.array([6.0 * p.thickest_m / p.cubes_m3 for p in plates]),
        lower=lower,
        upper=upper,
        at=at,
        gap=gap,
        matrix=matrix,
        by_pressure=on_face * pressed,
        lift_by_force=lift_by_force,
        lift_m_per_pa=float(band_deflection(face, face, inner, stack.ports_m) / stiffness[0]),
        row_plate=row_plate,
        moment_by_force=moments,
        moment_by_pressure=np.where(row_plate == 0, band_moment(row_at, face, inner, stack.ports_m), 0.0),
        proportional=bool(np.all(gap == 0.0)),
    )


def _stress_rows(
    radius: Array,
    inner: float,
    lower: NDArray[np.int64],
    upper: NDArray[np.int64],
    at: Array,
    ports: tuple[float, float],
) -> tuple[NDArray[np.int64], Array]:
    """Plate and radius of every place where stress is looked at: the clamp, every contact, the ports' edges."""
    plates, places = [], []
    for k, outer in enumerate(radius):
        touched = at[(lower == k) | (upper == k)]
        edges = [p for p in ports if k == 0 and inner < p < outer]
        here = np.unique(np.concatenate([[inner], touched[touched < outer], edges]))
        plates += [k] * here.size
        places += list(here)
    return np.array(plates, dtype=np.int64), np.array(places)


def _forces(matrix: Array, free_gap: Array, active: NDArray[np.bool_]) -> Array:
    """z >= 0 with free_gap + matrix z >= 0 and z x gap = 0. Block pivoting from a first guess of what touches; the
    standard solver when it cycles.
    """
    if free_gap.size == 0 or bool(np.all(free_gap >= 0.0)):
        return np.zeros(free_gap.size)
    scale_gap = float(np.abs(free_gap).max())
    for _ in range(ROUNDS):
        force = np.zeros(free_gap.size)
        touching = np.nonzero(active)[0]
        if touching.size:
            force[touching] = np.linalg.solve(matrix[np.ix_(touching, touching)], -free_gap[touching])
        gap = free_gap + matrix @ force
        wrong = (active & (force < -TOLERANCE * max(float(np.abs(force).max()), 1e-300))) | (
            ~active & (gap < -TOLERANCE * scale_gap)
        )
        if not wrong.any():
            return np.maximum(force, 0.0)
        active = active ^ wrong
    root = np.linalg.cholesky(matrix + 1e-12 * np.eye(matrix.shape[0]) * np.trace(matrix) / matrix.shape[0])
    return np.asarray(nnls(root.T, -np.linalg.solve(root, free_gap), maxiter=50 * matrix.shape[0])[0])


@lru_cache(maxsize=512)
def _unit(stack: Stack) -> Array:
    """Contact forces per pressure [N/Pa] of a stack whose plates lie on one another from the first."""
    made = _assembly(stack)
    return _forces(made.matrix, made.by_pressure, np.ones(made.at.size, dtype=np.bool_))


def bend(stack: Stack, pressure_pa: Sequence[float] | Array) -> Bent:
    """The stack at each pressure [Pa], shape (p,), linear in deflection."""
    made = _assembly(stack)
    pressure = np.atleast_1d(np.asarray(pressure_pa, dtype=float))
    touching = np.ones(made.at.size, dtype=np.bool_)
    if made.proportional:
        forces = pressure[:, None] * _unit(stack)
    else:
        forces = np.zeros((pressure.size, made.at.size))
        for k, p in enumerate(pressure):
            forces[k] = _forces(made.matrix, made.gap + p * made.by_pressure, touching)
            touching = forces[k] > 0.0
    lift = pressure * made.lift_m_per_pa + forces @ made.lift_by_force
    moment = np.abs(forces @ made.moment_by_force.T + pressure[:, None] * made.moment_by_pressure)
    stress = np.zeros((pressure.size, made.radius_m.size))
    for k in range(made.radius_m.size):
        stress[:, k] = moment[:, made.row_plate == k].max(axis=1) * made.leaf[k]
    last = forces[-1]
    gaps = made.gap + pressure[-1] * made.by_pressure + made.matrix @ last
    return Bent(
        pressure_pa=pressure,
        lift_m=lift,
        stress_pa=stress,
        contacts=Contacts(lower=made.lower, upper=made.upper, radius_m=made.at, force_n=last, gap_m=gaps),
    )


def plate_indices(stack: Stack) -> list[int]:
    """For every shim the order of the plate it is merged into; -1 of those that do not reach beyond the clamp."""
    found, plate, last = [], -1, 0.0
    for shim in stack.shims:
        if shim.diameter_m <= stack.clamp_m * (1.0 + 1e-9):
            found.append(-1)
            last = 0.0
            continue
        if abs(shim.diameter_m - last) > 1e-9:
            plate += 1
        last = shim.diameter_m
        found.append(plate)
    return found


def thickest(stack: Stack, plate: int) -> float:
    """Thickness [m] of the thickest shim merged into a plate."""
    return _plates(stack)[plate].thickest_m


def softness(stack: Stack, pressure_pa: float = 1e6) -> float:
    """Lift per pressure [m/Pa], at 1 MPa where it is not proportional."""
    return float(bend(stack, [pressure_pa]).lift_m[0]) / pressure_pa


def true_lift(stack: Stack, linear_m: Array, kappa: float = KAPPA) -> Array:
    """Lift [m] with large deflection counted: linear / te = x + kappa x^3, lift = te x."""
    t = np.array([s.thickness_m for s in stack.shims if s.diameter_m > stack.clamp_m])
    te = float(np.sqrt((t**3).sum() / t.sum()))
    if kappa <= 0.0:
        return np.asarray(linear_m, dtype=float)
    y = np.asarray(linear_m, dtype=float) / te
    # the one real root of kappa x^3 + x - y
    half = y / (2.0 * kappa)
    root = np.sqrt(half**2 + 1.0 / (27.0 * kappa**3))
    return np.asarray(te * (np.cbrt(half + root) + np.cbrt(half - root)))
