"""A project from the frames of a CAN bus: a source for each identifier whose bytes change."""

from __future__ import annotations

import re
from collections.abc import Collection, Mapping, Sequence
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np

from lesart.core.block import Block
from lesart.core.errors import CaptureError
from lesart.core.quantity import counted, format_quantity
from lesart.core.raw.messages.frames import ByteFrame
from lesart.core.units import parse_unit
from lesart.project.captures.capture import Capture
from lesart.project.captures.traces.can_read import identifier_of, identifier_said, is_can
from lesart.project.captures.traces.hex_read import SAMPLE_LETTERS, read_hex
from lesart.project.folder.files import first_bytes
from lesart.project.new.devices import MOST_IDENTIFIERS, by_identifier
from lesart.project.new.text import NewChannel
from lesart.project.new.trace import MOST_CHANNELS, NewFromTrace, new_channels, read_source

SECOND = parse_unit("s")
_BYTES = re.compile(r" bytes? (\d+)(?: (?:and|to) (\d+))?$")


def new_from_bus(path: Path, capture: Mapping[str, Any]) -> NewFromTrace | None:
    """The content of a project from it, ``capture`` being the keys of a source for the file; None for other frames.

    Raises CaptureError where no identifier has bytes that change.
    """
    if not is_can(first_bytes(path, SAMPLE_LETTERS).decode("utf-8", "replace")):
        return None
    frames = [frame for frame in read_hex(path) if frame.data]
    sources: dict[str, Mapping[str, Any]] = {}
    channels: list[NewChannel] = []
    bad = 0
    for way in by_identifier(frames):
        if len(channels) >= MOST_CHANNELS:
            break
        table = {**capture, "decode": dict(way.decode), "fields": [dict(each) for each in way.fields]}
        read = read_source(path, table)
        blocks = _usable(read)
        if blocks:
            sources[way.name] = table
            bad += read.bad_count
            channels += [_briefly(each) for each in new_channels(way.name, read, blocks, channels)]
    if not channels:
        raise CaptureError(f"{path}: the bytes of its identifiers never change, so there is nothing to read.")
    return NewFromTrace(sources, tuple(channels), (), tuple(_said(frames, sources)), bad)


def _briefly(channel: NewChannel) -> NewChannel:
    """``123 1-2`` instead of ``id 123 bytes 1 and 2``: a bus has many, and a margin is narrow."""
    found = _BYTES.search(channel.name)
    name = f"{channel.name[: found.start()]} {'-'.join(filter(None, found.groups()))}" if found else channel.name
    return replace(channel, name=name.removeprefix("id "))


def _usable(read: Capture) -> dict[str, Block]:
    return {column: block for column, block in read.columns.items() if block.usable.any()}


def _said(frames: Sequence[ByteFrame], sources: Collection[str]) -> list[str]:
    """A sentence on each identifier: how often it comes, how many bytes it has, and why it is not read if it is not."""
    groups: dict[str, list[ByteFrame]] = {}
    for frame in frames:
        groups.setdefault(identifier_said(identifier_of(frame.data)), []).append(frame)
    return [f"identifier {name}: {_group_said(each, f'id {name}' in sources)}" for name, each in sorted(groups.items())]


def _group_said(frames: Sequence[ByteFrame], is_read: bool) -> str:
    every = float(np.median(np.diff([frame.t for frame in frames]))) if len(frames) > 1 else 0.0
    often = f", every {format_quantity(every, SECOND, 3)}" if every > 0 else ""
    sizes = {len(frame.data) - len(identifier_of(frame.data)) for frame in frames}
    bytes_ = counted(max(sizes), "byte") if len(sizes) == 1 else f"up to {max(sizes)} bytes"
    why = f"left out, for {MOST_IDENTIFIERS} are read already"
    if len({frame.data for frame in frames}) == 1:
        why = "they never change" if len(frames) > 1 else "it came once"
    return f"{counted(len(frames), 'frame')} of {bytes_}{often}{'' if is_read else f'; {why}'}"
