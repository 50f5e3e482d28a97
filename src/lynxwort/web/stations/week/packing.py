"""The load list of a race: what stands in the pits, what is carried, what is poured, what lies ready where, papers,
what one wrote down oneself, and before all what was forgotten at other races.
"""

from dataclasses import dataclass
from typing import Any

from django.utils.translation import gettext as _

from lynxwort.core.model.bike.spares import ALWAYS
from lynxwort.core.stations.kit import building
from lynxwort.core.units.convert import Units
from lynxwort.web.bench import card
from lynxwort.web.bench.services import Bench
from lynxwort.web.runs import loading
from lynxwort.words.kit import ready


@dataclass(frozen=True, slots=True, kw_only=True)
class Thing:
    """A thing to load. key: what is kept of it by; note: where it was forgotten, or for whom it is; by: who said so;
    before: it was forgotten at another race.
    """

    key: str
    words: str
    note: str = ""
    packed: bool = False
    by: str = ""
    before: bool = False

    @property
    def own(self) -> bool:
        """Whether somebody wrote it down for this race."""
        return self.key.startswith(loading.OWN) and not self.before


@dataclass(frozen=True, slots=True, kw_only=True)
class Group:
    """Things under one heading."""

    title: str
    things: list[Thing]


def _key(kind: str, what: str) -> str:
    return f"{kind}:{what}"[:90]


def _known() -> dict[str, str]:
    """What every list may name, by key."""
    return (
        {_key("pits", p): _(p) for p in ready.PITS}
        | {_key("pour", card.START): _(card.START)}
        | {_key("spare", s): _(w) for s, w in ready.SPARES.items()}
        | {_key("always", a): _(ready.ALWAYS[a]) for a in ALWAYS}
        | {_key("paper", r): _(w) for r, w in ready.RULES.items()}
    )


def words_of(key: str) -> str:
    """A thing by its key alone, as a later race knows it."""
    return _known().get(key) or key.rpartition(":")[2]


def _listed(bench: Bench, units: Units | str) -> list[tuple[str, list[tuple[str, str, str]]]]:
    """Headings with (key, words, note), before anything is known of how they stand."""
    race, packed = bench.kept_inputs.race, bench.kept.ask(building.pack)
    found = [(_("Poured at the start and at the stops"), [
        (_key("pour", row["key"]), " · ".join(w for w in (row["where"], row["what"], row.get("oil", "")) if w), "")
        for row in card.pour(bench, units)
    ])]  # fmt: skip
    for post in race.crew.posts if race.crew else ():
        things = [t.strip() for t in post.bring.split(",") if t.strip()]
        place = post.place or _("paddock")
        found.append((_("For %(place)s") % {"place": place}, [
            (_key(f"post:{post.place}", t), t, post.who) for t in things
        ]))  # fmt: skip
    found.append((_("For the pits"), [(_key("pits", p), _(p), "") for p in ready.PITS]))
    for where in ("bag", "toolbox", "truck"):
        spares = [
            (_key("spare", c.spare.id), _(ready.SPARES[c.spare.id]), "") for c in packed.spares if c.where == where
        ]
        found.append((_("Spares: %(where)s") % {"where": _(ready.WHERES[where])}, spares))
    found.append((_("Always"), [(_key("always", a), _(ready.ALWAYS[a]), "") for a in ALWAYS]))
    asked = [(_key("paper", a.rule), _(ready.RULES[a.rule]), a.paper) for a in race.asked]
    found.append((_("What the event asks for"), asked))
    return found


def groups(bench: Bench, units: Units | str) -> list[Group]:
    """The list with how each thing stands; what was forgotten elsewhere goes first."""
    said, before = loading.said(bench.race), loading.forgotten(bench.race)
    listed = _listed(bench, units)
    listed.append(
        (_("Written down"), [(k, words_of(k), "") for k in said if k.startswith(loading.OWN) and k not in before])
    )
    remembered = [(k, words_of(k), _("forgotten at %(race)s") % {"race": race}) for k, race in before.items()]
    found = []
    for title, things in [(_("Forgotten before"), remembered), *listed]:
        rows = [
            Thing(
                key=key, words=words, note=note, packed=key in said and said[key].state == "packed",
                by=said[key].said_by if key in said else "", before=key in before,
            )
            for key, words, note in things
            if title == _("Forgotten before") or key not in before
        ]  # fmt: skip
        if rows:
            found.append(Group(title=title, things=rows))
    return found


def page(bench: Bench, units: Units | str) -> dict[str, Any]:
    """All that the list shows."""
    found = groups(bench, units)
    things = [t for g in found for t in g.things]
    lost = [words_of(k) for k, row in loading.said(bench.race).items() if row.state == "forgotten"]
    return {"groups": found, "count": len(things), "packed": sum(t.packed for t in things), "lost": lost,
            "names": sorted({t.words for t in things})}  # fmt: skip


def key_named(bench: Bench, units: Units | str, words: str) -> str:
    """The key of what is typed: of a thing on the list where it is called so, else one's own."""
    typed = " ".join(words.split())
    on_list = (t.key for g in groups(bench, units) for t in g.things if t.words.casefold() == typed.casefold())
    return next(on_list, f"{loading.OWN}{typed}" if typed else "")
