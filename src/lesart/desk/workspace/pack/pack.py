"""Pack: an empty place that says what will fill it."""

from __future__ import annotations

from lesart.core.step import Step
from lesart.desk.workspace.context import Context, label, text
from lesart.study.views import Workspace


def build(context: Context) -> Workspace:
    """Nothing goes to a firmware yet."""
    lines = (
        (text("Nothing here yet."),),
        (),
        (label("Tables, integer code and test vectors for a firmware will be made here"),),
        (label("from this thread, compiled and compared with it bit for bit."),),
        (),
        (label("Until then "), text("lesart hand"), label(" gives the exact values, cells and codes to compare with.")),
    )
    return Workspace(Step.PACK, "carry it into firmware", lines=lines)
