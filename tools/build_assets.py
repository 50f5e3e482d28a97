"""Build the committed assets with node, and write the manifest that `make check` compares: python tools/build_assets.py
[--check].

--check needs no node: it compares hashes of the inputs and outputs with the committed manifest.
"""

import hashlib
import json
import shutil
import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).parents[1]
FRONT, OUT = ROOT / "frontend", ROOT / "src/lynxwort/web/ui/static/lynx"
MANIFEST = FRONT / "manifest.json"
COPIES = {
    "node_modules/htmx.org/dist/htmx.min.js": OUT / "htmx.min.js",
    "node_modules/@alpinejs/csp/dist/cdn.min.js": OUT / "alpine-csp.min.js",
    "node_modules/@fontsource-variable/archivo-narrow/files/archivo-narrow-latin-wght-normal.woff2": OUT
    / "archivo-narrow.woff2",
    "node_modules/axe-core/axe.min.js": ROOT / "tests/browser/axe.min.js",
}


def digest(path: Path) -> str:
    return hashlib.sha256(path.read_bytes()).hexdigest()


def state() -> dict[str, dict[str, str]]:
    """Hashes of everything that goes in and comes out."""
    inputs = [FRONT / "app.css", FRONT / "package-lock.json", *sorted((ROOT / "src/lynxwort/web").rglob("*.html"))]
    outputs = [OUT / "app.css", *COPIES.values()]
    return {
        kind: {str(p.relative_to(ROOT)): digest(p) for p in paths}
        for kind, paths in (("inputs", inputs), ("outputs", outputs))
    }


def build() -> None:
    if not (FRONT / "node_modules").exists():
        subprocess.run(["npm", "ci", "--ignore-scripts"], cwd=FRONT, check=True)
    for source, target in COPIES.items():
        target.parent.mkdir(parents=True, exist_ok=True)
        shutil.copyfile(FRONT / source, target)
    subprocess.run(
        ["npx", "--no-install", "tailwindcss", "-i", "app.css", "-o", str(OUT / "app.css"), "--minify"],
        cwd=FRONT,
        check=True,
    )
    MANIFEST.write_text(json.dumps(state(), indent=1) + "\n")


def check() -> int:
    known, now = json.loads(MANIFEST.read_text()), state()
    stale = sorted(
        {p for kind in now for p in set(now[kind]) | set(known[kind]) if now[kind].get(p) != known[kind].get(p)}
    )
    for path in stale:
        sys.stderr.write(f"built assets are older than {path}: run make assets\n")
    return 1 if stale else 0


if __name__ == "__main__":
    sys.exit(check() if "--check" in sys.argv else build())
