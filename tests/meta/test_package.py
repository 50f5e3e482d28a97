"""What pip installs: all that the pages need, what is fetched with it, and the core by itself."""

import itertools
import json
import re
import subprocess
import sys
import tomllib
import zipfile
from pathlib import Path

import pytest
import yaml
from packaging.requirements import Requirement
from packaging.utils import canonicalize_name

from lynxwort import __version__, places
from lynxwort.cli.main import main
from tests.installed import built

ROOT = Path(__file__).parents[2]
PROJECT = tomllib.loads((ROOT / "pyproject.toml").read_text())["project"]
NEEDS = {canonicalize_name(r.name): r for r in map(Requirement, PROJECT["dependencies"])}
#: what the core and the command line need (docs/core.md); all else is of the pages
CORE = {"numpy", "scipy", "numba", "pydantic", "defusedxml", "tzdata", "platformdirs"}


def test_the_wheel_holds_every_file_of_the_package_and_its_command(tmp_path):
    with zipfile.ZipFile(built(tmp_path)) as wheel:
        held = {n for n in wheel.namelist() if n.startswith("lynxwort/")}
        told = wheel.read(f"lynxwort-{__version__}.dist-info/entry_points.txt").decode()
        schema = wheel.read("lynxwort/document.schema.json")
    lying = {f.relative_to(ROOT / "src") for f in (ROOT / "src/lynxwort").rglob("*") if f.is_file()}
    # compiled kernels and bytecode may lie in a clone and are no part of it
    ours = {str(f) for f in lying if "__pycache__" not in f.parts}
    assert held - {"lynxwort/document.schema.json"} == ours
    assert {Path(n).suffix for n in held} & {".pyc", ".nbi", ".nbc", ".sqlite3"} == set()
    assert json.loads(schema) == json.loads((ROOT / "docs/document.schema.json").read_text())
    assert "lynxwort = lynxwort.__main__:main" in told


def test_what_is_fetched_is_what_the_lock_was_tested_with():
    asked = (ROOT / "requirements/runtime.in").read_text().split()
    assert {canonicalize_name(re.split("[=<>]", line)[0]) for line in asked} == set(NEEDS)
    locked = dict(re.findall(r"^([\w.-]+)==([\w.]+)", (ROOT / "requirements/runtime.lock").read_text(), re.MULTILINE))
    for name, need in NEEDS.items():
        assert need.specifier.contains(locked[name]), name
        lower = [s.version for s in need.specifier if s.operator == ">="]
        assert all(locked[name].startswith(f"{low}.") or locked[name] == low for low in lower), (name, lower)


def test_the_packages_that_the_code_imports_are_asked_for():
    """An import that only the tests' packages bring would fail on a fresh machine."""
    names = {"pil": "pillow", "csp": "django-csp", "axes": "django-axes", "django_htmx": "django-htmx"}
    found = set()
    for file in (ROOT / "src/lynxwort").rglob("*.py"):
        found |= set(re.findall(r"^\s*(?:from|import) (\w+)", file.read_text(), re.MULTILINE))
    found = {names.get(n.lower(), n.lower()) for n in found if n not in sys.stdlib_module_names} - {"lynxwort"}
    words = {n for n in found if n not in NEEDS}
    # cryptography comes with trustme, its core with pydantic; other words are of prose
    assert {n for n in words if _is_a_package(n)} <= {"cryptography", "pydantic_core"}


def _is_a_package(name: str) -> bool:
    from importlib.metadata import packages_distributions

    return name in packages_distributions()


def _alone(*words: str) -> str:
    """Python with every package of the pages missing."""
    gone = {"django", "django_htmx", "csp", "axes", "whitenoise", "waitress", "icalendar", "cheroot", "PIL", "segno"}
    gone |= {"trustme", "cryptography"}
    head = f"import sys, runpy; sys.modules.update(dict.fromkeys({sorted(gone)!r})); sys.argv = {list(words)!r}; "
    start = (
        "runpy.run_module('lynxwort', run_name='__main__')"
        if words[0] == "lynxwort"
        else "runpy.run_path(sys.argv[0], run_name='__main__')"
    )
    done = subprocess.run(
        [sys.executable, "-c", head + start], capture_output=True, text=True, check=False, cwd=ROOT / "src"
    )
    assert done.returncode in (0, 2), done.stderr
    return done.stdout


def _rows(name: str) -> dict[str, list[float]]:
    head, *rows = [line.split() for line in _alone(str(ROOT / "examples" / name)).splitlines()]
    assert len(rows) >= 5
    return {column: [float(row[i]) for row in rows] for i, column in enumerate(head)}


def _rises(values: list[float]) -> bool:
    return all(a < b for a, b in itertools.pairwise(values))


