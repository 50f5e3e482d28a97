"""Readings in words, in the rider's units."""

from collections.abc import Callable
from math import pi
from typing import Any, get_args

from lynxwort.core.model.bike import Bike
from lynxwort.core.model.race import GROUNDS
from lynxwort.core.model.readings import GeometryOf
from lynxwort.core.tunables import TUNABLES, kind_of, said_value
from lynxwort.core.units.convert import Units
from lynxwort.words import N_
from lynxwort.words.catalogue import TERMS, TUNABLE_NAMES, identity
from lynxwort.words.choices import CLIMBS, GEOMETRY_STATES
from lynxwort.words.diagnosis import ZONES
from lynxwort.words.formatting import plain_number, value_text
from lynxwort.words.fuelling import DYNO_PLACES

#: what is asked of a reading, by its kind and field
ASKED: dict[str, dict[str, str]] = {
    "sag": {"value_m": N_("Sank by")},
    "weighing": {
        "front_kg": N_("Front wheel"),
        "rear_kg": N_("Rear wheel"),
        "rider_aboard": N_("Rider aboard, in position"),
    },
    "tilt": {"raised": N_("Raised"), "raised_m": N_("higher by"), "load_kg": N_("Scale under the other wheel")},
    "geometry": {
        "of": N_("Measured"),
        "state": N_("The bike stood"),
        "value_m": N_("Length"),
        "value_rad": N_("or angle"),
    },
    "steady": {"speed_m_per_s": N_("Steady at")},
    "fill_up": {"fuel_m3": N_("Fuel put back"), "laps": N_("after laps")},
    "charge": {"energy_j": N_("Charged back"), "laps": N_("after laps")},
    "known_good": {
        "main_jet": N_("Main jet"),
        "needle_clip": N_("Needle clip from the top"),
        "pilot_jet": N_("Pilot jet"),
        "screw_turns": N_("Screw, turns out"),
        "metering_rod": N_("Metering rod, sizes richer than standard"),
        "knob_clicks": N_("Knob, clicks richer than base"),
        "map_slot": N_("Fuel map"),
        "fuel_trim": N_("Map trim"),
        "longest_full_throttle_s": N_("Longest held full open"),
    },
    "flow": {"volume_m3": N_("Ran out"), "duration_s": N_("in")},
    "roll_out": {"distance_m": N_("Rolled"), "turns": N_("in turns")},
    "rpm_speed": {"rpm": N_("Engine speed"), "speed_m_per_s": N_("Road speed"), "gear": N_("in gear")},
    "top_speed": {"speed_m_per_s": N_("Highest speed seen")},
    "hill": {"at_m": N_("Hill"), "outcome": N_("How it went"), "entry_speed_m_per_s": N_("Speed at its foot")},
    "rotor": {"end": N_("Which brake"), "hottest_k": N_("The last mark that turned")},
    "lever": {"end": N_("Which brake"), "ground": N_("On"), "force_n": N_("Locked at")},
    "flats": {"end": N_("Which wheel"), "flats": N_("Flats"), "distance_m": N_("over so much rock and trail")},
    "coolant": {"hottest_k": N_("Coolant, hottest")},
    "generator": {"rpm": N_("At"), "volts": N_("Voltage"), "current_a": N_("Current")},
    "sound": {
        "level_db": N_("The meter read"),
        "background_db": N_("with the engine off"),
        "distance_m": N_("Outlet to meter"),
        "rpm": N_("At"),
    },
    "swing": {
        "end": N_("Which wheel"),
        "mass_kg": N_("Wheel with tyre"),
        "edge_to_axle_m": N_("Knife edge to axle"),
        "ten_swings_s": N_("Ten swings take"),
    },
    "hands": {"shaking_m_per_s2": N_("Shaking, three axes added")},
    "ridden_lap": {"clock_s": N_("Recording, GPX with times")},
}
#: the words of what is chosen, by kind and field
CHOICES: dict[tuple[str, str], dict[str, str]] = {
    ("tilt", "raised"): {"rear": N_("rear axle"), "front": N_("front axle")},
    ("geometry", "of"): {k: TERMS[k] for k in get_args(GeometryOf)},
    ("geometry", "state"): GEOMETRY_STATES,
    ("hill", "outcome"): CLIMBS,
    ("lever", "ground"): {g: TERMS[g] for g in GROUNDS},
} | {(kind, "end"): {e: TERMS[e] for e in ("front", "rear")} for kind in ("rotor", "lever", "flats", "swing")}
#: of a setting that ran right, what need not be said
UNSAID_AT_TIMES = ("pilot_jet", "screw_turns")


