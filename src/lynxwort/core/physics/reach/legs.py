"""Who of a team rides which leg: the least time over riders' times per leg, hand-overs, longest stints and rests, as a
choice of stints.

Solved exactly by scipy's mixed-integer solver: every leg is covered once; a rider's stint shadows the legs of his rest.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import inf

import numpy as np
from scipy.optimize import Bounds, LinearConstraint, milp
from scipy.sparse import lil_matrix

#: the solver stops when its answer is proved this good, or after this many seconds
GAP, LONGEST_S = 1e-4, 5.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Member:
    """One of the team. times_s: of each leg [s]; longest_s: longest stint [s]; rest_s: between two stints [s]."""

    times_s: tuple[float, ...]
    longest_s: float = inf
    rest_s: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Stint:
    """Legs first to last ridden by one rider without a hand-over."""

    rider: int
    first: int
    last: int


def assign(team: Sequence[Member], *, hand_over_s: float, shared: bool = True) -> list[Stint] | None:
    """Stints with the least time [s] in all, in order; None when the rules leave some leg to nobody.

    shared: everybody rides about as many legs. A rest is reckoned with the quickest others on the legs in between;
    hand-overs before and after count as rest.
    """
    count, riders = len(team[0].times_s), len(team)
    quickest = [min(m.times_s[k] for m in team) for k in range(count)]
    stints: list[Stint] = []
    costs: list[float] = []
    for r, member in enumerate(team):
        for first in range(count):
            ridden = 0.0
            for last in range(first, count):
                ridden += member.times_s[last]
                if ridden > member.longest_s + 1e-9:
                    break
                stints.append(Stint(rider=r, first=first, last=last))
                # of plans that take the same time, the one in the riders' order
                costs.append(ridden + hand_over_s + 1e-4 * r * first)
    if not stints:
        return None
    cover, shadow, share = (lil_matrix((rows, len(stints))) for rows in (count, riders * count, riders))
    for k, s in enumerate(stints):
        cover[s.first : s.last + 1, k] = 1.0
        share[s.rider, k] = s.last - s.first + 1
        rested, leg = hand_over_s, s.last + 1
        while leg < count and (leg == s.last + 1 or rested < team[s.rider].rest_s):
            rested += quickest[leg] + hand_over_s
            leg += 1
        shadow[s.rider * count + s.first : s.rider * count + leg, k] = 1.0
    rules = [LinearConstraint(cover.tocsr(), 1.0, 1.0), LinearConstraint(shadow.tocsr(), -inf, 1.0)]
    if shared and riders <= count:
        rules.append(LinearConstraint(share.tocsr(), count // riders, -(-count // riders)))
    options = {"mip_rel_gap": GAP, "time_limit": LONGEST_S}
    solved = milp(
        np.array(costs), constraints=rules, integrality=np.ones(len(stints)), bounds=Bounds(0, 1), options=options
    )
    if solved.x is None:
        return None
    return sorted((s for s, x in zip(stints, solved.x, strict=True) if x > 0.5), key=lambda s: s.first)
