"""The ribbon of each station, and the words of each place."""

from collections.abc import Sequence
from typing import Any

import numpy as np
from django.utils.translation import get_language
from django.utils.translation import gettext as _

from lynxwort.core.asks import along
from lynxwort.core.derived.along import WHOLE, Part
from lynxwort.core.physics.drive.kernel import STUCK_GRIP, STUCK_POWER
from lynxwort.core.report import Report
from lynxwort.core.stations.baseline.view import SpeedView, ridden
from lynxwort.core.stations.drive import view as drive
from lynxwort.core.stations.drive.pulls import problem_places
from lynxwort.core.stations.fuelling.view import richness_along
from lynxwort.core.stations.kit import view as kit
from lynxwort.core.stations.purpose.view import Window, power_along, round_view, windows
from lynxwort.core.stations.range import passings
from lynxwort.core.stations.range import view as stores
from lynxwort.core.tunables import passing_of
from lynxwort.core.units.convert import Units, convert, shown_unit
from lynxwort.web.bench.slots import tunable_name
from lynxwort.web.evaluation import door
from lynxwort.web.ui.drawings.ribbon import Quantity, RibbonData, axis_ticks, within
from lynxwort.words.catalogue import TERMS
from lynxwort.words.choices import LIMIT_WORDS, STAGE_KINDS
from lynxwort.words.formatting import value_text

PLACES = 121
#: places closer than this are one problem [m]
APART_M = 80.0


def _scaled(values: np.ndarray) -> tuple[np.ndarray, float, float]:
    low, high = float(values.min()), float(values.max())
    return 0.12 + 0.76 * (values - low) / max(high - low, 1e-9), low, high


def _limits(report: Report, part: Part) -> Quantity:
    marks = [(a, b, f"limit-{group}") for a, b, group in report.ask(drive.ruled_by, part)]
    legend = tuple(
        (f"limit-{n}", words) for n, words in (("power", _("power")), ("grip", _("grip")), ("pace", _("corners, pace")))
    )
    return Quantity(title=_("what limits"), marks=tuple(marks), legend=legend)


def _curve(values: np.ndarray, title: str, kind: str, css: str, preset: Units | str) -> Quantity:
    scaled, low, high = _scaled(values)
    legend = ((css, f"{value_text(low, kind, preset)} – {value_text(high, kind, preset)}"),)
    return Quantity(title=title, curves=((scaled, css, ""),), legend=legend)


def _ridden(seen: SpeedView, preset: Units | str) -> Quantity:
    """Speed by the model and as it was ridden, on one scale."""
    model, ridden = float(seen.model_m_per_s.max()), float(seen.ridden_m_per_s.max())
    legend = (
        ("speed", _("by the model, to %(v)s") % {"v": value_text(model, "speed", preset)}),
        ("ridden", _("as ridden, to %(v)s") % {"v": value_text(ridden, "speed", preset)}),
    )
    curve, part = (0.06 + 0.84 * v / max(model, ridden) for v in (seen.model_m_per_s, seen.ridden_m_per_s))
    return Quantity(
        title=_("speed"), curves=((curve, "speed", ""),), legend=legend, part=(seen.from_m, seen.to_m, part, "ridden")
    )


def _level(report: Report, preset: Units | str, part: Part) -> Quantity:
    """What is left aboard along the round, lap by lap of a single stage with what is filled in; and what each stretch
    burns.
    """
    store, seen = report.ask(stores.store), report.ask(stores.level_view, part)
    fuel, single = store.kind == "fuel", len(report.ask(round_view).stages) == 1
    curves = [
        (0.06 + 0.86 * (left / seen.most).clip(0.0, 1.0), "level", _("lap %(n)s") % {"n": i} if single else "")
        for i, left in enumerate(seen.laps, 1)
    ]
    low, high = float(seen.rate.min()), float(seen.rate.max())
    curves.append((0.06 + 0.8 * seen.rates / max(high, 1e-12), "burn", ""))
    title = (
        _("fuel aboard, likely, and what each stretch burns")
        if fuel
        else _("charge aboard, likely, and what each stretch draws")
    )
    kind = "consumption" if fuel else "energy_rate"
    burns = f"{value_text(low, kind, preset)} – {value_text(high, kind, preset)}"
    return Quantity(
        title=title,
        curves=tuple(curves),
        legend=(("level", value_text(store.aboard, "volume" if fuel else "energy", preset)), ("burn", burns)),
    )


