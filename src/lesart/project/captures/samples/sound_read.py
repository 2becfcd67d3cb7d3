"""Reading sound files that the WAV reader does not: AIFF, and WAV of compressed codings."""

from __future__ import annotations

from pathlib import Path

import numpy as np

from lesart.core.errors import CaptureError
from lesart.project.captures.by_library import told_by_library
from lesart.project.captures.table import Table


def read_sound(path: Path) -> Table:
    """A column per channel, named 1, 2, …; integers as they are. Raises CaptureError."""
    told, data = told_by_library(path, "sound", "sound")
    rows, channels = told["rows"], told["channels"]
    if not rows or len(data) != 8 * rows * channels:
        raise CaptureError(f"{path}: it was cut off before its first sample.")
    table = np.frombuffer(data, np.float64).reshape(channels, rows)
    return Table(
        rows, {str(place + 1): table[place] for place in range(channels)}, noun="sample", rate_hz=told["rate_hz"]
    )
