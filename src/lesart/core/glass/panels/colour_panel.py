"""Panels of coloured pixels, two or three bytes each."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from functools import lru_cache
from typing import Any

import numpy as np
import numpy.typing as npt

from lesart.core.dataclass_later import dataclass
from lesart.core.glass.panels.colour_set_up import PARAMETERS as SET_UP
from lesart.core.glass.panels.colour_set_up import ColourSetUp, build_colour_set_up
from lesart.core.glass.panels.frame import ColourFrame, PixelFrame
from lesart.core.glass.panels.packing import ROWS, Packing
from lesart.core.glass.panels.panel import Memory
from lesart.core.glass.panels.panel_kind import PanelKind
from lesart.core.glass.panels.pixel_colours import (
    COLOURS,
    DEPTHS,
    PLANES,
    TWO_BYTES,
    Colours,
    decoded,
    encoded,
    rgb,
    size_of_pixel,
    values_of,
)
from lesart.core.glass.panels.pixel_panel import PARAMETERS as OF_PIXELS
from lesart.core.glass.panels.pixel_panel import TURNS, PixelPanel
from lesart.core.glass.panels.pixels import colour_frame, colours_of, frame_of, pixels_of, turned
from lesart.core.glass.panels.start_bytes import START, read_groups, read_start
from lesart.core.glass.panels.transfer import FOUR_WIRE, PARALLEL, build_bus
from lesart.core.glass.panels.transfer import PARAMETERS as BUS
from lesart.core.glyphs.fonts import Font
from lesart.core.parameters import Parameter

MOST_SIDE = 480
BESIDE_GLASS = 38
"""Level of red, green and blue of what is seen beside a round glass."""
_SAME = {each.name: each for each in OF_PIXELS}
_BUS = {each.name: each for each in BUS}
MEMORY = tuple(
    Parameter(
        name,
        title,
        "integer",
        f"of the controller's memory that lie {where} the glass; a window counts them",
        0,
        lowest=0,
        highest=320,
    )
    for name, title, where in (("offset", "column offset", "left of"), ("row_offset", "row offset", "above"))
)
PARAMETERS = (
    replace(_SAME["width"], default=128, highest=MOST_SIDE),
    replace(_SAME["height"], default=160, highest=MOST_SIDE),
    Parameter("depth", "bits a pixel", "choice", "that its start sequence sets", TWO_BYTES, choices=DEPTHS),
    Parameter("colour", "colour", "choice", "of what is lit and has none of its own", "white", choices=tuple(COLOURS)),
    Parameter("ground", "ground", "choice", "of what is not lit", "black", choices=tuple(COLOURS)),
    _SAME["turned"],
    replace(_SAME["pitch"], default="0.22 mm"),
    _SAME["backlight"],
    _SAME["low_lights"],
    Parameter(
        "inverts",
        "wants inverting",
        "flag",
        "its start sequence has to invert it, as most wide-angle glass needs",
        False,
    ),
    Parameter("disc", "round", "flag", "only a disc of its pixels is seen, as wide as its shorter side", False),
    *MEMORY,
    *SET_UP,
    replace(
        START,
        help="what is sent first, commands with their bytes, separated by semicolons, like 11; 36 60; 29; empty: what "
        "wakes and lights it",
    ),
    replace(_BUS["bus"], default=FOUR_WIRE, choices=(FOUR_WIRE, PARALLEL)),
    replace(_BUS["clock"], default="8 MHz"),
)


@dataclass(frozen=True)
class ColourPanel(PixelPanel):
    """Its memory is that of a panel of pixels, and after it bit planes that say which colour each pixel was given.

    ``offset`` and ``row_offset`` are columns and rows of the controller's memory before those of the glass. Of what a
    panel of one light has, only the turn, the pitch, the backlight and the bus are its own too.
    """

    kind: str = "colours"
    packing: Packing = Packing(ROWS, low_first=False)
    """Packing of a frame with one bit per pixel, as firmware keeps it."""
    depth: str = TWO_BYTES
    colour: str = "white"
    ground: str = "black"
    inverts: bool = False
    disc: bool = False
    offset: int = 0
    row_offset: int = 0
    told: ColourSetUp = ColourSetUp()
    start_groups: tuple[bytes, ...] = ()
    """Its start sequence by command, where it was written so."""

    @property
    def planes(self) -> int:
        """The bit planes of its colours."""
        return PLANES

    @property
    def pixel_bytes(self) -> int:
        """Bytes sent per pixel."""
        return size_of_pixel(self.depth)

    def size_of(self, width: int, height: int) -> int:
        """Bytes of a number of pixels across and down."""
        return width * height * self.pixel_bytes

    def padded(self, width: int, height: int) -> tuple[int, int]:
        """No padding: no two pixels share a byte."""
        return 0, 0

    @property
    def is_self_lit(self) -> bool:
        """False: it has a backlight."""
        return False

    @property
    def dark(self) -> Colours:
        """Its ground colour as it shows it."""
        found: Colours = self.kept([self.ground])[0]
        return found

    def encoded(self, colours: Colours) -> npt.NDArray[np.uint8]:
        """Bytes in sending order, the last axis those of a pixel."""
        return encoded(colours, self.depth)

    def decoded(self, values: npt.NDArray[np.int64]) -> Colours:
        """What pixels show whose bytes, the first one highest, make up these values."""
        return decoded(values, self.depth)

    def kept(self, colours: Sequence[str]) -> Colours:
        """Named colours as it shows them, shape (n, 3)."""
        exact = np.array([rgb(COLOURS[name]) for name in colours], np.uint8)
        return self.decoded(values_of(self.encoded(exact)))

    def as_seen(self, colour: str) -> str:
        """``#rrggbb`` of a named colour as a person sees it."""
        return COLOURS[colour]

    def says(self) -> str:
        """E.g. ``128×160 colours``."""
        return f"{self.columns}×{self.rows} colours{', round' if self.disc else ''}"

    def blank(self) -> Memory:
        """A memory of nothing but ground."""
        return ((0,) * self.rows,) * (1 + PLANES)

    def lit(self, memory: Memory) -> ColourFrame:
        """The frame as a person sees it."""
        # Number 0 is its own colour; numbers beyond the last were never written.
        names = [self.colour, *COLOURS, *[self.colour] * (2**PLANES - 1 - len(COLOURS)), self.ground]
        return _lit(self.columns, self.kept(names).tobytes(), memory)

    def cells_lit(self, codes: tuple[int, ...]) -> PixelFrame:
        """Cells alone, in its own colour."""
        plain = super().cells_lit(codes)
        return colour_frame(np.where(pixels_of(plain)[..., None], self.kept([self.colour])[0], self.dark), self.dark)

    def seen(self, frame: PixelFrame) -> PixelFrame:
        """The frame as the glass shows it with the present settings."""
        if not isinstance(frame, ColourFrame):
            return frame
        if not self.told.is_right(self.height):
            built = turned(frame, -self.turns)
            assert isinstance(built, ColourFrame)
            frame = turned(self.told.seen(built, self.dark), self.turns)
            assert isinstance(frame, ColourFrame)
        return self._within_disc(frame) if self.disc else frame

    def _within_disc(self, frame: ColourFrame) -> ColourFrame:
        """The frame without what no glass is over."""
        y, x = np.mgrid[: frame.height, : frame.width]
        away = np.hypot(x + 0.5 - frame.width / 2, y + 0.5 - frame.height / 2)
        is_seen = away <= min(frame.width, frame.height) / 2
        colours = np.where(is_seen[..., None], colours_of(frame), np.uint8(BESIDE_GLASS))
        lit = frame_of(pixels_of(frame) & is_seen)
        return replace(frame, rows=lit.rows, colours=colours.tobytes())

    def sent(self, frame: PixelFrame) -> bytes:
        """The bytes of a frame as a person sees it, in the controller's order."""
        built = turned(frame, -self.turns)
        assert isinstance(built, ColourFrame)
        return self.encoded(colours_of(built)).tobytes()

    def shown(self, data: bytes) -> ColourFrame:
        """The frame that bytes show to a person. Raises ValueError where they are not a frame's."""
        if len(data) != self.frame_size:
            raise ValueError(
                f"a frame of {self.width}×{self.height} pixels with {self.depth} bits each has {self.frame_size} "
                f"bytes, not {len(data)}"
            )
        pixels = np.frombuffer(data, np.uint8).reshape(self.height, self.width, self.pixel_bytes)
        return self.of_values(values_of(pixels))

    def of_values(self, values: npt.NDArray[np.int64]) -> ColourFrame:
        """The frame of pixels, shape (height, width), each an integer as it came over the bus."""
        frame = turned(colour_frame(self.decoded(values), self.dark), self.turns)
        assert isinstance(frame, ColourFrame)
        return frame


