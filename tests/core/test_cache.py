"""The stage cache: computed once, bounded, safe between threads, keyed by everything that matters."""

import threading
from functools import cached_property

import numpy as np
import pytest

from lynxwort.core import cache as module
from lynxwort.core.cache import StageCache


def test_computed_once_per_key_and_stage():
    cache, calls = StageCache(), []
    for key in ("a", "a", "b", "a"):
        assert cache.get("stage", key, lambda k=key: calls.append(k) or k) == key
    assert cache.get("other", "a", lambda: "elsewhere") == "elsewhere"
    assert calls == ["a", "b"]
    assert cache.misses == {"stage": 2, "other": 1}


def test_bounded_and_the_least_used_goes_first():
    cache = StageCache(size=3)
    for key in range(3):
        cache.get("s", key, lambda k=key: k)
    cache.get("s", 0, lambda: pytest.fail("still kept"))
    cache.get("s", 3, lambda: 3)
    assert cache.get("s", 0, lambda: "again") == 0
    assert cache.get("s", 1, lambda: "again") == "again"


def test_bounded_in_bytes_whatever_the_stage_and_the_light_stay():
    cache = StageCache(size=100, most_bytes=5_000_000)
    cache.get("light", "k", lambda: ("said", 1.0))
    for key in range(20):
        cache.get(f"s{key % 3}", key, lambda: (np.zeros(100_000), {"not": "counted"}))  # 0.8 MB each
        assert cache.bytes <= 5_000_000
        cache.get("s0", 0, lambda: pytest.fail("used each time, and gone"))
    assert sum(cache.has(f"s{key % 3}", key) for key in range(20)) == 6
    assert cache.has("s1", 19)
    assert cache.get("light", "k", lambda: pytest.fail("weighs nothing")) == ("said", 1.0)
    # what is too large for all of it is kept alone
    cache.get("s0", "huge", lambda: np.zeros(1_000_000))
    assert cache.has("s0", "huge")
    assert not cache.has("s1", 19)


def test_threads_that_want_the_same_wait_for_one():
    cache, calls, gate = StageCache(), [], threading.Event()

    def slow():
        calls.append(1)
        gate.wait(5)
        return "made"

    results = []
    threads = [threading.Thread(target=lambda: results.append(cache.get("s", "k", slow))) for _ in range(6)]
    for thread in threads:
        thread.start()
    gate.set()
    for thread in threads:
        thread.join(10)
    assert results == ["made"] * 6
    assert calls == [1]


def test_a_failure_is_raised_and_not_kept():
    cache = StageCache()
    with pytest.raises(ZeroDivisionError):
        cache.get("s", "k", lambda: 1 / 0)
    assert cache.get("s", "k", lambda: 7) == 7


def test_another_core_version_is_another_key(monkeypatch):
    cache = StageCache()
    cache.get("s", "k", lambda: "old")
    monkeypatch.setattr(module, "CORE_VERSION", "another")
    assert cache.get("s", "k", lambda: "new") == "new"


@module.keyed
class Given:
    """A key out of which something large is worked."""

    size: int
    of: tuple

    @cached_property
    def large(self):
        return np.zeros(self.size)


def test_a_key_is_told_by_its_fields_and_what_is_kept_holds_nothing_worked_out_of_it():
    cache, inner = module.StageCache(), Given(size=5, of=())
    outer = Given(size=1000, of=(inner, "a"))
    assert cache.get("sum", outer, lambda: outer.large.sum() + inner.large.sum()) == 0.0
    (kept,) = cache._results["sum"]
    assert kept[1] == outer
    assert "large" not in kept[1].__dict__
    assert "large" not in kept[1].of[0].__dict__
    assert "large" in outer.__dict__
    again = Given(size=1000, of=(Given(size=5, of=()), "a"))
    assert cache.get("sum", again, lambda: pytest.fail("it is the same key")) == 0.0
    assert Given(size=1000, of=(Given(size=6, of=()), "a")) != outer
