"""Kinds of parts for hook-ups that the catalogue has no fault for, and all there are with them."""

from __future__ import annotations

from lesart.core.wire.catalogue import KINDS
from lesart.core.wire.part import PartKind, Pin

OWN = {
    kind.name: kind
    for kind in (
        PartKind(
            "clocked",
            "5 V logic",
            "sensor",
            (
                Pin("supply", ("supply",), lowest_v=4.5, highest_v=5.5, current_a=0.001),
                Pin("gnd", ("ground",)),
                Pin("in", ("digital in",)),
            ),
        ),
        PartKind(
            "heater",
            "always on",
            "sensor",
            (Pin("supply", ("supply",), lowest_v=3, highest_v=3.6, current_a=0.35), Pin("gnd", ("ground",))),
        ),
        PartKind(
            "radio",
            "bursts",
            "sensor",
            (
                Pin("supply", ("supply",), lowest_v=3, highest_v=3.6, current_a=0.02, peak_a=0.35),
                Pin("gnd", ("ground",)),
            ),
        ),
        PartKind(
            "half radio",
            "bursts",
            "sensor",
            (
                Pin("supply", ("supply",), lowest_v=3, highest_v=3.6, current_a=0.01, peak_a=0.18),
                Pin("gnd", ("ground",)),
            ),
        ),
    )
}
ALL = {**KINDS, **OWN}
