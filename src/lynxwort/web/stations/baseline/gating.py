"""The gate on the page: how each check stands, one check at a time, what a bought bike still needs."""

import uuid
from dataclasses import dataclass
from typing import Any

from django import forms
from django.utils.safestring import SafeString
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from lynxwort.core.model.base import FieldFacts, field_facts
from lynxwort.core.model.service import GateCheck
from lynxwort.core.model.service.checks import BY_NAME, Check
from lynxwort.core.stations.baseline.asked import GateSeen, gate_seen
from lynxwort.core.stations.baseline.gate import Checked
from lynxwort.core.stations.chassis import view
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.services import Bench
from lynxwort.web.bench.views import base_of
from lynxwort.web.service.models import Photo, ServiceLine
from lynxwort.web.stations.pictured import look_of, sprocket_of
from lynxwort.web.ui.drawings.standing import Note, standing
from lynxwort.web.ui.forms import QuantityField, field_for
from lynxwort.words.catalogue import CAUTIONS
from lynxwort.words.formatting import plain_number, value_text
from lynxwort.words.service.checks import CHECKS, LAPSED, RESULTS

#: what the leaf of a check looks like
LEAVES = {"unchecked": "unknown", "pass": "ok", "look": "look", "fail": "act"}
#: on the drawn bike call-outs stand left of what is behind the middle
BEHIND = ("rear axle", "shock", "seat", "front sprocket")


class CheckForm(forms.Form):
    """How a check was found. name: of the line, so that it is kept once."""

    name = forms.UUIDField(widget=forms.HiddenInput)
    result = forms.ChoiceField(
        choices=[(r, "") for r in RESULTS], error_messages={"required": gettext_lazy("Press what you found.")}
    )
    note = forms.CharField(max_length=200, required=False, label=gettext_lazy("What you saw"))
    photo = forms.FileField(required=False, label=gettext_lazy("Photo"))

    def __init__(self, data: Any = None, files: Any = None, *, check: Check, preset: Units | str) -> None:
        super().__init__(data, files, initial={"name": uuid.uuid4()})
        self.fields["photo"].widget.attrs |= {"accept": "image/*", "capture": "environment"}
        if check.kind:
            facts = FieldFacts(
                name="value_si", required=False, default=None, low=0.0, high=1e6, unit=check.unit, kind=check.kind,
                source="", help="", annotation=float,
            )  # fmt: skip
            self.fields["value_si"] = QuantityField(facts, preset, label=_("Number, if you measured"), required=False)
        self.fields["work_s"] = field_for(GateCheck, "work_s", preset, label=_("Work to put it right"), help_text="")
        self.fields["cost"] = QuantityField(
            field_facts(GateCheck, "cost"), preset, label=_("Cost, own money"), required=False
        )

    def document(self, check: Check) -> dict[str, Any]:
        """The line of the log."""
        said = {k: v for k, v in self.cleaned_data.items() if k not in ("name", "photo") and v not in (None, "")}
        return said | {"check": check.name}


@dataclass(frozen=True, slots=True, kw_only=True)
class Row:
    """A check in words. leaf: of its state; said: how it stands and when; url: its own screen; number: what was
    measured; photo: whether there is one.
    """

    name: str
    title: str
    leaf: str
    state: str
    said: str
    number: str
    note: str
    url: str
    photo: str


def _state_words(line: Checked) -> str:
    if line.lapsed:
        return _(LAPSED[line.lapsed])
    return _("not checked") if line.state == "unchecked" else _(RESULTS[line.state])


def number_of(line: Checked, preset: Units | str) -> str:
    """What was measured, in the rider's units."""
    if line.found is None or line.found.value_si is None:
        return ""
    return value_text(line.found.value_si, line.check.kind, preset)


def row_of(line: Checked, base: str, preset: Units | str, pictured: set[str]) -> Row:
    """A check as the list shows it."""
    said = _state_words(line)
    if line.found is not None and not line.lapsed:
        told = {"said": said, "hours": value_text(line.at_s, "engine_hours", preset)}
        said = _("%(said)s at %(hours)s") % told
    found = line.found.id if line.found is not None else ""
    return Row(
        name=line.check.name,
        title=_(CHECKS[line.check.name][0]),
        leaf=LEAVES[line.state],
        state=line.state,
        said=said,
        number=number_of(line, preset),
        note=line.found.note if line.found is not None else "",
        url=f"{base}baseline/gate/{line.check.name}/",
        photo=found if found in pictured else "",
    )


def _pictured(bench: Bench) -> set[str]:
    found = Photo.objects.filter(line__bike=bench.setup.bike, line__struck_out=False)
    return {str(u) for u in found.values_list("line__uid", flat=True)}


