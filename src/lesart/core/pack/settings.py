"""Settings of a pack: the processor's word, and the allowed error."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from lesart.core.dataclass_later import dataclass
from lesart.core.pack.machine import Machine
from lesart.core.parameters import Parameter

WORDS = ("16", "32")
LEAST_SHARE, MOST_SHARE = 5, 100
"""Per cent of the last place of a field."""
SETTINGS = (
    Parameter("word", "word", "choice", "bits of what is kept; products have twice as many", "32", choices=WORDS),
    Parameter("multiplier", "multiplier", "flag", "can the processor multiply; else shifts and sums", True),
    Parameter("divider", "divider", "flag", "can it divide; else products with reciprocals", True),
    Parameter(
        "share",
        "within",
        "quantity",
        "of a field's last place that whole numbers may be off from the desk",
        "25 %",
        unit="%",
        lowest=LEAST_SHARE,
        highest=MOST_SHARE,
    ),
    Parameter(
        "vectors", "vectors", "integer", "of each channel's capture, beside the ends", 200, lowest=0, highest=5000
    ),
)

FLOATS, WHOLES = "floats", "whole numbers"
OF_CHANNEL = (
    Parameter(
        "computed",
        "computed in",
        "choice",
        "how the desk works the channel out: exactly, or as the firmware will",
        FLOATS,
        choices=(FLOATS, WHOLES),
    ),
)
"""Parameters of each channel, and of each of its variants."""


@dataclass(frozen=True)
class PackSettings:
    """``share`` of a field's last place; ``vectors`` taken from each channel's capture."""

    machine: Machine = Machine()
    share: float = 0.25
    vectors: int = 200


def settings_of(values: Mapping[str, Any]) -> PackSettings:
    """Settings from values by parameter name."""
    machine = Machine(int(values["word"]), values["multiplier"], values["divider"])
    return PackSettings(machine, values["share"] / 100, values["vectors"])
