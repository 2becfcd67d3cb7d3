"""Reads a Parquet file in a process of its own: a damaged one can end the whole process, past every exception.

``python -m lesart.project.captures.parquet_child FILE`` writes a line of JSON, the columns of numbers and moments there
are, then their values as float64, one column after the other. Moments are seconds since 1970.
"""

from __future__ import annotations

import json
import sys
from typing import BinaryIO

NUMBERS, MOMENTS = "numbers", "moments"


def main(path: str, out: BinaryIO) -> int:
    """0, or 1 with the reason in the line."""
    import polars

    try:
        frame = polars.read_parquet(path, glob=False)
        kinds = {
            name: NUMBERS if kind.is_numeric() else MOMENTS
            for name, kind in frame.schema.items()
            if kind.is_numeric() or kind in (polars.Date, polars.Datetime)
        }
        told = {"rows": frame.height, "columns": frame.columns, "kinds": kinds}
        out.write(json.dumps(told).encode() + b"\n")
        for name, kind in kinds.items():
            series = frame[name]
            if kind == MOMENTS:
                series = series.cast(polars.Datetime("ns")).dt.timestamp("ns").cast(polars.Float64) * 1e-9
            out.write(series.cast(polars.Float64).fill_null(float("nan")).to_numpy().tobytes())
    except BaseException as error:  # noqa: BLE001  (a panic of compiled code is no Exception)
        out.write(json.dumps({"trouble": " ".join(str(error).split())[:120]}).encode() + b"\n")
        return 1
    return 0


if __name__ == "__main__":
    raise SystemExit(main(sys.argv[1], sys.stdout.buffer))
