"""All that Drive reads."""

from lynxwort.core.cache import keyed
from lynxwort.core.derived.loads import chain_fit
from lynxwort.core.derived.ride import Lap
from lynxwort.core.derived.road import RoadLearned
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.model.bike import Engine, Frame, Tyre
from lynxwort.core.model.box import PartsBox
from lynxwort.core.model.setup import DriveSetup
from lynxwort.core.physics.drive.chain import ChainFit


@keyed
class DriveInput:
    """lap: the round as who is entered rides it; learned: what was seen on the road; engine: as its facts have
    it; gears_of_kind: nobody counted them, only the kind of bike is known; ranges: how far below and above its value
    each figure that rests on the ride may lie [SI], as a job found.
    """

    lap: Lap
    learned: RoadLearned
    engine: Engine
    gears_of_kind: bool
    frame: Frame
    tyre: Tyre
    setup: DriveSetup
    box: PartsBox
    ranges: tuple[tuple[str, tuple[float, float]], ...]

    @classmethod
    def of(cls, up: Upstream) -> "DriveInput":
        bike = up.inputs.bike
        return up.once(
            "drive",
            lambda: cls(
                lap=up.lap,
                learned=up.road.learned,
                engine=bike.engine,
                gears_of_kind=any(a.startswith("transmission.") for a in bike.assumed),
                frame=bike.frame,
                tyre=bike.tyre,
                setup=DriveSetup.taken_from(up.inputs.setup),
                box=up.inputs.parts,
                ranges=up.ranges,
            ),
        )

    @property
    def chain_fit(self) -> ChainFit | None:
        """How the chain fits the sprockets; None when no even number of links lies within the adjusters."""
        return chain_fit(self.frame, self.setup, self.lap.cache)

    def spread(self, figure: str) -> tuple[float, float] | None:
        """How far below and above its value a figure may lie; None before the job has found it."""
        return dict(self.ranges).get(figure)
