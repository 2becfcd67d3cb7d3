"""The yard on a screen, for all tests of the terminal."""

from __future__ import annotations

import shutil
from collections.abc import Iterator
from pathlib import Path

import pytest
from tools.terminal import Terminal

from tests.terminal.screens import LESART


@pytest.fixture
def demo(tmp_path: Path, yard_once: Path) -> Iterator[Terminal]:
    """``lesart demo`` with its notes on the screen. Its files are there already; making them is another test's."""
    shutil.copytree(yard_once, tmp_path / "linden-yard")
    with Terminal([LESART, "demo", "linden-yard"], tmp_path) as terminal:
        terminal.until("m mends it")
        yield terminal
