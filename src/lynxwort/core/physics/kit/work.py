"""Work in its order: the longest path, what may wait, and one pair of hands.

Reference: the critical path method; a list schedule by least slack.
"""

from collections.abc import Sequence
from dataclasses import dataclass

HOUR_S = 3600.0
#: what a thing takes of which nobody said it [s] (assumption)
UNSAID_S = HOUR_S
#: what ends all work on a bike: id and work [s] (common practice, no source)
LAST_STEPS = (("baseline_gate", 1.0 * HOUR_S), ("bed_in", 0.5 * HOUR_S), ("slow_ride", 0.5 * HOUR_S))


@dataclass(frozen=True, slots=True, kw_only=True)
class Job:
    """id; takes_s: work [s]; after: ids of what must be done before; arrives_s: when its part is there [s of work from
    the beginning].
    """

    id: str
    takes_s: float
    after: tuple[str, ...] = ()
    arrives_s: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Planned:
    """A job in the plan [s of work from the beginning]: when one pair of hands begins and ends it; how long it may wait
    without moving the end; critical: whether the end hangs on it; waits: for its part.
    """

    job: Job
    from_s: float
    to_s: float
    slack_s: float
    critical: bool
    waits: bool


class InACircle(ValueError):
    """What comes after what goes round in a circle."""


def in_order(jobs: Sequence[Job]) -> list[Job]:
    """Each after what it waits for; what is not among them is done. Raises InACircle."""
    known, left, found = {j.id for j in jobs}, list(jobs), list[Job]()
    while left:
        done = {j.id for j in found}
        ready = [j for j in left if all(a in done or a not in known for a in j.after)]
        if not ready:
            raise InACircle
        found += ready
        left = [j for j in left if j not in ready]
    return found


def critical(jobs: Sequence[Job]) -> tuple[float, dict[str, float]]:
    """With hands enough: length of the longest path [s], and how long each may wait [s] by id. Raises InACircle."""
    order, ends = in_order(jobs), dict[str, float]()
    for job in order:
        begins = max([job.arrives_s, *(ends[a] for a in job.after if a in ends)])
        ends[job.id] = begins + job.takes_s
    length = max(ends.values(), default=0.0)
    latest = {j.id: length for j in order}
    for job in reversed(order):
        for a in job.after:
            if a in latest:
                latest[a] = min(latest[a], latest[job.id] - job.takes_s)
    return length, {j.id: latest[j.id] - ends[j.id] for j in order}


def plan(jobs: Sequence[Job]) -> list[Planned]:
    """With one pair of hands: of what can begin now the one that may wait least; a part that is not there is waited for
    only when nothing else is left. Raises InACircle.
    """
    _length, slack = critical(jobs)
    left, now, found = in_order(jobs), 0.0, list[Planned]()
    known = {j.id for j in jobs}
    while left:
        done = {p.job.id for p in found}
        free = [j for j in left if all(a in done or a not in known for a in j.after)]
        here = [j for j in free if j.arrives_s <= now + 1e-9]
        job = min(here, key=lambda j: slack[j.id]) if here else min(free, key=lambda j: (j.arrives_s, slack[j.id]))
        begins = max(now, job.arrives_s)
        now = begins + job.takes_s
        found.append(
            Planned(
                job=job, from_s=begins, to_s=now, slack_s=slack[job.id], critical=slack[job.id] < 1e-6,
                waits=not here,
            )
        )  # fmt: skip
        left.remove(job)
    return found
