"""The ribbon of each station, and the words of each place."""

from collections.abc import Sequence
from typing import Any

import numpy as np
from django.utils.translation import get_language
from django.utils.translation import gettext as _

from lynxwort.core.asks import along
from lynxwort.core.derived.road import RiddenSpeed
from lynxwort.core.physics.drive.kernel import STUCK_GRIP, STUCK_POWER
from lynxwort.core.report import Report
from lynxwort.core.stations.drive.pulls import problem_places
from lynxwort.core.stations.fuelling.view import proven, richness_along
from lynxwort.core.stations.range import view as stores
from lynxwort.core.stations.range.view import level_along, used_along
from lynxwort.core.units.convert import Units, convert, shown_unit
from lynxwort.web.evaluation import door
from lynxwort.web.ui.drawings.ribbon import Quantity, RibbonData, axis_ticks
from lynxwort.words.catalogue import LIMIT_WORDS, STAGE_KINDS, TERMS
from lynxwort.words.formatting import value_text

POINTS = 320
#: stretches whose consumption is drawn
STRETCHES = 80
PLACES = 121
#: places closer than this are one problem [m]
APART_M = 80.0
#: limit codes -> the three groups the ribbon tells apart
GROUPS = {"power": "power", "revs": "power", "stuck_power": "power", "grip": "grip", "wheelie": "grip", "stuck_grip": "grip",
          "pace": "pace", "corner": "pace", "brake": "pace", "shift": "pace"}  # fmt: skip


def _scaled(values: np.ndarray) -> tuple[np.ndarray, float, float]:
    low, high = float(values.min()), float(values.max())
    return 0.12 + 0.76 * (values - low) / max(high - low, 1e-9), low, high


def _limits(report: Report) -> Quantity:
    marks = [(a, b, f"limit-{group}") for a, b, group in report.ask(along.ruled_by, GROUPS)]
    legend = tuple((f"limit-{n}", words) for n, words in (("power", _("power")), ("grip", _("grip")), ("pace", _("corners, pace"))))
    return Quantity(title=_("what limits"), marks=tuple(marks), legend=legend)


def _curve(report: Report, values: np.ndarray, title: str, kind: str, css: str, preset: Units | str) -> Quantity:
    scaled, low, high = _scaled(values)
    legend = ((css, f"{value_text(low, kind, preset)} – {value_text(high, kind, preset)}"),)
    return Quantity(title=title, curves=((scaled, css, ""),), legend=legend)


def _ridden(report: Report, ridden: RiddenSpeed, preset: Units | str) -> Quantity:
    """Speed by the model and as it was ridden, on one scale."""
    model, seen = _thin(report.ask(along.speed_along)), ridden.speed_m_per_s
    most = max(float(model.max()), float(seen.max()))
    legend = (("speed", _("by the model, to %(v)s") % {"v": value_text(float(model.max()), "speed", preset)}),
              ("ridden", _("as ridden, to %(v)s") % {"v": value_text(float(seen.max()), "speed", preset)}))  # fmt: skip
    return Quantity(title=_("speed"), curves=((0.06 + 0.84 * model / most, "speed", ""),), legend=legend,
                    part=(ridden.from_m, ridden.to_m, 0.06 + 0.84 * seen / most, "ridden"))  # fmt: skip


def _level(report: Report, preset: Units | str) -> Quantity:
    """What is left aboard along the round, lap by lap of a single stage with what is filled in; and what each stretch burns."""
    store, seen = report.ask(stores.store), report.ask(along.round_view)
    aboard, fuel = store.aboard, store.kind == "fuel"
    whole, curves = report.ask(used_along), []
    if len(seen.stages) == 1:
        places, level = report.ask(level_along)
        length = seen.length_m
        for lap in range(min(report.ask(stores.laps), 6)):
            left = np.interp(np.linspace(lap * length, (lap + 1) * length, POINTS), places, level[:, 1])
            curves.append((0.06 + 0.86 * np.clip(left / max(aboard, level.max()), 0.0, 1.0), "level", _("lap %(n)s") % {"n": lap + 1}))
    else:
        curves.append((0.06 + 0.86 * np.clip((aboard - _thin(whole)) / aboard, 0.0, 1.0), "level", ""))
    edges = np.linspace(0.0, seen.length_m, STRETCHES + 1)
    rate = np.diff(np.interp(edges, seen.distance_m, whole)) / np.diff(edges)
    curves.append(
        (0.06 + 0.8 * np.interp(np.linspace(0.0, 1.0, POINTS), (np.arange(STRETCHES) + 0.5) / STRETCHES, rate) / max(float(rate.max()), 1e-12), "burn", "")
    )
    title = _("fuel aboard, likely, and what each stretch burns") if fuel else _("charge aboard, likely, and what each stretch draws")
    kind = "consumption" if fuel else "energy_rate"
    burns = f"{value_text(float(rate.min()), kind, preset)} – {value_text(float(rate.max()), kind, preset)}"
    return Quantity(title=title, curves=tuple(curves), legend=(("level", value_text(aboard, "volume" if fuel else "energy", preset)), ("burn", burns)))


def _thin(values: np.ndarray) -> np.ndarray:
    return values[np.linspace(0, values.size - 1, POINTS).astype(int)]


