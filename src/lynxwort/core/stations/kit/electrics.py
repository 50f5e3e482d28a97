"""Generator, loads and battery along the round; wires and lamps."""

from dataclasses import dataclass
from functools import partial
from typing import Any

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.evidence import LogNormal
from lynxwort.core.figures import figure, step
from lynxwort.core.learned.kit import learn_generator
from lynxwort.core.model.bike import Electric, Injected, Item
from lynxwort.core.model.defaults import GRAVITY_M_PER_S2, Z90
from lynxwort.core.model.fitted import items_on, shift_of
from lynxwort.core.model.readings import GeneratorReading
from lynxwort.core.model.setup import CarriedSetup, KitSetup
from lynxwort.core.physics.drive.simulation import surface_table
from lynxwort.core.physics.kit import electrics
from lynxwort.core.report import Figure
from lynxwort.core.stations.kit import cooling
from lynxwort.core.stations.kit.ground import night
from lynxwort.core.stations.kit.input import KitInput
from lynxwort.core.stations.kit.pieces import Pieces, pieces
from lynxwort.core.tunables import current_value

Array = NDArray[np.float64]
#: slower than this one stands [m/s]
STANDS_M_PER_S = 0.3
#: a wire is warmer than the air by this [K] (assumption)
WARMER_K = 15.0
#: how many rounds of the race are followed at most
MOST_ROUNDS = 24


def is_wired(given: KitInput) -> bool:
    """Whether there is a generator: an electric bike has none."""
    return not isinstance(given.bike.engine, Electric)


def _at_points(given: KitInput, setup: CarriedSetup, scale: float) -> electrics.Generator | None:
    """Through its two points with what is bolted on, so much stronger [1]; None when nobody said them."""
    facts = given.bike.kit.electrics
    if not is_wired(given) or facts.low_w is None or facts.high_w is None:
        return None
    low, high = (
        scale * max(w + shift_of(given.bike, setup, f"generator_{n}_w"), 0.0)
        for n, w in (("low", facts.low_w), ("high", facts.high_w))
    )
    return electrics.generator(facts.low_rpm, low, facts.high_rpm, high)


def generator(given: KitInput, setup: CarriedSetup | None = None) -> electrics.Generator | None:
    """As it is set, or with another setup, with what was read of it; None when nobody said its two points."""
    return _at_points(given, setup or given.brakes, power(given).median)


def power(given: KitInput) -> LogNormal:
    """Factor on what the generator gives [1], by a clamp meter."""
    found = []
    for reading in given.readings:
        if isinstance(reading, GeneratorReading):
            made = _at_points(given, CarriedSetup.taken_from(reading.under.setup), 1.0)
            gives = 0.0 if made is None else float(made.power(reading.rpm))
            if gives > 0.0:
                found.append((reading.id, reading.volts * reading.current_a / gives))
    return learn_generator(found)


@dataclass(frozen=True, slots=True, kw_only=True)
class Load:
    """One thing that draws, the bike's own "ignition" and "injection" too: watts at full, mean over the round."""

    name: str
    watts_w: float
    mean_w: float
    fan: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Balance:
    """The round in pieces: what the generator gives, what all draw, what is left over for the battery [W]; battery [J]
    along each round that was followed, or None without one; loads: each thing that draws.
    """

    pieces: Pieces
    gives_w: Array
    draws_w: Array
    net_w: Array
    battery_j: tuple[Array, ...] | None
    loads: tuple[Load, ...]

    @property
    def mean_w(self) -> float:
        """Left over in the mean [W]."""
        return float((self.net_w * self.pieces.time_s).sum() / self.pieces.time_s.sum())


def _shares(given: KitInput, item: Item, way: Pieces, dark: Array, hot: Array) -> Array:
    """For how much of each piece an item draws [1]."""
    when = {
        "always": np.ones(way.time_s.size),
        "night": dark,
        "stopped": (way.speed_m_per_s < STANDS_M_PER_S).astype(float),
        "hot": hot,
    }[item.when]
    # a fan draws while it runs
    return item.duty_share * (hot if item.air_m3_per_s and item.when == "always" else when)


def balance(given: KitInput, setup: KitSetup | None = None) -> Balance | None:
    """Along the round in the hottest hour; None when nobody said what the generator gives. setup: another."""
    if setup is None:
        return given.once("electric_balance", partial(_balance, given, given.brakes))
    return _balance(given, setup)


