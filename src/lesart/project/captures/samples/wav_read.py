"""Reading WAV: 8, 16, 24 and 32 bits and floating point, any number of channels, also truncated files."""

from __future__ import annotations

import struct
from collections.abc import Iterator
from pathlib import Path

import numpy as np

from lesart.core.block import Block, Floats, Mark
from lesart.core.dataclass_later import dataclass
from lesart.core.errors import CaptureError
from lesart.core.quantity import counted
from lesart.project.captures.capture import BadRow, Capture
from lesart.project.folder.files import read_whole

PCM, FLOAT, EXTENSIBLE = 1, 3, 0xFFFE


@dataclass(frozen=True)
class _Format:
    """Content of the ``fmt`` chunk."""

    coding: int
    channels: int
    rate_hz: int
    bits: int


def read_wav(path: Path) -> Capture:
    """A column per channel, named 1, 2, …; integers and floating point as they are. Raises CaptureError."""
    data = read_whole(path)
    if data[:4] != b"RIFF" or data[8:12] != b"WAVE":
        raise CaptureError(f"{path}: it is not a WAV file; it does not begin with RIFF and WAVE.")
    form: _Format | None = None
    samples, promised = b"", 0
    for name, length, body in _chunks(data):
        if name == b"fmt ":
            form = _format(path, body)
        elif name == b"data":
            samples, promised = body, length
    if form is None or not samples:
        raise CaptureError(f"{path}: it was cut off before its first sample.")
    frame = form.channels * form.bits // 8
    whole = samples[: len(samples) - len(samples) % frame]
    if not whole:
        raise CaptureError(f"{path}: it was cut off before its first sample.")
    table = _numbers(form, whole).reshape(-1, form.channels)
    t = np.arange(len(table)) / form.rate_hz
    columns = {str(place + 1): _column(t, table[:, place]) for place in range(form.channels)}
    missing = promised // frame - len(table)
    cut = promised < 0xFFFFFFFF - 8 and missing > 0
    bad = (
        (BadRow(len(table) + 1, f"the file was cut off, {counted(missing, 'sample')} short", noun="sample"),)
        if cut
        else ()
    )
    return Capture(path.name, t, columns, bad, len(bad), 0)


def _chunks(data: bytes) -> Iterator[tuple[bytes, int, bytes]]:
    """Chunks by name, with their written length and available bytes."""
    place = 12
    while place + 8 <= len(data):
        name, length = data[place : place + 4], struct.unpack_from("<I", data, place + 4)[0]
        yield name, length, data[place + 8 : place + 8 + length]
        place += 8 + length + length % 2


def _format(path: Path, body: bytes) -> _Format:
    if len(body) < 16:
        raise CaptureError(f"{path}: its format chunk was cut off.")
    coding, channels, rate, _, _, bits = struct.unpack_from("<HHIIHH", body)
    if coding == EXTENSIBLE and len(body) >= 26:
        coding = struct.unpack_from("<H", body, 24)[0]
    good = (coding == PCM and bits in (8, 16, 24, 32)) or (coding == FLOAT and bits in (32, 64))
    if not good or not channels or not rate:
        raise CaptureError(
            f"{path}: coding {coding} of {counted(bits, 'bit')}, {counted(channels, 'channel')} at {rate} Hz cannot be "
            "read; whole numbers of 8, 16, 24 or 32 bits can, and floating point of 32 or 64."
        )
    return _Format(coding, channels, rate, bits)


def _numbers(form: _Format, data: bytes) -> Floats:
    """Samples as numbers. Eight bits are unsigned with 128 as zero; all others are signed."""
    if form.coding == FLOAT:
        return np.frombuffer(data, "<f4" if form.bits == 32 else "<f8").astype(np.float64)
    if form.bits == 8:
        return np.frombuffer(data, np.uint8).astype(np.float64) - 128
    if form.bits == 24:
        parts = np.frombuffer(data, np.uint8).reshape(-1, 3).astype(np.int32)
        value = parts[:, 0] | parts[:, 1] << 8 | parts[:, 2] << 16
        return np.where(value >= 1 << 23, value - (1 << 24), value).astype(np.float64)
    return np.frombuffer(data, "<i2" if form.bits == 16 else "<i4").astype(np.float64)


def _column(t: Floats, x: Floats) -> Block:
    mark = np.where(np.isnan(x), np.uint8(Mark.MISSING), np.uint8(0))
    return Block(t, x, np.where(np.isinf(x), np.uint8(Mark.RANGE), mark))
