"""What the plate of a bike shows of its document and its setup."""

from collections.abc import Sequence

from django.utils.html import format_html
from django.utils.safestring import SafeString

from lynxwort.core.model.bike.electric import Electric
from lynxwort.core.model.fitted import level_of, tyres_of
from lynxwort.core.model.inputs import Inputs
from lynxwort.web.evaluation import door
from lynxwort.web.ui.drawings.plate import Look
from lynxwort.web.ui.drawings.standing import Note, standing

#: from here on a motor is drawn as a big single [m^3]
BIG_M3 = 0.0006
#: kinds of bike that come with a head lamp
ON_THE_ROAD = ("trail_aircooled", "trail_road_legal", "four_stroke_650")


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
        lamp=bike.pattern in ON_THE_ROAD,
        air_cooled=bike.pattern == "trail_aircooled",
        inseam_m=rider.inseam_m,
        standing=rider.posture == "standing",
    )


def sprocket_of(inputs: Inputs) -> tuple[float, float]:
    """Centre of the front sprocket from the swingarm's pivot [m]."""
    frame = inputs.bike.frame
    return frame.sprocket_ahead_m, frame.sprocket_above_m


def called_out(inputs: Inputs, notes: Sequence[Note], label: str) -> SafeString:
    """A bike that nobody rides yet with its call-outs; without them where a phone has no room for them."""
    both = alone(inputs, notes, label), alone(inputs, (), label)
    return (
        format_html('<div class="wide-only">{}</div><div class="narrow-only">{}</div>', *both) if both[0] else both[0]
    )


def alone(inputs: Inputs, notes: Sequence[Note], label: str) -> SafeString:
    """A bike that nobody rides yet, as it would stand under a usual rider; nothing before the first evaluation could be
    made.
    """
    if not door.is_warm():
        door.warm_in_background()
        return SafeString("")
    outline = door.view_of(inputs, "views.chassis.outline")
    return standing(
        outline,
        look_of(inputs),
        sprocket=sprocket_of(inputs),
        notes=notes,
        label=label,
        ridden=False,  # type: ignore[arg-type]
    )
