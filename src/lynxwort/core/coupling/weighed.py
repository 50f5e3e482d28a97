"""The bike as it was weighed and measured: what scales, tape and angle gauge correct, and what they cannot explain."""

from __future__ import annotations

from dataclasses import dataclass
from math import sqrt
from typing import TYPE_CHECKING

from lynxwort.core.evidence import Measured, about, learn
from lynxwort.core.model.bike import Bike, Frame
from lynxwort.core.model.fitted import seat_up_of
from lynxwort.core.model.readings import GeometryReading, TiltReading, WeighingReading
from lynxwort.core.model.setup import Setup
from lynxwort.core.physics.chassis.calibrate import QUESTION_SD, TAPE_SD_M
from lynxwort.core.physics.chassis.geometry import SideView, stance
from lynxwort.core.physics.chassis.loads import AxleLoads, axle_loads, bare, extras_of, tilted_cg_height, wheel_change_kg, with_axle_back, with_axle_forward
from lynxwort.core.physics.drive.gearing import radius_of_marking, rolling_radius, tyre_in

if TYPE_CHECKING:
    from lynxwort.core.coupling.stages import Work

#: spreads of logarithms: a typed weight and share before a weighing, and a weighing (assumption)
WEIGHT_PRIOR, SHARE_PRIOR, WEIGHT_SD, SHARE_SD = 0.08, 0.06, 0.005, 0.008
#: where a bike's own weight can sit [m] (assumption)
CG_LOW_M, CG_HIGH_M = 0.35, 0.90
#: spreads of what the facts say before it is measured, by quantity [m, rad] (assumption), and of an angle gauge
GEOMETRY_PRIOR = {"wheelbase": 0.008, "rake": 0.008, "seat_height": 0.012, "ground_clearance": 0.012}
GAUGE_SD_RAD = 0.004
FIELD_OF = {"wheelbase": "wheelbase_m", "rake": "rake_rad", "seat_height": "seat_height_m", "ground_clearance": "ground_clearance_m"}
#: where seat and lowest part stand along the wheelbase, from the rear axle (assumption)
SEAT_AHEAD, LOWEST_AHEAD = 0.40, 0.52
AHEAD_OF = {"seat_height": SEAT_AHEAD, "ground_clearance": LOWEST_AHEAD}


@dataclass(frozen=True, slots=True, kw_only=True)
class Weighed:
    """frame: with weight and share as learned; cg_height_m: of the bike alone, None when never tilted; used, questioned: reading ids."""

    frame: Frame
    cg_height_m: float | None
    used: tuple[str, ...]
    questioned: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Unexplained:
    """A measured length or angle that the geometry does not explain. miss_si: measured - computed [m, rad]; because: what could explain it."""

    reading_id: str
    of: str
    miss_si: float
    because: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Geometry:
    """frame: corrected by what was measured; used: reading ids."""

    frame: Frame
    used: tuple[str, ...]
    unexplained: tuple[Unexplained, ...]


def weighed_of(work: Work) -> Weighed:
    """Weight, share and height of the centre of gravity by the scales."""
    frame, engine = work.inputs.bike.frame, work.inputs.bike.engine
    level: list[tuple[str, AxleLoads]] = []
    for r in work.live_readings:
        if isinstance(r, WeighingReading) and not r.rider_aboard:
            setup = r.under.setup
            seen = with_axle_forward(AxleLoads(front_kg=r.front_kg, rear_kg=r.rear_kg), wheelbase_m=frame.wheelbase_m,
                                     unsprung_rear_kg=work.unsprung(setup, "rear"), back_m=work.axle_back_m(setup))  # fmt: skip
            fuel, extras = r.under.fuel_aboard_m3, extras_of(frame, engine, setup)
            level.append((r.id, bare(frame, front_kg=seen.front_kg, rear_kg=seen.rear_kg, fuel_m3=fuel, extras=extras)))
    whole = [(i, b) for i, b in level if min(b.front_kg, b.rear_kg) > 1.0]
    mass = learn(about(frame.mass_dry_kg, WEIGHT_PRIOR), [Measured(reading_id=i, value=b.total_kg, log_sd=WEIGHT_SD) for i, b in whole])
    good = [(i, b) for i, b in whole if i in mass.used]
    share = learn(about(frame.front_share, SHARE_PRIOR), [Measured(reading_id=i, value=b.front_kg / b.total_kg, log_sd=SHARE_SD) for i, b in good])
    questioned = tuple(i for i, b in level if i not in mass.used or i in share.doubted)
    changes = {"mass_dry_kg": mass.median, "front_share": share.median} if good else {}
    now = frame.model_copy(update=changes)
    heights: list[tuple[str, float | None]] = []
    odd: list[tuple[str, float | None]] = []
    for r in work.live_readings:
        if isinstance(r, TiltReading):
            found = _tilted(now, work.inputs.bike, r, work.axle_back_m(r.under.setup))
            (heights if found is not None and CG_LOW_M <= found <= CG_HIGH_M else odd).append((r.id, found))
    height = sum(h or 0.0 for _, h in heights) / len(heights) if heights else None
    used = (*share.used, *(i for i, _ in heights))
    return Weighed(frame=now, cg_height_m=height, used=used, questioned=(*questioned, *(i for i, _ in odd)))


