"""Pictures in and out: PNG, BMP, PBM, XBM and GIF become grey frames of a size; one-bit frames become files and
tables."""

from __future__ import annotations

import io
import re
import warnings
from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING

import numpy as np

from lesart.core.block import Floats
from lesart.core.dataclass_later import dataclass
from lesart.core.errors import CaptureError, RequestError
from lesart.core.glass.panels.frame import PixelFrame
from lesart.core.glass.panels.packing import Packing, pack
from lesart.core.glass.panels.pixels import MOST_SIDE, pixels_of
from lesart.project.folder.files import library, read_whole

if TYPE_CHECKING:
    from PIL.Image import Image

FORMATS = ("PNG", "BMP", "PPM", "XBM", "GIF")
"""Formats as the library names them; PPM reads PBM too."""
MOST_BYTES = 64_000_000
MOST_FRAMES, MOST_PIXELS = 256, 32 << 20
"""Most frames, and most pixels of all frames together."""
IN_LINE = 12
KEPT, FILLED, STRETCHED = SCALES = ("keep all", "fill", "stretch")


@dataclass(frozen=True)
class Picture:
    """Grey frames of shape (height, width), 0 black to 1 white, and their durations; ``more`` were left out."""

    frames: tuple[Floats, ...]
    durations_s: tuple[float, ...]
    more: int = 0

    @property
    def size(self) -> tuple[int, int]:
        """Width and height."""
        height, width = self.frames[0].shape
        return width, height


@dataclass(frozen=True)
class Cut:
    """The part of a picture to use, in its own pixels; the whole by default."""

    x: int
    y: int
    width: int
    height: int


def read_picture(path: Path, behind: float = 0.0) -> Picture:
    """All frames of a file in grey; transparent parts show ``behind``. Raises CaptureError."""
    from PIL import Image, UnidentifiedImageError

    data = read_whole(path, MOST_BYTES)
    try:
        with library(path.name, "a picture"), warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            with Image.open(io.BytesIO(data), formats=FORMATS) as image:
                if max(image.size) > MOST_SIDE:
                    width, height = image.size
                    said = f"{width}×{height} pixels; {MOST_SIDE} to a side at most are read"
                    raise CaptureError(f"{path.name} has {said}.")
                return _frames(image, path.name, behind)
    except CaptureError as error:
        if isinstance(error.__cause__, UnidentifiedImageError):
            raise CaptureError(f"{path.name} is not a PNG, BMP, PBM, XBM or GIF picture.") from error
        if isinstance(error.__cause__, Image.DecompressionBombError | Image.DecompressionBombWarning):
            said = f"far too many pixels; {MOST_SIDE} to a side at most are read"
            raise CaptureError(f"{path.name} claims {said}.") from error
        raise


