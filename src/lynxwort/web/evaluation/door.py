"""The one door from the pages to `evaluate`: warmed beside the server, reports cached by their whole input."""

import gc
import hashlib
import threading
from collections.abc import Callable, Collection, Hashable, Iterable, Mapping
from dataclasses import replace
from typing import TYPE_CHECKING, Any, TypeVar

from lynxwort.core import CORE_VERSION
from lynxwort.web.evaluation import kernels
from lynxwort.web.ui import lazily

T = TypeVar("T")

if TYPE_CHECKING:
    from lynxwort.core.cache import StageCache
    from lynxwort.core.model.inputs import Inputs
    from lynxwort.core.report import Finding, Report

_ready = threading.Event()
_started = threading.Lock()
_cache: "StageCache | None" = None
_setting_up = threading.Lock()


def stage_cache() -> "StageCache":
    """The one cache of stages, shared by pages and jobs."""
    global _cache
    from lynxwort.core.cache import StageCache

    with _setting_up:
        if _cache is None:
            # a report holds on to all that it was made of; a way back is sixty steps long
            _cache = StageCache(size=160, fewer={"report": 80, "report_most": 20})
    return _cache


def input_key(inputs: "Inputs") -> str:
    """Hash of everything the report depends on: the core that reckons it, and the course by its content."""
    return hashlib.sha256(f"{CORE_VERSION} {inputs.digest()}".encode()).hexdigest()


def digest_of(many: "Iterable[Inputs]", rows: Iterable[int]) -> str:
    """Hash of several inputs, in their order, and of the rows that they are made of."""
    return hashlib.sha256(" ".join([*map(input_key, many), *map(str, rows)]).encode()).hexdigest()


def ridden_key(inputs: "Inputs") -> str:
    """The same of all that is ridden and reckoned: trials and logs change nothing of it."""
    from lynxwort.core.model.inputs import LOGGED

    return input_key(inputs.model_copy(update=dict.fromkeys(LOGGED, ())))


def report_of(
    inputs: "Inputs",
    sensitivities: Mapping[str, tuple[float, float]] | None = None,
    *,
    shown: Collection[str] | None = None,
    if_known: Collection[str] = (),
) -> "Report":
    """The report of these inputs; a step back is a cache hit. shown: figures that alone are looked at, so that no more
    need be worked out; if_known: stations that may wait; neither counts where the whole one is at hand. Raises
    InputRefused.
    """
    from lynxwort.core.evaluate import evaluate, figures_needed

    cache = stage_cache()
    spread = {k: (v[0], v[1]) for k, v in (sensitivities or {}).items()}
    key = (input_key(inputs), tuple(sorted(spread.items())))
    if shown is not None and not cache.has("report", key):
        need = figures_needed(shown)
        # nobody asks further of a part
        return cache.get(
            "report_part",
            (key, need),
            lambda: replace(evaluate(inputs, cache=cache, sensitivities=spread, need=need), behind=None),
        )
    if if_known and not cache.has("report", key):
        return cache.get(
            "report_most",
            (key, frozenset(if_known)),
            lambda: evaluate(inputs, cache=cache, sensitivities=spread, if_known=if_known),
        )
    return cache.get("report", key, lambda: evaluate(inputs, cache=cache, sensitivities=spread))


def judged(inputs: "Inputs", report: "Report", station: str, *, compute: bool) -> "tuple[Finding, ...] | None":
    """The findings of a station with the proposals that hold; None while they are still to be tried and compute is
    False.
    """
    from lynxwort.core.propose import single

    if not any(f.proposals for f in report.of(station)):
        return report.of(station)
    key = (input_key(inputs), tuple(sorted(report.sensitivities.items())), station)
    if not compute and not stage_cache().has("judged", key):
        return None
    return stage_cache().get("judged", key, lambda: report.ask(single.judged, report, station))


def view_of(inputs: "Inputs", name: str) -> Any:
    """One picture's data of these inputs, without the rest of the report. Raises InputRefused."""
    from lynxwort.core.evaluate import evaluate

    cache = stage_cache()
    return cache.get("view", (input_key(inputs), name), lambda: evaluate(inputs, cache=cache, need=(name,)).views[name])


def cached(kind: str, key: Hashable, make: Callable[[], T]) -> T:
    """Something made of stage results, kept beside them by their key."""
    return stage_cache().get(kind, key, make)


def sensitivities_of(inputs: "Inputs") -> dict[str, tuple[float, float]]:
    """The sensitivities of these inputs: the full depth of `evaluate`."""
    from lynxwort.core.evaluate import evaluate

    return dict(evaluate(inputs, depth="full", cache=stage_cache()).sensitivities)


def _ride() -> None:
    from lynxwort.core.evaluate import evaluate
    from lynxwort.demo.scenario import inputs

    evaluate(inputs(), cache=stage_cache())


def warm() -> None:
    """Load the kernels from their cache, or compile them, by riding the demo once."""
    kernels.loading(_ride)
    lazily.load()
    # what stands from the start is never garbage: looking through all of it stops every page for a tenth of a second
    gc.collect()
    gc.freeze()
    gc.set_threshold(20_000, 20, 50)
    _ready.set()


def warm_in_background() -> None:
    """Warm once, in a thread of its own."""
    if _started.acquire(blocking=False):
        threading.Thread(target=warm, name="warm", daemon=True).start()


def is_warm() -> bool:
    """Whether a page may evaluate without compiling."""
    return _ready.is_set()
