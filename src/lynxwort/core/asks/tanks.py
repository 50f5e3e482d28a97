"""Tanks and packs that could hold what is wanted: what each gives, weighs and moves; power modes of a motor."""

from collections.abc import Iterator
from dataclasses import dataclass
from math import exp

from scipy.optimize import brentq

from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.model.bike import Electric
from lynxwort.core.model.fitted import pack_of, seat_up_of, tank_of
from lynxwort.core.model.setup import Setup
from lynxwort.core.physics.reach import stops
from lynxwort.core.stations.range.candidates import most_sold
from lynxwort.core.stations.range.chance import chance_of, wanted
from lynxwort.core.stations.range.input import RangeInput
from lynxwort.core.tunables import TUNABLES, is_owned, move

TUNABLE = {"fuel": "tank_capacity_m3", "energy": "pack_energy_j"}
#: steps above what is wanted that are looked at when nothing owned holds it
MORE_STEPS = 3


@dataclass(frozen=True, slots=True, kw_only=True)
class FittedStore:
    """One tank or pack, filled or charged full. holds [m3 or J]; unusable [m3 or J]; chance to finish; reach_m:
    distance on one filling with the wanted certainty; bike_kg: with it full, no rider; front_full_share, _empty: of the
    bike alone; sag: rear and front race sag full and empty [m]; seat_up_m: how much higher the seat; owned: in the box,
    None when it is fitted; enough: meets the wanted certainty; cost, fitting_s: as said of it.
    """

    name: str
    holds: float
    unusable: float
    chance: float
    reach_m: float
    bike_kg: float
    front_full_share: float
    front_empty_share: float
    rear_sag_full_m: float
    rear_sag_empty_m: float
    front_sag_full_m: float
    front_sag_empty_m: float
    seat_up_m: float
    lap_time_s: float
    fitted: bool
    owned: bool | None
    enough: bool
    cost: float | None
    fitting_s: float | None


def reach_m(up: Upstream) -> float:
    """Distance [m] that one filling lasts with the wanted certainty, lap upon lap of this race's round at its pace."""
    lap_m = float(up.around.starts_m[-1])
    usable, certainty = up.supply.store.aboard - up.supply.store.unusable, up.inputs.race.certainty
    if usable <= 0.0:
        return 0.0

    def excess(distance_m: float) -> float:
        whole, rest = divmod(distance_m / lap_m, 1.0)
        pieces = [up.supply.round_use] * int(whole) + ([up.supply.round_use * rest] if rest > 1e-9 else [])
        return stops.chance_of(usable, (), (pieces,), up.supply.factor, most=usable) - certainty

    likely = lap_m * usable / (up.supply.round_use * up.supply.factor.median)
    return float(brentq(excess, 0.02 * likely, 3.0 * likely * exp(up.supply.factor.log_sd), xtol=1.0))


