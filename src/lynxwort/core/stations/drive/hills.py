"""Critical hills of the race: what limits there, the run-up needed, per sprocket too."""

from dataclasses import dataclass, replace

from lynxwort.core.learned.grip import Grip
from lynxwort.core.model.defaults import GROUND
from lynxwort.core.model.race import CriticalHill
from lynxwort.core.physics.drive.hills import (
    Grades,
    climber,
    grip_range,
    needs_run_up,
    ramp_of,
    run_up,
    steepest,
    with_gearing,
)
from lynxwort.core.physics.drive.kernel import BRAKE, CORNER, PACE
from lynxwort.core.physics.drive.simulation import RideInput
from lynxwort.core.stations.drive.input import DriveInput
from lynxwort.core.tunables import is_owned

#: figures are kept for this many hills, in the order of the round
MOST_HILLS = 3
#: share of the speed carried that should be left over; assumption
SPEED_IN_HAND = 1.15


@dataclass(frozen=True, slots=True, kw_only=True)
class Hill:
    """One critical hill. at_m: on the round; run_up_m_per_s: least speed at the foot by engine (walking pace = needs
    none, None = no speed does it), run_up_good_m_per_s and run_up_poor_m_per_s with the grip at the ends of what is
    known; carried_m_per_s: speed that reaches the foot, said or the model's; held_by: what holds the model back before
    it.
    """

    number: int
    hill: CriticalHill
    stage: int
    at_m: float
    grades: Grades
    run_up_m_per_s: float | None
    run_up_good_m_per_s: float | None
    run_up_poor_m_per_s: float | None
    carried_m_per_s: float
    carried_said: bool
    held_by: str

    @property
    def needs_run_up(self) -> bool:
        return needs_run_up(self.run_up_m_per_s)

    @property
    def limit(self) -> str:
        """What limits it: "engine", "grip", "wheelie", or "none" when the bike walks up."""
        return "none" if self.hill.grade <= self.grades.steepest else self.grades.limit


def grips_of(given: DriveInput, ground: str) -> tuple[float, float, float]:
    """Drive grip on hills of a ground, low, likely, high [1], after the climbs that were tried, with the tyre that is
    in.
    """
    low, high = grip_range(ground)
    known, tyre = given.learned.grip.get(ground, Grip(low=low, high=high)), given.lap.ride_input.tyre_on(ground)
    return known.low * tyre, known.likely(GROUND[ground][2]) * tyre, known.high * tyre


def _judge(given: DriveInput, ride_input: RideInput, number: int, stage: int, hill: CriticalHill) -> Hill:
    course, share = given.lap.around.courses[stage], given.lap.power_shares[stage]
    ramp = ramp_of(course, share, ride_input, at_m=hill.at_m, length_m=hill.length_m)
    climbs = climber(ramp, ride_input)
    at = float(given.lap.around.starts_m[stage]) + hill.at_m
    foot = given.lap.around.step_at(at)
    before = int(given.lap.whole.limit[max(foot - 1, 0)])
    carried, grips = hill.entry_speed_m_per_s, grips_of(given, hill.ground)
    return Hill(
        number=number,
        hill=hill,
        stage=stage,
        at_m=at,
        grades=steepest(
            ride_input,
            ramp.rows[ramp.surface[0]],
            power_share=float(ramp.power_share.mean() / ride_input.power_scale),
            grips=grips,
        ),
        run_up_m_per_s=run_up(climbs),
        run_up_good_m_per_s=run_up(climbs, grips[2]),
        run_up_poor_m_per_s=run_up(climbs, grips[0]),
        carried_m_per_s=float(given.lap.whole.speed_m_per_s[foot]) if carried is None else carried,
        carried_said=carried is not None,
        held_by={CORNER: "corner", BRAKE: "corner", PACE: "pace"}.get(before, "power"),
    )


def hills(given: DriveInput) -> list[Hill]:
    """The hills of the round in order."""

    def make() -> list[Hill]:
        found = [
            (float(given.lap.around.starts_m[i]) + h.at_m, i, h)
            for i, s in enumerate(given.lap.around.given)
            for h in s.hills
        ]
        ordered = sorted(found, key=lambda f: f[0])
        return [_judge(given, given.lap.ride_input, n, i, h) for n, (_at, i, h) in enumerate(ordered, start=1)]

    return given.lap.cache.get("hills", (given.lap, given.learned.grips), make)


def pairs(given: DriveInput) -> list[tuple[int, int, bool]]:
    """Pairs of sprockets to compare hills with: front, rear, in the box. Owned rear ones with this front, and the next
    ones to buy; at most seven.
    """
    setup, parts = given.setup, given.box
    front, now = setup.front_sprocket_teeth, setup.rear_sprocket_teeth
    owned = {round(v) for v in parts.owned("rear_sprocket_teeth")}
    rears = sorted(
        owned | {now - 2, now - 1, now, now + 1, now + 2}, key=lambda z: (z != now, z not in owned, abs(z - now))
    )[:7]
    return [(front, z, z == now or bool(is_owned(parts, "rear_sprocket_teeth", z))) for z in sorted(rears)]


def run_ups(given: DriveInput) -> list[tuple[tuple[int, int, bool], list[float | None]]]:
    """Run-up needed [m/s] at each hill with each pair of `pairs`."""
    now = given.setup.rear_sprocket_teeth / given.setup.front_sprocket_teeth

    def one(pair: tuple[int, int, bool]) -> list[float | None]:
        ride_input = with_gearing(given.lap.ride_input, pair[1] / pair[0] / now)
        key = replace(given.lap, ride_input=ride_input)
        return given.lap.cache.get(
            "run_ups",
            key,
            lambda: [
                run_up(
                    climber(
                        ramp_of(
                            given.lap.around.courses[h.stage],
                            given.lap.power_shares[h.stage],
                            ride_input,
                            at_m=h.hill.at_m,
                            length_m=h.hill.length_m,
                        ),
                        ride_input,
                    )
                )
                for h in hills(given)
            ],
        )

    return [(pair, one(pair)) for pair in pairs(given)]
