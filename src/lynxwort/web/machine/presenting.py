"""Words of back-ups, and of two copies of a garage."""

from typing import Any

from django.utils.translation import gettext, ngettext
from django.utils.translation import gettext_lazy as _

from lynxwort.web.machine.merging import Asked, Merged
from lynxwort.words.catalogue import INPUT_NAMES, TUNABLE_NAMES

UNUSABLE = {
    "not_whole": _("This file is not whole: it breaks off or cannot be unpacked."),
    "not_ours": _("This is not a back-up of Lynxwort."),
    "newer": _("A newer Lynxwort wrote this back-up. Take that version first."),
    "changed": _("This back-up does not hold what it says it holds: something in it was changed or lost."),
    "damaged": _("The database in this back-up is damaged."),
}
KINDS = {"asked": _("asked for"), "daily": _("of the day"), "migration": _("before a new version")}
TABLES = {
    "course": _("courses"), "rider": _("riders"), "race": _("races"), "bike": _("bikes"), "setup": _("lines of setups"),
    "revision": _("kept setups"), "draft": _("drafts"), "part": _("parts in the box"), "reading": _("readings"),
    "trial": _("trials"), "run": _("runs of trials"), "day": _("ridden days"), "click": _("clicks of a day"),
    "arrival": _("arrivals at the pits"), "load": _("things of load lists"), "service": _("lines of service logs"),
    "felt": _("notes of what was felt"), "pairing": _("which bike for which race"),
}  # fmt: skip
#: what becomes of rows, in the order it is told
ACTIONS = {
    "new": _("new here"), "theirs": _("changed there: taken"), "remove": _("put away there: put away here"),
    "ours": _("stay as they are here"),
}  # fmt: skip


def _field(asked: Asked, path: str) -> str:
    """What a row says, named as the product names it where it has a name."""
    name = INPUT_NAMES.get(f"{asked.table}.{path}")
    return gettext(name) if name else path.replace("_", " ").replace(".", ", ")


def _title(asked: Asked) -> str:
    """What a row is called: a part by its kind's name."""
    kind, _space, rest = asked.title.partition(" ")
    return f"{gettext(TUNABLE_NAMES[kind])} {rest}" if kind in TUNABLE_NAMES else asked.title


def merge_page(done: Merged) -> dict[str, Any]:
    """What will become of two copies, before it does."""
    told = [
        (words, [(TABLES[table], n) for (table, a), n in sorted(done.counts.items()) if a == action])
        for action, words in ACTIONS.items()
    ]
    return {
        "told": [(words, rows) for words, rows in told if rows],
        "same": done.many("same"),
        "branches": done.branches,
        "asked": [
            {"row": a, "title": _title(a), "table": TABLES[a.table],
             "differs": [(_field(a, n), x, y) for n, x, y in a.differs]}
            for a in done.asked
        ],
        "nothing": not done.many("new", "theirs", "remove") and not done.asked,
    }  # fmt: skip


def merged_words(done: Merged) -> str:
    """What became of two copies."""
    new = done.many("new")
    words = ngettext("The copies are merged: {new} row is new", "The copies are merged: {new} rows are new", new)
    more = gettext("; {changed} were changed there and taken, {kept} stay as they were.")
    return words.format(new=new) + more.format(changed=done.many("theirs", "remove"), kept=done.many("same", "ours"))
