"""What the README says: its commands run, its links and pictures are there, its numbers are the code's own."""

import json
import re
import shlex
from pathlib import Path

import pytest
from django.urls import reverse
from PIL import Image

from lynxwort.cli.main import main
from lynxwort.core.asks import jetbox
from lynxwort.core.model.bike.patterns import PATTERNS
from lynxwort.core.model.inputs import dump_inputs
from lynxwort.core.report import STATIONS
from lynxwort.core.standin import bench_dyno
from lynxwort.core.standin.session import recorded
from lynxwort.core.stations.chassis import schools
from lynxwort.core.stations.chassis.input import ChassisInput
from lynxwort.core.stations.fuelling.input import FuellingInput
from lynxwort.demo import scenario
from lynxwort.web.bikes.starting import FirstFacts
from lynxwort.web.machine import shelf
from tests.core.test_fuelling import HIGH, INJECTED, ridden_log
from tests.support import demo_report

ROOT = Path(__file__).parents[2]
README = (ROOT / "README.md").read_text()
VERBS = [line.split("#")[0].strip() for line in re.findall(r"^    lynxwort (.+)$", README, re.MULTILINE)]


def test_every_link_and_picture_is_there_and_every_picture_is_linked():
    linked = {path for path in re.findall(r"\]\(([^)#]+)\)", README) if not path.startswith("http")}
    assert [path for path in linked if not (ROOT / path).exists()] == []
    pictures = {str(p.relative_to(ROOT)) for p in (ROOT / "docs/screenshots").glob("*.png")}
    assert pictures == {path for path in linked if path.endswith(".png")} - {"docs/notch.png"}
    assert len(pictures) < 20


def test_the_first_picture_moves_and_is_light():
    first = re.search(r"!\[[^]]*\]\(([^)]+)\)", README)[1]
    assert README.index(first) < README.index("    make demo"), "on the first screen"
    with Image.open(ROOT / first) as picture:
        assert picture.n_frames >= 3
    assert (ROOT / first).stat().st_size < 400_000


def test_every_command_of_make_is_one():
    targets = set(" ".join(re.findall(r"^([a-z ]+):", (ROOT / "Makefile").read_text(), re.MULTILINE)).split())
    named = {line.split()[0] for line in re.findall(r"^    make (.+)$", README, re.MULTILINE)}
    others = re.search(r"Other targets: `([^`]+)`", README)[1].split()
    assert {"demo", "test", "backup", "restore"} <= named | set(others)
    assert named | set(others) <= targets


@pytest.mark.parametrize("line", VERBS)
def test_every_line_from_outside_runs_as_it_stands(line, tmp_path, monkeypatch, capsys):
    monkeypatch.chdir(tmp_path)
    assert main(["evaluate", "--example"]) == 0
    Path("setup.json").write_text(capsys.readouterr().out)
    Path("stage.json").write_text(json.dumps(json.loads(Path("setup.json").read_text())["race"]["stages"][0]))
    Path("lap.gpx").write_bytes(scenario.course_bytes("brackenmere"))
    if line.startswith("log"):
        Path("lap.csv").write_text("\n".join(ridden_log()[3]))
    if line.startswith("laps"):
        Path("session.gpx").write_bytes(recorded(scenario.track("brackenmere"), [4000.0, 3950.0], 1))
    if line.startswith("season"):
        Path("away.json").write_text(json.dumps(dump_inputs(scenario.inputs("gannach"))))
        Path("limits.json").write_text('{"leave": ["chassis", "damping", "fuelling", "drive", "kit"], "purchases": 1}')
    Path("run.csv").write_text("\n".join(bench_dyno.run(INJECTED.bike.engine, HIGH, efficiency=0.9, seed=1, number=0)))
    words = shlex.split(line.split(">")[0])
    assert main(words) == 0
    assert json.loads(capsys.readouterr().out)


def test_its_numbers_are_the_codes_own(db):
    """A count in words is worth what it counts."""
    words = {3: "three", 5: "five", 6: "six", 7: "seven", 12: "twelve"}
    report = demo_report()
    first = FirstFacts(preset="metric", kind="two_stroke_250", engine="jetted_two_stroke")
    counts = {
        "kinds, six facts": len(PATTERNS),
        "facts at most": len([name for name in first.fields if name != "bike.name"]),
        "are kept, in": shelf.KEPT["daily"],
        "schools of choosing a spring": len(schools.schools(ChassisInput.of(report.behind.up), "rear")),
        "schools; cans": len(jetbox.schools(FuellingInput.of(report.behind.up))),
    }
    for what, count in counts.items():
        assert f"{words[count]} {what}" in README, what
    assert len(STATIONS) == 9
    keys = (ROOT / "src/lynxwort/web/bench/templates/bench/_keys.html").read_text()
    assert f"<kbd>1</kbd>–<kbd>{len(STATIONS)}</kbd>" in keys
    for key in re.findall(r"`([-+kzw/?])`", README.split("Keys:")[1].split("\n\n")[0]):
        assert f"<kbd>{'−' if key == '-' else key}</kbd>" in keys, key
    assert reverse("authority") == "/authority/"
    translated = list((ROOT / "src/lynxwort/locale").glob("*/LC_MESSAGES"))
    assert ("English only" in README) == (not translated)
