"""Readings of brakes, tyres, wheels and bars."""

from typing import Literal

from lynxwort.core.model.base import choice, quantity
from lynxwort.core.model.race import Ground
from lynxwort.core.model.readings.base import AIR, BaseReading
from lynxwort.core.model.tunable import BURNS

End = Literal["front", "rear"]


class RotorReading(BaseReading):
    """The hottest a rotor got on a lap, by temperature crayon or strip."""

    kind: Literal["rotor"] = "rotor"
    asked = ("end", "hottest_k")
    also = (AIR,)
    end: End = choice()
    hottest_k: float = quantity(310.0, 1000.0, "K", "temperature")
    """the last mark that turned"""

    @property
    def narrows(self) -> str:
        """The same temperature, reckoned."""
        return f"kit.brake.{self.end}.rotor_temperature"


class LeverReading(BaseReading):
    """Force of finger or foot, by a luggage scale, at which one wheel just locked on level ground."""

    kind: Literal["lever"] = "lever"
    asked = ("end", "ground", "force_n")
    end: End = choice()
    ground: Ground = choice()
    """on which ground"""
    force_n: float = quantity(3.0, 600.0, "N", "force")
    """what the scale read"""

    @property
    def narrows(self) -> str:
        """The pull for a newton."""
        return f"kit.brake.{self.end}.gain"


class FlatsReading(BaseReading):
    """Flats by a strike through to the rim, over so much rock, single track and whoops."""

    kind: Literal["flats"] = "flats"
    asked = ("end", "flats", "distance_m")
    end: End = choice()
    flats: int = quantity(0, 40, "1", "count")
    """how many, none too"""
    distance_m: float = quantity(5_000.0, 5e7, "m", "distance")
    """over how much of such ground, with this tyre and pressure"""

    @property
    def narrows(self) -> str:
        """The chance of one more."""
        return f"kit.tyre.{self.end}.flat_chance"


class SwingReading(BaseReading):
    """A wheel swung on a knife edge inside its rim, ten swings of less than ten degrees timed."""

    kind: Literal["swing"] = "swing"
    asked = ("end", "mass_kg", "edge_to_axle_m", "ten_swings_s")
    figure = "kit.wheel.inertia"
    end: End = choice()
    mass_kg: float = quantity(2.0, 30.0, "kg", "mass")
    """the wheel with its tyre"""
    edge_to_axle_m: float = quantity(0.1, 0.4, "m", "travel")
    """knife edge to the middle of the axle"""
    ten_swings_s: float = quantity(5.0, 40.0, "s", "seconds")
    """ten swings there and back"""


class HandsReading(BaseReading):
    """Shaking at the grip on a ride, weighted for the hand, its three axes added."""

    kind: Literal["hands"] = "hands"
    asked = ("shaking_m_per_s2",)
    figure = "kit.hands.exposure"
    shaking_m_per_s2: float = quantity(0.2, 60.0, "m/s^2", "acceleration")
    """by a meter for hands and arms; a phone stops at about 100 Hz and tells more from less only"""


class CoolantReading(BaseReading):
    """The hottest the coolant got on a lap."""

    kind: Literal["coolant"] = "coolant"
    asked = ("hottest_k",)
    also = (AIR,)
    engines = BURNS
    figure = "kit.cooling.hottest"
    hottest_k: float = quantity(313.15, 423.15, "K", "temperature")
    """by a strip on the header tank, or a gauge that keeps its highest"""


class GeneratorReading(BaseReading):
    """What the generator gives at some revs, everything switched on that can be."""

    kind: Literal["generator"] = "generator"
    asked = ("rpm", "volts", "current_a")
    engines = BURNS
    figure = "kit.elec.surplus_mean"
    rpm: float = quantity(600, 12000, "rpm", "rpm")
    """engine revs"""
    volts: float = quantity(6.0, 16.0, "V", "volts")
    """across the battery, or the lamp"""
    current_a: float = quantity(0.1, 100.0, "A", "amps")
    """out of the rectifier, by a clamp meter"""


class SoundReading(BaseReading):
    """A sound sheet: the level that a meter read, with what was on then."""

    kind: Literal["sound"] = "sound"
    asked = ("level_db", "background_db", "distance_m", "rpm")
    engines = BURNS
    figure = "kit.sound.level"
    level_db: float = quantity(60.0, 130.0, "1", "decibel")
    """what the meter read"""
    background_db: float = quantity(20.0, 110.0, "1", "decibel")
    """what it read with the engine off"""
    distance_m: float = quantity(0.3, 20.0, "m", "span")
    """from the outlet to the meter"""
    rpm: float = quantity(1000, 15000, "rpm", "rpm")
    """at which revs"""
