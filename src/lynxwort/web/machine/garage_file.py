"""The file of another copy of a garage, between being looked at and being merged: one a garage, gone when done with, in
a day at the latest.
"""

import json
import shutil
import time
from collections.abc import Mapping
from pathlib import Path
from typing import BinaryIO

from django.conf import settings

from lynxwort.web.garages.models import Garage
from lynxwort.web.machine import merging
from lynxwort.web.machine.garage_lines import MOST_BYTES, refuse
from lynxwort.web.ui.private import replaced

OLDEST_S = 86_400.0
#: how a file begins here: with what the other copy is called
_HEAD = 200


def _path(garage: Garage) -> Path:
    folder = Path(settings.DATA_DIR) / "merging"
    folder.mkdir(mode=0o700, exist_ok=True)
    for old in folder.iterdir():
        if old.stat().st_mtime < time.time() - OLDEST_S:
            old.unlink(missing_ok=True)
    return folder / f"{garage.uid}.jsonl"


def lay_by(garage: Garage, source: BinaryIO, label: str) -> None:
    """Keep a file until it is merged or left. label: what the other copy is called. Raises InputRefused."""
    if getattr(source, "size", 0) > MOST_BYTES:
        raise refuse(0, "file_too_large", high=MOST_BYTES / 1e6)
    with replaced(_path(garage)) as file:
        file.write(json.dumps(label).ljust(_HEAD)[:_HEAD].encode())
        shutil.copyfileobj(source, file)


def let_go(garage: Garage) -> None:
    """Nothing becomes of it."""
    _path(garage).unlink(missing_ok=True)


def merged(garage: Garage, *, dry: bool = False, choices: Mapping[str, str] | None = None) -> merging.Merged | None:
    """Merge what lies by, or only say what would become of it; None where nothing lies by. Raises InputRefused."""
    try:
        with _path(garage).open("rb") as file:
            label = json.loads(file.read(_HEAD)) or "2"
            done = merging.merge(garage, file, label=label, choices=choices, dry=dry)
    except FileNotFoundError:
        return None
    if not dry:
        let_go(garage)
    return done
