"""Verbs on courses and races."""

from collections.abc import Callable, Sequence
from datetime import datetime
from typing import Any
from zoneinfo import ZoneInfo

from django.db import transaction
from pydantic import ValidationError

from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.race import GroundSegment
from lynxwort.core.model.race import Race as CoreRace
from lynxwort.core.model.refused import refusals_of
from lynxwort.core.model.rider import Rider as CoreRider
from lynxwort.core.model.track import Track
from lynxwort.core.physics.course.paint import LEAST_M, paint, whole
from lynxwort.core.standin.weather import RACE_S, Forecast, forecast_for
from lynxwort.web.garages.models import Garage
from lynxwort.web.races.models import Course, Race, Rider
from lynxwort.web.races.tracks import add_course, load_track
from lynxwort.web.ui.stale import TRIES, StaleFacts, mark_of


def _checked(model: Any, document: dict, prefix: str) -> Any:
    try:
        return model.model_validate(document)
    except ValidationError as error:
        raise InputRefused(*refusals_of(error, prefix, root=model)) from None


def checked_rider(document: dict) -> CoreRider:
    """The core's rider. Raises InputRefused with paths from "rider."."""
    return _checked(CoreRider, document, "rider.")  # type: ignore[no-any-return]


def checked_race(document: dict) -> CoreRace:
    """The core's race. Raises InputRefused with paths from "race."."""
    return _checked(CoreRace, document, "race.")  # type: ignore[no-any-return]


def _start(race: CoreRace) -> datetime:
    moment = datetime.fromisoformat(race.start)
    return moment if moment.tzinfo else moment.replace(tzinfo=ZoneInfo(race.time_zone))


def _write(row: Race, race: CoreRace) -> None:
    """The race's columns from its document."""
    row.name, row.start = race.name, _start(race)
    row.document, row.version = race.model_dump(mode="json", exclude_unset=True), (row.version or 0) + 1


def stage_document(course: Course, **facts: Any) -> dict:
    """A stage on a course: one ground all along until it is painted."""
    return {
        "course_key": course.blob_id,
        "ground": [{"from_m": 0.0, "to_m": course.length_m, "ground": "single_track"}],
    } | facts


def save_rider(garage: Garage, document: dict, row: Rider | None = None, *, seen: dict | None = None) -> Rider:
    """Make or change a rider. seen: the facts that were edited. Raises InputRefused, StaleFacts."""
    rider = checked_rider(document)
    with transaction.atomic():
        now = Rider(garage=garage) if row is None else Rider.objects.get(pk=row.pk)
        if seen is not None and now.document != seen:
            raise StaleFacts
        now.name, now.document = rider.name, rider.model_dump(mode="json", exclude_unset=True)
        now.save()
    return now


def make_race(
    garage: Garage,
    race: dict,
    stages: list[tuple[Course | Track, dict]],
    rider: Rider | dict,
    others: Sequence[Rider | dict] = (),
) -> Race:
    """A race with its stages in order; a Track becomes a course and a document a rider in the same transaction. others:
    more riders on the same bike. Raises InputRefused.
    """
    with transaction.atomic():
        courses = [add_course(garage, c) if isinstance(c, Track) else c for c, _ in stages]
        documents = [
            stage_document(c) | facts | {"course_key": c.blob_id} for c, (_, facts) in zip(courses, stages, strict=True)
        ]
        checked = checked_race(race | {"stages": documents})
        row = Race(
            garage=garage,
            course=courses[0],
            rider=rider if isinstance(rider, Rider) else save_rider(garage, rider),
            version=0,
        )
        _write(row, checked)
        row.save()
        row.others.set([o if isinstance(o, Rider) else save_rider(garage, o) for o in others])
    return row


def race_facts(row: Race) -> dict[str, Any]:
    """What the page of a race edits: its day, air and riders, without the stages."""
    return {
        "race": {k: v for k, v in row.document.items() if k not in ("stages", *ELSEWHERE)},
        "rider": row.rider_id,
        "others": sorted(o.pk for o in row.others.all()),
    }


