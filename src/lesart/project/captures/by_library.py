"""Reading a file by a library in a process of its own."""

from __future__ import annotations

import json
import os
import subprocess
import sys
from pathlib import Path
from typing import Any

from lesart.core.errors import CaptureError
from lesart.project.folder.files import open_file


def told_by_library(path: Path, kind: str, called: str, more: str = "") -> tuple[dict[str, Any], bytes]:
    """The header that it writes, and the bytes after it.

    Raises CaptureError where the file is not of its kind, or damaged.
    """
    open_file(path).close()
    line, _, data = output_of_child(kind, str(path.absolute()), more).partition(b"\n")
    try:
        told: dict[str, Any] = json.loads(line)
    except ValueError as error:
        raise CaptureError(f"{path}: it cannot be read as {called}; its reader broke down over it.") from error
    if "trouble" in told:
        raise CaptureError(f"{path}: it cannot be read as {called} ({told['trouble'].rstrip('.')}).")
    return told, data


def output_of_child(kind: str, path: str, more: str) -> bytes:
    """Everything that the child wrote before it ended, however that was."""
    command = [sys.executable, "-P", "-m", "lesart.project.captures.library_child", kind, path, more]
    environment = {**os.environ, "RUST_BACKTRACE": "0"}
    return subprocess.run(command, stdin=subprocess.DEVNULL, capture_output=True, check=False, env=environment).stdout
