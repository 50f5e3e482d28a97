"""What there is to look up: how numbers are written, and the words of the trade."""

from typing import Any

from django.urls import reverse
from django.utils.translation import gettext as _

from lynxwort.core.units.convert import Units, parse_typed
from lynxwort.core.units.spellings import SPELLINGS
from lynxwort.web.bench.models import Pairing
from lynxwort.web.garages.models import Garage
from lynxwort.words.explained.glossary import QUANTITIES, TERMS
from lynxwort.words.explained.term import Term
from lynxwort.words.formatting import unit_text, value_text


def quantities(preset: Units | str) -> list[dict[str, Any]]:
    """Each quantity with the ways to write it: as typed, what it means."""
    return [
        {
            "kind": kind,
            "title": _(QUANTITIES[kind]),
            "bare": unit_text(kind, preset) or _("no unit"),
            "rows": [(s.written, value_text(parse_typed(s.written, kind, preset), kind, preset)) for s in rows],
        }
        for kind, rows in SPELLINGS.items()
    ]


def bench_of(garage: Garage) -> str:
    """The address of the bench that was open last; empty where nothing was put on it."""
    pairing = Pairing.objects.filter(race__garage=garage, setup__head__isnull=False).order_by("-id").first()
    return reverse("bench:bench", args=[pairing.setup_id, pairing.race_id]) if pairing else ""


def terms(garage: Garage) -> list[dict[str, Any]]:
    """Each word with its meaning, other names and the room where it is worked at."""
    base = bench_of(garage)
    found = [
        {
            "key": key,
            "word": _(term.word),
            "meaning": _(term.meaning),
            "also": _(term.also) if term.also else "",
            "address": f"{base}{term.room}/" if base and term.room else "",
        }
        for key, term in TERMS.items()
    ]
    return sorted(found, key=lambda t: t["word"].lower())


def said_in(term: Term, text: str) -> bool:
    """Whether a word, or another name of it, holds the text."""
    return any(text in said.strip().lower() for said in (_(term.word), *(_(term.also) if term.also else "").split(",")))
