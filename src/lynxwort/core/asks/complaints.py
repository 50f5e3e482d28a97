"""What a rider felt, turned into what to look at first and what to change, each change tried in the ride.

Trade rules: common practice, no source. A direction is called visible only when it shows at eight of nine speeds and
beyond two standard errors; otherwise the product says "not visible".
"""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from math import sqrt

import numpy as np

from lynxwort.core.model.bike import Bike
from lynxwort.core.model.damper import StackShim
from lynxwort.core.model.setup import DampingSetup, SuspensionSetup
from lynxwort.core.physics.chassis import ride_quality, sag
from lynxwort.core.physics.chassis.fitted import travel_of
from lynxwort.core.physics.damping import damper
from lynxwort.core.physics.halfcar.measures import Measures
from lynxwort.core.stations.damping.car import half_car
from lynxwort.core.stations.damping.dampers import ENDS, clicks_of, facts_of, shims_of, tables_of
from lynxwort.core.stations.damping.input import DampingInput
from lynxwort.core.stations.damping.rides import WIDE_SPREAD, Feature, features, ride_feature
from lynxwort.core.tunables import TUNABLES

#: what share of the nine speeds must agree, and how many standard errors the mean must lie from none
AGREE, ERRORS = 8, 2.0
#: share of the measure under which a clicker hardly does it (assumption)
HARDLY = 0.1


@dataclass(frozen=True, slots=True, kw_only=True)
class Complaint:
    """way: the stroke on which it happens; stroke: where in the travel, None = at the sag; speed_m_per_s: of the shaft
    there; pieces: where it shows, the first that the course has; measure: what tells it, less is better, its kind of
    unit; cures: tools in the trade's order, + = more of it.
    """

    way: str
    stroke: float | None
    speed_m_per_s: float
    pieces: tuple[str, ...]
    measure: Callable[[Measures, str], float]
    kind: str
    cures: tuple[tuple[str, int], ...]


def _of(name: str) -> Callable[[Measures, str], float]:
    return lambda m, end: float(getattr(getattr(m, end), name))


def _whole(name: str) -> Callable[[Measures, str], float]:
    return lambda m, _end: float(getattr(m, name))


#: tools: clicks (+ = in), high_speed (+ = turns in), shim (+ = one more), spring (+ = stiffer), oil (+ = more)
COMPLAINTS: dict[str, Complaint] = {
    "bottoms": Complaint(
        way="compression",
        stroke=0.95,
        speed_m_per_s=1.0,
        pieces=("whoops", "dip", "landing"),
        measure=_of("stop_n"),
        kind="force",
        cures=(("high_speed", 1), ("oil", 1), ("spring", 1), ("shim", 1), ("clicks", 1)),
    ),
    "blows_through": Complaint(
        way="compression",
        stroke=0.6,
        speed_m_per_s=0.5,
        pieces=("dip", "landing"),
        measure=_of("share"),
        kind="share",
        cures=(("clicks", 1), ("shim", 1), ("oil", 1), ("spring", 1)),
    ),
    "harsh": Complaint(
        way="compression",
        stroke=None,
        speed_m_per_s=1.5,
        pieces=("rocks", "whoops"),
        measure=_whole("peg_m_per_s2"),
        kind="acceleration",
        cures=(("high_speed", -1), ("shim", -1), ("clicks", -1), ("spring", -1)),
    ),
    "packs": Complaint(
        way="rebound",
        stroke=0.5,
        speed_m_per_s=0.4,
        pieces=("whoops", "rocks"),
        measure=_of("packing_m"),
        kind="preload",
        cures=(("clicks", -1), ("shim", -1), ("spring", 1)),
    ),
    "kicks": Complaint(
        way="rebound",
        stroke=0.8,
        speed_m_per_s=1.0,
        pieces=("landing", "whoops"),
        measure=_whole("overshoot_m"),
        kind="preload",
        cures=(("clicks", 1), ("shim", 1), ("spring", -1)),
    ),
    "skips": Complaint(
        way="rebound",
        stroke=None,
        speed_m_per_s=0.5,
        pieces=("rocks", "whoops"),
        measure=_of("air_share"),
        kind="richness",
        cures=(("clicks", -1), ("high_speed", -1), ("shim", -1)),
    ),
}
#: looked at before anything is turned; by how it was felt
CHECKS: tuple[str, ...] = ("sound", "pressures", "sag", "clicks_counted")
HOT_CHECK, COLD_CHECK = "hot", "cold"


@dataclass(frozen=True, slots=True, kw_only=True)
class Tool:
    """One thing that could be changed. more: of it, as clicks in; changes: of the setup; steps: how many of it;
    force_share: change [1] of all that holds the end up or back at the place of the complaint; change: of the measure,
    mean over the speeds, negative = better; seen: "helps", "worse" or "not_visible".
    """

    name: str
    more: bool
    changes: dict[str, object]
    steps: float
    force_share: float
    change: float
    seen: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Advice:
    """What to do about a complaint, the trade's order kept. feature: what it was tried on; measure: its mean now."""

    feature: Feature
    speed_m_per_s: float
    measure: float
    tools: tuple[Tool, ...]

    @property
    def clicker(self) -> str:
        """What the clicker alone does: "helps", "hardly" (under a tenth of the measure), "worse" or "not_visible"."""
        clicks = next((t for t in self.tools if t.name == "clicks"), None)
        if clicks is None or clicks.seen == "not_visible":
            return "not_visible"
        return "hardly" if clicks.seen == "helps" and abs(clicks.change) < HARDLY * abs(self.measure) else clicks.seen