def setting_of(metering: str) -> list[str]:
    """The tunables that a proven setting consists of, by how the engine is fed."""
    return [t for t, m in TUNABLES.items() if m.station == "fuelling" and not m.group and metering in m.engines]


def _laps(laps: float, translate: Callable[[str], str]) -> str:
    return (
        translate(N_("in one lap"))
        if laps == 1
        else translate(N_("in {laps} laps")).format(laps=plain_number(laps, 0 if laps == round(laps) else 1))
    )


def _standing_words(reading: Any, units: Units | str, translate: Callable[[str], str]) -> str:
    """What scales, tape and gauge said of the standing bike, in a line."""

    def value(name: str, kind: str) -> str:
        return value_text(getattr(reading, name), kind, units)

    kind = reading.kind
    if kind == "weighing":
        who = translate(N_("rider aboard")) if reading.rider_aboard else translate(N_("bike alone"))
        words = translate(N_("Weighed {front} in front, {rear} behind, {who}"))
        return words.format(front=value("front_kg", "mass"), rear=value("rear_kg", "mass"), who=who)
    if kind == "tilt":
        words = translate(N_("Tilted by {by}, scale {load}"))
        return words.format(by=value("raised_m", "travel"), load=value("load_kg", "mass"))
    if kind == "geometry":
        found = value("value_rad", "tilt") if reading.of == "rake" else value("value_m", "travel")
        return f"{translate(TERMS[reading.of])} {found}, {translate(GEOMETRY_STATES[reading.state])}"
    return translate(N_("Ran straight at {speed}")).format(speed=value("speed_m_per_s", "speed"))


def _engine_words(reading: Any, units: Units | str, translate: Callable[[str], str]) -> str:
    """What was measured or felt of the engine, in a line."""
    kind = reading.kind
    if kind == "flow":
        words = translate(N_("{fuel} ran out in {time}"))
        return words.format(
            fuel=value_text(reading.volume_m3, "fuel", units), time=value_text(reading.duration_s, "seconds", units)
        )
    if kind == "feel":
        return f"{translate(TERMS[reading.symptom])}, {translate(ZONES[reading.zone])}"
    if kind == "dyno":
        peak = max(reading.points, key=lambda p: p.torque_nm * p.rpm)
        power = value_text(peak.torque_nm * peak.rpm * 2.0 * pi / 60.0, "power", units)
        words = translate(N_("{label}: {power} at {rpm}, {place}")).format(
            label=reading.label,
            power=power,
            rpm=value_text(peak.rpm, "rpm", units),
            place=translate(DYNO_PLACES[reading.place]),
        )
        return f"{words} · {translate(N_('the curve of this bike'))}" if reading.chosen else words
    words = translate(N_("A mixture log, {cells} cells, gauge {lag} late"))
    return words.format(cells=len(reading.cells), lag=value_text(reading.delay_s, "seconds", units))


def _mixture_words(reading: Any, bike: Bike, units: Units | str, translate: Callable[[str], str]) -> str:
    """A setting that ran right, and its air."""
    setup, air = reading.under.setup, reading.under.air
    names = setting_of(bike.metering)
    said = [(t, said_value(setup, t)) for t in names if getattr(setup, t) is not None or t not in UNSAID_AT_TIMES]
    jets = ", ".join(
        f"{translate(TUNABLE_NAMES[t])} {value_text(v, kind_of(t), units)}" for t, v in said if v is not None
    )
    ran = translate(N_("ran right"))
    words = f"{jets} {ran}"
    return (
        (
            f"{words}, {value_text(air.temperature_k, 'temperature', units)}, "
            f"{value_text(air.pressure_pa, 'pressure', units)}"
        )
        if air
        else words
    )


#: readings of brakes, tyres, wheels and bars
OF_KIT = ("rotor", "lever", "flats", "swing", "hands", "coolant", "generator", "sound")


