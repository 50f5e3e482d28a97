"""How lean a setup runs in each range of the throttle over the airs of the race, and what it may not go below."""

from collections.abc import Sequence

from lynxwort.core.derived.mixture import jetting_of
from lynxwort.core.model.bike import Jetted
from lynxwort.core.model.setup import FuellingSetup
from lynxwort.core.physics.fuelling.leanness import (
    RangeLimit,
    Severity,
    lean_end,
    lean_ends,
    lean_limit,
    leanest_at,
    range_limits,
)
from lynxwort.core.physics.fuelling.metering import RodSetting
from lynxwort.core.physics.fuelling.richness import (
    USUAL_TURNS,
    Jetting,
    RichnessCurve,
    becomes,
    ruling_shares,
    screw_turned,
)
from lynxwort.core.stations.fuelling.input import FuellingInput
from lynxwort.core.tunables import step_of

#: sizes of jet or rod, turns and grooves from what ran right beyond which it is looked at by itself (HANDBOOK 2:
#: assumption)
FAR_SIZES, FAR_TURNS, FAR_GROOVES = 2.0, 1.5, 2.0
#: turns of a screw under and over which the pilot jet is the one to change (common practice, no source)
TURNS_LOW, TURNS_HIGH = 1.0, 2.5


def limit_of(given: FuellingInput) -> float:
    """Lean limit [1] from half lift up for this engine on this course."""
    good = given.mixture.good
    return lean_limit(
        given.two_stroke, given.lap.longest_full_throttle_s, None if good is None else good.longest_full_throttle_s
    )


def limits_of(given: FuellingInput) -> tuple[RangeLimit, ...]:
    """The ranges with what holds in each on this bike and course."""
    return given.once("range_limits", lambda: range_limits(given.two_stroke, limit_of(given)))


def curves_of(given: FuellingInput, setup: FuellingSetup | None = None) -> list[RichnessCurve]:
    """Richness in the densest and the thinnest air of the race; empty without a proven setting."""
    if setup is None:
        found = [given.richness.densest, given.richness.thinnest]
    else:
        found = [
            given.mixture.curve(given.day.states.densest, setup),
            given.mixture.curve(given.day.states.thinnest, setup),
        ]
    return [c for c in found if c is not None]


def ends_of(given: FuellingInput, setup: FuellingSetup | None = None) -> dict[str, float]:
    """Least low end [1] of each range over both airs; empty without a proven setting."""
    curves = curves_of(given, setup)
    return lean_ends(curves, limits_of(given)) if curves else {}


def margins_of(given: FuellingInput) -> dict[str, float]:
    """Lean end minus limit [1] of each range; empty without a proven setting."""
    ends = ends_of(given)
    return {r.name: ends[r.name] - r.limit for r in limits_of(given)} if ends else {}


def worst(ends: dict[str, float], limits: Sequence[RangeLimit], names: Sequence[str]) -> Severity:
    """The worst of some ranges."""
    found = [r.severity(ends[r.name]) for r in limits if r.name in names]
    return "act" if "act" in found else "look" if "look" in found else "ok"


def part_that_rules(given: FuellingInput, item: RangeLimit) -> str:
    """What rules the fuel where a range is leanest: "pilot", "needle", "main", "knob" or "map"."""
    engine = given.engine
    if not isinstance(engine, Jetted):
        return "knob" if given.metering == "rod" else "map"
    shares = ruling_shares(engine.carburettor, jetting_of(given.setup), leanest_at(curves_of(given), item))
    return max(shares, key=lambda k: shares[k])


def lean_of(given: FuellingInput, names: Sequence[str]) -> list[RangeLimit]:
    """Those of some ranges that are lean enough to be said."""
    curves = curves_of(given)
    return [r for r in limits_of(given) if r.name in names and r.severity(lean_end(curves, r)) != "ok"]


def becomes_area(given: FuellingInput) -> tuple[float, float]:
    """Factors on a jet's area [1] that keep the proven mixture in the densest and in the thinnest air of the race, with
    what is in and on.
    """
    carburettor, setting, air = given.proven_jets

    def make() -> tuple[float, float]:
        now, shift = jetting_of(given.setup), given.mixture.shift(given.setup)[0]
        dense, thin = (
            becomes(carburettor, now, a, setting, air, shift)
            for a in (given.day.states.densest, given.day.states.thinnest)
        )
        return dense, thin

    return given.once("becomes_area", make)


def becomes_number(given: FuellingInput, number: float) -> tuple[float, float]:
    """A proven jet's number as it becomes in the thinnest and in the densest air: low, high."""
    engine = given.engine
    assert isinstance(engine, Jetted)
    power = 0.5 if engine.carburettor.jet_numbering == "diameter" else 1.0
    ends = sorted(number * a**power for a in becomes_area(given))
    return ends[0], ends[1]


def far_from_proven(given: FuellingInput) -> list[tuple[str, float, float]]:
    """What stands far from what ran right: tunable, its value, and the nearest of what the proven one becomes in the
    air of the race.
    """
    if given.mixture.proven is None:
        return []
    setting, setup = given.mixture.proven[0], given.setup
    if isinstance(setting, RodSetting):
        rod = setup.metering_rod or 0
        return [("metering_rod", float(rod), float(setting.rod))] if abs(rod - setting.rod) > FAR_SIZES else []
    return far_jets(given, jetting_of(setup)) if isinstance(setting, Jetting) else []


def far_jets(given: FuellingInput, now: Jetting) -> list[tuple[str, float, float]]:
    """The same of jets, screw and clip of an engine that has them."""
    found = list[tuple[str, float, float]]()
    carburettor, setting, _air = given.proven_jets
    for tunable, value, was in (
        ("main_jet", now.main_jet, setting.main_jet),
        ("pilot_jet", now.pilot_jet, setting.pilot_jet),
    ):
        if value is None or was is None:
            continue
        low, high = becomes_number(given, was)
        nearest = min(max(value, low), high)
        if abs(value - nearest) > FAR_SIZES * step_of(given.engine, tunable) + 1e-6:
            found.append((tunable, value, nearest))
    turns = USUAL_TURNS if setting.screw_turns is None else setting.screw_turns
    if abs(screw_turned(carburettor, now, setting)) > FAR_TURNS + 1e-6:
        found.append(("screw_turns", USUAL_TURNS if now.screw_turns is None else now.screw_turns, turns))
    if now.needle == setting.needle and abs(now.needle_clip - setting.needle_clip) > FAR_GROOVES:
        found.append(("needle_clip", float(now.needle_clip), float(setting.needle_clip)))
    return found
