"""What happened to the demo's first bike before its race: setups kept with their reasons, a branch for a wet race,
readings, one of them struck out, what was felt. All invented.
"""

from dataclasses import dataclass, field
from typing import Any

from lynxwort.demo.bikes import SETUP, WREN

#: who else is in the garage, and as what
PEOPLE = (("Tansy", "mechanic"), ("Wren", "rider"), ("Sorrel", "crew"))
#: what is said of the crew in the first race: one of its drives takes longer than the rider does
CREW: dict[str, Any] = {
    "emergency": "on the start sheet, by the paddock gate",
    "channel": "4, Sorrel listens",
    "silent": "the hollow after the ford",
    "drives": [
        {"end": "ford", "takes_s": 720.0, "distance_m": 6000.0},
        {"start": "ford", "end": "quarry gate", "takes_s": 2100.0, "distance_m": 14_000.0},
    ],
}
CREW["posts"] = [
    {"place": "ford", "who": "Sorrel", "bring": "goggles, dry gloves, water"},
    {"place": "quarry gate", "who": "Tansy", "bring": "petrol can, tube with levers, food"},
]
#: the week before the first race: the piston comes on the day after it had to be begun
WEEK: dict[str, Any] = {
    "begins": "2027-04-12",
    "away": ["2027-04-14"],
    "chores": [{"id": "van", "name": "load the van", "takes_s": 5400.0, "at_the_end": True}],
    "awaited": [{"job": "part:piston", "arrives": "2027-04-16"}, {"job": "part:brake_fluid", "order_days": 2.0}],
}
#: what was forgotten at the second race: key of the load list
FORGOTTEN = ("spare:lever", "own:ground sheet")
#: the one the bike came with; each later one is told by what it changed
AS_BOUGHT: dict[str, Any] = SETUP | {
    "shock_spring_rate_n_per_m": 48000.0,
    "shock_preload_m": 0.008,
    "main_jet": 162.5,
    "front_tyre_pressure_pa": 105_000.0,
    "rear_tyre_pressure_pa": 95_000.0,
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Kept:
    """A kept setup. on: the day; reason: why; changes: what became of the one before."""

    on: str
    reason: str
    changes: dict[str, Any] = field(default_factory=dict)
    name: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Noted:
    """Something felt on a ride. on: the day; the rest as it is written down."""

    on: str
    what: str
    end: str
    piece: str
    words: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Measured:
    """A reading with its day; struck_out: told to be wrong afterwards."""

    on: str
    document: dict[str, Any]
    struck_out: bool = False


def _sag(value_m: float, values: dict[str, Any]) -> dict[str, Any]:
    under = {"setup": values, "rider": WREN, "fuel_aboard_m3": 0.006}
    return {"kind": "sag", "end": "rear", "state": "race", "value_m": value_m, "under": under}


EVENTS: tuple[Kept | Noted | Measured, ...] = (
    Kept(on="2026-08-30", reason="as bought"),
    Measured(on="2026-09-05", document=_sag(0.131, AS_BOUGHT), struck_out=True),
    Kept(
        on="2026-09-06",
        reason="sat too deep on 48, the first tape was read with the bags on; 50 from the box",
        changes={"shock_spring_rate_n_per_m": 50000.0, "shock_preload_m": 0.012},
    ),
    Kept(
        on="2026-09-19",
        reason="skipped over wet roots: tyres down",
        changes={"front_tyre_pressure_pa": 90_000.0, "rear_tyre_pressure_pa": 80_000.0},
    ),
    Noted(
        on="2026-10-03",
        what="harsh",
        end="front",
        piece="rocks",
        words="hits the hands on every ledge, want it to give without diving",
    ),
    Kept(
        on="2026-10-04",
        reason="front harsh on rock: three clicks out, and the hands hold",
        changes={"fork_compression_clicks": 15},
        name="dry, rock",
    ),
    Kept(
        on="2026-10-17",
        reason="rattled wide open on a cold morning: stopped at once, one jet richer",
        changes={"main_jet": 165.0},
    ),
)
#: a second line for a wet race: from which of the kept ones, and what was kept on it
BRANCH_NAME, BRANCH_FROM = "wet", 3
BRANCH = Kept(
    on="2026-11-08",
    reason="mud at the ford: two teeth more behind, tyres softer still",
    changes={"rear_sprocket_teeth": 50, "front_tyre_pressure_pa": 80_000.0, "rear_tyre_pressure_pa": 70_000.0},
)


@dataclass(frozen=True, slots=True, kw_only=True)
class Tried:
    """A trial, ridden by the stand-in rider. on: the day; rider: his name; changes: what was tried against what was
    kept then; plan: what the trial's document says besides; ridden: how he rode, see core.standin.session.ride.
    """

    on: str
    rider: str
    changes: dict[str, Any]
    plan: dict[str, Any]
    seed: int
    ridden: dict[str, Any]
    outcome: str = "left"


#: two blocks of first, second, second, first
TWO_BLOCKS = "ABBA" * 2
LOOP: dict[str, Any] = {"order": TWO_BLOCKS, "lap_s": 288.0, "changes": 1}
TRIALS: tuple[Tried, ...] = (
    Tried(
        on="2026-10-10",
        rider="Wren",
        changes={"shock_compression_clicks": 8},
        plan=LOOP | {"kind": "clicks", "hoped_share": 0.02, "blind": True},
        seed=4,
        ridden={"lap_sd": 0.008, "felt_chance": 0.6},
        outcome="put_back",
    ),
    Tried(
        on="2026-10-24",
        rider="Isk",
        changes={"rear_sprocket_teeth": 50},
        plan=LOOP | {"kind": "gearing", "hoped_share": 0.02},
        seed=4,
        ridden={"lap_sd": 0.009, "effect_share": 0.003},
    ),
    Tried(
        on="2026-10-24",
        rider="Wren",
        changes={"rear_sprocket_teeth": 50},
        plan=LOOP | {"kind": "gearing", "hoped_share": 0.02},
        seed=28,
        ridden={"lap_sd": 0.006, "effect_share": -0.016, "botched_share": 0.12, "sectors": 8},
    ),
)


@dataclass(frozen=True, slots=True, kw_only=True)
class Logged:
    """A day that was logged. on: the day; facts: how it was; clicks: what was turned."""

    on: str
    facts: dict[str, Any]
    clicks: tuple[dict[str, Any], ...]


def _click(lap: int, end: str, way: str, clicks: int, why: str) -> dict[str, Any]:
    return {"lap": lap, "end": end, "way": way, "clicks": clicks, "why": why}


DAYS: tuple[Logged, ...] = (
    Logged(
        on="2026-09-20",
        facts={
            "name": "practice on the whoops", "starters": 35, "laps": 8, "whoop_height_m": 0.32, "whoop_length_m": 4.5,
            "soil": "whoops", "weather": "dry", "watered": [{"lap": 4, "volume_m3": 2.0}],
            "tyre_hours_s": 14_400.0, "ended": "finished",
        },
        clicks=(_click(3, "rear", "rebound", -2, "packs"), _click(5, "rear", "compression", 2, "bottoms")),
    ),
    Logged(
        on="2026-10-11",
        facts={
            "name": "autumn round", "starters": 48, "laps": 7, "whoop_height_m": 0.35, "whoop_length_m": 4.5,
            "weather": "dry", "tapes": [{"lap": 1, "depth_m": 0.37}, {"lap": 7, "depth_m": 0.5}],
            "ended": "finished", "place": 14, "in_class": "over 40", "time_s": 9_480.0,
        },
        clicks=(
            _click(2, "front", "compression", -2, "harsh"),
            _click(3, "front", "compression", 2, "blows_through"),
            _click(4, "rear", "rebound", -2, "packs"),
        ),
    ),
)  # fmt: skip
