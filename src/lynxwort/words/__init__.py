"""The words of the product: one catalogue for the pages and the command line. No physics, no Django."""

import re
from contextvars import ContextVar

#: the languages that every word is said in: code -> what its speakers call it
LANGUAGES = {"en": "English", "es": "Español"}
_COMMAS = frozenset({"es"})
#: one group of three behind a comma: a decimal where commas are decimal
_MEANT = re.compile(r"(?<![\d.,])(\d+),(\d{3})(?![\d.,])")
_comma: ContextVar[bool] = ContextVar("decimal_comma", default=False)


def N_(text: str) -> str:
    """Mark a text for translation; whoever shows it translates it."""
    return text


def written_in(language: str) -> None:
    """From here on, numbers are written as this language does."""
    _comma.set(language.split("-")[0] in _COMMAS)


def speaks_english() -> bool:
    """Whether numbers, and so words, are English now."""
    return not _comma.get()


def decimal(number: str) -> str:
    """A number with the decimal sign of the language that is spoken."""
    return number.replace(".", ",") if _comma.get() else number


def decimal_meant(typed: str) -> str:
    """A typed number in which 1,234 cannot be a thousand, where the language has it as a decimal."""
    return _MEANT.sub(r"\1,\g<2>0", typed) if _comma.get() else typed
