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
        self._answers: dict[Any, Any] = {}

    def ask(self, question: Callable[Concatenate[Any, P], T], *args: P.args, **more: P.kwargs) -> T:
        """The answer of a function of the core whose first argument is a station's input, or Upstream. A question
        without more arguments is answered once: what stands kept is drawn beside every step.
        """
        if not args and not more and question in self._answers:
            return self._answers[question]  # type: ignore[no-any-return]
        reads = _read_by(question)
        found = question(self.up if reads is Upstream else reads.of(self.up), *args, **more)
        if not args and not more:
            self._answers[question] = found
        return found
