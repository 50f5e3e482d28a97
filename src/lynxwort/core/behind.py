"""What stands behind a report: its views and the questions that may be asked of it, answered when they are asked."""

import inspect
from collections.abc import Callable
from functools import cache
from typing import Any, Concatenate, ParamSpec, TypeVar, get_type_hints

from lynxwort.core.derived.upstream import Upstream

P = ParamSpec("P")
T = TypeVar("T")


@cache
def _read_by(question: Callable[..., Any]) -> Any:
    """What a question reads: the class of its first argument, a station's input or all that follows from the
    document.
    """
    first = next(iter(inspect.signature(question).parameters))
    return get_type_hints(question)[first]


class Behind:
    """Made by evaluate; a report that was read back has none."""

    def __init__(self, up: Upstream) -> None:
        self.up = up

    def ask(self, question: Callable[Concatenate[Any, P], T], *args: P.args, **more: P.kwargs) -> T:
        """The answer of a function of the core whose first argument is a station's input, or Upstream."""
        reads = _read_by(question)
        return question(self.up if reads is Upstream else reads.of(self.up), *args, **more)
