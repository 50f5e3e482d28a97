"""The ribbon of each station, and the words of each place."""

import math
from typing import Any

import numpy as np
from django.utils.translation import get_language
from django.utils.translation import gettext as _

from lynxwort.core.derived.road import RiddenSpeed
from lynxwort.core.model.race import GROUNDS
from lynxwort.core.physics.course.prepare import rise_over_run
from lynxwort.core.physics.drive.kernel import LIMITS, STUCK_GRIP, STUCK_POWER
from lynxwort.core.report import Report
from lynxwort.core.stations.drive.input import DriveInput
from lynxwort.core.stations.drive.pulls import problem_places
from lynxwort.core.stations.fuelling.input import FuellingInput
from lynxwort.core.stations.fuelling.view import richness_along
from lynxwort.core.stations.range.input import RangeInput
from lynxwort.core.stations.range.view import level_along, used_along
from lynxwort.core.units.convert import Units, convert, shown_unit
from lynxwort.web.evaluation import door
from lynxwort.web.ui.drawings.ribbon import Quantity, RibbonData, axis_ticks
from lynxwort.words.catalogue import LIMIT_WORDS, STAGE_KINDS, TERMS
from lynxwort.words.formatting import value_text

POINTS = 320
BINS = 260
#: stretches whose consumption is drawn
STRETCHES = 80
PLACES = 121
NOTABLE_SHARE = 0.3
#: places closer than this are one problem [m]
APART_M = 80.0
#: limit codes -> the three groups the ribbon tells apart
GROUPS = {"power": "power", "revs": "power", "stuck_power": "power", "grip": "grip", "wheelie": "grip", "stuck_grip": "grip",
          "pace": "pace", "corner": "pace", "brake": "pace", "shift": "pace"}  # fmt: skip


def _runs(codes: np.ndarray) -> list[tuple[int, int, int]]:
    """Runs of equal codes: (from, to, code)."""
    edges = np.flatnonzero(np.diff(codes)) + 1
    starts, ends = np.concatenate([[0], edges]), np.concatenate([edges, [codes.size]])
    return [(int(a), int(b), int(codes[a])) for a, b in zip(starts, ends, strict=True)]


def _scaled(values: np.ndarray) -> tuple[np.ndarray, float, float]:
    low, high = float(values.min()), float(values.max())
    return 0.12 + 0.76 * (values - low) / max(high - low, 1e-9), low, high


def _limits(report: Report) -> Quantity:
    work = report.work
    names = sorted(set(GROUPS.values()))
    table = np.array([names.index(GROUPS[n]) for n in LIMITS])
    group = table[work.lap.whole.limit]
    bins = np.array_split(group, BINS)
    shares = np.array([np.bincount(b, minlength=len(names)) / b.size for b in bins])
    # a stretch counts as held up by power or grip when that rules a good part of it; else by corners and pace
    notable = [names.index("power"), names.index("grip")]
    most = np.where(shares[:, notable].max(axis=1) >= NOTABLE_SHARE, np.take(notable, shares[:, notable].argmax(axis=1)), names.index("pace"))
    length = work.around.whole.length_m
    marks = [(a * length / BINS, b * length / BINS, f"limit-{names[c]}") for a, b, c in _runs(most)]
    legend = tuple((f"limit-{n}", words) for n, words in (("power", _("power")), ("grip", _("grip")), ("pace", _("corners, pace"))))
    return Quantity(title=_("what limits"), marks=tuple(marks), legend=legend)


def _curve(report: Report, values: np.ndarray, title: str, kind: str, css: str, preset: Units | str) -> Quantity:
    scaled, low, high = _scaled(values)
    legend = ((css, f"{value_text(low, kind, preset)} – {value_text(high, kind, preset)}"),)
    return Quantity(title=title, curves=((scaled, css, ""),), legend=legend)


