"""Springs, heights, wheels and what rides along."""

from pydantic import model_validator

from lynxwort.core.model.base import Part, quantity
from lynxwort.core.model.setup.drive import DriveSetup
from lynxwort.core.model.setup.filled import FilledSetup


class ChassisSetup(Part):
    """Springs and air of both ends, where tubes, axle, bars, pegs and seat stand, wheels, tyre pressures, what stays at home."""

    fork_spring_rate_n_per_m: float = quantity(1000, 20000, "N/m", "spring_rate")
    """rate of the spring in one leg, both legs alike"""
    fork_other_rate_n_per_m: float | None = quantity(0, 20000, "N/m", "spring_rate", None, source="assumption: both legs alike")
    """rate of the spring in the other leg; only asked where the two legs differ"""
    fork_second_rate_n_per_m: float | None = quantity(1000, 40000, "N/m", "spring_rate", None, source="assumption: straight, one rate")
    """rate that a fork spring comes to; left out = straight"""
    fork_second_from_m: float | None = quantity(0.0, 0.4, "m", "travel", None, source="assumption: from the start")
    """deflection of a fork spring from which its rate rises, preload counted in; as the next one = a soft part that goes solid"""
    fork_second_at_m: float | None = quantity(0.002, 0.4, "m", "travel", None, source="assumption: 150 mm")
    """deflection of a fork spring from which it has the second rate, preload counted in"""
    fork_preload_m: float = quantity(0, 0.04, "m", "preload", 0.005, source="assumption")
    """length by which the fork springs are squeezed, topped out"""
    shock_spring_rate_n_per_m: float = quantity(10000, 250000, "N/m", "spring_rate")
    """rate of the shock spring"""
    shock_second_rate_n_per_m: float | None = quantity(10000, 400000, "N/m", "spring_rate", None, source="assumption: straight, one rate")
    """rate that the shock spring comes to; left out = straight"""
    shock_second_from_m: float | None = quantity(0.0, 0.2, "m", "travel", None, source="assumption: from the start")
    """deflection of the shock spring from which its rate rises, preload counted in; as the next one = a soft part that goes solid"""
    shock_second_at_m: float | None = quantity(0.002, 0.2, "m", "travel", None, source="assumption: 30 mm")
    """deflection of the shock spring from which it has the second rate, preload counted in"""
    fork_oil_up_m: float | None = quantity(-0.1, 0.1, "m", "travel", None, source="assumption: as the bike's facts say")
    """oil level raised, legs together, + = more oil, less air"""
    fork_air_pressure_pa: float | None = quantity(1e5, 2.5e6, "Pa", "tyre_pressure", None, source="from memory: 8 bar")
    """air-sprung fork: main chamber by the gauge, topped out"""
    fork_balance_pressure_pa: float | None = quantity(0.0, 2.5e6, "Pa", "tyre_pressure", None, source="from memory: 6 bar")
    """air-sprung fork: balance chamber by the gauge, topped out"""
    shock_preload_m: float = quantity(0, 0.04, "m", "preload", 0.010, source="assumption")
    """length by which the shock spring is squeezed, topped out"""
    fork_up_m: float | None = quantity(-0.02, 0.04, "m", "travel", None, source="assumption: flush, as it was measured")
    """tubes raised through the clamps, + = front goes down"""
    rear_up_m: float | None = quantity(-0.06, 0.06, "m", "travel", None, source="assumption: as it was measured")
    """rear raised at the axle by shock length or link"""
    offset_change_m: float | None = quantity(-0.015, 0.015, "m", "travel", None, source="assumption: the bike's own clamps")
    """offset of the fitted clamps against the bike's own"""
    front_wheel: int | None = quantity(1, 6, "1", "count", None, source="assumption: the bike's own")
    """which front wheel is in: 1 = the bike's own, then the others in their order"""
    rear_wheel: int | None = quantity(1, 6, "1", "count", None, source="assumption: the bike's own")
    """which rear wheel is in: 1 = the bike's own, then the others in their order"""
    bar_up_m: float | None = quantity(-0.06, 0.1, "m", "travel", None, source="assumption: as measured")
    """bars raised"""
    bar_ahead_m: float | None = quantity(-0.06, 0.06, "m", "travel", None, source="assumption: as measured")
    """bars moved ahead"""
    peg_down_m: float | None = quantity(-0.03, 0.06, "m", "travel", None, source="assumption: as measured")
    """pegs lowered"""
    seat_up_m: float | None = quantity(-0.08, 0.08, "m", "travel", None, source="assumption: as measured")
    """seat raised by foam"""
    payload_left: int | None = quantity(0, 8, "1", "count", None, source="assumption: everything rides along")
    """how many of the things that ride along stay at home, the last first"""
    front_tyre_pressure_pa: float | None = quantity(0.0, 4e5, "Pa", "tyre_pressure", None, source="common practice, no source: 0.9 bar")
    """front tyre, by the gauge at home"""
    rear_tyre_pressure_pa: float | None = quantity(0.0, 4e5, "Pa", "tyre_pressure", None, source="common practice, no source: 0.85 bar")
    """rear tyre, by the gauge at home"""

    @model_validator(mode="after")
    def _springs(self) -> "ChassisSetup":
        for end in ("fork", "shock"):
            start, at = getattr(self, f"{end}_second_from_m"), getattr(self, f"{end}_second_at_m")
            if start is not None and at is not None and start > at:
                raise ValueError(f"{end}_second_from_m:stretch_order")
        return self


class StandSetup(FilledSetup, ChassisSetup, DriveSetup):
    """All that decides how the bike stands: springs and heights, what is aboard, where the chain puts the axle."""
