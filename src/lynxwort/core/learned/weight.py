"""The bike's own weight, how it lies on the wheels, and how high it sits, by the scales."""

from collections.abc import Sequence
from dataclasses import dataclass

from lynxwort.core.evidence import Measured, about, learn
from lynxwort.core.model.bike import Frame
from lynxwort.core.physics.chassis.loads import AxleLoads

#: spreads of logarithms: a typed weight and share before a weighing, and a weighing (assumption)
WEIGHT_PRIOR, SHARE_PRIOR, WEIGHT_SD, SHARE_SD = 0.08, 0.06, 0.005, 0.008
#: where a bike's own weight can sit [m] (assumption)
CG_LOW_M, CG_HIGH_M = 0.35, 0.90


@dataclass(frozen=True, slots=True, kw_only=True)
class Weighed:
    """frame: with weight and share as learned; cg_height_m: of the bike alone, None when never tilted; used,
    questioned: reading ids.
    """

    frame: Frame
    cg_height_m: float | None
    used: tuple[str, ...]
    questioned: tuple[str, ...]


def learn_weight(frame: Frame, level: Sequence[tuple[str, AxleLoads]]) -> Weighed:
    """Weight and share after level weighings. level: reading id, and what is left of the bike once fuel and all that
    rides along are off.
    """
    whole = [(i, b) for i, b in level if min(b.front_kg, b.rear_kg) > 1.0]
    mass = learn(
        about(frame.mass_dry_kg, WEIGHT_PRIOR),
        [Measured(reading_id=i, value=b.total_kg, log_sd=WEIGHT_SD) for i, b in whole],
    )
    good = [(i, b) for i, b in whole if i in mass.used]
    share = learn(
        about(frame.front_share, SHARE_PRIOR),
        [Measured(reading_id=i, value=b.front_kg / b.total_kg, log_sd=SHARE_SD) for i, b in good],
    )
    questioned = tuple(i for i, b in level if i not in mass.used or i in share.doubted)
    changes = {"mass_dry_kg": mass.median, "front_share": share.median} if good else {}
    return Weighed(frame=frame.model_copy(update=changes), cg_height_m=None, used=share.used, questioned=questioned)


def learn_height(weighed: Weighed, tilted: Sequence[tuple[str, float | None]]) -> Weighed:
    """The height of the centre of gravity after tilted weighings. tilted: reading id, and its height [m], None when the
    axle cannot have stood so high.
    """
    good = [(i, h) for i, h in tilted if h is not None and CG_LOW_M <= h <= CG_HIGH_M]
    odd = [i for i, _h in tilted if i not in dict(good)]
    height = sum(h for _, h in good) / len(good) if good else None
    return Weighed(
        frame=weighed.frame,
        cg_height_m=height,
        used=(*weighed.used, *(i for i, _ in good)),
        questioned=(*weighed.questioned, *odd),
    )
