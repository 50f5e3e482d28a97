"""Rules that can run, run."""

import ast
import re
import subprocess
from pathlib import Path

import pytest

from lynxwort.core import figures
from lynxwort.core.model.base import field_facts
from lynxwort.core.model.bike import (
    ENGINE_OF,
    Bike,
    Carburettor,
    Frame,
    Injection,
    MeteringRodCarburettor,
    Needle,
    Transmission,
    Tyre,
)
from lynxwort.core.model.race import Race, RaceAir, Stage, Zone
from lynxwort.core.model.setup import Setup
from lynxwort.core.tunables import TUNABLES
from lynxwort.core.units.convert import KINDS
from lynxwort.words.catalogue import FIGURE_NAMES, FINDINGS, TUNABLE_NAMES

ROOT = Path(__file__).parents[2]
CODE = ROOT / "src/lynxwort"


#: codes that are put together: stem -> endings
FAMILIES = {
    **dict.fromkeys(("little", "much"), ("compression", "rebound")),
    "top_speed": ("revs", "power", "revs_electric", "power_electric"),
    "no_proven": ("jetted", "rod", "injected"),
    "too_lean": ("jetted", "rod", "injected"),
    "map": ("off", "on_target"),
    "lean_side_safe": ("jetted", "rod", "injected"),
    "may_run_dry": ("", "energy"),
    "lasts": ("", "energy"),
    "fuel": ("not_measured",),
    "energy": ("not_measured",),
}


def test_every_figure_and_finding_has_words():
    assert set(FIGURE_NAMES) == set(figures.FIGURES)
    assert all(s.kind in KINDS for s in figures.FIGURES.values())
    assert set(TUNABLES) <= set(TUNABLE_NAMES)
    written = set()
    for module in (CODE / "core/stations").rglob("*.py"):
        source = module.read_text()
        written |= set(re.findall(r'(?:code=|add\(|_finding\()"([a-z_]+)"', source)) | set(
            re.findall(r'return "([a-z_]+)", ', source)
        )
        written |= {c for c in re.findall(r'"([a-z]+_[a-z_]+)"', source) if c in FINDINGS}
    assert {c for c in written if not c.endswith("_")} <= set(FINDINGS)
    made = {f"{stem}_{end}".rstrip("_") for stem, ends in FAMILIES.items() for end in ends}
    assert set(FINDINGS) <= written | made


def test_every_default_names_its_source():
    for model in (
        Bike,
        *ENGINE_OF.values(),
        Carburettor,
        MeteringRodCarburettor,
        Injection,
        Transmission,
        Frame,
        Needle,
        Tyre,
        Race,
        RaceAir,
        Stage,
        Zone,
        Setup,
    ):
        for name in model.model_fields:
            facts = field_facts(model, name)
            if facts.kind in KINDS and not facts.required:
                assert facts.source, f"{model.__name__}.{name}"
            if facts.kind in KINDS:
                assert facts.low is not None, name
                assert facts.high is not None, name


#: endings that are a unit
UNIT = re.compile(r"(^|_)(n|m|pa|k|kg|s|d|rpm|nm|w|m2|m3|deg|rad|j|v|ohm|a|db|cd|lx|si|per_[a-z0-9_]+)$")
#: last words of a name that are numbers by themselves, whatever stands before them
PURE = {
    "share",
    "ratio",
    "scale",
    "sd",
    "exponent",
    "humidity",
    "turns",
    "clicks",
    "hits",
    "number",
    "factor",
    "mean",
    "efficiency",
    "chance",
    "shift",
}
#: whole names of what has no unit, or has the one of the thing it stands beside (a fill, a figure, a margin)
PLAIN_NAMES = """
    aboard act added afr after amount before capacity carbon certainty chance_poured change clicks_out clip common
    compensated_change compensation computed cost cover cutaway_step density_ratio_max density_ratio_min dose
    elasticity energy_residual engine enrichment error even_abs even_rel footprint force_over_weight from_lift
    full gauge_afr grade grip grip_high grip_low high holds hot humid hydrogen kappa kept knob_click laps lean_end
    level level_after level_before likely limit limiter_over_peak link_ratio_end link_ratio_start look
    low low_end low_margin main_jet margin measure measured metal missed most need number octane oxygen pace part
    power_share_max power_share_min put put_high put_low quantile ratio_end ratio_start relative_density
    relative_humidity_high relative_humidity_low rich richness rod_step rolling samples screw_turn share_offset
    shift_low short_circuit sine slip spent start step steps table target_full target_part throttle trim turn unusable
    value volts ampere_hours wanted wheelie x zeta alpha correlation df p passes power prior_df q se t tau tau2 z shape friction
    thread_friction head_friction money risk risk_before risk_after
    luck gain
"""
PLAIN = set(PLAIN_NAMES.split())


