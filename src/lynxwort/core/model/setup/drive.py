"""What of the drive a hand can change."""

from functools import partial
from typing import Annotated

from lynxwort.core.model.base import Part, quantity
from lynxwort.core.model.bike import Bike, Electric
from lynxwort.core.model.tunable import Tunable

geared = partial(Tunable, station="drive", step=1, by_hand=True)
GEARING = ("drive.top_speed", "drive.crawl_speed", "drive.metres_short")


def _modes(bike: Bike) -> int:
    return len(bike.engine.mode_power_shares) if isinstance(bike.engine, Electric) else 0


class DriveSetup(Part):
    """Sprockets, gears and power mode."""

    front_sprocket_teeth: Annotated[int, geared(shows=GEARING)] = quantity(8, 20, "1", "count")
    """teeth of the countershaft sprocket"""
    rear_sprocket_teeth: Annotated[int, geared(shows=GEARING)] = quantity(28, 70, "1", "count")
    """teeth of the wheel sprocket"""
    power_mode: Annotated[
        int | None,
        geared(
            shows=("drive.lap_time", "range.energy_per_lap", "range.p_finish"),
            engines=("electric",),
            unset=1,
            there=lambda bike: _modes(bike) != 1,
            most=_modes,
        ),
    ] = quantity(1, 8, "1", "count", None, source="assumption: the strongest")
    """power mode, 1 = strongest"""
    gearbox: Annotated[
        int | None,
        geared(
            shows=GEARING,
            unset=1,
            as_built=True,
            others=lambda bike: [gears.name for gears in bike.transmission.others],
        ),
    ] = quantity(1, 7, "1", "count", None, source="assumption: the bike's own")
    """which gears are in: 1 = the bike's own, then the others in their order"""