def stage_facts(stage: dict) -> dict[str, Any]:
    """What the form of a stage edits: how it is ridden, without its ground and what stands on it."""
    return {
        k: v
        for k, v in stage.items()
        if k not in ("ground", "hills", "refuel_points", "crew_points", "zones", "course_key")
    }


def layout_of(stages: list[dict]) -> str:
    """A mark of which stages there are in which order: what a number of a stage on a page means."""
    return mark_of([[s["course_key"], s.get("name", "")] for s in stages])


def _update(row: Race, columns: Callable[[Race], dict[str, Any] | None]) -> None:
    """Write what `columns` makes of the race, if nobody changed it meanwhile; else done again on what stands then.
    Raises what columns raises.
    """
    for _try in range(TRIES):
        made = columns(row)
        if made is None:
            return
        if Race.objects.filter(pk=row.pk, version=row.version).update(version=row.version + 1, **made):
            row.refresh_from_db()
            return
        row.refresh_from_db()
    raise StaleFacts


def change_race(row: Race, race: dict, rider: Rider, others: Sequence[Rider], *, seen: dict | None = None) -> None:
    """Change a race's day, air and riders; its stages stay as they then are. seen: race_facts as edited. Raises
    InputRefused, StaleFacts.
    """

    def columns(now: Race) -> dict[str, Any]:
        if seen is not None and race_facts(now) != seen:
            raise StaleFacts
        apart = facts_of(now, (*ELSEWHERE, "stages"))
        checked = checked_race(race | apart)
        return {
            "name": checked.name,
            "start": _start(checked),
            "document": checked.model_dump(mode="json", exclude_unset=True),
            "rider": rider,
        }

    with transaction.atomic():
        row.refresh_from_db()
        _update(row, columns)
        row.others.set([o for o in others if o.pk != rider.pk])


#: what of a race the pages of its rules, its crew and its week hold, and not its own
OF_RULES, OF_CREW, OF_WEEK = ("asked", "sound_limit_db", "sound_test"), ("crew",), ("week",)
ELSEWHERE = (*OF_RULES, *OF_CREW, *OF_WEEK)


def facts_of(row: Race, names: tuple[str, ...]) -> dict[str, Any]:
    """What a page edits that holds these of a race."""
    return {k: row.document[k] for k in names if k in row.document}


def change_facts(row: Race, names: tuple[str, ...], facts: dict[str, Any], *, seen: dict[str, Any]) -> None:
    """Change these of a race; all else stays. seen: facts_of as edited. Raises InputRefused, StaleFacts."""

    def columns(now: Race) -> dict[str, Any]:
        if facts_of(now, names) != seen:
            raise StaleFacts
        kept = {k: v for k, v in now.document.items() if k not in names}
        return {"document": checked_race(kept | facts).model_dump(mode="json", exclude_unset=True)}

    _update(row, columns)


Stages = list[dict]


def _stage_columns(now: Race, stages: Stages, past: list) -> dict[str, Any]:
    race = checked_race(now.document | {"stages": stages})
    first = Course.objects.filter(garage_id=now.garage_id, blob_id=stages[0]["course_key"]).first() or now.course
    return {"document": race.model_dump(mode="json", exclude_unset=True), "past": past[-30:], "course": first}


def change_stages(row: Race, change: Callable[[Stages], Stages], *, layout: str = "") -> None:
    """Change the stages as one change that can be taken back. layout: the order of stages that was spoken of.

    Raises InputRefused, IndexError, and StaleFacts where the order is another one by now.
    """

    def columns(now: Race) -> dict[str, Any]:
        before = now.document["stages"]
        if layout and layout != layout_of(before):
            raise StaleFacts
        return _stage_columns(now, change(list(before)), [*now.past, before])

    _update(row, columns)