def test_the_core_stands_alone_and_its_examples_say_what_physics_says():
    assert set(NEEDS) > CORE
    teeth = _rows("sprockets_for_the_climb.py")
    assert _rises(teeth["teeth"])
    assert _rises(teeth["drive.top_speed"][::-1])
    assert _rises(teeth["drive.clutch_energy"][::-1])
    # top speed at the limiter goes with one over the teeth
    speeds = [a * b for a, b in zip(teeth["teeth"], teeth["drive.top_speed"])]
    assert max(speeds) == pytest.approx(min(speeds), rel=0.01)
    day = _rows("jets_over_the_day.py")
    for name in ("closed", "eighth", "quarter", "half", "full"):
        assert _rises(day[name])
    assert day["full"][0] < 0 < day["full"][-1]
    fills = _rows("fuel_to_finish.py")
    assert _rises(fills["finishes"])
    assert all(a <= b <= c for a, b, c in zip(fills["from"], fills["finishes"], fills["to"]))
    # petrol weighs some 0.74 to 0.78 kg a litre (common practice, no source)
    weighed = [(b - a) for a, b in itertools.pairwise(fills["kilograms"])]
    poured = [(b - a) for a, b in itertools.pairwise(fills["litres"])]
    assert all(0.6 < kg / litres < 0.9 for kg, litres in zip(weighed, poured))


def test_the_command_line_stands_alone_and_says_that_it_has_no_pages():
    assert len(json.loads(_alone("lynxwort", "evaluate", "--example"))["courses"]) == 1
    told = json.loads(_alone("lynxwort", "serve"))
    assert told["errors"][0]["code"] == "no_pages"
    assert "pip" in told["errors"][0]["message"]


def test_where_things_lie(monkeypatch, tmp_path, capsys):
    for name in ("LYNXWORT_DATA", "XDG_DATA_HOME", "XDG_CACHE_HOME"):
        monkeypatch.delenv(name, raising=False)
    monkeypatch.setenv("HOME", str(tmp_path))
    assert places.data(demo=True) == ROOT / ".data/demo"
    assert places.kernels() == ROOT / ".data/kernels"
    monkeypatch.setattr(places, "CLONE", tmp_path)
    # XDG base directories, 0.8
    assert places.data() == tmp_path / ".local/share/lynxwort/own"
    assert places.kernels() == tmp_path / ".cache/lynxwort/kernels"
    monkeypatch.setenv("LYNXWORT_DATA", str(tmp_path / "there"))
    assert places.data(demo=True) == tmp_path / "there"
    assert places.kernels() == tmp_path / "there/kernels"
    assert main(["where"]) == 0
    assert json.loads(capsys.readouterr().out)["data"] == str(tmp_path / "there")


def test_only_the_back_up_and_the_counter_speak_sql():
    """So that another database of the ORM's stays possible (ADR 40)."""
    sql = re.compile(r"\bcursor\(|\.raw\(|RawSQL|\.extra\(|sqlite3\.connect")
    found = {
        str(f.relative_to(ROOT / "src/lynxwort/web")) for f in (ROOT / "src").rglob("*.py") if sql.search(f.read_text())
    }
    assert found == {"machine/archive.py", "machine/restoring.py", "machine/serve.py", "garages/counter.py"}


def test_what_pre_commit_and_the_forge_run_is_there():
    hooks = yaml.safe_load((ROOT / ".pre-commit-config.yaml").read_text())["repos"][0]["hooks"]
    for hook in hooks:
        assert hook["language"] == "system", "nothing is fetched"
        for path in re.findall(r"\.venv/bin/([\w-]+)", hook["entry"]):
            assert (Path(sys.executable).parent / path).exists(), path
    for made in re.search(r"for made in ([\w ]+);", (ROOT / ".pre-commit-config.yaml").read_text())[1].split():
        assert f"tools/{made}.py --check" in (ROOT / "Makefile").read_text()
    job = yaml.safe_load((ROOT / ".github/workflows/ci.yml").read_text())["jobs"]["ci"]
    assert job["steps"][-1] == {"run": ".ci/run"}
    assert job["container"].startswith(f"python:{sys.version_info.major}.{sys.version_info.minor}")


def test_the_container_file_and_the_units_name_what_there_is():
    container = (ROOT / "deploy/Containerfile").read_text()
    for copied in re.findall(r"^COPY (\S+)", container, re.MULTILINE):
        assert copied.startswith("dist/") or (ROOT / copied).exists(), copied
    settings = (ROOT / "src/lynxwort/web/settings.py").read_text() + (ROOT / "src/lynxwort/places.py").read_text()
    texts = [container, *(f.read_text() for f in (ROOT / "deploy").glob("*.service"))]
    for text in texts:
        for name in re.findall(r"\b(LYNXWORT_[A-Z]+)=", text):
            assert f'"{name}"' in settings, name
    assert sum("lynxwort serve" in t or '"lynxwort", "serve"' in t for t in texts) == 2
    assert sum("lynxwort backup" in t for t in texts) == 1
