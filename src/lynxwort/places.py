"""Where things lie on this machine: the folder of what is kept, and that of the compiled kernels. Nothing is written
beside the code of an installed Lynxwort; a clone of the repository keeps all in its own `.data`.
"""

import os
from pathlib import Path

import platformdirs

NAME = "lynxwort"
CLONE = Path(__file__).parents[2]


def cloned() -> bool:
    """Whether this code lies in a clone of the repository, and not in an installed package."""
    return (CLONE / "manage.py").exists() and (CLONE / "pyproject.toml").exists()


def data(*, demo: bool = False) -> Path:
    """The folder of what is kept: LYNXWORT_DATA, or the clone's own, or the platform's for data of a person."""
    named = os.environ.get("LYNXWORT_DATA")
    if named:
        return Path(named)
    return (CLONE / ".data" if cloned() else platformdirs.user_data_path(NAME, False)) / ("demo" if demo else "own")


def kernels() -> Path:
    """The folder of the compiled kernels, which are made anew when they are missed."""
    if os.environ.get("LYNXWORT_DATA"):
        return data() / "kernels"
    return (CLONE / ".data" if cloned() else platformdirs.user_cache_path(NAME, False)) / "kernels"
