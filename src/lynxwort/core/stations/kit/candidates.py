"""What Kit would change: closed forms, to be tried on everything else."""

import math

from lynxwort.core.model.base import field_facts
from lynxwort.core.model.fitted import inside_of, tyre_on
from lynxwort.core.model.setup import Setup
from lynxwort.core.model.setup.kit import PADS
from lynxwort.core.report import Move
from lynxwort.core.stations.kit import braking, rolling
from lynxwort.core.stations.kit.input import KitInput
from lynxwort.core.tunables import TUNABLES

#: rotors that are sold [m] (common practice, no source)
SOLD_ROTORS_M = (0.24, 0.25, 0.26, 0.27, 0.28)
#: drive grip over the lap's time that another wheel must gain to be named [1]
GAINS = 0.05


def pressure(given: KitInput, end: str) -> tuple[tuple[Move, ...], ...]:
    """The pressure that the course wants, to the notch."""
    tunable = f"{end}_tyre_pressure_pa"
    step = TUNABLES[tunable].step
    return ((Move(tunable=tunable, value=round(rolling.wanted_pressure(given, end) / step) * step),),)


def wider(given: KitInput, end: str, window_n: float) -> tuple[tuple[Move, ...], ...]:
    """A larger master that gives a brake this window on the lap's slickest ground, and softer pads."""
    brake, ground, tunable = braking.fitted(given, end), braking.slickest(given), f"{end}_master_m"
    step, most = TUNABLES[tunable].step, field_facts(Setup, tunable).high or math.inf
    master = math.ceil(braking.master_for_window(given, end, window_n, ground, brake) / step - 1e-9) * step
    found = [(Move(tunable=tunable, value=round(master, 6)),)] if master <= most else []
    if brake.pad != "organic":
        found.append((Move(tunable=f"{end}_pad", value=PADS.index("organic") + 1),))
    return tuple(found)


def cooler(given: KitInput, end: str, margin_k: float) -> tuple[tuple[Move, ...], ...]:
    """Larger rotors of which the smallest keeps its fluid this far [K] from boiling; the largest that is sold where
    none does.
    """
    tunable, now = f"{end}_rotor_m", braking.fitted(given, end).rotor_m
    for larger in (r for r in SOLD_ROTORS_M if r > now + 1e-6):
        if (
            braking.margin(given, end, braking.fitted(given, end, rotor_m=larger)) >= margin_k
            or larger == SOLD_ROTORS_M[-1]
        ):
            return ((Move(tunable=tunable, value=larger),),)
    return ()


def gripping(given: KitInput) -> tuple[tuple[Move, ...], ...]:
    """The rear wheel that grips best over the lap, when it gains enough."""
    slots = rolling.rear_slots(given)
    here, best = given.setup.rear_wheel or 1, max(slots, key=lambda s: rolling.grip_over_time(given, s))
    gain = rolling.grip_over_time(given, best) / rolling.grip_over_time(given, here) - 1.0
    return ((Move(tunable="rear_wheel", value=best, owned=True),),) if best != here and gain >= GAINS else ()


def cooler_foam(given: KitInput, end: str) -> tuple[tuple[Move, ...], ...]:
    """Other wheels that are there, whose filling carries this load."""
    tunable, bike, found = f"{end}_wheel", given.bike, []
    for slot in range(1, 2 + len(getattr(bike.frame, f"other_{end}_wheels"))):
        setup = given.setup.model_copy(update={tunable: slot})
        foam = inside_of(bike, setup, end) == "mousse"
        carries = not foam or (tyre_on(bike, setup, end).foam_for_kg or 0.0) >= given.on_wheel_kg(end)
        if carries and slot != (getattr(given.setup, tunable) or 1):
            found.append((Move(tunable=tunable, value=slot, owned=True),))
    return tuple(found[:3])
