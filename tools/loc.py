"""Lines of code and tests, and the tests' share: python tools/loc.py."""

import subprocess
from pathlib import Path

ROOT = Path(__file__).parents[1]
CODE = (".py", ".html", ".css", ".js")


def lines(path: Path) -> int:
    return sum(1 for line in path.read_text().splitlines() if line.strip())


listed = [
    ROOT / f
    for f in subprocess.run(["git", "ls-files"], cwd=ROOT, capture_output=True, text=True, check=True).stdout.split()
]
kept = [
    p
    for p in listed
    if p.suffix in CODE
    and ".min." not in p.name
    and "migrations" not in p.parts
    and p != ROOT / "src/lynxwort/web/ui/static/lynx/app.css"
]
tests = sum(lines(p) for p in kept if p.is_relative_to(ROOT / "tests"))
code = sum(lines(p) for p in kept if not p.is_relative_to(ROOT / "tests"))
print(f"code {code}, tests {tests}, share of tests {tests / (code + tests):.0%}")
