"""A stand-in for a mixture logger: it rides a lap of the model with a map that is wrong in a hidden way, through the
same text as a real one.

Protocol, one line a sample, as a file or a stream: a line "# lynxwort log 1", a line of headings, then
"seconds;rpm;throttle %;lambda;coolant °C". Noise, lag of the gauge and dropouts are seeded.
"""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.physics.fuelling.logs import read_grid, target_lambda
from lynxwort.core.stations.fuelling.input import FuellingInput
from lynxwort.core.stations.fuelling.view import injection_of, trims_grid

Array = NDArray[np.float64]
HEAD = ("# lynxwort log 1", "time s;rpm;throttle %;lambda;coolant °C")
RATE_HZ = 20.0
LAG_EVEN_S, LAG_SLOW_S, NOISE, DROPOUT_SHARE = 0.14, 0.10, 0.012, 0.01


@dataclass(frozen=True, slots=True, kw_only=True)
class Hidden:
    """How a stand-in's map is off: waves over revs and throttle. seed decides them; peak_rpm scales the revs [rpm]."""

    seed: int
    peak_rpm: float

    def error(self, rpm: Array, throttle: Array) -> Array:
        """Richness against the target [1], + = rich; at most about 8 %."""
        dice = np.random.default_rng(self.seed)
        made = np.zeros(np.broadcast(rpm, throttle).shape)
        for size in (0.045, 0.025):
            a, b, c, d = (
                dice.uniform(0.6, 1.6),
                dice.uniform(0.0, 6.28),
                dice.uniform(0.5, 1.5),
                dice.uniform(0.0, 6.28),
            )
            made = made + size * np.sin(np.pi * a * np.asarray(rpm) / self.peak_rpm + b) * np.cos(
                np.pi * c * np.asarray(throttle) + d
            )
        return np.asarray(made)


@dataclass(frozen=True, kw_only=True)
class Ridden:
    """What the model rode, at even times: rpm and throttle 0 to 1, RATE_HZ."""

    rpm: Array
    throttle: Array


def ridden(time_s: Array, rpm: Array, throttle: Array) -> Ridden:
    """A lap's steps (time each takes [s], revs, opening) at even times."""
    clock = np.concatenate([[0.0], np.cumsum(time_s)[:-1]])
    even = np.arange(0.0, float(clock[-1]), 1.0 / RATE_HZ)
    return Ridden(rpm=np.interp(even, clock, rpm), throttle=np.interp(even, clock, throttle))


def sampled(
    what: Ridden, hidden: Hidden, *, part: float, full: float, trim_of: Array, seed: int
) -> tuple[Array, Array]:
    """Lambda as the gauge tells it, and coolant [°C], sample by sample. trim_of: trim in use at each sample [1]; nan
    where it dropped out.
    """
    dice = np.random.default_rng(seed)
    time = np.arange(what.rpm.size) / RATE_HZ
    richness = (1.0 + hidden.error(what.rpm, what.throttle)) * (1.0 + trim_of) - 1.0
    made = target_lambda(what.throttle, part=part, full=full) / (1.0 + richness)
    shut = (what.throttle < 0.02) & (what.rpm > 3000.0)
    made = np.where(shut, 1.6, made)
    lag = LAG_EVEN_S + LAG_SLOW_S * 3000.0 / np.maximum(what.rpm, 500.0)
    told = np.interp(time - lag, time, made) + dice.normal(0.0, NOISE, time.size)
    told[dice.random(time.size) < DROPOUT_SHARE] = np.nan
    return told, np.minimum(25.0 + 60.0 * time / 90.0, 84.0)


def lines(what: Ridden, told: Array, coolant_c: Array) -> Iterator[str]:
    """The stream, line by line."""
    yield from HEAD
    for i in range(what.rpm.size):
        seen = "" if np.isnan(told[i]) else f"{told[i]:.3f}"
        yield f"{i / RATE_HZ:.2f};{what.rpm[i]:.0f};{100 * what.throttle[i]:.1f};{seen};{coolant_c[i]:.0f}"


def lap_stream(up: Upstream, *, seed: int, number: int) -> list[str]:
    """The stream of one lap with the setup as it is. seed: of this bike's hidden map; number: of the lap, which brings
    its own noise.

    Raises ValueError of a bike without injection.
    """
    made, setup, lift = injection_of(FuellingInput.of(up)), up.inputs.setup, up.lap.lift
    assert lift is not None
    what = ridden(up.lap.whole.time_s, up.lap.whole.crank_rad_per_s * 60.0 / (2.0 * np.pi), lift)
    trims = read_grid(
        trims_grid(made, setup.map_trims),
        np.array(made.rpm_axis),
        np.array(made.throttle_axis),
        what.rpm,
        what.throttle,
    )
    whole = (1.0 + trims) * (1.0 + (setup.fuel_trim or 0.0)) - 1.0
    hidden = Hidden(seed=seed, peak_rpm=up.inputs.bike.engine.peak_power_rpm)
    told, coolant = sampled(
        what, hidden, part=made.target_part, full=made.target_full, trim_of=whole, seed=1000 * seed + number
    )
    return list(lines(what, told, coolant))