def _balance(given: KitInput, setup: KitSetup) -> Balance | None:
    made = generator(given, setup)
    if made is None:
        return None
    way = pieces(given, current_value(setup, "crawl_share"))
    dark = night(given)[way.step].astype(float)
    hot = cooling.warmth(given, setup=setup).fan if cooling.is_cooled(given) else np.zeros(dark.size)
    facts, total = given.bike.kit.electrics, float(way.time_s.sum())
    found = []
    lamps, others = np.zeros(dark.size), np.zeros(dark.size)
    if facts.ignition_from == "battery":
        others += facts.ignition_w
        found.append(Load(name="ignition", watts_w=facts.ignition_w, mean_w=facts.ignition_w))
    if isinstance(given.bike.engine, Injected):
        others += facts.injection_w
        found.append(Load(name="injection", watts_w=facts.injection_w, mean_w=facts.injection_w))
    for item in items_on(given.bike, setup):
        if item.watts_w:
            along, lamp = item.watts_w * _shares(given, item, way, dark, hot), item.lamp_cd > 0.0
            (lamps if lamp else others)[:] += along
            mean = float((along * way.time_s).sum()) / total
            found.append(Load(name=item.name, watts_w=item.watts_w, mean_w=mean, fan=item.air_m3_per_s > 0.0))
    gives = made.power(way.rpm)
    # lamps on alternating current take from the generator alone, what it has
    net = np.maximum(gives - lamps, 0.0) - others if facts.lighting == "ac" else gives - lamps - others
    return Balance(
        pieces=way, gives_w=gives, draws_w=lamps + others, net_w=net, battery_j=_battery(given, way, net),
        loads=tuple(found),
    )  # fmt: skip


def _battery(given: KitInput, way: Pieces, net: Array) -> tuple[Array, ...] | None:
    facts = given.bike.kit.electrics
    if facts.battery == "none" or facts.battery_j is None:
        return None
    start, found = facts.battery_j, []
    for _round in range(min(given.rounds, MOST_ROUNDS)):
        found.append(electrics.battery_along(way.time_s, net, holds_j=facts.battery_j, start_j=start))
        start = float(found[-1][-1])
    return tuple(found)


def lowest(seen: Balance) -> float | None:
    """The least that is ever in the battery over the rounds followed [J]."""
    return None if seen.battery_j is None else min(float(b.min()) for b in seen.battery_j)


def rounds_until_flat(given: KitInput, seen: Balance) -> float | None:
    """Rounds until the battery is empty [1], by what a round takes; None when it never is, or without one."""
    if seen.battery_j is None or (facts := given.bike.kit.electrics).battery_j is None:
        return None
    total = 0.0
    for i, along in enumerate(seen.battery_j):
        empty = np.flatnonzero(along <= 1e-9)
        if empty.size:
            ridden = np.cumsum(seen.pieces.time_s)
            return i + float(ridden[empty[0]] / ridden[-1])
        total = i + 1.0
    takes = (facts.battery_j - float(seen.battery_j[-1][-1])) / total
    return facts.battery_j / takes if takes > 1.0 else None


def idle_surplus(given: KitInput, seen: Balance) -> float:
    """What is left over standing at idle [W], all that is on drawing, the fan not."""
    made = generator(given)
    assert made is not None
    fans = sum(load.watts_w for load in seen.loads if load.fan and load.mean_w > 0.0)
    draws = sum(load.watts_w for load in seen.loads if load.mean_w > 0.0) - fans
    return float(made.power(given.bike.engine.idle_rpm)) - draws  # type: ignore[union-attr]


def brightest(given: KitInput) -> Item | None:
    """The head lamp that is on."""
    lamps = [i for i in items_on(given.bike, given.brakes) if i.lamp_cd > 0.0]
    return max(lamps, key=lambda i: i.lamp_cd, default=None)


@dataclass(frozen=True, slots=True, kw_only=True)
class Wire:
    """The wire to the head lamp: current [A], voltage lost there and back in the hottest hour [V], its fuse, None
    beyond those that are sold, the most that its copper takes [A], what a filament at its end gives of its light [1].
    """

    current_a: float
    drop_v: float
    fuse_a: float | None
    most_a: float
    light_share: float

    @property
    def is_too_thin(self) -> bool:
        """Whether the fuse for the lamp is more than its copper takes."""
        return self.fuse_a is None or self.fuse_a > self.most_a


