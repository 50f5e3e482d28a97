"""Steering, bars and clutch: figures of what a hand holds."""

from math import sqrt, tau
from typing import Any

import numpy as np

from lynxwort.core.figures import figure, step
from lynxwort.core.model.bike import Electric
from lynxwort.core.model.fitted import items_on
from lynxwort.core.model.readings import HandsReading
from lynxwort.core.physics.drive.engine import engine_curve
from lynxwort.core.physics.kit import controls, shaking
from lynxwort.core.report import Figure
from lynxwort.core.stations.kit.input import KitInput
from lynxwort.core.tunables import current_value

#: damping of soft mounts (assumption)
MOUNT_DAMPING = 0.1


def inertia(given: KitInput) -> float:
    """About the steering axis [kg m2], with the items that are on."""
    on = items_on(given.bike, given.setup)
    return controls.steered_inertia((i.net_kg, i.aside_m) for i in on if i.on == "steered")


def _steering(given: KitInput) -> list[Figure]:
    now = inertia(given)
    found = [
        figure(
            "kit.steer.inertia", now, half=0.2 * now, basis="assumed", source="HANDBOOK 9, 6, assumption",
            formula="0.65 + sum of m r^2 of what steers", steps=(step("more", now / controls.STEERED_KG_M2 - 1.0,
            "1"),),
        )
    ]  # fmt: skip
    damper = given.bike.kit.damper
    if damper is None or damper not in items_on(given.bike, given.setup):
        return [*found, figure("kit.steer.kick_time", None, status="not_applicable", reason="no_damper")]
    clicks = current_value(given.brakes, "damper_clicks")
    damping = controls.damping_of(clicks / (damper.damper_clicks or 1))
    time = controls.kick_time(now, damping)
    kick = figure(
        "kit.steer.kick_time", time, half=0.4 * time, basis="assumed", inputs=("setup.damper_clicks",),
        formula="I / c, c from 3 to 8 N m s/rad over its clicks", source="HANDBOOK 9, 6, assumption",
        steps=(step("c", damping, "1", "N m s/rad"),),
    )  # fmt: skip
    return [*found, kick]


def isolation(given: KitInput) -> float | None:
    """Motion that the bars' mounts let through over the lap, root mean square against hard ones [1]; None of hard
    ones.
    """
    own = given.bike.kit.bar_mount_hz
    if own is None:
        return None
    ride = given.lap.whole
    ratio = ride.crank_rad_per_s / tau / own
    through = (1.0 + (2.0 * MOUNT_DAMPING * ratio) ** 2) / ((1.0 - ratio**2) ** 2 + (2.0 * MOUNT_DAMPING * ratio) ** 2)
    return float(np.sqrt(np.average(through, weights=ride.time_s)))


def shaken(given: KitInput) -> tuple[float | None, tuple[str, ...]]:
    """Shaking at the grips as it was read, root mean square of all readings [m/s2], and their ids."""
    read = [r for r in given.readings if isinstance(r, HandsReading)]
    if not read:
        return None, ()
    return sqrt(sum(r.shaking_m_per_s2**2 for r in read) / len(read)), tuple(r.id for r in read)


def _hands(given: KitInput) -> list[Figure]:
    shakes, used = shaken(given)
    time = given.race_s
    day = None if shakes is None else shaking.day_exposure([(shakes, time)])
    through = isolation(given)
    bars = (
        figure("kit.bars.isolation", None, status="not_applicable", reason="bars_bolted_hard")
        if through is None
        else figure(
            "kit.bars.isolation", through, half=0.3 * through, inputs=("bike.kit.bar_mount_hz",), basis="assumed",
            formula="sqrt((1 + (2 z r)^2) / ((1 - r^2)^2 + (2 z r)^2)), r = revs / mount, over the lap's time",
            source="one mass on a spring; better only above 1.41 times the mount's own frequency",
        )
    )  # fmt: skip
    return [
        bars,
        figure(
            "kit.hands.exposure", day, half=None if day is None else 0.25 * day, readings=used,
            basis="measured" if used else "assumed", formula="A(8) = sqrt(a^2 t / 8 h)",
            steps=() if shakes is None else (step("a", shakes, "m/s^2", "as read"), step("t", time, "s", "riding")),
            source="ISO 5349-1; action 2.5, limit 5 m/s2 (Directive 2002/44/EC)",
        ),
        figure(
            "kit.hands.time_to_action", None if shakes is None else shaking.time_to(shakes), readings=used,
            basis="measured" if used else "assumed", formula="8 h (2.5 / a)^2", source="Directive 2002/44/EC",
        ),
    ]  # fmt: skip


def _clutch(given: KitInput) -> Figure:
    kit, engine = given.bike.kit, given.bike.engine
    if isinstance(engine, Electric):
        return figure("kit.clutch.margin", None, status="not_applicable", reason="no_clutch")
    told: dict[str, Any] = {
        "inputs": ("bike.kit.clutch_plates", "bike.kit.clutch_spring_n"),
        "basis": "assumed",
        "formula": "0.12 F 2 n 2/3 (Ro^3 - Ri^3) / (Ro^2 - Ri^2) / (peak torque x primary)",
        "source": "even pressure (Shigley, from memory); friction 0.12 assumed",
    }
    if kit.clutch_plates is None or kit.clutch_spring_n is None:
        return figure("kit.clutch.margin", None, **told)
    holds = controls.clutch_torque(
        plates=kit.clutch_plates, spring_n=kit.clutch_spring_n, outer_m=kit.clutch_outer_m, inner_m=kit.clutch_inner_m
    )
    asked = float(engine_curve(given.lap.ride_input.engine).torque_nm.max()) * given.bike.transmission.primary_ratio
    steps = (step("holds", holds, "N*m"), step("asked", asked, "N*m", "at the clutch"))
    return figure("kit.clutch.margin", holds / asked, half=0.25 * holds / asked, steps=steps, **told)


def figures(given: KitInput) -> list[Figure]:
    return [*_steering(given), *_hands(given), _clutch(given)]
