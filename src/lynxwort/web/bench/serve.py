"""One server process (the stage cache lives in it): waitress, 16 threads, kernels warmed beside it."""

import sys

from django.conf import settings
from waitress import serve

from lynxwort.web.bench import engine
from lynxwort.web.garages.services import first_account_token
from lynxwort.web.jobs import worker
from lynxwort.web.wsgi import application


def main() -> None:
    """Serve on HOST and PORT until stopped."""
    engine.warm_in_background()
    worker.start()
    host = settings.HOST
    sys.stdout.write(f"Lynxwort is on http://{host}:{settings.PORT}/\n")
    token = first_account_token()
    if token and host not in ("127.0.0.1", "localhost"):
        sys.stdout.write(f"First account from another machine: http://{host}:{settings.PORT}/first-account/?token={token}\n")
    sys.stdout.flush()
    serve(application, host=host, port=settings.PORT, threads=16, max_request_body_size=settings.MAX_UPLOAD_BYTES + 1_000_000, ident="Lynxwort")
