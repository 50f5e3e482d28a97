"""What to move when the mixture is off: the part that rules where it is wrong, the box before a purchase, and nothing
that leans a range below the pair.

Each candidate is tried on the whole throttle in both airs of the race. One that leaves its finding as bad as it was is
not made; each says what it leaves. Enriching steps are never capped; a leaning step stays within two sizes of what the
proven pair becomes in this air.
"""

import itertools
import math
from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np

from lynxwort.core.derived.mixture import jetting_of
from lynxwort.core.model.base import field_facts
from lynxwort.core.model.bike import Jetted, Rod
from lynxwort.core.model.setup import Setup
from lynxwort.core.physics.fuelling.leanness import (
    EPSILON,
    GRID,
    LOWER,
    NAMES,
    UPPER,
    RangeLimit,
    Severity,
    ends_of_lows,
    lean_ends,
    leans,
)
from lynxwort.core.physics.fuelling.metering import MapSetting, RodSetting, clicks_wanted, trim_wanted
from lynxwort.core.physics.fuelling.richness import (
    RICH_ACT,
    RICH_LOOK,
    Jetting,
    air_effect,
    main_jet_wanted,
    pilot_wanted,
    step_effects,
)
from lynxwort.core.report import SEVERITIES, Leaves, Move
from lynxwort.core.stations.fuelling.input import FuellingInput
from lynxwort.core.stations.fuelling.leanness import (
    FAR_GROOVES,
    FAR_SIZES,
    TURNS_HIGH,
    TURNS_LOW,
    becomes_number,
    curves_of,
    ends_of,
    far_jets,
    limits_of,
    part_that_rules,
    worst,
)
from lynxwort.core.tunables import current_value, is_owned, step_of

