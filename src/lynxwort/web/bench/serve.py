"""One server process (the stage cache lives in it): waitress, 16 threads, kernels warmed beside it."""

import sys

from django.conf import settings
from django.db import DatabaseError, connection
from django.db.migrations.loader import MigrationLoader
from waitress import serve

from lynxwort.web.bench import engine
from lynxwort.web.garages.services import first_account_token
from lynxwort.web.jobs import worker
from lynxwort.web.ui import lock
from lynxwort.web.ui.trouble import trouble_of, words_of


def unfit() -> str:
    """Why the database cannot be served, in one line; "" when it can."""
    try:
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
    reason = unfit()
    if reason:
        raise SystemExit(reason)
    with lock.serving():
        _serve()


def _serve() -> None:
    from lynxwort.web.wsgi import application  # only now: it looks for files that an unfit folder lacks

    engine.warm_in_background()
    worker.start()
    host = settings.HOST
    sys.stdout.write(f"Lynxwort is on http://{host}:{settings.PORT}/\n")
    token = first_account_token()
    if token and host not in ("127.0.0.1", "localhost"):
        sys.stdout.write(f"First account from another machine: http://{host}:{settings.PORT}/first-account/?token={token}\n")
    sys.stdout.flush()
    try:
        serve(application, host=host, port=settings.PORT, threads=16, max_request_body_size=settings.MAX_UPLOAD_BYTES + 1_000_000, ident="Lynxwort")
    except OSError as error:
        raise SystemExit(f"Port {settings.PORT} on {host} cannot be used: {error.strerror}. PORT says another one.") from None
