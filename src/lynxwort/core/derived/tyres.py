"""The tyres that are on: how stiff they stand, and what they do on each ground."""

from lynxwort.core.derived.loads import Loads
from lynxwort.core.model.bike import Bike
from lynxwort.core.model.fitted import inside_of, tyre_on
from lynxwort.core.model.race import GROUNDS
from lynxwort.core.model.rider import Rider
from lynxwort.core.model.setup import LoadedSetup
from lynxwort.core.physics.drive.gearing import radius_of_marking, tyre_in
from lynxwort.core.physics.kit import tyres
from lynxwort.core.tunables import current_value

#: foam rolls a little harder: added to c0 (assumption)
FOAM_ROLLING = 0.003
#: what foam stands for under the load it was made for (assumption)
FOAM_WORTH_PA = 0.9 * tyres.BAR_PA


def tyres_by_ground(bike: Bike, setup: LoadedSetup, *, wet: bool) -> tuple[tuple[float, float, float], ...]:
    """What the tyres that are on do by index into GROUNDS: factor on drive grip, which is the rear's, and on lateral
    grip, which is both's, and what is added to c0; empty where they do nothing.
    """
    on = {end: tyre_on(bike, setup, end) for end in ("front", "rear")}
    foam = FOAM_ROLLING * sum(0.5 for end in on if inside_of(bike, setup, end) == "mousse")
    if not foam and all(t.tyre_kind == "middling_knobby" and t.knob_m is None for t in on.values()):
        return ()

    def of(ground: str) -> tuple[float, float, float]:
        front, rear = (tyres.grips(t.tyre_kind, ground, left_share=t.left_share, wet=wet) for t in on.values())
        return rear[0], 0.5 * (front[1] + rear[1]), 0.5 * (front[2] + rear[2]) + foam

    return tuple(of(g) for g in GROUNDS)


def wheel_radius(bike: Bike, setup: LoadedSetup, end: str) -> float:
    """Rolling radius of the wheel that is in by its marking [m]."""
    return radius_of_marking(tyre_in(bike.frame, bike.tyre, setup, end))


def on_wheel_kg(loads: Loads, setup: LoadedSetup, rider: Rider, end: str) -> float:
    """Mass on a wheel [kg], rider aboard, half the fill, the axle in the middle of its adjusters."""
    found = loads.on_wheels(setup, rider, 0.5 * setup.fill_m3, axle_in_middle=True)
    return found.front_kg if end == "front" else found.rear_kg


def load_ratio(loads: Loads, setup: LoadedSetup, rider: Rider, end: str) -> float | None:
    """Load on the wheel against that which its foam was made for [1]; None when that was not said."""
    made_for = tyre_on(loads.bike, setup, end).foam_for_kg
    return None if made_for is None else on_wheel_kg(loads, setup, rider, end) / made_for


def cold_pressure(loads: Loads, setup: LoadedSetup, rider: Rider, end: str) -> float:
    """Cold pressure as it is set [Pa]; of foam what it is worth: less under more than it was made for."""
    if inside_of(loads.bike, setup, end) == "mousse":
        return FOAM_WORTH_PA * min(1.0, 1.0 / max(load_ratio(loads, setup, rider, end) or 1.0, 1e-6)) ** 2
    return current_value(setup, f"{end}_tyre_pressure_pa")


def tyre_rate(loads: Loads, setup: LoadedSetup, rider: Rider, end: str) -> float:
    """Rate of a tyre as it is [N/m]: carcass and air, or foam."""
    kind = tyres.KINDS[tyre_on(loads.bike, setup, end).tyre_kind]
    return tyres.tyre_rate(
        cold_pressure(loads, setup, rider, end),
        end=end,
        radius_m=wheel_radius(loads.bike, setup, end),
        carcass_scale=kind.carcass_factor,
    )
