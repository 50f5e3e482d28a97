"""The valving bench: two settings in percent, and the nearest stack from the shims at hand."""

from collections import Counter
from dataclasses import dataclass

import numpy as np

from lynxwort.core.model.bike import Bike
from lynxwort.core.model.damper import PLACES, StackShim
from lynxwort.core.model.setup import DampingSetup
from lynxwort.core.physics.damping import damper, search, stack
from lynxwort.core.physics.damping.valve import Valve, bent_under
from lynxwort.core.stations.damping.dampers import clicks_of, curve_of, damper_of, facts_of, shims_of
from lynxwort.core.stations.damping.input import DampingInput

#: bands of shaft speed in which two settings are compared [m/s] (DAMPING.md 9)
SPEED_BANDS: dict[str, tuple[float, float]] = {"low": (0.05, 0.2), "middle": (0.4, 1.0), "high": (2.0, 4.0)}
#: which stroke a stack works on
WAY_OF: dict[str, str] = {"base": "compression", "piston": "compression", "rebound": "rebound"}


def in_bands(now: damper.Array, was: damper.Array) -> dict[str, float]:
    """How much more force [1] at low, middle and high shaft speed, mean over each band."""
    found = {}
    for name, (low, high) in SPEED_BANDS.items():
        speeds = np.linspace(low, high, 9)
        found[name] = float((damper.force_at(now, speeds) / damper.force_at(was, speeds)).mean()) - 1.0
    return found


def compare(bike: Bike, now: DampingSetup, was: DampingSetup, end: str) -> dict[str, dict[str, float]]:
    """One setting against another, by stroke and band; end: "fork" or "shock"."""
    a, b = curve_of(bike, now, end), curve_of(bike, was, end)
    return {"compression": in_bands(a.compression_n, b.compression_n), "rebound": in_bands(a.rebound_n, b.rebound_n)}


@dataclass(frozen=True, slots=True, kw_only=True)
class Leaf:
    """One leaf of a stack under pressure, and its highest bending stress."""

    shim: stack.Shim
    stress_pa: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Bent:
    """A stack at the pressure that a shaft speed puts on it. lift_m: of the face's rim; touches: radius [m] and place
    of the lower leaf; wide_crossover: a crossover that never closes; height_m of all shims.
    """

    leaves: tuple[Leaf, ...]
    pressure_pa: float
    lift_m: float
    touches: tuple[tuple[float, int], ...]
    wide_crossover: stack.Shim | None
    height_m: float


def pressure_on(bike: Bike, setup: DampingSetup, end: str, place: str, speed_m_per_s: float) -> float:
    """Pressure [Pa] across the shims of a valve at a shaft speed."""
    curve = curve_of(bike, setup, end)
    return float(
        damper.force_at(
            {"base": curve.across_base_pa, "piston": curve.across_piston_pa, "rebound": curve.across_rebound_pa}[place],
            speed_m_per_s,
        )
    )