def _candidates(up: Upstream) -> Iterator[float]:
    """What could be fitted: as it is, what fits, what is in the box, and the next steps that would be enough."""
    store, setup, inputs = up.supply.store, up.inputs.setup, up.inputs
    tunable = TUNABLE[store.kind]
    yield getattr(setup, tunable)
    engine = inputs.bike.engine
    yield from (
        [p.energy_j for p in engine.packs]
        if isinstance(engine, Electric)
        else [t.capacity_m3 for t in inputs.bike.frame.other_tanks]
    )
    yield from inputs.parts.owned(tunable)
    step, most = TUNABLES[tunable].step, most_sold(tunable, inputs.bike.frame)
    need = wanted(RangeInput.of(up))
    if store.kind == "energy":
        need = (need - store.unusable) / (1.0 - store.unusable / store.capacity)
    first = -(-need * (1.0 - 1e-9) // step) * step
    yield from (v for v in (round(first + k * step, 9) for k in range(MORE_STEPS)) if v <= most)


def full(up: Upstream, holds: float) -> Setup:
    """The setup with a tank or pack of this size, full."""
    setup = move(up.inputs.setup, TUNABLE[up.supply.store.kind], holds)
    return setup.model_copy(update={"fuel_fill_m3": None} if up.supply.store.kind == "fuel" else {"charge_share": None})


def _holder(up: Upstream, holds: float) -> FittedStore:
    setup = full(up, holds)
    made = up.with_setup(setup)
    store, engine = made.supply.store, up.inputs.bike.engine
    fuel = store.kind == "fuel"
    ends = (store.aboard, store.unusable) if fuel else (0.0, 0.0)
    alone = [made.loaded.loads(f, with_rider=False) for f in ends]
    rear, front = ([made.loaded.sag_m(end, race=True, fuel_m3=f) for f in ends] for end in ("rear", "front"))
    fits = tank_of(up.inputs.bike.frame, setup) if fuel else pack_of(engine, holds)
    fitted = abs(holds - up.supply.store.capacity) < 1e-6 * holds
    chance = float(chance_of(RangeInput.of(made), store.aboard)[0])
    return FittedStore(
        name="" if fits is None else fits.name,
        holds=holds,
        unusable=store.unusable,
        chance=chance,
        reach_m=reach_m(made),
        bike_kg=alone[0].total_kg,
        front_full_share=alone[0].front_kg / alone[0].total_kg,
        front_empty_share=alone[1].front_kg / alone[1].total_kg,
        rear_sag_full_m=rear[0],
        rear_sag_empty_m=rear[1],
        front_sag_full_m=front[0],
        front_sag_empty_m=front[1],
        seat_up_m=seat_up_of(up.inputs.bike, setup),
        lap_time_s=made.lap.whole.lap_time_s,
        fitted=fitted,
        owned=None if fitted else is_owned(up.inputs.parts, TUNABLE[store.kind], holds),
        enough=wanted(RangeInput.of(made)) <= store.aboard + 1e-9,
        cost=fits.cost if fits else None,
        fitting_s=fits.fitting_s if fits else None,
    )


def fitted_stores(up: Upstream) -> list[FittedStore]:
    """Tanks or packs side by side, smallest first."""
    found: dict[float, FittedStore] = {}
    for value in _candidates(up):
        if round(value, 7) not in found:
            found[round(value, 7)] = _holder(up, value)
    return [found[k] for k in sorted(found)]


def smallest(rows: list[FittedStore]) -> FittedStore | None:
    """The smallest that does it: the one fitted, then the owned, then to buy."""
    enough = [h for h in rows if h.enough]
    return min(enough, key=lambda h: (not (h.fitted or h.owned), h.holds), default=None)


@dataclass(frozen=True, slots=True, kw_only=True)
class Mode:
    """A power mode: number; share of the highest power; lap_time_s; energy_j of the race, median; chance to finish;
    short_m: where it will not pull.
    """

    number: int
    share: float
    lap_time_s: float
    energy_j: float
    chance: float
    reach_m: float
    fitted: bool


def modes(up: Upstream) -> list[Mode]:
    """The motor's power modes on this race; empty for an engine that burns fuel."""
    engine = up.inputs.bike.engine
    if not isinstance(engine, Electric):
        return []
    found = []
    for k, share in enumerate(engine.mode_power_shares):
        made = up.with_setup(up.inputs.setup.model_copy(update={"power_mode": k + 1}))
        energy = (
            sum(float(p.used[-1]) * p.laps for p in made.supply.pieces(made.clock.laps)) * made.supply.factor.median
        )
        found.append(
            Mode(
                number=k + 1,
                share=share,
                lap_time_s=made.lap.whole.lap_time_s,
                energy_j=energy,
                chance=float(chance_of(RangeInput.of(made), made.supply.store.aboard)[0]),
                reach_m=reach_m(made),
                fitted=k + 1 == (up.inputs.setup.power_mode or 1),
            )
        )
    return found
