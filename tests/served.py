"""A real server of one's own, and a visitor without a screen."""

import atexit
import http.cookiejar
import os
import re
import shutil
import socket
import ssl
import subprocess
import sys
import tempfile
import time
import urllib.parse
import urllib.request
from pathlib import Path

ROOT = Path(__file__).parents[1]
_prepared: dict[tuple[Path, tuple[str, ...]], Path] = {}


class Visitor:
    """A browser without a screen: cookies, redirects, forms with their token."""

    def __init__(self, base: str) -> None:
        self.base = base
        unverified = urllib.request.HTTPSHandler(context=ssl._create_unverified_context())
        self.opener = urllib.request.build_opener(
            urllib.request.HTTPCookieProcessor(http.cookiejar.CookieJar()), unverified
        )

    def get(self, path: str, **headers: str):
        return self.opener.open(urllib.request.Request(self.base + path, headers=headers), timeout=60)

    def text(self, path: str) -> str:
        return self.get(path).read().decode()

    def post(self, path: str, page: str, **fields):
        token = re.search(r'name="csrfmiddlewaretoken" value="([^"]+)"|X-CSRFToken": "([^"]+)"', page)
        token = token.group(1) or token.group(2)
        data = urllib.parse.urlencode(fields | {"csrfmiddlewaretoken": token}).encode()
        return self.opener.open(urllib.request.Request(self.base + path, data=data), timeout=60)


def environment_of(folder: Path, **more: str) -> dict[str, str]:
    """The environment of a server of the demo in a data folder of its own, on a free port."""
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    clean = {k: v for k, v in os.environ.items() if not k.startswith(("LYNXWORT", "DJANGO"))}
    return clean | {"LYNXWORT_DATA": str(folder), "LYNXWORT_DEMO": "1", "PORT": str(port), "HOST": "127.0.0.1"} | more


def prepare(environment: dict[str, str], *load: str, root: Path = ROOT) -> None:
    """Database, demo and static files: made once for each choice of races, and copied."""
    folder = Path(environment["LYNXWORT_DATA"])
    made = _prepared.get((root, load))
    if made is not None:
        shutil.copytree(made, folder, dirs_exist_ok=True)
        return
    for command in (
        ["migrate", "--verbosity", "0"],
        # a tree of before the season knows no --bare
        ["load_demo", *load, *(["--bare"] if root == ROOT else [])],
        ["collectstatic", "--noinput", "--verbosity", "0"],
    ):
        subprocess.run(
            [sys.executable, "manage.py", *command], cwd=root, env=environment, check=True, capture_output=True
        )
    kept = Path(tempfile.mkdtemp(prefix="lynxwort-prepared-"))
    atexit.register(shutil.rmtree, kept, ignore_errors=True)
    shutil.copytree(folder, kept, dirs_exist_ok=True)
    _prepared[root, load] = kept


def serve(environment: dict[str, str], root: Path = ROOT) -> tuple[subprocess.Popen, Visitor]:
    """Serve, once it answers."""
    process = subprocess.Popen(
        [sys.executable, "manage.py", "serve"], cwd=root, env=environment, stdout=subprocess.DEVNULL
    )
    visitor = Visitor(f"http{'s' if environment.get('LYNXWORT_TLS') == '1' else ''}://127.0.0.1:{environment['PORT']}")
    for _ in range(300):
        try:
            visitor.get("/in/")
            return process, visitor
        except OSError:
            time.sleep(0.1)
    raise AssertionError("the server did not answer")


def bench_page(visitor: Visitor, station: str) -> str:
    """A station's page, once the kernels are warm."""
    for _ in range(200):
        page = visitor.text(f"/bench/1/1/{station}/")
        if 'id="bench"' in page:
            return page
        assert "Warming up" in page
        time.sleep(0.1)
    raise AssertionError("still warming")
