"""The likeliest places along a course of fixes near it: one way through all of them, not the nearest place of each."""

from dataclasses import dataclass

import numpy as np
from numba import njit
from numpy.typing import NDArray
from scipy.spatial import cKDTree

Array = NDArray[np.float64]
Whole = NDArray[np.int64]

#: how far a place may lie from its fix, how far one may seem to ride back [m], speed that nobody exceeds [m/s] and the
#: room beside it [m], how far fixes lie off by themselves [m], how much advance and way ridden may differ [m].
#: Tried on legs 12 m apart; assumption
NEAR_M, BACK_M, FASTEST_M_PER_S, ROOM_M, FIX_SD_M, ADVANCE_M = 40.0, 3.0, 45.0, 20.0, 8.0, 6.0
#: fixes that follow on nothing for so long begin anew [s]
LOST_S = 60.0


@njit(cache=True, nogil=True)
def _advance(steps: int, spacing_m: float, round_nodes: int) -> float:
    """How far the way goes on over so many nodes [m]; over the start of a round where that is the nearer."""
    ahead = steps * spacing_m
    if round_nodes > 0 and ahead < -BACK_M:
        return (steps + round_nodes) * spacing_m
    if round_nodes > 0 and (round_nodes - steps) * spacing_m <= BACK_M:
        return (steps - round_nodes) * spacing_m
    return ahead


@njit(cache=True, nogil=True)
def _reach(
    here: tuple[int, int],
    last: tuple[int, int],
    node: Whole,
    best: Array,
    came: Whole,
    cost_off: Array,
    room_m: float,
    since_m: float,
    spacing_m: float,
    round_nodes: int,
) -> bool:
    """The cheapest way to each candidate of a fix from those of the last one; whether there is any."""
    found = False
    for k in range(here[0], here[1]):
        for j in range(last[0], last[1]):
            ahead = _advance(node[k] - node[j], spacing_m, round_nodes)
            if best[j] == np.inf or ahead < -BACK_M or ahead > room_m:
                continue
            cost = best[j] + cost_off[k] + abs(ahead - since_m) / ADVANCE_M
            if cost < best[k]:
                best[k], came[k], found = cost, j, True
    return found


@njit(cache=True, nogil=True)
def _trace(first: Whole, best: Array, came: Whole, before: Whole, last: int) -> Whole:
    """Back from the last fix along the cheapest way: the candidate of each fix, -1 for one that is left out."""
    chosen = np.full(first.size - 1, -1, np.int64)
    i, at = last, -1
    while i >= 0:
        if at < 0:
            at = first[i] + np.argmin(best[first[i] : first[i + 1]])
        chosen[i] = at
        at, i = came[at], before[i]
    return chosen


@njit(cache=True, nogil=True)
def _follow(
    first: Whole, node: Whole, cost_off: Array, time_s: Array, ridden_m: Array, spacing_m: float, round_nodes: int
) -> Whole:
    """Index into the candidates of each fix, -1 for one that is left out. first: where each fix's candidates begin,
    shape (n + 1,); round_nodes: nodes of the round where the course closes, else 0.
    """
    best, came = np.full(node.size, np.inf), np.full(node.size, -1, np.int64)
    before = np.full(first.size - 1, -1, np.int64)
    last, since_m, lost_from = -1, 0.0, -1.0
    for i in range(first.size - 1):
        since_m += ridden_m[i]
        a, b = first[i], first[i + 1]
        if a == b:
            continue
        room = FASTEST_M_PER_S * (time_s[i] - time_s[max(last, 0)]) + ROOM_M
        found = last >= 0 and _reach(
            (a, b), (first[last], first[last + 1]), node, best, came, cost_off, room, since_m, spacing_m, round_nodes
        )
        if not found and last >= 0:
            lost_from = time_s[i] if lost_from < 0.0 else lost_from
            if time_s[i] - lost_from <= LOST_S:
                continue
        if not found:
            best[a:b] = cost_off[a:b]  # it begins, or begins anew
        before[i], last, since_m, lost_from = last, i, 0.0, -1.0
    return _trace(first, best, came, before, last)


@dataclass(frozen=True, slots=True, kw_only=True)
class Matched:
    """place_m: along the course of each fix that was matched, going on over the start of a round that is ridden again
    and negative before it is first passed, shape (k,); index: which fixes, shape (k,); off_m: how far each lies from
    its place.
    """

    place_m: Array
    index: Whole
    off_m: Array


def matched(
    east_m: Array,
    north_m: Array,
    fix_east_m: Array,
    fix_north_m: Array,
    time_s: Array,
    *,
    spacing_m: float,
    closed: bool,
) -> Matched:
    """The likeliest way of fixes along a course. east_m, north_m: its even grid, shape (n,); fixes: shape (m,) with
    their times rising; closed: whether the course ends where it starts, so that it may be ridden again and again.

    Accuracy: legs 12 m apart, noise 2 to 6 m, fixes 1 to 5 s apart with a pause and a gap: worst 28 m of 180 sessions.
    Reference: Viterbi's algorithm over places near each fix (IEEE Trans. Inf. Theory 13 (1967) 260).
    """
    # the last node of a round is its first
    count = east_m.size - 1 if closed else east_m.size
    tree = cKDTree(np.column_stack([east_m[:count], north_m[:count]]))
    near = tree.query_ball_point(np.column_stack([fix_east_m, fix_north_m]), NEAR_M, return_sorted=True)
    first = np.concatenate([[0], np.cumsum([len(c) for c in near])]).astype(np.int64)
    node = np.array([k for c in near for k in c], dtype=np.int64)
    whose = np.repeat(np.arange(len(near)), np.diff(first))
    off = np.hypot(east_m[node] - fix_east_m[whose], north_m[node] - fix_north_m[whose])
    ridden = np.concatenate([[0.0], np.hypot(np.diff(fix_east_m), np.diff(fix_north_m))])
    chosen = _follow(
        first, node, 0.5 * (off / FIX_SD_M) ** 2, np.ascontiguousarray(time_s, dtype=float), ridden, spacing_m,
        count if closed else 0,
    )  # fmt: skip
    kept = np.flatnonzero(chosen >= 0)
    place = node[chosen[kept]] * spacing_m
    if closed and kept.size:
        length = count * spacing_m
        # a step back over more than half of the round is one over its start
        place = place + length * np.concatenate(
            [[0], np.cumsum(np.diff(place) < -0.5 * length) - np.cumsum(np.diff(place) > 0.5 * length)]
        )
        # the first fix lies just before or some way after the start, not most of a lap after it
        place = place - length * (place[0] > 0.5 * length)
    return Matched(place_m=np.asarray(place, dtype=float), index=kept, off_m=off[chosen[kept]])
