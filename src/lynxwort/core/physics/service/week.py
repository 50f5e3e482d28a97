"""Work laid backward from its end: how late each job may begin, and in which order one pair of hands does it, packed to
the end, so that what comes late is late the least.

Reference: the critical path method for how late; Lawler 1973 for the order (least greatest lateness under precedence),
in mirrored time.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from lynxwort.core.physics.kit.work import Job, in_order


@dataclass(frozen=True, slots=True, kw_only=True)
class Laid:
    """A job and its place [s of work before the end]: begins, ends; latest: when it must begin with hands enough;
    in_hand_s: how much earlier than that it could begin, less than nothing where its part is late.
    """

    job: Job
    begins_s: float
    ends_s: float
    latest_s: float
    in_hand_s: float


def latest_starts(jobs: Sequence[Job]) -> dict[str, float]:
    """How long before the end [s of work] each must begin with hands enough: its work and the longest way after it.
    Raises InACircle.
    """
    before: dict[str, float] = {}
    for job in reversed(in_order(jobs)):
        followers = [before[other.id] for other in jobs if job.id in other.after]
        before[job.id] = max(followers, default=0.0) + job.takes_s
    return before


def lay(jobs: Sequence[Job], ready_s: Mapping[str, float]) -> list[Laid]:
    """The order of one pair of hands without a pause before the end, what begins first coming first. ready_s: from when
    a job can be done [s of work before the end, infinite for always]. Of the orders that keep what comes after what,
    none has a smaller greatest lateness. Raises InACircle.
    """
    latest = latest_starts(jobs)
    known, left, done = set(latest), in_order(jobs), set[str]()
    now, found = sum(j.takes_s for j in jobs), list[Laid]()
    while left:
        free = [j for j in left if all(a in done or a not in known for a in j.after)]
        job = max(free, key=lambda j: (ready_s[j.id], latest[j.id]))
        found.append(
            Laid(
                job=job, begins_s=now, ends_s=now - job.takes_s, latest_s=latest[job.id],
                in_hand_s=ready_s[job.id] - now,
            )
        )  # fmt: skip
        now -= job.takes_s
        done.add(job.id)
        left.remove(job)
    return found
