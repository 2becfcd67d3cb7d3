"""Wire: an empty place that says what will fill it."""

from __future__ import annotations

from lesart.desk.views import Workspace
from lesart.desk.workspace.context import Context, label, text


def build(context: Context) -> Workspace:
    """Nothing is known of the hook-up yet."""
    lines = (
        (text("Nothing stands here yet."),),
        (),
        (label("Parts, pins and rails will be joined here; what cannot work will be said:"),),
        (label("one pin with two jobs, a level that is too high, an address taken twice."),),
        (),
        (label("Until then a channel starts at its capture. "), text("2"), label(" opens Raw.")),
    )
    return Workspace(1, "Wire", "what is joined to what", lines=lines)
