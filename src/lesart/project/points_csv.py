"""The references of a channel as CSV, for any program that reads tables."""

from __future__ import annotations

import csv
import io

from lesart.core.true.correction import residuals
from lesart.project.model import Channel

COLUMNS = (
    "true",
    "tolerance",
    "indicated",
    "spread",
    "samples",
    "drift",
    "before",
    "after",
    "taken",
    "way",
    "used",
    "remark",
)


def points_csv(channel: Channel) -> str:
    """One row per reference, all numbers in the channel's unit, which is in the header."""
    file = io.StringIO()
    writer = csv.writer(file, lineterminator="\n")
    unit = channel.unit.symbol
    numbers = ("true", "tolerance", "indicated", "spread", "drift", "before", "after")
    writer.writerow([f"{name} / {unit}" if name in numbers else name for name in COLUMNS])
    for each in residuals(channel.correction, channel.references):
        known = each.reference
        numbers_of = (known.true, known.tolerance, known.indicated, known.spread, known.drift, each.before, each.after)
        true, tolerance, indicated, spread, drift, before, after = (f"{number:.9g}" for number in numbers_of)
        writer.writerow(
            [
                true,
                tolerance,
                indicated,
                spread,
                known.count,
                drift,
                before,
                after,
                known.taken,
                known.way,
                "yes" if known.used else "no",
                known.remark,
            ]
        )
    return file.getvalue()
