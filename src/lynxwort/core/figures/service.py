"""Figures of service and of the gate, which stand at Baseline: hours of parts, what is left of them, what was found."""

from lynxwort.core.figures.spec import FigureSpec, told
from lynxwort.core.model.service.intervals import INTERVALS, PART_KINDS
from lynxwort.core.model.service.measures import MEASURES

#: parts whose failure ends a race
ENDING = tuple(k for k in PART_KINDS if any(lasts.shape is not None for (n, _s), lasts in INTERVALS.items() if n == k))
#: measures that go along a line to a limit
WEARING = tuple(name for name, m in MEASURES.items() if m.unit and name != "compression")

FIGURES: dict[str, FigureSpec] = {
    "baseline.gate.failed": told("1", "count", "checks of the gate that failed"),
    "baseline.gate.checked": told("1", "count", "checks of the gate that count now"),
    "baseline.gate.withdrawn": told("1", "count", "figures taken back by checks that failed"),
    "service.hours_bike": told("s", "engine_hours", "hours of the bike, by its meter or by its rides"),
    "service.due_count": told("1", "count", "parts and services due by the end of the race"),
    "service.risk_race": told("1", "chance", "that a part ends the race, of those with a clock", "lower"),
    "service.week.latest_start": told("s", "engine_hours", "how long before the start the week's work must begin"),
    "service.week.slack": told("s", "engine_hours", "work that would still fit into the evenings", "higher"),
    "service.hours_to_sound": told("s", "engine_hours", "work until a bought bike is sound"),
    "service.compression_sea": told("Pa", "compression", "the compression gauge as it would read at the sea"),
    "service.chain_stretch": told("1", "chance", "how much longer the chain is than new"),
    "service.spoke_evenness": told("1", "chance", "the most uneven tone of a side's spokes off their median"),
    **{f"service.hours.{k}": told("s", "engine_hours", f"what it has run, by use: {k}") for k in PART_KINDS},
    **{f"service.left.{k}": told("s", "engine_hours", f"left of its interval: {k}") for k in PART_KINDS},
    **{
        f"service.left_after_race.{k}": told("s", "engine_hours", f"left of its interval at the finish: {k}")
        for k in PART_KINDS
    },
    **{f"service.risk.{k}": told("1", "chance", f"that it ends the race: {k}", "lower") for k in ENDING},
    **{
        f"service.limit_at.{m}": told("s", "engine_hours", f"hours at which it reaches its limit, low: earliest: {m}")
        for m in WEARING
    },
}  # fmt: skip
