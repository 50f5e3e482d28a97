"""The words of the product: one catalogue for the pages and the command line. No physics, no Django."""

import re
from contextvars import ContextVar

#: the languages that every word is said in: code -> what its speakers call it
LANGUAGES = {"en": "English", "es": "Español"}
_COMMAS = frozenset({"es"})
#: one group of three behind a comma: a decimal where commas are decimal
_MEANT = re.compile(r"(?<![\d.,])(\d+),(\d{3})(?![\d.,])")
_language: ContextVar[str] = ContextVar("language", default="en")


def N_(text: str) -> str:
    """Mark a text for translation; whoever shows it translates it."""
    return text


def written_in(language: str) -> None:
    """From here on, numbers are written as this language does."""
    _language.set(language.split("-")[0])


def speaks_english() -> bool:
    """Whether English is spoken now."""
    return _language.get() == "en"


def _has_commas() -> bool:
    return _language.get() in _COMMAS


def decimal(number: str) -> str:
    """A number with the decimal sign of the language that is spoken."""
    return number.replace(".", ",") if _has_commas() else number


def decimal_meant(typed: str) -> str:
    """A typed number in which 1,234 cannot be a thousand, where the language has it as a decimal."""
    return _MEANT.sub(r"\1,\g<2>0", typed) if _has_commas() else typed
