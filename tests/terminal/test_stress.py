"""A short run of what ``make stress`` does for minutes: random keys, and the program goes on."""

from __future__ import annotations

import random
import shutil
import time
from pathlib import Path

import pytest
from tools.stress import run


def test_random_keys_end_nothing(yard_once: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """Forty of them, bursts and pastes among them, and a key still changes what is shown."""
    monkeypatch.setattr("tools.stress.KEYS_IN_A_RUN", 40)
    shutil.copytree(yard_once, tmp_path / "yard")
    count, wrong, done = run(tmp_path / "yard", random.Random("a short one"), time.monotonic() + 300.0)
    assert count == 40
    assert wrong == "", " · ".join(done)
