"""Setups over draws of how all may truly be: what is said of each in every case, and whether it lasts."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from lynxwort.core.cache import StageCache
from lynxwort.core.errors import InputRefused
from lynxwort.core.evaluate import ALL, evaluate
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.model.setup import Setup
from lynxwort.core.propose.draws import Draw, draws
from lynxwort.core.propose.levels import ELSEWHERE, FINISH, SAFETY, WEIGHTS, finish_missed, is_elsewhere, loud
from lynxwort.core.propose.single import grade, key_of
from lynxwort.core.report import Figure, Finding, Report
from lynxwort.core.stations.chassis.input import ChassisInput
from lynxwort.core.stations.drive.input import DriveInput

Key = tuple[object, ...]
#: what a finding of safety counts more than another, and to run dry [weights of findings] (PROPOSE, prototype)
SAFETY_TIMES, DRY = 2.0, 20.0
#: every which draw is looked at for another setup than the planned one (assumption)
EVERY = 2


@dataclass(frozen=True, slots=True, kw_only=True)
class Case:
    """A setup in one draw: findings that ask for something by key, the chance [1] that it runs dry, its figures."""

    said: Mapping[Key, Finding]
    missed: float
    figures: Mapping[str, Figure]


def _said(report: Report) -> dict[Key, Finding]:
    return {key_of(f): f for f in loud(report.findings) if f.code not in FINISH and not is_elsewhere(f)}


def _case(report: Report) -> Case:
    return Case(said=_said(report), missed=report.ask(finish_missed), figures=report.figures)


def loss(case: Case) -> float:
    """What is said in a case, by its weights, and its chance to run dry."""
    said = sum(WEIGHTS[f.severity] * (SAFETY_TIMES if f.code in SAFETY else 1.0) for f in case.said.values())
    return said + DRY * case.missed


class Judge:
    """A document's setups over draws. beat: called at every case."""

    def __init__(
        self,
        inputs: Inputs,
        *,
        cache: StageCache,
        sensitivities: Mapping[str, tuple[float, float]],
        count: int,
        beat: Callable[[], None],
    ) -> None:
        self.inputs, self.cache, self.sensitivities, self._beat = inputs, cache, sensitivities, beat
        whole = evaluate(inputs, cache=cache, sensitivities=sensitivities)
        self.up = whole.behind.up
        self.draws = draws(ChassisInput.of(self.up), DriveInput.of(self.up), count)
        self.plan, self.says_dry = _case(whole), any(f.code in FINISH for f in loud(whole.findings))

    def cases(self, setup: Setup) -> list[Case]:
        """A setup in each draw. Raises InputRefused."""
        return [_case(self._report(setup, d, ALL)) for d in self.draws]

    def otherwise(self, setup: Setup, stations: frozenset[str], cases: Sequence[Case]) -> list[Case] | None:
        """A setup in every so many draws, judged by some stations alone: the others say what they said in `cases`, of
        all draws. None where some draw has no answer for it.
        """
        try:
            return [
                self._of(setup, d, stations, was) for d, was in zip(self.draws[::EVERY], cases[::EVERY], strict=True)
            ]
        except InputRefused:
            return None

    def _of(self, setup: Setup, draw: Draw, stations: frozenset[str], was: Case) -> Case:
        report = self._report(setup, draw, stations)
        missed = report.ask(finish_missed) if "range" in stations else was.missed
        others = {k: f for k, f in was.said.items() if f.station not in stations}
        return replace(was, said=others | _said(report), missed=missed)

    def _report(self, setup: Setup, draw: Draw, stations: frozenset[str]) -> Report:
        self._beat()
        return evaluate(
            self.inputs.model_copy(update={"setup": setup}), cache=self.cache, sensitivities=self.sensitivities,
            need=stations - ELSEWHERE, explain=False, truth=draw.truth,
        )  # fmt: skip

    def is_more(self, case: Case, luck: float) -> bool:
        """Whether something is said in a case, or graver, that the plan itself does not say."""
        known = {k: grade(f) for k, f in self.plan.said.items()}
        dry = case.missed > luck and not self.says_dry
        return dry or any(grade(f) > known.get(k, -1) for k, f in case.said.items())

    def clear(self, cases: Sequence[Case]) -> float:
        """Share of the draws in which nothing more is said than with the plan [1]."""
        return self._clear(cases, self.draws)

    def clear_otherwise(self, setup: Setup, cases: Sequence[Case]) -> float | None:
        """The same of another setup, in every so many draws; None where some draw has no answer for it."""
        found = self.otherwise(setup, ALL, cases)
        return None if found is None else self._clear(found, self.draws[::EVERY])

    def _clear(self, cases: Sequence[Case], of: Sequence[Draw]) -> float:
        return float(np.mean([not self.is_more(c, d.luck) for c, d in zip(cases, of, strict=True)]))
