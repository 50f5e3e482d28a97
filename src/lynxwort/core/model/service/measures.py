"""What is measured of wear: its unit, and what practice says where the manual was not read.

All limits here are common practice, no source: hints until the manual's own is typed.
"""

from dataclasses import dataclass
from typing import Literal, get_args

MeasureName = Literal[
    "rod_play", "big_end", "ring_gap", "piston_clearance", "bore_taper", "compression", "leak_down", "valve_intake",
    "valve_exhaust", "chain_length", "tight_spots", "hooked_tooth", "rotor_front", "rotor_rear", "pad_front",
    "pad_rear", "knob_front", "knob_rear", "reed_gap", "coolant_lost", "oil_seen", "spokes_front", "spokes_rear",
]  # fmt: skip
MEASURE_NAMES: tuple[str, ...] = get_args(MeasureName)
BURNS = ("two_stroke", "four_stroke")


@dataclass(frozen=True, slots=True, kw_only=True)
class Measure:
    """unit, kind: of its number; seen: codes of what is seen instead of a number, each with what it means ("ok",
    "look", "act"); down: it wears towards less; strokes: kinds of engine, empty for all; part: whose wear it is;
    manual: nothing is said of its limit but by the manual.
    """

    unit: str = ""
    kind: str = ""
    seen: tuple[tuple[str, str], ...] = ()
    down: bool = False
    strokes: tuple[str, ...] = ()
    part: str = ""
    manual: bool = False


MEASURES: dict[MeasureName, Measure] = {
    "rod_play": Measure(unit="m", kind="clearance", strokes=BURNS, part="crank", manual=True),
    "big_end": Measure(seen=(("not_felt", "ok"), ("felt", "act")), strokes=BURNS, part="crank"),
    "ring_gap": Measure(unit="m", kind="clearance", strokes=BURNS, part="piston"),
    "piston_clearance": Measure(unit="m", kind="clearance", strokes=BURNS, part="piston", manual=True),
    "bore_taper": Measure(unit="m", kind="clearance", strokes=BURNS, part="piston", manual=True),
    "compression": Measure(unit="Pa", kind="compression", down=True, strokes=BURNS, part="piston"),
    "leak_down": Measure(unit="1", kind="share", strokes=BURNS, part="piston"),
    "valve_intake": Measure(
        unit="m", kind="clearance", down=True, strokes=("four_stroke",), part="valves", manual=True
    ),
    "valve_exhaust": Measure(
        unit="m", kind="clearance", down=True, strokes=("four_stroke",), part="valves", manual=True
    ),
    "chain_length": Measure(unit="m", kind="preload", part="chain"),
    "tight_spots": Measure(seen=(("none", "ok"), ("some", "act")), part="chain"),
    "hooked_tooth": Measure(seen=(("none", "ok"), ("some", "act")), part="chain"),
    "rotor_front": Measure(unit="m", kind="bore", down=True, part="pads", manual=True),
    "rotor_rear": Measure(unit="m", kind="bore", down=True, part="pads", manual=True),
    "pad_front": Measure(unit="m", kind="preload", down=True, part="pads"),
    "pad_rear": Measure(unit="m", kind="preload", down=True, part="pads"),
    "knob_front": Measure(unit="1", kind="share", down=True, part=""),
    "knob_rear": Measure(unit="1", kind="share", down=True, part=""),
    "reed_gap": Measure(unit="m", kind="clearance", strokes=("two_stroke",), part="reeds"),
    "coolant_lost": Measure(unit="m^3/s", kind="seep", strokes=BURNS, part="coolant"),
    "oil_seen": Measure(seen=(("clean", "ok"), ("glitter", "look"), ("flakes", "act")), strokes=BURNS, part="crank"),
    "spokes_front": Measure(unit="1", kind="share", part="spokes"),
    "spokes_rear": Measure(unit="1", kind="share", part="spokes"),
}
#: look and act [SI], over it, or under it where it wears down; of the ring gap as a share of the bore
LIMITS: dict[str, tuple[float | None, float | None]] = {
    "ring_gap": (0.006, 0.008), "leak_down": (0.10, 0.25), "chain_stretch": (0.010, 0.017), "pad": (None, 0.001),
    "knob": (0.40, None), "reed_gap": (0.0003, None), "coolant_lost": (10e-6 / 3600.0, 30e-6 / 3600.0),
    "compression_fall": (0.10, 0.20), "spokes": (0.03, 0.06),
}  # fmt: skip
