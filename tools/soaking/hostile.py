"""All values at all places, as tests/web/test_hostile.py draws six hundred of them."""

import os
import subprocess
import sys

from tests.served import ROOT


def run() -> int:
    """The test, whole."""
    return subprocess.run(
        [sys.executable, "-m", "pytest", "-n", "2", "-s", "tests/web/test_hostile.py"],
        cwd=ROOT,
        env=os.environ | {"HOSTILE": "all"},
        check=False,
    ).returncode
