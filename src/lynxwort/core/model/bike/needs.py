"""What a race asks to be bolted on: a table of rules with their reasons, by ground, length, dark and distance from
help. Common practice, no source; the owner may say otherwise, with a reason.
"""

from collections.abc import Callable
from dataclasses import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class RaceFacts:
    """shares: of the way by ground [1]; race_m; top_m_per_s: fastest of the lap; dark_m: of a lap; waits_s: crawling
    and standing each lap; alone_m: longest way without anybody to help; road: whether some of it is a liaison;
    plain_tubes: whether a plain tube is in behind.
    """

    shares: dict[str, float]
    race_m: float
    top_m_per_s: float
    dark_m: float
    waits_s: float
    alone_m: float
    road: bool
    plain_tubes: bool

    def share(self, *grounds: str) -> float:
        """Share of the way on these grounds [1]."""
        return sum(self.shares.get(g, 0.0) for g in grounds)


@dataclass(frozen=True, slots=True, kw_only=True)
class NeedRule:
    """Any one of some items, by the catalogue's ids; must, nice: when; why: code of the reason."""

    items: tuple[str, ...]
    must: Callable[[RaceFacts], bool]
    nice: Callable[[RaceFacts], bool]
    why: str


def _never(_facts: RaceFacts) -> bool:
    return False


LAMPS = ("lamp_led_12", "lamp_led_40", "lamp_halogen_35", "lamp_halogen_55")
RULES: tuple[NeedRule, ...] = (
    NeedRule(items=LAMPS, must=lambda f: f.dark_m > 0.0, nice=_never, why="dark"),
    NeedRule(items=("street_lights",), must=lambda f: f.road, nice=_never, why="road"),
    NeedRule(
        items=("skid_plate_alloy", "skid_plate_plastic"), must=lambda f: f.share("rock") > 0.05,
        nice=lambda f: f.share("rock", "single_track") > 0.05, why="rock_under",
    ),
    NeedRule(
        items=("hand_guards_wrap", "hand_guards_flag"), must=_never,
        nice=lambda f: f.share("single_track", "rock") > 0.1, why="trees",
    ),
    NeedRule(items=("disc_guard_rear",), must=_never, nice=lambda f: f.share("rock") > 0.05, why="rock_disc"),
    NeedRule(items=("radiator_braces",), must=_never, nice=lambda f: f.share("rock") > 0.05, why="falls"),
    NeedRule(
        items=("heavy_tube_rear",), must=_never, nice=lambda f: f.plain_tubes and f.share("rock") > 0.05, why="pinches"
    ),
    NeedRule(
        items=("fan",), must=lambda f: f.waits_s > 480.0, nice=lambda f: f.waits_s > 120.0, why="waits"
    ),
    NeedRule(
        items=("bags",), must=lambda f: f.alone_m > 60_000.0, nice=lambda f: f.alone_m > 25_000.0, why="alone"
    ),
    NeedRule(items=("tower",), must=_never, nice=lambda f: f.alone_m > 120_000.0, why="finds_way"),
    NeedRule(
        items=("steering_damper",), must=_never, nice=lambda f: f.top_m_per_s > 27.8 or f.share("rock") > 0.2,
        why="shakes",
    ),
    NeedRule(items=("case_saver",), must=_never, nice=lambda f: f.race_m > 100_000.0, why="chain"),
)  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class Wanted:
    """What a rule asks: any one of the items; need: "must" or "nice"; why: code of the reason."""

    items: tuple[str, ...]
    need: str
    why: str


def wanted(facts: RaceFacts) -> list[Wanted]:
    """What the race asks for, musts first."""
    found = [
        Wanted(items=r.items, need="must" if r.must(facts) else "nice", why=r.why)
        for r in RULES
        if r.must(facts) or r.nice(facts)
    ]
    return sorted(found, key=lambda w: w.need != "must")