def _warmth(report: Report, preset: Units | str, part: Part) -> Quantity:
    """Rotors, fluid and foam along the round, on one scale; foam the first and the last time round."""
    seen = report.ask(kit.warmth, part)
    curves = [
        ("rotor", seen.front_rotor_k, _("front rotor to %(v)s"), ""),
        ("fluid", seen.fluid_k, _("fluid to %(v)s"), ""),
    ]
    if seen.foam_k is not None and seen.foam_first_k is not None:
        curves += [("foam", seen.foam_k, _("foam to %(v)s"), _("last")), ("foam", seen.foam_first_k, "", _("lap 1"))]
    low, high = min(float(v.min()) for _c, v, *_w in curves), max(float(v.max()) for _c, v, *_w in curves)
    return Quantity(
        title=_("how warm brakes and foam get"),
        curves=tuple((0.08 + 0.84 * (v - low) / max(high - low, 1e-9), css, end) for css, v, _w, end in curves),
        legend=tuple(
            (css, words % {"v": value_text(float(v.max()), "temperature", preset)})
            for css, v, words, _end in curves
            if words
        ),
    )


def _heat(report: Report, preset: Units | str, part: Part) -> Quantity | None:
    """The coolant under its boiling point."""
    seen = report.ask(kit.heat, part)
    if seen is None:
        return None
    low, high = float(seen.coolant_k.min()), float(max(seen.boils_k.max(), seen.coolant_k.max()))
    scale = lambda v: 0.06 + 0.86 * (v - low) / max(high - low, 1e-9)  # noqa: E731
    words = (
        ("coolant", _("coolant to %(v)s") % {"v": value_text(float(seen.coolant_k.max()), "temperature", preset)}),
        ("boils", _("boils from %(v)s") % {"v": value_text(float(seen.boils_k.min()), "temperature", preset)}),
    )
    curves = ((scale(seen.coolant_k), "coolant", ""), (scale(seen.boils_k), "boils", ""))
    return Quantity(title=_("how hot the coolant gets"), curves=curves, legend=words)


def _current(report: Report, preset: Units | str, part: Part) -> Quantity | None:
    """What is in the battery the first and the last time round; without one what is left over."""
    seen = report.ask(kit.current, part)
    if seen is None:
        return None
    if seen.first_j is None or seen.last_j is None or not seen.holds_j:
        return _curve(seen.net_w, _("current left over"), "watts", "battery", preset)
    shown = (("battery", seen.first_j, _("lap 1, least %(v)s")), ("drained", seen.last_j, _("last, least %(v)s")))
    return Quantity(
        title=_("what is in the battery"),
        curves=tuple((0.06 + 0.86 * v / seen.holds_j, css, "") for css, v, _words in shown),
        legend=tuple((css, words % {"v": value_text(float(v.min()), "charge", preset)}) for css, v, words in shown),
    )


#: what a room shows in place of its station's own
OF_ROOMS = {"cooling": _heat, "electrics": _current}


def quantity(report: Report, station: str, preset: Units | str, room: str = "", part: Part = WHOLE) -> Quantity:
    """The station's own quantity along the lap, or that of one of its rooms."""
    if station == "kit" and room in OF_ROOMS and (own := OF_ROOMS[room](report, preset, part)) is not None:
        return own
    if station == "drive":
        return _limits(report, part)
    if station == "fuelling" and (seen := report.ask(richness_along, part)) is not None:
        dense, thin = seen.densest, seen.thinnest
        low, high = float(min(dense.min(), thin.min())), float(max(dense.max(), thin.max()))
        # the legend says the figures: the thinned heights may miss the very top
        ends = (
            report.figures["fuelling.richness_full_densest"].low or 0.0,
            report.value("fuelling.richness_full_thinnest") or 0.0,
        )
        scale = lambda v: 0.12 + 0.76 * (v - low) / max(high - low, 1e-9)  # noqa: E731
        return Quantity(
            title=_("richness at full throttle"),
            curves=((scale(dense), "densest", ""), (scale(thin), "thinnest", "")),
            legend=(
                ("densest", _("coldest hour from %(v)s") % {"v": value_text(ends[0], "richness", preset)}),
                ("thinnest", _("hottest hour to %(v)s") % {"v": value_text(ends[1], "richness", preset)}),
            ),
        )
    if station == "range":
        return _level(report, preset, part)
    if station == "kit":
        return _warmth(report, preset, part)
    if station == "baseline" and (speeds := report.ask(ridden, part)) is not None:
        return _ridden(speeds, preset)
    if station == "purpose" and report.figures["purpose.power_share_min"].status != "not_applicable":
        return _curve(report.ask(power_along, part), _("power left in the mean air of the day"), "share", "air", preset)
    return _curve(report.ask(drive.speed_along, part), _("speed, assumed by the model"), "speed", "speed", preset)


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


def place_and_lap(report: Report, passed: passings.Passed) -> tuple[str, str]:
    """A passing's name, and its lap or stage."""
    stages = report.ask(along.document).race.stages
    lap = _("lap %(n)s") % {"n": passed.lap} if len(stages) == 1 else stage_name(stages, passed.stage)
    return passed.name or _("after the stage"), lap


def move_name(report: Report, tunable: str) -> str:
    """What is moved, in words; a stop by its place and lap."""
    passing = passing_of(tunable)
    places = report.ask(passings.passed, report.ask(stores.most_laps)) if passing else []
    if not 1 <= passing <= len(places):
        return tunable_name(tunable, report.ask(along.document).bike)
    return "{} ({})".format(*place_and_lap(report, places[passing - 1]))


