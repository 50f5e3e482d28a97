"""What is explained where it stands: words of the trade behind themselves, and what a drawing shows."""

import re
from functools import lru_cache

from django import template
from django.urls import reverse
from django.utils.html import format_html
from django.utils.safestring import SafeString, mark_safe
from django.utils.translation import get_language, gettext

from lynxwort.words.explained.drawings import DRAWINGS
from lynxwort.words.explained.glossary import TERMS

register = template.Library()
#: words that mean something else in most sentences: they are looked up, not led to
ELSEWHERE = frozenset({"range", "stop", "pull", "leg", "tank", "reading", "finding", "chain", "rich", "lean", "bog"})


@lru_cache(maxsize=8)
def _known(_language: str | None) -> tuple[re.Pattern[str], dict[str, str]]:
    """What to look for in a language, longest first, and the key of each word."""
    keys = {gettext(t.word).lower(): key for key, t in TERMS.items() if key not in ELSEWHERE}
    words = "|".join(re.escape(w) for w in sorted(keys, key=len, reverse=True))
    return re.compile(rf"\b({words})s?\b", re.IGNORECASE), keys


@lru_cache(maxsize=4096)
def _glossed(text: str, language: str | None, words: str) -> SafeString:
    pattern, keys = _known(language)
    made, at, seen = [], 0, set[str]()
    for match in pattern.finditer(text):
        key = keys[match[1].lower()]
        if key not in seen:
            seen.add(key)
            link = format_html('<a class="term" href="{}#{}">{}</a>', words, key, match[0])
            made += [format_html("{}", text[at : match.start()]), link]
            at = match.end()
    return mark_safe("".join([*made, format_html("{}", text[at:])]))


@register.filter
def glossed(text: str) -> SafeString:
    """A text with each word of the trade leading to what it means, where it stands first."""
    return _glossed(str(text), get_language(), reverse("words"))


@register.simple_tag
def what(key: str) -> SafeString | str:
    """What a drawing shows and how it is read, behind "What is this?"; nothing for one that says all itself."""
    said = DRAWINGS.get(key)
    if said is None:
        return ""
    return format_html(
        '<details class="what"><summary>{}</summary><p>{}</p></details>', gettext("What is this?"), gettext(said)
    )