def _shim_more(shims: tuple[StackShim, ...], direction: int) -> tuple[StackShim, ...] | None:
    """One face shim more or less; None when only one is left."""
    first = shims[0]
    if first.count + direction < 1:
        return None
    return (first.model_copy(update={"count": first.count + direction}), *shims[1:])


def _clicks(
    setup: DampingSetup, bike: Bike, name: str, way: str, direction: int
) -> tuple[dict[str, object], float] | None:
    field, now = f"{name}_{way}_clicks", clicks_of(setup, name)[0 if way == "compression" else 1]
    most = getattr(facts_of(bike, name), f"{way}_clicks")
    wanted = max(now - 4, 0) if direction > 0 else min(now + 4, most)
    return None if wanted == now else ({field: wanted}, abs(wanted - now))


def _tools(given: DampingInput, name: str, complaint: Complaint) -> Iterator[tuple[str, dict[str, object], float]]:
    """Tool, what it changes in the setup, how many steps of it."""
    setup, bike = given.setup, given.bike
    for tool, direction in complaint.cures:
        if tool == "clicks" and (clicks := _clicks(setup, bike, name, complaint.way, direction)):
            yield tool, *clicks
        if tool == "high_speed" and name == "shock" and bike.shock_damper.high_speed_turns > 0.0:
            now = setup.shock_high_speed_turns or 0.0
            wanted = min(max(now + direction, 0.0), bike.shock_damper.high_speed_turns)
            if wanted != now:
                yield tool, {"shock_high_speed_turns": wanted}, abs(wanted - now)
        if tool == "oil" and name == "fork":
            up = (setup.fork_oil_up_m or 0.0) + 0.010 * direction
            if bike.frame.fork_oil_least_m <= bike.frame.fork_air_gap_m - up <= bike.frame.fork_oil_most_m:
                yield tool, {"fork_oil_up_m": round(up, 4)}, 10.0
        if tool == "spring" and not (name == "fork" and bike.frame.fork_springing == "air"):
            field = f"{name}_spring_rate_n_per_m"
            yield tool, {field: getattr(setup, field) + direction * TUNABLES[field].step}, 1.0
        if tool == "shim":
            place = "rebound" if complaint.way == "rebound" else ("base" if name == "fork" else "piston")
            made = _shim_more(shims_of(setup, name, place), direction)
            if made is not None:
                yield tool, {f"{name}_{place}_stack": made}, 1.0


def _held(given: DampingInput, setup: SuspensionSetup, end: str, complaint: Complaint) -> float:
    """Force at the shaft [N] that holds an end back on a stroke at a place and speed: spring and damper on the way in,
    damper alone on the way out.
    """
    name, bike = ENDS[end], given.bike
    table = tables_of(bike, setup, name)[0 if complaint.way == "compression" else 1]
    force = float(damper.force_at(table, complaint.speed_m_per_s))
    if complaint.way == "rebound":
        return force
    if end == "front":
        stroke = (
            given.loaded.sag_m("front", race=True, fuel_m3=0.5 * setup.fill_m3)
            if complaint.stroke is None
            else complaint.stroke * travel_of(bike.frame, setup, "front")
        )
        return force + sag.fork_force(
            given.springs.fork(setup, given.springs.offsets.mean), stroke, ride_quality.MOVING_EXPONENT
        )
    wheel = (
        given.loaded.sag_m("rear", race=True, fuel_m3=0.5 * setup.fill_m3)
        if complaint.stroke is None
        else complaint.stroke * travel_of(bike.frame, setup, "rear")
    )
    shock = given.springs.shock(setup, given.springs.offsets.mean)
    return force + sag.shock_force(shock, sag.shock_stroke(shock, wheel))


def judged(now: np.ndarray, after: np.ndarray) -> tuple[float, str]:
    """Mean change of a measure over the speeds, and whether it is to be seen. Shapes (9,)."""
    change = after - now
    mean, error = float(change.mean()), float(change.std(ddof=1)) / sqrt(change.size)
    agree = max(int((change < 0.0).sum()), int((change > 0.0).sum()))
    if agree < AGREE or abs(mean) <= ERRORS * error:
        return mean, "not_visible"
    return mean, "helps" if mean < 0.0 else "worse"


def advise(given: DampingInput, code: str, end: str, piece: str = "") -> Advice:
    """What to do about a complaint of an end ("front" or "rear"); each tool ridden at nine speeds over the piece where
    it was felt, or where it shows, or the course's first.
    """
    complaint = COMPLAINTS[code]

    def make() -> Advice:
        there = {f.kind: f for f in features(given)}
        # a course without a piece that shows it best: on what it has
        feature = next((there[k] for k in (piece, *complaint.pieces) if k in there), features(given)[0])
        setup = given.setup

        def told(changed: SuspensionSetup) -> np.ndarray:
            runs = ride_feature(half_car(given, changed), feature, feature.speed_m_per_s, spread=WIDE_SPREAD).runs
            return np.array([complaint.measure(m, end) for m in runs])

        now, tools, held = told(setup), [], _held(given, setup, end, complaint)
        for name, changes, steps in _tools(given, ENDS[end], complaint):
            after = setup.model_copy(update=changes)
            change, seen = judged(now, told(after))
            tools.append(
                Tool(
                    name=name,
                    more=dict(complaint.cures)[name] > 0,
                    changes=changes,
                    steps=steps,
                    force_share=_held(given, after, end, complaint) / held - 1.0,
                    change=change,
                    seen=seen,
                )
            )
        return Advice(
            feature=feature, speed_m_per_s=feature.speed_m_per_s, measure=float(now.mean()), tools=tuple(tools)
        )

    return given.lap.cache.get("damping_advice", (given, code, end, piece), make)
