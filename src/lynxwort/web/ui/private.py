"""Files for their owner only, whatever the umask; and ones that are replaced whole or not at all."""

import os
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path
from typing import BinaryIO


@contextmanager
def written(path: Path) -> Iterator[BinaryIO]:
    """A new file to write, on the disk when the block has ended."""
    descriptor = os.open(path, os.O_CREAT | os.O_TRUNC | os.O_RDWR, 0o600)
    with os.fdopen(descriptor, "w+b") as file:
        yield file
        file.flush()
        os.fsync(file.fileno())


@contextmanager
def replaced(path: Path) -> Iterator[BinaryIO]:
    """As written, but beside its place and only then named: before that, and when the block fails, what stood there
    still stands.
    """
    beside = path.with_name(path.name + ".unfinished")
    try:
        with written(beside) as file:
            yield file
        beside.replace(path)
        sync_folder(path.parent)
    finally:
        with suppress(OSError):
            beside.unlink(missing_ok=True)


def sync_folder(folder: Path) -> None:
    """What was renamed in a folder is on the disk."""
    descriptor = os.open(folder, os.O_RDONLY)
    try:
        os.fsync(descriptor)
    finally:
        os.close(descriptor)
