"""What the rooms of sound and rules, and of build and spares, show; and the lists that are printed."""

from typing import Any

from django.urls import reverse
from django.utils.translation import gettext as _

from lynxwort.core.asks import after
from lynxwort.core.model.bike.spares import ALWAYS, HOUR_S
from lynxwort.core.report import Move
from lynxwort.core.stations.kit import building, sounding
from lynxwort.core.stations.kit.candidates import switch
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.services import Bench
from lynxwort.web.stations.tables import Row, Table, moves_text
from lynxwort.web.ui.drawings.workplan import Bar, workplan
from lynxwort.words.catalogue import TERMS
from lynxwort.words.formatting import difference_text, number_text, range_text, value_text
from lynxwort.words.kit import CATALOGUE, ready

SOUND = ("kit.sound.level", "kit.sound.margin", "kit.sound.test_rpm")
BUILD = ("kit.build.hours_left", "kit.build.critical_path", "kit.build.missing")


def sound(bench: Bench, units: Units | str) -> dict[str, Any]:
    """How loud with each insert and by each kind of test, and what the event asks for."""
    loud: bool = bench.report.ask(sounding.is_loud)
    inserts = []
    for i in bench.report.ask(sounding.inserts):
        fitting, leaner = i.fitting, ""
        if fitting is not None and fitting.leaner_low is not None and fitting.leaner_high is not None:
            leaner = range_text(fitting.leaner_low, fitting.leaner_high, "richness", units, _)
        moves = moves_text((Move(tunable="exhaust_insert", value=float(i.slot)),))
        inserts.append(
            Row(
                name=_("its own") if fitting is None else fitting.name, now=i.is_in, moves="" if i.is_in else moves,
                cells=(
                    value_text(i.level_db, "decibel", units),
                    "" if i.margin_db is None else value_text(i.margin_db, "decibel", units),
                    leaner,
                    value_text(i.power_scale, "share", units),
                ),
            )
        )  # fmt: skip
    tests = [
        Row(
            name=_(words), now=test == bench.inputs.race.sound_test,
            cells=(
                _("needs the stroke") if rpm is None else value_text(rpm, "rpm", units),
                _("not measured") if level is None else value_text(level, "decibel", units),
            ),
        )
        for (test, words), (rpm, level) in zip(
            ready.SOUND_TESTS.items(), bench.report.ask(sounding.by_test), strict=True
        )
    ]  # fmt: skip
    shown = bench.report.figures
    return {
        "inserts": Table(
            label=_("By insert"),
            heads=(_("Insert"), _("Level"), _("To the limit"), _("Leans by"), _("Torque")), rows=tuple(inserts),
        ) if len(inserts) > 1 else None,
        "tests": Table(label=_("By kind of test"), heads=(_("Test"), _("Revs"), _("Level")), rows=tuple(tests),
                       tries=False) if loud else None,
        "figures": [n for n in SOUND if shown[n].status != "not_applicable"],
    }  # fmt: skip


def _job(bench: Bench, identity: str) -> str:
    item = bench.inputs.bike.kit.item(identity)
    return _(TERMS[identity]) if item is None else _(item.name)


def _drawn(bench: Bench, seen: building.Build) -> Any:
    bars = [
        Bar(
            name=_job(bench, p.job.id), from_h=p.from_s / HOUR_S, to_h=p.to_s / HOUR_S, slack_h=p.slack_s / HOUR_S,
            critical=p.critical, late=p.waits,
        )
        for p in seen.plan
    ]  # fmt: skip
    if not bars:
        return ""
    start = None if seen.to_start_s is None else seen.to_start_s / HOUR_S
    # a start far off would squeeze the work
    near = start is not None and start <= 2.0 * bars[-1].to_h
    return workplan(
        bars, start_h=start if near else None, start_words=_("start"), label=_("The order of work"), unit=_("h")
    )


