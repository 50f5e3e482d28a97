"""Ground as a profile of heights on an even grid: whoops, rocks, dips, landings; and what a tyre passes on of it.

Random ground by ISO 8608: power density G(n0) (n / n0)^-2 of the class, n0 = 0.1 cycles per metre. A tyre rides on the
envelope of a rigid disc, then on the mean over its print (common practice, no source).
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
#: grid [m]
GRID_M = 0.01
#: flat ground before and behind [m]
LEAD_M = 8.0
#: wheel and print of the tyre filter [m]
WHEEL_RADIUS_M, PRINT_M = 0.34, 0.10
#: ISO 8608 table: G(n0) [m3], geometric mean of each class (from memory)
CLASSES = {"D": 1024e-6, "E": 4096e-6, "F": 16384e-6, "G": 65536e-6, "H": 262144e-6}
#: whoops ridden before anything is judged
SKIPPED = 5


@dataclass(frozen=True, slots=True, kw_only=True)
class Profile:
    """height_m on the grid, flat lead-in counted; judged_from_m: what lies before is ridden, not judged."""

    height_m: Array
    judged_from_m: float

    @property
    def length_m(self) -> float:
        return (self.height_m.size - 1) * GRID_M


def _with_lead(height: Array, judged_from_m: float = 0.0) -> Profile:
    lead = np.zeros(round(LEAD_M / GRID_M))
    return Profile(
        height_m=np.concatenate([lead, height, np.full(lead.size, height[-1])]), judged_from_m=LEAD_M + judged_from_m
    )


def whoops(length_m: float, high_m: float, count: int = 25) -> Profile:
    """Equal whoops, crest to crest and trough to crest [m]; the first few are not judged."""
    x = np.arange(0.0, count * length_m + GRID_M / 2, GRID_M)
    return _with_lead(high_m / 2.0 * (1.0 - np.cos(2.0 * np.pi * x / length_m)), SKIPPED * length_m)


def rocks(density_m3: float, long_m: float, seed: int) -> Profile:
    """Random ground of this power density [m3] at 0.1 cycles per metre (ISO 8608), waves from 0.25 to 20 m."""
    rng = np.random.default_rng(seed)
    n = np.arange(0.05, 4.0, 0.02)
    size = np.sqrt(2.0 * density_m3 * (n / 0.1) ** -2.0 * 0.02)
    x = np.arange(0.0, long_m + GRID_M / 2, GRID_M)
    height = (
        size[:, None] * np.cos(2.0 * np.pi * n[:, None] * x[None, :] + rng.uniform(0.0, 2.0 * np.pi, n.size)[:, None])
    ).sum(axis=0)
    fade = np.clip(np.minimum(x, x[-1] - x) / 3.0, 0.0, 1.0)
    return _with_lead((height - height[0]) * fade * fade * (3.0 - 2.0 * fade), 3.0)


def dip(deep_m: float, long_m: float) -> Profile:
    """One hollow [m], down and up again."""
    x = np.arange(0.0, long_m + GRID_M / 2, GRID_M)
    return _with_lead(np.concatenate([-deep_m / 2.0 * (1.0 - np.cos(2.0 * np.pi * x / long_m)), np.zeros(1200)]))


def landing(drop_m: float) -> Profile:
    """An edge, then flat ground so much lower [m]."""
    return _with_lead(np.concatenate([np.zeros(200), np.full(3000, -drop_m)]))


def tyre_path(height_m: Array) -> Array:
    """What the wheel's axle would follow [m], unsprung: the envelope of a disc, then the mean over the print."""
    half = round(WHEEL_RADIUS_M / GRID_M)
    offsets = np.arange(-half, half + 1)
    drop = WHEEL_RADIUS_M - np.sqrt(np.maximum(WHEEL_RADIUS_M**2 - (offsets * GRID_M) ** 2, 0.0))
    padded = np.pad(height_m, half, mode="edge")
    windows = np.lib.stride_tricks.sliding_window_view(padded, 2 * half + 1)
    envelope = (windows - drop).max(axis=1)
    width = round(PRINT_M / GRID_M)
    smooth = np.convolve(np.pad(envelope, width, mode="edge"), np.ones(width + 1) / (width + 1), mode="same")
    return np.ascontiguousarray(smooth[width:-width])
