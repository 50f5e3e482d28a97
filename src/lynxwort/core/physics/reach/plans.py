"""Plans of stops: the quickest that is sure enough, what else is near it, what one missed stop costs."""

from math import inf, sqrt

import numpy as np
from scipy.special import ndtr, ndtri

from lynxwort.core.evidence import LogNormal
from lynxwort.core.physics.reach.finish import HERMITE_NODES, HERMITE_WEIGHTS
from lynxwort.core.physics.reach.stops import Array, FuelCourse, Plan, Tank, _moments, _Shape, _shortest, plan_of

#: standing times closer than this are one plan's alternatives [s] (HANDBOOK 5: within half a minute)
NEAR_S = 30.0


BISECTIONS = 18


#: how far between the quantile of the certainty itself and that of its share per leg the legs that cannot be
#: filled for
#: more are tried
FULL_SHARES = (0.0, 0.15, 0.3, 0.45, 0.6, 0.8)


#: how far from the lowest to the highest quantile the others are tried
QUANTILE_SHARES = (0.0, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1.0)


class _Search:
    """The plan's search on one course: shortest paths at given quantiles, and the joint chance of what they find."""

    def __init__(self, course: FuelCourse, tank: Tank, factor: LogNormal, closed: frozenset[int]) -> None:
        self.tank, self.factor, self.n = tank, factor, len(course.sections) + 1
        self.log_mean, self.log_sd, mean = _moments(course)
        self.likely = mean * factor.median
        self.spread = np.sqrt(self.log_sd**2 + factor.log_sd**2)
        self.fixed, self.per_unit = (
            np.array([0.0, *(getattr(o, name) for o in course.openings), 0.0]) for name in ("fixed_s", "per_unit_s")
        )
        self.must = np.array([False, *(o.must and k not in closed for k, o in enumerate(course.openings)), False])
        self.shut = np.array([False, *(k in closed for k in range(len(course.openings))), False])
        self.log_factor = factor.log_mean + sqrt(2.0) * factor.log_sd * HERMITE_NODES

    def need(self, quantile: float) -> Array:
        """Use from node to node at a quantile."""
        return np.exp(self.factor.log_mean + self.log_mean + quantile * self.spread)

    def shortest(self, quantile: float, full: float) -> tuple[float, _Shape]:
        """The quickest plan at these quantiles; an endless time where there is none."""
        tank = self.tank
        time, from_node, from_target = _shortest(
            self.need(quantile),
            self.need(full),
            self.likely,
            self.fixed,
            self.per_unit,
            self.must,
            self.shut,
            tank.start,
            tank.capacity,
            tank.unusable,
        )
        shape: list[tuple[int, int]] = []
        if time < inf:
            node, target = int(from_node[self.n - 1, 0]), int(from_target[self.n - 1, 0])
            while node > 0:
                shape.insert(0, (node, target))
                node, target = int(from_node[node, target]), int(from_target[node, target])
        return time, tuple(shape)

    def filled(self, shape: _Shape, quantile: float) -> tuple[list[float], float, float]:
        """Levels, standing time and joint chance of a plan of this shape at a quantile; what the tank does not hold is
        left out.
        """
        need, tank = self.need(quantile), self.tank
        levels, left, time, at = [], tank.start, 0.0, 0
        for node, target in shape:
            left -= float(self.likely[at, node])
            level = max(
                tank.capacity if target == self.n else min(float(need[node, target]) + tank.unusable, tank.capacity),
                left,
            )
            time += float(self.fixed[node] + (level - left) * self.per_unit[node])
            levels.append(level)
            left, at = level, node
        return levels, time, self._joint(shape, levels)

    def _joint(self, shape: _Shape, levels: list[float]) -> float:
        begins = [0, *(node for node, _t in shape)]
        ends = [*begins[1:], self.n - 1]
        usable = np.array([self.tank.start, *levels]) - self.tank.unusable
        log_mean, log_sd = self.log_mean[begins, ends], self.log_sd[begins, ends]
        ridden = log_mean > -inf
        z = (np.log(np.maximum(usable, 1e-300))[:, None] - self.log_factor[None, :] - log_mean[:, None])[
            ridden
        ] / log_sd[ridden, None]
        return float(np.prod(ndtr(z), axis=0) @ HERMITE_WEIGHTS)


def best_plan(
    course: FuelCourse, tank: Tank, factor: LogNormal, certainty: float, *, closed: frozenset[int] = frozenset()
) -> Plan | None:
    """The plan with the least standing time [s] whose joint chance is at least the certainty; None when the
    tank cannot do it. closed: openings not used.

    Shortest paths at one quantile for all legs, then with less asked of the legs that begin with what they
    have, show which shapes are worth it; each shape is then filled for the quantile at which its joint chance
    is the one wanted.
    """
    search = _Search(course, tank, factor, closed)
    lowest, highest = float(ndtri(certainty)), float(ndtri(1.0 - 0.5 * (1.0 - certainty) / search.n)) + 0.2
    shapes: dict[_Shape, None] = {}
    best: tuple[float, float, _Shape, list[float]] | None = None

    def settle(shape: _Shape) -> None:
        """The least quantile at which this shape is sure enough."""
        nonlocal best
        low, high = lowest - 0.2, highest
        levels, time, chance = search.filled(shape, high)
        if chance < certainty:
            return
        for _ in range(BISECTIONS):
            middle = 0.5 * (low + high)
            found = search.filled(shape, middle)
            if found[2] < certainty:
                low = middle
            else:
                high, (levels, time, chance) = middle, found
        if best is None or time < best[0] - 1e-9:
            best = time, high, shape, levels

    for full_share in (None, *FULL_SHARES):
        for share in QUANTILE_SHARES:
            quantile = lowest - 0.2 + share * (highest - lowest + 0.2)
            full = quantile if full_share is None else lowest + full_share * (highest - lowest)
            time, shape = search.shortest(quantile, full)
            if time < inf and shape not in shapes and (best is None or time < best[0] - 0.01):
                shapes[shape] = None
                settle(shape)
    if best is None:
        return None
    _time, quantile, shape, levels = best
    return plan_of(
        course, tank, factor, [(node - 1, level) for (node, _t), level in zip(shape, levels, strict=True)], quantile
    )


def alternatives(course: FuelCourse, tank: Tank, factor: LogNormal, certainty: float, best: Plan) -> list[Plan]:
    """Other plans within half a minute [s]: each without one of the best plan's stops."""
    found = {}
    for stop in best.stops:
        plan = best_plan(course, tank, factor, certainty, closed=frozenset({stop.opening}))
        if plan is not None and plan.standing_s <= best.standing_s + NEAR_S:
            found[tuple(s.opening for s in plan.stops)] = plan
    return sorted(found.values(), key=lambda p: p.standing_s)[:3]


def missed(course: FuelCourse, tank: Tank, factor: LogNormal, plan: Plan, index: int) -> float:
    """Chance [1] to finish when one stop of a plan is missed and the others are made as planned."""
    return plan_of(course, tank, factor, [(s.opening, s.level) for k, s in enumerate(plan.stops) if k != index]).chance
