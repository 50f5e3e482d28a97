"""Chassis's drawings: the bike from the side, what the chain carries, the springs that meet both sags."""

from lynxwort.core.physics.chassis.sag import SagTargets
from lynxwort.core.stations.chassis.input import ChassisInput
from lynxwort.core.stations.chassis.springs import SpringChoice, spring_choices, targets
from lynxwort.core.stations.chassis.stance import outline, squat_over_travel
from lynxwort.core.stations.station import Views


def sag_targets(given: ChassisInput) -> dict[str, SagTargets]:
    """Where the sags of each end should lie."""
    return {end: targets(given, end) for end in ("rear", "front")}


def choices(given: ChassisInput) -> dict[str, list[SpringChoice]]:
    """Springs of each end that meet both sags with a preload that exists."""
    return {end: spring_choices(given, end) for end in ("rear", "front")}


VIEWS: Views = {"outline": outline, "squat": squat_over_travel, "sags": sag_targets, "springs": choices}