def _frames(image: Image, name: str, behind: float) -> Picture:
    """The frames, up to the limit."""
    count = getattr(image, "n_frames", 1)
    most = max(min(count, MOST_FRAMES, MOST_PIXELS // max(image.size[0] * image.size[1], 1)), 1)
    frames, durations = [], []
    for number in range(most):
        image.seek(number)
        frames.append(_grey(image, behind))
        durations.append(float(image.info.get("duration", 0) or 0) / 1000.0)
    if not frames:
        raise CaptureError(f"{name} has no picture in it.")
    return Picture(tuple(frames), tuple(durations), max(count - most, 0))


def _grey(image: Image, behind: float) -> Floats:
    """Luminance by ITU-R BT.601, as the library weights colours, over the background."""
    wide = image.convert("RGBA")
    values = np.asarray(wide.convert("L"), float) / 255.0
    alpha = np.asarray(wide.getchannel("A"), float) / 255.0
    return values * alpha + behind * (1.0 - alpha)


def fitted(
    grey: Floats, width: int, height: int, how: str = KEPT, cut: Cut | None = None, around: float = 0.0
) -> Floats:
    """A part of a picture in a size: all of it with ``around`` beside it, filling it, or stretched.

    Raises RequestError where the part lies outside.
    """
    from PIL import Image

    if cut is not None:
        grey = _cut(grey, cut)
    own_height, own_width = grey.shape
    ratios = width / own_width, height / own_height
    ratio = min(ratios) if how == KEPT else max(ratios)
    to = (width, height) if how == STRETCHED else (max(round(own_width * ratio), 1), max(round(own_height * ratio), 1))
    image = Image.fromarray(np.asarray(grey * 255.0, np.float32))
    # A box filter is exact for whole multiples; larger pictures are averaged, smaller ones keep their edges.
    way = Image.Resampling.NEAREST if ratio >= 1 and how != STRETCHED else Image.Resampling.BOX
    scaled = np.clip(np.asarray(image.resize(to, way), float) / 255.0, 0.0, 1.0)
    placed = np.full((height, width), around)
    left, top = (width - to[0]) // 2, (height - to[1]) // 2
    into = placed[max(top, 0) : max(top, 0) + to[1], max(left, 0) : max(left, 0) + to[0]]
    into[:] = scaled[max(-top, 0) : max(-top, 0) + into.shape[0], max(-left, 0) : max(-left, 0) + into.shape[1]]
    return placed


def _cut(grey: Floats, cut: Cut) -> Floats:
    height, width = grey.shape
    inside = cut.width > 0 and cut.height > 0 and cut.x >= 0 and cut.y >= 0
    if not inside or cut.x + cut.width > width or cut.y + cut.height > height:
        raise RequestError(
            f"{cut.width}×{cut.height} pixels from {cut.x}, {cut.y} are not in a picture of {width}×{height}."
        )
    return grey[cut.y : cut.y + cut.height, cut.x : cut.x + cut.width]


def picture_bytes(frame: PixelFrame, ending: str) -> bytes:
    """A frame as a file. In PNG and PBM lit pixels are white, as on a dark panel and as they are read again.

    XBM holds the bits of a display: a lit pixel is a set bit, which viewers may show either way.
    """
    from PIL import Image

    if ending == ".xbm":
        return _xbm(frame).encode("ascii")
    image = Image.fromarray(pixels_of(frame))
    into = io.BytesIO()
    image.convert("1").save(into, "PNG" if ending == ".png" else "PPM")
    return into.getvalue()


def _xbm(frame: PixelFrame) -> str:
    """The X bitmap: rows of bytes, low bit leftmost."""
    data = pack(frame, Packing("rows of eight columns", low_first=True))
    rows = ",\n".join(
        "  " + ", ".join(f"0x{byte:02x}" for byte in data[at : at + IN_LINE]) for at in range(0, len(data), IN_LINE)
    )
    return (
        f"#define picture_width {frame.width}\n#define picture_height {frame.height}\n"
        f"static unsigned char picture_bits[] = {{\n{rows} }};\n"
    )


def c_table(frames: Sequence[PixelFrame], packing: Packing, name: str) -> str:
    """The bytes of one frame, or of several in order, as C."""
    width, height, size = frames[0].width, frames[0].height, packing.size(frames[0].width, frames[0].height)
    many = len(frames) > 1
    head = [
        f"/* {width}x{height} pixels, {packing.bytes}, {'low' if packing.low_first else 'high'} bit first. */",
        "#include <stdint.h>",
        "",
        f"enum {{ {name}_width = {width}, {name}_height = {height}, "
        f"{name}_frames = {len(frames)}, {name}_bytes = {size} }};",
        "",
    ]
    shape = f"[{name}_frames][{name}_bytes]" if many else f"[{name}_bytes]"
    bodies = [_rows(pack(frame, packing), "    ") for frame in frames]
    inner = ",\n".join(f"  {{\n{body}\n  }}" for body in bodies) if many else bodies[0]
    return "\n".join([*head, f"static const uint8_t {name}{shape} = {{", inner, "};", ""])


def python_table(frames: Sequence[PixelFrame], packing: Packing, name: str) -> str:
    """The bytes as Python."""
    width, height = frames[0].width, frames[0].height
    head = [
        f"# {width}x{height} pixels, {packing.bytes}, {'low' if packing.low_first else 'high'} bit first.",
        f"{name}_width, {name}_height = {width}, {height}",
    ]
    bodies = [f"    bytes([\n{_rows(pack(frame, packing), '        ')},\n    ])" for frame in frames]
    return "\n".join([*head, f"{name} = (", ",\n".join(bodies) + ",", ")", ""])


def _rows(data: bytes, indent: str) -> str:
    return ",\n".join(
        indent + ", ".join(f"0x{byte:02X}" for byte in data[at : at + IN_LINE]) for at in range(0, len(data), IN_LINE)
    )


def identifier(stem: str) -> str:
    """An identifier for C and Python from the name of a file."""
    name = re.sub(r"\W+", "_", stem.lower(), flags=re.ASCII).strip("_")
    return f"picture_{name}" if not name or name[0].isdigit() else name