@lru_cache(maxsize=16)
def _lit(columns: int, colours: bytes, memory: Memory) -> ColourFrame:
    """``colours`` by their numbers in the planes, and last that of the ground.

    Cached, because one memory is used in many ways: as it is sent, as it is seen, as it would be with other settings.
    """
    table = np.frombuffer(colours, np.uint8).reshape(-1, 3)
    on = pixels_of(PixelFrame(columns, len(memory[0]), memory[0]))
    places = np.zeros(on.shape, np.uint8)
    for bit, plane in enumerate(memory[1:]):
        if any(plane):
            places |= pixels_of(PixelFrame(columns, len(plane), plane)).astype(np.uint8) << bit
    return colour_frame(table[np.where(on, places, np.uint8(2**PLANES))], table[-1])


def build_colour_panel(name: str, values: Mapping[str, Any], fonts: Mapping[str, Font]) -> ColourPanel:
    """A panel from values by parameter name, and a person's own fonts."""
    same = ("depth", "colour", "ground", "inverts", "disc", "offset", "row_offset", "backlight", "low_lights")
    return ColourPanel(
        name=name,
        width=values["width"],
        height=values["height"],
        light="white",
        turns=TURNS[values["turned"]],
        pitch_mm=values["pitch"],
        bus=build_bus({**values, "at_once": 0}),
        fonts=fonts,
        start=read_start(values["start"]),
        start_groups=read_groups(values["start"]),
        told=build_colour_set_up({parameter.name: values[parameter.name] for parameter in SET_UP}),
        **{each: values[each] for each in same},
    )


COLOURED = PanelKind("colours", PARAMETERS, lambda name, values, given: build_colour_panel(name, values, given.fonts))
