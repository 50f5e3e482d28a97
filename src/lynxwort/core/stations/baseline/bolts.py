"""The torque list: what each bolt carries, and which want the spanner again."""

from dataclasses import dataclass

from lynxwort.core.model.service import Bolt
from lynxwort.core.model.service.intervals import HOUR_S
from lynxwort.core.physics.service.torque import largest_preload, preload_range
from lynxwort.core.stations.baseline.log import Log

#: hours after which bolts of what is new or newly coated are tightened again [s] (practice)
AGAIN_S = (1.0 * HOUR_S, 3.0 * HOUR_S)
#: where a thread is locked and the bolt is never turned to check it
LOCKED = ("rotor", "sprocket", "stand")
#: where nothing locks a thread but what the maker put there
NEVER_LOCKED = ("axle", "banjo", "calliper")


@dataclass(frozen=True, slots=True, kw_only=True)
class Tightened:
    """A bolt. preload_n: least, middle, most [N] that its torque brings as its thread is; None where the manual alone
    may say; of_largest: the middle as a share of what a bolt of class 8.8 may carry; open: not tightened yet; again:
    due once more after coating or fitting; turned: whether it may be turned to check it; moved: its paint mark did;
    odd_locker: locked where it should not be, or not where it should.
    """

    bolt: Bolt
    preload_n: tuple[float, float, float] | None
    of_largest: float | None
    open: bool
    again: bool
    turned: bool
    moved: bool
    odd_locker: str


def bolts(log: Log) -> tuple[Tightened, ...]:
    """All of the list, in the order they were written down."""
    return tuple(_tightened(b, log.line.now_s) for b in sorted(log.service.bolts, key=lambda b: b.seq))


def _tightened(bolt: Bolt, now_s: float) -> Tightened:
    told = None
    if bolt.torque_nm is not None and not bolt.in_aluminium:
        told = preload_range(bolt.torque_nm, bolt.diameter_m, bolt.pitch_m, bolt.thread)
    return Tightened(
        bolt=bolt,
        preload_n=told,
        of_largest=told[1] / largest_preload(bolt.diameter_m, bolt.pitch_m, 0.12) if told else None,
        open=bolt.tight_s is None,
        again=_again(bolt, now_s),
        turned=not is_locked(bolt),
        moved=bolt.mark == "moved",
        odd_locker=_odd(bolt),
    )


def is_locked(bolt: Bolt) -> bool:
    """Whether its thread is locked: then it is checked without turning it."""
    return bolt.thread == "locked" or bolt.locker != "none"


def _again(bolt: Bolt, now_s: float) -> bool:
    """After one and three hours of a new or newly coated part; a locked bolt never."""
    if bolt.fresh_s is None or bolt.tight_s is None or is_locked(bolt):
        return False
    fresh, tight = bolt.fresh_s, bolt.tight_s
    return any(now_s >= fresh + after and tight < fresh + after for after in AGAIN_S)


def _odd(bolt: Bolt) -> str:
    if bolt.place in NEVER_LOCKED and bolt.locker != "none":
        return "locked_there"
    if bolt.locker == "high_strength":
        return "high_strength"
    return "unlocked" if bolt.place in LOCKED and not is_locked(bolt) else ""
