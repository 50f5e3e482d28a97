"""What is turned for each rider of a team: what stands, what would suit, one's own."""

from typing import Any

from django import forms
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy, ngettext

from lynxwort.core import tunables
from lynxwort.core.asks import compromise
from lynxwort.core.derived.clock import turned_between
from lynxwort.core.model.base import field_facts
from lynxwort.core.model.bike import Bike
from lynxwort.core.model.setup import RiderSettings, Setup
from lynxwort.core.report import SEVERITIES, Report
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.services import Bench
from lynxwort.web.bench.slots import slot_name, tunable_text
from lynxwort.web.bikes.changes import Whole
from lynxwort.web.ui.forms import QuantityField
from lynxwort.words.catalogue import say, tunable_word
from lynxwort.words.formatting import number_text, value_text

#: stations that say something else under another rider, as he has the bike
JUDGED = ("chassis", "damping", "kit")


class TurnedForm(forms.Form):
    """What one rider has otherwise; blank: as the setup says."""

    def __init__(self, data: Any = None, *, bench: Bench, preset: Units | str, rider: int) -> None:
        super().__init__(data, prefix=f"r{rider}")
        bike, setup, self.rider = bench.inputs.bike, bench.inputs.setup, rider
        self.name = bench.inputs.riders[rider].name
        said, own = next((t for t in setup.turned if t.rider == self.name), None), setup.turned_for(self.name)
        for name in bench.report.ask(compromise.quick_fields):
            words, slots = _(tunable_word(name, bike)), tunables.TUNABLES[name].others
            if slots is not None:
                choices = [(n, slot_name(bike, name, n)) for n in range(1, 2 + len(slots(bike)))]
                self.fields[name] = forms.TypedChoiceField(
                    label=words,
                    choices=[("", _("as the setup")), *choices],
                    coerce=int,
                    empty_value=None,
                    required=False,
                )
            else:
                as_set = tunable_text(bike, name, tunables.said_value(setup, name), preset)
                said_help = _("setup: %(v)s") % {"v": as_set}
                field = QuantityField(
                    field_facts(Setup, name), preset, label=words, required=False, help_text=said_help
                )
                field.assumed = ""  # left out it is as the setup, which the help says
                self.fields[name] = field
            self.initial[name] = own.get(name)
        self.fields["also"] = forms.CharField(
            label=gettext_lazy("What else: levers, seat"), max_length=80, required=False
        )
        self.initial["also"] = said.also if said else ""

    def entry(self, suits: compromise.TurnedFor | None) -> RiderSettings:
        """The rider's settings as typed. suits: with the preloads that suit him instead."""
        values = {k: v for k, v in self.cleaned_data.items() if k != "also" and v is not None}
        for end in suits.ends if suits else ():
            if end.wanted_m is not None:
                values["fork_preload_m" if end.end == "front" else "shock_preload_m"] = end.wanted_m
        return RiderSettings.model_validate({"rider": self.name, "values": values, "also": self.cleaned_data["also"]})


def with_entry(bench: Bench, entry: RiderSettings) -> Whole:
    """The change to this rider's settings; the others' stay, one who has nothing of his own stands nowhere."""
    others = [t for t in bench.inputs.setup.turned if t.rider != entry.rider]
    kept = [*others, *([entry] if entry.values or entry.also else [])]
    said = [t.model_dump(mode="json", exclude_unset=True) for t in sorted(kept, key=lambda t: t.rider)]
    return Whole({"turned": said or None})


def move_words(bike: Bike, turned: list[tuple[str, float, float]], preset: Units | str) -> str:
    """What is turned, from what to what, in one line; empty for nothing."""
    return ", ".join(
        _("%(what)s %(before)s → %(after)s")
        % {
            "what": _(tunable_word(name, bike)).lower(),
            "before": tunable_text(bike, name, before, preset),
            "after": tunable_text(bike, name, after, preset),
        }
        for name, before, after in turned
    )


def handed(setup: Setup, bike: Bike, before: str | None, after: str, preset: Units | str) -> str:
    """What is turned when one rider hands over to another, for the crew's sheet; before None: from the setup itself."""
    stands = setup if before is None else setup.for_rider(before)
    moves = move_words(bike, turned_between(stands, setup.for_rider(after)), preset)
    also = next((t.also for t in setup.turned if t.rider == after), "")
    return "; ".join(part for part in (moves, also) if part)


def _turns(end: compromise.EndFor) -> str:
    """Turns of ring or cap from the setup to what suits; empty where nobody knows the pitch or nothing is turned."""
    if end.turns is None or abs(end.turns) < 0.05:
        return ""
    count = number_text(abs(end.turns), "number", "metric")
    way = _("in") if end.turns > 0 else _("out")
    return ngettext("%(n)s turn %(way)s", "%(n)s turns %(way)s", round(abs(end.turns)) or 1) % {"n": count, "way": way}


def _end_words(end: compromise.EndFor, preset: Units | str) -> dict[str, Any]:
    told = {
        "wanted": value_text(end.wanted_m, "preload", preset) if end.wanted_m is not None else "",
        "race": value_text(end.then_m, "travel", preset),
        "off": value_text(end.off_then_m, "travel", preset),
    }
    if end.wanted_m is None:
        suits = _("air: type the chambers that suit") if end.is_off else _("as it is")
    elif not end.is_turned:
        suits = _("the ring does no more") if end.is_off else _("as it is")
    else:
        suits = _("%(wanted)s: race sag %(race)s") % told
    if end.stays_off:
        suits = _("%(suits)s, still %(off)s off") % {"suits": suits, "off": told["off"]}
    springs = {"soft": _("soft for this weight"), "stiff": _("stiff for this weight"), "right": ""}
    return {
        "end": end.end,
        "race": end.race_m,
        "free": end.free_m,
        "off": end.off_m if end.is_off else None,
        "suits": suits,
        "turns": _turns(end),
        "spring": springs[end.spring],
    }


def _said(report: Report, preset: Units | str) -> list[tuple[str, str]]:
    """The first thing that each station says under a rider: leaf and words."""
    found = []
    for station in JUDGED:
        first = next(iter(report.of(station)), None)
        if first is not None:
            found.append((first.severity, say(first, report, preset, _).rail))
    return sorted(found, key=lambda one: -SEVERITIES.index(one[0]))


def turned_page(bench: Bench, preset: Units | str, posted: TurnedForm | None = None) -> dict[str, Any]:
    """Each rider with what is turned for him, what would suit, what the bike says under him; and his form."""
    report, bike, rows = bench.report, bench.inputs.bike, []
    for told in report.ask(compromise.turned_for):
        form = (
            posted
            if posted and posted.rider == told.rider
            else TurnedForm(bench=bench, preset=preset, rider=told.rider)
        )
        rows.append(
            {
                "told": told,
                "words": move_words(bike, list(told.turned), preset),
                "ends": [_end_words(end, preset) for end in told.ends],
                "said": _said(report.ask(compromise.report_for, told.rider), preset),
                "form": form,
                "open": form.is_bound and bool(form.errors),
                "suits": any(e.is_turned for e in told.ends),
            }
        )
    relay = bench.inputs.race.relay
    return {"rows": rows, "hand_over": relay.hand_over_s if relay else None}


def is_team(bench: Bench) -> bool:
    """Whether several riders share the race."""
    return bench.inputs.race.relay is not None


def riders(bench: Bench) -> range:
    """The team's riders by their numbers."""
    return range(len(bench.inputs.riders))


def suiting(bench: Bench, rider: int) -> compromise.TurnedFor:
    """What would suit one rider."""
    return bench.report.ask(compromise.turned_for)[rider]
