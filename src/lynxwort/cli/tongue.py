"""The language of the command line: what the person's environment says, where there are words in it."""

import gettext
import os
from functools import cache
from pathlib import Path

from lynxwort.words import LANGUAGES, N_, written_in

LOCALE = Path(__file__).parents[1] / "locale"
#: what argparse says itself
ARGPARSE = (
    N_("usage: "), N_("positional arguments"), N_("options"), N_("show this help message and exit"),
    N_("show program's version number and exit"), N_("the following arguments are required: %s"),
    N_("unrecognized arguments: %s"), N_("%(prog)s: error: %(message)s\n"),
    N_("argument %(argument_name)s: %(message)s"), N_("invalid choice: %(value)r (choose from %(choices)s)"),
    N_("invalid %(type)s value: %(value)r"), N_("expected one argument"),
)  # fmt: skip
ABOUT = N_(
    "Command line: a module a verb; what is reckoned is JSON in, JSON out.\n\n`lynxwort --help` lists the verbs, "
    '`lynxwort VERB --help` what each takes; `python -m lynxwort` is the same.\nExit 0, or 2 with {"errors": [{path, '
    "code, low, high, unit, message}]} on standard output.\n"
)


def language() -> str:
    """A code of LANGUAGES: the first of LANGUAGE, LC_ALL, LC_MESSAGES and LANG that says one."""
    said = (os.environ.get(name, "") for name in ("LANGUAGE", "LC_ALL", "LC_MESSAGES", "LANG"))
    first = next(filter(None, said), "en").split(":")[0]
    code = first.split(".")[0].split("_")[0].lower()
    return code if code in LANGUAGES else "en"


def speak() -> None:
    """From here on argparse and numbers speak the person's language too."""
    gettext.bindtextdomain("django", LOCALE)
    gettext.textdomain("django")
    written_in(language())


@cache
def _speech(code: str) -> gettext.NullTranslations:
    return gettext.translation("django", LOCALE, languages=[code], fallback=True)


def _(text: str) -> str:
    """A text in the person's language."""
    return _speech(language()).gettext(text) if text else text
