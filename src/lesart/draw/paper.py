"""Paper: the colours of drawings and writing them as SVG or PDF, the same bytes for the same drawing."""

from __future__ import annotations

import io
import logging
from collections.abc import Iterable
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from matplotlib.figure import Figure

INK = {
    "text": "#2a241b",
    "faint": "#8f8573",
    "rubric": "#a93a1e",
    "lapis": "#245a99",
    "ochre": "#9a6b00",
    "verdigris": "#256b50",
    "cells": "#2a241b",
    "hairline": "#cdbfa3",
}


def new_figure(width_mm: float, height_mm: float) -> Figure:
    """A figure without a window."""
    # It complains on standard error where it cannot cache its list of fonts; it draws all the same.
    logging.getLogger("matplotlib").setLevel(logging.ERROR)
    import matplotlib as mpl
    from matplotlib.figure import Figure

    mpl.rcParams.update({"svg.fonttype": "none", "svg.hashsalt": "lesart", "pdf.fonttype": 42, "font.size": 9})
    return Figure(figsize=(width_mm / 25.4, height_mm / 25.4))


def bound(figures: Iterable[Figure]) -> bytes:
    """One PDF of pages, each of its own size, the same bytes for the same pages."""
    from matplotlib.backends.backend_pdf import PdfPages

    buffer = io.BytesIO()
    with PdfPages(buffer, metadata={"CreationDate": None, "Creator": "Lesart"}) as pages:
        for figure in figures:
            pages.savefig(figure)
    return buffer.getvalue()


def drawing(figure: Figure, ending: str) -> bytes:
    """A drawing as SVG or PDF by the extension of a file's name."""
    buffer = io.BytesIO()
    svg = ending.lower() == ".svg"
    # No date in it: the same project gives the same file.
    metadata = {"Date": None, "Creator": "Lesart"} if svg else {"CreationDate": None, "Creator": "Lesart"}
    figure.savefig(buffer, format="svg" if svg else "pdf", metadata=metadata)
    return buffer.getvalue()
