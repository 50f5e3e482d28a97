"""Refusals of the door in words and in the rider's units."""

import re
from collections.abc import Callable

from lynxwort.core.errors import Refusal
from lynxwort.core.units.convert import Units, shown_unit
from lynxwort.core.units.spellings import SPELLINGS
from lynxwort.words import N_, decimal, speaks_english
from lynxwort.words.catalogue import identity
from lynxwort.words.damping import MESSAGES as DAMPING
from lynxwort.words.formatting import plain_number, short_number, value_text
from lynxwort.words.fuelling import MESSAGES as FUELLING
from lynxwort.words.kit import MESSAGES as KIT
from lynxwort.words.range import MESSAGES as STOPS
from lynxwort.words.service import MESSAGES as SERVICE
from lynxwort.words.trials import MESSAGES as TRIALS

MESSAGES: dict[str, str] = (
    {
        "missing": N_("This is needed."),
        "leaner_without": N_(
            "Without the step that was left out some range of the throttle would run leaner than it does now."
            " Take both, or neither."
        ),
        "unknown_key": N_("Nothing of this name is known here."),
        "too_low": N_("Too small: at least {low}."),
        "too_high": N_("Too large: at most {high}."),
        "not_a_number": N_("Not a number."),
        "other_unit": N_("Is {message} meant? Write it with its unit."),
        "not_ratios": N_("Not numbers. Write ratios from first to top like 2.40 1.80 1.40, or as teeth like 30/14."),
        "not_shares": N_("Not numbers. Write percentages apart by spaces, like 100 75 50."),
        "not_a_whole_number": N_("A whole number, please."),
        "not_finite": N_("Not a finite number."),
        "ambiguous_number": N_("This may mean {message}. Write it without the comma or point, or with other decimals."),
        "no_such_item": N_("Nothing of this name is on the bike's list of kit."),
        "not_on_this_bike": N_("This kind of bike has nothing of the kind."),
        "burns_nothing": N_("An electric bike has no mixture to log."),
        "unknown_unit": N_("This unit is not known here."),
        "wrong_unit": N_("This unit measures something else."),
        "no_pages": N_("Only the core is installed here. The pages need all that pip installs with Lynxwort."),
        "not_a_choice": N_("Choose one of the list."),
        "not_text": N_("Text, please."),
        "too_long": N_("Too long."),
        "too_short": N_("Please fill this in."),
        "too_few": N_("At least one is needed."),
        "too_many": N_("Too many."),
        "not_a_list": N_("A list, please."),
        "not_an_object": N_("Not in the form of the document."),
        "not_true_or_false": N_("True or false, please."),
        "not_falling": N_("Gears run from first to top, each smaller than the one before."),
        "not_a_tyre_marking": N_("Write it as on the sidewall, like 140/80-18."),
        "temperature_order": N_("The coldest hour is hotter than the hottest."),
        "humidity_order": N_("The driest hour is damper than the dampest."),
        "segment_order": N_("A stretch of ground ends before it begins."),
        "stretch_too_short": N_("Choose a stretch first: it is under {low} long."),
        "segment_overlap": N_("Two stretches of ground overlap."),
        "not_a_moment": N_("Date and time like 2027-04-18T07:30."),
        "not_a_time_zone": N_("A zone like Europe/London."),
        "out_of_bounds": N_("Outside what such a part can be."),
        "not_a_needle": N_("Write a needle as distance=diameter in mm, like 0=2.74; 10=2.74; 30=1.90."),
        "not_a_wheel": N_("Write a wheel as its end and its tyre, like rear 140/80-18."),
        "not_a_shim": N_("Write shims as diameter x thickness in mm, like 24x0.15."),
        "distances_not_rising": N_("Distances along the needle must rise."),
        "needle_not_tapered": N_("A needle does not grow thicker towards its tip."),
        "no_part_columns": N_("The first line must name the columns; kind and value are needed."),
        "beyond_modes": N_("The bike has fewer power modes."),
        "beyond_maps": N_("The bike has fewer maps."),
        "modes_not_falling": N_("Power modes run from the strongest to the weakest."),
        "limit_missing": N_("A speed limit needs its speed."),
        "laps_and_hours": N_("Either laps or hours, not both."),
        "hours_alone": N_("A race by hours has one stage."),
        "fill_over_tank": N_("More fuel than the tank holds."),
        "fill_under_unusable": N_("No more than the fuel that never reaches the engine."),
        "clip_beyond_needle": N_("The needle has fewer grooves."),
        "course_missing": N_("This course is not in the document."),
        "rider_missing": N_("There is no such rider."),
        "beyond_course": N_("Beyond the end of the course, {high}."),
        "out_of_model_range": N_("Outside what the air model covers."),
        "too_large": N_("The file is over {high} MB. Thin the track or send one lap."),
        "empty": N_("The file is empty."),
        "not_xml": N_("This is not a readable GPX file: it breaks off or holds other characters, at line {message}."),
        "forbidden_xml": N_(
            "This file declares its own entities or document type, which a course never needs. It was not opened."
        ),
        "not_gpx": N_("This is not a GPX file."),
        "no_points": N_("No track or route points in this file."),
        "too_few_points": N_("A course needs at least two points."),
        "too_many_points": N_("Over {high} points. Thin the track: a point every two to five metres is plenty."),
        "bad_coordinate": N_("A point has no readable latitude or longitude."),
        "bad_height": N_("A height in the file is not a number."),
        "not_on_earth": N_("A point lies off the map: latitude to 90, longitude to 180 degrees."),
        "height_out_of_range": N_("A height lies outside -430 to 9000 m."),
        "too_many_elements": N_("The file holds more than any course needs. Send the course alone."),
        "course_too_long": N_(
            "A course is at most {high} long. Two points of this file lie too far apart, or it holds several courses."
        ),
        "no_length": N_("The points hardly move: a course is at least {low} long."),
        "lengths_differ": N_("Latitudes, longitudes and heights differ in number."),
        "heights_missing": N_("A source of heights is named, but there are none."),
        "break_out_of_range": N_("A break lies outside the points."),
        "beyond_wheels": N_("The bike has fewer wheels at that end."),
        "spacer_beyond_travel": N_("That spacer takes more than a third of the travel."),
        "beyond_payload": N_("Fewer things ride along."),
        "stretch_order": N_("It cannot have changed before it begins to."),
        "oil_order": N_("The least level must be smaller than the most."),
        "linkage_not_from_zero": N_("The table begins at no travel and no stroke: 0 0."),
        "linkage_not_rising": N_("Wheel travel and shock stroke must both rise from line to line."),
        "linkage_too_short": N_("The table must reach the whole rear travel."),
        "not_a_linkage_line": N_("Write each line as wheel travel and shock stroke in mm, like 30 10.6."),
        "not_a_payload_line": N_(
            "Write each line as name; weight in kg; ahead of the rear axle and above the ground in mm, like lamp; "
            "1.2; 1250; 1050."
        ),
        "not_a_wheel_line": N_(
            "Write each line as its tyre and what it weighs more in kg; tread; what fills it; like 110/100-18 0.4; "
            "scoop; a "
            "tube."
        ),
        "beyond_gearboxes": N_("The bike has fewer sets of gears."),
        "rpm_not_rising": N_("Revs must rise from line to line."),
        "not_a_torque_line": N_("Write each line as revs and torque in N·m, like 4000 22.5; at least three lines."),
        "not_a_gearbox_line": N_("Write each line as name; primary or blank; ratios, like wide; 2.9; 2.4 1.8 1.4 1.1."),
        "not_an_archive": N_("This archive cannot be opened. Send the GPX files themselves."),
        "several_laps": N_("Only a course ridden once is cut at its pits: laps have their pits where they are."),
        "no_pits": N_("There is no refuel point on it yet."),
        "one_lap": N_("There is only one lap of it."),
        "clock_not_rising": N_("The clock of the lap does not run forward."),
        "times_missing": N_(
            "Point {message} of the file has no readable time. Send the file as the device recorded it."
        ),
        "times_not_rising": N_("Times in the file run backwards. Send one recording, in order."),
        "not_this_course": N_("This was ridden somewhere else: too many points lie off the course."),
        "lap_not_whole": N_("The file does not hold a whole lap of this course."),
        "file_too_large": N_("The file is over {high} MB."),
        "not_a_garage": N_("This is not the file of a garage. It begins with a line that says so."),
        "newer_format": N_("A newer Lynxwort wrote this. Take that version, then take it in."),
        "not_a_garage_line": N_(
            "This line does not say what a line of a garage says, or names a row that is not in the file."
        ),
        "line_too_long": N_("This line is longer than any line of such a file."),
        "too_many_columns": N_("More than {high} columns. Send the few that are wanted."),
        "too_many_rows": N_("Over {high} rows. Send the part that was ridden."),
        "not_now": N_("Another large file is being read. Send it again in a moment."),
        "took_too_much": N_("Reading this file took more time or memory than any file should. It was not taken."),
        "of_another_garage": N_("This row belongs to another garage on this machine. It stays there."),
        "nested_too_deep": N_("This document holds lists within lists beyond anything that a bike or a race needs."),
        "not_json": N_("This is not a JSON document."),
        "invalid": N_("This cannot be used: {message}"),
    }
    | FUELLING
    | STOPS
    | SERVICE
    | TRIALS
    | DAMPING
    | KIT
)


