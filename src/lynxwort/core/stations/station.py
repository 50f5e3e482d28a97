"""What a station is: its input, what it shows, what it says of it, and what its drawings are made of."""

from collections.abc import Callable, Hashable, Iterable, Mapping
from dataclasses import dataclass, field
from typing import Any

from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.report import Figure, Finding

Known = Mapping[str, Figure]
Views = Mapping[str, Callable[[Any], Any]]


@dataclass(frozen=True, slots=True, kw_only=True)
class Station:
    """of: its input out of what follows from the document; figures and findings see that input only, so what it holds
    is their key in the cache. views: data of its drawings by room, made when they are asked for; each curve of at most
    derived.along.MOST_POINTS points. some: figures of these names at least, ranges left out where they
    cost, when that is less work than all of them. quiet: findings of the same gravity without what would cure them,
    where that has to be ridden to be known.
    """

    name: str
    of: Callable[[Upstream], Hashable]
    figures: Callable[[Any], list[Figure]]
    findings: Callable[[Any, Known], list[Finding]]
    views: Views = field(default_factory=dict)
    some: Callable[[Any, frozenset[str]], list[Figure]] | None = None
    quiet: Callable[[Any, Known], list[Finding]] | None = None

    def is_known(self, up: Upstream) -> bool:
        """Whether it was worked out before."""
        return up.cache.has(f"{self.name}.figures", self.of(up))

    def measured(self, up: Upstream) -> list[Figure]:
        """Its figures."""
        given = self.of(up)
        return up.cache.get(f"{self.name}.figures", given, lambda: self.figures(given))

    def measured_in_part(self, up: Upstream, names: frozenset[str]) -> list[Figure]:
        """These of its figures at least, of the same values as among all of them."""
        if self.some is None or self.is_known(up):
            return self.measured(up)
        given, some = self.of(up), self.some
        return up.cache.get(f"{self.name}.some", (given, names), lambda: some(given, names))

    def judged(self, up: Upstream, figures: Iterable[Figure], *, explain: bool = True) -> list[Finding]:
        """Its findings, of its figures. explain: with what would cure them."""
        given = self.of(up)
        if self.quiet is None or explain:
            return up.cache.get(
                f"{self.name}.findings", given, lambda: self.findings(given, {f.id: f for f in figures})
            )
        quiet = self.quiet
        return up.cache.get(f"{self.name}.quiet", given, lambda: quiet(given, {f.id: f for f in figures}))
