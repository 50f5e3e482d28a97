"""Drive's drawings: the chain's run, how the lap divides, the lap metre by metre."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from lynxwort.core.derived.along import WHOLE, Part, runs, thin
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.model.defaults import GROUND
from lynxwort.core.model.race import GROUNDS
from lynxwort.core.physics.course.prepare import rise_over_run
from lynxwort.core.physics.drive.chain import ChainPose, pitch_radius, poses, swingarm_of, tightest_height
from lynxwort.core.physics.drive.kernel import LIMITS
from lynxwort.core.physics.drive.lift import BANDS
from lynxwort.core.stations.drive.figures import LIMIT_GROUPS
from lynxwort.core.stations.drive.hills import hills
from lynxwort.core.stations.drive.input import DriveInput
from lynxwort.core.stations.drive.pulls import drops, gear_spans, held_back, pulls
from lynxwort.core.stations.station import Views

#: lengths of a row that one may ask for [m]; 0 = every step of the simulation
ROW_LENGTHS_M = (0.0, 20.0, 100.0, 500.0)


def chain_poses(given: DriveInput, sag_m: float) -> list[ChainPose]:
    """The drive topped out, at race sag, where it is tightest and at full travel; empty when no chain fits."""
    setup, frame = given.setup, given.frame
    fit = given.chain_fit
    if fit is None:
        return []
    arm = swingarm_of(frame)
    arm = replace(arm, length_m=arm.length_m + fit.axle_move_m)
    heights = {
        "topped_out": arm.axle_low_m,
        "race_sag": min(arm.axle_low_m + sag_m, arm.axle_high_m),
        "tightest": tightest_height(arm),
        "full_travel": arm.axle_high_m,
    }
    return poses(arm, setup.front_sprocket_teeth, setup.rear_sprocket_teeth, heights, play_m=frame.chain_play_m)


@dataclass(frozen=True, slots=True, kw_only=True)
class Habit:
    """How a lap's time (or energy) divides. name: of the division; parts: (code, share [1]), in order, summing to 1."""

    name: str
    parts: tuple[tuple[str, float], ...]


RPM_BAND = 1500.0


def habits(given: DriveInput) -> list[Habit]:
    """The lap's time by what limits, gear, revs and throttle, and the engine's work by where it went."""
    ride, total = given.lap.whole, given.lap.whole.lap_time_s
    time = ride.time_s

    def by(index: np.ndarray, names: Sequence[str]) -> tuple[tuple[str, float], ...]:
        sums = np.bincount(index, weights=time, minlength=len(names)) / total
        return tuple((n, float(s)) for n, s in zip(names, sums, strict=True) if s > 0)

    groups = list(LIMIT_GROUPS)
    table = np.array([next(k for k, g in enumerate(groups) if n in LIMIT_GROUPS[g]) for n in LIMITS])
    found = [Habit(name="limit", parts=by(table[ride.limit], groups))]
    if len(given.lap.ride_input.overall_ratios) > 1:
        found.append(
            Habit(
                name="gear",
                parts=by(ride.gear - 1, [str(g + 1) for g in range(len(given.lap.ride_input.overall_ratios))]),
            )
        )
    band = np.minimum(ride.crank_rad_per_s * 60.0 / (2.0 * np.pi) / RPM_BAND, 19).astype(int)
    found.append(Habit(name="rpm", parts=by(band, [f"{RPM_BAND * k:.0f}" for k in range(20)])))
    lift = given.lap.lift
    if lift is not None:
        found.append(
            Habit(
                name="lift",
                parts=by(
                    np.clip(np.searchsorted(BANDS[1:], lift, side="right"), 0, 4),
                    ("eighth", "quarter", "half", "three_quarters", "full"),
                ),
            )
        )
    accounts = ride.accounts_j
    losses = {
        n: max(accounts[n], 0.0)
        for n in ("rolling", "air", "corner", "brake", "engine_brake", "slip", "clutch", "transmission")
    }
    whole = sum(losses.values())
    found.append(Habit(name="energy", parts=tuple((n, v / whole) for n, v in losses.items())))
    return found