def is_named_with_its_unit(name: str) -> bool:
    """Whether the name of a number says what it is in."""
    return bool(UNIT.search(name)) or name.rpartition("_")[2] in PURE or name in PLAIN


def floats_of(tree: ast.AST):
    """Where and how floats are named: arguments of public functions, fields of classes."""
    for node in ast.walk(tree):
        if isinstance(node, ast.FunctionDef) and not node.name.startswith("_"):
            for arg in (*node.args.args, *node.args.kwonlyargs):
                if isinstance(arg.annotation, ast.Name) and arg.annotation.id == "float":
                    yield f"{node.name}({arg.arg})", arg.arg
        if isinstance(node, ast.ClassDef):
            for field in node.body:
                if (
                    isinstance(field, ast.AnnAssign)
                    and isinstance(field.annotation, ast.Name)
                    and field.annotation.id == "float"
                ):
                    yield f"{node.name}.{field.target.id}", field.target.id


def test_floats_of_the_core_end_in_their_unit():
    found = {
        f"{p.name}:{where}": name
        for p in (CODE / "core").rglob("*.py")
        for where, name in floats_of(ast.parse(p.read_text()))
    }
    assert [where for where, name in found.items() if not is_named_with_its_unit(name)] == []
    assert set(found.values()) >= PLAIN, "a name that is gone needs no exception"
    assert not [
        n
        for n in ("box", "slow", "torque_wanted", "mass_value", "speed", "length", "spring_rate", "time")
        if is_named_with_its_unit(n)
    ]


def test_every_package_that_runs_with_it_is_used():
    """A lock holds nothing that nobody imports. tzdata is read, not imported; numpy's and pint's kin come with them."""
    root, names = (
        CODE.parents[1],
        {"django": "django", "django-htmx": "django_htmx", "django-csp": "csp", "django-axes": "axes", "pillow": "PIL"},
    )
    wanted = [
        re.split(r"[=<>]", line)[0].strip().lower()
        for line in (root / "requirements/runtime.in").read_text().splitlines()
        if line.strip()
    ]
    used = " ".join(p.read_text() for p in (*CODE.rglob("*.py"), root / "manage.py"))
    assert not [w for w in wanted if w != "tzdata" and not re.search(rf"\b{names.get(w, w)}\b", used)]


def test_no_host_or_machine_path_in_the_repository():
    forbidden = re.compile(r"/(?:wor|roo)[kt]/|pypi\.org|pythonhosted|registry\.npmjs|file:///|--index-url|resolved\":")
    listed = subprocess.run(["git", "ls-files"], cwd=ROOT, capture_output=True, text=True, check=True).stdout.split()
    for name in listed:
        path = ROOT / name
        if (
            path.suffix in (".woff2", ".png", ".gpx")
            or path.name in ("test_conventions.py", "axe.min.js", "htmx.min.js", "alpine-csp.min.js")
            or not path.exists()
        ):
            continue
        found = forbidden.search(path.read_text(errors="ignore"))
        assert not found, f"{path}: {found and found.group()}"


def test_templates_open_with_what_they_take():
    for path in CODE.rglob("*.html"):
        assert path.read_text().startswith("{#"), path


@pytest.mark.parametrize("path", sorted((ROOT / "docs/adr").glob("*.md")), ids=lambda p: p.stem)
def test_adrs_are_one_page(path):
    assert 5 < len(path.read_text().splitlines()) < 60


def test_no_arithmetic_of_the_job_in_the_script():
    script = (CODE / "web/ui/static/lynx/app.js").read_text()
    assert not re.search(r"Math\.(?!max|min|round|abs)|\d\.\d+", script)
