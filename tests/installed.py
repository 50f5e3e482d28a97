"""What is made of the clone: a wheel, in a virtual environment of its own whose other packages are those of the tests;
the docs as a site.
"""

import os
import subprocess
import sys
import sysconfig
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).parents[1]


def built(folder: Path) -> Path:
    """The wheel, built into a folder."""
    subprocess.run(
        [sys.executable, "-m", "build", "--no-isolation", "--wheel", "--outdir", folder, ROOT],
        check=True,
        capture_output=True,
    )
    return next(folder.glob("*.whl"))


@dataclass(frozen=True)
class Installed:
    """An environment and the home of its person."""

    folder: Path
    home: Path

    @property
    def command(self) -> Path:
        return self.folder / "bin/lynxwort"

    @property
    def package(self) -> Path:
        return next((self.folder / "lib").glob("python*/site-packages")) / "lynxwort"

    @property
    def environment(self) -> dict[str, str]:
        """Nothing of the clone, its data or its kernels."""
        ours = ("LYNXWORT", "DJANGO", "NUMBA", "PYTHON", "XDG", "HOST", "PORT")
        return {k: v for k, v in os.environ.items() if not k.startswith(ours)} | {"HOME": str(self.home)}

    def run(self, *words: str, **more: str) -> subprocess.CompletedProcess[str]:
        """A command of the environment, told apart from the clone by where it is run."""
        return subprocess.run(
            [self.folder / "bin" / words[0], *words[1:]],
            cwd=self.home,
            env=self.environment | more,
            capture_output=True,
            text=True,
            check=False,
        )


def installed(wheel: Path, folder: Path) -> Installed:
    """The wheel installed as pip does, without fetching what it needs."""
    home = folder / "home"
    home.mkdir()
    subprocess.run([sys.executable, "-m", "venv", folder / "env"], check=True)
    made = Installed(folder / "env", home)
    (made.package.parent / "needs.pth").write_text(sysconfig.get_paths()["purelib"])
    done = made.run("pip", "install", "--quiet", "--no-deps", "--no-index", str(wheel))
    assert done.returncode == 0, done.stderr
    return made


def site_built(out: Path) -> Path:
    """The docs' site in a folder; a warning fails it."""
    command = [sys.executable, "-m", "mkdocs", "build", "--strict", "--site-dir", out]
    environment = {"PATH": os.environ["PATH"], "NO_MKDOCS_2_WARNING": "1", "HOME": str(out)}
    made = subprocess.run(command, cwd=ROOT, env=environment, capture_output=True, text=True, check=False)
    assert made.returncode == 0, made.stderr
    assert "WARNING" not in made.stderr
    return out
