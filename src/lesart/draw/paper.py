"""Paper: the colours of drawings and writing them as SVG or PDF, the same bytes for the same drawing."""

from __future__ import annotations

import io
from pathlib import Path
from typing import TYPE_CHECKING

from lesart.project.store import write_whole

if TYPE_CHECKING:
    from matplotlib.figure import Figure

INK = {
    "text": "#2a241b", "faint": "#8f8573", "rubric": "#a93a1e", "lapis": "#245a99", "ochre": "#9a6b00",
    "verdigris": "#256b50", "cells": "#2a241b", "hairline": "#cdbfa3",
}  # fmt: skip


def new_figure(width_mm: float, height_mm: float) -> Figure:
    """A figure without a window."""
    import matplotlib as mpl
    from matplotlib.figure import Figure

    mpl.rcParams.update({"svg.fonttype": "none", "svg.hashsalt": "lesart", "pdf.fonttype": 42, "font.size": 9})
    return Figure(figsize=(width_mm / 25.4, height_mm / 25.4))


def write_drawing(figure: Figure, path: Path) -> None:
    """As SVG or PDF by the ending, in one step. Raises StorageError."""
    buffer = io.BytesIO()
    svg = path.suffix.lower() == ".svg"
    # No date in it: the same project gives the same file.
    metadata = {"Date": None, "Creator": "Lesart"} if svg else {"CreationDate": None, "Creator": "Lesart"}
    figure.savefig(buffer, format="svg" if svg else "pdf", metadata=metadata)
    write_whole(path, buffer.getvalue())
