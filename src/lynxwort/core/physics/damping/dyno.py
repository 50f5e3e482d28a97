"""A damper dyno run: force against shaft speed, and the one factor that it fits.

How much of the ports' ring presses on the shims is the largest unknown of the model (DAMPING.md 11): one factor on
the pressed area, fitted in logs by scipy's least_squares with a soft loss, so that a few wild points do not rule.
"""

from collections.abc import Container
from dataclasses import dataclass, replace
from math import exp, log

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import least_squares

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.defaults import Z90
from lynxwort.core.physics.damping.damper import TOP_M_PER_S, Damper, curve, force_at

Array = NDArray[np.float64]
HEADINGS: dict[str, tuple[str, ...]] = {"speed": ("speed", "velocity", "vel"), "force": ("force", "load")}
#: m/s and N per unit that a file may be in
SPEED_UNITS: dict[str, float] = {"m/s": 1.0, "mm/s": 1e-3, "in/s": 0.0254}
FORCE_UNITS: dict[str, float] = {"N": 1.0, "kgf": 9.80665, "lbf": 4.4482216152605}
#: slower points are friction and gas, not oil [m/s]; within this the standing force is looked for
SLOWEST_M_PER_S, STILL_M_PER_S = 0.05, 0.02
LEAST_POINTS = 8
WIDEST = 8.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Run:
    """speed_m_per_s: + = inward; force_n: of the oil, + = against inward motion; shapes (n,)."""

    speed_m_per_s: Array
    force_n: Array


@dataclass(frozen=True, slots=True, kw_only=True)
class Fit:
    """footprint with its central 90 %; off, off_before: r.m.s. of the relative misses with it and without; points
    used.
    """

    footprint: float
    low: float
    high: float
    off_share: float
    off_before_share: float
    points: int


def require(columns: Container[str]) -> None:
    """Raises InputRefused (column_missing) unless every wanted column is there."""
    for what in HEADINGS:
        if what not in columns:
            raise InputRefused(Refusal(path="file", code="column_missing", message=what))


def run_of(
    columns: dict[str, Array], *, speed_scale: float, force_scale: float, inward_is_negative: bool = False
) -> Run:
    """A run [m/s, N] from a file's columns; the standing force of the gas is taken off, speeds where friction
    rules are left out.

    Raises InputRefused for missing columns, too few points, speeds no shaft has.
    """
    require(columns)
    speed, force = (
        columns["speed"] * speed_scale * (-1.0 if inward_is_negative else 1.0),
        columns["force"] * force_scale,
    )
    still = np.abs(speed) < STILL_M_PER_S
    force = force - (float(np.median(force[still])) if still.any() else 0.0)
    if (
        float((np.sign(speed) * force).sum()) < 0.0
    ):  # some write the force that the damper gives, some the one that drives it
        force = -force
    kept = (np.abs(speed) >= SLOWEST_M_PER_S) & (np.sign(speed) * force > 0.0)
    if int(kept.sum()) < LEAST_POINTS:
        raise InputRefused(Refusal(path="file", code="too_few_points_run", low=float(LEAST_POINTS)))
    if float(np.abs(speed[kept]).max()) > TOP_M_PER_S:
        raise InputRefused(Refusal(path="file", code="shaft_too_fast", high=TOP_M_PER_S, unit="m/s"))
    return Run(speed_m_per_s=speed[kept], force_n=force[kept])


def misses(damper: Damper, clicks: tuple[float, float], run: Run) -> Array:
    """Logarithm of computed over measured force [1] at each point: shape (k,)."""
    made = curve(damper, *clicks)
    inward = run.speed_m_per_s > 0.0
    speed = np.abs(run.speed_m_per_s)
    force = np.where(inward, force_at(made.compression_n, speed), force_at(made.rebound_n, speed))
    return np.asarray(np.log(force / np.abs(run.force_n)))


def fit(damper: Damper, clicks: tuple[float, float], run: Run) -> Fit:
    """The footprint [1] that brings the damper nearest to a run taken at these clicks."""

    def off(x: Array) -> Array:
        return misses(replace(damper, footprint=exp(float(x[0]))), clicks, run)

    found = least_squares(
        off,
        x0=[log(damper.footprint)],
        bounds=([-log(WIDEST)], [log(WIDEST)]),
        loss="soft_l1",
        f_scale=0.1,
        diff_step=1e-3,
    )
    left = off(found.x)
    slope = float((found.jac**2).sum())
    sd = float(np.sqrt((left**2).sum() / max(left.size - 1, 1) / max(slope, 1e-12)))
    middle = float(found.x[0])
    before = misses(replace(damper, footprint=1.0), clicks, run)
    return Fit(
        footprint=exp(middle),
        low=exp(middle - Z90 * sd),
        high=exp(middle + Z90 * sd),
        off_share=float(np.sqrt((left**2).mean())),
        off_before_share=float(np.sqrt((before**2).mean())),
        points=int(left.size),
    )
