"""Critical hills of the race: what limits there, the run-up needed, per sprocket too."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from lynxwort.core.cache import Key
from lynxwort.core.coupling.build import figure, step
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.learned.grip import Grip
from lynxwort.core.model.defaults import GROUND, WALKING_SPEED_M_PER_S
from lynxwort.core.model.race import CriticalHill
from lynxwort.core.physics.drive.hills import Grades, climber, grip_range, needs_run_up, ramp_of, run_up, steepest, with_gearing
from lynxwort.core.physics.drive.kernel import BRAKE, CORNER, PACE
from lynxwort.core.physics.drive.simulation import RideInput
from lynxwort.core.report import Figure, Finding, Severity
from lynxwort.core.units.detents import is_owned

#: figures are kept for this many hills, in the order of the round
MOST_HILLS = 3
#: share of the speed carried that should be left over; assumption
SPEED_IN_HAND = 1.15


@dataclass(frozen=True, slots=True, kw_only=True)
class Hill:
    """One critical hill. at_m: on the round; run_up_m_per_s: least speed at the foot by engine (walking pace = needs none, None = no speed
    does it), run_up_good_m_per_s and run_up_poor_m_per_s with the grip at the ends of what is known; carried_m_per_s: speed that reaches the
    foot, said or the model's; held_by: what holds the model back before it.
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


def grips_of(work: Upstream, ground: str) -> tuple[float, float, float]:
    """Drive grip on hills of a ground, low, likely, high [1], after the climbs that were tried."""
    low, high = grip_range(ground)
    known = work.road.seen.grip.get(ground, Grip(low=low, high=high))
    return known.low, known.likely(GROUND[ground][2]), known.high


def _judge(work: Upstream, what: RideInput, number: int, stage: int, hill: CriticalHill) -> Hill:
    course, share = work.around.courses[stage], work.lap.power_shares[stage]
    ramp = ramp_of(course, share, what, at_m=hill.at_m, length_m=hill.length_m)
    climbs = climber(ramp, what)
    at = float(work.around.starts_m[stage]) + hill.at_m
    foot = work.around.step_at(at)
    before = int(work.lap.whole.limit[max(foot - 1, 0)])
    carried, grips = hill.entry_speed_m_per_s, grips_of(work, hill.ground)
    return Hill(
        number=number, hill=hill, stage=stage, at_m=at,
        grades=steepest(what, ramp.rows[ramp.surface[0]], power_share=float(ramp.power_share.mean() / what.power_scale), grips=grips),
        run_up_m_per_s=run_up(climbs), run_up_good_m_per_s=run_up(climbs, grips[2]),
        run_up_poor_m_per_s=run_up(climbs, grips[0]), carried_m_per_s=float(work.lap.whole.speed_m_per_s[foot]) if carried is None else carried,
        carried_said=carried is not None, held_by={CORNER: "corner", BRAKE: "corner", PACE: "pace"}.get(before, "power"),
    )  # fmt: skip


def hills(work: Upstream) -> list[Hill]:
    """The hills of the round in order."""

    def make() -> list[Hill]:
        found = [(float(work.around.starts_m[i]) + h.at_m, i, h) for i, s in enumerate(work.inputs.race.stages) for h in s.hills]
        key = Key(work.around.given, work.day.air, work.lap.what, tuple(sorted((g, k.low, k.high) for g, k in work.road.seen.grip.items())))
        ordered = sorted(found, key=lambda f: f[0])
        return work.cache.get("hills", key, lambda: [_judge(work, work.lap.what, n, i, h) for n, (_at, i, h) in enumerate(ordered, start=1)])

    return work.once("hills", make)


def pairs(work: Upstream) -> list[tuple[int, int, bool]]:
    """Pairs of sprockets to compare hills with: front, rear, in the box. Owned rear ones with this front, and the next ones to buy; at most seven."""
    setup, parts = work.inputs.setup, work.inputs.parts
    front, now = setup.front_sprocket_teeth, setup.rear_sprocket_teeth
    owned = {round(v) for v in parts.owned("rear_sprocket_teeth")}
    rears = sorted(owned | {now - 2, now - 1, now, now + 1, now + 2}, key=lambda z: (z != now, z not in owned, abs(z - now)))[:7]
    return [(front, z, z == now or bool(is_owned(parts, "rear_sprocket_teeth", z))) for z in sorted(rears)]


