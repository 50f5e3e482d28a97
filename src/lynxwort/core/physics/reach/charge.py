"""Charging a pack between rides, and packs that go round: while one is ridden the others are charged.

A charger gives its power up to a share of the charge, and from there its current falls with what is still missing, so
that what is missing dies away (constant current, then constant voltage: common practice, no source).
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import exp, inf, log

#: of what a charger takes, this share gets into the pack; it is full at this share (assumption)
CHARGER_EFFICIENCY, FULL_SHARE = 0.92, 0.99
#: two packs whose charge differs by less than this share are alike: nobody changes one for the other (assumption)
ALIKE_SHARE = 0.002


@dataclass(frozen=True, slots=True, kw_only=True)
class Charger:
    """power_w: into the pack; taper_share: of the charge, from which it falls; rest_s: how long a pack that was ridden
    cools before it may be charged.
    """

    power_w: float
    taper_share: float
    rest_s: float


def into_pack(charger_w: float, generator_w: float | None) -> float:
    """Power [W] that gets into the pack: the charger's own, or what a generator leaves it."""
    return charger_w if generator_w is None else min(charger_w, CHARGER_EFFICIENCY * generator_w)


def charged(share: float, pack_j: float, charger: Charger, time_s: float) -> float:
    """Share of a pack's charge [1] after time_s [s] on the charger, its rest over."""
    rate, taper = charger.power_w / pack_j, charger.taper_share
    to_taper = max(taper - share, 0.0) / rate
    if time_s <= to_taper:
        return share + rate * max(time_s, 0.0)
    missing = 1.0 - max(share, taper)
    return 1.0 - missing * exp(-rate * (time_s - to_taper) / (1.0 - taper))


def time_to(share: float, wanted: float, pack_j: float, charger: Charger) -> float:
    """Time [s] on the charger from one share of the charge to another [1], its rest over; inf for 1, never reached."""
    if wanted <= share:
        return 0.0
    if wanted >= 1.0:
        return inf
    rate, taper = charger.power_w / pack_j, charger.taper_share
    straight = max(min(wanted, taper) - share, 0.0) / rate
    if wanted <= taper:
        return straight
    return straight + (1.0 - taper) / rate * log((1.0 - max(share, taper)) / (1.0 - wanted))


@dataclass(frozen=True, slots=True, kw_only=True)
class Swap:
    """One passing where a pack may be swapped: at_s after the start; left_j: in the pack that came in; level_j: of
    what goes out again; swapped: whether another pack was better.
    """

    at_s: float
    left_j: float
    level_j: float
    swapped: bool
    pack_j: float

    @property
    def left_share(self) -> float:
        """What is in the pack that came in [1]."""
        return self.left_j / self.pack_j

    @property
    def level_share(self) -> float:
        """What is in the pack that goes out [1]."""
        return self.level_j / self.pack_j


def swaps(
    rides: Sequence[tuple[float, float]], stops: Sequence[bool], *, aboard_j: float, pack_j: float, count: int,
    charger: Charger | None,
) -> list[Swap]:  # fmt: skip
    """What goes out at each passing, the fullest pack first, of alike ones the longest rested.

    rides: (time [s], use [J]) up to each passing; stops: whether one stops there; count: packs of pack_j [J], all full
    at the start but the one aboard; charger: one, that takes them in the order in which they came in; None = none.
    """
    waiting: list[tuple[float, float]] = [(0.0, pack_j)] * (count - 1)  # (rested by, charge), oldest first
    aboard, now, found = aboard_j, 0.0, list[Swap]()
    for (time_s, use_j), stop in zip(rides, stops, strict=True):
        waiting = waiting if charger is None else _charge(waiting, pack_j, charger, now, now + time_s)
        now, left = now + time_s, max(aboard - use_j, 0.0)
        alike = ALIKE_SHARE * pack_j
        fullest = max((level for _, level in waiting), default=0.0)
        best = next((w for w in waiting if w[1] > fullest - alike), (0.0, 0.0))
        swapped = stop and best[1] > left + alike
        if swapped:
            waiting.remove(best)
            waiting.append((now + (charger.rest_s if charger else 0.0), left))
        aboard = best[1] if swapped else left
        found.append(Swap(at_s=now, left_j=left, level_j=aboard, swapped=swapped, pack_j=pack_j))
    return found


def _charge(
    waiting: list[tuple[float, float]], pack_j: float, charger: Charger, start_s: float, end_s: float
) -> list[tuple[float, float]]:
    """Packs after one charger has worked on them from start_s to end_s [s], one after another, each until full."""
    at, found = start_s, list[tuple[float, float]]()
    for rested, level in waiting:
        if level < FULL_SHARE * pack_j and at < end_s:
            begins = max(at, rested)
            share = level / pack_j
            at = begins + time_to(share, FULL_SHARE, pack_j, charger)
            level = pack_j * charged(share, pack_j, charger, max(min(at, end_s) - begins, 0.0))
        found.append((rested, level))
    return found
