"""What the plate of a bike shows of its document and its setup."""

from lynxwort.core.model.bike.electric import Electric
from lynxwort.core.model.fitted import level_of, tyres_of
from lynxwort.core.model.inputs import Inputs
from lynxwort.web.ui.drawings.plate import Look

#: from here on a motor is drawn as a big single [m^3]
BIG_M3 = 0.0006


def look_of(inputs: Inputs) -> Look:
    """How the bike of these inputs is drawn."""
    bike, setup, rider = inputs.bike, inputs.setup, inputs.rider
    engine = bike.engine
    electric = isinstance(engine, Electric)
    return Look(
        motor="electric" if electric else "two_stroke" if "two_stroke" in engine.kind else "four_stroke",
        big=not isinstance(engine, Electric) and engine.displacement_m3 >= BIG_M3,
        teeth=(int(setup.front_sprocket_teeth), int(setup.rear_sprocket_teeth)),
        tyres=tyres_of(bike, setup),
        level=None if electric else level_of(setup),
        bags=bool(bike.frame.payload),
        inseam_m=rider.inseam_m,
        standing=rider.posture == "standing",
    )


def sprocket_of(inputs: Inputs) -> tuple[float, float]:
    """Centre of the front sprocket from the swingarm's pivot [m]."""
    frame = inputs.bike.frame
    return frame.sprocket_ahead_m, frame.sprocket_above_m
