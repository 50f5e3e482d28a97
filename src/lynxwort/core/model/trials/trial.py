"""A trial as it was planned, and its runs as they were ridden. "A" is what stood, "B" the change."""

from typing import Annotated, Literal, get_args

from pydantic import Field, model_validator

from lynxwort.core.model.base import Part, choice, quantity

Setting = Literal["A", "B"]
Kind = Literal["gearing", "clicks", "springs", "geometry", "mixture", "power", "mass", "tyre", "other"]
KINDS: tuple[str, ...] = get_args(Kind)
Aspect = Literal["turns_in", "holds_line", "drive", "comfort", "arms"]
ASPECTS: tuple[str, ...] = get_args(Aspect)
#: sectors of a lap, runs of a trial, trials of a bike
MOST_SECTORS, MOST_RUNS, MOST_TRIALS = 12, 200, 200
Second = Annotated[float, Field(gt=0, le=20_000)]
Score = Annotated[int, Field(ge=1, le=10)]


class Tap(Part):
    """A tap as the phone kept it: by its steady clock and by its wall clock, both since they began."""

    steady_s: float = quantity(0, 1e9, "s", "seconds")
    """of the steady clock, which may stand still while the phone sleeps"""
    wall_s: float = quantity(0, 1e10, "s", "seconds")
    """of the wall clock"""
    page: str = Field("", max_length=40)
    """which life of the page: the steady clock begins anew with each"""


class TrialRun(Part):
    """One run, ridden with one of the two settings."""

    id: str = Field(min_length=1, max_length=40)
    place: int = quantity(0, 999, "1", "count")
    """its place in the planned order, from 0"""
    ridden: int = quantity(0, 999, "1", "count")
    """laps ridden on the track before it, since the trial began: what dries and tires goes by it"""
    setting: Setting = choice()
    time_s: float = quantity(5.0, 20_000.0, "s", "lap_time")
    """of the lap"""
    botched: bool = False
    """by the rider's word before the time was seen; it is left out"""
    sectors_s: tuple[Second, ...] = Field((), max_length=MOST_SECTORS)
    """times of its sectors, the same ones of every run"""
    error_s: float | None = quantity(0, 600, "s", "seconds", None, source="assumption: of a tap or a watch")
    """how far its time may lie off by how it was taken: sd"""
    from_file: bool = False
    """cut out of a recorded session"""
    by_watch: bool = False
    """typed from a watch"""
    clocks_apart: bool = False
    """the phone slept meanwhile: its wall clock counts"""
    scores: dict[Aspect, Score] = Field(default_factory=dict, max_length=len(ASPECTS))
    """1 to 10 by aspect, given before the time was shown"""
    guess: Setting | None = None
    """of a blind run: which the rider thought it was"""


class LineTap(Part):
    """A tap of one of two helpers, at the start or at the finish, on the van's clock."""

    id: str = Field(min_length=1, max_length=40)
    at: Literal["start", "finish"] = choice()
    van_s: float = quantity(0, 1e10, "s", "seconds")
    """of the van's clock, since 1970"""
    error_s: float = quantity(0, 60, "s", "seconds")
    """how far the phone's clock may lie off the van's"""


class Conditions(Part):
    """How it was at one moment of a trial: what is to be held."""

    ridden: int = quantity(0, 999, "1", "count")
    """laps ridden by then"""
    temperature_k: float | None = quantity(243.15, 323.15, "K", "temperature", None, source="assumption: not said")
    """of the air"""
    pressure_pa: float | None = quantity(45_000, 108_500, "Pa", "pressure", None, source="assumption: not said")
    """of the air, always read off the same"""
    fuel_m3: float | None = quantity(0, 0.05, "m^3", "volume", None, source="assumption: not said")
    """aboard"""
    tyre_pa: float | None = quantity(10_000, 400_000, "Pa", "tyre_pressure", None, source="assumption: not said")
    """of the rear tyre, always as cold or as warm"""


class Trial(Part):
    """One change against what stood, planned before anyone rode."""

    id: str = Field(min_length=1, max_length=40)
    rider: str = Field(min_length=1, max_length=60)
    """the rider's name"""
    question: str = Field(min_length=1, max_length=200)
    """what changes, the same for every trial of it: fields with their values"""
    changes: int = quantity(1, 40, "1", "count")
    """how many things change"""
    kind: Kind = choice()
    order: str = Field(min_length=2, max_length=80, pattern="^[AB]+$")
    """the runs in order"""
    lap_s: float = quantity(5.0, 20_000.0, "s", "lap_time")
    """of a lap, as planned"""
    noise_sd: float = quantity(
        0.001, 0.2, "1", "chance", 0.015, source="assumption: a good amateur 1 %, a trail rider 2 to 3 %"
    )
    """how far this rider's laps spread, a share of the lap"""
    hoped_share: float = quantity(0.001, 0.2, "1", "chance")
    """what one hopes to see, a share of the lap"""
    even_share: float = quantity(0.0005, 0.1, "1", "chance", 0.005, source="assumption")
    """what is called even, a share of the lap"""
    model_share: float | None = quantity(-0.5, 0.5, "1", "chance", None, source="assumption: not asked")
    """what the model expected before anyone rode, a share of the lap, minus = quicker"""
    turn_round_s: float = quantity(0, 7200, "s", "minutes", 120.0, source="assumption")
    """from the end of a run to the start of the next"""
    change_s: float = quantity(0, 14_400, "s", "minutes", 300.0, source="assumption")
    """how long a change takes"""
    blind: bool = False
    """the rider does not know what is fitted"""
    taps: tuple[LineTap, ...] = Field((), max_length=400)
    """of two helpers"""
    day: str = Field("", max_length=10)
    """on which it was ridden; trials of one day and one question are judged together"""
    conditions: tuple[Conditions, ...] = Field((), max_length=60)
    """as they were noted on the way"""
    outcome: Literal["open", "kept", "put_back", "left"] = choice("open", source="assumption: still ridden")
    """what was done with the change"""
    runs: tuple[TrialRun, ...] = Field((), max_length=MOST_RUNS)

    @model_validator(mode="after")
    def _in_order(self) -> "Trial":
        if set(self.order) != {"A", "B"}:
            raise ValueError("order:one_setting")
        for i, run in enumerate(self.runs):
            if run.place >= len(self.order):
                raise ValueError(f"runs.{i}.place:beyond_order")
        return self

    @property
    def counted(self) -> tuple[TrialRun, ...]:
        """The runs that count: of each place in the order the last that was not botched."""
        last = {r.place: r for r in self.runs if not r.botched}
        return tuple(sorted(last.values(), key=lambda r: r.ridden))

    @property
    def is_ridden(self) -> bool:
        """Whether every run of the order counts."""
        return len(self.counted) >= len(self.order)
