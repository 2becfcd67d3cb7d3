"""Lesart beside what cannot be beaten and what a person would write instead, in one run.

Run by ``make bench``, which writes docs/performance.md, and ``make bench-short``, which takes less than a minute.
"""

from __future__ import annotations

import argparse
import sys
import tempfile
from collections.abc import Callable, Iterator
from pathlib import Path

from tools.bench import chain, files, screen
from tools.bench.floor import Floor
from tools.bench.page import line, page, ratios_of, with_lines
from tools.bench.sides import Row

PAGE = Path("docs/performance.md")
MANY, SOME = 10_000_000, 1_000_000
PARTS = (
    "chain",
    "filters",
    "laws",
    "captures",
    "printed",
    "traces",
    "recording",
    "start",
    "panels",
    "edits",
    "still",
    "large",
)


def everything(work: Path, floor: Floor, share: int = 1) -> dict[str, Callable[[], Iterator[Row]]]:
    """The parts of the whole table, by name; ``share`` times less of each only shows that it runs."""
    many, rows = MANY // share, 8_000_000 // share
    return {
        "chain": lambda: chain.chain_rows(floor, (many // 1000, many // 100, many // 10, many), 5),
        "filters": lambda: chain.filter_rows(floor, many, 3),
        "laws": lambda: chain.law_rows(SOME // share, 5),
        "captures": lambda: files.capture_rows(work, rows, 3),
        "printed": lambda: files.printed_rows(work, rows, 3),
        "traces": lambda: files.trace_rows(work, 3_600_000 // share, 3),
        "recording": lambda: files.record_rows(work, 200_000 // share, 3),
        "start": lambda: screen.start_rows(work, 7),
        "panels": lambda: screen.panel_rows(work, 5),
        "edits": lambda: screen.edit_rows(work),
        "still": lambda: screen.still_rows(work),
        "large": lambda: screen.large_rows(work, many),
    }


def shortly(floor: Floor) -> Iterator[Row]:
    """What whoever changes a kernel wants to know."""
    yield from chain.chain_rows(floor, (MANY // 5,), 3)
    yield from chain.filter_rows(floor, MANY // 5, 3)


def main() -> int:
    """Measure, print each line as it is known, and write the page."""
    reader = argparse.ArgumentParser(prog="python -m tools.bench", description=(__doc__ or "").splitlines()[0])
    reader.add_argument("--short", action="store_true", help="chain and filters alone, beside the ratios of the page")
    reader.add_argument("--only", nargs="+", default=[], choices=PARTS, metavar="PART", help=f"of {', '.join(PARTS)}")
    reader.add_argument("page", nargs="?", type=Path, help="where the table goes; without it, it is only printed")
    options = reader.parse_args()
    floor = Floor()
    if options.short:
        known = ratios_of(PAGE)
        for row in shortly(floor):
            name = row.name.replace("2 000 000", "10 000 000")
            # Of so many the C loops beside it wait for memory, and of fewer not: one is no measure of the other.
            there = f"on the page, of 10 000 000, {known.get(name, '–')}"
            print(f"{row.name:<36}{row.ours_s * 1e3:7.0f} ms  ratio {row.ratio or 0:5.2f}; {there}")
        return 0
    rows: list[Row] = []
    with tempfile.TemporaryDirectory() as work:
        for name, part in everything(Path(work), floor).items():
            if options.only and name not in options.only:
                continue
            for row in part():
                rows.append(row)
                print(line(row), flush=True)
    if options.page is not None:
        whole = page(rows)
        if options.only and options.page.exists():
            whole = with_lines(options.page.read_text(encoding="utf-8"), rows)
        options.page.write_text(whole, encoding="utf-8")
    return 0


if __name__ == "__main__":
    sys.exit(main())
