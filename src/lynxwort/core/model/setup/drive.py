"""What of the drive a hand can change."""

from lynxwort.core.model.base import Part, quantity


class DriveSetup(Part):
    """Sprockets, gears and power mode."""

    front_sprocket_teeth: int = quantity(8, 20, "1", "count")
    """teeth of the countershaft sprocket"""
    rear_sprocket_teeth: int = quantity(28, 70, "1", "count")
    """teeth of the wheel sprocket"""
    gearbox: int | None = quantity(1, 7, "1", "count", None, source="assumption: the bike's own")
    """which gears are in: 1 = the bike's own, then the others in their order"""
    power_mode: int | None = quantity(1, 8, "1", "count", None, source="assumption: the strongest")
    """power mode, 1 = strongest"""
