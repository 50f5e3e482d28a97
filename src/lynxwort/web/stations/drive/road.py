"""The course as a thing of its own, the lap metre by metre, and the stand-in that rides it."""

from typing import Any

from django.core.files.base import ContentFile
from django.db import transaction
from django.utils.translation import gettext as _

from lynxwort.core.asks import along
from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.race import Stage
from lynxwort.core.physics.course.export import to_geojson, write_gpx
from lynxwort.core.physics.course.prepare import climb_by_source, noisiest
from lynxwort.core.standin.logger import stand_in_lap as stand_in_recording
from lynxwort.core.stations.drive import view as drive_view
from lynxwort.core.stations.drive.view import ROW_LENGTHS_M, MetreRow, metre_rows
from lynxwort.core.units.convert import Units, convert, shown_unit, to_shown
from lynxwort.web.bench.services import Bench
from lynxwort.web.races.models import Course, CourseBlob, Race
from lynxwort.web.races.tracks import lay_course, load_track, pack
from lynxwort.web.readings import services as readings
from lynxwort.web.readings.models import Reading
from lynxwort.web.ui.drawings import charts
from lynxwort.web.ui.sheets import csv_text
from lynxwort.words.catalogue import TERMS
from lynxwort.words.choices import HEIGHT_SOURCES, LIMIT_WORDS
from lynxwort.words.formatting import unit_text, value_text

ROWS_PER_PAGE = 60
#: length of the stretch shown large [m]
LOUPE_M = 1500.0


