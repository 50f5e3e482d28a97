"""One server process (the stage cache lives in it), kernels warmed beside it: waitress, or cheroot where TLS is asked
for.
"""

import ctypes
import sys
import time

from django.conf import settings
from django.db import DatabaseError, connection
from django.db.migrations.loader import MigrationLoader
from django.utils.translation import gettext as _
from waitress import serve

from lynxwort.web.evaluation import door
from lynxwort.web.garages.services import first_account_token
from lynxwort.web.jobs import worker
from lynxwort.web.machine import lock, shelf, tls
from lynxwort.web.machine.archive import Unusable
from lynxwort.web.ui.trouble import trouble_of, words_of


def unfit() -> str:
    """Why the database cannot be served, in one line; "" when it can."""
    try:
        said = "ok"
        if connection.vendor == "sqlite":
            with connection.cursor() as cursor:
                cursor.execute("PRAGMA quick_check(1)")
                said = cursor.fetchone()[0]
        loader = MigrationLoader(connection)
    except DatabaseError as error:
        return words_of(trouble_of(error))
    if said != "ok":
        return words_of("corrupt")
    if set(loader.applied_migrations) - set(loader.disk_migrations):
        return "This database was written by a newer Lynxwort. Take that version, or put back a back-up of this one."
    if set(loader.disk_migrations) - set(loader.applied_migrations):
        return words_of("schema")
    return ""


def main() -> None:
    """Serve on HOST and PORT until stopped."""
    with lock.serving():
        _put_back_what_lies_ready()
        reason = unfit()
        if reason:
            raise SystemExit(reason)
        _serve()


def _put_back_what_lies_ready() -> None:
    """A back-up that the page laid ready is put back before anything is served."""
    ready = shelf.waiting()
    if ready is None:
        return
    from lynxwort.web.machine.presenting import UNUSABLE  # only now: with the words of back-ups comes all that reckons
    from lynxwort.web.machine.restoring import put_back_held

    try:
        contents, kept = put_back_held(ready)
    except Unusable as error:
        shelf.let_go()
        sys.stdout.write(
            _("The back-up that lay ready was not put back: %(why)s Everything stands as it stood.")
            % {"why": UNUSABLE[error.code]}
            + "\n"
        )
    except (OSError, DatabaseError) as error:
        raise SystemExit(
            _(
                "The back-up that lies ready was not put back: %(error)s. Nothing was changed. Start again, or take "
                "%(file)s away."
            )
            % {"error": error, "file": ready}
        ) from None
    else:
        shelf.let_go()
        words = _("Put back as it stood on %(when)s UTC; the old database is %(kept)s.")
        sys.stdout.write(words % {"when": f"{contents.made:%Y-%m-%d %H:%M}", "kept": kept} + "\n")


#: glibc's name for the number of places that threads take memory from (malloc.h)
M_ARENA_MAX = -8
#: how often what lies free is given back [s]
GIVE_BACK_S = 60.0


def _share_memory() -> None:
    """Threads take memory from two places in all, instead of one each that nobody else is given what lies free in, and
    what lies free is given back while nothing is worked out.
    """
    try:
        library = ctypes.CDLL(None)
        trim = library.malloc_trim
        library.mallopt(M_ARENA_MAX, 2)
    except (AttributeError, OSError, TypeError):  # another C library than glibc
        return
    last = time.monotonic()

    def give_back() -> None:
        nonlocal last
        if time.monotonic() - last > GIVE_BACK_S:
            trim(0)
            last = time.monotonic()

    worker.when_idle(give_back)


def _serve() -> None:
    from lynxwort.web.wsgi import application  # only now: it looks for files that an unfit folder lacks

    _share_memory()
    door.warm_in_background()
    worker.start()
    host, scheme = settings.HOST, "https" if settings.TLS else "http"
    others_say = (tls.address_on_the_network() or host) if host in ("0.0.0.0", "::") else host  # noqa: S104 - compared, not bound
    sys.stdout.write(_("Lynxwort is on %(address)s") % {"address": f"{scheme}://{host}:{settings.PORT}/"} + "\n")
    token = first_account_token()
    if token and (settings.FRONT or host not in ("127.0.0.1", "localhost")):
        there = settings.ADDRESS or f"{scheme}://{others_say}:{settings.PORT}"
        words = _("First account from another machine: %(address)s")
        sys.stdout.write(words % {"address": f"{there}/first-account/?token={token}"} + "\n")
    sys.stdout.flush()
    try:
        if settings.TLS:
            made = tls.papers()
            sys.stdout.write(
                _("It goes by %(names)s. How a phone takes its authority: %(address)s")
                % {"names": ", ".join(made.names), "address": f"{scheme}://{others_say}:{settings.PORT}/authority/"}
                + "\n"
            )
            words = _("Compare there, before it is taken: %(fingerprint)s")
            sys.stdout.write(words % {"fingerprint": made.fingerprint} + "\n")
            sys.stdout.flush()
            tls.serve(application, made)
            return
        serve(
            application,
            host=host,
            port=settings.PORT,
            threads=settings.SERVER_THREADS,
            max_request_body_size=settings.MAX_TAKEN_BYTES,
            ident="Lynxwort",
        )
    except OSError as error:
        raise SystemExit(
            f"Port {settings.PORT} on {host} cannot be used: {error.strerror}. PORT says another one."
        ) from None