def run_ups(work: Upstream) -> list[tuple[tuple[int, int, bool], list[float | None]]]:
    """Run-up needed [m/s] at each hill with each pair of `pairs`."""
    now = work.inputs.setup.rear_sprocket_teeth / work.inputs.setup.front_sprocket_teeth

    def one(pair: tuple[int, int, bool]) -> list[float | None]:
        what = with_gearing(work.lap.what, pair[1] / pair[0] / now)
        key = Key(work.around.given, work.day.air, what)
        return work.cache.get("run_ups", key, lambda: [
            run_up(climber(ramp_of(work.around.courses[h.stage], work.lap.power_shares[h.stage], what, at_m=h.hill.at_m, length_m=h.hill.length_m), what))
            for h in hills(work)
        ])  # fmt: skip

    return [(pair, one(pair)) for pair in pairs(work)]


def figures(work: Upstream, sensitivities: Mapping[str, tuple[float, float]]) -> list[Figure]:
    """Limit and run-up of the first hills; what the race has not does not apply. sensitivities: as of coupling.doubt."""
    known = {h.number: h for h in hills(work)}
    made = []
    source = "course simulation of the hill alone; closed-form gradeability (Wong 2008), traction and wheelie limits (Cossalter 2006); grips: from memory"
    for number in range(1, MOST_HILLS + 1):
        h = known.get(number)
        absent: dict[str, Any] = {"status": "not_applicable", "reason": "no_such_hill"} if h is None else {}
        g = None if h is None else h.grades
        grip = None if h is None else work.road.seen.grip.get(h.hill.ground)
        used = () if grip is None else grip.readings
        made.append(figure(
            work, f"drive.hill.{number}.limit", None if g is None else g.steepest,
            low=None if g is None else min(g.engine, g.wheelie, g.grip_low), high=None if g is None else min(g.engine, g.wheelie, g.grip_high),
            formula="least of engine, grip and front wheel at walking pace", source=source, readings=used, basis="calibrated" if used else "computed",
            steps=() if h is None or g is None else (
                step("grade", h.hill.grade, "1", "the hill"), step("engine", min(g.engine, 99.0), "1", "tan(asin(F / (m g sqrt(1 + c^2))) - atan c)"),
                step("grip", min(g.grip, 99.0), "1", "(mu b / L - c) / (1 - mu h / L)"), step("wheel lifts", g.wheelie, "1", "0.9 (L - b) / h"),
            ), **absent))  # fmt: skip
        name, speed = f"drive.hill.{number}.run_up_speed", None if h is None else h.run_up_m_per_s
        spread = None if speed is None else sensitivities.get(name)
        status = absent or ({"status": "unknown"} if h is not None and h.run_up_m_per_s is None else {})
        made.append(figure(
            work, name, speed, low=None if spread is None else max((speed or 0.0) - spread[0], WALKING_SPEED_M_PER_S),
            high=None if spread is None else (speed or 0.0) + spread[1],
            formula="least speed at the foot from which no metre stops it, engine only", source=source + "; range: evaluated at the ends of what is not known",
            inputs=("setup.front_sprocket_teeth", "setup.rear_sprocket_teeth"),
            steps=() if h is None else (*(
                step(name, value, "m/s", words) for name, value, words in (
                    ("good", h.run_up_good_m_per_s, "if it grips at its best"), ("poor", h.run_up_poor_m_per_s, "if at its worst")) if value is not None
            ), step("carried", h.carried_m_per_s, "m/s", "as said" if h.carried_said else "by the model"),), **status))  # fmt: skip
    return made


def _verdict(h: Hill) -> tuple[str, Severity]:
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


def findings(work: Upstream) -> list[Finding]:
    """What to say of each hill that asks for something."""
    found = []
    for h in hills(work):
        code, severity = _verdict(h)
        if not code:
            continue
        number = min(h.number, MOST_HILLS)
        names = (f"drive.hill.{number}.run_up_speed", f"drive.hill.{number}.limit")
        parameters: dict[str, float | str] = {
            "hill": h.hill.name or "unnamed_hill", "ground": h.hill.ground, "carried_speed": h.carried_m_per_s, "grade": h.hill.grade,
            "held_by": f"held_{h.held_by}", "held_grade": h.grades.steepest,
        }  # fmt: skip
        for name, value in (("run_up_speed", h.run_up_m_per_s), ("good_speed", h.run_up_good_m_per_s), ("poor_speed", h.run_up_poor_m_per_s)):
            parameters[name] = "no_speed" if value is None else value
        found.append(
            Finding(station="drive", code=code, severity=severity, at_m=h.at_m + min(10.0, 0.5 * h.hill.length_m), figures=names, parameters=parameters)
        )
    return found
