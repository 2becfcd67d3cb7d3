"""The plain loops in C, built by the machine's compiler where there is one."""

from __future__ import annotations

import ctypes
import shutil
import subprocess
import tempfile
from collections.abc import Callable
from pathlib import Path

import numpy as np

from lesart.core.block import Block

SOURCE = Path(__file__).with_name("floor.c")
NAME = "C, one pass"


class Floor:
    """``of`` gives a loop over a block, which writes into a fresh array as any program has to."""

    def __init__(self) -> None:
        self._library: ctypes.CDLL | None = None
        compiler = shutil.which("cc") or shutil.which("gcc")
        if compiler is None:
            return
        self._folder = tempfile.TemporaryDirectory()
        built = Path(self._folder.name) / "floor.so"
        command = [compiler, "-O3", "-march=native", "-ffp-contract=off", "-shared", "-fPIC", "-o", str(built)]
        subprocess.run([*command, str(SOURCE), "-lm"], check=True)
        self._library = ctypes.CDLL(str(built))

    def of(self, name: str, block: Block) -> tuple[str, Callable[[], object]] | None:
        """None where the machine has no compiler."""
        if self._library is None:
            return None
        loop = getattr(self._library, name)

        def run() -> np.ndarray:
            y = np.empty(len(block))
            loop(*(ctypes.c_void_p(each.ctypes.data) for each in (block.t, block.x, y)), ctypes.c_long(len(block)))
            return y

        return NAME, run
