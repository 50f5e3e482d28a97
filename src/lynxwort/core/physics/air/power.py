"""Power in given air.

References: [j1349] SAE J1349 (2004-08); [din70020]; [iso1585]. Equations from memory.
"""

from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

Real = TypeVar("Real", float, NDArray[np.float64])


def j1349_factor(dry_pressure_pa: float, temperature_k: float) -> float:
    """Factor that corrects a measured run to standard (990 hPa dry, 25 °C). Reference: [j1349]."""
    return 1.180 * (99_000.0 / dry_pressure_pa) * float(np.sqrt(temperature_k / 298.0)) - 0.180


def forecast_share(dry_pressure_pa: Real, temperature_k: Real) -> Real:
    """Share of standard power to expect: 1.18 x - 0.18 at constant friction, x the indicated ratio. Forecast, not 1 /
    j1349_factor.
    """
    return 1.18 * (dry_pressure_pa / 99_000.0) * np.sqrt(298.0 / temperature_k) - 0.18  # type: ignore[return-value]


def din70020_factor(pressure_pa: float, temperature_k: float) -> float:
    """Correction to 1013 hPa, 20 °C, total pressure. Reference: [din70020], old form."""
    return 101_300.0 / pressure_pa * float(np.sqrt(temperature_k / 293.0))


def iso1585_factor(dry_pressure_pa: float, temperature_k: float) -> float:
    """Correction for spark-ignition engines. Reference: [iso1585]."""
    return (99_000.0 / dry_pressure_pa) ** 1.2 * (temperature_k / 298.0) ** 0.6