def stage_name(stages: Sequence[Any], index: int) -> str:
    """What a stage of the race or of the round is called: its own name, or its kind and number."""
    return stages[index].name or f"{_(STAGE_KINDS[stages[index].kind])} {index + 1}"


def place_words(report: Report, at_m: float, preset: Units | str) -> tuple[str, str]:
    """Two lines on one place: where and what ground, and what the model does there."""
    return _words(report.ask(along.place, at_m), report.ask(round_view).stages, preset)


def _words(place: along.Place, stages: Sequence[Any], preset: Units | str) -> tuple[str, str]:
    grade = place.grade
    slope = (
        _("level")
        if abs(grade) < 0.01
        else (_("up %(g)s %%") if grade > 0 else _("down %(g)s %%")) % {"g": f"{abs(grade) * 100:.0f}"}
    )
    first = f"{value_text(place.at_m, 'distance', preset)} · {_(TERMS[place.ground])}, {slope}"
    if len(stages) > 1:
        first = f"{stage_name(stages, place.stage)} · {first}"
    opened = (
        ""
        if place.throttle_share is None
        else _(", throttle %(share)s") % {"share": value_text(place.throttle_share, "share", preset)}
    )
    template = (
        _("gear %(gear)s, %(speed)s, %(rpm)s%(throttle)s · limit: %(limit)s")
        if place.geared
        else _("%(speed)s, %(rpm)s · limit: %(limit)s")
    )
    second = template % {
        "rpm": value_text(place.rpm, "rpm", preset),
        "throttle": opened,
        "gear": place.gear,
        "speed": value_text(place.speed_m_per_s, "speed", preset),
        "limit": _(LIMIT_WORDS[place.limit]),
    }
    return first, second


def window_of(report: Report, zoom: int) -> Window | None:
    """What of the round the ribbon shows, by its number among what there is, from 1; None for all of it."""
    there = report.ask(windows)
    return there[zoom - 1] if 0 < zoom <= len(there) else None


def zooms(report: Report, zoom: int) -> list[tuple[int, str, bool]]:
    """What the ribbon can show, by number, with whether it does; none of a single stage."""
    there, stages = report.ask(windows), report.ask(round_view).stages
    if not there:
        return []

    def called(window: Window) -> str:
        if window.kind == "day":
            return _("day %(n)s") % {"n": window.number}
        # a piece that was cut is called by its number alone
        name = stage_name(stages, window.number - 1)
        return _("stage %(n)s") % {"n": name} if name.isdigit() else name

    names = [called(w) for w in there]
    shown = window_of(report, zoom)
    return [(0, _("whole round"), shown is None)] + [
        (n, name, w is shown) for n, (name, w) in enumerate(zip(names, there, strict=True), 1)
    ]


def scrub_words(report: Report, preset: Units | str, zoom: int = 0) -> list[list[str]]:
    """Words of evenly spaced places of what the ribbon shows, for scrubbing without a request."""
    window = window_of(report, zoom)
    reach = (window.from_m, window.to_m) if window else None

    def make() -> list[list[str]]:
        stages = report.ask(round_view).stages
        return [list(_words(p, stages, preset)) for p in report.ask(along.places, PLACES, reach)]

    return door.cached("scrub", (report.ask(along.lap_of), preset, get_language(), reach), make)


def ribbon_data(
    report: Report, station: str, at_m: float | None, preset: Units | str, room: str = "", zoom: int = 0
) -> RibbonData:
    """Everything the ribbon draws. zoom: see window_of."""
    window = window_of(report, zoom)
    part = window.part if window else WHOLE
    seen = report.ask(round_view, part)
    unit = shown_unit("distance", preset)
    to_metres = convert(1.0, unit, "m")
    from_m, to_m = (window.from_m, window.to_m) if window else (0.0, seen.length_m)
    low, high = (float(seen.height_m.min()), float(seen.height_m.max())) if window else (seen.lowest_m, seen.highest_m)
    data = RibbonData(
        distance_m=seen.distance_m,
        height_m=seen.height_m,
        ground=tuple((a, b, code, _(TERMS[code])) for a, b, code in seen.ground),
        quantity=quantity(report, station, preset, room, part),
        at_m=at_m,
        problems=tuple(problems(report, station)),
        axis=axis_ticks(to_m / to_metres, to_metres, from_m / to_metres),
        axis_unit=unit,
        borders=tuple((s.from_m, stage_name(seen.stages, i)) for i, s in enumerate(seen.stages))
        if len(seen.stages) > 1
        else (),
        points=seen.points,
        zones=seen.zones,
        low_words=value_text(low, "height", preset),
        high_words=value_text(high, "height", preset),
    )
    return within(data, from_m, to_m) if window else data