#: stretches that are told apart by what rules them, and the share of one from which power or grip rules it (assumption)
STRETCHES, NOTABLE_SHARE = 260, 0.3
#: limit -> which of three groups rules; a gear change counts with corners and pace
RULED = {limit: "pace" if group == "shift" else group for group, limits in LIMIT_GROUPS.items() for limit in limits}


def ruled_by(given: DriveInput, part: Part = WHOLE) -> list[tuple[float, float, str]]:
    """Stretches of the round, or of a part of it, by what rules them: (from m, to m, "power", "grip" or "pace").

    A stretch counts as held up by power or grip when that rules a good part of it; else by corners and pace.
    """
    names = sorted(set(RULED.values()))
    table = np.array([names.index(RULED[n]) for n in LIMITS])
    limit, course = given.lap.whole.limit, given.lap.around.whole
    first, last = (int(share * limit.size) for share in part)
    bins = np.array_split(table[limit[first:last]], min(STRETCHES, last - first))
    shares = np.array([np.bincount(b, minlength=len(names)) / b.size for b in bins])
    notable = [names.index("power"), names.index("grip")]
    most = np.where(
        shares[:, notable].max(axis=1) >= NOTABLE_SHARE,
        np.take(notable, shares[:, notable].argmax(axis=1)),
        names.index("pace"),
    )
    begins, step = float(course.distance_m[first]), (course.distance_m[last] - course.distance_m[first]) / len(bins)
    return [(begins + a * step, begins + b * step, names[c]) for a, b, c in runs(most)]


def speed_along(given: DriveInput, part: Part = WHOLE) -> np.ndarray:
    """Speed by the model along the round [m/s], or a part of it: shape (POINTS,)."""
    return thin(given.lap.whole.speed_m_per_s, part=part)


@dataclass(frozen=True, slots=True, kw_only=True)
class MetreRow:
    """A stretch of the round: means over its time, but what limits it longest. speed is its length over its time;
    throttle_share: of full opening, None of a motor; power_share: of what full throttle gives there.
    """

    from_m: float
    to_m: float
    ground: str
    grade: float
    speed_m_per_s: float
    gear: int
    rpm: float
    throttle_share: float | None
    power_share: float
    limit: str


def metre_rows(given: DriveInput, *, length_m: float, from_m: float = 0.0, most: int = 1_000_000) -> list[MetreRow]:
    """Rows of this length [m] from a place of the round on."""
    course, ride, lift = given.lap.around.whole, given.lap.whole, given.lap.lift
    per = max(round(length_m / float(ride.step_m[0])), 1)
    first = given.lap.around.step_at(from_m) // per * per
    last = min(first + per * most, course.sine.size)
    cut = slice(first, last)
    time, row = ride.time_s[cut], np.arange(last - first) // per
    count = int(row[-1]) + 1
    total = np.bincount(row, weights=time, minlength=count)

    def mean(values: np.ndarray, weights: np.ndarray = time) -> np.ndarray:
        return np.bincount(row, weights=values[cut] * weights, minlength=count) / np.bincount(
            row, weights=weights, minlength=count
        )

    def longest(codes: np.ndarray, kinds: int) -> np.ndarray:
        spent = np.zeros((count, kinds))
        np.add.at(spent, (row, codes[cut]), time)
        return spent.argmax(axis=1)

    starts = first + per * np.arange(count)
    ends = np.minimum(starts + per, course.sine.size)
    low, high = course.distance_m[starts], course.distance_m[ends]
    # where stages meet heights jump, so the grade is the mean of the steps' own
    sine = mean(course.sine, np.ones(time.size))
    ground, gear, limit = longest(course.ground, len(GROUNDS)), longest(ride.gear, 16), longest(ride.limit, len(LIMITS))
    rpm, power = mean(ride.crank_rad_per_s) * 60.0 / (2.0 * np.pi), mean(ride.throttle_share)
    opened = None if lift is None else mean(lift)
    return [
        MetreRow(
            from_m=float(low[i]),
            to_m=float(high[i]),
            ground=GROUNDS[int(ground[i])],
            grade=float(rise_over_run(sine[i])),
            speed_m_per_s=float((high[i] - low[i]) / total[i]),
            gear=int(gear[i]),
            rpm=float(rpm[i]),
            throttle_share=None if opened is None else float(opened[i]),
            power_share=float(power[i]),
            limit=LIMITS[int(limit[i])],
        )
        for i in range(count)
    ]


