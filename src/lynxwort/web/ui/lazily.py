"""Pages that are brought in when they are first asked for: what they need takes seconds, and nobody waits for it who
only signs in.
"""

from collections.abc import Callable
from importlib import import_module
from typing import Any

_modules: set[str] = set()


class Views:
    """The views of a module by their names. open_to_all: those that nobody need be signed in for."""

    def __init__(self, module: str, *, open_to_all: tuple[str, ...] = ()) -> None:
        self._module, self._open_to_all = module, open_to_all
        _modules.add(module)

    def __getattr__(self, name: str) -> Callable[..., Any]:
        module = self._module

        def view(*args: Any, **kwargs: Any) -> Any:
            return getattr(import_module(module), name)(*args, **kwargs)

        view.__name__ = view.__qualname__ = name
        view.__module__ = module
        # Django's own mark, as login_not_required sets it
        view.login_required = name not in self._open_to_all  # type: ignore[attr-defined]
        return view


def load() -> None:
    """Bring all of them in."""
    for module in sorted(_modules):
        import_module(module)
