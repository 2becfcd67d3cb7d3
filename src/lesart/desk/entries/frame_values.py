"""Another value in the frames of a source, typed: ``temp = bytes 3 to 4 signed / 10 °C``."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np

from lesart.core.errors import RequestError
from lesart.core.parameters import read_table
from lesart.core.quantity import counted
from lesart.core.raw.messages.frames import FIELD, ByteFrame, field_from, values_of
from lesart.core.raw.source import Source
from lesart.desk.entries.aloud.frame_values import frame_value
from lesart.desk.entries.edit_result import Edited
from lesart.project.captures.capture import Capture
from lesart.project.new.limits import written_limits
from lesart.project.text import Editor

MOST_UNHEARD = 1000
"""Assumed greatest reading of a value that a line has not sent yet."""


def add_value(
    editor: Editor, text: str, source: Source, capture: Capture | None, name: str, what: str
) -> Edited | None:
    """Another value in the frames of a capture or a line: ``bytes 3 to 4 signed / 10 °C``.

    None for anything else. Raises RequestError.
    """
    of_line, frames = _is_of_frames(source), _frames_of(capture)
    found = frame_value(what) if has_frames(source, capture) else None
    if found is None:
        return None
    key = ("sources", source.name, *(("line",) if of_line else ()), "fields")
    text = editor.with_entry(text, key, {"name": name, **found.entry})
    values, _ = read_table(FIELD, {"name": name, **found.entry}, "")
    spec = field_from(values) if len(values) == len(FIELD) else None
    block = values_of(frames, spec)[0] if frames and spec is not None else None
    good = block.x[block.usable] if block is not None else np.empty(0)
    longest = max((len(frame.data) for frame in frames or ()), default=0)
    if frames and not len(good) and 8 * longest < _end_of(found.entry):
        raise RequestError(f'"{what}" reaches beyond its frames, which have {counted(longest, "byte")}.')
    limits = written_limits(good, found.unit, MOST_UNHEARD)
    channel = {"source": source.name, "column": name, "raw_unit": found.unit, "unit": found.unit, **limits}
    text = editor.with_table(text, ("channels", name), channel)
    return Edited(text, f"added: {name}, {what}", ("channels", name, "column"))


def has_frames(source: Source, capture: Capture | None) -> bool:
    """True where a line sends frames, or its capture has some."""
    return _is_of_frames(source) or _frames_of(capture) is not None


def _is_of_frames(source: Source) -> bool:
    return source.line is not None and source.line.kind.entries == "fields"


def _frames_of(capture: Capture | None) -> tuple[ByteFrame, ...] | None:
    return capture.decoded.frames if capture is not None and capture.decoded is not None else None


def _end_of(entry: Mapping[str, Any]) -> int:
    """The bit after a value."""
    return int(entry["first_bit"]) + int(entry["bits"])
