"""What of a setup and of the readings the mixture depends on, as the fuelling functions take it."""

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.model.bike import Bike, Engine, Injected, Injection, Jetted, Rod, TorquePoint
from lynxwort.core.model.readings import Air, DynoReading, LogReading
from lynxwort.core.model.setup import Setup
from lynxwort.core.physics.air.moist import AirState
from lynxwort.core.physics.drive.dyno import crank_torque
from lynxwort.core.physics.fuelling.logs import LEAST_HITS, Binned, spread_of
from lynxwort.core.physics.fuelling.metering import MapSetting, RodSetting
from lynxwort.core.physics.fuelling.richness import Jetting, RichnessCurve

Setting = Jetting | RodSetting | MapSetting


def state_of(air: Air) -> AirState:
    """The air of a reading as the air model takes it."""
    return AirState(pressure_pa=air.pressure_pa, temperature_k=air.temperature_k, relative_humidity=air.relative_humidity)


def jetting_of(setup: Setup) -> Jetting:
    """The jets of a setup that has a main jet."""
    return Jetting(
        main_jet=setup.main_jet or 0.0, needle_clip=setup.needle_clip, premix_ratio=setup.premix_ratio, pilot_jet=setup.pilot_jet,
        screw_turns=setup.screw_turns, needle=setup.needle or 1, needle_jet_bore_m=setup.needle_jet_bore_m, slide_cutaway=setup.slide_cutaway,
        fuel=setup.fuel or 1,
    )  # fmt: skip


def setting_of(setup: Setup, engine: Engine) -> Setting | None:
    """The part of a setup that the mixture depends on; None when it is not of this engine's kind."""
    if isinstance(engine, Jetted):
        fits = setup.main_jet is not None and (setup.needle or 1) <= 1 + len(engine.carburettor.needles)
        return jetting_of(setup) if fits else None
    if isinstance(engine, Rod):
        return RodSetting(rod=setup.metering_rod or 0, clicks=setup.knob_clicks or 0, premix_ratio=setup.premix_ratio)
    if isinstance(engine, Injected):
        slot, made = setup.map_slot or 1, engine.injection
        fits = slot <= len(made.map_shifts) and len(setup.map_trims) in (0, len(made.rpm_axis) * len(made.throttle_axis))
        return MapSetting(slot=slot, trim=setup.fuel_trim or 0.0, premix_ratio=setup.premix_ratio, trims=setup.map_trims) if fits else None
    return None


def run_of(reading: DynoReading, bike: Bike) -> tuple[TorquePoint, ...]:
    """A run at the crank on a standard day."""
    torque = crank_torque(np.array([p.torque_nm for p in reading.points]), place=reading.place, standard=reading.standard,
                          air=state_of(reading.under.air) if reading.under.air else None, efficiency=bike.transmission.efficiency)  # fmt: skip
    rows = [(p.rpm, float(t)) for p, t in zip(reading.points, torque, strict=True)]
    keep = rows if len(rows) <= 60 else [rows[round(i * (len(rows) - 1) / 59)] for i in range(60)]
    return tuple(TorquePoint(rpm=rpm, torque_nm=min(t, 400.0)) for rpm, t in keep)


def log_cells(injection: Injection, log: LogReading) -> Binned:
    """A log's cells on the map's axes; cells that lie on none of them are left out."""
    rpm, throttle = list(injection.rpm_axis), list(injection.throttle_axis)
    shape = len(rpm), len(throttle)
    hits, error, sd = np.zeros(shape), np.full(shape, np.nan), np.zeros(shape)
    for cell in log.cells:
        if cell.rpm in rpm and cell.throttle in throttle:
            at = rpm.index(cell.rpm), throttle.index(cell.throttle)
            hits[at], error[at], sd[at] = cell.hits, cell.error, cell.sd
    return Binned(hits=hits, error=error, sd=sd)


def over_log(curve: RichnessCurve, moved: RichnessCurve, cells: Binned, injection: Injection, then: tuple[float, ...], now: tuple[float, ...]) -> RichnessCurve:
    """A curve whose openings that a log knows say what the log says, moved by what has changed since.

    moved: richness that all but the cells' own trims bring against the log's setting; then, now: trims of the cells.
    """
    shape = cells.hits.shape
    known: NDArray[np.bool_] = np.array(cells.hits >= LEAST_HITS, dtype=bool)
    if not known.any():
        return curve
    step = (1.0 + (np.reshape(now, shape) if now else np.zeros(shape))) / (1.0 + (np.reshape(then, shape) if then else np.zeros(shape)))
    left = np.where(known, (1.0 + np.where(known, cells.error, 0.0)) * step - 1.0, 0.0)
    spread = np.where(known, spread_of(cells), 0.0)
    weight = np.where(known, cells.hits, 0.0)
    columns: NDArray[np.bool_] = np.any(known, axis=0)  # type: ignore[assignment]
    total = np.maximum(weight.sum(axis=0), 1e-9)
    ends = ((left * weight).sum(axis=0) / total, np.where(known, left - spread, np.inf).min(axis=0), np.where(known, left + spread, -np.inf).max(axis=0))
    axis, throttle = np.asarray(injection.throttle_axis), curve.throttle
    below = np.clip(np.searchsorted(axis, throttle, side="right") - 1, 0, axis.size - 2)
    seen = columns[below] & columns[below + 1]
    made = []
    for own, move, end in zip((curve.value, curve.low, curve.high), (moved.value, moved.low, moved.high), ends, strict=True):
        told = (1.0 + np.interp(throttle, axis, np.where(columns, end, 0.0))) * (1.0 + move) - 1.0
        made.append(np.where(seen, told, own))
    return RichnessCurve(throttle=throttle, value=made[0], low=made[1], high=made[2])


def log_error(cells: Binned, injection: Injection, then: tuple[float, ...], now: tuple[float, ...]) -> np.ndarray:
    """Error [1] that is left in each cell with these trims, from what was logged with those; nan where nothing was logged."""
    shape = cells.hits.shape
    step = (1.0 + (np.reshape(now, shape) if now else np.zeros(shape))) / (1.0 + (np.reshape(then, shape) if then else np.zeros(shape)))
    return np.asarray((1.0 + cells.error) * step - 1.0)