def quantity(report: Report, station: str, preset: Units | str) -> Quantity:
    """The station's own quantity along the lap."""
    if station == "drive":
        return _limits(report)
    if station == "fuelling" and report.ask(proven):
        dense, thin = report.ask(richness_along, _thin(report.ask(along.round_view).height_m))
        low, high = float(min(dense.min(), thin.min())), float(max(dense.max(), thin.max()))
        # the legend says the figures: the thinned heights may miss the very top
        ends = report.figures["fuelling.richness_full_densest"].low or 0.0, report.value("fuelling.richness_full_thinnest") or 0.0
        scale = lambda v: 0.12 + 0.76 * (v - low) / max(high - low, 1e-9)  # noqa: E731
        return Quantity(
            title=_("richness at full throttle"),
            curves=((scale(dense), "densest", ""), (scale(thin), "thinnest", "")),
            legend=(("densest", _("coldest hour from %(v)s") % {"v": value_text(ends[0], "richness", preset)}),
                    ("thinnest", _("hottest hour to %(v)s") % {"v": value_text(ends[1], "richness", preset)})),
        )  # fmt: skip
    if station == "range":
        return _level(report, preset)
    if station == "baseline" and (ridden := report.ask(along.ridden_speed)) is not None:
        return _ridden(report, ridden, preset)
    if station == "purpose" and report.figures["purpose.power_share_min"].status != "not_applicable":
        return _curve(report, _thin(report.ask(along.power_along)), _("power left in the mean air of the day"), "share", "air", preset)
    return _curve(report, _thin(report.ask(along.speed_along)), _("speed, assumed by the model"), "speed", "speed", preset)


def problems(report: Report, station: str) -> list[float]:
    """Places that the station's findings speak of, in order along the lap."""
    found = {f.at_m for f in report.of(station) if f.at_m is not None and f.severity in ("look", "act")}
    if station == "drive":
        found |= {a for code in (STUCK_POWER, STUCK_GRIP) for a, _b in report.ask(problem_places, code)}
    apart: list[float] = []
    for at in sorted(found):
        if not apart or at - apart[-1] > APART_M:
            apart.append(at)
    return apart


def stage_name(stages: Sequence[Any], index: int) -> str:
    """What a stage of the race or of the round is called: its own name, or its kind and number."""
    return stages[index].name or f"{_(STAGE_KINDS[stages[index].kind])} {index + 1}"


def place_words(report: Report, at_m: float, preset: Units | str) -> tuple[str, str]:
    """Two lines on one place: where and what ground, and what the model does there."""
    return _words(report.ask(along.place, at_m), report.ask(along.round_view).stages, preset)


def _words(place: along.Place, stages: Sequence[Any], preset: Units | str) -> tuple[str, str]:
    grade = place.grade
    slope = _("level") if abs(grade) < 0.01 else (_("up %(g)s %%") if grade > 0 else _("down %(g)s %%")) % {"g": f"{abs(grade) * 100:.0f}"}
    first = f"{value_text(place.at_m, 'distance', preset)} · {_(TERMS[place.ground])}, {slope}"
    if len(stages) > 1:
        first = f"{stage_name(stages, place.stage)} · {first}"
    opened = "" if place.throttle_share is None else _(", throttle %(share)s") % {"share": value_text(place.throttle_share, "share", preset)}
    template = _("gear %(gear)s, %(speed)s, %(rpm)s%(throttle)s · limit: %(limit)s") if place.geared else _("%(speed)s, %(rpm)s · limit: %(limit)s")
    second = template % {
        "rpm": value_text(place.rpm, "rpm", preset), "throttle": opened, "gear": place.gear, "speed": value_text(place.speed_m_per_s, "speed", preset),
        "limit": _(LIMIT_WORDS[place.limit]),
    }  # fmt: skip
    return first, second


def scrub_words(report: Report, preset: Units | str) -> list[list[str]]:
    """Words of evenly spaced places, for scrubbing without a request."""

    def make() -> list[list[str]]:
        stages = report.ask(along.round_view).stages
        return [list(_words(p, stages, preset)) for p in report.ask(along.places, PLACES)]

    return door.cached("scrub", (report.ask(along.lap_of), preset, get_language()), make)


def ribbon_data(report: Report, station: str, at_m: float | None, preset: Units | str) -> RibbonData:
    """Everything the ribbon draws."""
    seen = report.ask(along.round_view)
    unit = shown_unit("distance", preset)
    to_metres = convert(1.0, unit, "m")
    heights = seen.height_m
    return RibbonData(
        distance_m=_thin(seen.distance_m),
        height_m=_thin(heights),
        ground=tuple((a, b, code, _(TERMS[code])) for a, b, code in seen.ground),
        quantity=quantity(report, station, preset),
        at_m=at_m,
        problems=tuple(problems(report, station)),
        axis=axis_ticks(seen.length_m / to_metres, to_metres),
        axis_unit=unit,
        borders=tuple((s.from_m, stage_name(seen.stages, i)) for i, s in enumerate(seen.stages)) if len(seen.stages) > 1 else (),
        points=seen.points,
        zones=seen.zones,
        low_words=value_text(float(heights.min()), "height", preset),
        high_words=value_text(float(heights.max()), "height", preset),
    )
