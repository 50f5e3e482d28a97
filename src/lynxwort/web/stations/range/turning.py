"""What is turned for each rider of a team: what stands, what would suit, one's own."""

from typing import Any

from django import forms
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy, ngettext

from lynxwort.core import tunables
from lynxwort.core.asks import along, compromise
from lynxwort.core.derived.clock import turned_between
from lynxwort.core.model.base import field_facts
from lynxwort.core.model.bike import Bike
from lynxwort.core.model.setup import RiderSettings, Setup
from lynxwort.core.physics.reach.legs import Stint
from lynxwort.core.report import SEVERITIES, Report
from lynxwort.core.stations.range.view import ridden_stints
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.ribbon import stage_name
from lynxwort.web.bench.services import Bench
from lynxwort.web.bench.slots import slot_name, tunable_text
from lynxwort.web.bikes.changes import Whole
from lynxwort.web.ui.forms import QuantityField
from lynxwort.words.catalogue import say, tunable_word
from lynxwort.words.formatting import number_text, value_text

#: a form for a leg of which nothing is said yet: beyond every leg's number
NEW = 100
#: stations that say something else under another rider, as he has the bike
JUDGED = ("chassis", "damping", "kit")


class TurnedForm(forms.Form):
    """What one rider has otherwise, on one of the legs or on every one; blank: as on every leg, as the setup says."""

    def __init__(self, data: Any = None, *, bench: Bench, preset: Units | str, rider: int, leg: int = 0) -> None:
        super().__init__(data, prefix=f"r{rider}-l{leg}")
        bike, setup, self.rider, self.on_leg = bench.inputs.bike, bench.inputs.setup, rider, leg
        self.name = bench.inputs.riders[rider].name
        said = next((t for t in setup.turned if (t.rider, t.leg) == (self.name, leg)), None)
        own = {str(k): v for k, v in said.values.items()} if said else {}
        others = setup.for_rider(self.name) if leg != 0 else setup
        if leg == NEW:
            self.fields["leg"] = forms.TypedChoiceField(
                label=gettext_lazy("On which of the legs"),
                choices=[(n, words) for n, words in planned_legs(bench, rider) if n not in setup.own_legs(self.name)],
                coerce=int,
            )
        for name in bench.report.ask(compromise.quick_fields):
            words, slots = _(tunable_word(name, bike)), tunables.TUNABLES[name].others
            if slots is not None:
                choices = [(n, slot_name(bike, name, n)) for n in range(1, 2 + len(slots(bike)))]
                self.fields[name] = forms.TypedChoiceField(
                    label=words,
                    choices=[("", _("as on every leg") if leg else _("as the setup")), *choices],
                    coerce=int,
                    empty_value=None,
                    required=False,
                )
            else:
                as_set = tunable_text(bike, name, tunables.said_value(others, name), preset)
                said_help = (_("every leg: %(v)s") if leg else _("setup: %(v)s")) % {"v": as_set}
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
        values = {k: v for k, v in self.cleaned_data.items() if k not in ("also", "leg") and v is not None}
        leg = self.cleaned_data.get("leg", self.on_leg)
        for end in suits.ends if suits else ():
            if end.wanted_m is not None:
                values["fork_preload_m" if end.end == "front" else "shock_preload_m"] = end.wanted_m
        said = {"rider": self.name, "leg": leg, "values": values, "also": self.cleaned_data["also"]}
        return RiderSettings.model_validate(said if leg else {k: v for k, v in said.items() if k != "leg"})


def with_entry(bench: Bench, entry: RiderSettings) -> Whole:
    """The change to a rider's settings on this leg; the others stay, one who has nothing of his own stands nowhere."""
    others = [t for t in bench.inputs.setup.turned if (t.rider, t.leg) != (entry.rider, entry.leg)]
    kept = [*others, *([entry] if entry.values or entry.also else [])]
    said = [t.model_dump(mode="json", exclude_unset=True) for t in sorted(kept, key=lambda t: (t.rider, t.leg))]
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


def handed(
    setup: Setup, bike: Bike, before: tuple[str, int] | None, after: tuple[str, int], preset: Units | str
) -> str:
    """What is turned when one rider hands over to another, each with the leg, for the crew's sheet; before None: from
    the setup itself.
    """
    stands = setup if before is None else setup.for_rider(*before)
    moves = move_words(bike, turned_between(stands, setup.for_rider(*after)), preset)
    return "; ".join(part for part in (moves, setup.also_for(*after)) if part)


def legs_words(report: Report, stint: Stint) -> str:
    """What one stint of a team covers: its laps, or its stages."""
    stages = report.ask(along.document).race.stages
    if len(stages) == 1 and stint.first == stint.last:
        return _("lap %(n)s") % {"n": stint.first + 1}
    if len(stages) == 1:
        return _("laps %(a)s – %(b)s") % {"a": stint.first + 1, "b": stint.last + 1}
    return ", ".join(stage_name(stages, i) for i in range(stint.first, stint.last + 1))


def planned_legs(bench: Bench, rider: int) -> list[tuple[int, str]]:
    """A rider's legs as they are likely ridden: number and words."""
    return [
        (r.leg, leg_words(r.leg, legs_words(bench.report, r.stint)))
        for r in bench.report.ask(ridden_stints)
        if r.stint.rider == rider
    ]


def leg_words(leg: int, covers: str) -> str:
    """One of a rider's legs, and what it likely covers."""
    return _("leg %(n)s, %(covers)s") % {"n": leg, "covers": covers} if covers else _("leg %(n)s") % {"n": leg}


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
    """Each rider with what is turned for him, what would suit, what the bike says under him; his form, and one for each
    of his legs on which he has something else.
    """
    report, bike, rows = bench.report, bench.inputs.bike, []

    def form_of(rider: int, leg: int) -> dict[str, Any]:
        mine = posted if posted is not None and (posted.rider, posted.on_leg) == (rider, leg) else None
        form = mine or TurnedForm(bench=bench, preset=preset, rider=rider, leg=leg)
        return {"form": form, "open": form.is_bound and bool(form.errors)}

    for told in report.ask(compromise.turned_for):
        planned = dict(planned_legs(bench, told.rider))
        unsaid = len(planned) > 1 and set(planned) - {own.leg for own in told.legs}
        rows.append(
            {
                "told": told,
                "words": move_words(bike, list(told.turned), preset),
                "ends": [_end_words(end, preset) for end in told.ends],
                "said": _said(report.ask(compromise.report_for, told.rider), preset),
                "legs": [
                    {
                        "leg": planned.get(own.leg) or leg_words(own.leg, _("not ridden as it is likely to go")),
                        "words": "; ".join(filter(None, (move_words(bike, list(own.turned), preset), own.also))),
                        **form_of(told.rider, own.leg),
                    }
                    for own in told.legs
                ],
                "new": form_of(told.rider, NEW) if unsaid else None,
                **form_of(told.rider, 0),
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


def legs(bench: Bench, rider: int) -> tuple[int, ...]:
    """The legs for which a rider's form may come: every one, those of which something is said, a new one."""
    return (0, NEW, *bench.inputs.setup.own_legs(bench.inputs.riders[rider].name))


def suiting(bench: Bench, rider: int) -> compromise.TurnedFor:
    """What would suit one rider."""
    return bench.report.ask(compromise.turned_for)[rider]