def _ridden(report: Report, ridden: RiddenSpeed, preset: Units | str) -> Quantity:
    """Speed by the model and as it was ridden, on one scale."""
    model, seen = _thin(report.work.lap.whole.speed_m_per_s), ridden.speed_m_per_s
    most = max(float(model.max()), float(seen.max()))
    legend = (("speed", _("by the model, to %(v)s") % {"v": value_text(float(model.max()), "speed", preset)}),
              ("ridden", _("as ridden, to %(v)s") % {"v": value_text(float(seen.max()), "speed", preset)}))  # fmt: skip
    return Quantity(title=_("speed"), curves=((0.06 + 0.84 * model / most, "speed", ""),), legend=legend,
                    part=(ridden.from_m, ridden.to_m, 0.06 + 0.84 * seen / most, "ridden"))  # fmt: skip


def _level(report: Report, preset: Units | str) -> Quantity:
    """What is left aboard along the round, lap by lap of a single stage with what is filled in; and what each stretch burns."""
    work = report.work
    aboard, single, fuel = work.supply.store.aboard, len(work.around.courses) == 1, work.supply.store.kind == "fuel"
    whole, curves = used_along(RangeInput.of(work)), []
    if single:
        places, level = level_along(RangeInput.of(work))
        length = work.around.whole.length_m
        for lap in range(min(work.clock.laps, 6)):
            left = np.interp(np.linspace(lap * length, (lap + 1) * length, POINTS), places, level[:, 1])
            curves.append((0.06 + 0.86 * np.clip(left / max(aboard, level.max()), 0.0, 1.0), "level", _("lap %(n)s") % {"n": lap + 1}))
    else:
        curves.append((0.06 + 0.86 * np.clip((aboard - _thin(whole)) / aboard, 0.0, 1.0), "level", ""))
    edges = np.linspace(0.0, work.around.whole.length_m, STRETCHES + 1)
    rate = np.diff(np.interp(edges, work.around.whole.distance_m, whole)) / np.diff(edges)
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
    work = report.work
    if station == "drive":
        return _limits(report)
    if station == "fuelling" and work.mixture.good is not None:
        dense, thin = richness_along(FuellingInput.of(work), _thin(work.around.whole.height_m))
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
    if station == "baseline" and (ridden := work.road.ridden_speed()) is not None:
        return _ridden(report, ridden, preset)
    if station == "purpose" and work.inputs.bike.metering != "electric":
        return _curve(report, _thin(work.lap.power_share), _("power left in the mean air of the day"), "share", "air", preset)
    return _curve(report, _thin(work.lap.whole.speed_m_per_s), _("speed, assumed by the model"), "speed", "speed", preset)


def ground_runs(report: Report) -> list[tuple[float, float, str]]:
    """Stretches of ground that are long enough to draw: (from m, to m, code)."""
    course = report.work.around.whole
    return [(float(course.distance_m[a]), float(course.distance_m[b]), GROUNDS[c]) for a, b, c in _runs(course.ground)]


def problems(report: Report, station: str) -> list[float]:
    """Places that the station's findings speak of, in order along the lap."""
    found = {f.at_m for f in report.of(station) if f.at_m is not None and f.severity in ("look", "act")}
    if station == "drive":
        found |= {a for code in (STUCK_POWER, STUCK_GRIP) for a, _b in problem_places(DriveInput.of(report.work), code)}
    apart: list[float] = []
    for at in sorted(found):
        if not apart or at - apart[-1] > APART_M:
            apart.append(at)
    return apart


def stage_name(work: Any, index: int) -> str:
    """What a stage is called: its own name, or its kind and number."""
    stage = work.inputs.race.stages[index]
    return stage.name or f"{_(STAGE_KINDS[stage.kind])} {index + 1}"


def borders(work: Any) -> tuple[tuple[float, str], ...]:
    """Where each stage begins on the round, with its name; nothing to say with one stage."""
    if len(work.around.courses) == 1:
        return ()
    return tuple((float(work.around.starts_m[i]), stage_name(work, i)) for i in range(len(work.around.courses)))


