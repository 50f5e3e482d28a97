"""Wear and bolts on the page: each measure beside its limit, the torque list."""

import uuid
from dataclasses import dataclass
from typing import Any

from django import forms
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from lynxwort.core.model.base import FieldFacts, Part
from lynxwort.core.model.service import Bolt, WearReading
from lynxwort.core.model.service.measures import MEASURES
from lynxwort.core.stations.baseline.asked import WearSeen, wear_seen
from lynxwort.core.stations.baseline.bolts import Tightened
from lynxwort.core.stations.baseline.worn import Worn
from lynxwort.core.units.convert import Units
from lynxwort.core.units.written import numbers_of
from lynxwort.web.bench.services import Bench
from lynxwort.web.stations.baseline.servicing import hours
from lynxwort.web.ui.forms import DocumentForm, QuantityField, refusal_words
from lynxwort.words.formatting import number_text, value_text
from lynxwort.words.service.parts import LOCKERS, MARKS, PLACES, SEEN, THREADS, WORN
from lynxwort.words.service.parts import MEASURES as WORDS


class TonesField(forms.CharField):
    """Tones of spokes [Hz], apart by spaces or commas."""

    def clean(self, value: Any) -> list[float]:
        try:
            return list(numbers_of(super().clean(value) or ""))
        except (ValueError, ZeroDivisionError):
            raise forms.ValidationError(refusal_words("not_tones", "metric")) from None


class WearForm(DocumentForm):
    """One measurement of wear. It asks what its measure is taken by."""

    spec: tuple[tuple[str, type[Part], Any], ...] = (("at_s", WearReading, gettext_lazy("At, hours of the bike")),)

    def __init__(self, *args: Any, measure: str, seen: WearSeen, **kwargs: Any) -> None:
        known = MEASURES[measure]  # type: ignore[index]
        self.measure = measure
        if measure == "chain_length":
            self.spec = (*self.spec, ("links", WearReading, gettext_lazy("Links measured")))
        if measure == "compression":
            more: tuple[tuple[str, type[Part], Any], ...] = (
                ("station_pa", WearReading, gettext_lazy("Pressure of the air there")),
                ("gauge", WearReading, gettext_lazy("Which gauge")),
            )
            self.spec = (*self.spec, *more)
        if measure.startswith("spokes"):
            self.spec = (*self.spec, ("dead", WearReading, gettext_lazy("Spokes without a tone")))
        super().__init__(*args, **kwargs)
        if known.seen:
            choices = [(code, _(SEEN[code])) for code, _state in known.seen]
            self.fields["seen"] = forms.ChoiceField(choices=choices, label=_("What you found"))
        elif measure.startswith("spokes"):
            self.fields["tones_hz"] = TonesField(
                max_length=400, label=_("Tones in Hz, in order"),
                help_text=_("Of one side and one length, the crossing damped: 402 398 405"),
            )  # fmt: skip
        else:
            self._number(known.unit, known.kind)
        self.fields["line"] = forms.UUIDField(widget=forms.HiddenInput, initial=uuid.uuid4)
        first = [n for n in ("value_si", "seen", "tones_hz", "limit_si") if n in self.fields]
        self.order_fields([*first, *self.fields])

    def _number(self, unit: str, kind: str) -> None:
        def facts(name: str) -> FieldFacts:
            return FieldFacts(
                name=name, required=name == "value_si", default=None, low=0.0, high=1e8, unit=unit, kind=kind,
                source="", help="", annotation=float,
            )  # fmt: skip

        self.fields["value_si"] = QuantityField(facts("value_si"), self.preset, label=_("Measured"))
        if self.measure not in ("compression", "chain_length"):
            self.fields["limit_si"] = QuantityField(
                facts("limit_si"), self.preset, label=_("Limit by the manual"), required=False
            )

    def reading(self) -> dict[str, Any]:
        """The line's document."""
        said = {k: self.cleaned_data.get(k) for k in ("value_si", "limit_si", "seen", "tones_hz")}
        return self.document() | {k: v for k, v in said.items() if v not in (None, "", [])} | {"measure": self.measure}


class BoltForm(DocumentForm):
    """A bolt of the torque list."""

    spec = (
        ("name", Bolt, gettext_lazy("Bolt")),
        ("place", Bolt, gettext_lazy("Where")),
        ("torque_nm", Bolt, gettext_lazy("Torque by the manual")),
        ("diameter_m", Bolt, gettext_lazy("Thread, outside")),
        ("pitch_m", Bolt, gettext_lazy("Thread, pitch")),
        ("thread", Bolt, gettext_lazy("Its thread goes in")),
        ("locker", Bolt, gettext_lazy("Threadlocker")),
        ("mark", Bolt, gettext_lazy("Paint mark")),
    )
    choice_labels = {
        name: [(k, gettext_lazy(w)) for k, w in words.items()]
        for name, words in (("place", PLACES), ("thread", THREADS), ("locker", LOCKERS), ("mark", MARKS))
    }

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["in_aluminium"] = forms.BooleanField(required=False, label=_("Its thread is cut in aluminium"))
        self.fields["fresh"] = forms.BooleanField(
            required=False, label=_("The part under it is new or newly coated"),
            help_text=_("Coating creeps under heads: bare the seats, and tighten again after one hour and three."),
        )  # fmt: skip
        self.fields["line"] = forms.UUIDField(widget=forms.HiddenInput, initial=uuid.uuid4)

    def bolt(self, now_s: float) -> dict[str, Any]:
        """The line's document. now_s: hours of the bike."""
        said = self.document()
        if self.cleaned_data.get("in_aluminium"):
            said["in_aluminium"] = True
        if self.cleaned_data.get("fresh"):
            said["fresh_s"] = now_s
        return said


