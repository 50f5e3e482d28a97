"""What Purpose says of the race."""

import numpy as np

from lynxwort.core.model.bike import Electric
from lynxwort.core.report import Finding
from lynxwort.core.stations.purpose.input import PurposeInput
from lynxwort.core.stations.purpose.times import tightest
from lynxwort.core.stations.station import Known

#: thresholds, assumption: power left below which the air is a finding; length of a gap in a track; share of the time
#: allowed to have in hand
THIN_AIR_SHARE = 0.88
GAP_M = 200.0
SCHEDULE_IN_HAND = 0.15


def _read(given: PurposeInput) -> Finding:
    """What race it is, by its format."""
    stages, kind = given.clock.stages, given.format
    parameters: dict[str, float | str] = {"laps": given.clock.laps}
    code = {"hours": "race_read_hours", "tests": "race_read_tests", "stages": "race_read_stages"}.get(
        kind, "race_read" if given.clock.laps > 1 else "race_read_one"
    )
    if kind == "hours":
        parameters["time_s"] = stages[0].hours_s or 0.0
    if kind == "tests":
        parameters |= {
            "tests": sum(s.kind == "test" for s in stages),
            "liaisons": sum(s.kind == "liaison" for s in stages),
        }
    if kind == "stages":
        parameters["stages"] = len(stages)
    return Finding(
        station="purpose",
        code=code,
        severity="ok",
        figures=("purpose.distance", "purpose.climb"),
        parameters=parameters,
    )


def findings(given: PurposeInput, known: Known) -> list[Finding]:
    found = [_read(given)]
    if given.asked:
        left = sum(a.done is None and a.must for a in given.asked)
        parameters: dict[str, float | str] = {"count": len(given.asked), "left": left}
        found.append(Finding(station="purpose", code="rules_read", severity="ok", parameters=parameters))
    late = tightest(given)
    if late is not None and late.spare_s is not None and late.allowed_s is not None:
        tight = late.spare_s < SCHEDULE_IN_HAND * late.allowed_s
        found.append(
            Finding(
                station="purpose",
                code="schedule_tight" if tight else "schedule_holds",
                figures=("purpose.schedule_margin_min",),
                severity="act" if late.spare_s < 0 else "look" if tight else "ok",
                at_m=late.from_m,
                parameters={"stage": late.name or str(late.index + 1), "allowed_time_s": late.allowed_s},
            )
        )
    if any(line.heights == "none" for line in given.clock.around.lines):
        found.append(Finding(station="purpose", code="heights_missing", severity="look", figures=("purpose.climb",)))
    if any(not s.ground for s in given.clock.stages):
        found.append(
            Finding(station="purpose", code="ground_unset", severity="look", figures=("purpose.lap_distance",))
        )
    gap = max((g for line in given.clock.around.lines for g in line.gaps_m), default=0.0)
    if gap > GAP_M:
        found.append(Finding(station="purpose", code="track_gap", severity="look", parameters={"gap_m": gap}))
    thin = given.day.states.power_share_min < THIN_AIR_SHARE
    electric = isinstance(given.clock.own.ride_input.engine, Electric)
    found.append(
        Finding(
            station="purpose",
            code="air_and_motor" if electric else "thin_air" if thin else "air_read",
            severity="look" if thin and not electric else "ok",
            figures=(
                "purpose.density_ratio_min" if electric else "purpose.power_share_min",
                "purpose.density_ratio_max",
            ),
            at_m=float(given.clock.around.whole.distance_m[int(np.argmax(given.clock.around.whole.height_m))]),
        )
    )
    return found
