"""The wheel carries page, fonts and demo media, and works away from the sources."""

import os
import signal
import subprocess
import sys
import time
from pathlib import Path

import httpx
import pytest


@pytest.fixture(scope="module")
def installed(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """An environment with the wheel alone; what it depends on is lent by this one."""
    wheels = tmp_path_factory.mktemp("wheels")
    make = ["make", "--silent", "wheel", f"WHEELS={wheels}"]
    made = subprocess.run(make, capture_output=True, text=True, timeout=300, check=False)
    assert made.returncode == 0, made.stdout + made.stderr
    (wheel,) = wheels.glob("mortiser-*.whl")
    folder = tmp_path_factory.mktemp("wheel") / "venv"
    subprocess.run([sys.executable, "-m", "venv", folder], check=True, timeout=120)
    pip = [folder / "bin/pip", "install", "--quiet", "--no-deps", "--no-index", wheel.resolve()]
    subprocess.run(pip, check=True, timeout=120)
    (site,) = (folder / "lib").glob("python*/site-packages")
    # A line of a .pth file adds a folder, but not what that folder's own .pth files name: the sources.
    (site / "lent.pth").write_text(str(next(Path(sys.prefix, "lib").glob("python*/site-packages"))))
    return folder / "bin"


def test_the_installed_package_is_its_own(installed: Path, tmp_path: Path) -> None:
    code = "import mortiser; print(mortiser.__file__)"
    found = subprocess.run(
        [installed / "python", "-c", code], cwd=tmp_path, capture_output=True, text=True, check=True
    )
    assert str(installed.parent) in found.stdout


def test_it_serves_its_page_and_its_samples(installed: Path, tmp_path: Path) -> None:
    said = (tmp_path / "said.txt").open("w+")
    process = subprocess.Popen(
        [installed / "mortiser", "serve", "--workspace", tmp_path / "w", "--port", "0"],
        cwd=tmp_path, stdout=said, stderr=subprocess.STDOUT, env={**os.environ, "PYTHONUNBUFFERED": "1"},
    )  # fmt: skip
    try:
        until = time.monotonic() + 60
        while "Mortiser is at " not in (text := Path(said.name).read_text()):
            assert time.monotonic() < until, text
            assert process.poll() is None, text
            time.sleep(0.1)
        address = text.split("Mortiser is at ")[1].split()[0]
        page = _answer(address, until)
        assert page.status_code == 200
        assert '<div id="root">' in page.text
        fonts = httpx.get(f"{address}/api/fonts").json()
        assert len(fonts) > 10
    finally:
        process.send_signal(signal.SIGTERM)
        process.wait(30)
        said.close()


def _answer(address: str, until: float) -> httpx.Response:
    """The page, as soon as the server answers."""
    while True:
        try:
            return httpx.get(address)
        except httpx.ConnectError:
            assert time.monotonic() < until
            time.sleep(0.2)


def test_it_captions_its_own_sample(installed: Path, tmp_path: Path) -> None:
    where = "import mortiser, pathlib; print(pathlib.Path(mortiser.__file__).parent)"
    run = [installed / "python", "-c", where]
    package = Path(subprocess.check_output(run, cwd=tmp_path, text=True).strip())
    sample = package / "demo" / "media" / "lyric.m4a"
    done = subprocess.run(
        [installed / "mortiser", "caption", sample, "--quiet", "--srt", "lyric.srt"],
        cwd=tmp_path, capture_output=True, text=True, timeout=300, check=False,
    )  # fmt: skip
    assert done.returncode == 0, done.stderr
    assert "-->" in (tmp_path / "lyric.srt").read_text()
