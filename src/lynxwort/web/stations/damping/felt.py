"""What was felt, and what to do about it."""

import json
from typing import Any
from urllib.parse import urlencode

from django import forms
from django.utils.safestring import SafeString
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from lynxwort.core.asks import complaints
from lynxwort.core.model.damper import write_stack
from lynxwort.core.stations.chassis import view as chassis
from lynxwort.core.stations.damping import rides
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.models import Felt
from lynxwort.web.bench.services import Bench
from lynxwort.web.bench.slots import tunable_text
from lynxwort.web.stations.pictured import look_of, sprocket_of
from lynxwort.web.ui.drawings.standing import Note, standing
from lynxwort.words import N_
from lynxwort.words.catalogue import TERMS, TUNABLE_NAMES
from lynxwort.words.damping import CHECK_WORDS, COMPLAINT_WORDS, MEASURE_WORDS, SEEN, TOOL_WORDS
from lynxwort.words.formatting import percent_change, plain_number, value_text


# what was felt
class FeltForm(forms.Form):
    """What was felt, at which end, where on the course, and whether it came hot or cold."""

    what = forms.ChoiceField(
        choices=[(k, gettext_lazy(v)) for k, v in COMPLAINT_WORDS.items()], label=gettext_lazy("What it does")
    )
    end = forms.ChoiceField(
        choices=(("rear", gettext_lazy("rear")), ("front", gettext_lazy("front"))), label=gettext_lazy("At which end")
    )
    piece = forms.ChoiceField(label=gettext_lazy("Where on the course"), required=False)
    when = forms.ChoiceField(
        choices=(("", gettext_lazy("always")), ("hot", gettext_lazy("only hot")), ("cold", gettext_lazy("only cold"))),
        label=gettext_lazy("When"),
        required=False,
    )

    def __init__(self, *args: Any, bench: Bench, preset: Units | str, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.features = bench.report.ask(rides.features)
        named = [(f.kind, place_words(f.kind, f.at_m, preset)) for f in self.features]
        self.fields["piece"].choices = [("", _("wherever it shows")), *named]  # type: ignore[attr-defined]

    def at_m(self) -> float | None:
        """Where on the round the chosen piece lies."""
        return next((f.at_m for f in self.features if f.kind == self.cleaned_data["piece"]), None)


class WordsForm(forms.Form):
    """The rider's own words."""

    words = forms.CharField(
        label=gettext_lazy("In your own words: what it does, what you want of it"),
        required=False,
        max_length=300,
        widget=forms.Textarea(attrs={"rows": 2}),
    )


#: whether the clickers do it, in the ride
CLICKER_WORDS = {
    "helps": N_("Can a clicker do it? It helps."),
    "hardly": N_("Can a clicker do it? Hardly: it changes under a tenth of it."),
    "worse": N_("Can a clicker do it? In this ride it makes it worse."),
    "not_visible": N_("Can a clicker do it? Not to be seen here."),
}


def place_words(kind: str, at_m: float | None, preset: Units | str) -> str:
    """A piece of the course and where it lies."""
    name = _(TERMS[kind])
    return (
        name
        if at_m is None
        else _("%(piece)s at %(place)s") % {"piece": name, "place": value_text(at_m, "distance", preset)}
    )


def foremost(bench: Bench) -> dict[str, str]:
    """What the ride itself would complain of first; the answer stands before anything is chosen."""
    for finding in bench.report.of("damping"):
        what = "packs" if finding.code == "packs" else "bottoms" if finding.code.startswith("bottoms") else ""
        if what:
            return {"what": what, "end": "front" if any(".front." in f for f in finding.figures) else "rear"}
    return {"what": "harsh", "end": "front"}


def picture(bench: Bench, chosen: dict[str, str], at: str) -> SafeString:
    """The bike with its two ends to choose from, what was felt at the chosen one. at: the room's address."""

    def note(end: str, part: str) -> Note:
        said = _(TERMS[end])
        words = f"{said}: {_(COMPLAINT_WORDS[chosen['what']])}" if end == chosen["end"] else said
        return Note(words, part, f"{at}?{urlencode(chosen | {'end': end})}", "left" if end == "rear" else "right")

    return standing(
        bench.report.ask(chassis.outline),
        look_of(bench.inputs),
        sprocket=sprocket_of(bench.inputs),
        notes=[note("rear", "rear axle"), note("front", "front axle")],
        label=_("The bike with its two ends"),
    )


def felt_lines(bench: Bench, preset: Units | str) -> list[dict[str, Any]]:
    """What was written down as felt with this setup at this race, in words."""
    found = []
    for note in Felt.objects.filter(setup=bench.setup, race=bench.race):
        parts = [_(TERMS[note.end]), _(COMPLAINT_WORDS[note.what])]
        parts += [place_words(note.piece, note.at_m, preset)] if note.piece else []
        parts += [_("only hot") if note.when == "hot" else _("only cold")] if note.when else []
        found.append({"pk": note.pk, "text": ", ".join(parts), "words": note.words, "created": note.created})
    return found


def felt_page(bench: Bench, chosen: dict[str, str], preset: Units | str) -> dict[str, Any]:
    """What to look at first, and what each tool does about a complaint."""
    code, when = chosen["what"], chosen["when"]
    found = bench.report.ask(complaints.advise, code, chosen["end"], chosen["piece"])
    complaint = complaints.COMPLAINTS[code]
    most = max([abs(t.force_share) for t in found.tools] + [1e-3])
    rows = []
    for t in found.tools:
        moves = [(k, v) for k, v in t.changes.items() if isinstance(v, int | float)]
        whole: Any = next((v for v in t.changes.values() if not isinstance(v, int | float)), None)
        name = next(iter(t.changes))
        to = tunable_text(bench.inputs.bike, name, moves[0][1], preset) if moves else write_stack(whole)
        rows.append(
            {
                "name": _(TOOL_WORDS[t.name][0 if t.more else 1]),
                "what": _(TUNABLE_NAMES[name]),
                "to": to,
                "force": percent_change(t.force_share, 1),
                "bar": round(100 * abs(t.force_share) / most),
                "seen": t.seen,
                "seen_words": _(SEEN[t.seen]),
                "change": value_text(abs(t.change), complaint.kind, preset),
                "down": t.change < 0,
                "moves": json.dumps(moves) if moves else "",
                "place": name.removeprefix("fork_").removeprefix("shock_").removesuffix("_stack"),
                "stack": write_stack(whole) if whole else "",
                "valving": name.split("_")[0],
            }
        )
    checks = [_(CHECK_WORDS[c]) for c in (*complaints.CHECKS, *([when] if when in ("hot", "cold") else []))]
    return {
        "checks": checks,
        "rows": rows,
        "piece": _(TERMS[found.feature.kind]),
        "speed": found.speed_m_per_s,
        "measure": value_text(found.measure, complaint.kind, preset),
        "measured": _(MEASURE_WORDS[code]),
        "shaft": plain_number(complaint.speed_m_per_s, 1),
        "clicker": _(CLICKER_WORDS[found.clicker]),
    }
