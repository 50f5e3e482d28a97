"""The round as it really goes: the ride with what it does not have, the minutes at a walking pace and at a standstill,
put in where the queue is. Coolant and battery are followed over these pieces.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.cache import keyed
from lynxwort.core.derived.ride import Lap
from lynxwort.core.model.bike import Combustion, Electric
from lynxwort.core.model.defaults import FUEL_LHV_J_PER_KG, GRAVITY_M_PER_S2
from lynxwort.core.model.race import Stage
from lynxwort.core.physics.drive.engine import engine_curve, fuel_flow, slips_by_itself, unburnt_share
from lynxwort.core.physics.drive.simulation import surface_table
from lynxwort.core.stations.kit.input import KitInput

Array = NDArray[np.float64]
#: pace in a queue [m/s]; a piece of it [s]; stretch [m] over which a place is slow
CRAWL_M_PER_S, PIECE_S, SLOW_M = 1.0, 5.0, 100.0
#: crank speeds up to this over engagement slip the clutch [1]; half of that heat goes into the coolant (assumption)
SLIPS_BELOW, SLIP_SHARE = 1.02, 0.5
_RPM = 60.0 / (2.0 * np.pi)


@dataclass(frozen=True, slots=True, kw_only=True)
class Pieces:
    """Per piece, shape (n,): time [s], speed [m/s], revs [rpm], fuel burnt and half of what the clutch slips away [W],
    the step of the round it lies on, and whether it is a queue's.
    """

    time_s: Array
    speed_m_per_s: Array
    rpm: Array
    fuel_w: Array
    slip_w: Array
    step: NDArray[np.int64]
    queued: NDArray[np.bool_]


@dataclass(frozen=True, slots=True, kw_only=True)
class Crawl:
    """An engine at a walking pace, or at idle: speed [m/s], revs [rpm], fuel burnt and clutch heat [W]."""

    speed_m_per_s: float
    rpm: float
    fuel_w: float
    slip_w: float


def _burnt(engine: Combustion, torque_nm: float, rad_per_s: float) -> float:
    """Heat of the fuel that is burnt [W], what leaves unburnt taken away."""
    full = engine_curve(engine).torque_at(rad_per_s)  # type: ignore[arg-type]
    torque, speed = np.asarray(torque_nm), np.asarray(rad_per_s)
    flow = fuel_flow(engine, torque, speed, full)
    return float(flow * (1.0 - unburnt_share(engine, torque / np.maximum(full, 1e-9), speed)) * FUEL_LHV_J_PER_KG)


def crawl(given: KitInput, step: int, share: float) -> Crawl:
    """Walking on the ground of a step with the clutch slipping, level: a queue stands at the foot of a hill. share:
    of the revs at which it pulls [1].
    """
    ride_input, course = given.lap.ride_input, given.lap.around.whole
    engine = ride_input.engine
    assert not isinstance(engine, Electric)
    curve = engine_curve(engine)
    crank = max(curve.engagement_rad_per_s * share, curve.idle_rad_per_s)
    surface = surface_table(course, ride_input).reshape(-1, 5)[course.surface[step]]
    resists = surface[0] + surface[1] * CRAWL_M_PER_S
    ratio = ride_input.overall_ratios[0]
    torque = (
        ride_input.mass_kg * GRAVITY_M_PER_S2 * resists * ride_input.rolling_radius_m / (ratio * ride_input.efficiency)
    )
    torque = min(torque, float(curve.torque_at(crank)))
    slip = torque * max(crank - CRAWL_M_PER_S / ride_input.rolling_radius_m * ratio, 0.0)
    return Crawl(
        speed_m_per_s=CRAWL_M_PER_S, rpm=crank * _RPM, fuel_w=_burnt(engine, torque, crank), slip_w=SLIP_SHARE * slip
    )


def idle(given: KitInput) -> Crawl:
    """Standing at idle."""
    engine = given.lap.ride_input.engine
    assert not isinstance(engine, Electric)
    return Crawl(speed_m_per_s=0.0, rpm=engine.idle_rpm, fuel_w=_burnt(engine, 0.0, engine.idle_rpm / _RPM), slip_w=0.0)


def queue_step(given: KitInput, stage: int) -> int:
    """Step of the round on which a stage's queue stands: where it was said, else where the stage is slowest."""
    return given.once(f"queue_{stage}", lambda: _queue_step(given, stage))


