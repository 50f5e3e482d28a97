"""Serving over TLS in the van: an authority of this installation, made once, and a leaf for the names it goes by today,
made at each start.
"""

import hashlib
import re
import socket
import ssl
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

import trustme
from django.conf import settings

from lynxwort.web.ui.private import replaced

#: phones take no leaf that is good for longer [common practice: 825 days for an authority of one's own]
LEAF_GOOD_FOR = timedelta(days=397)


#: what a certificate may name: no host's name with letters that no address has
NAME = re.compile(r"^[0-9A-Za-z]([0-9A-Za-z.-]*[0-9A-Za-z])?$|^[0-9A-Fa-f:]+$")


@dataclass(frozen=True)
class Papers:
    """Where the leaf lies, and what it is good for. fingerprint: of the authority, SHA-256 in pairs."""

    certificate: Path
    key: Path
    names: tuple[str, ...]
    fingerprint: str


def folder() -> Path:
    """Where authority and leaf lie, for their owner only."""
    path = Path(settings.DATA_DIR) / "tls"
    path.mkdir(mode=0o700, exist_ok=True)
    return path


def _write(path: Path, data: bytes) -> None:
    with replaced(path) as file:
        file.write(data)


def _authority() -> trustme.CA:
    """The authority of this installation, made the first time. Its path ends with it: what it signs signs nothing."""
    certificate, key = folder() / "authority.pem", folder() / "authority-key.pem"
    if certificate.exists() and key.exists():
        return trustme.CA.from_pem(certificate.read_bytes(), key.read_bytes())
    made = trustme.CA(
        path_length=0, organization_name="Lynxwort", organization_unit_name=f"Lynxwort on {socket.gethostname()}"[:60]
    )
    _write(key, made.private_key_pem.bytes())
    _write(certificate, made.cert_pem.bytes())
    return made


def address_on_the_network() -> str | None:
    """The address that others on the network reach this machine at. Nothing is sent to find it."""
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as asked:
        try:
            asked.connect(("192.0.2.1", 9))
        except OSError:
            return None
        return str(asked.getsockname()[0])


def names() -> tuple[str, ...]:
    """What this machine is called and reached at."""
    host = socket.gethostname()
    own = [] if settings.HOST in ("0.0.0.0", "::") else [settings.HOST]  # noqa: S104 - compared, not bound
    found = [
        "localhost",
        "127.0.0.1",
        "::1",
        *own,
        host,
        host if host.endswith(".local") else f"{host}.local",
        address_on_the_network(),
    ]
    return tuple(dict.fromkeys(n for n in found if n and NAME.match(n)))


def papers() -> Papers:
    """A leaf for today, signed by the authority. Raises OSError."""
    authority, called = _authority(), names()
    leaf = authority.issue_cert(*called, common_name="Lynxwort", not_after=datetime.now(UTC) + LEAF_GOOD_FOR)
    certificate, key = folder() / "leaf.pem", folder() / "leaf-key.pem"
    _write(key, leaf.private_key_pem.bytes())
    _write(certificate, b"".join(c.bytes() for c in leaf.cert_chain_pems))
    return Papers(certificate, key, called, fingerprint())


def authority_der() -> bytes | None:
    """The authority as a phone takes it; None while there is none."""
    path = folder() / "authority.pem"
    return ssl.PEM_cert_to_DER_cert(path.read_text()) if path.exists() else None


def fingerprint() -> str:
    """The authority's SHA-256 in pairs, to be compared by eye; "" while there is none."""
    der = authority_der()
    return "" if der is None else ":".join(f"{b:02X}" for b in hashlib.sha256(der).digest())


def serve(application: Any, made: Papers) -> None:
    """Serve until stopped. Raises OSError when the port cannot be had."""
    from cheroot.ssl.builtin import BuiltinSSLAdapter
    from cheroot.wsgi import Server

    server = Server(
        (settings.HOST, settings.PORT),
        application,
        numthreads=settings.SERVER_THREADS,
        server_name="Lynxwort",
        timeout=30,
        request_queue_size=64,
    )
    server.max_request_body_size = settings.MAX_TAKEN_BYTES
    server.ssl_adapter = BuiltinSSLAdapter(str(made.certificate), str(made.key))
    try:
        server.start()
    finally:
        server.stop()