#: sizes of pilot above what is wanted with the throttle shut that are tried too, and how many proposals are
#: made
MORE_PILOTS, MOST_PROPOSALS = 3, 2
#: of the best so many are looked at for how far from what ran right they lead
MOST_LOOKED_AT = 12
#: a place leaner than the pair weighs so much more than one richer (assumption)
LEAN_WEIGHT = 4.0
#: which part of the carburettor a tunable belongs to
PART_OF = {"screw_turns": "pilot", "pilot_jet": "pilot", "needle_clip": "needle", "main_jet": "main"}
Moves = tuple[Move, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Trial:
    """A candidate as it turned out. ends: least low end [1] by range; rich: richness at full lift in the thinnest air
    [1].
    """

    moves: Moves
    ends: dict[str, float]
    rich: float

    @property
    def bought(self) -> int:
        return sum(m.owned is False for m in self.moves)


def rich_severity(rich: float) -> Severity:
    """What a richness [1] at full lift is."""
    return "act" if rich >= RICH_ACT else "look" if rich >= RICH_LOOK else "ok"


def move_to(given: FuellingInput, tunable: str, value: float) -> Move:
    return Move(tunable=tunable, value=round(value, 6), owned=is_owned(given.box, tunable, value))


def _with(jets: Jetting, moves: Moves) -> Jetting:
    said = {f: getattr(jets, f) for f in Jetting.__slots__}
    return Jetting(**said | {m.tunable: round(m.value) if m.tunable == "needle_clip" else m.value for m in moves})


def tried(given: FuellingInput, candidates: Sequence[Moves]) -> list[Trial]:
    """Candidates on the whole throttle in both airs. Those of jets all at once: the air does the same to each."""
    engine, setup, limits = given.engine, given.setup, limits_of(given)
    if not isinstance(engine, Jetted):
        curves = [
            curves_of(
                given,
                setup.model_copy(
                    update={m.tunable: round(m.value) if m.tunable == "knob_clicks" else m.value for m in c}
                ),
            )
            for c in candidates
        ]
        return [
            Trial(moves=m, ends=lean_ends(c, limits), rich=float(c[-1].value[-1]))
            for m, c in zip(candidates, curves, strict=True)
        ]
    if not candidates:
        return []
    carburettor, setting, proven_air = given.proven_jets
    now, shift = jetting_of(setup), given.mixture.shift(setup)
    value, low, _high = step_effects(carburettor, [_with(now, m) for m in candidates], setting, GRID)
    dense, thin = (air_effect(a, proven_air, GRID) for a in (given.day.states.densest, given.day.states.thinnest))
    lows = np.minimum(*((1.0 + air[1]) * (1.0 + low) * (1.0 + shift[1]) - 1.0 for air in (dense, thin)))
    ends, rich = ends_of_lows(lows, limits), (1.0 + thin[0][-1]) * (1.0 + value[:, -1]) * (1.0 + shift[0]) - 1.0
    return [
        Trial(moves=m, ends={n: float(e[i]) for n, e in ends.items()}, rich=float(rich[i]))
        for i, m in enumerate(candidates)
    ]


def _off_proven(given: FuellingInput, moves: Moves) -> float:
    """How many notches what stands far from what ran right lies off it with these moves; none of a knob or trim, which
    have nothing to be far from.
    """
    if given.metering != "jetted":
        return 0.0
    far = far_jets(given, _with(jetting_of(given.setup), moves))
    return sum(abs(value - nearest) / step_of(given.engine, tunable) for tunable, value, nearest in far)


def _sizes(given: FuellingInput, tunable: str, need: float) -> list[float]:
    """The smallest owned size of at least this, and the one on the common steps when that is smaller or nothing owned
    is enough.
    """
    step, facts = step_of(given.engine, tunable), field_facts(Setup, tunable)
    on_step = round(math.ceil((need - EPSILON) / step) * step, 6)
    owned = sorted(v for v in given.box.owned(tunable) if v >= need - EPSILON)
    to_buy = [on_step] if on_step <= (facts.high or math.inf) and (not owned or on_step < owned[0] - EPSILON) else []
    return owned[:1] + to_buy


def main_wanted(given: FuellingInput, clip: int, *, from_lift: float) -> float | None:
    """Leanest main jet that from a lift up keeps what is wanted at full lift, with the needle in a groove; None when
    none does.

    The main that is in does not matter, so steps of it ask for this once.
    """
    carburettor, setting, air = given.proven_jets
    at_clip = replace(
        jetting_of(given.setup), main_jet=setting.main_jet, needle_clip=clip, pilot_jet=None, screw_turns=None
    )
    key = (
        carburettor,
        at_clip,
        given.day.states.densest,
        setting,
        air,
        limits_of(given)[-1].wanted,
        given.mixture.shift(given.setup)[1],
        from_lift,
    )
    return given.cache.get("main_wanted", key, lambda: main_jet_wanted(*key))


# richer
def _pairs(given: FuellingInput) -> Iterator[Moves]:
    """Half and full lift as a pair: each clip from where it hangs upwards with the smallest main that then is
    enough.
    """
    engine, now = given.engine, jetting_of(given.setup)
    assert isinstance(engine, Jetted)
    for clip in range(now.needle_clip, engine.carburettor.clip_positions + 1):
        raised = (Move(tunable="needle_clip", value=float(clip)),) if clip != now.needle_clip else ()
        need = main_wanted(given, clip, from_lift=limits_of(given)[NAMES.index("half")].low)
        if raised:
            yield raised
        if need is None:
            continue
        yield from (
            (*raised, move_to(given, "main_jet", v))
            for v in _sizes(given, "main_jet", need)
            if v > now.main_jet + EPSILON
        )


def _screws(given: FuellingInput) -> list[float]:
    """Richer places of the screw within the turns in which it works."""
    engine, now = given.engine, current_value(given.setup, "screw_turns")
    assert isinstance(engine, Jetted)
    quarters = [TURNS_LOW + 0.25 * k for k in range(round((TURNS_HIGH - TURNS_LOW) / 0.25) + 1)]
    return [t for t in quarters if (t < now - EPSILON if engine.carburettor.screw == "air" else t > now + EPSILON)]


def _pilots(given: FuellingInput) -> list[Moves]:
    """Larger pilots: every owned one, and the next ones to buy from what is wanted with the throttle shut."""
    carburettor, setting, air = given.proven_jets
    now = jetting_of(given.setup)
    need = pilot_wanted(carburettor, now, given.day.states.densest, setting, air, given.mixture.shift(given.setup)[1])
    if need is None or now.pilot_jet is None:
        return []
    step, first = step_of(given.engine, "pilot_jet"), max(need, now.pilot_jet + 1e-6)
    sizes = {v for k in range(MORE_PILOTS + 1) for v in _sizes(given, "pilot_jet", first + k * step)}
    sizes |= {v for v in given.box.owned("pilot_jet") if v > now.pilot_jet + EPSILON}
    return [(move_to(given, "pilot_jet", v),) for v in sorted(sizes)]


def _clips(given: FuellingInput) -> list[Moves]:
    engine = given.engine
    assert isinstance(engine, Jetted)
    return [
        (move_to(given, "needle_clip", c),)
        for c in range(given.setup.needle_clip + 1, engine.carburettor.clip_positions + 1)
    ]


def _low_parts(given: FuellingInput) -> list[Moves]:
    """Screw, pilot, both, or the clip."""
    screws: list[Moves] = [(move_to(given, "screw_turns", t),) for t in _screws(given)]
    pilots = _pilots(given)
    return [*screws, *pilots, *_clips(given), *((*p, *s) for p in pilots for s in screws)]


def richer(given: FuellingInput, names: Sequence[str]) -> tuple[list[Moves], list[Leaves]]:
    """Proposals against lean ranges: at most two, best first, with what each leaves of them."""
    limits, before = limits_of(given), ends_of(given)
    now = SEVERITIES.index(worst(before, limits, names))
    # from half lift up clip and main are a pair
    rules = {"needle", "main"} if names[0] in UPPER else {part_that_rules(given, r) for r in limits if r.name in names}

    def rank(trial: Trial) -> tuple[object, ...]:
        others = sum(PART_OF.get(m.tunable, "") not in rules for m in trial.moves)
        over = [trial.ends[r.name] - r.wanted for r in limits if r.name in names]
        off = sum(o if o >= 0.0 else -LEAN_WEIGHT * o for o in over)
        return (
            SEVERITIES.index(worst(trial.ends, limits, names)),
            trial.bought,
            others,
            round(off, 2),
            len(trial.moves),
            off,
        )

    def helps(trial: Trial) -> bool:
        return SEVERITIES.index(worst(trial.ends, limits, names)) < now and not leans(before, trial.ends, limits)

    every = _tried_all(given, names)
    found = sorted((t for t in every if helps(t)), key=rank)
    if names[0] in LOWER and (not found or worst(found[0].ends, limits, names) != "ok") and given.metering == "jetted":
        # no single part mends it: the clip with what did best of the rest
        rest = [
            t.moves
            for t in sorted(every, key=rank)
            if all(m.tunable != "needle_clip" for m in t.moves) and not leans(before, t.ends, limits)
        ][:3]
        found = sorted(
            [*found, *(t for t in tried(given, [(*c, *r) for c in _clips(given) for r in rest]) if helps(t))], key=rank
        )
    return _told(given, found, lambda t: _leaves(t.ends, limits, names))


def _tried_all(given: FuellingInput, names: Sequence[str]) -> list[Trial]:
    """Every candidate for some ranges; those for below half lift are the same for each of them."""
    group = "upper" if names[0] in UPPER else "lower"
    if given.metering != "jetted":
        group = "_".join(names)
    return given.once(f"tried_{group}", lambda: tried(given, _candidates(given, names)))


def _candidates(given: FuellingInput, names: Sequence[str]) -> list[Moves]:
    metering = given.metering
    if metering != "jetted":
        tunable, value = _whole_needed(given, names)
        return [] if value is None else [(move_to(given, tunable, value),)]
    if any(n in UPPER for n in names):
        return list(_pairs(given))
    return _low_parts(given)


def _whole_needed(given: FuellingInput, names: Iterable[str]) -> tuple[str, float | None]:
    """Leanest place of the knob or trim, on its steps, that keeps what is wanted in some ranges; None beyond its
    bounds.
    """
    ends = ends_of(given)
    tunable = "knob_clicks" if given.metering == "rod" else "fuel_trim"
    need, step, facts = whole_wanted(given, ends, names), step_of(given.engine, tunable), field_facts(Setup, tunable)
    value = round(math.ceil((need - EPSILON) / step) * step, 9)
    return tunable, value if (facts.low or 0.0) <= value <= (facts.high or 0.0) else None


def whole_wanted(given: FuellingInput, ends: dict[str, float], names: Iterable[str]) -> float:
    """Leanest place of the knob [clicks] or trim [1] that keeps what is wanted in some ranges."""
    engine, setup = given.engine, given.setup
    low = min((1.0 + ends[r.name]) / (1.0 + r.wanted) for r in limits_of(given) if r.name in set(names)) - 1.0
    if isinstance(engine, Rod):
        draft = RodSetting(rod=setup.metering_rod or 0, clicks=setup.knob_clicks or 0, premix_ratio=setup.premix_ratio)
        return clicks_wanted(engine.carburettor, draft, low, 0.0)
    return trim_wanted(
        MapSetting(slot=setup.map_slot or 1, trim=setup.fuel_trim or 0.0, premix_ratio=setup.premix_ratio), low, 0.0
    )


# leaner
def _leaner_parts(given: FuellingInput) -> Iterator[Moves]:
    """Smaller mains and lower clips that stay within two sizes of what the proven pair becomes in this air."""
    if given.metering != "jetted":
        tunable, value = _whole_needed(given, NAMES)
        if value is not None and value < current_value(given.setup, tunable) - EPSILON:
            yield (move_to(given, tunable, value),)
        return
    setting, now = given.proven_jets[1], jetting_of(given.setup)
    step = step_of(given.engine, "main_jet")
    _thin, dense = becomes_number(given, setting.main_jet)
    least = dense - FAR_SIZES * step
    sizes = {v for v in given.box.owned("main_jet") if least - EPSILON <= v < now.main_jet - EPSILON}
    on_step = math.ceil((least - EPSILON) / step)
    sizes |= {round(k * step, 6) for k in range(on_step, on_step + 8) if k * step < now.main_jet - EPSILON}
    mains: list[Moves] = [(move_to(given, "main_jet", v),) for v in sorted(sizes)]
    clips: list[Moves] = [
        (move_to(given, "needle_clip", c),)
        for c in range(max(round(setting.needle_clip - FAR_GROOVES), 1), now.needle_clip)
    ]
    yield from (*mains, *clips)
    yield from ((*a, *b) for a, b in itertools.product(clips, mains))
    # what a smaller main takes lower down, clip and screw give back
    screws: list[Moves] = [(), *((move_to(given, "screw_turns", t),) for t in _screws(given)[-2:])]
    yield from ((*m, *c, *s) for m in mains for c in ((), *_clips(given)[:2]) for s in screws if c or s)


def leaner(given: FuellingInput) -> tuple[list[Moves], list[Leaves]]:
    """Proposals against a mixture that is rich at full lift: at most two, none that leans a range below the pair."""
    limits, before = limits_of(given), ends_of(given)
    now = SEVERITIES.index(rich_severity(float(curves_of(given)[-1].value[-1])))

    def rank(trial: Trial) -> tuple[object, ...]:
        return (SEVERITIES.index(rich_severity(trial.rich)), trial.bought, len(trial.moves), round(trial.rich, 4))

    found = [
        t
        for t in tried(given, list(_leaner_parts(given)))
        if SEVERITIES.index(rich_severity(t.rich)) < now and not leans(before, t.ends, limits)
    ]

    def left(trial: Trial) -> Leaves:
        severity = rich_severity(trial.rich)
        return (
            Leaves(severity=severity)
            if severity == "ok"
            else Leaves(severity=severity, what="rich_full", value_si=trial.rich)
        )

    return _told(given, sorted(found, key=rank), left)


def _leaves(ends: dict[str, float], limits: Sequence[RangeLimit], names: Sequence[str]) -> Leaves:
    """What is left of lean ranges, the leanest of them told."""
    lowest = min((r for r in limits if r.name in names), key=lambda r: ends[r.name] - r.wanted)
    severity = worst(ends, limits, names)
    short = ends[lowest.name] - lowest.wanted
    return (
        Leaves(severity=severity)
        if severity == "ok" and short >= -EPSILON
        else Leaves(severity=severity, what=f"lean_{lowest.name}", value_si=short)
    )


def _told(
    given: FuellingInput, ranked: Sequence[Trial], leaves: Callable[[Trial], Leaves]
) -> tuple[list[Moves], list[Leaves]]:
    """The best of those nearest to what ran right, and the best that needs no purchase or moves other parts."""
    off = [_off_proven(given, t.moves) for t in ranked[:MOST_LOOKED_AT]]
    ranked = [t for t, o in zip(ranked, off, strict=False) if o <= min(off) + FAR_SIZES]
    chosen = list(ranked[:1])
    others = [
        t
        for t in ranked
        if chosen and {(m.tunable, m.owned) for m in t.moves} != {(m.tunable, m.owned) for m in chosen[0].moves}
    ]
    chosen += sorted(others, key=lambda t: bool(chosen[0].bought and t.bought))[: MOST_PROPOSALS - 1]
    return [t.moves for t in chosen], [leaves(t) for t in chosen]


def lower_groups(given: FuellingInput, lean: Sequence[RangeLimit]) -> list[tuple[str, list[RangeLimit]]]:
    """Lean ranges below half lift that lie side by side and are ruled by the same part: the part and its ranges."""
    mine = [r for r in lean if r.name in LOWER]
    return [(part, list(run)) for part, run in itertools.groupby(mine, key=lambda r: part_that_rules(given, r))]