def points(work: Any) -> tuple[tuple[float, str, str], ...]:
    """Refuel and crew points of the round: (metres, kind, name)."""
    found = []
    for i, stage in enumerate(work.inputs.race.stages):
        start = float(work.around.starts_m[i])
        found += [(start + p.at_m, "refuel", p.name) for p in stage.refuel_points] + [(start + p.at_m, "crew", p.name) for p in stage.crew_points]
    return tuple(sorted(found))


def zones(work: Any) -> tuple[tuple[float, float, str], ...]:
    """Zones of the round: (from m, to m, kind)."""
    return tuple(
        (float(work.around.starts_m[i]) + z.from_m, float(work.around.starts_m[i]) + min(z.to_m, work.around.courses[i].length_m), z.kind)
        for i, stage in enumerate(work.inputs.race.stages)
        for z in stage.zones
    )


def place_words(report: Report, at_m: float, preset: Units | str) -> tuple[str, str]:
    """Two lines on one place: where and what ground, and what the model does there."""
    return _words(report.work, at_m, report.work.around.step_at(at_m), preset)


def _words(work: Any, at_m: float, i: int, preset: Units | str) -> tuple[str, str]:
    """place_words of a step whose index is known."""
    course, ride = work.around.whole, work.lap.whole
    sine = float(course.sine[i])
    grade = float(rise_over_run(sine))
    slope = _("level") if abs(grade) < 0.01 else (_("up %(g)s %%") if grade > 0 else _("down %(g)s %%")) % {"g": f"{abs(grade) * 100:.0f}"}
    first = f"{value_text(at_m, 'distance', preset)} · {_(TERMS[GROUNDS[int(course.ground[i])]])}, {slope}"
    if len(work.around.courses) > 1:
        first = f"{stage_name(work, work.around.stage_at(at_m))} · {first}"
    geared = len(work.inputs.bike.transmission.gear_ratios) > 1
    lift = work.lap.lift
    opened = "" if lift is None else _(", throttle %(share)s") % {"share": value_text(float(lift[i]), "share", preset)}
    template = _("gear %(gear)s, %(speed)s, %(rpm)s%(throttle)s · limit: %(limit)s") if geared else _("%(speed)s, %(rpm)s · limit: %(limit)s")
    second = template % {
        "rpm": value_text(float(ride.crank_rad_per_s[i]) * 60.0 / (2.0 * math.pi), "rpm", preset), "throttle": opened,
        "gear": int(ride.gear[i]), "speed": value_text(float(ride.speed_m_per_s[i]), "speed", preset),
        "limit": _(LIMIT_WORDS[LIMITS[int(ride.limit[i])]]),
    }  # fmt: skip
    return first, second


def scrub_words(report: Report, preset: Units | str) -> list[list[str]]:
    """Words of evenly spaced places, for scrubbing without a request."""
    work = report.work

    def make() -> list[list[str]]:
        places = np.linspace(0.0, work.around.whole.length_m, PLACES)
        steps = np.minimum(np.searchsorted(work.around.whole.distance_m, places, side="right") - 1, work.around.whole.sine.size - 1)
        return [list(_words(work, at, i, preset)) for at, i in zip(places.tolist(), steps.tolist(), strict=True)]

    return door.cached("scrub", (work.lap, preset, get_language()), make)


def ribbon_data(report: Report, station: str, at_m: float | None, preset: Units | str) -> RibbonData:
    """Everything the ribbon draws."""
    course = report.work.around.whole
    unit = shown_unit("distance", preset)
    to_metres = convert(1.0, unit, "m")
    heights = course.height_m
    return RibbonData(
        distance_m=_thin(course.distance_m),
        height_m=_thin(heights),
        ground=tuple((a, b, code, _(TERMS[code])) for a, b, code in ground_runs(report)),
        quantity=quantity(report, station, preset),
        at_m=at_m,
        problems=tuple(problems(report, station)),
        axis=axis_ticks(course.length_m / to_metres, to_metres),
        axis_unit=unit,
        borders=borders(report.work),
        points=points(report.work),
        zones=zones(report.work),
        low_words=value_text(float(heights.min()), "height", preset),
        high_words=value_text(float(heights.max()), "height", preset),
    )