#: refusals that say what is accepted instead
#: a unit by its English name
_SPELLED_OUT = re.compile(r"[a-z]{4,}")
UNREADABLE = ("not_a_number", "unknown_unit", "wrong_unit")
WRITE_IT = N_("Write it like {examples} or {last}.")


def accepted_of(kind: str, preset: Units | str) -> list[str]:
    """A few ways to write a quantity, the person's own unit first."""
    if kind not in SPELLINGS:
        return ["54", "5.5 kgf/mm"]
    own = shown_unit(kind, preset)
    ways = [s for s in SPELLINGS[kind] if speaks_english() or not _SPELLED_OUT.search(s.written)]
    mine = [s for s in ways if s.unit == own]
    others = [s for s in ways if s.unit != own]
    chosen = (*mine[:1], *others[: 3 - len(mine[:1])]) if mine else others[:3]
    return [decimal(s.written) for s in chosen]


def _bound(value: float | None, refusal: Refusal, kind: str, preset: Units | str) -> str:
    if value is None:
        return ""
    if kind or (refusal.unit == "m" and abs(value) >= 10_000.0):
        return value_text(value, kind or "ribbon", preset)
    number = plain_number(value, 0) if value == int(value) else short_number(value)
    return f"{number} {refusal.unit}" if refusal.unit and refusal.unit not in ("1", "MB") else number


def explain(
    refusal: Refusal, *, kind: str = "", preset: Units | str = "metric", translate: Callable[[str], str] = identity
) -> str:
    """One refusal in words; kind: of unit, for bounds in the rider's units."""
    template = translate(MESSAGES.get(refusal.code, MESSAGES["invalid"]))
    words = template.format(
        low=_bound(refusal.low, refusal, kind, preset),
        high=_bound(refusal.high, refusal, kind, preset),
        message=refusal.message,
    )
    if refusal.code not in UNREADABLE:
        return words
    accepted = accepted_of(kind, preset)
    apart = "; " if any("," in way for way in accepted) else ", "
    return f"{words} {translate(WRITE_IT).format(examples=apart.join(accepted[:-1]), last=accepted[-1])}"
