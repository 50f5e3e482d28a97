"""What tests share: published values with their source, and the demo's inputs."""

import re
from dataclasses import dataclass
from functools import cache

import numpy as np

from lynxwort.core.cache import StageCache
from lynxwort.core.evaluate import evaluate
from lynxwort.core.model.bike import TwoStrokeJetted
from lynxwort.core.model.race import GROUNDS
from lynxwort.core.physics.chassis.fitted import fork_of_setup
from lynxwort.core.physics.course.prepare import Course
from lynxwort.core.physics.course.surface import lay_surfaces
from lynxwort.core.physics.drive.simulation import RideInput
from lynxwort.demo import scenario
from tests import outside


@dataclass(frozen=True)
class Published:
    """A number from outside, its relative tolerance, and where it stands."""

    value: float
    rel: float
    where: str

    def check(self, found: float) -> None:
        assert abs(found - self.value) <= self.rel * abs(self.value), f"{found} against {self.value} ({self.where})"
        outside.seen("", self.where, self.value, found, rel=self.rel)


CACHE = StageCache(size=400)


@cache
def unled(page: str) -> str:
    """A page whose words of the trade lead nowhere, so that its sentences can be looked for."""
    return re.sub(r'<a class="term" [^>]*>([^<]*)</a>', r"\1", page)


def demo_inputs(name: str = "brackenmere"):
    return scenario.inputs(name)


@cache
def demo_report(name: str = "brackenmere"):
    return evaluate(demo_inputs(name), depth="full", cache=CACHE)


def report_with(**changes):
    """The demo's report with parts of its inputs replaced."""
    return evaluate(demo_inputs().model_copy(update=changes), cache=CACHE)


def whooped(height_m, length_m, inputs):
    """The same with whoops of this size on its first stage."""
    stage = inputs.race.stages[0]
    ground = tuple(
        g.model_copy(update={"whoop_length_m": length_m, "whoop_height_m": height_m}) if g.ground == "whoops" else g
        for g in stage.ground
    )
    return inputs.model_copy(
        update={"race": inputs.race.model_copy(update={"stages": (stage.model_copy(update={"ground": ground}),)})}
    )


def setup_with(**changes):
    """The demo's setup with some values replaced."""
    return demo_inputs().setup.model_copy(update=changes)


def demo_fork(preload_m: float, **changes):
    """The fork of the demo's frame with 4.4 N/mm in each leg; changes: of its frame."""
    frame = demo_inputs().bike.frame.model_copy(update=changes)
    return fork_of_setup(frame, setup_with(fork_spring_rate_n_per_m=4400.0, fork_preload_m=preload_m))


def straight(
    *, length_m: float, grade: float = 0.0, ground: str = "hardpack", spacing_m: float = 2.0, state: str = "dry"
) -> Course:
    """A straight ramp of one ground, northwards."""
    n = int(length_m / spacing_m)
    s = np.arange(n + 1) * spacing_m
    sine = grade / np.hypot(1.0, grade)
    surfaces, surface, _tight = lay_surfaces(0.5 * (s[1:] + s[:-1]), (), (), default=ground, state=state)
    return Course(
        surface=surface,
        rows=surfaces.rows,
        heading_rad=np.zeros(n),
        exposure=np.ones(n),
        distance_m=s,
        height_m=s * sine,
        sine=np.full(n, sine),
        curvature_per_m=np.zeros(n),
        pace_share=np.ones(n),
        limit_m_per_s=np.full(n, np.inf),
        ground=np.full(n, GROUNDS.index(ground), dtype=np.int64),
        climb_m=0.0,
        climb_low_m=0.0,
        climb_high_m=0.0,
        raw_climb_m=0.0,
    )


def ride_input(front: int = 14, rear: int = 49, **changes) -> RideInput:
    """A plain two-stroke as ride input."""
    known = {
        "engine": TwoStrokeJetted(displacement_m3=293e-6, peak_power_w=36e3, peak_power_rpm=8500.0),
        "overall_ratios": tuple(2.667 * g * rear / front for g in (2.142, 1.75, 1.444, 1.217, 1.045, 0.909)),
        "efficiency": 0.9,
        "rolling_radius_m": 0.324,
        "mass_kg": 192.0,
        "cg_to_front_axle_m": 0.77,
        "wheelbase_m": 1.48,
        "cg_height_m": 0.9,
        "drag_area_m2": 0.6,
        "air_density_kg_per_m3": 1.2,
        "pace": 0.8,
        "seed": 1,
    }
    return RideInput(**(known | changes))
