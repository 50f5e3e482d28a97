"""What falls due, now, at the start and during the race; and how likely a part ends it."""

from dataclasses import dataclass
from typing import Literal

import numpy as np

from lynxwort.core.model.service import ClockedPart
from lynxwort.core.physics.service.risk import any_of, learned, scale_of
from lynxwort.core.stations.baseline.log import Log, RaceUse

State = Literal["overdue", "exceeds_during_race", "soon", "fine", "unknown"]
#: what is due within such a share of its interval is looked at [1] (TRIALS 5)
SOON_SHARE = 0.20
#: shares that fail within their interval, of which the middle is believed [1] (assumption)
INTERVAL_SHARES = (0.01, 0.02, 0.10)
#: a risk in the race over it is looked at, acted on [1] (assumption)
RISK_LOOK, RISK_ACT = 0.05, 0.15
_ORDER = ("overdue", "exceeds_during_race", "soon", "unknown", "fine")


@dataclass(frozen=True, slots=True, kw_only=True)
class Due:
    """A part on the bike: what it has run [s] now, at the start and at the finish; left of its interval [s], None
    where only the calendar counts; age: months at the start, None when nobody said; because: "hours", "calendar" or
    "boiled"; assumed: its interval is only practice; due_day: by the calendar.
    """

    part: ClockedPart
    run_s: float
    start_s: float
    finish_s: float
    interval_s: float | None
    months: int | None
    age: int | None
    state: State
    because: str
    assumed: bool
    due_day: str | None

    @property
    def left_s(self) -> float | None:
        """Of its interval, now [s]."""
        return None if self.interval_s is None else self.interval_s - self.run_s

    @property
    def left_after_s(self) -> float | None:
        """Of its interval, at the finish [s]."""
        return None if self.interval_s is None else self.interval_s - self.finish_s


def months_between(first: str, last: str) -> int:
    """Whole months from one day to another."""
    whole = int((np.datetime64(last[:7], "M") - np.datetime64(first[:7], "M")).astype(int))
    return max(whole - (last[8:10] < first[8:10]), 0)


def day_after(day: str, months: int) -> str:
    """The day so many months later; the month's last where it has none such."""
    month = np.datetime64(day[:7], "M") + np.timedelta64(months, "M")
    last = int(
        (month + np.timedelta64(1, "M")).astype("datetime64[D]").astype(int) - month.astype("datetime64[D]").astype(int)
    )
    return f"{month}-{min(int(day[8:10]), last):02d}"


def due(log: Log, use: RaceUse) -> list[Due]:
    """Of every part on the bike, the most urgent first, what ends a race before what does not."""
    found = [_due(log, use, part) for part in log.parts.values()]

    def urgent(d: Due) -> tuple[int, bool, float]:
        lasts = log.lasts(d.part.kind)
        ends_race = lasts is not None and lasts.shape is not None
        return _ORDER.index(d.state), not ends_race, np.inf if d.left_after_s is None else d.left_after_s

    return sorted(found, key=urgent)


def _due(log: Log, use: RaceUse, part: ClockedPart) -> Due:
    lasts = log.lasts(part.kind)
    run, factor = log.run_s(part), log.factor(part.kind, use)
    start = run + log.service.practice_s
    interval = log.interval_s(part)
    months = part.months if part.months is not None else lasts.months if lasts else None
    age = None if part.fitted_day is None else months_between(part.fitted_day, use.start)
    finish = start + use.takes_s * factor
    by_hours = _by_hours(start, finish, interval)
    by_days = _by_days(part, months, lasts.look_months if lasts else None, age)
    state, because = min(
        (by_hours, "hours"), (by_days, "boiled" if part.boiled else "calendar"), key=lambda s: _ORDER.index(s[0])
    )
    if interval is None and months is not None and by_days == "unknown":
        state, because = "unknown", "calendar"
    return Due(
        part=part, run_s=run, start_s=start, finish_s=finish, interval_s=interval, months=months, age=age, state=state,
        because=because,
        assumed=part.interval_s is None and part.months is None,
        due_day=day_after(part.fitted_day, months) if part.fitted_day and months else None,
    )  # fmt: skip


def _by_hours(start_s: float, finish_s: float, interval_s: float | None) -> State:
    if interval_s is None:
        return "fine"
    if start_s >= interval_s:
        return "overdue"
    if finish_s > interval_s:
        return "exceeds_during_race"
    return "soon" if interval_s - finish_s < SOON_SHARE * interval_s else "fine"


def _by_days(part: ClockedPart, months: int | None, look: int | None, age: int | None) -> State:
    if part.boiled:
        return "overdue"
    if months is None:
        return "fine"
    if age is None:
        return "unknown"
    if age >= months:
        return "overdue"
    return "soon" if age >= (look if look is not None else (1.0 - SOON_SHARE) * months) else "fine"


@dataclass(frozen=True, slots=True, kw_only=True)
class Risk:
    """Chance that a part ends the race [1], with what it would be if fewer or more failed within the interval; pulled,
    failed: how many forerunners it was learned from.
    """

    kind: str
    chance: float
    low: float
    high: float
    pulled: int
    failed: int


def risks(log: Log, due_list: list[Due]) -> list[Risk]:
    """Of the parts whose failure ends a race, the likeliest first. Pulled sound, it survived to that age; the one in
    use did too, to now.
    """
    found = []
    for item in due_list:
        lasts = log.lasts(item.part.kind)
        if lasts is None or lasts.shape is None or item.interval_s is None:
            continue
        before = [p for p in log.service.parts if p.kind == item.part.kind and p.ended_s is not None]
        lives = [p.ended_s or 0.0 for p in before] + [item.run_s]
        failed = sum(p.fate == "failed" for p in before)
        low, chance, high = (
            learned(
                item.run_s,
                item.finish_s - item.run_s,
                lasts.shape,
                scale_of(item.interval_s, lasts.shape, share),
                lives=lives,
                failures=failed,
            )
            for share in INTERVAL_SHARES
        )
        found.append(
            Risk(kind=item.part.kind, chance=chance, low=low, high=high, pulled=len(before) - failed, failed=failed)
        )
    return sorted(found, key=lambda r: -r.chance)


def race_risk(found: list[Risk]) -> tuple[float, float, float] | None:
    """Chance that any of them ends the race [1], with its range; None when nothing is known of any."""
    if not found:
        return None
    return any_of(r.chance for r in found), any_of(r.low for r in found), any_of(r.high for r in found)
