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


UNITLESS = re.compile(
    r"(share|ratio|scale|factor|humidity|exponent|slip|sine|order|sd|certainty|shift|low|high|value|x|offset|turns|jet|wanted|limit|number|grip|grade|low_m_per_s|"
    r"humid|hot|density_ratio|throttle|preload_high|relative_density|premix_ratio|fuel|usable|computed|measured|first|second|log_mean|x0|"
    r"(_n|_m|_pa|_k|_kg|_s|_rpm|_nm|_w|_m2|_m3|_kg_m|_si|_deg|_rad|_j|_v|_per_[a-z0-9_]+|_rad_per_s))$|^(before|after|half_width|even_rel|even_abs|"
    r"indicated_efficiency|enrichment|revolutions_per_cycle|limiter_over_peak|pace|efficiency|step|rpm|energy_residual|knob_click|rod_step|compensation|compensated_change|trim|change|low_end|spare|need|amount|link_count|aboard|capacity|(link_)?ratio_(start|end)|density_ratio_min|power_share_min|grade|short_circuit|laps|value_si|engine|wheelie|grip_low|grip_high|force_over_weight|screw_turn|cutaway_step|target_part|target_full|hits|front_hits|rear_hits|error|samples|carbon|hydrogen|oxygen|afr|gauge_afr|octane|common|richness|clip|part|full|kept|margin|rich|cost|rolling|power|prior|log_sd|elasticity|turn|exponent|needed|table|compensation|internal_ohm|ohm|start|level|added|chance|chance_poured|quantile|unusable|most|holds|missed|put|level_before|level_after|julian_d|volts|ampere_hours|likely|footprint|cover|kappa|zeta|compression_clicks|rebound_clicks|clicks_out|dose|metal|steps|measure|look|act|lean_end|from_lift|low_margin|lean_margin|leans)$"
)


def test_floats_of_the_core_end_in_their_unit():
    odd = []
    for path in (CODE / "core").rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.FunctionDef) and not node.name.startswith("_"):
                for arg in (*node.args.args, *node.args.kwonlyargs):
                    if (
                        isinstance(arg.annotation, ast.Name)
                        and arg.annotation.id == "float"
                        and not UNITLESS.search(arg.arg)
                    ):
                        odd.append(f"{path.name}:{node.name}({arg.arg})")
            if isinstance(node, ast.ClassDef):
                for field in node.body:
                    plain = (
                        isinstance(field, ast.AnnAssign)
                        and isinstance(field.annotation, ast.Name)
                        and field.annotation.id == "float"
                    )
                    if plain and not UNITLESS.search(field.target.id):
                        odd.append(f"{path.name}:{node.name}.{field.target.id}")
    assert not odd


def test_every_package_that_runs_with_it_is_used():
    """A lock holds nothing that nobody imports. tzdata is read, not imported; numpy's and pint's kin come with them."""
    root, names = (
        CODE.parents[1],
        {"django": "django", "django-htmx": "django_htmx", "django-csp": "csp", "django-axes": "axes"},
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
