"""Chassis's drawings."""

import json
from dataclasses import replace
from typing import Any

from django.urls import reverse
from django.utils.safestring import SafeString
from django.utils.translation import gettext as _
from django.utils.translation import pgettext

from lynxwort.core.figures import FIGURES
from lynxwort.core.physics.chassis.sag import SagTargets
from lynxwort.core.stations.chassis import clearances, feet, view
from lynxwort.core.stations.chassis import springs as wanted_springs
from lynxwort.core.units.convert import Units, shown_values
from lynxwort.web.bench.rows import way_to
from lynxwort.web.bench.services import Bench
from lynxwort.web.stations.pictured import look_of, sprocket_of
from lynxwort.web.stations.tables import moves_text, moves_words
from lynxwort.web.ui.drawings import bike, charts
from lynxwort.web.ui.drawings.standing import Note, standing
from lynxwort.words import N_
from lynxwort.words.catalogue import FIGURE_NAMES
from lynxwort.words.choices import FEET, FEET_ASKS
from lynxwort.words.formatting import unit_text, value_text


def draw(bench: Bench, preset: Units | str, at_m: float | None) -> dict[str, Any]:
    """Travel rulers and the springs that meet both sags."""
    kept = bench.kept
    rows = []
    for end, name in (("rear", _("Rear")), ("front", _("Front"))):
        t: SagTargets = bench.report.ask(wanted_springs.targets, end)
        row: dict[str, Any] = {
            "name": name,
            "travel": float(shown_values(bench.report.ask(view.travel, end), "travel", preset)),
        }
        for state, low, high, words in (
            ("free", t.free_low_m, t.free_high_m, pgettext("on a ruler", "free")),
            ("race", t.race_low_m, t.race_high_m, pgettext("on a ruler", "race")),
        ):
            name_of = f"chassis.{end}.{state}_sag"
            f, g = bench.report.figures[name_of], kept.figures[name_of]
            ghost = None if g.value == f.value else float(shown_values(g.value, "travel", preset))
            row[state] = (
                *(float(shown_values(v, "travel", preset)) for v in (f.value, f.low, f.high, low, high)),
                ghost,
            )
            row[f"{state}_name"], row[f"{state}_words"] = words, value_text(f.value or 0.0, "travel", preset)
        race = bench.report.value(f"chassis.{end}.race_sag") or 0.0
        travel = bench.report.ask(view.travel, end)
        drop = value_text(bench.report.value(f"chassis.{end}.bottoming_drop") or 0.0, "travel", preset)
        row["reserve"] = _("reserve %(left)s, a drop of %(drop)s") % {
            "left": value_text(max(travel - race, 0.0), "travel", preset),
            "drop": drop,
        }
        rows.append(row)
    options = [
        (
            *(
                float(shown_values(v, k, preset))
                for v, k in (
                    (c.rate_n_per_m, "spring_rate"),
                    (c.preload_low_m, "preload"),
                    (c.preload_high_m, "preload"),
                )
            ),
            c.owned,
        )
        for c in bench.report.ask(wanted_springs.spring_choices, "rear")
    ]

    def point(inputs: Any) -> tuple[float, float]:
        return float(shown_values(inputs.setup.shock_spring_rate_n_per_m, "spring_rate", preset)), float(
            shown_values(inputs.setup.shock_preload_m, "preload", preset)
        )

    now, was = point(bench.inputs), point(bench.kept_inputs)
    changed = bench.report.ask(view.outline) != kept.ask(view.outline)
    why = reverse("bench:why", kwargs={"setup": bench.setup.pk, "race": bench.race.pk, "figure": "FIGURE"})
    side = bike.bike(
        bench.report.ask(view.outline),
        kept.ask(view.outline) if changed else None,
        looks=(look_of(bench.inputs), look_of(bench.kept_inputs)),
        sprocket=sprocket_of(bench.inputs),
        label=_("The bike from the side at race sag"),
        dims={n: _dimension(bench, why, f, words, preset) for n, f, words in DIMENSIONS},
    )
    carried = bench.report.ask(view.squat_over_travel)
    kept_carried = kept.ask(view.squat_over_travel)
    at = bench.report.value("chassis.rear.race_sag") or 0.0
    pull = bike.over_travel(
        [float(shown_values(x, "travel", preset)) for x, _y in carried],
        [100 * y for _x, y in carried],
        None if carried == kept_carried else [100 * y for _x, y in kept_carried],
        (float(shown_values(at, "travel", preset)), 100 * (bench.report.value("chassis.anti_squat") or 0.0)),
        x_axis=_("rear travel, %(u)s") % {"u": unit_text("travel", preset)},
        y_axis=_("% of the squat carried"),
        words=_("race sag"),
        label=_("What chain and swingarm carry over the travel"),
    )
    return {
        "ghosted": changed,
        "drawings": [
            (_("Rider aboard at race sag, to scale"), side),
            (_("Chain pull over the travel, present sprockets"), pull),
            (
                _("Travel, topped out at the left"),
                charts.rulers(rows, unit=unit_text("travel", preset), label=_("Sag in the travel, front and rear")),
            ),
            (
                _("Shock springs that meet both sags"),
                charts.solutions(
                    options,  # type: ignore[arg-type]
                    now,
                    was if was != now else None,
                    x_axis=_("shock spring, %(u)s") % {"u": unit_text("spring_rate", preset)},
                    y_axis=_("preload, %(u)s") % {"u": unit_text("preload", preset)},
                    label=_("Shock springs and preloads that meet both sags"),
                ),
            ),
        ],
        "solution_key": True,
    }


