"""``lesart new PORT``: a project from a serial port that talks, in lines of text or in frames of bytes."""

from __future__ import annotations

import argparse
import sys
import tempfile
from collections.abc import Mapping
from os.path import exists
from pathlib import Path
from typing import Any

from lesart.cli.record import lasting, wait
from lesart.core.errors import CaptureError, RequestError, StorageError
from lesart.live.frames_ear import pieces_heard
from lesart.live.listening import Listening
from lesart.project.assumed import without_assumed
from lesart.project.new.frames_heard import frames_heard
from lesart.project.new.make import Made, make_project
from lesart.project.tables.sources import check_source

NO_TEXT = "no lines with numbers came, and no frames of bytes that could be told apart; is the baud rate right?"
NOTHING = "not a byte came; the device may have to be asked first, or its send line is on another pin"
RATES = (115_200, 9600, 57_600, 38_400, 19_200, 230_400, 4800, 2400, 460_800, 921_600)
"""Usual baud rates, the likeliest first."""
FEWEST_VALUES = 12
"""Fewest distinct byte values at a guessed rate: several times too fast, each bit is a run of bits, and values are few;
a check over a few recurring values is right by chance."""
TEXTUAL = 0.97
"""Share of printable bytes in text. At another rate hardly a third is."""


def heard(options: argparse.Namespace) -> Made:
    """Listen to a port for a while; what came is the capture, and the port its line.

    Where no text comes, frames of bytes are looked for; where nobody said at which rate, at the other usual ones too.

    Raises CaptureError, RequestError, StorageError.
    """
    port = {"port": str(options.file), "baud": RATES[0] if options.baud is None else options.baud}
    folder = options.folder or Path("line")
    if exists(folder):
        raise StorageError(f"{folder}: it already exists; name another folder.")
    with tempfile.TemporaryDirectory() as work:
        path = Path(work) / "line.csv"
        line: Mapping[str, Any] = {"kind": "text line", **port}
        trouble = _recorded(line, path, options)
        other = _otherwise(options) if trouble == NO_TEXT else None
        if other is not None:
            line, trouble = other, _recorded(other, path, options)
        if trouble:
            raise CaptureError(f"{options.file}: {trouble}{'' if trouble == NO_TEXT else '.'}")
        return make_project(path, folder, line=line)


def _otherwise(options: argparse.Namespace) -> Mapping[str, Any] | None:
    """The line as frames of bytes, or at another rate; None where nothing tells.

    Raises CaptureError where nothing came, since at a wrong rate there would be other bytes.
    """
    unchecked: Mapping[str, Any] | None = None
    is_told = options.baud is not None
    rates = (options.baud,) if is_told else RATES
    for baud in rates:
        pieces = _pieces(options, baud)
        if not pieces and baud == rates[0]:
            raise CaptureError(f"{options.file}: {NOTHING}.")
        line = {"port": str(options.file), "baud": baud}
        if baud != rates[0] and is_text(b"".join(pieces)):
            _said(options, f"lines of text at {baud} baud")
            return {"kind": "text line", **line}
        frames = frames_heard(pieces) if is_told or len(set(b"".join(pieces))) >= FEWEST_VALUES else None
        if frames is None:
            continue
        if "check" in frames or is_told:
            _said(options, f"frames of bytes at {baud} baud")
            return {"kind": "serial frames", **line, **frames}
        # At a wrong rate frames look alike as well; a valid check does not occur.
        unchecked = unchecked or {"kind": "serial frames", **line, **frames}
    if unchecked is not None:
        _said(options, f"frames of bytes at {unchecked['baud']} baud, with no checksum to confirm the rate")
    return unchecked


def is_text(data: bytes) -> bool:
    """True for lines with numbers."""
    printed = sum(byte in b"\t\r\n" or 0x20 <= byte < 0x7F for byte in data)
    return printed >= TEXTUAL * len(data) and b"\n" in data and any(digit in data for digit in b"0123456789")


def _recorded(line: Mapping[str, Any], path: Path, options: argparse.Namespace) -> str:
    """Listen for a while and record; gives why nothing came, empty where something did. Raises RequestError."""
    source, problems = check_source("capture", {"line": without_assumed(line)})
    if source is None:
        raise RequestError(str(problems[0]).removeprefix("sources.capture.line."))
    path.unlink(missing_ok=True)
    listening = Listening(source, Path())
    listening.record(path)
    listening.start()
    wait(listening, lasting(options.lasts), quiet=options.json)
    recorded = listening.stop()
    return "" if recorded is not None and recorded.rows else listening.state.trouble or NO_TEXT


def _pieces(options: argparse.Namespace, baud: int) -> list[bytes]:
    """The raw bytes, split where the port pauses."""
    _said(options, f"no line of text came; listening at {baud} baud")
    return pieces_heard(str(options.file), baud, lasting(options.lasts))


def _said(options: argparse.Namespace, words: str) -> None:
    if not options.json:
        print(words, file=sys.stderr)
