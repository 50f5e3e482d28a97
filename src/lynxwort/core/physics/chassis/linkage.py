"""A linkage measured as a table: shock stroke against wheel travel.

The table is smoothed by a monotone cubic (Fritsch and Carlson 1980, scipy's PchipInterpolator); its slope is then taken
at even steps and joined by straight lines, and the stroke is the exact integral of that slope, so that force and travel
keep the work (virtual work).
"""

import re
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from scipy.interpolate import PchipInterpolator

from lynxwort.core.errors import InputRefused, Refusal

Table = tuple[tuple[float, float], ...]
STEPS = 120


@dataclass(frozen=True, slots=True, kw_only=True)
class Linkage:
    """rates: d(shock)/d(wheel) [1] and strokes [m] at even steps of wheel travel [m]."""

    step_m: float
    rates: tuple[float, ...]
    strokes: tuple[float, ...]

    def rate(self, wheel_m: float) -> float:
        """d(shock)/d(wheel) [1] at a wheel travel [m]."""
        i = min(max(int(wheel_m / self.step_m), 0), len(self.rates) - 2)
        return self.rates[i] + (self.rates[i + 1] - self.rates[i]) * (wheel_m / self.step_m - i)

    def stroke(self, wheel_m: float) -> float:
        """Shock stroke [m] at a wheel travel [m]."""
        i = min(max(int(wheel_m / self.step_m), 0), len(self.rates) - 2)
        into = wheel_m - i * self.step_m
        return self.strokes[i] + into * 0.5 * (self.rates[i] + self.rate(wheel_m))


@lru_cache(maxsize=64)
def linkage_of(table: Table) -> Linkage:
    """The linkage behind a table of (wheel travel, shock stroke) [m]."""
    wheel, shock = np.array(table).T
    curve = PchipInterpolator(wheel, shock)
    at = np.linspace(0.0, wheel[-1], STEPS + 1)
    rates, step = curve.derivative()(at), float(at[1])
    # the straight pieces are scaled so that the whole stroke is the table's
    strokes = np.concatenate([[0.0], np.cumsum(0.5 * (rates[1:] + rates[:-1]) * step)])
    scale = float((shock[-1] - shock[0]) / strokes[-1])
    return Linkage(step_m=step, rates=tuple((rates * scale).tolist()), strokes=tuple((strokes * scale).tolist()))


_APART = re.compile(r"[;\t]|,\s+|\s+")


def read_table(text: str) -> list[dict[str, float]]:
    """Lines of "wheel shock" [mm], given back in [m]; apart by space, tab, semicolon or comma; a heading line
    is passed over; decimal commas are understood.

    Raises InputRefused with the number of the line.
    """
    found: list[dict[str, float]] = []
    for number, line in enumerate((raw.strip() for raw in text.splitlines()), start=1):
        if not line:
            continue
        words = [w for w in _APART.split(line) if w]
        if len(words) == 1 and line.count(",") == 1 and "." in line:
            words = line.split(",")
        try:
            wheel, shock = (float(w.replace(",", ".")) / 1000.0 for w in words)
        except ValueError:
            if not found and not any(c.isdigit() for c in line):
                continue
            raise InputRefused(Refusal(path=f"line.{number}", code="not_a_linkage_line")) from None
        found.append({"wheel_m": round(wheel, 9), "shock_m": round(shock, 9)})
    return found


def ratios(table: Sequence[tuple[float, float]]) -> tuple[float, float]:
    """Wheel / shock ratio topped out and at full travel [1]."""
    made = linkage_of(tuple(table))
    return 1.0 / made.rates[0], 1.0 / made.rates[-1]
