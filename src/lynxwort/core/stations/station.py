"""What a station is: its input, what it shows, and what it says of it."""

from collections.abc import Callable, Hashable, Mapping
from dataclasses import dataclass
from typing import Any

from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.report import Figure, Finding

Known = Mapping[str, Figure]


@dataclass(frozen=True, slots=True, kw_only=True)
class Station:
    """of: its input out of what follows from the document; figures and findings see that input only, so what it holds is their key in the cache.
    rides: whether it rides over the ground, which costs the most.
    """

    name: str
    of: Callable[[Upstream], Hashable]
    figures: Callable[[Any], list[Figure]]
    findings: Callable[[Any, Known], list[Finding]]
    rides: bool = False

    def said(self, up: Upstream, *, judged: bool) -> tuple[list[Figure], list[Finding]]:
        """Figures, and findings of them when they are judged."""
        given = self.of(up)
        figures = up.cache.get(f"{self.name}.figures", given, lambda: self.figures(given))
        if not judged:
            return figures, []
        return figures, up.cache.get(f"{self.name}.findings", given, lambda: self.findings(given, {f.id: f for f in figures}))
