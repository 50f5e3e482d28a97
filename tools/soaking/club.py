"""A club's server: one process, more and more people at work, each in a garage of their own; then the same with the
years of many garages on the disk. SESSIONS, GARAGES, KEPT: other sizes.
"""

import json
import os
import random
import subprocess
import sys
import tempfile
import threading
import time
import urllib.error
from pathlib import Path

from tests.served import ROOT, Visitor, environment_of, prepare, serve
from tools.soaking.load import said

SESSIONS = [int(n) for n in os.environ.get("SESSIONS", "1,5,10,20,40").split(",")]
GARAGES, KEPT = int(os.environ.get("GARAGES", "40")), [int(n) for n in os.environ.get("KEPT", "5,400").split(",")]
#: how long a person looks at what a step has done, and how long each size is watched [s]
THINK_S, TURN_S = 5.0, 60.0
STATIONS = ("chassis", "damping", "fuelling", "drive", "range")
MOVES = (
    ("drive", "rear_sprocket_teeth", (47, 48, 49, 50, 51)),
    ("fuelling", "main_jet", (165.0, 167.5, 170.0, 172.5)),
    ("chassis", "shock_preload_m", (0.010, 0.011, 0.012, 0.013)),
)
PASSWORD = "marsh and heather"  # noqa: S105 - of people who live for a minute
FILL = "import django, sys; django.setup(); from tools.soaking import club; club.fill(*map(int, sys.argv[1:]))"


def fill(garages: int, kept: int) -> None:
    """Beside the demo: so many garages, each with a person of another weight, a bike, a race and so many kept setups.
    Run in a process of its own. Prints where each works.
    """
    from django.contrib.auth.hashers import make_password

    from lynxwort.web.bench.models import Pairing
    from lynxwort.web.bikes.models import Bike, Draft, Revision, Setup
    from lynxwort.web.garages.models import Garage, Membership, User
    from lynxwort.web.races.models import Course, Race, Rider

    model, race = Setup.objects.select_related("bike", "head").get(pk=1), Race.objects.get(pk=1)
    password, benches = make_password(PASSWORD), []
    for n in range(garages):
        garage = Garage.objects.create(name=f"Garage {n}")
        user = User.objects.create(username=f"member{n}", password=password)
        Membership.objects.create(user=user, garage=garage)
        body = race.rider.document | {"mass_in_gear_kg": 60.0 + n}
        rider = Rider.objects.create(garage=garage, name="Rider", document=body)
        course = Course.objects.create(garage=garage, name="Course", blob=race.course.blob, length_m=41_500.0)
        own = Race.objects.create(
            garage=garage, name="Race", course=course, rider=rider, document=race.document, start=race.start
        )
        bike = Bike.objects.create(garage=garage, name="Bike", document=model.bike.document)
        setup = Setup.objects.create(bike=bike)
        head = model.head
        rows = Revision.objects.bulk_create(
            Revision(
                setup=setup,
                number=k + 1,
                reason=f"try {k}",
                document=head.document,
                report=head.report,
                core_version=head.core_version,
                input_key=head.input_key,
                race_name="Race",
            )
            for k in range(kept)
        )
        setup.head = rows[-1]
        setup.save()
        Draft.objects.create(setup=setup, values=head.document["setup"], parent=setup.head)
        Pairing.objects.create(race=own, setup=setup)
        benches.append(f"/bench/{setup.pk}/{own.pk}")
    print(json.dumps(benches))


def _in(base: str, n: int) -> Visitor:
    visitor = Visitor(base)
    visitor.post("/in/", visitor.text("/in/"), username=f"member{n}", password=PASSWORD)
    return visitor


def _act(visitor: Visitor, bench: str, rng: random.Random) -> tuple[float, str]:
    """A step or a page, as somebody at work does them: how long it took [s], and what came of it."""
    start = time.perf_counter()
    try:
        if rng.random() < 0.4:
            visitor.text(f"{bench}/{rng.choice(STATIONS)}/")
        else:
            station, tunable, values = rng.choice(MOVES)
            page = visitor.text(f"{bench}/{station}/")
            version = page.split('data-version="')[1].split('"')[0]
            start = time.perf_counter()
            moves = json.dumps([[tunable, rng.choice(values)]])
            visitor.post(f"{bench}/{station}/notch/", page, version=version, moves=moves)
    except urllib.error.HTTPError as error:
        error.read()
        return time.perf_counter() - start, {503: "wait"}.get(error.code, str(error.code))
    except (OSError, IndexError) as error:
        return time.perf_counter() - start, type(error).__name__
    return time.perf_counter() - start, "ok"


def _at_work(visitors: list[Visitor], benches: list[str]) -> list[tuple[float, str]]:
    found, lock, stop = [], threading.Lock(), time.perf_counter() + TURN_S

    def one(n: int) -> None:
        rng = random.Random(n)
        time.sleep(rng.random() * THINK_S)
        while time.perf_counter() < stop:
            took = _act(visitors[n], benches[n], rng)
            with lock:
                found.append(took)
            time.sleep(rng.expovariate(1.0 / THINK_S))

    threads = [threading.Thread(target=one, args=(n,), daemon=True) for n in range(len(visitors))]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(TURN_S + 120)
    return found


def _memory_mb(pid: int) -> float:
    return int(Path(f"/proc/{pid}/statm").read_text().split()[1]) * os.sysconf("SC_PAGE_SIZE") / 1e6


def run() -> int:
    """A row for each number of people, with few and with many kept setups."""
    wrong = 0
    for kept in KEPT:
        folder = Path(tempfile.mkdtemp(prefix="lynxwort-club-"))
        environment = environment_of(folder)
        prepare(environment)
        told = subprocess.run(
            [sys.executable, "-c", FILL, str(GARAGES), str(kept)],
            env=environment | {"DJANGO_SETTINGS_MODULE": "lynxwort.web.settings", "PYTHONPATH": f"{ROOT}/src:{ROOT}"},
            check=True,
            capture_output=True,
            text=True,
        )
        benches = json.loads(told.stdout)
        size_mb = (folder / "lynxwort.sqlite3").stat().st_size / 1e6
        print(f"\n{GARAGES} garages with {kept} kept setups each: {size_mb:.0f} MB on the disk\n")
        print("| run | actions | median s | p95 s | longest s | asked to wait | wrong | MB |")
        print("|---|---|---|---|---|---|---|---|")
        process, _first = serve(environment)
        try:
            base = f"http://127.0.0.1:{environment['PORT']}"
            visitors = [_in(base, n) for n in range(max(SESSIONS))]
            for visitor, bench in zip(visitors, benches):
                _act(visitor, bench, random.Random(0))
            for sessions in SESSIONS:
                found = _at_work(visitors[:sessions], benches)
                wrong += sum(code not in ("ok", "wait") for _t, code in found)
                print(f"{said(f'{sessions} at work', found)} {_memory_mb(process.pid):.0f} |", flush=True)
        finally:
            process.kill()
            process.wait(20)
    return int(wrong > 0)
