"""The built wheel in an environment of its own, far from the clone: the demo served by its one command, a notch and its
consequences, a back-up, and nothing left behind.
"""

import signal
import socket
import subprocess
import time
import urllib.request

import pytest
from playwright.sync_api import expect

from tests.browser.conftest import Watched
from tests.installed import built, installed


@pytest.fixture
def wheel(tmp_path):
    return installed(built(tmp_path), tmp_path)


def _answers(base: str, process: subprocess.Popen) -> None:
    for _ in range(600):
        try:
            urllib.request.urlopen(f"{base}/in/", timeout=5)
        except OSError:
            assert process.poll() is None, "it ended before it answered"
            time.sleep(0.5)
        else:
            return
    raise AssertionError("the wheel did not answer")


def test_the_wheel_serves_the_demo_and_goes_again(wheel, chromium, tmp_path):
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        base = f"http://127.0.0.1:{free.getsockname()[1]}"
    before = {f for f in wheel.package.rglob("*") if f.suffix != ".pyc"}
    process = subprocess.Popen(
        [wheel.command, "demo", "--port", base.rsplit(":")[-1]],
        cwd=wheel.home,
        env=wheel.environment,
        stdout=subprocess.DEVNULL,
    )
    try:
        _answers(base, process)
        w = Watched(chromium, base)
        w.go("/")
        w.page.get_by_role("button", name="Open the demo garage").click()
        w.page.get_by_role("button", name="Put on the bench").first.click()
        expect(w.page.locator("#bench")).to_be_visible(timeout=120_000)
        bench = w.page.url.removeprefix(w.base).rsplit("/", 2)[0]
        w.go(f"{bench}/drive/")
        w.page.locator("#more-rear_sprocket_teeth").click()
        expect(w.page.locator("[data-tunable-value='rear_sprocket_teeth']")).to_have_text("49")
        expect(w.page.get_by_role("contentinfo", name="Ledger")).to_contain_text("Top speed, worse")
        w.axe()
        w.close()
        away = wheel.run("lynxwort", "backup", str(tmp_path / "away.zip"), LYNXWORT_DEMO="1")
        assert away.returncode == 0, away.stderr
    finally:
        process.send_signal(signal.SIGINT)
        process.wait(timeout=30)
    assert (tmp_path / "away.zip").stat().st_size > 100_000
    assert (wheel.home / ".local/share/lynxwort/demo/lynxwort.sqlite3").exists()
    assert list((wheel.home / ".cache/lynxwort/kernels").rglob("*.nbi"))
    assert {f for f in wheel.package.rglob("*") if f.suffix != ".pyc"} == before
    assert wheel.run("pip", "uninstall", "--yes", "--quiet", "lynxwort").returncode == 0
    assert not wheel.package.exists()
    assert not wheel.command.exists()
