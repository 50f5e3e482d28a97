"""Setups that may be better than one: what the stations themselves propose, its own changes undone, its notches; each
settled, since every piece moves the others.
"""

from collections.abc import Iterable, Iterator

from pydantic import ValidationError

from lynxwort.core.errors import InputRefused
from lynxwort.core.model.box import PartsBox
from lynxwort.core.model.fit import setup_misfit
from lynxwort.core.model.setup import Setup
from lynxwort.core.propose.levels import ELSEWHERE, loud
from lynxwort.core.propose.single import as_sold, key_of, moved
from lynxwort.core.propose.tries import Tried, Tries
from lynxwort.core.propose.work import may_buy, owned
from lynxwort.core.report import Finding, Move
from lynxwort.core.stations.chassis.springs import PRELOAD_EXISTS_M, PRELOAD_FIELD, RATE_FIELD, sold_rates
from lynxwort.core.stations.fuelling.leanness import TURNS_HIGH, TURNS_LOW
from lynxwort.core.stations.kit.candidates import SOLD_ROTORS_M
from lynxwort.core.stations.range.candidates import most_sold
from lynxwort.core.tunables import TUNABLES, bounds, current_value, is_owned, item_of, passing_of, step_of

#: solved by closed forms of their stations once the rest stands
INNER = frozenset(
    {
        "fuel_fill_m3", "charge_share", "shock_preload_m", "fork_preload_m", "fork_air_pressure_pa",
        "fork_balance_pressure_pa", "main_jet", "needle_clip", "pilot_jet", "screw_turns", "knob_clicks", "fuel_trim",
    }
)  # fmt: skip
#: stations that give those forms; how often they are asked, since richer burns more and more fuel sits lower
SOLVING, PASSES = frozenset({"chassis", "fuelling", "range"}), 3
#: notches to each side that are tried, of clickers and of preloads, which go farther; sizes to buy beyond them
NOTCHES, CLICKS, PRELOADS, SIZES = (1, 2), (1, 2, 4), (1, 2, 5), 3

#: preloads that exist, by their tunable [m]
EXISTS = {PRELOAD_FIELD[end]: PRELOAD_EXISTS_M[end] for end in PRELOAD_FIELD}


def settled(tries: Tries, setup: Setup) -> Setup:
    """The setup with filling, preloads, pressures and mixture as its stations would have them. Raises Spent."""
    for _pass in range(PASSES):
        try:
            if setup_misfit(tries.inputs.bike, setup):
                return setup
            report = tries.report_of(setup, SOLVING)
            moves = _inner_moves(tries, report.findings)
            if not moves:
                return setup
            setup = moved(setup, moves)
        except (InputRefused, ValidationError):
            return setup
    return setup


def _inner_moves(tries: Tries, findings: Iterable[Finding]) -> list[Move]:
    """Of each finding the first proposal that moves nothing else; one tunable once."""
    found: dict[str, Move] = {}
    for finding in loud(findings):
        for moves in finding.proposals:
            mine = [m for m in moves if m.tunable in INNER or passing_of(m.tunable)]
            if len(mine) == len(moves) and takeable(tries, moves):
                if not any(m.tunable in found for m in moves):
                    found |= {m.tunable: m for m in moves}
                break
    return list(found.values())


def takeable(tries: Tries, moves: Iterable[Move]) -> bool:
    """Whether a plan may make all of these: it may move them, and buy what is not in the box."""
    return all(
        m.tunable in tries.may and _to_be_had(tries, m.tunable, m.value) and _in_reach(tries, m.tunable, m.value)
        for m in moves
    )


def _to_be_had(tries: Tries, tunable: str, value: float) -> bool:
    """Whether it takes no part, lies in the box, or may be bought."""
    parts = tries.inputs.parts
    return owned(parts, tunable, value) is not False or (tries.purchases > 0 and may_buy(parts, tunable, value))


def _in_reach(tries: Tries, tunable: str, value: float) -> bool:
    """Whether an adjuster works there: a screw within its turns, a preload that exists, a clicker not at its stop."""
    if tunable == "screw_turns":
        return TURNS_LOW - 1e-9 <= value <= TURNS_HIGH + 1e-9
    if tunable in EXISTS:
        least, most = EXISTS[tunable]
        return least - 1e-9 <= value <= most + 1e-9
    clicker = tunable.endswith("_clicks") and TUNABLES[tunable].station == "damping"
    return not clicker or 1 <= value < bounds(tries.inputs.bike, tunable)[1]


