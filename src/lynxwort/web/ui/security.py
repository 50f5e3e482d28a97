"""The security log: who came in, who failed to, what was made or put back. One line of JSON each, in the data folder,
for its owner only.
"""

import json
import logging
import os
import re
from datetime import UTC, datetime
from pathlib import Path

from django.conf import settings

log = logging.getLogger(__name__)
MOST_BYTES = 2_000_000


class NoTokens(logging.Filter):
    """Keeps the token of a code to join by out of whatever is logged of a request."""

    def filter(self, record: logging.LogRecord) -> bool:
        said = record.getMessage()
        if "/join/" in said:
            record.msg, record.args = re.sub(r"/join/[\w-]+", "/join/…", said), None
        return True


def path() -> Path:
    """Where the log lies."""
    return Path(settings.DATA_DIR) / "security.log"


def say(event: str, **about: object) -> None:
    """Write a line; trouble with the disk keeps nobody out. Passwords, tokens and what a garage holds are never
    given.
    """
    line = json.dumps(
        {"at": datetime.now(UTC).isoformat(timespec="seconds"), "event": event}
        | {k: str(v)[:150] for k, v in about.items()}
    )
    try:
        if path().exists() and path().stat().st_size > MOST_BYTES:
            path().replace(path().with_suffix(".log.1"))
        descriptor = os.open(path(), os.O_CREAT | os.O_APPEND | os.O_WRONLY, 0o600)
        with os.fdopen(descriptor, "w") as file:
            file.write(line + "\n")
    except OSError as error:
        log.warning("security log: %s", error)
