"""The stretch that is being painted: read from taps, handles, nudges and typed places; its ribbon and its loupe."""

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from django.utils.translation import gettext as _

from lynxwort.core.model.base import field_facts
from lynxwort.core.model.race import CriticalHill, GroundSegment, Zone
from lynxwort.core.physics.course.cut import overlapping
from lynxwort.core.standin.weather import Forecast
from lynxwort.core.units.convert import Units, convert, shown_unit, to_shown
from lynxwort.web.races.models import Race
from lynxwort.web.races.tracks import lay_course
from lynxwort.web.ui.drawings.charts import day_curve
from lynxwort.web.ui.drawings.ribbon import Quantity, RibbonData, axis_ticks, draw_ribbon, share_of_lap
from lynxwort.web.ui.forms import QuantityField
from lynxwort.words.catalogue import TERMS
from lynxwort.words.formatting import unit_text, value_text

POINTS = 420
#: the loupe shows the stretch and this much on both sides of it, at least LEAST_LOUPE_M
LOUPE_MARGIN, LEAST_LOUPE_M = 0.25, 300.0


@dataclass(frozen=True, slots=True)
class Selection:
    """A stretch [m] of a stage; next: which end the next tap sets; error: what was wrong with a typed place; typed: as
    it was typed.
    """

    from_m: float
    to_m: float
    next: str = "from"
    error: str = ""
    typed: Mapping[str, str] | None = None

    def query(self) -> str:
        """The selection as the address holds it."""
        return f"from={self.from_m:.1f}&to={self.to_m:.1f}&next={self.next}"


def _number(text: str | None) -> float | None:
    try:
        value = float(text or "")
    except ValueError:
        return None
    return value if math.isfinite(value) else None


def _ordered(from_m: float, to_m: float, length_m: float, following: str) -> Selection:
    low, high = sorted((min(max(from_m, 0.0), length_m), min(max(to_m, 0.0), length_m)))
    return Selection(low, high, following)


def read_selection(query: Mapping[str, str], length_m: float, units: Units | str) -> Selection:
    """The stretch that a request speaks of. Taps are shares of the drawing's width, nudges metres, typed places in the
    person's units.
    """
    low, high = _number(query.get("from")), _number(query.get("to"))
    following = "to" if query.get("next") == "to" else "from"
    low, high = 0.0 if low is None else low, min(1000.0, length_m) if high is None else high
    tap, tap_to = (
        None if v is None else share_of_lap(v) for v in (_number(query.get("tap")), _number(query.get("tap_to")))
    )
    if tap is not None and tap_to is not None:
        return _ordered(tap * length_m, tap_to * length_m, length_m, "from")
    if tap is not None and following == "from":
        at = tap * length_m
        return _ordered(at, high if high > at else at, length_m, "to")
    if tap is not None:
        return _ordered(low, tap * length_m, length_m, "from")

    def with_end(end: str, value: float) -> Selection:
        """One end put elsewhere; the other follows when it is overtaken."""
        at = min(max(value, 0.0), length_m)
        return Selection(at, max(high, at), following) if end == "from" else Selection(min(low, at), at, following)

    end, _colon, by = query.get("nudge", "").partition(":")
    if end in ("from", "to") and _number(by) is not None:
        return with_end(end, (low if end == "from" else high) + (_number(by) or 0.0))
    for end in ("from", "to"):
        handle, typed = _number(query.get(f"handle_{end}")), query.get(f"typed_{end}")
        if handle is not None:
            return with_end(end, handle)
        if typed is not None:
            field = QuantityField(field_facts(Zone, "from_m"), units, required=True)
            try:
                value = float(field.clean(typed) or 0.0)
            except Exception as refused:  # Django's ValidationError: its words stand beside what was typed
                words = " ".join(getattr(refused, "messages", [str(refused)]))
                return replace(_ordered(low, high, length_m, following), error=words, typed={end: typed})
            return with_end(end, value)
    return _ordered(low, high, length_m, following)


