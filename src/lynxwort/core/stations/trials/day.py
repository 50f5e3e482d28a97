"""The day: whoops that deepen as bikes go by, and what the rider's own log says of the clicks."""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace
from statistics import median
from typing import Any

from lynxwort.core.model.defaults import USUAL_WHOOP_M
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.model.trials import ClickTurn, RiddenDay
from lynxwort.core.physics.trials.growth import Growth, deepest, passes_scale, scale_of_tapes
from lynxwort.core.stations.trials.input import TrialsInput, deepest_whoops

#: adjusters that are logged
ADJUSTERS = tuple((end, way) for end in ("front", "rear") for way in ("compression", "rebound"))
#: put back within so many laps it was no help; readings of the tape that say how fast whoops grow
PUT_BACK_LAPS, LEAST_TAPES = 2, 2
#: of the race, how far it is when whoops are looked at: start, half, finish
MOMENTS = (0.0, 0.5, 1.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class DayLap:
    """A lap: its number, bikes past when it begins, whoops then [m] and as a multiple of the first, None without any;
    clicks turned before it.
    """

    number: int
    passes: float
    depth_m: float | None
    ratio: float | None
    clicks: tuple[ClickTurn, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Learned:
    """What the log says of one adjuster: clicks in (minus = out), the least and most logged, from how many logs; lap:
    after how many it is proposed, None when it is not reached in this race or the logs do not agree; ratio: how deep
    the whoops were against the first, depth_m: of this race's then, None without any; why: most often.
    """

    end: str
    way: str
    clicks: float
    least: int
    most: int
    logs: int
    ratio: float | None
    depth_m: float | None
    lap: int | None
    why: str

    @property
    def agrees(self) -> bool:
        """Whether it was turned the same way every time."""
        return self.least * self.most > 0


def begun(inputs: Inputs) -> RiddenDay:
    """A day of this race on which nothing is ridden yet, its whoops as they are in the morning."""
    race, where = inputs.race, deepest_whoops(inputs.race)
    given: dict[str, Any] = {
        "id": "new", "rider": inputs.rider.name, "name": race.name, "starters": race.starters,
        "course_key": race.stages[where[0] if where else 0].course_key,
    }  # fmt: skip
    if where is not None:
        given |= {"whoop_height_m": where[1], "whoop_length_m": where[2]}
    return RiddenDay.model_validate(given)


def growth_of(day: RiddenDay) -> Growth | None:
    """How the whoops of a logged day grew: by its tape where it was read twice; None without whoops."""
    if day.whoop_height_m is None:
        return None
    first = day.whoop_height_m
    most = deepest(first, day.whoop_length_m or USUAL_WHOOP_M[0])
    tapes = [(float(t.lap * day.starters), t.depth_m) for t in day.tapes]
    if len(tapes) >= LEAST_TAPES:
        return Growth(first_m=first, most_m=most, scale=scale_of_tapes(first, most, tapes), measured=True)
    scale = passes_scale(day.soil, watered=day.is_watered, muddy=day.weather == "mud")
    return Growth(first_m=first, most_m=most, scale=scale, measured=False)


def laps_of(day: RiddenDay) -> list[DayLap]:
    """Every lap of a logged day that was ridden, then the one that comes."""
    growth, live = growth_of(day), [c for c in day.clicks if not c.struck_out]
    last = max([day.laps, *(c.lap for c in live)])
    found = []
    for k in range(last + 1):
        passes = float(k * day.starters)
        found.append(
            DayLap(
                number=k + 1,
                passes=passes,
                depth_m=None if growth is None else growth.depth_m(passes),
                ratio=None if growth is None else growth.ratio(passes),
                clicks=tuple(c for c in live if c.lap == k),
            )
        )
    return found


def soil_here(given: TrialsInput) -> str:
    """What the whoops of this race are made of, as its course was logged last."""
    here = [d for d in given.days if d.course_key in given.courses]
    return here[-1].soil if here else "whoops"


def _as_loam(soil: str) -> str:
    """Whoops whose soil nobody said grow as loam's."""
    return "loam" if soil == "whoops" else soil


def growth_here(given: TrialsInput) -> Growth | None:
    """How the whoops of this race will grow: as the tape said on this course, the newest first; None without any."""
    if given.whoops is None:
        return None
    first, length = given.whoops
    told = [growth_of(d) for d in given.days if d.course_key in given.courses]
    measured = [g for g in told if g is not None and g.measured]
    scale = measured[-1].scale if measured else passes_scale(soil_here(given))
    return Growth(first_m=first, most_m=deepest(first, length), scale=scale, measured=bool(measured))


def through(given: TrialsInput) -> tuple[tuple[float, float], ...]:
    """At the start, at half the race and at its finish: bikes past, and the whoops as a multiple of the first; empty
    without any.
    """
    growth = growth_here(given)
    if growth is None:
        return ()
    total = float(given.laps * given.starters)
    return tuple((share * total, growth.ratio(share * total)) for share in MOMENTS)


def _lasting(turns: Sequence[ClickTurn]) -> list[ClickTurn]:
    """Turns of one adjuster in their order, without what was put back within two laps."""
    found: list[ClickTurn] = []
    for turn in sorted((t for t in turns if not t.struck_out), key=lambda t: t.lap):
        last = found[-1] if found else None
        if last is None or last.clicks * turn.clicks > 0 or turn.lap - last.lap > PUT_BACK_LAPS:
            found.append(turn)
            continue
        found.pop()
        left = last.clicks + turn.clicks
        if left:
            found.append(last.model_copy(update={"clicks": left}))
    return found


def learned(given: TrialsInput, besides: str = "") -> list[Learned]:
    """What this rider's days on this bike and such soil say, adjuster by adjuster, each at the lap where the whoops of
    this race are as deep, against the first, as when it was turned. besides: id of a day that is left out, the one that
    is ridden.
    """

    def make() -> list[Learned]:
        soil = _as_loam(soil_here(given))
        told = [d for d in given.own_days if _as_loam(d.soil) == soil and d.id != besides]
        return [one for e, w in ADJUSTERS if (one := _learned(given, told, e, w)) is not None]

    return given.once(f"learned:{besides}", make)


def _learned(given: TrialsInput, told: Sequence[RiddenDay], end: str, way: str) -> Learned | None:
    logs: list[tuple[ClickTurn, float | None]] = []
    for day in told:
        growth = growth_of(day)
        for turn in _lasting([c for c in day.clicks if (c.end, c.way) == (end, way)]):
            logs.append((turn, None if growth is None else growth.ratio(float(turn.lap * day.starters))))
    if not logs:
        return None
    clicks = [t.clicks for t, _ratio in logs]
    ratios = [r for _t, r in logs if r is not None]
    ratio, growth = median(ratios) if ratios else None, growth_here(given)
    found = Learned(
        end=end, way=way, clicks=float(median(clicks)), least=min(clicks), most=max(clicks), logs=len(logs),
        ratio=ratio, depth_m=None if growth is None or ratio is None else ratio * growth.first_m, lap=None,
        why=Counter(t.why for t, _ratio in logs).most_common(1)[0][0],
    )  # fmt: skip
    return replace(found, lap=_lap_of(given, ratio, median(t.lap for t, _r in logs))) if found.agrees else found


def _lap_of(given: TrialsInput, ratio: float | None, usual_lap: float) -> int | None:
    """After how many laps of this race whoops are so deep; without whoops after as many as it was logged."""
    growth = growth_here(given)
    if growth is None or ratio is None:
        lap = round(usual_lap)
    else:
        passes = growth.passes_at(ratio - 1e-9)
        if passes == float("inf"):
            return None
        lap = round(passes / given.starters)
    return lap if lap < given.laps else None
