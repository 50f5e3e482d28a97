"""The pit card: one page for the start line."""

from typing import Any
from zoneinfo import ZoneInfo

from django.utils.translation import gettext as _

from lynxwort.core.units.detents import DETENTS, current_value
from lynxwort.web.bench.services import Bench
from lynxwort.words.catalogue import TUNABLES, say
from lynxwort.words.formatting import value_text

FIGURES = ("range.fuel_wanted", "range.p_finish", "range.fuel_per_lap", "fuelling.main.wanted", "fuelling.lean_margin_min", "chassis.rear.race_sag",
           "chassis.rear.free_sag", "chassis.front.race_sag", "drive.top_speed", "drive.metres_short", "purpose.power_share_min")  # fmt: skip


def card(bench: Bench, preset: str) -> dict[str, Any]:
    """What stands on the card: the kept setup, what it means, what to act on."""
    report, inputs = bench.kept, bench.kept_inputs
    urgent = [say(f, report, preset, _) for s in report.verdicts for f in report.of(s) if f.severity in ("act", "look")]
    fitted = [(_(TUNABLES[t]), value_text(current_value(inputs.setup, t), d.kind, preset)) for t, d in DETENTS.items()]
    if inputs.setup.premix_ratio:
        fitted.append((_(TUNABLES["premix_ratio"]), f"{inputs.setup.premix_ratio:g} : 1"))
    # local time of the race, without its zone: templates would turn it into the server's
    start = bench.race.start.astimezone(ZoneInfo(inputs.race.time_zone)).replace(tzinfo=None)
    return {"card_report": report, "fitted": fitted, "urgent": urgent, "card_figures": FIGURES, "start": start, "zone": inputs.race.time_zone}
