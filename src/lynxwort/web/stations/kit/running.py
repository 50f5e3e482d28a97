"""What the rooms of cooling and electrics show."""

from math import isinf
from typing import Any

from django.utils.translation import gettext as _

from lynxwort.core.asks import running
from lynxwort.core.stations.kit import electrics
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.services import Bench
from lynxwort.web.stations.tables import Row, Table, moves_text, moves_words
from lynxwort.words.formatting import value_text
from lynxwort.words.kit.ready import OWN_LOADS

#: what the rooms tell, in their order
ON_THE_LAP = ("kit.cooling.hottest", "kit.cooling.hottest_at", "kit.cooling.boiling", "kit.cooling.margin",
              "kit.cooling.median", "kit.cooling.coolest")  # fmt: skip
IN_A_QUEUE = (
    "kit.cooling.crawl_settles",
    "kit.cooling.crawl_time",
    "kit.cooling.stand_time",
    "kit.cooling.fan_share",
    "kit.cooling.freezes",
)
BALANCE = ("kit.elec.surplus_mean", "kit.elec.surplus_idle", "kit.elec.battery_low", "kit.elec.laps_until_flat",
           "kit.elec.stop_time", "kit.elec.start_voltage")  # fmt: skip
LIGHT = ("kit.light.reach", "kit.light.outrun", "kit.elec.drop_headlight")


def heat(bench: Bench, units: Units | str) -> dict[str, Any]:
    """The coolant, and what each thing would do to it."""
    rows = [
        Row(
            name=moves_words(bench, h.moves, units), now=not h.moves, moves=moves_text(h.moves),
            cells=(
                value_text(h.hottest_k, "temperature", units),
                value_text(h.margin_k, "kelvin", units),
                _("never") if isinf(h.crawl_s) else value_text(h.crawl_s, "duration", units),
                value_text(h.median_k, "temperature", units),
            ),
        )
        for h in bench.report.ask(running.heats)
    ]  # fmt: skip
    heads = (
        _("What"),
        _("Hottest"),
        _("To boiling"),
        _("Walking pace boils after"),
        _("Half the lap under, cold hour"),
    )
    shown = bench.report.figures
    return {
        "table": Table(label=_("What each would do"), heads=heads, rows=tuple(rows)) if rows else None,
        "groups": [
            (title, [n for n in names if shown[n].status != "not_applicable" or shown[n].reason == "never_boils"])
            for title, names in ((_("On the lap"), ON_THE_LAP), (_("In a queue, and in the cold"), IN_A_QUEUE))
        ],
        "queues": [
            (i, s.name, s.crawling_s, s.standing_s) for i, s in enumerate(bench.inputs.race.stages)
        ],
    }  # fmt: skip


def current(bench: Bench, units: Units | str) -> dict[str, Any]:
    """Generator, loads, battery, wires and light, and what each thing would do."""
    seen = bench.report.ask(electrics.balance)
    rows = [
        Row(
            name=moves_words(bench, c.moves, units), now=not c.moves, moves=moves_text(c.moves),
            cells=(
                value_text(c.mean_w, "watts", units),
                "" if c.battery_low_j is None else value_text(c.battery_low_j, "charge", units),
            ),
        )
        for c in bench.report.ask(running.currents)
    ]  # fmt: skip
    loads = [
        Row(
            name=_(OWN_LOADS.get(x.name, x.name)),
            cells=(value_text(x.watts_w, "watts", units), value_text(x.mean_w, "watts", units)),
        )
        for x in (seen.loads if seen else ())
    ]
    wired = bench.report.ask(electrics.is_wired)
    shown = bench.report.figures
    return {
        "table": Table(label=_("What each would do"), heads=(_("What"), _("Left over"), _("Battery, least")),
                       rows=tuple(rows)) if rows else None,
        "loads": Table(label=_("What draws"), heads=(_("What"), _("Draws"), _("Mean of the lap")), rows=tuple(loads),
                       tries=False) if loads else None,
        "wired": wired,
        "unsaid": seen is None and wired,
        "groups": [
            (title, [n for n in names if shown[n].status != "not_applicable"])
            for title, names in ((_("Generator and battery"), BALANCE), (_("Wires and light"), LIGHT))
        ],
        "wire": bench.report.ask(electrics.wire),
    }  # fmt: skip
