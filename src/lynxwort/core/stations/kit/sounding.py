"""How loud it is at the event's test, by the sound sheets and what is on now; and what the event still asks."""

from dataclasses import dataclass
from typing import Any

from lynxwort.core.figures import figure, step
from lynxwort.core.model.bike import Combustion, Fitting
from lynxwort.core.model.readings import SoundReading
from lynxwort.core.physics.drive.engine import limiter_rpm
from lynxwort.core.physics.kit import sound
from lynxwort.core.report import Figure
from lynxwort.core.stations.kit.cooling import stroke_of
from lynxwort.core.stations.kit.input import SOUNDING, KitInput

#: what a fitting adds of which nobody said it [dB] (HANDBOOK 9, 5, assumption): an insert takes away
UNSAID_DB = {"exhaust": 0.0, "exhaust_insert": -2.5}


def is_loud(given: KitInput) -> bool:
    """Whether it has an exhaust."""
    return isinstance(given.bike.engine, Combustion)


def revs_of_test(given: KitInput, test: str | None = None) -> float | None:
    """Revs of the event's test, or of another kind [rpm]; None when the stroke is asked for and nobody said it."""
    engine = given.bike.engine
    return sound.revs_of_test(
        test or given.event.sound_test, stroke=stroke_of(given), stroke_m=given.bike.kit.stroke_m,
        rated_rpm=engine.peak_power_rpm, limiter_rpm=limiter_rpm(engine),
    )  # fmt: skip


def of_fittings(given: KitInput, slots: tuple[int, ...]) -> float:
    """What the fittings in these slots add to the bike's own exhaust [dB]."""
    engine, total = given.bike.engine, 0.0
    assert isinstance(engine, Combustion)
    for place, slot in zip(SOUNDING, slots, strict=True):
        others = engine.fittings_of(place)
        if 1 < slot < 2 + len(others):
            fitting = others[slot - 2]
            total += UNSAID_DB[place] if fitting.sound_db is None else fitting.sound_db
    return total


@dataclass(frozen=True, slots=True, kw_only=True)
class Level:
    """Level [dB] at the event's test as it stands now; spread_db: half of a 90 % interval; used: reading ids; rpm: of
    the test, distance_m: of the meter; own_db: with the bike's own exhaust.
    """

    level_db: float
    spread_db: float
    used: tuple[str, ...]
    rpm: float
    distance_m: float
    own_db: float


def level(given: KitInput, test: str | None = None) -> Level | None:
    """By the sheets there are, carried to the event's revs and distance, to what is on now; None without a sheet, or
    without the test's revs. Levels of several sheets are meant by their powers.
    """
    rpm = revs_of_test(given, test) if is_loud(given) else None
    if rpm is None:
        return None
    distance, found = sound.TESTS_M[test or given.event.sound_test], {}
    for reading in given.readings:
        if not isinstance(reading, SoundReading):
            continue
        alone = sound.without(reading.level_db, reading.background_db)
        if alone is None:
            continue
        there = sound.at_distance(alone, from_m=reading.distance_m, to_m=distance)
        slots = tuple(getattr(reading.under.setup, place) or 1 for place in SOUNDING)
        # what was on then taken off again: the bike with its own exhaust
        found[reading.id] = sound.at_revs(there, from_rpm=reading.rpm, to_rpm=rpm) - of_fittings(given, slots)
    if not found:
        return None
    own = sound.added(found.values()) - sound.added([0.0] * len(found))
    meter = (sound.METER_DB**2 + sound.AGAIN_DB**2 / len(found)) ** 0.5
    return Level(
        level_db=own + of_fittings(given, given.breath), own_db=own, spread_db=meter, used=tuple(found),
        rpm=rpm, distance_m=distance,
    )  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class Insert:
    """One insert of the exhaust: its slot, the fitting, None for its own; level and distance to the event's limit [dB],
    None without one; torque against its own [1].
    """

    slot: int
    fitting: Fitting | None
    level_db: float
    margin_db: float | None
    power_scale: float
    is_in: bool


