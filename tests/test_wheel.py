"""The built wheel holds all that is needed: unpacked somewhere, it works from a folder that is not the project's."""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parent.parent


@pytest.fixture(scope="module")
def installed(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """Where the wheel was unpacked; ``make wheel`` does it into a fresh environment."""
    folder = tmp_path_factory.mktemp("wheel")
    pip = [sys.executable, "-m", "pip", "--disable-pip-version-check", "--quiet"]
    build = [*pip, "wheel", "--no-deps", "--no-build-isolation", "-w", str(folder), str(ROOT)]
    subprocess.run(build, check=True, capture_output=True, timeout=120)
    (wheel,) = folder.glob("lesart-*.whl")
    subprocess.run(
        [*pip, "install", "--no-deps", "--target", str(folder / "there"), str(wheel)], check=True, timeout=120
    )
    return folder / "there"


COMMANDS = (["--version"], ["demo", "--make"], ["demo", "--job", "hut", "--make"], ["font", "text 5"])


def test_the_wheel_works_from_any_folder(installed: Path, tmp_path: Path) -> None:
    """As a module, with nothing of the checkout in reach."""
    environment = {**os.environ, "PYTHONPATH": str(installed), "XDG_STATE_HOME": str(tmp_path)}
    asked = "import lesart, sys; sys.exit(lesart.__file__ != sys.argv[1])"
    own = str(installed / "lesart/__init__.py")
    subprocess.run([sys.executable, "-c", asked, own], cwd=tmp_path, env=environment, check=True, timeout=60)
    for arguments in COMMANDS:
        command = [sys.executable, "-m", "lesart", *arguments]
        done = subprocess.run(
            command, cwd=tmp_path, env=environment, capture_output=True, text=True, timeout=60, check=False
        )
        assert (done.returncode, done.stderr) == (0, ""), arguments
