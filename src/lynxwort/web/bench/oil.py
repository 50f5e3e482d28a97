"""What cans, labels and the card say of a two-stroke's oil."""

from django.utils.translation import gettext as _

from lynxwort.core.model.bike import Bike
from lynxwort.core.model.fitted import oil_way
from lynxwort.core.model.setup import Setup
from lynxwort.core.units.convert import Units
from lynxwort.words.formatting import number_text
from lynxwort.words.fuelling import OIL_WAYS

#: a can when none is said [m3] (common practice, no source)
CAN_M3 = 0.010


def oil_words(bike: Bike, setup: Setup, units: Units | str) -> str:
    """What a can, its label and the card say of a two-stroke's oil; empty for an engine whose oil is not in its fuel."""
    way = oil_way(bike.engine, setup)
    if setup.premix_ratio is not None:
        return f"{number_text(setup.premix_ratio, 'number', units)} : 1"
    return _(OIL_WAYS[way]) if way else ""
