"""The day by its time checks: when one is due at each, counted from one's own start minute."""

from dataclasses import dataclass

from lynxwort.core.stations.range.input import RangeInput

#: less than this to spare [s] is tight (assumption)
TIGHT_S = 120.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Check:
    """One check: the stage that ends there, "" at the start; due_s: after one's own start; allowed_s: for the stage;
    ridden_s: what it likely takes; spare_s: between the two; known: whether every stage up to it has its time allowed,
    else due_s is only likely.
    """

    stage: int | None
    kind: str
    due_s: float
    allowed_s: float | None
    ridden_s: float
    spare_s: float | None
    known: bool

    @property
    def tight(self) -> bool:
        """Whether there is hardly time for the stage."""
        return self.spare_s is not None and self.spare_s < TIGHT_S


def checks(given: RangeInput) -> list[Check]:
    """The start and a check after each stage, in order, for a race of stages; of one ridden by laps the start and the
    end.
    """
    found = [Check(stage=None, kind="start", due_s=0.0, allowed_s=None, ridden_s=0.0, spare_s=None, known=True)]
    due, known = 0.0, True
    for i, stage in enumerate(given.clock.stages):
        laps = given.clock.laps if len(given.clock.stages) == 1 else stage.laps
        whose = given.clock.whose(i if len(given.clock.stages) > 1 else 0)
        ridden = laps * given.clock.lap(*whose).rides[i].lap_time_s
        allowed = stage.allowed_s
        known = known and allowed is not None
        due += ridden if allowed is None else allowed
        found.append(
            Check(
                stage=i,
                kind=stage.kind,
                due_s=due,
                allowed_s=allowed,
                ridden_s=ridden,
                spare_s=None if allowed is None else allowed - ridden,
                known=known,
            )
        )
    return found
