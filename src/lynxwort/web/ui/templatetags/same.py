"""Parts of a page that it may have already: what asks again says which it has, and gets their names alone."""

import hashlib
import re

from django import template
from django.template.base import NodeList, Parser, Token
from django.template.context import Context
from django.utils.safestring import SafeString

register = template.Library()
#: what a page says it has: the marks of its parts
HAVE = "X-Have"
_TAG = re.compile(r"<([a-z]+)")


class SameNode(template.Node):
    """Renders its one element with an id and a mark of its content, or empty where the page has that very content."""

    def __init__(self, name: template.base.FilterExpression, nodelist: NodeList) -> None:
        self.name, self.nodelist = name, nodelist

    def render(self, context: Context) -> SafeString:
        html, name = self.nodelist.render(context).strip(), self.name.resolve(context)
        found = _TAG.match(html)
        if found is None:
            return SafeString(html)
        tag, mark = found[1], hashlib.blake2b(html.encode(), digest_size=6).hexdigest()
        request = context["request"]
        if not hasattr(request, "has_parts"):
            request.has_parts = frozenset(request.headers.get(HAVE, "").split())
        if mark in request.has_parts:
            return SafeString(f'<{tag} id="{name}" data-same="{mark}"></{tag}>')
        return SafeString(f'<{tag} id="{name}" data-mark="{mark}"{html[found.end() :]}')


@register.tag("same")
def same(parser: Parser, token: Token) -> SameNode:
    """{% same "name" %}<one element without an id>{% endsame %}"""
    _tag, name = token.split_contents()
    nodelist = parser.parse(("endsame",))
    parser.delete_first_token()
    return SameNode(parser.compile_filter(name), nodelist)


@register.filter
def part(number: int, name: str) -> str:
    """The name of one of several parts."""
    return f"{name}-{number}"
