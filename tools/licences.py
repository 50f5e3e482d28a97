"""Whether everything that is installed to run Lynxwort may be passed on under these terms: make licences. What only
tests and checks need is not passed on and not looked at.
"""

import json
import re
import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).parents[1]
#: a licence that lets a package be used, changed and passed on without binding what uses it
FREE = re.compile(r"BSD|MIT|Apache|PSF|Python Software Foundation|ZPL|Zope|ISC|0BSD|HPND|Unlicense|CC0|Zlib", re.I)
#: and one that binds only its own files
FILES_OWN = re.compile(r"MPL|Mozilla", re.I)


def _known_as(name: str) -> str:
    return re.sub(r"[-_.]+", "-", name).lower()


def locked() -> set[str]:
    """The packages of the running lock."""
    text = (ROOT / "requirements/runtime.lock").read_text()
    return {_known_as(name) for name in re.findall(r"^([\w.-]+)==", text, re.MULTILINE)}


def refused(licence: str) -> bool:
    """Whether a licence binds more than its own files, or is none that is known."""
    for part in re.split(r"\s+AND\s+|;", licence):
        choices = re.split(r"\s+OR\s+", part)
        if not any(FREE.search(c) or FILES_OWN.search(c) for c in choices):
            return True
    return False


def main() -> int:
    """1 when a package may not be passed on, or says nothing."""
    told = subprocess.run(
        [sys.executable, "-m", "piplicenses", "--from=mixed", "--format=json", "--with-system"],
        capture_output=True,
        text=True,
        check=True,
    ).stdout
    found = {_known_as(p["Name"]): p["License"] for p in json.loads(told)}
    bad = {name: found.get(name, "not installed") for name in sorted(locked()) if refused(found.get(name, ""))}
    for name, licence in bad.items():
        sys.stderr.write(f"{name}: {licence}\n")
    sys.stdout.write(f"{len(locked())} packages, {len(bad)} that may not be passed on\n")
    return int(bool(bad))


if __name__ == "__main__":
    sys.exit(main())
