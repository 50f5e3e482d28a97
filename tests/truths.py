"""What is not known, drawn many times: how many of the truths lie in the ranges that are stated (make soak draws many more)."""

from dataclasses import dataclass, field

import numpy as np

from lynxwort.core.evaluate import evaluate
from lynxwort.core.model.defaults import LINK_LOG_SD, RIDER_MASS_LOG_SD
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.report import Report
from lynxwort.core.stations.chassis import springs as wanted_springs
from lynxwort.core.stations.chassis.input import ChassisInput
from lynxwort.core.stations.drive import doubt
from lynxwort.core.stations.drive.input import DriveInput


@dataclass
class Cover:
    """Truths below, in and above a stated range; bounded: a value that is discrete or ends somewhere may cover more."""

    low: int = 0
    inside: int = 0
    high: int = 0
    bounded: bool = False
    seen: list[float] = field(default_factory=list)

    def add(self, value: float, low: float, high: float) -> None:
        self.seen.append(value)
        if value < low - 1e-9:
            self.low += 1
        elif value > high + 1e-9:
            self.high += 1
        else:
            self.inside += 1

    @property
    def share(self) -> float:
        return self.inside / (self.low + self.inside + self.high)


def ridden(report: Report, count: int, seed: int) -> dict[str, Cover]:
    """Figures that rest on the ride, against rides with all that is not known drawn at once. report: of full depth."""
    work, rng = report.behind.up, np.random.default_rng(seed)
    sds, found = doubt.log_sds(DriveInput.of(work)), dict[str, Cover]()
    for _ in range(count):
        what = doubt.moved(
            work.lap.ride_input, {name: float(np.exp(sd * rng.standard_normal())) for name, sd in sds.items()}
        )
        values = doubt.reckoned(DriveInput.of(work), what) | {
            "drive.lap_time": sum(r.lap_time_s for r in work.road.lap_of(what).rides)
        }
        for name, value in values.items():
            figure = report.figures[name]
            if figure.low is not None and figure.high is not None:
                found.setdefault(name, Cover()).add(value, figure.low, figure.high)
    for cover in found.values():
        most = max(cover.seen.count(v) for v in set(cover.seen))
        cover.bounded = most > 0.02 * count
    return found


def sprung(inputs: Inputs, report: Report, count: int, seed: int) -> dict[str, Cover]:
    """The rear spring wanted, against linkages and riders drawn: both ends of what the truth would ask for."""
    rng, frame, rider = np.random.default_rng(seed), inputs.bike.frame, inputs.riders[0]
    figure, found = report.figures["chassis.rear.spring_rate_wanted"], {"softest": Cover(), "stiffest": Cover()}
    assert figure.low is not None
    assert figure.high is not None
    for _ in range(count):
        link, mass = (float(np.exp(sd * rng.standard_normal())) for sd in (LINK_LOG_SD, RIDER_MASS_LOG_SD))
        drawn = frame.model_copy(
            update={"link_ratio_start": frame.link_ratio_start * link, "link_ratio_end": frame.link_ratio_end * link}
        )
        other = rider.model_copy(update={"mass_in_gear_kg": rider.mass_in_gear_kg * mass})
        truth = evaluate(
            inputs.model_copy(
                update={"bike": inputs.bike.model_copy(update={"frame": drawn}), "riders": (other, *inputs.riders[1:])}
            ),
            need={"chassis.figures"},
        )
        low, high = wanted_springs.span(ChassisInput.of(truth.behind.up), "rear")
        found["softest"].add(low, figure.low, figure.high)
        found["stiffest"].add(high, figure.low, figure.high)
    return found
