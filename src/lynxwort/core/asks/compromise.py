"""Several riders on one bike: what each wants, the springs and preload that are least wrong for all, and what is turned
for each.
"""

from dataclasses import dataclass
from typing import Any

from lynxwort.core.derived.clock import turned_between, turning_time
from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.evaluate import evaluate
from lynxwort.core.model.race import Entry
from lynxwort.core.model.rider import Rider
from lynxwort.core.model.setup import QUICK, Setup
from lynxwort.core.physics.chassis.sag import SagTargets
from lynxwort.core.report import Report
from lynxwort.core.stations.chassis.input import ChassisInput
from lynxwort.core.stations.chassis.springs import PRELOAD_EXISTS_M, PRELOAD_FIELD, RATE_FIELD, spring_choices
from lynxwort.core.tunables import is_owned, tunables_of

#: what a tape still shows [m]
READ_M = 5e-4


@dataclass(frozen=True, slots=True, kw_only=True)
class RiderSag:
    """One rider on the bike: race sag as it stands and with the compromise, and how far each lies outside its band
    [m].
    """

    name: str
    mass_kg: float
    now_m: float
    off_now_m: float
    then_m: float
    off_then_m: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Compromise:
    """The rate [N/m] and preload [m] whose worst race sag over all riders is least outside its band."""

    end: str
    rate_n_per_m: float
    preload_m: float
    owned: bool
    worst_m: float
    riders: tuple[RiderSag, ...]


def _off(t: SagTargets, sag_m: float) -> float:
    return max(t.race_low_m - sag_m, sag_m - t.race_high_m, 0.0)


def _sag(up: Upstream, end: str, setup: Setup, rider: Rider) -> float:
    return up.springs.sag(end, setup, rider, 0.5 * setup.fill_m3, up.springs.offsets.mean)


