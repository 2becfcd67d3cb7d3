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

NO_TEXT = "no line with numbers came, nor frames of bytes that could be told apart; is the baud rate right?"


def heard(options: argparse.Namespace) -> Made:
    """Listen to a port for a while; what came is the capture, and the port its line. Where no text comes, frames of
    bytes are looked for. Raises CaptureError, RequestError, StorageError."""
    port = {"port": str(options.file), "baud": options.baud}
    folder = options.folder or Path("line")
    if exists(folder):
        raise StorageError(f"{folder}: it is there already; name another folder.")
    with tempfile.TemporaryDirectory() as work:
        path = Path(work) / "line.csv"
        text = {"kind": "text line", **port}
        trouble = _recorded(text, path, options)
        if not trouble:
            return make_project(path, folder, line=text)
        frames = None if trouble != NO_TEXT else frames_heard(_pieces(options))
        line = {"kind": "serial frames", **port, **frames} if frames is not None else None
        trouble = _recorded(line, path, options) if line is not None else trouble
        if trouble:
            raise CaptureError(f"{options.file}: {trouble}{'' if trouble == NO_TEXT else '.'}")
        return make_project(path, folder, line=line)


def _recorded(line: Mapping[str, Any], path: Path, options: argparse.Namespace) -> str:
    """Listen for a while and write what comes; why nothing came, empty where something did. Raises RequestError."""
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


def _pieces(options: argparse.Namespace) -> list[bytes]:
    """What comes while nobody makes lines of it, cut where the port rests."""
    if not options.json:
        print("no line of text came; looking for frames of bytes", file=sys.stderr)
    return pieces_heard(str(options.file), options.baud, lasting(options.lasts))
