"""The language of the command line: what the person's environment says, where there are words in it."""

import gettext
import os
from functools import cache
from pathlib import Path

from lynxwort.words import LANGUAGES

LOCALE = Path(__file__).parents[1] / "locale"


def language() -> str:
    """A code of LANGUAGES: the first of LANGUAGE, LC_ALL, LC_MESSAGES and LANG that says one."""
    said = (os.environ.get(name, "") for name in ("LANGUAGE", "LC_ALL", "LC_MESSAGES", "LANG"))
    first = next(filter(None, said), "en").split(":")[0]
    code = first.split(".")[0].split("_")[0].lower()
    return code if code in LANGUAGES else "en"


@cache
def _speech(code: str) -> gettext.NullTranslations:
    return gettext.translation("django", LOCALE, languages=[code], fallback=True)


def _(text: str) -> str:
    """A text in the person's language."""
    return _speech(language()).gettext(text) if text else text