def compromise(up: Upstream, end: str) -> Compromise | None:
    """The least wrong springs for all riders of the document; None with one rider or a fork on air.

    Free sag counts as half of race sag: it is the same for all riders. Rates are those that suit one of them, and
    those in the box.
    """
    riders, setup = up.inputs.riders, up.inputs.setup
    if len(riders) < 2 or (end == "front" and up.inputs.bike.frame.fork_springing == "air"):
        return None
    rate_field, preload_field = RATE_FIELD[end], PRELOAD_FIELD[end]
    least, most = PRELOAD_EXISTS_M[end]
    rates = {
        getattr(setup, rate_field),
        *up.inputs.parts.owned(rate_field),
        *(c.rate_n_per_m for c in spring_choices(ChassisInput.of(up), end)),
    }
    ends = min(riders, key=lambda r: r.mass_in_gear_kg), max(riders, key=lambda r: r.mass_in_gear_kg)
    t = up.springs.targets(end, up.inputs.setup)

    def cost(made: Setup) -> float:
        free = up.springs.sag(end, made, None, 0.5 * made.fill_m3, up.springs.offsets.mean)
        return max(_off(t, _sag(up, end, made, r)) for r in ends) + 0.5 * max(
            t.free_low_m - free, free - t.free_high_m, 0.0
        )

    best: tuple[tuple[float, bool, float], dict[str, Any]] | None = None
    for rate in sorted(rates):
        straight = (
            {}
            if abs(rate - getattr(setup, rate_field)) < 1.0
            else {f"{'fork' if end == 'front' else 'shock'}_second_rate_n_per_m": None}
        )
        for mm in range(round(least * 1000), round(most * 1000) + 1):
            update = {rate_field: rate, preload_field: mm / 1000.0} | straight
            order = (
                round(cost(setup.model_copy(update=update)), 5),
                not is_owned(up.inputs.parts, rate_field, rate),
                abs(rate - getattr(setup, rate_field)),
            )
            if best is None or order < best[0]:
                best = order, update
    assert best is not None
    rate, preload = best[1][rate_field], best[1][preload_field]
    then = setup.model_copy(update=best[1])
    owned = bool(is_owned(up.inputs.parts, rate_field, rate)) or rate == getattr(setup, rate_field)
    rows = []
    for r in riders:
        now_m, then_m = _sag(up, end, setup, r), _sag(up, end, then, r)
        rows.append(
            RiderSag(
                name=r.name,
                mass_kg=r.mass_in_gear_kg,
                now_m=now_m,
                off_now_m=_off(t, now_m),
                then_m=then_m,
                off_then_m=_off(t, then_m),
            )
        )
    return Compromise(
        end=end,
        rate_n_per_m=rate,
        preload_m=preload,
        owned=owned,
        worst_m=max(r.off_then_m for r in rows),
        riders=tuple(rows),
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class EndFor:
    """One end under one rider, half the fuel in. race_m, free_m: sags as it is turned for him [m]; off_m: how far race
    sag lies outside its band; wanted_m: nearest preload that brings race sag into its band or nearest to it, this
    spring left in, None on air; turns: of ring or cap from the setup's preload to it, in is +, None without a
    pitch; then_m, then_free_m: sags with it; spring: what free sag then says of the spring: "right", "soft" or "stiff".
    """

    end: str
    race_m: float
    free_m: float
    off_m: float
    preload_m: float
    wanted_m: float | None
    turns: float | None
    then_m: float
    then_free_m: float
    off_then_m: float
    spring: str

    @property
    def is_off(self) -> bool:
        """Whether a tape would show race sag outside its band now."""
        return self.off_m >= READ_M

    @property
    def stays_off(self) -> bool:
        """The same with the preload that suits."""
        return self.off_then_m >= READ_M

    @property
    def is_turned(self) -> bool:
        """Whether another preload suits than the one that is in."""
        return self.wanted_m is not None and abs(self.wanted_m - self.preload_m) > 1e-9


@dataclass(frozen=True, slots=True, kw_only=True)
class OnLeg:
    """What one rider has on one of his legs. turned: (field, the setup's value, his) [SI]; also: what else."""

    leg: int
    turned: tuple[tuple[str, float, float], ...]
    also: str


@dataclass(frozen=True, slots=True, kw_only=True)
class TurnedFor:
    """What is turned for one rider of a team. turned: (field, the setup's value, his) [SI]; time_s: from the setup to
    his; also: what else; legs: those of his legs on which he has something else than on the others.
    """

    rider: int
    name: str
    mass_kg: float
    turned: tuple[tuple[str, float, float], ...]
    time_s: float
    also: str
    legs: tuple[OnLeg, ...]
    ends: tuple[EndFor, ...]


def quick_fields(up: Upstream) -> tuple[str, ...]:
    """What can be turned at a hand-over on this bike, in the stations' order."""
    return tuple(t for t in tunables_of(up.inputs.bike) if t in QUICK)


def turned_for(up: Upstream) -> list[TurnedFor]:
    """What is turned for each rider of the team, and what would suit him with the spring that is in."""
    setup = up.inputs.setup
    found = []
    for n, rider in enumerate(up.inputs.riders):
        his = setup.for_rider(rider.name)
        found.append(
            TurnedFor(
                rider=n,
                name=rider.name,
                mass_kg=rider.mass_in_gear_kg,
                turned=tuple(turned_between(setup, his)),
                time_s=turning_time(setup, his),
                also=setup.also_for(rider.name),
                legs=tuple(
                    OnLeg(
                        leg=leg,
                        turned=tuple(turned_between(setup, setup.for_rider(rider.name, leg))),
                        also=setup.also_for(rider.name, leg),
                    )
                    for leg in setup.own_legs(rider.name)
                ),
                ends=tuple(_end_for(up, end, his, rider) for end in ("front", "rear")),
            )
        )
    return found


def _end_for(up: Upstream, end: str, his: Setup, rider: Rider) -> EndFor:
    field, (least, most), t = PRELOAD_FIELD[end], PRELOAD_EXISTS_M[end], up.springs.targets(end, his)
    race, now, mean = _sag(up, end, his, rider), getattr(his, field), up.springs.offsets.mean
    on_air = end == "front" and up.inputs.bike.frame.fork_springing == "air"

    def made(preload_m: float) -> Setup:
        return his.model_copy(update={field: preload_m})

    def wrong(preload_m: float) -> tuple[float, float]:
        # to the millimetre: nobody reads a tape closer
        return round(_off(t, _sag(up, end, made(preload_m), rider)), 3), abs(preload_m - now)

    tried = [now, *(mm / 1000.0 for mm in range(round(least * 1000), round(most * 1000) + 1))]
    wanted = None if on_air else min(tried, key=wrong)
    then = his if wanted is None else made(wanted)
    free, then_free = (up.springs.sag(end, s, None, 0.5 * s.fill_m3, mean) for s in (his, then))
    then_race, frame = _sag(up, end, then, rider), up.inputs.bike.frame
    pitch = frame.fork_preload_pitch_m if end == "front" else frame.shock_preload_pitch_m
    return EndFor(
        end=end,
        race_m=race,
        free_m=free,
        off_m=_off(t, race),
        preload_m=now,
        wanted_m=wanted,
        turns=(wanted - getattr(up.inputs.setup, field)) / pitch if wanted is not None and pitch else None,
        then_m=then_race,
        then_free_m=then_free,
        off_then_m=_off(t, then_race),
        # little free sag beside right race sag is a soft spring squeezed hard
        spring="soft" if then_free < t.free_low_m else "stiff" if then_free > t.free_high_m else "right",
    )


def report_for(up: Upstream, rider: int) -> Report:
    """The bike as one rider of the team has it: all that the stations say under him."""
    race = up.inputs.race.model_copy(update={"relay": None, "entries": (Entry(rider=rider),)})
    inputs = up.inputs.model_copy(
        update={"race": race, "setup": up.inputs.setup.for_rider(up.inputs.riders[rider].name)}
    )
    return evaluate(inputs, cache=up.around.cache)
