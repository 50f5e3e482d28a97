"""What large and hostile files do to the memory of the server: peaks while they are read, and what is left when they
are gone.
"""

import tempfile
import threading
import time
import uuid
from pathlib import Path

from tests.served import bench_page, environment_of, prepare, serve

GPX = b'<gpx version="1.1"><trk><trkseg>%s</trkseg></trk></gpx>'
REST_S, MOST_LEFT_MB = 150.0, 700.0


def points(count: int, step: float = 2e-6) -> bytes:
    """A course of so many points."""
    return GPX % b"".join(
        b'<trkpt lat="%.6f" lon="-2.1"><ele>300.1</ele><time>2027-01-01T00:00:00Z</time></trkpt>' % (54 + i * step)
        for i in range(count)
    )


def log(rows: int) -> bytes:
    """A log of so many rows."""
    body = b"".join(
        b"%.2f;%d;%d;0.93\n" % (0.05 * i, 5000 + 1500 * ((i // 40) % 3), 30 + 20 * ((i // 120) % 3))
        for i in range(rows)
    )
    return b"time s;rpm;throttle %;lambda\n" + body


def files() -> list[tuple[str, str, bytes]]:
    """(what it is, where it goes, the file)."""
    course, given, taken = "/races/new/", "/bench/document/", "map"
    return [
        (
            "two points 20,000 km apart",
            course,
            GPX % b'<trkpt lat="0" lon="0"><ele>1</ele></trkpt><trkpt lat="0" lon="179"><ele>1</ele></trkpt>',
        ),
        ("24 MB of 6,000,000 elements", course, GPX % (b"<a/>" * 6_000_000)),
        ("24 MB of nesting", course, b"<gpx>" + b"<a>" * 8_000_000),
        ("1,900,000 kinds of element", course, GPX % b"".join(b"<a%d/>" % i for i in range(1_900_000))),
        ("300,000 points", course, points(300_000)),
        ("119,000 points", course, points(119_000)),
        ("a log of 500,000 columns", taken, b"a," * 500_000 + b"\n" + b"1," * 500_000),
        ("a log of one line of 70 MB", taken, b"1" * 70_000_000),
        ("a log of 60 MB", taken, log(3_000_000)),
        ("a document of 24 MB of brackets", given, b"[" + b"[]," * 8_000_000 + b"[]]"),
        ("a document 1,000,000 deep", given, b"[" * 1_000_000),
        ("a document of 24 MB of one text", given, b'{"bike": "' + b"x" * 24_000_000 + b'"}'),
        ("a document of 24 MB of quotes", given, b'{"bike": ["' + b'","' * 8_000_000 + b'"]}'),
        ("85 MB", taken, b"1" * 85_000_000),
    ]


def memory_mb(pid: int) -> float:
    """Resident memory of a process and of the ones it began."""
    try:
        own = next(
            int(line.split()[1])
            for line in Path(f"/proc/{pid}/status").read_text().splitlines()
            if line.startswith("VmRSS")
        )
        below = Path(f"/proc/{pid}/task/{pid}/children").read_text().split()
        threads = [
            p
            for t in Path(f"/proc/{pid}/task").iterdir()
            if t.name != str(pid)
            for p in (t / "children").read_text().split()
        ]
    except (OSError, StopIteration):
        return 0.0
    return own / 1024 + sum(memory_mb(int(c)) for c in {*below, *threads})


def sent(visitor, path: str, data: bytes) -> int:
    """Send a file by the page's own form; the status."""
    import re
    import urllib.error
    import urllib.request

    edge = uuid.uuid4().hex
    token = re.search(r'name="csrfmiddlewaretoken" value="([^"]+)"', visitor.text("/bench/document/")).group(1)
    fields = {"csrfmiddlewaretoken": token, "gauge": "14.7", "heights": "barometer", "known": ""}
    head = "".join(f'--{edge}\r\nContent-Disposition: form-data; name="{k}"\r\n\r\n{v}\r\n' for k, v in fields.items())
    head += (
        f'--{edge}\r\nContent-Disposition: form-data; name="file"; filename="f.txt"\r\nContent-Type: text/plain\r\n\r\n'
    )
    body = head.encode() + data + f"\r\n--{edge}--\r\n".encode()
    asked = urllib.request.Request(
        visitor.base + path, data=body, headers={"Content-Type": f"multipart/form-data; boundary={edge}"}
    )
    try:
        return visitor.opener.open(asked, timeout=300).status
    except urllib.error.HTTPError as error:
        error.read()
        return error.code


def run() -> int:
    """Send them all to a server of one's own."""
    folder = Path(tempfile.mkdtemp(prefix="lynxwort-soak-"))
    environment = environment_of(folder)
    prepare(environment)
    process, visitor = serve(environment)
    peak, stop = 0.0, threading.Event()

    def watch() -> None:
        nonlocal peak
        while not stop.wait(0.05):
            peak = max(peak, memory_mb(process.pid))

    watcher = threading.Thread(target=watch, daemon=True)
    try:
        visitor.post("/demo/", visitor.text("/in/"))
        bench_page(visitor, "drive")
        for station in ("fuelling", "chassis", "range", "damping"):
            visitor.text(f"/bench/1/1/{station}/")
        time.sleep(8.0)
        rest = memory_mb(process.pid)
        watcher.start()
        print(
            (
                f"at rest, warm: {rest:.0f} MB\n\n| file | answer | s | peak above what stood before, MB "
                f"|\n|---|---|---|---|"
            ),
            flush=True,
        )
        worst = 0.0
        for name, where, data in files():
            before = peak = memory_mb(process.pid)
            start = time.perf_counter()
            code = sent(visitor, "/bench/2/2/fuelling/map/" if where == "map" else where, data)
            took = time.perf_counter() - start
            time.sleep(6.0 if where == "map" else 0.5)
            worst = max(worst, peak - before)
            print(f"| {name} | {code} | {took:.1f} | {peak - before:.0f} |", flush=True)
        left = [p.name for p in (folder / "uploads").iterdir()]
        time.sleep(REST_S)
        resident = memory_mb(process.pid)
        print(
            f"\nafter {REST_S:.0f} s of rest: {resident:.0f} MB resident; uploads left: {len(left)}; greatest "
            f"peak: {worst:.0f} MB above"
        )
    finally:
        stop.set()
        process.kill()
        process.wait(20)
    return int(resident > MOST_LEFT_MB)