def near(tries: Tries, at: Tried) -> Iterator[Setup]:
    """What the stations propose for a setup that was looked at; what was changed put back, alone and with what is
    proposed in its place. Raises Spent.
    """
    yield from _proposed(tries, at, tries.said(at))
    said = {key_of(f) for f in loud(at.report.findings)}
    for change in at.changes:
        for back in _and_settled(tries, at.setup, (Move(tunable=change.tunable, value=change.before),)):
            yield back
            bare = tries.look(back)
            if bare is not None and bare.changes:
                yield from _proposed(tries, bare, (f for f in tries.said(bare) if key_of(f) not in said))


def _proposed(tries: Tries, at: Tried, findings: Iterable[Finding]) -> Iterator[Setup]:
    inputs = tries.inputs.model_copy(update={"setup": at.setup})
    for finding in findings:
        for asked in finding.proposals:
            moves = as_sold(inputs, asked)
            if takeable(tries, moves):
                yield from _and_settled(tries, at.setup, moves)


def notches(tries: Tries, at: Tried) -> Iterator[Setup]:
    """Every notch that is told to move a figure of which something is said or at which the rider aims, and every part
    of the box: another sprocket cools an engine, and no figure of its own says so. Raises Spent.
    """
    spoken = {name for f in loud(at.report.findings) if f.station not in ELSEWHERE for name in f.figures}
    spoken |= {name for name, band in tries.aims(at.report).items() if band != at.report.bands.get(name)}
    if not spoken:
        return
    for tunable in tries.may:
        from_box = tunable in PartsBox.model_fields
        if (
            not item_of(tunable)
            and not passing_of(tunable)
            and (from_box or spoken.intersection(TUNABLES[tunable].shows))
        ):
            for value in values(tries, at.setup, tunable):
                yield from _and_settled(tries, at.setup, (Move(tunable=tunable, value=value),))


def _and_settled(tries: Tries, setup: Setup, moves: Iterable[Move]) -> Iterator[Setup]:
    """A setup after some moves, settled and as it is; none where they are refused."""
    try:
        after = moved(setup, moves)
    except (InputRefused, ValidationError):
        return
    yield settled(tries, after)
    yield after


def values(tries: Tries, setup: Setup, tunable: str) -> list[float]:
    """Where a tunable may go next: notches to each side, and what lies in the box; of parts to buy the next sizes."""
    bike, parts = tries.inputs.bike, tries.inputs.parts
    now, step = current_value(setup, tunable), step_of(bike.engine, tunable)
    on_grid = round(now / step)
    if is_owned(parts, tunable, now) is None:
        reach = CLICKS if tunable.endswith("_clicks") else PRELOADS if tunable in EXISTS else NOTCHES
        found = {round((on_grid + way * k) * step, 9) for k in reach for way in (-1, 1)}
    else:
        found = set(parts.owned(tunable))
        if tries.purchases:
            found |= set(parts.sold(tunable)) or _sold(tries, tunable, on_grid, step)
        found.add(current_value(tries.inputs.setup, tunable))
    low, high = bounds(bike, tunable)
    apart = 1e-9 * max(1.0, abs(now))
    there = (v for v in found if low - 1e-12 <= v <= high + 1e-12 and abs(v - now) > apart)
    return sorted(v for v in there if _in_reach(tries, tunable, v))


def _sold(tries: Tries, tunable: str, on_grid: int, step: float) -> set[float]:
    """Sizes near the present one that are sold; tanks and packs up to what there is for such a bike."""
    frame = tries.inputs.bike.frame
    if tunable in ("tank_capacity_m3", "pack_energy_j"):
        known = {t.capacity_m3 for t in frame.other_tanks} if tunable == "tank_capacity_m3" else set()
        most = most_sold(tunable, frame)
        return known | {v for k in (1, 2, 4, 8) if (v := round((on_grid + k) * step, 9)) <= most}
    if tunable.endswith("_rotor_m"):
        return set(SOLD_ROTORS_M)
    near_by = {round((on_grid + k) * step, 9) for k in range(-SIZES, SIZES + 1)}
    end = next((e for e, field in RATE_FIELD.items() if field == tunable), None)
    return near_by if end is None else near_by.intersection(round(v, 9) for v in tries.whole.ask(sold_rates, end))