def _kit_words(reading: Any, units: Units | str, translate: Callable[[str], str]) -> str:
    """What was read of brakes, tyres, wheels and bars, in a line."""

    def value(name: str, kind: str) -> str:
        return value_text(getattr(reading, name), kind, units)

    kind = reading.kind
    if kind == "hands":
        return translate(N_("Hands shaken by {shaking}")).format(shaking=value("shaking_m_per_s2", "acceleration"))
    if kind == "coolant":
        return translate(N_("Coolant to {hot}")).format(hot=value("hottest_k", "temperature"))
    if kind == "generator":
        words = translate(N_("Generator: {volts}, {amps} at {rpm}"))
        return words.format(volts=value("volts", "volts"), amps=value("current_a", "amps"), rpm=value("rpm", "rpm"))
    if kind == "sound":
        words = translate(N_("{level} at {distance}, {rpm}"))
        return words.format(
            level=value("level_db", "decibel"), distance=value("distance_m", "span"), rpm=value("rpm", "rpm")
        )
    end = translate(TERMS[reading.end])
    if kind == "rotor":
        return translate(N_("{end} rotor to {hot}")).format(end=end, hot=value("hottest_k", "temperature"))
    if kind == "lever":
        words = translate(N_("{end} locks at {force} on {ground}"))
        return words.format(end=end, force=value("force_n", "force"), ground=translate(TERMS[reading.ground]))
    if kind == "flats":
        words = translate(N_("{end}: {flats} flats in {distance} of rock and trail"))
        return words.format(end=end, flats=reading.flats, distance=value("distance_m", "distance"))
    words = translate(N_("{end} wheel, ten swings in {time}"))
    return words.format(end=end, time=value("ten_swings_s", "seconds"))


def _road_words(reading: Any, units: Units | str, translate: Callable[[str], str]) -> str:
    """What was seen on the road, in a line."""

    def value(name: str, kind: str) -> str:
        return value_text(getattr(reading, name), kind, units)

    kind = reading.kind
    if kind == "roll_out":
        return translate(N_("Rolled {distance} in {turns} turns")).format(
            distance=value("distance_m", "span"), turns=reading.turns
        )
    if kind == "rpm_speed":
        words = translate(N_("{rpm} and {speed} in gear {gear}"))
        return words.format(rpm=value("rpm", "rpm"), speed=value("speed_m_per_s", "speed"), gear=reading.gear)
    if kind == "top_speed":
        return translate(N_("Top speed seen: {speed}")).format(speed=value("speed_m_per_s", "speed"))
    at, how = value("at_m", "distance"), translate(CLIMBS[reading.outcome])
    if reading.entry_speed_m_per_s is None:
        return translate(N_("Hill at {at}: {how}")).format(at=at, how=how)
    return translate(N_("Hill at {at}, {speed} at its foot: {how}")).format(
        at=at, how=how, speed=value("entry_speed_m_per_s", "speed")
    )


#: what is read with the whole bike standing or riding: it matters what rides along
LADEN = ("sag", "weighing", "tilt", "geometry", "hill", "top_speed", "ridden_lap")


def reading_words(reading: Any, bike: Bike, units: Units | str, translate: Callable[[str], str] = identity) -> str:
    """One reading of the core in a line, with what rode along where that is not what does now."""
    words, aboard = _reading_words(reading, bike, units, translate), reading.under.aboard
    if (
        reading.kind not in LADEN
        or aboard is None
        or ([(r.name, r.mass_kg) for r in aboard] == [(p.name, p.mass_kg) for p in bike.frame.payload])
    ):
        return words
    names = ", ".join(item.name for item in aboard)
    with_it = translate(N_("taken with {names} aboard")).format(names=names) if names else translate(N_("taken bare"))
    return f"{words} · {with_it}"


def _reading_words(reading: Any, bike: Bike, units: Units | str, translate: Callable[[str], str]) -> str:
    def value(name: str, kind: str) -> str:
        return value_text(getattr(reading, name), kind, units)

    kind = reading.kind
    if kind == "sag":
        sag = translate(N_("sag"))
        return f"{translate(TERMS[reading.end])} {translate(TERMS[reading.state])} {sag} {value('value_m', 'travel')}"
    if kind in OF_KIT:
        return _kit_words(reading, units, translate)
    if kind in ("flow", "feel", "dyno", "afr_log"):
        return _engine_words(reading, units, translate)
    if kind in ("weighing", "tilt", "geometry", "steady"):
        return _standing_words(reading, units, translate)
    if kind == "fill_up":
        return f"{value('fuel_m3', 'fuel')} {_laps(reading.laps, translate)}"
    if kind == "charge":
        return f"{value('energy_j', 'energy')} {_laps(reading.laps, translate)}"
    if kind in ("roll_out", "rpm_speed", "top_speed", "hill"):
        return _road_words(reading, units, translate)
    if kind == "ridden_lap":
        return translate(N_("A lap ridden in {time}")).format(
            time=value_text(reading.clock_s[-1] - reading.clock_s[0], "duration", units)
        )
    return _mixture_words(reading, bike, units, translate)
