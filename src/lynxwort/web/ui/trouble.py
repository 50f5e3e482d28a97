"""When the disk or the database will not: what is wrong in plain words, on a page that needs neither; and notes that no
page may fail for.
"""

import errno
import logging
from collections.abc import Iterator
from contextlib import contextmanager

from django.db import DatabaseError, connection
from django.http import HttpResponse
from django.template.loader import render_to_string
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

log = logging.getLogger(__name__)
#: what to wait for a note that nobody needs, and what to wait otherwise [ms]
NOTE_WAIT_MS, USUAL_WAIT_MS = 300, 20_000
#: words of the database's or the system's message -> what it is
SIGNS = (
    ("disk is full", "full"),
    ("no space left", "full"),
    ("disk i/o error", "disk"),
    ("readonly", "readonly"),
    ("read-only", "readonly"),
    ("locked", "locked"),
    ("busy", "locked"),
    ("malformed", "corrupt"),
    ("not a database", "corrupt"),
    ("no such table", "schema"),
    ("no such column", "schema"),
    ("unable to open", "unopened"),
)
WORDS = {
    "full": (
        gettext_lazy("The disk is full"),
        gettext_lazy("Nothing was changed. Make room on the machine that Lynxwort runs on, then send it again."),
    ),
    "locked": (
        gettext_lazy("The database is busy"),
        gettext_lazy("Another program holds it. Nothing was changed; send it again in a moment."),
    ),
    "readonly": (
        gettext_lazy("The disk can only be read"),
        gettext_lazy("Nothing was changed. Let the data folder be written to, then send it again."),
    ),
    "corrupt": (
        gettext_lazy("The database cannot be read"),
        gettext_lazy("Stop Lynxwort and put back the last back-up: README, Back-up."),
    ),
    "schema": (
        gettext_lazy("The database is of another version"),
        gettext_lazy(
            "Stop Lynxwort and start it with lynxwort serve (in a clone: make serve), which brings it up to date."
        ),
    ),
    "unopened": (
        gettext_lazy("The database cannot be opened"),
        gettext_lazy("Look whether the data folder is there and may be written to."),
    ),
    "disk": (
        gettext_lazy("The disk does not answer"),
        gettext_lazy("Nothing was changed, as far as can be told. Look at the disk, then send it again."),
    ),
}
CODES = {
    errno.ENOSPC: "full",
    errno.EDQUOT: "full",
    errno.EROFS: "readonly",
    errno.EACCES: "readonly",
    errno.EIO: "disk",
}


def trouble_of(error: BaseException | None) -> str:
    """What kind of trouble with disk or database an exception is; "" for any other."""
    if isinstance(error, OSError):
        return CODES.get(error.errno or 0, "")
    if not isinstance(error, DatabaseError):
        return ""
    said = str(error).lower()
    return next((code for sign, code in SIGNS if sign in said), "disk")


def trouble_page(code: str) -> HttpResponse:
    """The page that says so. It needs no database, no session and nobody signed in."""
    title, words = WORDS[code]
    page = render_to_string("ui/trouble.html", {"title": title, "words": words})
    return HttpResponse(page, status=503, headers={"Retry-After": "10", "Cache-Control": "no-store"})


@contextmanager
def noting(what: str) -> Iterator[None]:
    """Something worth noting that no page may fail for: when the database will not take it now, it is left out."""
    try:
        connection.ensure_connection()
        connection.connection.execute(f"PRAGMA busy_timeout={NOTE_WAIT_MS}")
        yield
    except DatabaseError as error:
        log.warning("not noted (%s): %s", what, error)
    finally:
        if connection.connection is not None:
            connection.connection.execute(f"PRAGMA busy_timeout={USUAL_WAIT_MS}")


def words_of(code: str) -> str:
    """Title and words as one line, for a console."""
    title, words = WORDS[code]
    return f"{_(str(title))}. {_(str(words))}"