@dataclass(frozen=True, kw_only=True)
class Pull:
    """What each gear gives at the wheel at full throttle [N] over road speeds [m/s], shape (n,) each, and what holds
    back on two grounds; spans: from where each gear pulls to the limiter [m/s]; drops: revs lost at each upshift [rpm];
    gearing: what told apart from another setup's changes it.
    """

    speed_m_per_s: np.ndarray
    forces_n: tuple[np.ndarray, ...]
    held_n: dict[str, np.ndarray]
    spans_m_per_s: tuple[tuple[float, float], ...]
    drops_rpm: tuple[float, ...]
    gearing: tuple[tuple[float, ...], float]


def pull(given: DriveInput, count: int = 240) -> Pull:
    """Pull against resistance on level hardpack and sand, in the mean air of the course."""
    ride_input, spans = given.lap.ride_input, gear_spans(given.lap.ride_input)
    speed = np.linspace(0.3, 1.1 * spans[-1][1], count)
    return Pull(
        speed_m_per_s=speed,
        forces_n=tuple(pull_over(given, speed)),
        held_n={g: held_back(ride_input, speed, GROUND[g]) for g in ("hardpack", "sand")},
        spans_m_per_s=tuple(spans),
        drops_rpm=tuple(drops(given)),
        gearing=(ride_input.overall_ratios, ride_input.mode_share),
    )


def pull_over(given: DriveInput, speed_m_per_s: np.ndarray) -> list[np.ndarray]:
    """What each gear gives at the wheel [N] over these speeds."""
    return pulls(given.lap.ride_input, speed_m_per_s, float(given.lap.power_share.mean()))


def held_at(given: DriveInput, at_m: float, speed_m_per_s: np.ndarray) -> tuple[np.ndarray, float, float]:
    """What holds back at a place of the round [N] over these speeds; the speed that the model rides there [m/s], and
    what holds back at it [N].
    """
    course, i = given.lap.around.whole, given.lap.around.step_at(at_m)
    held, ridden = (
        held_back(given.lap.ride_input, speed_m_per_s, course.rows[course.surface[i]], float(course.sine[i])),
        float(given.lap.whole.speed_m_per_s[i]),
    )
    return held, ridden, float(np.interp(ridden, speed_m_per_s, held))


@dataclass(frozen=True, slots=True, kw_only=True)
class ChainView:
    """The chain through the travel. sprocket_m: ahead of and above the pivot; radii_m: of the front and the rear
    sprocket.
    """

    poses: tuple[ChainPose, ...]
    sprocket_m: tuple[float, float]
    radii_m: tuple[float, float]


def chain(up: Upstream) -> ChainView | None:
    """The drive through the travel of this bike as it stands; None when no chain fits."""
    given = DriveInput.of(up)
    found, arm = chain_poses(given, up.loaded.race_sag("rear")), swingarm_of(given.frame)
    radii = pitch_radius(given.setup.front_sprocket_teeth), pitch_radius(given.setup.rear_sprocket_teeth)
    return (
        ChainView(poses=tuple(found), sprocket_m=(arm.sprocket_ahead_m, arm.sprocket_above_m), radii_m=radii)
        if found
        else None
    )


def geared(given: DriveInput) -> bool:
    """Whether there is more than one gear to tell of."""
    return len(given.lap.ride_input.overall_ratios) > 1


def spacing_m(given: DriveInput) -> float:
    """Length of the simulation's own steps [m]."""
    return given.lap.around.whole.spacing_m


def power_left(given: DriveInput) -> float:
    """Share of standard power [1] that the race's air leaves, mean of the round."""
    return float(given.lap.power_share.mean())


VIEWS: Views = {"pull": pull, "habits": habits, "chain": chain, "ruled": ruled_by, "speed": speed_along, "hills": hills}
