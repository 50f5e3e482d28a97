"""A damaged cache of kernels costs their compiling, never the start. Against numba itself, in a process of its own."""

import os
import subprocess
import sys

import pytest

KERNEL = """
from numba import njit

@njit("f8(f8)", cache=True)
def doubled(x):
    return 2.0 * x
"""
LOAD = """
import logging; logging.basicConfig()
from lynxwort.web.evaluation.kernels import loading
print(loading(lambda: __import__("kernel_of_test").doubled(21.0)))
"""


@pytest.fixture
def load(tmp_path):
    (tmp_path / "kernel_of_test.py").write_text(KERNEL)
    kept = tmp_path / "kernels"
    env = os.environ | {"PYTHONPATH": f"{tmp_path}{os.pathsep}src", "NUMBA_CACHE_DIR": str(kept)}

    def run(source=LOAD):
        done = subprocess.run([sys.executable, "-c", source], env=env, capture_output=True, text=True, check=False)
        return done.returncode, done.stdout.strip(), done.stderr

    return run, kept


@pytest.mark.parametrize("kind", ["*.nbi", "*.nbc"])
@pytest.mark.parametrize("damage", [lambda b: b"", lambda b: b[: len(b) // 2], lambda b: b[::-1]])
def test_damaged_kernels_are_compiled_anew_and_said(load, kind, damage):
    run, kept = load
    assert run() == (0, "42.0", "")
    for file in kept.rglob(kind):
        file.write_bytes(damage(file.read_bytes()))
    assert run('print(__import__("kernel_of_test").doubled(21.0))')[0] != 0, "numba itself does not get over it"
    code, said, log = run()
    assert (code, said) == (0, "42.0")
    assert "compiled anew" in log
    assert run() == (0, "42.0", "")


def test_what_fails_for_another_reason_is_raised(load):
    run, _kept = load
    run()
    code, _said, log = run(LOAD.replace(".doubled(21.0)", ".halved(21.0)"))
    assert code != 0
    assert "halved" in log
