"""What is read by nobody: each is named, with what to do."""

from __future__ import annotations

import zipfile
from collections.abc import Callable
from pathlib import Path

from tests.corpus.habit import Habit


def by(name: str, make: Callable[[Path], None]) -> Callable[[Path], Path]:
    """A file that a library writes."""

    def write(folder: Path) -> Path:
        path = folder / name
        make(path)
        return path

    return write


def refused(name: str, file: str, data: bytes, says: str) -> Habit:
    """Bytes that no reader takes, and what is said of them."""

    def make(path: Path) -> None:
        path.write_bytes(data)

    return Habit(name, by(file, make), refused=says)


def zipped(path: Path) -> None:
    with zipfile.ZipFile(path, "w") as packed:
        packed.writestr("log.csv", "t,temp\n0,1\n")


REFUSED: list[Habit] = [
    refused(
        "old office document, damaged",
        "log.xls",
        b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1" + bytes(600),
        "it cannot be read as a spreadsheet",
    ),
    refused(
        "HDF5", "log.h5", b"\x89HDF\r\n\x1a\n" + bytes(100), "it is a file of arrays (HDF5); write its table as CSV"
    ),
    refused("a matrix program's workspace", "log.mat", b"MATLAB 5.0 MAT-file" + bytes(200), "write its columns as CSV"),
    refused("a database", "log.db", b"SQLite format 3\0" + bytes(100), "it is a database; write its table as CSV"),
    refused("packed otherwise", "log.csv.bz2", b"BZh91AY&SY" + bytes(50), "it is packed (bzip2); unpack it"),
    refused("a picture", "log.csv", b"\x89PNG\r\n\x1a\n" + bytes(50), "it is a picture"),
    refused("bare numbers", "log.bin", bytes(range(256)), '--layout "int16, 2 columns, 1 kHz"'),
    refused("nothing in it", "log.csv", b"", "it is empty"),
    refused(
        "a page",
        "log.html",
        b"<!DOCTYPE html>\n<table><tr><td>1</td></tr></table>",
        "it is a page or a document in markup",
    ),
    refused("words", "log.txt", b"Dear diary,\nno bees today.\n", "no rows of numbers were found"),
    Habit("a packed folder", by("log.zip", zipped), refused="it is a packed folder (zip) with log.csv; unpack it"),
    refused("packed and cut off", "log.csv.gz", b"\x1f\x8b\x08\x00\x00\x00\x00\x00\x00\x03", "its end is missing"),
]