def _queue_step(given: KitInput, stage: int) -> int:
    course, starts = given.lap.around.courses[stage], given.lap.around.starts_m
    said = given.clock.stages[stage].queue_at_m
    first = given.lap.around.step_at(float(starts[stage]) + 1e-6)
    if said is not None:
        return given.lap.around.step_at(min(float(starts[stage]) + said, float(starts[stage + 1]) - 1e-6))
    time = given.lap.rides[stage].time_s
    wide = max(min(round(SLOW_M / course.spacing_m), time.size), 1)
    passed = np.concatenate([[0.0], np.cumsum(time)])
    return first + int((passed[wide:] - passed[:-wide]).argmax()) + wide // 2


@keyed
class _Ridden:
    """All that the pieces depend on."""

    lap: Lap
    stages: tuple[Stage, ...]
    share: float


def pieces(given: KitInput, share: float) -> Pieces:
    """The round in pieces, its queues in it. share: of the revs at which it pulls, at a crawl [1]."""
    key = _Ridden(lap=given.lap, stages=given.clock.stages, share=share)
    return given.cache.get("kit_pieces", key, lambda: _pieces(given, share))


def _pieces(given: KitInput, share: float) -> Pieces:
    whole = given.cache.get("kit_ridden", given.lap, lambda: _as_ridden(given))
    for i in reversed(range(len(given.clock.stages))):
        whole = _with_queue(given, whole, i, share)
    return whole


def _as_ridden(given: KitInput) -> Pieces:
    """The ride's own steps."""
    ride, ride_input = given.lap.whole, given.lap.ride_input
    engine = ride_input.engine
    assert not isinstance(engine, Electric)
    speed = 0.5 * (ride.speed_m_per_s[1:] + ride.speed_m_per_s[:-1])
    curve = engine_curve(engine)
    burnt = ride.fuel_kg * (1.0 - unburnt_share(engine, ride.throttle_share, ride.crank_rad_per_s)) * FUEL_LHV_J_PER_KG
    turned = speed / ride_input.rolling_radius_m * np.array(ride_input.overall_ratios)[ride.gear - 1]
    may = (ride.gear == 1) | slips_by_itself(engine)
    slips = may & (ride.crank_rad_per_s <= SLIPS_BELOW * curve.engagement_rad_per_s)
    slip = np.where(slips, np.maximum(ride.crank_rad_per_s - turned, 0.0) * np.maximum(ride.torque_nm, 0.0), 0.0)
    return Pieces(
        time_s=ride.time_s,
        speed_m_per_s=speed,
        rpm=ride.crank_rad_per_s * _RPM,
        fuel_w=burnt / ride.time_s,
        slip_w=SLIP_SHARE * slip,
        step=np.arange(speed.size),
        queued=np.zeros(speed.size, dtype=bool),
    )


def _with_queue(given: KitInput, whole: Pieces, stage: int, share: float) -> Pieces:
    """The pieces with a stage's queue put in behind the step on which it stands."""
    told = given.clock.stages[stage]
    if told.crawling_s <= 0.0 and told.standing_s <= 0.0:
        return whole
    at = queue_step(given, stage)
    more: list[tuple[float, Crawl]] = []
    for lasts, how in ((told.crawling_s, crawl(given, at, share)), (told.standing_s, idle(given))):
        count = int(np.ceil(lasts / PIECE_S))
        more += [(lasts / max(count, 1), how)] * count
    index = int(np.searchsorted(whole.step, at, side="right"))

    def put(values: Array, new: list[float]) -> Array:
        return np.insert(values, index, new)

    return Pieces(
        time_s=put(whole.time_s, [t for t, _h in more]),
        speed_m_per_s=put(whole.speed_m_per_s, [h.speed_m_per_s for _t, h in more]),
        rpm=put(whole.rpm, [h.rpm for _t, h in more]),
        fuel_w=put(whole.fuel_w, [h.fuel_w for _t, h in more]),
        slip_w=put(whole.slip_w, [h.slip_w for _t, h in more]),
        step=np.insert(whole.step, index, [at] * len(more)),
        queued=np.insert(whole.queued, index, [True] * len(more)),
    )
