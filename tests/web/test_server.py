"""The real server: waitress with hashed static files, its headers and limits, and a draft that outlives a killed process."""

import http.cookiejar
import json
import os
import re
import signal
import socket
import subprocess
import sys
import time
import urllib.error
import urllib.parse
import urllib.request
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[2]


class Visitor:
    """A browser without a screen: cookies, redirects, forms with their token."""

    def __init__(self, base: str) -> None:
        self.base = base
        self.opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(http.cookiejar.CookieJar()))

    def get(self, path: str, **headers: str):
        return self.opener.open(urllib.request.Request(self.base + path, headers=headers), timeout=60)

    def text(self, path: str) -> str:
        return self.get(path).read().decode()

    def post(self, path: str, page: str, **fields):
        token = re.search(r'name="csrfmiddlewaretoken" value="([^"]+)"', page).group(1)
        data = urllib.parse.urlencode(fields | {"csrfmiddlewaretoken": token}).encode()
        return self.opener.open(urllib.request.Request(self.base + path, data=data), timeout=60)


@pytest.fixture(scope="module")
def place(tmp_path_factory):
    """A data directory with the demo loaded, and the environment that points at it."""
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    environment = {k: v for k, v in os.environ.items() if not k.startswith(("LYNXWORT", "DJANGO"))}
    environment |= {"LYNXWORT_DATA": str(tmp_path_factory.mktemp("served")), "LYNXWORT_DEMO": "1", "PORT": str(port), "HOST": "127.0.0.1"}
    for command in (["migrate", "--verbosity", "0"], ["load_demo", "--only", "brackenmere"], ["collectstatic", "--noinput", "--verbosity", "0"]):
        subprocess.run([sys.executable, "manage.py", *command], cwd=ROOT, env=environment, check=True, capture_output=True)
    return environment


def serve(environment) -> tuple[subprocess.Popen, Visitor]:
    process = subprocess.Popen([sys.executable, "manage.py", "serve"], cwd=ROOT, env=environment, stdout=subprocess.DEVNULL)
    visitor = Visitor(f"http://127.0.0.1:{environment['PORT']}")
    for _ in range(300):
        try:
            visitor.get("/in/")
            return process, visitor
        except OSError:
            time.sleep(0.1)
    raise AssertionError("the server did not answer")


@pytest.fixture
def served(place):
    process, visitor = serve(place)
    visitor.post("/demo/", visitor.text("/in/"))
    yield process, visitor
    process.kill()
    process.wait(20)


def bench_page(visitor: Visitor, station: str) -> str:
    """A station's page, once the kernels are warm."""
    for _ in range(200):
        page = visitor.text(f"/bench/1/1/{station}/")
        if 'id="bench"' in page:
            return page
        assert "Warming up" in page
        time.sleep(0.1)
    raise AssertionError("still warming")


def test_hashed_files_headers_and_limits(served):
    _process, visitor = served
    answer = visitor.get("/")
    page = answer.read().decode()
    policy = answer.headers["Content-Security-Policy"]
    assert "default-src 'none'" in policy
    assert "unsafe" not in policy
    files = re.findall(r'(?:href|src)="(/static/[^"]+)"', page)
    assert len(files) >= 5
    for file in files:
        assert re.search(r"\.[0-9a-f]{12}\.", file), file
        got = visitor.get(file, **{"Accept-Encoding": "gzip"})
        assert got.status == 200
        assert "immutable" in got.headers["Cache-Control"]
        assert not file.endswith((".css", ".js")) or got.headers["Content-Encoding"] == "gzip"
    assert visitor.get("/", **{"Accept-Encoding": "gzip"}).headers["Content-Encoding"] == "gzip"
    with pytest.raises(urllib.error.HTTPError) as missing:
        visitor.get("/nowhere/")
    assert missing.value.code == 404
    assert "Nothing here" in missing.value.read().decode()
    with pytest.raises(urllib.error.HTTPError) as forged:
        visitor.opener.open(urllib.request.Request(visitor.base + "/demo/", data=b"x=1"), timeout=30)
    assert forged.value.code == 403


def test_a_draft_outlives_a_killed_server(served, place):
    process, visitor = served
    visitor.post("/bench/put/", visitor.text("/"), setup="1", race="1")
    page = bench_page(visitor, "drive")
    version = re.search(r'data-version="(\d+)"', page).group(1)
    visitor.post("/bench/1/1/drive/notch/", visitor.text("/"), version=version, moves=json.dumps([["rear_sprocket_teeth", 50]]))
    process.send_signal(signal.SIGKILL)
    process.wait(20)
    again, visitor = serve(place)
    try:
        visitor.post("/demo/", visitor.text("/in/"))
        page = bench_page(visitor, "drive")
        assert "Rear sprocket 48 → 50" in page
        assert f'data-version="{int(version) + 1}"' in page
    finally:
        again.kill()
        again.wait(20)
