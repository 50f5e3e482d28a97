"""Where files from outside wait to be read. What leads to nothing is taken away at once, and everything when it is a
day old.
"""

import time
from pathlib import Path

from django.conf import settings

MOST_AGE_S = 86_400.0


def folder() -> Path:
    """The folder; made when it is not there."""
    path = Path(settings.DATA_DIR) / "uploads"
    path.mkdir(mode=0o700, parents=True, exist_ok=True)
    return path


def tidy() -> None:
    """Take away what is a day old: nobody comes back for it."""
    for path in folder().iterdir():
        try:
            if time.time() - path.stat().st_mtime > MOST_AGE_S:
                path.unlink()
        except FileNotFoundError:
            continue  # somebody was quicker