def take_back(row: Race, version: int | None = None) -> None:
    """Take back the last change of the stages, if there is one. version: as the page shows it; raises StaleFacts when
    somebody changed the race since.
    """

    def columns(now: Race) -> dict[str, Any] | None:
        if version is not None and version != now.version:
            raise StaleFacts
        return _stage_columns(now, now.past[-1], now.past[:-1]) if now.past else None

    _update(row, columns)


def with_parts(stages: Stages, index: int, **changes: Any) -> Stages:
    """The stages with parts of one replaced; None takes a part away."""
    return [
        *stages[:index],
        {k: v for k, v in (stages[index] | changes).items() if v is not None},
        *stages[index + 1 :],
    ]


def change_stage(row: Race, index: int, *, layout: str = "", seen: dict | None = None, **changes: Any) -> None:
    """Replace facts of one stage; None takes a fact away. seen: stage_facts as edited. Raises InputRefused, IndexError,
    StaleFacts.
    """

    def change(stages: Stages) -> Stages:
        if seen is not None and stage_facts(stages[index]) != seen:
            raise StaleFacts
        return with_parts(stages, index, **changes)

    change_stages(row, change, layout=layout)


def add_stages(row: Race, courses: Sequence[Course | Track], facts: dict) -> None:
    """One more stage at the end for each course, as one change. Raises InputRefused."""
    with transaction.atomic():
        found = [add_course(row.garage, c) if isinstance(c, Track) else c for c in courses]
        change_stages(row, lambda stages: [*stages, *(stage_document(c, **facts) for c in found)])


def drop_stage(row: Race, index: int, *, layout: str = "") -> None:
    """Take a stage away; the last one stays. Raises IndexError, StaleFacts."""

    def change(stages: Stages) -> Stages:
        if len(stages) == 1:
            raise IndexError(index)
        del stages[index]
        return stages

    change_stages(row, change, layout=layout)


def split_stage(row: Race, index: int, *, layout: str = "") -> None:
    """Let the later laps differ: the first lap as a stage of its own, the others after it. Raises IndexError,
    StaleFacts, InputRefused (one_lap).
    """

    def change(stages: Stages) -> Stages:
        stage = stages[index]
        laps, name = stage.get("laps", 1), stage.get("name", "")
        if laps < 2:
            raise InputRefused(Refusal(path="stage.laps", code="one_lap"))
        stages[index : index + 1] = [
            stage | {"laps": 1, "name": f"{name} 1".strip()},
            stage | {"laps": laps - 1, "name": f"{name} 2".strip()},
        ]
        return stages

    change_stages(row, change, layout=layout)


def raise_stage(row: Race, index: int, *, layout: str = "") -> None:
    """Ride a stage one place earlier. Raises IndexError, StaleFacts."""

    def change(stages: Stages) -> Stages:
        if not 0 < index < len(stages):
            raise IndexError(index)
        stages[index - 1], stages[index] = stages[index], stages[index - 1]
        return stages

    change_stages(row, change, layout=layout)


def invented_weather(row: Race) -> tuple[Forecast, tuple[float, float], dict[str, Any]]:
    """The stand-in's day at the start of the first course, the times of day between which the race goes [s], and the
    air of it. Invented: nobody's forecast.
    """
    local = row.start.astimezone(ZoneInfo(row.document.get("time_zone", "UTC")))
    day = forecast_for(
        load_track(row.document["stages"][0]["course_key"]), day_of_year=local.timetuple().tm_yday, seed=row.pk
    )
    start_s = 3600.0 * local.hour + 60.0 * local.minute
    return day, (start_s, start_s + RACE_S), day.over(start_s=start_s, length_s=RACE_S)


def courses_of(row: Race) -> list[Course]:
    """The course of each stage, in order."""
    keys = [s["course_key"] for s in row.document["stages"]]
    found = {c.blob_id: c for c in Course.objects.filter(garage_id=row.garage_id, blob_id__in=keys)}
    return [found[k] for k in keys]


