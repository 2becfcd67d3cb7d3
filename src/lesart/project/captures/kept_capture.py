"""A cache of large files of numbers, as arrays in the project's own folder, so that they open again at once.

It is only ever a copy: valid while the file has the same size and modification time, and the source is read in the same
way. Deleting it loses nothing but a second.
"""

from __future__ import annotations

import contextlib
import hashlib
import json
import os
import threading
from dataclasses import asdict, replace
from pathlib import Path
from typing import Any

import numpy as np

from lesart.core.block import Block, Floats
from lesart.core.raw.source import Source
from lesart.project.captures.capture import BadRow, Capture
from lesart.project.folder.store import OWN_FOLDER

FOLDER = "read"
VERSION = 6
LARGE = 1 << 20
"""Bytes of a file from which the cache is faster."""
MOST_KEPT = 8
FORMATS = ("csv", "recording")


def is_worth_it(path: Path, source: Source) -> bool:
    """True for a large file of a kind that takes long to read. Decoded captures have frames, which are not cached."""
    try:
        return source.format in FORMATS and source.decoding is None and path.stat().st_size >= LARGE
    except OSError:
        return False


def _place(folder: Path, path: Path, source: Source) -> Path:
    """The path of a cached capture, by everything that the result depends on."""
    stat = path.stat()
    told = replace(source, name="", settle_s=0.0, least_interval_s=0.0, line=None)
    # Which file on which disk: a cache that came along with somebody's project is not trusted.
    key = repr((VERSION, path.name, stat.st_size, stat.st_mtime_ns, stat.st_ino, stat.st_dev, told))
    return folder / OWN_FOLDER / FOLDER / f"{hashlib.sha256(key.encode()).hexdigest()[:20]}.npy"


def kept_capture(folder: Path, path: Path, source: Source) -> Capture | None:
    """The cached capture of a file in its present state; None where there is none, or it cannot be read."""
    try:
        place = _place(folder, path, source)
        told = json.loads(place.with_suffix(".json").read_text(encoding="utf-8"))
        # Mapped, not read: only what is used comes into memory.
        numbers = np.asarray(np.load(place, mmap_mode="r", allow_pickle=False))
        return _capture(path.name, told, numbers)
    except (OSError, ValueError, LookupError, TypeError, OverflowError, RecursionError):
        return None


def _capture(name: str, told: dict[str, Any], numbers: Floats) -> Capture:
    """The capture from an array: each time axis, then each column with the number of its axis."""
    lengths: list[int] = told["axes"]
    columns: list[tuple[str, int]] = told["columns"]
    whole = [*lengths, *(lengths[axis] for _, axis in columns)]
    if numbers.dtype != np.float64 or numbers.shape != (sum(whole),):
        raise ValueError("another shape")
    parts = np.split(numbers, np.cumsum(whole)[:-1])
    axes, blocks = parts[: len(lengths)], {}
    for (column, axis), x, marks in zip(columns, parts[len(lengths) :], told["marks"], strict=True):
        mark = np.zeros(len(x), np.uint8)
        for index, flags in marks:
            mark[index] = flags
        blocks[column] = Block(axes[axis], x, mark)
    bad = tuple(BadRow(**row) for row in told["bad"])
    return Capture(
        name,
        axes[0],
        blocks,
        bad,
        told["bad_count"],
        told["steps_back"],
        said=tuple(told["said"]),
        clock_s=told["clock_s"],
    )


def keep(folder: Path, path: Path, source: Source, capture: Capture) -> threading.Thread:
    """Cache it, in a thread of its own: nobody waits for what only serves the next time."""
    thread = threading.Thread(target=_keep, args=(folder, path, source, capture), name="keep")
    thread.start()
    return thread


def _keep(folder: Path, path: Path, source: Source, capture: Capture) -> None:
    blocks = list(capture.columns.values())
    # Columns of one sensor share an axis, mostly all of them; each axis is stored once.
    axes = list({id(t): t for t in (capture.t, *(block.t for block in blocks))}.values())
    places = {id(t): place for place, t in enumerate(axes)}
    told = {
        "axes": [len(t) for t in axes],
        "columns": [(name, places[id(block.t)]) for name, block in capture.columns.items()],
        "marks": [[[int(place), int(block.mark[place])] for place in np.flatnonzero(block.mark)] for block in blocks],
        "bad": [asdict(row) for row in capture.bad],
        "bad_count": capture.bad_count,
        "steps_back": capture.steps_back,
        "said": list(capture.said),
        "clock_s": capture.clock_s,
    }
    # On a full or read-only disk nothing is cached, and nothing is worse than before.
    with contextlib.suppress(OSError):
        place = _place(folder, path, source)
        place.parent.mkdir(parents=True, exist_ok=True)
        temporary = place.with_suffix(f".{os.getpid()}.tmp")
        try:
            with temporary.open("wb") as file:
                arrays = [*axes, *(block.x for block in blocks)]
                header = {"descr": "<f8", "fortran_order": False, "shape": (sum(map(len, arrays)),)}
                np.lib.format.write_array_header_1_0(file, header)
                for array in arrays:
                    file.write(np.ascontiguousarray(array, "<f8").data)
            place.with_suffix(".json").write_text(json.dumps(told), encoding="utf-8")
            os.replace(temporary, place)
        finally:
            temporary.unlink(missing_ok=True)
        _forget_older(place.parent)


def _forget_older(folder: Path) -> None:
    """Delete all but the last few."""
    found = sorted(folder.glob("*.npy"), key=lambda each: each.stat().st_mtime)
    for each in found[:-MOST_KEPT]:
        each.unlink(missing_ok=True)
        each.with_suffix(".json").unlink(missing_ok=True)
