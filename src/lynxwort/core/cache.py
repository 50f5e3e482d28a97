"""A bounded, thread-safe, least-recently-used cache per stage, keyed by each stage's own small input.

There is no invalidation, only keys: the key holds the core version and everything the stage reads. A lock per key lets
one thread compute while others that want the same wait for it.
"""

import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable, Mapping
from dataclasses import dataclass, fields
from functools import cached_property
from typing import Any, TypeVar, dataclass_transform

import numpy as np

from lynxwort.core import CORE_VERSION

T = TypeVar("T")
H = TypeVar("H", bound=Hashable)
#: parts of documents kept so that equal ones are the same one
THINGS = 512
#: of arrays kept in all; a result of fewer is not counted; of a row, how many things are looked at first
MOST_BYTES, LEAST_BYTES, LOOKED_AT = 170_000_000, 10_000, 2


@dataclass_transform(frozen_default=True, kw_only_default=True)
def keyed(cls: type[T]) -> type[T]:
    """A frozen dataclass that is a key: what a derived thing or a station is made from, and all that it may read.
    Hashed once, since it is looked up often; what it works out of itself it may keep as a cached property.
    """
    made = dataclass(frozen=True, kw_only=True)(cls)
    plain_hash, plain_eq = made.__hash__, made.__eq__

    def hashed(self: Any) -> int:
        found: int | None = self.__dict__.get("_hash")
        if found is None:
            found = self.__dict__["_hash"] = plain_hash(self)
        return found

    def equal(self: Any, other: object) -> bool:
        if self is other:
            return True
        if type(self) is not type(other):
            return False
        # keys that were once found equal share a mark: one that is nested in many is compared field by field once
        mine, theirs = self.__dict__, other.__dict__
        mark = theirs.get("_mark")
        if mark is not None and mine.get("_mark") is mark:
            return True
        if hash(self) != hash(other) or plain_eq(self, other) is not True:
            return False
        mine["_mark"] = theirs["_mark"] = mark or mine.get("_mark") or object()
        return True

    made._keyed = tuple(f.name for f in fields(made) if f.compare)  # type: ignore[attr-defined, arg-type]
    made.__hash__, made.__eq__ = hashed, equal  # type: ignore[method-assign, assignment]
    return made


def bare(key: Any) -> Any:
    """A key as it was before anything was worked out of it: what is kept must not hold on to the arrays that a keyed
    thing has made meanwhile, nor to the fields that do not tell it apart.
    """
    if isinstance(key, tuple):
        return tuple(bare(k) for k in key)
    names = getattr(type(key), "_keyed", None)
    if names is None:
        return key
    own = key.__dict__
    made = own.get("_bare")
    if made is None:
        made = own["_bare"] = object.__new__(type(key))
        made.__dict__.update({n: bare(own[n]) for n in names}, _hash=hash(key))
    return made


class Once:
    """Something that keeps what it has worked out, whoever asks."""

    @cached_property
    def _memo(self) -> dict[str, Any]:
        return {}

    def once(self, name: str, make: Callable[[], T]) -> T:
        """What `make` gives, made when it is first asked for."""
        if name not in self._memo:
            self._memo[name] = make()
        return self._memo[name]  # type: ignore[no-any-return]


def array_bytes(thing: Any, depth: int = 2) -> int:
    """Bytes of the arrays in a result and in its parts' parts; of a longer row only when its first things have any."""
    if isinstance(thing, np.ndarray):
        return thing.nbytes
    if depth == 0 or isinstance(thing, str | float | int):
        return 0
    names = getattr(type(thing), "__dataclass_fields__", None)
    if names is not None:
        return sum([array_bytes(getattr(thing, n), depth - 1) for n in names])
    if isinstance(thing, tuple | list) and any(array_bytes(part, depth - 1) for part in thing[:LOOKED_AT]):
        return sum([array_bytes(part, depth - 1) for part in thing])
    return 0


class StageCache:
    """Least-recently-used results per stage. size: entries kept for each stage; most_bytes: of arrays in all of them,
    beyond which those that were used longest ago go, whatever their stage; fewer: entries kept for some stages, whose
    results hold on to those of others.
    """

    def __init__(self, size: int = 64, most_bytes: int = MOST_BYTES, fewer: Mapping[str, int] | None = None) -> None:
        self._size, self._most_bytes, self._fewer = size, most_bytes, dict(fewer or {})
        self.bytes = 0
        self._heavy: OrderedDict[tuple[str, Hashable], int] = OrderedDict()
        self._results: dict[str, OrderedDict[Hashable, Any]] = {}
        self._locks: dict[Hashable, threading.Lock] = {}
        self._things: OrderedDict[Hashable, Any] = OrderedDict()
        self._guard = threading.Lock()
        self.misses: dict[str, int] = {}

    def _find(self, stage: str, key: Hashable) -> tuple[bool, Any]:
        with self._guard:
            kept = self._results.setdefault(stage, OrderedDict())
            if key in kept:
                kept.move_to_end(key)
                if (stage, key) in self._heavy:
                    self._heavy.move_to_end((stage, key))
                return True, kept[key]
            return False, None

    def one(self, thing: H) -> H:
        """The thing itself, or an equal one that was asked for before: what is the same is then told by a glance."""
        with self._guard:
            found = self._things.setdefault(thing, thing)
            self._things.move_to_end(found)
            while len(self._things) > THINGS:
                self._things.popitem(last=False)
            return found  # type: ignore[no-any-return]

    def has(self, stage: str, key: Hashable) -> bool:
        """Whether the result for this key is kept."""
        return self._find(stage, (CORE_VERSION, key))[0]

    def get(self, stage: str, key: Hashable, compute: Callable[[], T]) -> T:
        """The result of `compute` for this key, computed at most once while it is kept."""
        full = (CORE_VERSION, key)
        found, result = self._find(stage, full)
        if found:
            return result  # type: ignore[no-any-return]
        with self._guard:
            lock = self._locks.setdefault((stage, full), threading.Lock())
        with lock:
            found, result = self._find(stage, full)
            if found:
                return result  # type: ignore[no-any-return]
            result = compute()
            with self._guard:
                self._keep(stage, bare(full), result)
                self._locks.pop((stage, full), None)
        return result

    def _keep(self, stage: str, key: Hashable, result: Any) -> None:
        kept = self._results[stage]
        kept[key] = result
        self.misses[stage] = self.misses.get(stage, 0) + 1
        while len(kept) > self._fewer.get(stage, self._size):
            gone, _result = kept.popitem(last=False)
            self.bytes -= self._heavy.pop((stage, gone), 0)
        weight = array_bytes(result)
        if weight >= LEAST_BYTES:
            self._heavy[stage, key] = weight
            self.bytes += weight
        while self.bytes > self._most_bytes and len(self._heavy) > 1:
            (where, gone), lighter = self._heavy.popitem(last=False)
            self._results[where].pop(gone)
            self.bytes -= lighter