def build(bench: Bench, units: Units | str) -> dict[str, Any]:
    """The build with its plan, what the race asks for, the spares."""
    inputs, seen = bench.inputs, bench.report.ask(building.build)
    items = bench.report.ask(building.in_build)
    rows = [
        Row(
            name=_(i.name),
            tag=_("done") if building.is_done(i) else _("arrives %(day)s") % {"day": i.arrives} if i.arrives else "",
            cells=(
                value_text(i.net_kg, "mass", units),
                _money(i.cost), _money(i.spent),
                "–" if i.work_s is None else value_text(i.work_s, "hours", units),
                "–" if i.worked_s is None else value_text(i.worked_s, "hours", units),
            ),
        )
        for i in items
    ]  # fmt: skip
    rows.append(
        Row(
            name=_("Together"), now=True,
            cells=(
                value_text(seen.mass_kg, "mass", units), _money(seen.cost), _money(seen.spent),
                value_text(seen.work_s, "hours", units), value_text(seen.worked_s, "hours", units),
            ),
        )
    )  # fmt: skip
    heads = (_("What"), _("Adds"), _("Money, planned"), _("spent"), _("Work, planned"), _("done"))
    kinds = after.changed(inputs.bike, inputs.setup, inputs.readings)
    return {
        "build": seen,
        "items": Table(label=_("The build"), heads=heads, rows=tuple(rows), tries=False) if items else None,
        "plan": _drawn(bench, seen),
        "power": difference_text(bench.report.ask(building.power_to_mass), "richness", units),
        "needs": [_need(bench, n) for n in bench.report.ask(building.race_needs)],
        "spares": _spares(bench, units),
        "packed": bench.report.ask(building.pack),
        "always": [_(ready.ALWAYS[a]) for a in ALWAYS],
        "figures": [n for n in BUILD if bench.report.figures[n].status != "not_applicable"] if items else [],
        "after": [_(ready.AFTER[s]) for s in after.steps(kinds)],
    }


def _money(value: float | None) -> str:
    return "–" if value is None else number_text(value, "count", "metric")


def _need(bench: Bench, need: building.Need) -> dict[str, Any]:
    """One rule with its reason, and a press to put on what lies there."""
    base = reverse("bench:bench", args=[bench.setup.pk, bench.race.pk])
    return {
        "must": need.wanted.need == "must",
        "what": " / ".join(_(CATALOGUE[i]) for i in need.wanted.items),
        "why": _(ready.WHYS[need.wanted.why]),
        "on": ", ".join(_(i.name) for i in need.on),
        "overruled": need.overruled,
        "moves": [(_(i.name), moves_text((switch(i, on=True),)))
                  for i in need.there],
        "items": f"{base}kit/items/",
    }  # fmt: skip


def _percent(share: float, units: Units | str) -> str:
    """A chance, with a figure behind the comma where it is small."""
    return value_text(share, "share" if share >= 0.02 else "chance", units)


def _spares(bench: Bench, units: Units | str) -> Table:
    rows = [
        Row(
            name=_(ready.SPARES[c.spare.id]), tag=_("a second: %(p)s") % {"p": _percent(c.second_chance, units)},
            now=c.where == "bag",
            cells=(
                _(ready.WHERES[c.where]),
                _percent(c.chance, units),
                value_text(c.saves_s, "duration", units),
                value_text(c.spare.mass_kg, "grams", units),
                value_text(c.saves_per_100g_s, "duration", units),
            ),
        )
        for c in bench.report.ask(building.pack).spares
    ]  # fmt: skip
    heads = (_("Spare"), _("Where"), _("Wanted"), _("Saves, in the mean"), _("Weighs"), _("Saves for 100 g"))
    return Table(label=_("Spares"), heads=heads, rows=tuple(rows), tries=False)


def lists(bench: Bench, units: Units | str) -> dict[str, Any]:
    """What is printed: the work in its order, what goes where, what the event asks for, what stands in the pits."""
    seen, packed = bench.report.ask(building.build), bench.report.ask(building.pack)
    carried = [
        (_(ready.WHERES[where]), [_(ready.SPARES[c.spare.id]) for c in packed.spares if c.where == where])
        for where in ("bag", "toolbox", "truck")
    ]
    return {
        "jobs": [
            (_job(bench, p.job.id), value_text(p.job.takes_s, "hours", units), p.waits) for p in seen.plan
        ],
        "carried": [(where, names) for where, names in carried if names],
        "always": [_(ready.ALWAYS[a]) for a in ALWAYS],
        "asked": [(_(ready.RULES[a.rule]), a) for a in bench.inputs.race.asked],
        "pits": [_(p) for p in ready.PITS],
        "missing": [_(n) for n in seen.missing],
    }  # fmt: skip


def sentences(bench: Bench, units: Units | str) -> list[str]:
    """For the pit card: what goes in the bum bag, and what of the work and the rules is open, of the kept setup."""
    packed = bench.kept.ask(building.pack)
    bag = [_(ready.SPARES[c.spare.id]) for c in packed.spares if c.where == "bag"]
    found = [_("Bum bag: %(what)s") % {"what": ", ".join(bag)}] if bag else []
    left = bench.kept.ask(sounding.open_rules)
    if left:
        found.append(_("Not seen to: %(what)s") % {"what": ", ".join(_(ready.RULES[r]) for r in left)})
    seen = bench.kept.ask(building.build)
    if seen.plan:
        found.append(_("Work left: %(h)s") % {"h": value_text(seen.left_s, "hours", units)})
    return found
