"""How the crew gets about: what stands first on its sheets, the drives that the race asks of it, what each leaves in
hand.
"""

from typing import Any

from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from lynxwort.core.asks import along
from lynxwort.core.model.race import CrewPlan, Drive, Post
from lynxwort.core.report import Report
from lynxwort.core.stations.range import crewing
from lynxwort.core.stations.range.moments import Moment, moments
from lynxwort.web.bench.services import Bench
from lynxwort.web.ui.forms import DocumentForm, field_for, refusal_words


def place_name(place: str) -> str:
    """What a place is called; the paddock has no name of its own."""
    return place or _("paddock")


def reaches(report: Report, clock: list[Moment]) -> dict[str, crewing.Reach]:
    """Each drive of the crew by the key of the moment that it leads to, on the clock as it stands."""
    crew = report.ask(along.document).race.crew or CrewPlan()
    return {r.moment.key: r for r in report.ask(crewing.reaches, crew, clock)}


class CrewForm(DocumentForm):
    """Numbers that stand first, each drive that this race asks for, and each place that the crew is wanted at: the
    places need no typing.
    """

    spec = (
        ("crew.emergency", CrewPlan, gettext_lazy("Organiser's emergency number")),
        ("crew.channel", CrewPlan, gettext_lazy("Radio channel")),
        ("crew.phones", CrewPlan, gettext_lazy("Phones")),
        ("crew.silent", CrewPlan, gettext_lazy("No radio, no phone at")),
        ("crew.ready_s", CrewPlan, gettext_lazy("From arriving until ready")),
    )

    def __init__(self, *args: Any, pairs: list[tuple[str, str]], places: list[str], **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.pairs, self.places = pairs, places
        self.posts = {p.get("place", ""): p for p in self.current.get("crew", {}).get("posts", ())}
        for k, place in enumerate(places):
            for name, words in (("who", _("Who stands at %(place)s")), ("bring", _("What lies ready at %(place)s"))):
                label = words % {"place": place_name(place)}
                field = field_for(Post, name, self.preset, label=label, help_text="")
                self.fields[f"post{k}.{name}"] = field
                self.initial[f"post{k}.{name}"] = self.posts.get(place, {}).get(name, "")
        self.known = {frozenset((d.get("start", ""), d.get("end", ""))): d for d in self._said()}
        for k, (start, end) in enumerate(pairs):
            known = self.known.get(frozenset((start, end)), {})
            way = f"{place_name(start)} – {place_name(end)}"
            for name, label in (("takes_s", way), ("distance_m", _("%(way)s, how far") % {"way": way})):
                field = field_for(Drive, name, self.preset, label=label, required=False, help_text="")
                self.fields[f"drive{k}.{name}"] = field
                if known.get(name) is not None:
                    self.initial[f"drive{k}.{name}"] = known[name]

    def _said(self) -> list[dict[str, Any]]:
        return list(self.current.get("crew", {}).get("drives", ()))

    def clean(self) -> dict[str, Any]:
        cleaned = super().clean()
        for k in range(len(self.pairs)):
            if cleaned.get(f"drive{k}.distance_m") is not None and cleaned.get(f"drive{k}.takes_s") is None:
                self.add_error(f"drive{k}.takes_s", refusal_words("missing", self.preset))
        return cleaned

    def document(self) -> dict[str, Any]:
        crew, shown = super().document().get("crew", {}), {frozenset(pair) for pair in self.pairs}
        # drives between places that this race does not ask for now stay as they were said
        drives = [d for pair, d in self.known.items() if pair not in shown]
        for k, (start, end) in enumerate(self.pairs):
            said = {n: self.cleaned_data.get(f"drive{k}.{n}") for n in ("takes_s", "distance_m")}
            if said["takes_s"] is not None:
                ends = {"start": start, "end": end}
                drives.append({n: v for n, v in (ends | said).items() if v not in (None, "")})
        posts = [p for place, p in self.posts.items() if place not in self.places]
        for k, place in enumerate(self.places):
            told = {n: self.cleaned_data.get(f"post{k}.{n}") for n in ("who", "bring")}
            if any(told.values()):
                posts.append({n: v for n, v in ({"place": place} | told).items() if v})
        made = crew | ({"drives": drives} if drives else {}) | ({"posts": posts} if posts else {})
        return {"crew": made} if made else {}


def pairs_of(bench: Bench) -> list[tuple[str, str]]:
    """Places that the crew drives between in this race, each pair once."""
    found: dict[frozenset[str], tuple[str, str]] = {}
    for reach in bench.kept.ask(crewing.drives):
        found.setdefault(frozenset((reach.start, reach.end)), (reach.start, reach.end))
    return list(found.values())[:20]


def places_of(bench: Bench) -> list[str]:
    """Places that the crew is wanted at, each once."""
    clock = bench.kept.ask(moments)
    return list(dict.fromkeys(crewing.place_of(m) for m in bench.kept.ask(crewing.wanted_at, clock)))[:20]