def ground_of(stage: dict, course: Course) -> tuple[GroundSegment, ...]:
    """A stage's stretches of ground, covering the whole lap."""
    return whole(tuple(GroundSegment.model_validate(g) for g in stage.get("ground", ())), length_m=course.length_m)


def paint_ground(
    row: Race, index: int, course: Course, *, from_m: float, to_m: float, ground: str, layout: str = "", **known: Any
) -> None:
    """Paint a stretch of a stage. known: depth, whoops, tightness, state, as GroundSegment has them. Raises
    InputRefused, StaleFacts.
    """
    if to_m - from_m < LEAST_M:
        raise InputRefused(Refusal(path="to_m", code="stretch_too_short", low=LEAST_M, unit="m"))
    stretch = _checked(GroundSegment, {"from_m": from_m, "to_m": to_m, "ground": ground} | known, "")

    def change(stages: Stages) -> Stages:
        painted = paint(ground_of(stages[index], course), stretch=stretch, length_m=course.length_m)
        return with_parts(stages, index, ground=[g.model_dump(exclude_defaults=True) for g in painted])

    change_stages(row, change, layout=layout)


def add_item(row: Race, index: int, course: Course, where: str, item: dict, *, layout: str = "") -> None:
    """Add a hill, a refuel or crew point, or a zone to a stage. Raises InputRefused when it lies beyond the course,
    StaleFacts.
    """
    at = "from_m" if where == "zones" else "at_m"
    if item[at] >= course.length_m:
        raise InputRefused(Refusal(path=at, code="beyond_course", high=course.length_m, unit="m"))
    change_stages(
        row,
        lambda stages: with_parts(
            stages, index, **{where: sorted([*stages[index].get(where, []), item], key=lambda i: i[at])}
        ),
        layout=layout,
    )


def drop_item(row: Race, index: int, where: str, mark: str, *, layout: str = "") -> None:
    """Take a hill, point or zone away, found by its mark. Raises IndexError when it is gone, StaleFacts."""

    def change(stages: Stages) -> Stages:
        items = stages[index].get(where, [])
        here = next((k for k, item in enumerate(items) if mark_of(item) == mark), None)
        if here is None:
            raise IndexError(mark)
        return with_parts(stages, index, **{where: [*items[:here], *items[here + 1 :]]})

    change_stages(row, change, layout=layout)


def change_item(row: Race, index: int, course: Course, where: str, mark: str, item: dict, *, layout: str = "") -> None:
    """Another hill, point or zone in the place of one, found by its mark, as one change. Raises InputRefused,
    IndexError when it is gone, StaleFacts.
    """
    at = "from_m" if where == "zones" else "at_m"
    if item[at] >= course.length_m:
        raise InputRefused(Refusal(path=at, code="beyond_course", high=course.length_m, unit="m"))

    def change(stages: Stages) -> Stages:
        items = stages[index].get(where, [])
        if all(mark_of(i) != mark for i in items):
            raise IndexError(mark)
        others = [i for i in items if mark_of(i) != mark]
        return with_parts(stages, index, **{where: sorted([*others, item], key=lambda i: i[at])})

    change_stages(row, change, layout=layout)


def copy_race(row: Race) -> Race:
    """The same race a year on, to be changed: its day moved, what its rules were met by unticked."""
    document = dict(row.document)
    start = datetime.fromisoformat(document["start"])
    leap = start.month == 2 and start.day == 29
    document["start"] = start.replace(year=start.year + 1, day=28 if leap else start.day).isoformat()
    document["asked"] = [{k: v for k, v in a.items() if k not in ("done", "photo")} for a in document.get("asked", [])]
    with transaction.atomic():
        made = Race(garage_id=row.garage_id, course_id=row.course_id, rider_id=row.rider_id, version=0)
        _write(made, checked_race(document))
        made.save()
        made.others.set(row.others.all())
    return made
