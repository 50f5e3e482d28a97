"""Drive's drawings."""

from collections.abc import Sequence
from typing import Any

from django.utils.translation import gettext as _

from lynxwort.core.physics.drive.hills import needs_run_up
from lynxwort.core.stations.drive import hills
from lynxwort.core.stations.drive import view as drive_view
from lynxwort.core.units.convert import Units, convert, to_shown
from lynxwort.web.bench.services import Bench
from lynxwort.web.ui.drawings import bike, charts
from lynxwort.words.catalogue import TERMS
from lynxwort.words.choices import HABITS, POSES
from lynxwort.words.formatting import plain_number, unit_text, value_text

#: findings that stand in the chain's room
OF_THE_CHAIN = ("chain_fits", "chain_no_stretch", "chain_no_length", "chain_other_length", "sprocket_hits_case")


def draw(bench: Bench, preset: Units | str, at_m: float | None) -> dict[str, Any]:
    """Pull per gear against resistance, and the gear ladder."""
    seen, was = bench.report.ask(drive_view.pull), bench.kept.ask(drive_view.pull)
    speed, changed = seen.speed_m_per_s, was.gearing != seen.gearing
    per_n, per_v = (
        convert(1.0, "N", to_shown(1, "force", preset).unit),
        convert(1.0, "m/s", to_shown(1, "speed", preset).unit),
    )
    forces = [per_n * f for f in seen.forces_n]
    ghosts = [per_n * f for f in bench.kept.ask(drive_view.pull_over, speed)] if changed else []
    lines = [(per_n * seen.held_n[g], css, _(TERMS[g])) for g, css in (("hardpack", "res-a"), ("sand", "res-b"))]
    place = None
    if at_m is not None:
        held, v, at_v = bench.report.ask(drive_view.held_at, at_m, speed)
        here = per_n * held
        lines.append((here, "res-here", _("at %(place)s") % {"place": value_text(at_m, "distance", preset)}))
        place = (per_v * v, per_n * at_v)
    unit_v = unit_text("speed", preset)
    pull = charts.pull(
        per_v * speed,
        forces,
        ghosts,
        lines,
        place,
        axis=unit_v,
        force_axis=_("%(u)s at the wheel, full throttle") % {"u": unit_text("force", preset)},
        label=_("Pull in each gear against resistance"),
    )

    def bars(spans: Sequence[tuple[float, float]]) -> list[tuple[float, float]]:
        return [(per_v * low, per_v * high) for low, high in spans]

    lost = ["", *(_("%(rpm)s rpm lost") % {"rpm": plain_number(d, 0)} for d in seen.drops_rpm)]
    ladder = charts.ladder(
        bars(seen.spans_m_per_s),
        bars(was.spans_m_per_s) if changed else [],
        lost,
        axis=unit_v,
        label=_("Speeds of each gear"),
    )
    habits = _habits(bench)
    drawings: list[tuple[str, Any]] = [
        (_("Pull and resistance, level ground unless said"), pull),
        (_("Gear ladder, from where it pulls to the limiter"), ladder),
        (
            _("How the lap is ridden, by time; the engine's work, by where it goes"),
            charts.shares(habits, label=_("How the lap is ridden")),
        ),
    ]
    return {"drawings": drawings, "ghosted": changed, "hills": _hills(bench), "habits": habits}


def _habits(bench: Bench) -> list[tuple[str, list[tuple[str, float, str]]]]:
    """What the lap consists of: name of each division, its parts in words with their shares and looks."""
    rows = []
    for habit in bench.report.ask(drive_view.habits):
        css = (lambda code, i: f"limit-{code}") if habit.name == "limit" else (lambda code, i: f"tint-{i % 6}")
        parts = [
            (_(HABITS.get(f"{habit.name}.{code}", code)), share, css(code, i))
            for i, (code, share) in enumerate(habit.parts)
        ]
        rows.append((_(HABITS[habit.name]), parts))
    return rows


def chain_drawing(bench: Bench, preset: Units | str) -> Any:
    """The chain through the travel; nothing when none fits."""
    seen = bench.report.ask(drive_view.chain)
    if seen is None:
        return None
    shown = [
        (
            {"race_sag": "now", "tightest": "tight"}.get(p.name, "far"),
            p.axle,
            p.runs,
            (_(POSES[p.name]), _("play %(play)s") % {"play": value_text(p.play_m, "travel", preset)}),
        )
        for p in seen.poses
    ]
    return bike.chain(
        shown,
        sprocket=seen.sprocket_m,
        radii=seen.radii_m,
        words={"pivot": _("pivot"), "scale": value_text(0.1, "travel", preset)},
        label=_("Chain and swingarm through the travel"),
    )


def _hills(bench: Bench) -> dict[str, Any] | None:
    """Critical hills, and the run-up that each pair of sprockets needs."""
    found = bench.report.ask(hills.hills)
    if not found:
        return None
    rows = [
        {
            "front": f,
            "rear": r,
            "owned": owned,
            "now": r == bench.inputs.setup.rear_sprocket_teeth,
            "speeds": [(v, needs_run_up(v)) for v in speeds],
            "moves": f'[["rear_sprocket_teeth", {r}]]',
        }
        for (f, r, owned), speeds in bench.report.ask(hills.run_ups)
    ]
    return {"hills": found, "rows": rows}
