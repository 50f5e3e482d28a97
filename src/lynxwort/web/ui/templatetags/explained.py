"""What is explained where it stands: words of the trade behind themselves, and what a drawing shows."""

import re
from functools import lru_cache

from django import template
from django.urls import reverse
from django.utils.html import conditional_escape, format_html
from django.utils.safestring import SafeString, mark_safe
from django.utils.translation import get_language, gettext

from lynxwort.words.explained.drawings import DRAWINGS
from lynxwort.words.explained.glossary import TERMS
from lynxwort.words.explained.parts import SPELLED

register = template.Library()
#: words that mean something else in most sentences: they are looked up, not led to
ELSEWHERE = frozenset(
    {
        "keep",
        "trail",
        "pack",
        "bite",
        "friction",
        "head",
        "range",
        "pit",
        "pull",
        "leg",
        "tank",
        "reading",
        "finding",
        "chain",
        "rich",
        "lean",
        "bog",
    }
)


#: words of another language that mean something else in most of its sentences: a passing, the disc of a clutch, a pump
ELSEWHERE_IN = {
    "es": frozenset(
        {
            "paso",
            "disco",
            "válvula de escape",
            "borrador",
            "imprescindible",
            "culata",
            "campana",
            "tope",
            "bomba",
            "láminas",
        }
    )
}


@lru_cache(maxsize=8)
def _known(language: str | None) -> dict[str, list[tuple[str, str]]]:
    """The words of a language by the first of each, longest first: (words, key)."""
    keys = {gettext(t.word).lower(): key for key, t in TERMS.items() if key not in ELSEWHERE}
    keys |= {gettext(words).lower(): key for words, key in SPELLED.items()}
    for words in ELSEWHERE_IN.get((language or "")[:2], ()):
        keys.pop(words, None)
    found: dict[str, list[tuple[str, str]]] = {}
    for words in sorted(keys, key=len, reverse=True):
        found.setdefault(_WORD.findall(words)[0], []).append((words, keys[words]))
    return found


_WORD = re.compile(r"[^\W\d_]+")


@lru_cache(maxsize=8192)
def _spans(text: str, language: str | None) -> tuple[tuple[int, int, str], ...]:
    """Where a text says words of the trade, one or several of it: (from, to, key). An alternation of them all would try
    each at every letter.
    """
    known, low, found, past = _known(language), text.lower(), list[tuple[int, int, str]](), 0
    for word in _WORD.finditer(low):
        at = word.start()
        if at < past:
            continue
        for words, key in known.get(word[0]) or known.get(word[0].removesuffix("s"), []):
            end = at + len(words)
            end += low.startswith("s", end)
            if low.startswith(words, at) and not low[end : end + 1].isalnum():
                found.append((at, end, key))
                past = end
                break
    return tuple(found)


def _linked(text: str, seen: set[str], words: str) -> str:
    """HTML text with each word that was not seen yet leading to what it means."""
    made, at = [], 0
    for begins, ends, key in _spans(text, get_language()):
        if key not in seen:
            seen.add(key)
            made += [text[at:begins], f'<a class="term" href="{words}#{key}">{text[begins:ends]}</a>']
            at = ends
    return "".join([*made, text[at:]])


#: text inside these is prose; inside those it leads somewhere already, names a control, or is a person's own
PROSE = frozenset({"p", "li", "dd", "dt", "td", "caption", "figcaption", "legend"})
NEVER = frozenset(
    {"a", "button", "summary", "label", "h1", "h2", "svg", "script", "template", "q", "title", "code", "address"}
)
_PIECE = re.compile(r"(<[^>]*>)")
_TAG = re.compile(r"<(/?)([a-z][a-z0-9]*)", re.IGNORECASE)


class _Glossed(template.Node):
    """See glossed_prose."""

    def __init__(self, inside: template.NodeList) -> None:
        self.inside = inside

    def render(self, context: template.Context) -> SafeString:
        made = self.inside.render(context)
        user = context.get("user")
        return led(made) if user is not None and user.is_authenticated else made


@register.tag("glossed")
def glossed_prose(parser: template.base.Parser, _token: template.base.Token) -> _Glossed:
    """The prose of a page with each word of the trade leading to what it means, where the page says it first."""
    inside = parser.parse(("endglossed",))
    parser.delete_first_token()
    return _Glossed(inside)


def led(page: str) -> SafeString:
    """HTML with the first of each word of the trade in its prose made a link; nothing else is touched."""
    words, made, seen = reverse("words"), [], set[str]()
    prose = never = 0
    for piece in _PIECE.split(page):
        tag = _TAG.match(piece)
        if tag is not None:
            step = -1 if tag[1] else 1
            name = tag[2].lower()
            prose += step * (name in PROSE)
            never += step * (name in NEVER and not piece.endswith("/>"))
        elif prose > 0 and never == 0:
            piece = _linked(piece, seen, words)
        made.append(piece)
    return mark_safe("".join(made))


@register.filter
def glossed(text: str) -> SafeString:
    """A text with each word of the trade leading to what it means, where it stands first."""
    return mark_safe(_linked(conditional_escape(text), set(), reverse("words")))


@register.simple_tag
def what(key: str) -> SafeString | str:
    """What a drawing shows and how it is read, behind "What is this?"; nothing for one that says all itself."""
    said = DRAWINGS.get(key)
    if said is None:
        return ""
    return format_html(
        '<details class="what"><summary>{}</summary><p>{}</p></details>', gettext("What is this?"), gettext(said)
    )
