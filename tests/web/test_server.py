"""The real server: waitress with hashed static files, its headers and limits, and a draft that outlives a killed process."""

import json
import re
import signal
import urllib.error
import urllib.request

import pytest

from tests.served import bench_page, environment_of, prepare, serve


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
