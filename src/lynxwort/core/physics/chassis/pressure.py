"""Closed air taken from home to the start line: tyres and sealed fork legs. Gay-Lussac at constant volume; a gauge
reads against the air outside.
"""

from lynxwort.core.errors import require_range


def gauge_at(
    gauge_pa: float,
    *,
    outside_then_pa: float,
    outside_now_pa: float,
    temperature_then_k: float,
    temperature_now_k: float,
) -> float:
    """Gauge pressure [Pa] elsewhere of air that was closed at gauge_pa [Pa]: (p + p0) T / T0 - p1.

    Validity: volume constant; a tyre's gives a little, so the rise is an upper bound.
    """
    require_range("temperature_then_k", temperature_then_k, 233.15, 353.15, "K")
    require_range("temperature_now_k", temperature_now_k, 233.15, 353.15, "K")
    return (gauge_pa + outside_then_pa) * temperature_now_k / temperature_then_k - outside_now_pa