def _tilted(frame: Frame, bike: Bike, reading: TiltReading, axle_back_m: float) -> float | None:
    """Height [m] by a tilted weighing; None when the axle cannot have stood so high."""
    extras = extras_of(frame, bike.engine, reading.under.setup)
    level = with_axle_back(axle_loads(frame, fuel_m3=reading.under.fuel_aboard_m3, extras=extras), wheelbase_m=frame.wheelbase_m,
                           unsprung_rear_kg=frame.unsprung_rear_kg + wheel_change_kg(frame, reading.under.setup, "rear"), back_m=axle_back_m)  # fmt: skip
    if reading.raised_m > 0.8 * frame.wheelbase_m:
        return None
    return tilted_cg_height(level, raised=reading.raised, raised_m=reading.raised_m, load_kg=reading.load_kg, wheelbase_m=frame.wheelbase_m + axle_back_m,
                            front_radius_m=radius_of_marking(frame.front_tyre), rear_radius_m=rolling_radius(bike))  # fmt: skip


def side_view_of(bike: Bike, frame: Frame, setup: Setup, *, rear_radius_m: float, axle_back_m: float) -> SideView:
    """What decides the side view of a setup. rear_radius_m: of the bike's own rear wheel as it rolls; axle_back_m: as of Work.axle_back_m."""
    own_front, own_rear = radius_of_marking(frame.front_tyre), rear_radius_m
    front = radius_of_marking(tyre_in(bike, setup, "front"))
    rear = own_rear * radius_of_marking(tyre_in(bike, setup, "rear")) / radius_of_marking(bike.tyre.marking)
    return SideView(
        wheelbase_m=frame.wheelbase_m, rake_rad=frame.rake_rad, offset_m=frame.clamp_offset_m + frame.axle_lead_m,
        swingarm_length_m=frame.swingarm_length_m, axle_below_pivot_m=frame.axle_below_pivot_m, front_radius_m=front, rear_radius_m=rear,
        front_radius_then_m=own_front, rear_radius_then_m=own_rear, fork_up_m=setup.fork_up_m or 0.0, offset_change_m=setup.offset_change_m or 0.0,
        rear_up_m=setup.rear_up_m or 0.0, axle_back_m=axle_back_m,
    )  # fmt: skip


def _computed(work: Work, frame: Frame, reading: GeometryReading) -> float:
    """What the side view says of a measured quantity, as the bike was when it was measured."""
    under = reading.under
    setup = under.setup
    view = side_view_of(work.inputs.bike, frame, setup, rear_radius_m=rolling_radius(work.inputs.bike), axle_back_m=work.axle_back_m(setup))
    rider = (under.rider or work.inputs.rider) if reading.state == "race" else None
    sags = {"front": 0.0, "rear": 0.0}
    if reading.state != "topped_out":
        outside = work.outside_of(under)
        sags = {end: work.sag_at(end, setup, rider, under.fuel_aboard_m3, work.offsets.mean, outside_pa=outside) for end in sags}
    stands = stance(view, fork_in_m=sags["front"], rear_in_m=sags["rear"])
    if reading.of == "wheelbase":
        return stands.wheelbase_m
    if reading.of == "rake":
        return stands.rake_rad
    height = getattr(frame, FIELD_OF[reading.of]) + (seat_up_of(work.inputs.bike.engine, setup) if reading.of == "seat_height" else 0.0)
    return stands.place((AHEAD_OF[reading.of] * frame.wheelbase_m, height))[1]


def _because(frame: Frame, of: str, miss: float) -> str:
    """What could explain a miss: the axle moved in its adjusters, tubes moved in the clamps, or a reading in another state."""
    if of == "wheelbase":
        return "axle_moved" if abs(miss) <= 2.0 * frame.adjuster_half_range_m + 0.005 else "tape"
    if of == "rake":
        return "tubes_moved" if abs(miss) <= 0.03 else "tape"
    return "other_state" if -0.45 * frame.rear_travel_m <= miss <= 0.45 * frame.rear_travel_m else "tape"


def geometry_of(work: Work) -> Geometry:
    """The frame corrected by what was measured; each reading pulls by its weight, one beyond 4 sd is left out and questioned."""
    frame = work.frame
    used, unexplained = [], []
    variance = {of: sd**2 for of, sd in GEOMETRY_PRIOR.items()}
    for r in work.live_readings:
        if not isinstance(r, GeometryReading):
            continue
        noise = (GAUGE_SD_RAD if r.of == "rake" else TAPE_SD_M) ** 2
        value = r.value_rad if r.of == "rake" else r.value_m
        miss = (value or 0.0) - _computed(work, frame, r)
        if abs(miss) > QUESTION_SD * sqrt(variance[r.of] + noise):
            unexplained.append(Unexplained(reading_id=r.id, of=r.of, miss_si=miss, because=_because(frame, r.of, miss)))
            continue
        weight = variance[r.of] / (variance[r.of] + noise)
        frame = frame.model_copy(update={FIELD_OF[r.of]: getattr(frame, FIELD_OF[r.of]) + weight * miss})
        variance[r.of] *= 1.0 - weight
        used.append(r.id)
    return Geometry(frame=frame, used=tuple(used), unexplained=tuple(unexplained))
