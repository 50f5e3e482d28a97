"""The courses of a race as they are ridden: each stage's, and the round of all of them."""

from dataclasses import field
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.cache import StageCache, keyed
from lynxwort.core.model.defaults import LIAISON_PACE
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.model.race import GROUNDS, CriticalHill, GroundSegment, Stage, Zone
from lynxwort.core.model.track import Track
from lynxwort.core.physics.course.prepare import Course, Line, join_courses, lay_line, prepare_course


@keyed
class CourseInput:
    """What one stage's course is made of. content: the points' own key; the points themselves are in no key, which
    would keep them in memory.
    """

    content: str
    track: Track = field(compare=False, repr=False)
    ground: tuple[GroundSegment, ...]
    hills: tuple[CriticalHill, ...]
    zones: tuple[Zone, ...]
    pace_share: float
    state: str

    @classmethod
    def of(cls, stage: Stage, track: Track) -> "CourseInput":
        pace = LIAISON_PACE if stage.kind == "liaison" else 1.0
        return cls(
            content=track.content_key(),
            track=track,
            ground=stage.ground,
            hills=stage.hills,
            zones=stage.zones,
            pace_share=pace,
            state=stage.state,
        )


@keyed
class Round:
    """Every stage once, in order. given: of each stage."""

    given: tuple[CourseInput, ...]
    cache: StageCache = field(compare=False, repr=False)

    @classmethod
    def of(cls, inputs: Inputs, cache: StageCache) -> "Round":
        return cls(
            given=tuple(CourseInput.of(s, inputs.courses[s.course_key]) for s in inputs.race.stages), cache=cache
        )

    @cached_property
    def lines(self) -> tuple[Line, ...]:
        """The track of each stage."""
        return tuple(self.cache.get("line", g.content, lambda g=g: lay_line(g.track)) for g in self.given)  # type: ignore[misc]

    @cached_property
    def courses(self) -> tuple[Course, ...]:
        """Each stage's course, once."""

        def prepare(i: int, g: CourseInput) -> Course:
            return self.cache.get(
                "course",
                g,
                lambda: prepare_course(
                    self.lines[i], g.ground, g.hills, g.zones, pace_share=g.pace_share, state=g.state, stage=i
                ),
            )

        return tuple(prepare(i, g) for i, g in enumerate(self.given))

    @cached_property
    def whole(self) -> Course:
        """The stages joined to one course."""
        return self.cache.get("round", self.given, lambda: join_courses(self.courses))

    @cached_property
    def starts_m(self) -> NDArray[np.float64]:
        """Where each stage begins on the round [m], and the round's end: shape (stages + 1,)."""
        return np.concatenate([[0.0], np.cumsum([c.length_m for c in self.courses])])

    @cached_property
    def grounds(self) -> tuple[str, ...]:
        """Kinds of ground that the round has."""

        def found() -> tuple[str, ...]:
            return tuple(sorted({GROUNDS[int(g)] for c in self.courses for g in np.unique(c.ground)}))

        return self.cache.get("grounds", self.given, found)

    def stage_at(self, at_m: float) -> int:
        """Index of the stage at a place of the round [m]."""
        return min(int(np.searchsorted(self.starts_m, at_m, side="right")) - 1, len(self.courses) - 1)

    def step_at(self, at_m: float) -> int:
        """Index of the step at a place of the round [m]."""
        return min(
            max(int(np.searchsorted(self.whole.distance_m, at_m, side="right")) - 1, 0), self.whole.sine.size - 1
        )
