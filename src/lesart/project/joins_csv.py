"""Connections as CSV, for a spreadsheet or a label printer."""

from __future__ import annotations

import csv
import io

from lesart.core.wire.entry import written
from lesart.core.wire.hookup import Hookup, used_roles
from lesart.core.wire.part import Part

COLUMNS = ("part", "pin", "to_part", "to_pin", "role", "through", "through_is", "colour")


def joins_csv(hookup: Hookup) -> str:
    """One line per connection, in the order of the project."""
    text = io.StringIO()
    table = csv.writer(text, lineterminator="\n")
    table.writerow(COLUMNS)
    for join in hookup.joins:
        roles, part = used_roles(hookup, join), hookup.through(join)
        table.writerow(
            (
                join.pin.part,
                join.pin.pin,
                join.to.part,
                join.to.pin,
                roles[0] if roles else "",
                join.through,
                _what(part) if part else "",
                join.colour,
            )
        )
    return text.getvalue()


def _what(part: Part) -> str:
    """``resistor 270 Ω``."""
    ohms = [each.name for each in part.kind.parameters if each.unit == "Ω"]
    return " ".join((part.kind.name, *(written(part.value(name), "Ω") for name in ohms)))