def inserts(given: KitInput) -> list[Insert]:
    """Each insert at the event's test, its own first; none while nothing was measured."""
    seen, engine, limit = level(given), given.bike.engine, given.event.sound_limit_db
    if seen is None or not isinstance(engine, Combustion):
        return []
    found = []
    for slot, fitting in enumerate((None, *engine.fittings_of("exhaust_insert")), start=1):
        loud = seen.own_db + of_fittings(given, (given.breath[0], slot))
        found.append(
            Insert(
                slot=slot, fitting=fitting, level_db=loud, margin_db=None if limit is None else limit - loud,
                power_scale=1.0 if fitting is None else fitting.power_scale, is_in=slot == given.breath[1],
            )
        )  # fmt: skip
    return found


def by_test(given: KitInput) -> list[tuple[float | None, float | None]]:
    """Revs [rpm] and level [dB] by each kind of test: the same bike differs by 3 to 8 dB."""
    if not is_loud(given):
        return [(None, None)] * len(sound.TESTS_M)
    seen = [(revs_of_test(given, test), level(given, test)) for test in sound.TESTS_M]
    return [(rpm, None if found is None else found.level_db) for rpm, found in seen]


def is_drowned(given: KitInput) -> bool:
    """Whether the background drowns some sheet: the meter read as much with the engine off."""
    sheets = [r for r in given.readings if isinstance(r, SoundReading)]
    return any(sound.without(r.level_db, r.background_db) is None for r in sheets)


def open_rules(given: KitInput) -> list[str]:
    """What nobody starts without and is not seen to yet."""
    return [a.rule for a in given.event.asked if a.must and a.done is None]


def figures(given: KitInput) -> list[Figure]:
    """Sound and rules."""
    left = open_rules(given)
    rules = (
        figure(
            "kit.rules.open",
            float(len(left)),
            inputs=("race.asked",),
            formula="asked for, must, not seen to",
            source="the event's rules",
        )
        if given.event.asked
        else figure("kit.rules.open", None, status="not_applicable", reason="nothing_asked")
    )
    if not is_loud(given):
        return [rules] + [
            figure(f"kit.sound.{n}", None, status="not_applicable", reason="no_exhaust")
            for n in ("level", "margin", "test_rpm")
        ]
    seen, rpm, limit = level(given), revs_of_test(given), given.event.sound_limit_db
    found = [
        rules,
        figure(
            "kit.sound.test_rpm", rpm, inputs=("race.sound_test", "bike.kit.stroke_m"), basis="assumed",
            half=None if rpm is None else 100.0,
            formula="share of the revs of full power; 30 v / stroke; 306,000 / stroke in mm; the limiter",
            source="ISO 5130 with UN R41, SAE J1287, all from memory",
        ),
    ]  # fmt: skip
    if seen is None:
        return [
            *found,
            figure("kit.sound.level", None, inputs=("readings",), formula="needs a sound sheet", source="to measure"),
            figure(
                "kit.sound.margin",
                None,
                inputs=("readings", "race.sound_limit_db"),
                formula="needs a sound sheet",
                source="to measure",
            ),
        ]
    told: dict[str, Any] = {"readings": seen.used, "basis": "measured", "inputs": ("setup.exhaust_insert",)}
    found.append(
        figure(
            "kit.sound.level", seen.level_db, half=seen.spread_db, **told,
            formula="10 lg(10^(L/10) - 10^(background/10)) - 20 lg(r / r0) + 30 lg(n / n0) + fittings",
            steps=(
                step("own", seen.own_db, "dB", "with its own exhaust"),
                step("fittings", seen.level_db - seen.own_db, "dB"), step("n", seen.rpm, "rpm"),
                step("r", seen.distance_m, "m"),
            ),
            source="powers add; free field; class 2 meter 1.4 dB, again 1 dB; 30 lg n assumed",
        )
    )  # fmt: skip
    if limit is None:
        return [*found, figure("kit.sound.margin", None, status="not_applicable", reason="no_sound_limit")]
    return [
        *found,
        figure(
            "kit.sound.margin", limit - seen.level_db, half=seen.spread_db, formula="limit - level",
            source="the event's rules",
            **told | {"inputs": ("race.sound_limit_db", "setup.exhaust_insert")},
        ),
    ]  # fmt: skip
