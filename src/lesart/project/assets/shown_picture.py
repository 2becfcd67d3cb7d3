"""A project's pictures: a file cut, scaled and made lit or dark as its table says."""

from __future__ import annotations

import re
from collections.abc import Mapping
from pathlib import Path
from typing import Any

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import CaptureError, RequestError
from lesart.core.glass.dither import WAYS, Dithered, dither, every_way, proposed
from lesart.core.glass.faces.plotting import Canvas
from lesart.core.glass.panels.frame import PixelFrame
from lesart.core.glass.panels.pixel_panel import MOST_HEIGHT, MOST_WIDTH
from lesart.core.glass.panels.pixels import frame_of, inverted
from lesart.core.parameters import Parameter
from lesart.project.assets.pictures import SCALES, Cut, Picture, fitted, read_picture

PROPOSED = "as proposed"
PICTURE_FILE = (
    Parameter("file", "file", "text", "PNG, BMP, PBM, XBM or GIF, in the project folder", longest=200),
    Parameter("width", "width", "integer", "pixels; 0: as the file, or by its height", 0, lowest=0, highest=MOST_WIDTH),
    Parameter(
        "height", "height", "integer", "pixels; 0: as the file, or by its width", 0, lowest=0, highest=MOST_HEIGHT
    ),
    Parameter("scale", "scaled", "choice", "into its size", SCALES[0], choices=SCALES),
    Parameter("cut", "cut", "text", "x, y, width, height of the part that is taken; empty: all", "", longest=40),
    Parameter("dither", "dither", "choice", "how greys become lit and dark", PROPOSED, choices=(PROPOSED, *WAYS)),
    Parameter(
        "level", "level", "quantity", "brightness from which a pixel is lit", "50 %", unit="%", lowest=0, highest=100
    ),
    Parameter("invert", "inverted", "flag", "dark on light becomes light on dark", False),
)
UNREAD_SIDE = 16
_FOUR = re.compile(r"\s*(\d{1,4})\s*,\s*(\d{1,4})\s*,\s*(\d{1,4})\s*,\s*(\d{1,4})\s*")


@dataclass(frozen=True)
class ShownPicture:
    """Frames as the panel shows them, how long each stands, and each way to dither the first one with its figures.

    ``said`` is the sentence where the file cannot be shown; the frame is then a crossed box.
    """

    frames: tuple[PixelFrame, ...]
    durations_s: tuple[float, ...]
    way: str
    ways: tuple[Dithered, ...] = ()
    more: int = 0
    said: str = ""


def shown_picture(path: Path, values: Mapping[str, Any]) -> ShownPicture:
    """The picture of a table and its file. Raises CaptureError, RequestError with a sentence."""
    around = 1.0 if values["invert"] else 0.0
    picture = read_picture(path, around)
    cut = _cut(values["cut"])
    width, height = _size(picture, cut, values["width"], values["height"], path.name)
    greys = [fitted(frame, width, height, values["scale"], cut, around) for frame in picture.frames]
    level = values["level"] / 100.0
    ways = every_way(greys[0], level)
    way = proposed(greys[0]) if values["dither"] == PROPOSED else values["dither"]
    frames = tuple(frame_of(dither(grey, way, level)) for grey in greys)
    if values["invert"]:
        frames = tuple(map(inverted, frames))
    return ShownPicture(frames, picture.durations_s, way, ways, picture.more)


def _cut(written: str) -> Cut | None:
    if not written.strip():
        return None
    match = _FOUR.fullmatch(written)
    if match is None:
        raise RequestError(f'cut = "{written}"; it must be x, y, width and height, like "10, 0, 64, 48".')
    return Cut(*map(int, match.groups()))


def _size(picture: Picture, cut: Cut | None, width: int, height: int, name: str) -> tuple[int, int]:
    """The requested size, with proportions kept where only one side is given."""
    own_width, own_height = (cut.width, cut.height) if cut else picture.size
    if width and not height:
        height = max(round(width * own_height / max(own_width, 1)), 1)
    if height and not width:
        width = max(round(height * own_width / max(own_height, 1)), 1)
    width, height = width or own_width, height or own_height
    if width > MOST_WIDTH or height > MOST_HEIGHT:
        raise CaptureError(
            f"{name} would have {width}×{height} pixels; a panel has {MOST_WIDTH}×{MOST_HEIGHT} at most. Give it a "
            "width or height."
        )
    return width, height


def crossed_out(values: Mapping[str, Any], said: str) -> ShownPicture:
    """The placeholder for a file that cannot be shown, in its size if known."""
    width, height = values["width"] or UNREAD_SIDE, values["height"] or values["width"] or UNREAD_SIDE
    canvas = Canvas(width, height)
    canvas.box(0, 0, width, height, filled=False)
    canvas.line(0, 0, width - 1, height - 1)
    canvas.line(0, height - 1, width - 1, 0)
    return ShownPicture((PixelFrame(width, height, canvas.rows()),), (0.0,), "", said=said)
