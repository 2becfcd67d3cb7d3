"""Pixels: packed and unpacked in every order, turned, and greys made of lit and dark ones."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from lesart.core.glass.dither import ORDERED, THRESHOLD, dither, every_way, is_flat, lone_share, proposed
from lesart.core.glass.panels.frame import PixelFrame
from lesart.core.glass.panels.packing import BYTES, PARAMETERS, Packing, build_packing, pack, unpack
from lesart.core.glass.panels.pixels import frame_of, inverted, mirrored, pixels_of, turned
from lesart.core.parameters import read_table


@st.composite
def frames(draw: st.DrawFn) -> PixelFrame:
    """Of any size up to 40 pixels a side."""
    width, height = draw(st.integers(1, 40)), draw(st.integers(1, 40))
    return PixelFrame(width, height, tuple(draw(st.integers(0, (1 << width) - 1)) for _ in range(height)))


packings = st.builds(
    Packing,
    st.sampled_from(BYTES[:2]),
    st.booleans(),
    st.booleans(),
    st.booleans(),
    st.booleans(),
    st.integers(0, 9),
    st.integers(0, 9),
)


@given(frame=frames(), packing=packings)
def test_a_frame_survives_every_packing(frame: PixelFrame, packing: Packing) -> None:
    """Frame to bytes to frame is the identity, and the bytes are as many as are said."""
    data = pack(frame, packing)
    assert len(data) == packing.size(frame.width, frame.height)
    assert unpack(data, frame.width, frame.height, packing) == frame
    with pytest.raises(ValueError, match="bytes in this packing"):
        unpack(data + b"\0", frame.width, frame.height, packing)


@given(frame=frames(), packing=packings)
def test_packing_against_a_plain_loop(frame: PixelFrame, packing: Packing) -> None:
    """Byte by byte as the words say it."""
    wide, tall = frame.width + packing.offset + packing.beyond, frame.height
    rows_down = range(-(-tall // 8)) if packing.bytes == BYTES[0] else range(tall)
    columns = range(wide) if packing.bytes == BYTES[0] else range(-(-wide // 8))
    wanted = []
    for down in reversed(rows_down) if packing.from_bottom else rows_down:
        for across in reversed(columns) if packing.from_right else columns:
            byte = 0
            for bit in range(8):
                x, y = (across, 8 * down + bit) if packing.bytes == BYTES[0] else (8 * across + bit, down)
                on = frame.lit(x - packing.offset, y) ^ packing.inverted
                byte |= on << (bit if packing.low_first else 7 - bit)
            wanted.append(byte)
    assert pack(frame, packing) == bytes(wanted)


def test_bytes_by_hand() -> None:
    """A lit pixel on top at the left, in a frame of eight by eight."""
    frame = PixelFrame(8, 8, (0x80, *(0,) * 7))
    assert pack(frame, Packing())[0] == 0x01
    assert pack(frame, Packing(low_first=False))[0] == 0x80
    assert pack(frame, Packing(BYTES[1], low_first=False))[0] == 0x80
    assert pack(frame, Packing(from_right=True))[7] == 0x01
    assert pack(frame, Packing(inverted=True))[:2] == b"\xfe\xff"
    assert pack(frame, Packing(offset=2))[:3] == b"\0\0\x01"
    assert Packing(BYTES[1]).padded(13, 5) == (3, 0)
    assert Packing().padded(13, 5) == (0, 3)
    values, problems = read_table(PARAMETERS, {}, "p")
    assert not problems
    assert build_packing(values) == Packing()


@given(frame=frames(), quarters=st.integers(-5, 5))
def test_turning_and_mirroring(frame: PixelFrame, quarters: int) -> None:
    """Four quarters are none; a mirror twice too; each pixel goes where it should."""
    there = turned(frame, quarters)
    assert turned(there, -quarters) == frame
    assert mirrored(mirrored(frame)) == frame
    assert inverted(inverted(frame)) == frame
    once = turned(frame, 1)
    assert (once.width, once.height) == (frame.height, frame.width)
    for x, y in ((0, 0), (frame.width - 1, 0), (frame.width // 2, frame.height // 2)):
        assert once.lit(frame.height - 1 - y, x) == frame.lit(x, y)
        assert mirrored(frame).lit(frame.width - 1 - x, y) == frame.lit(x, y)
    assert frame_of(pixels_of(frame)) == frame
    assert frame.lit_share == pytest.approx(float(pixels_of(frame).mean()))


def test_diffusion_against_a_plain_loop() -> None:
    """Pixel by pixel, the error spread into the picture itself; and as bright as another library makes it."""
    random = np.random.default_rng(3)
    grey = np.clip(np.linspace(0, 1, 96)[None, :] * np.ones((64, 1)) + 0.05 * random.standard_normal((64, 96)), 0, 1)
    left = np.pad(grey, ((0, 1), (1, 1)))
    wanted = np.zeros(grey.shape, bool)
    for y in range(64):
        for x in range(1, 97):
            wanted[y, x - 1] = left[y, x] >= 0.5
            error = left[y, x] - wanted[y, x - 1]
            for dx, dy, share in ((1, 0, 7), (-1, 1, 3), (0, 1, 5), (1, 1, 1)):
                left[y + dy, x + dx] += error * share / 16
    ours = dither(grey, "diffused")
    # Sums in another order may round otherwise where a value lies on the threshold; nowhere else.
    assert float(np.mean(ours != wanted)) < 0.002
    theirs = np.asarray(Image.fromarray((grey * 255).astype(np.uint8)).convert("1"))
    assert ours.mean() == pytest.approx(theirs.mean(), abs=0.01)
    assert ours.mean() == pytest.approx(grey.mean(), abs=0.01)


def test_ordered_greys_by_hand() -> None:
    """Each sixteenth of grey lights a sixteenth of the pixels; the first ones are far from each other."""
    for lit in range(17):
        pixels = dither(np.full((4, 4), lit / 16 + 1e-9 if lit < 16 else 1.0), ORDERED)
        assert pixels.sum() == lit
    two = np.argwhere(dither(np.full((4, 4), 2 / 16), ORDERED))
    assert np.abs(two[0] - two[1]).tolist() == [2, 2]


def test_which_way_is_proposed() -> None:
    """Flat art by the threshold; a slow change of grey by what keeps it."""
    art = np.zeros((32, 32))
    art[8:24, 8:24] = 1.0
    assert is_flat(art)
    assert proposed(art) == THRESHOLD
    slow = np.tile(np.linspace(0, 1, 64), (32, 1))
    assert not is_flat(slow)
    assert proposed(slow) != THRESHOLD
    ways = {each.way: each for each in every_way(slow)}
    assert ways["diffused"].tone_error < 0.5 * ways[THRESHOLD].tone_error
    assert ways[THRESHOLD].lone == 0.0
    assert {each.way: each for each in every_way(art)}[THRESHOLD].tone_error == 0.0


def test_lone_pixels_by_hand() -> None:
    """One in the middle of nothing; a pair is none; a checkerboard is nothing else."""
    lone = np.zeros((5, 5), bool)
    lone[2, 2] = True
    assert lone_share(lone) == pytest.approx(1 / 25)
    lone[2, 3] = True
    assert lone_share(lone) == 0.0
    assert lone_share(np.indices((6, 6)).sum(axis=0) % 2 == 0) == 1.0
