"""What was measured of wear, against the manual's limit or practice, and when it reaches it."""

from dataclasses import dataclass
from math import inf
from typing import Literal

from lynxwort.core.model.service import WearReading
from lynxwort.core.model.service.measures import LIMITS, MEASURES, Measure
from lynxwort.core.physics.service import wear
from lynxwort.core.stations.baseline.log import Log

State = Literal["ok", "look", "act", "unknown"]
#: links measured where nobody said how many
USUAL_LINKS = 20


@dataclass(frozen=True, slots=True, kw_only=True)
class Worn:
    """What the newest reading of a measure says. value: what is judged [SI]: the compression at the sea, the chain's
    stretch, the spokes' unevenness; look, act: limits [SI], by_manual: whether the manual's; state; because: "limit",
    "practice", "fell", "faster", "dead" or "seen"; at_s: hours of the bike then; count: readings of it; trend of them.
    """

    reading: WearReading
    value: float | None
    look: float | None
    act: float | None
    by_manual: bool
    state: State
    because: str
    at_s: float
    count: int
    trend: wear.Trend | None

    @property
    def earliest_s(self) -> float | None:
        """Hours of the bike at which it may reach its limit [s]; None when that cannot be said yet."""
        if self.trend is None or self.trend.earliest_s is None or self.trend.earliest_s == inf:
            return None
        return self.trend.earliest_s


def value_of(reading: WearReading) -> float | None:
    """What is judged of a reading [SI]."""
    if reading.measure == "compression":
        return wear.at_sea_level(reading.value_si or 0.0, reading.station_pa or wear.SEA_LEVEL_PA)
    if reading.measure == "chain_length":
        return wear.chain_stretch(reading.value_si or 0.0, reading.links or USUAL_LINKS)
    if reading.measure.startswith("spokes"):
        return abs(wear.evenness(reading.tones_hz)[0])
    return reading.value_si


def limits_of(log: Log, measure: str) -> tuple[float | None, float | None]:
    """Look and act by practice [SI]; None where only the manual knows."""
    known = {"chain_length": "chain_stretch"}.get(measure, measure.split("_")[0] if "_" in measure else measure)
    look, act = LIMITS.get(measure) or LIMITS.get(known) or (None, None)
    if measure == "ring_gap":
        return (None, None) if log.bore_m is None else (log.bore_m * 0.006, log.bore_m * 0.008)
    return look, act


def worn(log: Log) -> dict[str, Worn]:
    """By measure, the newest of each."""
    lines: dict[str, list[WearReading]] = {}
    for reading in sorted(log.service.wear, key=lambda r: r.seq):
        lines.setdefault(reading.measure, []).append(reading)
    return {measure: _worn(log, readings) for measure, readings in lines.items()}


def _at(log: Log, reading: WearReading) -> float:
    return log.hours_at(reading.seq) if reading.at_s is None else reading.at_s


def _worn(log: Log, readings: list[WearReading]) -> Worn:
    newest, measure = readings[-1], MEASURES[readings[-1].measure]
    look, act = limits_of(log, newest.measure)
    manual = next((r.limit_si for r in reversed(readings) if r.limit_si is not None), None)
    if manual is not None:
        look, act = None, manual
    value = value_of(newest)
    alike = [r for r in readings if r.gauge == newest.gauge]
    since = alike if newest.measure == "compression" else _of_this_part(log, readings)
    hours = [_at(log, r) for r in since]
    values = [v for r in since if (v := value_of(r)) is not None]
    limit = act if act is not None else look
    line = wear.trend(hours, values, limit) if limit is not None and len(values) == len(hours) else None
    state, because = _judged(newest, measure, value, look, act, values, hours)
    if manual is not None and because == "practice":
        because = "limit"
    return Worn(
        reading=newest, value=value, look=look, act=act, by_manual=manual is not None, state=state, because=because,
        at_s=_at(log, newest), count=len(since), trend=line,
    )  # fmt: skip


def _of_this_part(log: Log, readings: list[WearReading]) -> list[WearReading]:
    """Readings since the part was fitted: a new one begins anew."""
    part = log.parts.get(MEASURES[readings[-1].measure].part)
    kept = [r for r in readings if part is None or _at(log, r) >= part.fitted_s - 1e-6]
    return kept or readings[-1:]


def _so(state: State, because: str) -> tuple[State, str]:
    return state, because


def _judged(
    newest: WearReading,
    measure: Measure,
    value: float | None,
    look: float | None,
    act: float | None,
    values: list[float],
    hours: list[float],
) -> tuple[State, str]:
    if measure.seen:
        return dict(measure.seen)[newest.seen], "seen"  # type: ignore[return-value]
    if newest.dead:
        return _so("act", "dead")
    if newest.measure == "compression":
        return _fallen(values)
    if value is None or (look is None and act is None):
        return _so("unknown", "manual")
    sign = -1.0 if measure.down else 1.0
    if act is not None and sign * value >= sign * act:
        return _so("act", "practice")
    if wear.faster_than_before(hours, values):
        return _so("act", "faster")
    return ("look", "practice") if look is not None and sign * value >= sign * look else ("ok", "practice")


def _fallen(values: list[float]) -> tuple[State, str]:
    """Of the same gauge on the same bike: against the highest there was; alone it says nothing."""
    if len(values) < 2:
        return _so("unknown", "first")
    fall = 1.0 - values[-1] / max(values)
    look, act = LIMITS["compression_fall"]
    state: State = "act" if act and fall >= act else "look" if look and fall >= look else "ok"
    return state, "fell"