def nudges(units: Units | str) -> tuple[tuple[tuple[float, str], ...], tuple[tuple[float, str], ...]]:
    """Steps back and steps on: (metres, words); 10 and 100 m, or 30 and 300 ft."""
    unit = shown_unit("stretch", units)
    sizes = (10, 100) if unit == "m" else (30, 300)

    def step(size: int, sign: str) -> tuple[float, str]:
        return round(convert(size if sign == "+" else -size, unit, "m"), 3), f"{sign}{size} {unit}"

    return tuple(step(s, "\u2212") for s in reversed(sizes)), tuple(step(s, "+") for s in sizes)


def stage_ribbon(
    row: Race, index: int, ground: tuple[GroundSegment, ...], units: Units | str, *, selection: Selection, loupe: bool
) -> Any:
    """The whole stage, or the stretch under the loupe, with what is placed on it."""
    stage = row.document["stages"][index]
    line = lay_course(stage["course_key"])
    low, high = 0.0, line.length_m
    if loupe:
        margin = max(
            LOUPE_MARGIN * (selection.to_m - selection.from_m),
            0.5 * (LEAST_LOUPE_M - (selection.to_m - selection.from_m)),
            0.0,
        )
        low, high = max(selection.from_m - margin, 0.0), min(selection.to_m + margin, line.length_m)
    distance = np.linspace(low, high, POINTS)
    unit = shown_unit("distance", units)
    to_metres = convert(1.0, unit, "m")
    inside = [
        (max(g.from_m, low), min(g.to_m, high), g.ground, _(TERMS[g.ground]))
        for g in ground
        if g.to_m > low and g.from_m < high
    ]
    points = [
        (p["at_m"], kind, p.get("name", ""))
        for key, kind in (("refuel_points", "refuel"), ("crew_points", "crew"))
        for p in stage.get(key, ())
    ]
    heights = np.interp(distance, line.distance_m, line.height_m)
    data = RibbonData(
        distance_m=distance,
        height_m=heights,
        ground=tuple(inside),
        quantity=Quantity(title=_("Under the loupe") if loupe else _("Height and ground")),
        at_m=None,
        axis=axis_ticks(high / to_metres, to_metres, low / to_metres),
        axis_unit=unit,
        points=tuple(p for p in points if low <= p[0] <= high),
        zones=tuple(
            (max(z["from_m"], low), min(z["to_m"], high), z["kind"])
            for z in stage.get("zones", ())
            if z["to_m"] > low and z["from_m"] < high
        ),
        problems=tuple(h["at_m"] for h in stage.get("hills", ()) if low <= h["at_m"] <= high),
        selection=(selection.from_m, selection.to_m),
        low_words=value_text(float(heights.min()), "height", units),
        high_words=value_text(float(heights.max()), "height", units),
    )
    return draw_ribbon(data)


def weather_drawing(day: Forecast, span: tuple[float, float], units: Units | str) -> Any:
    """Temperature over the hours of an invented day, the race's time of day [s] marked."""
    shown = [to_shown(t, "temperature", units).value for t in (*day.temperature_k, day.temperature_k[0])]
    unit = unit_text("temperature", units)
    hours = span[0] / 3600.0, span[1] / 3600.0
    return day_curve(
        [float(h) for h in range(25)],
        shown,
        hours,
        x_axis=_("h"),
        y_axis=unit,
        label=_("Temperature over the day, invented"),
    )


def overlapping_hills(stage: dict[str, Any], units: Units | str) -> list[str]:
    """Critical hills that lie on the same ground, in words: pairs by name or place."""
    hills = [CriticalHill.model_validate(h) for h in stage.get("hills", [])]

    def said(k: int) -> str:
        return hills[k].name or value_text(hills[k].at_m, "ribbon", units)

    return [_("%(a)s and %(b)s") % {"a": said(a), "b": said(b)} for a, b in overlapping(hills)]
