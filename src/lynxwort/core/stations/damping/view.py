"""Damping's drawings: force against shaft speed, where in the travel it is, what each piece of the course does."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from lynxwort.core.physics.chassis.fitted import travel_of
from lynxwort.core.physics.damping.damper import force_at
from lynxwort.core.stations.damping.candidates import METAL_LOOK
from lynxwort.core.stations.damping.dampers import ENDS, tables_of
from lynxwort.core.stations.damping.input import DampingInput
from lynxwort.core.stations.damping.rides import Feature, ridden
from lynxwort.core.stations.station import Views

Array = NDArray[np.float64]
#: shaft speeds drawn [m/s]: beyond them no shaft comes in use (from memory)
DRAWN_M_PER_S, POINTS = 3.0, 90


@dataclass(frozen=True, slots=True, kw_only=True)
class ForceView:
    """Force of one damper (of both legs) against shaft speed [m/s], in and out [N]: shape (POINTS,); reached: fastest
    in and out in the rides [m/s].
    """

    speed_m_per_s: Array
    inward_n: Array
    outward_n: Array
    reached_m_per_s: tuple[float, float]

    def same_as(self, other: "ForceView") -> bool:
        """Whether the other's forces are the same."""
        return np.array_equal(self.inward_n, other.inward_n) and np.array_equal(self.outward_n, other.outward_n)


def force_of(given: DampingInput, end: str) -> ForceView:
    """Force of "fork" or "shock"."""
    inward, outward = tables_of(given.bike, given.setup, end)
    speeds = DRAWN_M_PER_S * np.linspace(0.0, 1.0, POINTS) ** 2
    wheel = next(w for w, name in ENDS.items() if name == end)
    ends = [getattr(m, wheel) for case in ridden(given) for m in case.runs]
    reached = max(e.inward_m_per_s for e in ends), max(e.outward_m_per_s for e in ends)
    return ForceView(
        speed_m_per_s=speeds,
        inward_n=force_at(inward, speeds),
        outward_n=force_at(outward, speeds),
        reached_m_per_s=reached,
    )


def forces(given: DampingInput) -> dict[str, ForceView]:
    """Force of both dampers."""
    return {end: force_of(given, end) for end in ENDS.values()}


@dataclass(frozen=True, slots=True, kw_only=True)
class TravelView:
    """One end over one piece. shares: of the time by travel, topped out first; used_m: the deepest, never beyond
    used_share = 1 of the travel; metal: hits, looked at from METAL_LOOK on.
    """

    end: str
    kind: str
    shares: Array
    used_m: float
    used_share: float
    metal: float

    @property
    def hits_metal(self) -> bool:
        return self.metal >= METAL_LOOK


def travel(given: DampingInput) -> list[TravelView]:
    """Where in its travel each end spends the time over each piece, rear first."""
    found = []
    for end in ("rear", "front"):
        travel_m = travel_of(given.bike.frame, given.setup, end)
        for case in ridden(given):
            shares = np.mean([getattr(m, end).histogram for m in case.runs], axis=0)
            used = min(case.mean("travel_used_m", end), travel_m)
            found.append(
                TravelView(
                    end=end,
                    kind=case.feature.kind,
                    shares=shares,
                    used_m=used,
                    used_share=used / travel_m,
                    metal=case.mean("metal", end),
                )
            )
    return found


@dataclass(frozen=True, slots=True, kw_only=True)
class PieceView:
    """One piece of the course as it is ridden: means over the speeds about the lap's. air_share: of the time, of the
    wheel that is off the ground longer.
    """

    feature: Feature
    speed_m_per_s: float
    slower: bool
    holds: bool
    front_used_m: float
    rear_used_m: float
    front_hits: float
    rear_hits: float
    air_share: float
    rear_packing_m: float
    peg_m_per_s2: float
    rider_m_per_s2: float
    rim: bool


def pieces(given: DampingInput) -> list[PieceView]:
    """What every piece of the course does, in order."""
    return [
        PieceView(
            feature=case.feature,
            speed_m_per_s=case.speed_m_per_s,
            slower=case.slower,
            holds=case.holds,
            front_used_m=case.mean("travel_used_m", "front"),
            rear_used_m=case.mean("travel_used_m", "rear"),
            front_hits=case.mean("metal", "front"),
            rear_hits=case.mean("metal", "rear"),
            air_share=max(case.mean("air_share", e) for e in ENDS),
            rear_packing_m=case.mean("packing_m", "rear"),
            peg_m_per_s2=case.mean("peg_m_per_s2"),
            rider_m_per_s2=case.mean("rider_m_per_s2"),
            rim=any(m.rim for m in case.runs),
        )
        for case in ridden(given)
    ]


VIEWS: Views = {"forces": forces, "travel": travel, "pieces": pieces}
