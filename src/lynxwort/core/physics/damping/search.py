"""The nearest stack from shims that lie about, in one move or two."""

from collections import Counter
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from math import exp, log

from scipy.optimize import brentq

from lynxwort.core.physics.damping.stack import Shim, Stack, softness

#: pairs of moves that are worked out in full, the most promising first
TRIED = 40
#: softer or stiffer than this a single stack is not asked to become
WIDEST = 8.0


@dataclass(frozen=True, slots=True, kw_only=True)
class ShimMove:
    """One shim put in, taken out or exchanged."""

    into: Shim | None
    out: Shim | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Found:
    """A stack that was found. ratio: its lift over that of the present one; moves: how it is reached."""

    stack: Stack
    ratio: float
    moves: tuple[ShimMove, ...]


def _place(shims: Sequence[Shim], new: Shim) -> int:
    """Where a shim goes in a stack that tapers: behind the last that is as wide."""
    return max((k + 1 for k, s in enumerate(shims) if s.diameter_m >= new.diameter_m - 1e-9), default=0)


def apply(stack: Stack, move: ShimMove) -> Stack | None:
    """The stack after one move, its widest shim still covering the ports; None when it cannot be done."""
    shims = list(stack.shims)
    if move.out is not None:
        if move.out not in shims:
            return None
        shims.pop(len(shims) - 1 - shims[::-1].index(move.out))
    if move.into is not None:
        shims.insert(_place(shims, move.into), move.into)
    if not shims or shims[0].diameter_m < stack.shims[0].diameter_m - 1e-9:
        return None
    return replace(stack, shims=tuple(shims))


def single_moves(stack: Stack, owned: Iterable[Shim]) -> list[ShimMove]:
    """Every shim put in, taken out or exchanged once; nothing wider than the face, nothing that hides behind the
    clamp.
    """
    sizes = [s for s in dict.fromkeys(owned) if stack.clamp_m + 1e-9 < s.diameter_m <= stack.shims[0].diameter_m + 1e-9]
    there = list(dict.fromkeys(stack.shims))
    return [
        *(ShimMove(into=s, out=None) for s in sizes),
        *(ShimMove(into=None, out=t) for t in there),
        *(ShimMove(into=s, out=t) for t in there for s in sizes if s != t),
    ]


def allowed(moves: tuple[ShimMove, ...], counts: Mapping[Shim, int]) -> bool:
    """Whether there are enough of each shim that goes in; what comes out may go in again."""
    taken = Counter(m.into for m in moves if m.into is not None)
    given = Counter(m.out for m in moves if m.out is not None)
    return all(n <= counts.get(s, 0) + given[s] for s, n in taken.items())


def touched(found: Found) -> int:
    """Shims that a hand takes in or out."""
    return sum((m.into is not None) + (m.out is not None) for m in found.moves)


def suggest(
    stack: Stack,
    owned: Mapping[Shim, int],
    ratio: float,
    *,
    lift: Callable[[Stack], float] = softness,
    highest_m: float | None = None,
    most: int = 4,
) -> list[Found]:
    """Stacks of one or two moves whose lift [m] comes nearest to `ratio` times the present one, the nearest first; of
    equally near ones that of fewer shims.

    owned: how many of each shim lie about; lift: of a stack, at one pressure; highest_m: no stack higher than this.
    Two moves are ranked by their single ratios multiplied, and the best worked out in full.
    """
    now = lift(stack)

    def worked_out(moves: tuple[ShimMove, ...]) -> Found | None:
        made: Stack | None = stack if allowed(moves, owned) else None
        for move in moves:
            made = None if made is None else apply(made, move)
        return (
            None
            if made is None or (highest_m is not None and made.height_m > highest_m + 1e-9)
            else Found(stack=made, ratio=lift(made) / now, moves=moves)
        )

    def off(found: Found) -> float:
        return abs(log(found.ratio / ratio))

    singles = [f for m in single_moves(stack, owned) if (f := worked_out((m,))) is not None]
    pairs = sorted(
        (abs(log(a.ratio * b.ratio / ratio)), i, j)
        for i, a in enumerate(singles)
        for j, b in enumerate(singles[: i + 1])
        if a.moves[0].into != b.moves[0].out or a.moves[0].into is None
    )
    double = [
        f for _off, i, j in pairs[:TRIED] if (f := worked_out((*singles[i].moves, *singles[j].moves))) is not None
    ]
    unique: dict[tuple[Shim, ...], Found] = {}
    for found in sorted([*singles, *double], key=lambda f: (round(off(f), 2), touched(f), off(f))):
        unique.setdefault(tuple(sorted(found.stack.shims, key=lambda s: (-s.diameter_m, -s.thickness_m))), found)
    return list(unique.values())[:most]


def scale_for(force_at_scale: Callable[[float], float], change: float) -> float | None:
    """The factor on a stack's lift that changes a force by `change` [1]; None when no stack in its place could."""
    wanted = (1.0 + change) * force_at_scale(1.0)

    def off(x: float) -> float:
        return force_at_scale(exp(x)) - wanted

    low, high = -log(WIDEST), log(WIDEST)
    return exp(brentq(off, low, high, xtol=1e-4)) if off(low) * off(high) <= 0.0 else None


def never_closes(stack: Stack) -> Shim | None:
    """A crossover too wide ever to close, which acts as one more leaf; None when the stack has none.

    A small shim before larger ones is a crossover; it closes only while it stays within about two thirds of the way
    from the clamp to the face (DAMPING.md 4: 16 on 24/12 closes, 18 does not).
    """
    widest_behind = 0.0
    found = None
    for k in range(len(stack.shims) - 1, -1, -1):
        shim = stack.shims[k]
        if k > 0 and widest_behind > shim.diameter_m + 1e-9 and shim.diameter_m > stack.clamp_m:
            reach = (shim.diameter_m - stack.clamp_m) / (stack.shims[0].diameter_m - stack.clamp_m)
            if reach >= 0.5 - 1e-9:
                found = shim
        widest_behind = max(widest_behind, shim.diameter_m)
    return found