# the course
def course_page(course: Course, units: Units | str) -> dict[str, Any]:
    """Its heights raw and smoothed, and the climb that each source of heights would give."""
    track = load_track(course.blob_id)
    line = lay_course(course.blob_id)
    unit, high = shown_unit("distance", units), shown_unit("height", units)
    per, up = convert(1.0, "m", unit), convert(1.0, "m", high)

    def draw(cut: slice, label: str) -> Any:
        distance, raw, used = per * line.distance_m[cut], up * line.raw_height_m[cut], up * line.height_m[cut]
        return charts.heights(distance, raw, used, x_axis=unit, y_axis=high, label=label)

    known = track.heights != "none"
    drawing = (
        draw(slice(None, None, max(line.distance_m.size // 1500, 1)), _("Heights, as recorded and as used"))
        if known
        else None
    )
    loupe = (
        draw(noisiest(line, LOUPE_M), _("The noisiest stretch")) if known and line.length_m > 2.0 * LOUPE_M else None
    )
    found = climb_by_source(track)
    sources = [
        {
            "code": s,
            "name": _(HEIGHT_SOURCES[s]),
            "now": s == track.heights,
            "climb": tuple(value_text(v, "height", units) for v in (c.climb_m, c.climb_low_m, c.climb_high_m)),
        }
        for s, c in found.items()
    ]
    raw = value_text(next(iter(found.values())).raw_climb_m, "height", units) if found else ""
    return {
        "course": course,
        "track": track,
        "points": len(track.latitude_deg),
        "drawing": drawing,
        "loupe": loupe,
        "sources": sources,
        "raw_climb": raw,
        "gaps": [value_text(g, "stretch", units) for g in line.gaps_m],
        "races": list(course.races.order_by("start")),
    }


def change_heights(course: Course, source: str) -> None:
    """Say where a course's heights come from: its races and readings follow, kept setups stay as they were judged.
    Raises InputRefused.
    """
    track = load_track(course.blob_id)
    if source not in HEIGHT_SOURCES or not track.height_m:
        raise InputRefused(Refusal(path="heights", code="not_a_choice"))
    told = track.told(source)
    new = told.content_key()
    with transaction.atomic():
        # nobody else writes meanwhile: what is read here is what is changed
        old = Course.objects.get(pk=course.pk).blob_id
        if old == new:
            return
        CourseBlob.objects.get_or_create(pk=new, defaults={"data": pack(told)})
        course.blob_id = new
        course.save(update_fields=["blob"])
        for race in Race.objects.filter(garage_id=course.garage_id):
            stages = race.document["stages"]
            if any(s["course_key"] == old for s in stages):
                race.document["stages"] = [s | {"course_key": new} if s["course_key"] == old else s for s in stages]
                race.past, race.version = [], race.version + 1
                race.save(update_fields=["document", "past", "version"])
        readings.rename_course(list(course.garage.bikes.values_list("pk", flat=True)), old, new)


def gpx_of(course: Course) -> bytes:
    """The course as GPX 1.1."""
    return write_gpx(load_track(course.blob_id))


def geojson_of(course: Course, race: Race | None = None, stage: int = 0) -> dict[str, Any]:
    """The course as GeoJSON; with a race also the ground, hills and points of one of its stages."""
    told = None if race is None else Stage.model_validate(race.document["stages"][stage])
    return to_geojson(load_track(course.blob_id), told)


# the lap metre by metre
def _cells(row: MetreRow, units: Units | str, geared: bool) -> list[str]:
    """One row in words: what limits comes first, it is what one looks for."""
    sign = "+" if row.grade > 0.005 else ""
    throttle = "" if row.throttle_share is None else value_text(row.throttle_share, "share", units)
    return [
        value_text(row.from_m, "ribbon", units),
        _(LIMIT_WORDS[row.limit]),
        value_text(row.speed_m_per_s, "speed", units),
        *([str(row.gear)] if geared else []),
        value_text(row.rpm, "rpm", units),
        throttle,
        value_text(row.power_share, "share", units),
        _(TERMS[row.ground]),
        sign + value_text(round(row.grade, 2), "share", units),
    ]


def on_the_round(bench: Bench, at_m: float | None) -> float:
    """A place [m] from which there is at least one row to show."""
    return min(at_m or 0.0, bench.report.ask(along.length_m) - 1.0)


def metre_page(bench: Bench, units: Units | str, *, length_m: float, from_m: float) -> dict[str, Any]:
    """A page of rows from a place of the round on."""
    length = length_m if length_m in ROW_LENGTHS_M else 100.0
    rows = bench.report.ask(metre_rows, length_m=length, from_m=from_m, most=ROWS_PER_PAGE)
    geared = bench.report.ask(drive_view.geared)
    heads = [
        _("From"),
        _("Limit"),
        _("Speed"),
        *([_("Gear")] if geared else []),
        _("Revs"),
        _("Throttle open"),
        _("Of full power"),
        _("Ground"),
        _("Grade"),
    ]
    spacing = bench.report.ask(drive_view.spacing_m) if length == 0 else length
    last = rows[-1].to_m if rows else 0.0
    return {
        "heads": heads,
        "rows": [(r.from_m, r.limit.startswith("stuck"), _cells(r, units, geared)) for r in rows],
        "length": length,
        "lengths": [(v, _("every step") if v == 0 else value_text(v, "stretch", units)) for v in ROW_LENGTHS_M],
        "back": max(rows[0].from_m - ROWS_PER_PAGE * spacing, 0.0) if rows and rows[0].from_m > 1.0 else None,
        "on": last if last < bench.report.ask(along.length_m) - 1.0 else None,
        "from_m": from_m,
    }


def metre_csv(bench: Bench, units: Units | str) -> str:
    """Every step of the simulation as CSV, in the person's units, the unit in each heading."""
    geared = bench.report.ask(drive_view.geared)
    distance, speed = unit_text("ribbon", units), unit_text("speed", units)
    heads = [
        f"{_('from')} {distance}",
        f"{_('to')} {distance}",
        _("ground"),
        f"{_('grade')} %",
        f"{_('speed')} {speed}",
        *([_("gear")] if geared else []),
        _("rpm"),
        f"{_('throttle open')} %",
        f"{_('of full power')} %",
        _("limit"),
    ]
    rows: list[list[object]] = [heads]  # type: ignore[list-item]
    per_d, per_v = to_shown(1.0, "ribbon", units).value, to_shown(1.0, "speed", units).value
    for r in bench.report.ask(metre_rows, length_m=0.0):
        rows.append(
            [
                f"{per_d * r.from_m:.4f}",
                f"{per_d * r.to_m:.4f}",
                r.ground,
                f"{100 * r.grade:.1f}",
                f"{per_v * r.speed_m_per_s:.2f}",
                *([r.gear] if geared else []),
                f"{r.rpm:.0f}",
                "" if r.throttle_share is None else f"{100 * r.throttle_share:.1f}",
                f"{100 * r.power_share:.1f}",
                r.limit,
            ]
        )
    return csv_text(rows)


# the stand-in
def stand_in_lap(bench: Bench, stage: int = 0) -> Reading:
    """The stand-in rides a lap with a pace of its own, and its recording comes through the door of any recording.
    Raises InputRefused.
    """
    seed = bench.setup.bike_id * 1000 + bench.race.pk + 17 * bench.setup.bike.readings.count()
    data = bench.kept.ask(stand_in_recording, stage=stage, start="2027-01-01T10:00:00", seed=seed)
    key = bench.kept_inputs.race.stages[stage].course_key
    document = readings.ridden_lap(
        ContentFile(data), values=bench.kept_values, rider=bench.race.rider.document, course_key=key
    )
    return readings.add_reading(bench.setup.bike, document)