def bent(bike: Bike, setup: DampingSetup, end: str, place: str, speed_m_per_s: float) -> Bent:
    """How a stack stands at a shaft speed."""
    built = damper_of(bike, setup, end)
    valve: Valve = getattr(built, place)
    pressure = pressure_on(bike, setup, end, place, speed_m_per_s)
    found, scale = bent_under(valve, pressure, built.footprint)
    plate_of = stack.plate_indices(valve.stack)
    leaves = tuple(
        Leaf(
            shim=s,
            stress_pa=0.0
            if k < 0
            else scale * float(found.stress_pa[0, k]) * s.thickness_m / stack.thickest(valve.stack, k),
        )
        for s, k in zip(valve.stack.shims, plate_of, strict=True)
    )
    last = {k: i for i, k in enumerate(plate_of)}
    pushing = found.contacts.force_n > 1e-3 * max(float(found.contacts.force_n.max(initial=0.0)), 1e-12)
    touches = tuple(
        (float(r), last[int(low)])
        for r, low, on in zip(found.contacts.radius_m, found.contacts.lower, pushing, strict=True)
        if on and low >= 0
    )
    return Bent(
        leaves=leaves,
        pressure_pa=pressure,
        lift_m=scale * float(found.lift_m[0]),
        touches=touches,
        wide_crossover=search.never_closes(valve.stack),
        height_m=valve.stack.height_m,
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class Suggestion:
    """A stack that comes near what was asked. change: of the damper's force [1] at the speed; moves: shims in
    and out.
    """

    shims: tuple[StackShim, ...]
    change: float
    moves: tuple[search.ShimMove, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Answer:
    """What was asked of a stack [1], and what comes nearest. reachable: whether any stack in its place could do it."""

    wanted: float
    reachable: bool
    suggestions: tuple[Suggestion, ...]

    @property
    def best(self) -> float:
        """Change of the force that comes nearest [1]; none without a suggestion."""
        return self.suggestions[0].change if self.suggestions else 0.0

    @property
    def short(self) -> bool:
        """Whether even the nearest misses it by more than a quarter of what was asked (assumption)."""
        return abs(self.best - self.wanted) > 0.25 * abs(self.wanted)


def counted(shims: tuple[stack.Shim, ...]) -> tuple[StackShim, ...]:
    """Shims one by one as equal ones counted."""
    found: list[StackShim] = []
    for s in shims:
        if found and (found[-1].diameter_m, found[-1].thickness_m) == (s.diameter_m, s.thickness_m):
            found[-1] = found[-1].model_copy(update={"count": found[-1].count + 1})
        else:
            found.append(StackShim(diameter_m=s.diameter_m, thickness_m=s.thickness_m, count=1))
    return tuple(found)


def _force(
    given: DampingInput,
    setup: DampingSetup,
    end: str,
    way: str,
    speed_m_per_s: float,
    scales: tuple[float, float, float] = (1.0, 1.0, 1.0),
) -> float:
    curve = damper.curve(damper_of(given.bike, setup, end), *clicks_of(setup, end), scales)
    return float(damper.force_at(curve.compression_n if way == "compression" else curve.rebound_n, speed_m_per_s))


def answer(
    given: DampingInput,
    end: str,
    place: str,
    change: float,
    speed_m_per_s: float,
    owned: tuple[StackShim, ...] | None = None,
) -> Answer:
    """Stacks for one valve of "fork" or "shock" that change the whole damper's force by `change` [1] at a shaft speed.
    owned: shims to put in, the box's when None; two more of each size in the stack when there are none.
    """
    setup, way = given.setup, WAY_OF[place]
    now = _force(given, setup, end, way, speed_m_per_s)

    def scaled(x: float) -> float:
        return _force(given, setup, end, way, speed_m_per_s, tuple(x if p == place else 1.0 for p in PLACES))  # type: ignore[arg-type]

    ratio = search.scale_for(scaled, change)
    valve: Valve = getattr(damper_of(given.bike, setup, end), place)
    facts = facts_of(given.bike, end)
    box: Counter[stack.Shim] = Counter()
    at_hand = given.box.shims if owned is None else owned
    for s in at_hand or (s.model_copy(update={"count": 2}) for s in shims_of(setup, end, place)):
        box[stack.Shim(s.diameter_m, s.thickness_m)] += s.count
    pressed = max(
        float(valve.pressed(pressure_on(given.bike, setup, end, place, speed_m_per_s))) * facts.footprint, 1e3
    )
    wanted = ratio if ratio is not None else (1.0 / search.WIDEST if change > 0.0 else search.WIDEST)

    def lift(of: stack.Stack) -> float:
        return float(stack.true_lift(of, stack.bend(of, [pressed]).lift_m)[0])

    found = []
    for f in search.suggest(valve.stack, box, wanted, lift=lift, highest_m=getattr(facts, place).height_most_m):
        shims_there = counted(f.stack.shims)
        tried = setup.model_copy(update={f"{end}_{place}_stack": shims_there})
        found.append(
            Suggestion(
                shims=shims_there, change=_force(given, tried, end, way, speed_m_per_s) / now - 1.0, moves=f.moves
            )
        )
    # half a percent is less than any shim's tolerance: within it the one that is less work
    found.sort(key=lambda s: (round(200.0 * abs(s.change - change)), len(s.moves)))
    return Answer(wanted=change, reachable=ratio is not None, suggestions=tuple(found))
