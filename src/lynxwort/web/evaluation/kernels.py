"""The kernels' cache on disk, which may be damaged: by a full disk, a power cut, a copy that broke off."""

import logging
import os
from collections.abc import Callable
from pathlib import Path
from typing import TypeVar

T = TypeVar("T")

log = logging.getLogger(__name__)


def _drop() -> int:
    """Take the compiled kernels away, which are made anew when they are missed; how many there were."""
    place = os.environ.get("NUMBA_CACHE_DIR")
    files = [f for kind in ("*.nbi", "*.nbc") for f in (Path(place).rglob(kind) if place else ())]
    for file in files:
        file.unlink(missing_ok=True)
    return len(files)


def loading(load: Callable[[], T]) -> T:
    """What load gives; where it fails over kernels that were compiled before, they are compiled anew and it is done
    once more. What fails then too is raised.
    """
    try:
        return load()
    except Exception:  # a damaged pickle may raise anything
        if not _drop():
            raise
        log.exception("the compiled kernels could not be read; they are compiled anew")
    return load()
