"""Every page in every odd state of every demo race."""

import os
import subprocess
import sys

from tests.served import ROOT


def run() -> int:
    """The test, whole."""
    return subprocess.run(
        [sys.executable, "-m", "pytest", "-n", "2", "-s", "tests/web/test_odd.py"],
        cwd=ROOT,
        env=os.environ | {"ODD": "all"},
        check=False,
    ).returncode
