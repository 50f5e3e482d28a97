"""Several riders on one bike: what each wants, and the springs and preload that are least wrong for all."""

from dataclasses import dataclass
from typing import Any

from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.model.rider import Rider
from lynxwort.core.model.setup import Setup
from lynxwort.core.stations.chassis.input import ChassisInput
from lynxwort.core.stations.chassis.springs import PRELOAD_EXISTS_M, PRELOAD_FIELD, RATE_FIELD, spring_choices
from lynxwort.core.tunables import is_owned


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


def _off(up: Upstream, end: str, sag_m: float) -> float:
    t = up.springs.targets(end, up.inputs.setup)
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
        return max(_off(up, end, _sag(up, end, made, r)) for r in ends) + 0.5 * max(
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
                off_now_m=_off(up, end, now_m),
                then_m=then_m,
                off_then_m=_off(up, end, then_m),
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
