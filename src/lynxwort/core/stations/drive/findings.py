"""What Drive says of its figures."""

import numpy as np

from lynxwort.core.model.bike import Electric
from lynxwort.core.model.race import GROUNDS
from lynxwort.core.physics.drive.kernel import STUCK_GRIP, STUCK_POWER
from lynxwort.core.report import Finding, Severity
from lynxwort.core.stations.drive.candidates import pulling_sprockets
from lynxwort.core.stations.drive.hills import MOST_HILLS, SPEED_IN_HAND, Hill, hills
from lynxwort.core.stations.drive.input import DriveInput
from lynxwort.core.stations.drive.pulls import problem_places, top
from lynxwort.core.stations.station import Known

#: thresholds (assumption): metres short to act on; share of revs lost from first to second that riders complain of
SHORT_ACT_M = 100.0
WIDE_STEP_SHARE = 0.26
SHAKE_LOOK_SHARE = 0.15
GRIP_LOOK_M = 10.0
#: adjuster left for stretch, and gap to the case, below which it is to look at and to act on [m] (assumption)
ADJUSTER_LOOK_M, CASE_ACT_M = 0.004, 0.003


def _chain_findings(given: DriveInput, known: Known) -> list[Finding]:
    """Whether the chain fits, can stretch, and clears the case."""
    fit, gap = given.chain_fit, known["drive.chain.case_clearance"].value
    found = []
    if fit is None:
        code = "chain_no_length" if given.frame.chain_links is None else "chain_other_length"
        found.append(Finding(station="drive", code=code, severity="act", figures=("drive.chain.links",)))
    elif (known["drive.chain.adjuster_left"].value or 0.0) < ADJUSTER_LOOK_M:
        found.append(
            Finding(
                station="drive",
                code="chain_no_stretch",
                severity="look",
                figures=("drive.chain.adjuster_left", "drive.chain.links"),
            )
        )
    else:
        found.append(
            Finding(
                station="drive",
                code="chain_fits",
                severity="ok",
                figures=("drive.chain.slack_on_stand", "drive.chain.axle_move"),
            )
        )
    if gap is not None and gap < CASE_ACT_M:
        found.append(
            Finding(station="drive", code="sprocket_hits_case", severity="act", figures=("drive.chain.case_clearance",))
        )
    return found


def _of_hill(h: Hill) -> tuple[str, Severity]:
    """Code and severity of one hill; empty when it asks for nothing. Grip alone is never worse than look."""
    if h.run_up_m_per_s is None:
        return "hill_no_run_up", "act"
    if h.carried_m_per_s < h.run_up_m_per_s:
        return "hill_too_slow", "act" if h.carried_said else "look"
    if h.needs_run_up and h.carried_m_per_s < SPEED_IN_HAND * h.run_up_m_per_s:
        return "hill_tight", "look"
    if h.run_up_poor_m_per_s is None or h.run_up_poor_m_per_s > h.carried_m_per_s:
        return "hill_grip", "look"
    return ("hill_with_speed", "ok") if h.needs_run_up else ("", "ok")


def _of_hills(given: DriveInput) -> list[Finding]:
    """What to say of each hill that asks for something."""
    found = []
    for h in hills(given):
        code, severity = _of_hill(h)
        if not code:
            continue
        number = min(h.number, MOST_HILLS)
        names = (f"drive.hill.{number}.run_up_speed", f"drive.hill.{number}.limit")
        parameters: dict[str, float | str] = {
            "hill": h.hill.name or "unnamed_hill",
            "ground": h.hill.ground,
            "carried_speed": h.carried_m_per_s,
            "grade": h.hill.grade,
            "held_by": f"held_{h.held_by}",
            "held_grade": h.grades.steepest,
        }
        for name, value in (
            ("run_up_speed", h.run_up_m_per_s),
            ("good_speed", h.run_up_good_m_per_s),
            ("poor_speed", h.run_up_poor_m_per_s),
        ):
            parameters[name] = "no_speed" if value is None else value
        found.append(
            Finding(
                station="drive",
                code=code,
                severity=severity,
                at_m=h.at_m + min(10.0, 0.5 * h.hill.length_m),
                figures=names,
                parameters=parameters,
            )
        )
    return found


def findings(given: DriveInput, known: Known) -> list[Finding]:
    found = []
    best = top(given)
    short = problem_places(given, STUCK_POWER)
    if short:
        worst = max(short, key=lambda p: p[1] - p[0])
        i = int(np.searchsorted(given.lap.around.whole.distance_m, worst[0], side="right")) - 1
        metres = known["drive.metres_short"].value or 0.0
        found.append(
            Finding(
                station="drive",
                code="short_on_climb",
                severity="act" if metres > SHORT_ACT_M else "look",
                parameters={"ground": GROUNDS[int(given.lap.around.whole.ground[i])], "places": len(short)},
                at_m=worst[0],
                figures=("drive.metres_short",),
                proposals=pulling_sprockets(given),
            )
        )
    else:
        found.append(Finding(station="drive", code="pulls_everywhere", severity="ok", figures=("drive.metres_short",)))
    grip = problem_places(given, STUCK_GRIP)
    worst = max(grip, key=lambda p: p[1] - p[0], default=(0.0, 0.0))
    told = any(
        h.at_m - 100.0 < worst[0] < h.at_m + h.hill.length_m for h in hills(given)
    )  # the hill's own finding says more
    if (known["drive.metres_grip_unknown"].value or 0.0) >= GRIP_LOOK_M and not told:
        i = int(np.searchsorted(given.lap.around.whole.distance_m, worst[0], side="right")) - 1
        found.append(
            Finding(
                station="drive",
                code="grip_unknown",
                severity="look",
                at_m=worst[0],
                figures=("drive.metres_grip_unknown",),
                parameters={"ground": GROUNDS[int(given.lap.around.whole.ground[i])], "places": len(grip)},
            )
        )
    found += _of_hills(given)
    margin = known["drive.tyre_speed_margin"].value
    if margin is not None and margin < 0:
        found.append(
            Finding(
                station="drive",
                code="tyre_too_slow",
                severity="act",
                figures=("drive.tyre_speed_margin", "drive.top_speed"),
            )
        )
    over = known["drive.time_over_shake"].value
    if over is not None and over > SHAKE_LOOK_SHARE * given.lap.whole.lap_time_s:
        found.append(
            Finding(
                station="drive",
                code="shakes_long",
                severity="look",
                figures=("drive.time_over_shake",),
                parameters={"share": over / given.lap.whole.lap_time_s},
            )
        )
    drop = known["drive.first_second_drop"].value
    if drop is not None and drop / given.engine.peak_power_rpm > WIDE_STEP_SHARE:
        found.append(
            Finding(station="drive", code="wide_first_second", severity="look", figures=("drive.first_second_drop",))
        )
    found += _chain_findings(given, known)
    tail = "_electric" if isinstance(given.engine, Electric) else ""
    found.append(
        Finding(
            station="drive",
            code=f"top_speed_{best.limit}{tail}",
            severity="ok",
            figures=("drive.top_speed", "drive.crawl_speed"),
            parameters={"gear": best.gear, "rpm": best.rpm},
        )
    )
    return found