def wire(given: KitInput) -> Wire | None:
    """Of the lamp that is on; None without one."""
    lamp, facts = brightest(given), given.bike.kit.electrics
    if lamp is None or lamp.watts_w <= 0.0:
        return None
    amps = lamp.watts_w / electrics.NOMINAL_V
    loss = electrics.drop(
        amps, length_m=facts.lamp_wire_m, copper_m2=facts.lamp_wire_m2,
        temperature_k=given.day.air.temperature_high_k + WARMER_K,
    )  # fmt: skip
    return Wire(
        current_a=amps, drop_v=loss, fuse_a=electrics.fuse_for(amps), most_a=electrics.most_fuse(facts.lamp_wire_m2),
        light_share=electrics.flux(electrics.NOMINAL_V - loss, electrics.NOMINAL_V),
    )  # fmt: skip


def start_volts(given: KitInput) -> float | None:
    """Voltage under a starter in the coldest hour [V]; None without a battery."""
    facts = given.bike.kit.electrics
    if facts.battery == "none":
        return None
    volts, ohm = electrics.resting(facts.battery, given.day.air.temperature_low_k)
    return volts - electrics.START_A * ohm


def outrun_m(given: KitInput) -> tuple[float, float] | None:
    """How far the lamp shows an obstacle [m], and metres of the round ridden in the dark faster than one could stop
    within that [m]; None without a dark stretch or without a lamp.
    """
    dark, lamp = night(given), brightest(given)
    if lamp is None or not dark.any():
        return None
    ride, course = given.lap.whole, given.lap.around.whole
    far = electrics.reach(lamp.lamp_cd)
    lateral = surface_table(course, given.lap.ride_input).reshape(-1, 5)[course.surface, 3]
    slows = np.minimum(electrics.SLOWS_G, lateral) * GRAVITY_M_PER_S2
    fastest = electrics.speed_by_light(far, slows)
    speed = 0.5 * (ride.speed_m_per_s[1:] + ride.speed_m_per_s[:-1])
    return far, float(ride.step_m[dark & (speed > fastest)].sum())


_NAMES = ("surplus_mean", "surplus_idle", "battery_low", "laps_until_flat", "stop_time")
_PATHS = ("bike.kit.electrics.low_w", "bike.kit.electrics.high_w")
_SOURCE = "lossless alternator into a fixed voltage; loads as said of each"


def _none(name: str, reason: str) -> Figure:
    return figure(name, None, status="not_applicable", reason=reason)


def _balanced(given: KitInput, seen: Balance) -> list[Figure]:
    """What is left over, and what becomes of the battery."""
    known, facts, made = power(given), given.bike.kit.electrics, generator(given)
    assert made is not None
    mean = float((seen.gives_w * seen.pieces.time_s).sum() / seen.pieces.time_s.sum())
    more: dict[str, Any] = {
        "readings": known.used,
        "basis": "calibrated" if known.used else "assumed",
        "source": _SOURCE,
    }
    half = Z90 * known.log_sd * mean
    found = [
        figure(
            "kit.elec.surplus_mean", seen.mean_w, half=half, inputs=_PATHS, **more,
            formula="generator - loads over the lap's time, queues in it; P = P_inf sqrt(1 - (n_c / n)^2)",
            steps=(
                step("P_inf", made.most_w, "W"), step("n_c", made.cut_in_rpm, "rpm", "it gives nothing below"),
                step("gives", mean, "W", "mean of the lap"), step("draws", mean - seen.mean_w, "W"),
            ),
        ),
        figure(
            "kit.elec.surplus_idle", idle_surplus(given, seen), half=Z90 * known.log_sd * float(made.power(
            given.bike.engine.idle_rpm)) + 5.0,  # type: ignore[union-attr]
            inputs=(*_PATHS, "bike.engine.idle_rpm"), **more, formula="generator at idle - all that is on",
        ),
    ]  # fmt: skip
    low = lowest(seen)
    if low is None or facts.battery_j is None:
        unsaid = facts.battery != "none"
        names = ("battery_low", "laps_until_flat", "stop_time")
        paths = ("bike.kit.electrics.battery_j",)
        return found + [
            figure(f"kit.elec.{n}", None, inputs=paths, formula="needs what the battery holds", source="stamped on it")
            if unsaid
            else _none(f"kit.elec.{n}", "no_battery")
            for n in names
        ]
    lasts, off = float(seen.pieces.time_s.sum()) * given.rounds, sum(x.mean_w for x in seen.loads)
    flat = rounds_until_flat(given, seen)
    found.append(
        figure(
            "kit.elec.battery_low", low, low=max(low - half * lasts, 0.0),
            high=min(low + half * lasts, facts.battery_j),
            inputs=("bike.kit.electrics.battery_j", *_PATHS), **more,
            formula="E += net dt, 0.9 of what is charged, between nothing and full; the least of it, over all laps",
        )
    )  # fmt: skip
    found.append(
        _none("kit.elec.laps_until_flat", "never_flat")
        if flat is None
        else figure(
            "kit.elec.laps_until_flat",
            flat,
            half=0.3 * flat,
            inputs=_PATHS,
            formula="first empty, or battery / lap",
            **more,
        )
    )
    found.append(
        figure(
            "kit.elec.stop_time", facts.battery_j / off, half=0.15 * facts.battery_j / off, **more,
            inputs=("bike.kit.electrics.battery_j",), formula="battery / what is on",
        )
        if off > 0.0
        else _none("kit.elec.stop_time", "nothing_draws")
    )  # fmt: skip
    return found