#: dimensions on the side view: place, figure, words
DIMENSIONS = (
    ("wheelbase", "chassis.wheelbase", N_("wheelbase %(v)s")),
    ("trail", "chassis.trail", N_("trail %(v)s")),
    ("rake", "chassis.rake", N_("rake %(v)s")),
    ("seat", "chassis.seat_height", N_("seat %(v)s")),
    ("clearance", "chassis.ground_clearance", "%(v)s"),
    ("knee", "chassis.seat_to_peg", N_("seat to peg %(v)s")),
    ("arms", "chassis.seat_to_bar", N_("seat to bar %(v)s")),
    ("stance", "chassis.peg_to_bar", N_("peg to bar %(v)s")),
)


def _dimension(bench: Bench, why: str, figure: str, words: str, preset: Units | str) -> bike.Dimension:
    """A dimension of the drawing that opens its Why."""
    value = bench.report.value(figure) or 0.0
    text = value_text(value, FIGURES[figure].kind, preset)
    said = _(words) % {"v": text}
    return bike.Dimension(
        words=said, name=_(FIGURE_NAMES[figure]), figure=figure, value=value, url=why.replace("FIGURE", figure)
    )


def both_ends_moves(bench: Bench, preset: Units | str) -> list[dict[str, Any]]:
    """Both ends lower or higher as one move: its moves, and what it gives and takes."""
    step_m, rows = clearances.lowering_step(), list[dict[str, Any]]()
    for by, words in ((step_m, _("Both ends %(v)s lower")), (-step_m, _("Both ends %(v)s higher"))):
        moves = bench.report.ask(clearances.both_ends, by)
        if not moves:
            continue
        seat, clear, tyre = bench.report.ask(clearances.lowering_effect, moves)
        rows.append(
            {
                "words": words % {"v": value_text(step_m, "travel", preset)},
                "moves": json.dumps([[m.tunable, m.value] for m in moves]),
                "seat": value_text(seat, "travel", preset),
                "clearance": value_text(clear, "travel", preset),
                "tyre": value_text(tyre, "travel", preset),
            }
        )
    return rows


def feet_levels(bench: Bench, preset: Units | str) -> list[dict[str, Any]]:
    """Flat, balls and toes: reached, or the list of least work that reaches it, with what it gives."""
    rows = []
    for level in bench.report.ask(feet.levels) or ():
        row: dict[str, Any] = {"name": _(FEET[level.name]), "reached": level.reached}
        cheapest = level.cheapest
        if cheapest is not None:
            front, rear = cheapest.travels_m
            row |= {
                "moves": moves_text(cheapest.moves),
                "changes": moves_words(bench, cheapest.moves, preset),
                "asks": [_(FEET_ASKS[kind]) for kind in cheapest.kinds],
                "work": value_text(cheapest.work_s, "hours", preset),
                "seat": value_text(cheapest.seat_m, "travel", preset),
                "clearance": value_text(cheapest.clearance_m, "travel", preset),
                "front": value_text(front, "travel", preset),
                "rear": value_text(rear, "travel", preset),
                "stand": None if not cheapest.stand_cut_m else value_text(cheapest.stand_cut_m, "travel", preset),
            }
        rows.append(row)
    return rows


def seated(bench: Bench, preset: Units | str) -> SafeString:
    """The rider on the seat at race sag, seat and leg to spare called out."""
    base = reverse("bench:bench", args=[bench.setup.pk, bench.race.pk])
    seat, spare = (bench.report.value(f"chassis.{name}") for name in ("seat_height", "reach_margin"))
    notes = []
    if seat is not None:
        words = _("seat %(v)s") % {"v": value_text(seat, "travel", preset)}
        notes.append(Note(words, "seat", base + way_to(bench, "seat_up_m"), "left"))
    if spare is not None:
        said = value_text(abs(spare), "travel", preset)
        words = _("spare %(v)s") % {"v": said} if spare >= 0 else _("feet %(v)s up") % {"v": said}
        notes.append(Note(words, "foot peg", f"{base}chassis/", "right"))
    return standing(
        bench.report.ask(view.outline),
        replace(look_of(bench.inputs), standing=False),
        sprocket=sprocket_of(bench.inputs),
        notes=notes,
        label=_("The rider on the seat, from the side"),
    )