def gate_page(bench: Bench, preset: Units | str) -> dict[str, Any]:
    """All checks, those that nobody rides without first; the bike with what was found called out."""
    seen: GateSeen = bench.kept.ask(gate_seen)
    base = base_of(bench.setup.pk, bench.race.pk)
    pictured = _pictured(bench)
    rows = [(c, row_of(c, base, preset, pictured)) for c in seen.checks]
    first = next((r for c, r in rows if c.state == "unchecked"), None)
    return {
        "first_rows": [r for c, r in rows if c.check.do_not_ride],
        "rows": [r for c, r in rows if not c.check.do_not_ride and not c.check.bought],
        "bought_rows": [r for c, r in rows if c.check.bought],
        "counts": seen.counts,
        "all_of": len(seen.checks),
        "first": first,
        "bought": seen.bought,
        "failed": [r for c, r in rows if c.state == "fail"],
        "sound": _sound(seen, preset) if seen.bought and seen.sound.lines else None,
        "drawing": gate_picture(bench, seen, base),
        "taken": bench.kept.not_judged,
    }


def _sound(seen: GateSeen, preset: Units | str) -> dict[str, str]:
    """What brings a bought bike to be sound, in words."""
    return {
        "work": value_text(seen.sound.work_s, "engine_hours", preset),
        "cost": plain_number(seen.sound.cost, 0),
        "before": value_text(seen.sound.before_s, "engine_hours", preset),
    }


def gate_picture(bench: Bench, seen: GateSeen, base: str) -> SafeString:
    """The bike, with what failed, what is to be looked at and what nobody rides without called out."""
    inputs, notes = bench.kept_inputs, []
    for line in seen.checks:
        open_first = line.check.do_not_ride and line.state == "unchecked"
        if line.state in ("fail", "look") or open_first:
            mark = {"fail": "✗", "look": "!", "unchecked": "?"}[line.state]
            title = _(CHECKS[line.check.name][0])
            side = "left" if line.check.where in BEHIND else "right"
            url = f"{base}baseline/gate/{line.check.name}/"
            told = f"{title}: {_state_words(line)}"
            notes.append(Note(f"{mark} {title}", line.check.where, url, side, told=told))
    return standing(
        bench.kept.ask(view.outline), look_of(inputs), sprocket=sprocket_of(inputs), notes=notes, ridden=False,
        label=_("The bike from the side, what was found called out"),
    )  # fmt: skip


def check_page(bench: Bench, check: Check, form: CheckForm, preset: Units | str) -> dict[str, Any]:
    """One check: how it is done, what is a fail, how it stood before, which is next."""
    seen: GateSeen = bench.kept.ask(gate_seen)
    base = base_of(bench.setup.pk, bench.race.pk)
    names: list[str] = [c.check.name for c in seen.checks]
    line = next(c for c in seen.checks if c.check.name == check.name)
    title, how, fails = CHECKS[check.name]
    return {
        "check": check,
        "title": _(title),
        "how": _(how),
        "fails": _(fails),
        "caution": _(CAUTIONS["gate_no_riding"]) if check.do_not_ride else _(CAUTIONS["gate_failed"]),
        "form": form,
        "place": names.index(check.name) + 1,
        "all_of": len(names),
        "stood": row_of(line, base, preset, _pictured(bench)) if line.found is not None else None,
        "next": following(seen, check.name),
        "results": [(code, _(words)) for code, words in RESULTS.items()],
    }


def following(seen: GateSeen, name: str) -> str:
    """The check after this one that was not done yet; empty when there is none."""
    names: list[str] = [c.check.name for c in seen.checks]
    at = names.index(name)
    left = [c.check.name for c in (*seen.checks[at + 1 :], *seen.checks[:at]) if c.state == "unchecked"]
    return left[0] if left else ""


def check_named(bench: Bench, name: str) -> Check | None:
    """A check of this bike by its name."""
    seen: GateSeen = bench.kept.ask(gate_seen)
    return BY_NAME[name] if name in [c.check.name for c in seen.checks] else None  # type: ignore[index]


def before_riding(bench: Bench, preset: Units | str) -> list[str]:
    """Checks that nobody rides without and that do not stand, for the head of the pit card."""
    return [_(CHECKS[name][0]) for name in bench.kept.ask(gate_seen).before_riding]


def photo_of(bench: Bench, name: uuid.UUID) -> bytes | None:
    """A picture of this bike."""
    try:
        line = ServiceLine.objects.get(uid=name, bike=bench.setup.bike)
        return bytes(line.photo.data)
    except (ServiceLine.DoesNotExist, Photo.DoesNotExist):
        return None
