"""The real server: waitress with hashed static files, its headers and limits, and a draft that outlives a killed process."""

import http.client
import json
import re
import signal
import subprocess
import sys
import urllib.error
import urllib.parse
import urllib.request

import pytest

from tests.served import ROOT, bench_page, environment_of, prepare, serve


@pytest.fixture(scope="module")
def place(tmp_path_factory):
    """A data directory with the demo loaded, and the environment that points at it."""
    environment = environment_of(tmp_path_factory.mktemp("served"))
    prepare(environment, "--only", "brackenmere")
    return environment


@pytest.fixture
def served(place):
    process, visitor = serve(place)
    visitor.post("/demo/", visitor.text("/in/"))
    yield process, visitor
    process.kill()
    process.wait(20)


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


def test_behind_a_front_that_speaks_tls_one_name_comes_in(tmp_path):
    """As a front hands it on: the Host of the world, its Origin, an address that is the front's own."""
    environment = environment_of(tmp_path, LYNXWORT_FRONT="1", LYNXWORT_ADDRESS="https://bench.example")
    prepare(environment, "--only", "brackenmere")
    environment["LYNXWORT_DEMO"] = "0"
    add = "import django; django.setup(); from lynxwort.web.garages.services import add_user; add_user('wren', 'marsh and heather', '')"
    subprocess.run(
        [sys.executable, "-c", add],
        env=environment | {"DJANGO_SETTINGS_MODULE": "lynxwort.web.settings", "PYTHONPATH": str(ROOT / "src")},
        check=True,
    )
    process, visitor = serve(environment)
    try:
        named = {"Host": "bench.example"}
        page = visitor.get("/in/", **named)
        token = re.search(r'name="csrfmiddlewaretoken" value="([^"]+)"', page.read().decode()).group(1)
        cookie = page.headers["Set-Cookie"]
        assert "; Secure" in cookie
        data = urllib.parse.urlencode(
            {"username": "wren", "password": "marsh and heather", "csrfmiddlewaretoken": token}
        ).encode()
        said = {}
        for host, origin in (
            ("bench.example", "https://bench.example"),
            ("bench.example", "https://elsewhere.example"),
            ("elsewhere.example", "https://elsewhere.example"),
        ):
            asked = http.client.HTTPConnection("127.0.0.1", int(environment["PORT"]), timeout=60)
            head = {"Host": host, "Origin": origin, "Cookie": cookie.split(";")[0]}
            asked.request("POST", "/in/", data, head | {"Content-Type": "application/x-www-form-urlencoded"})
            answer = asked.getresponse()
            said[host, origin] = answer.status
            if answer.status == 302:
                assert "Secure" in answer.headers["Set-Cookie"]
        assert list(said.values()) == [302, 403, 400]
        with pytest.raises(urllib.error.HTTPError):  # the demo is for whoever sits at the machine
            visitor.post("/demo/", f'name="csrfmiddlewaretoken" value="{token}"')
    finally:
        process.kill()
        process.wait(20)
    wrong = {"LYNXWORT_ADDRESS": "bench.example"}
    told = subprocess.run(
        [sys.executable, "manage.py", "check"],
        cwd=ROOT,
        env=environment | wrong,
        capture_output=True,
        text=True,
        check=False,
    )
    assert told.returncode == 1
    assert "https://bench.example" in told.stderr


def test_a_draft_outlives_a_killed_server(served, place):
    process, visitor = served
    visitor.post("/bench/put/", visitor.text("/"), setup="1", race="1")
    page = bench_page(visitor, "drive")
    version = re.search(r'data-version="(\d+)"', page).group(1)
    visitor.post(
        "/bench/1/1/drive/notch/", visitor.text("/"), version=version, moves=json.dumps([["rear_sprocket_teeth", 50]])
    )
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