def _wires(given: KitInput) -> list[Figure]:
    """Wires, start and light."""
    copper, volts, light = wire(given), start_volts(given), outrun_m(given)
    lamp = brightest(given)
    found = []
    if copper is None:
        found.append(_none("kit.elec.drop_headlight", "no_lamp"))
    else:
        found.append(
            figure(
                "kit.elec.drop_headlight", copper.drop_v, half=0.1 * copper.drop_v,
                inputs=("bike.kit.electrics.lamp_wire_m2", "bike.kit.electrics.lamp_wire_m"),
                formula="2 l I rho (1 + 0.00393 (T - 20)) / A", steps=(step("I", copper.current_a, "A"),),
                source="IEC 60028, 1/58 ohm mm2/m",
            )
        )  # fmt: skip
    found.append(
        _none("kit.elec.start_voltage", "no_battery")
        if volts is None
        else figure(
            "kit.elec.start_voltage", volts, half=0.6, basis="assumed", inputs=("bike.kit.electrics.battery",),
            formula="V - 60 A R, R twice as much at -10 °C", source="HANDBOOK 9, 4, assumption",
        )
    )  # fmt: skip
    if lamp is None:
        return [*found, _none("kit.light.reach", "no_lamp"), _none("kit.light.outrun", "no_lamp")]
    far = electrics.reach(lamp.lamp_cd)
    found.append(
        figure(
            "kit.light.reach", far, half=0.25 * far, basis="assumed", formula="sqrt(cd / 3 lx)",
            steps=(step("cd", lamp.lamp_cd, "1", lamp.name),), source="3 lx on a dark obstacle, assumption",
        )
    )  # fmt: skip
    if light is None:
        return [*found, _none("kit.light.outrun", "no_night")]
    return [
        *found,
        figure(
            "kit.light.outrun", light[1], low=0.6 * light[1], high=1.5 * light[1] + 50.0, basis="assumed",
            formula="speed > a (-t + sqrt(t^2 + 2 d / a)), t 1.5 s, a at most 0.35 g or what the ground brakes",
            steps=(step("d", light[0], "m", "how far it shows an obstacle"),), source="HANDBOOK 9, 4, assumption",
        ),
    ]  # fmt: skip


def figures(given: KitInput) -> list[Figure]:
    """Of generator, battery, wires and lamps; the first two none of an electric bike, and unknown until two points of
    the generator are said.
    """
    if not is_wired(given):
        return [_none(f"kit.elec.{n}", "no_generator") for n in _NAMES] + _wires(given)
    seen = balance(given)
    if seen is None:
        return [
            figure(
                f"kit.elec.{n}", None, inputs=_PATHS, formula="needs two points of the generator", source="to measure"
            )
            for n in _NAMES
        ] + _wires(given)
    return _balanced(given, seen) + _wires(given)