@dataclass(frozen=True, slots=True, kw_only=True)
class WearRow:
    """A measure in words. value: as it was found; limit: by the manual or practice; earliest: hours of the bike at
    which it may reach it.
    """

    name: str
    title: str
    leaf: str
    state: str
    value: str
    limit: str
    by_manual: bool
    at: str
    earliest: str


def _shown(measure: str, seen: Worn, preset: Units | str) -> str:
    """The newest reading in words."""
    if seen.reading.seen:
        return _(SEEN[seen.reading.seen])
    if measure == "compression":
        told = value_text(seen.reading.value_si or 0.0, "compression", preset)
        return _("%(gauge)s, at the sea %(sea)s") % {
            "gauge": told, "sea": value_text(seen.value or 0.0, "compression", preset),
        }  # fmt: skip
    if measure == "chain_length":
        return _("%(share)s longer than new") % {"share": value_text(seen.value or 0.0, "chance", preset)}
    if measure.startswith("spokes"):
        return _("%(share)s uneven") % {"share": value_text(seen.value or 0.0, "chance", preset)}
    return value_text(seen.value or 0.0, MEASURES[measure].kind, preset)  # type: ignore[index]


def _limit(measure: str, look: float | None, act: float | None, preset: Units | str) -> str:
    known = MEASURES[measure]  # type: ignore[index]
    kind = "chance" if measure == "chain_length" or measure.startswith("spokes") else known.kind
    ends = [value_text(v, kind, preset) for v in (look, act) if v is not None]
    return " / ".join(ends)


def wear_rows(found: WearSeen, preset: Units | str) -> list[WearRow]:
    """Every measure of such a bike, those with a reading first, the gravest of them first."""
    rows = []
    for name, (look, act) in found.measures.items():
        seen = found.worn.get(name)
        title = _(WORDS[name][0])
        if seen is None:
            rows.append(
                WearRow(name=name, title=title, leaf="", state="", value="", limit=_limit(name, look, act, preset),
                        by_manual=False, at="", earliest="")
            )  # fmt: skip
            continue
        rows.append(
            WearRow(
                name=name, title=title, leaf=seen.state, state=_(WORN[seen.state]),
                value=_shown(name, seen, preset), limit=_limit(name, seen.look, seen.act, preset),
                by_manual=seen.by_manual, at=hours(seen.at_s, preset),
                earliest="" if seen.earliest_s is None else hours(seen.earliest_s, preset),
            )
        )  # fmt: skip
    order = ("act", "look", "unknown", "ok", "")
    return sorted(rows, key=lambda r: order.index(r.leaf))


def wear_page(bench: Bench, preset: Units | str, asked: str, form: WearForm | None = None) -> dict[str, Any]:
    """Measures beside their limits; the form of the one that is asked for."""
    found: WearSeen = bench.kept.ask(wear_seen)
    rows = wear_rows(found, preset)
    if asked in found.measures and form is None:
        form = WearForm(preset=preset, measure=asked, seen=found)
    return {
        "measured": [r for r in rows if r.leaf],
        "unmeasured": [r for r in rows if not r.leaf],
        "form": form,
        "how": _(WORDS[asked][1]) if form is not None else "",
        "title": _(WORDS[asked][0]) if form is not None else "",
        "hint": next((r.limit for r in rows if r.name == asked and not r.by_manual), "") if form is not None else "",
    }


@dataclass(frozen=True, slots=True, kw_only=True)
class BoltRow:
    """A bolt in words. asks: what is to be done with it; load: what its torque brings, or why that is not said."""

    id: str
    name: str
    place: str
    torque: str
    thread: str
    load: str
    leaf: str
    asks: str
    turned: bool
    open: bool
    mark: str


def _load(b: Tightened, preset: Units | str) -> str:
    if b.preload_n is None:
        return _("in aluminium: the manual's figure alone") if b.bolt.in_aluminium else ""
    least, _likely, most = b.preload_n
    told = {"low": number_text(least, "bolt_pull", preset), "high": value_text(most, "bolt_pull", preset)}
    words = _("pulls %(low)s to %(high)s") % told
    if b.of_largest is not None and b.of_largest > 1.0:
        words = _("%(words)s: more than a bolt of class 8.8 carries, look again") % {"words": words}
    return words


def _asks(b: Tightened) -> tuple[str, str]:
    """The leaf of a bolt and what it asks for."""
    if b.moved:
        return "act", _("mark moved: out, clean, lock anew")
    if b.open:
        return "act", _("not tightened yet")
    if b.again:
        return "look", _("once more: it settled")
    if b.odd_locker:
        return "look", {
            "locked_there": _("no threadlocker there"), "high_strength": _("high strength: only by the manual"),
            "unlocked": _("usually locked there"),
        }[b.odd_locker]  # fmt: skip
    return "ok", _("tight") if b.turned else _("locked: checked by its mark, not turned")


def bolts_page(bench: Bench, preset: Units | str, form: BoltForm | None = None) -> dict[str, Any]:
    """The torque list."""
    found: WearSeen = bench.kept.ask(wear_seen)
    rows = []
    for b in found.bolts:
        leaf, asks = _asks(b)
        torque = "" if b.bolt.torque_nm is None else value_text(b.bolt.torque_nm, "bolt_torque", preset)
        rows.append(
            BoltRow(
                id=b.bolt.id, name=b.bolt.name, place=_(PLACES[b.bolt.place]), torque=torque,
                thread=_(THREADS[b.bolt.thread]), load=_load(b, preset), leaf=leaf, asks=asks, turned=b.turned,
                open=b.open, mark=b.bolt.mark,
            )
        )  # fmt: skip
    return {"bolts": rows, "form": form or BoltForm(preset=preset), "open": form is not None}
