"""Paper-like panels with a third ink beside black and white, which take two bits a pixel in two memories."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import Any

import numpy as np
import numpy.typing as npt

from lesart.core.dataclass_later import dataclass
from lesart.core.glass.panels.colour_panel import ColourPanel
from lesart.core.glass.panels.frame import ColourFrame, PixelFrame
from lesart.core.glass.panels.packing import BYTE, ROWS, Packing
from lesart.core.glass.panels.panel_kind import PanelKind
from lesart.core.glass.panels.pixel_colours import COLOURS, Colours, rgb
from lesart.core.glass.panels.pixel_panel import LIGHTS, PAPER, TURNS
from lesart.core.glass.panels.pixel_panel import PARAMETERS as OF_PIXELS
from lesart.core.glass.panels.pixels import colour_frame, colours_of, turned
from lesart.core.glass.panels.slow_change import SlowChange
from lesart.core.glass.panels.start_bytes import START, read_start
from lesart.core.glass.panels.transfer import FOUR_WIRE, build_bus
from lesart.core.glass.panels.transfer import PARAMETERS as BUS
from lesart.core.glyphs.fonts import Font
from lesart.core.parameters import Parameter

INKS = {"red": "#a8251c", "yellow": "#d0a800"}
"""Third inks as they look on paper, which is no screen's red or yellow."""
USUAL_CHANGE = "15 s"
"""Pigments of three sizes are sorted by pulses of many frames. Source: data sheets of such panels."""
BLACK, WHITE, THIRD = 0, 1, 3
"""A pixel: bit 0 is white in the first memory, bit 1 the third ink in the second, which hides what the first says."""
LEAST_CHROMA, LEAST_WHITE = 48, 160
"""From 0 to 255: differences of red, green and blue above which something has a colour, and a level of what has none
from which it is white. Grey is black, because no ink is grey."""

_SAME = {each.name: each for each in OF_PIXELS}
_BUS = {each.name: each for each in BUS}
PARAMETERS = (
    replace(_SAME["width"], default=128),
    replace(_SAME["height"], default=296),
    Parameter("third", "third ink", "choice", "beside black and white", "red", choices=tuple(INKS)),
    Parameter("colour", "colour", "choice", "of what has none of its own", "black", choices=("black", *INKS)),
    _SAME["turned"],
    replace(_SAME["pitch"], default="0.226 mm"),
    replace(
        _SAME["change"],
        help="once it is sent, until the panel takes the next picture; all of it changes each time",
        default=USUAL_CHANGE,
    ),
    Parameter("third_low", "third ink is a 0", "flag", "in the second memory, where it mostly is a 1", False),
    START,
    replace(_BUS["bus"], default=FOUR_WIRE, choices=(FOUR_WIRE,)),
    replace(_BUS["clock"], default="4 MHz"),
)


@dataclass(frozen=True)
class InkPanel(ColourPanel):
    """Its memory is that of any panel in colours; what is white stays paper, what has no colour is black, and every
    other colour is its third ink.

    A frame is sent whole: first the bits of white, then those of the third ink.
    """

    kind: str = "inks"
    light: str = PAPER
    depth: str = "2"
    colour: str = "black"
    ground: str = "white"
    packing: Packing = Packing(ROWS, low_first=False)
    third: str = "red"
    third_low: bool = False
    keeps: bool = True
    change: SlowChange = SlowChange(15.0)

    @property
    def pixel_bytes(self) -> int:
        """One, of which two bits count: firmware sends them apart."""
        return 1

    @property
    def sends_all(self) -> bool:
        """True: pigments of three sizes are only sorted all at once."""
        return True

    @property
    def row_bytes(self) -> int:
        """Bytes of a row in each of its memories."""
        return -(-self.width // BYTE)

    def size_of(self, width: int, height: int) -> int:
        """Bytes of a number of pixels across and down, in both memories."""
        return 2 * super(ColourPanel, self).size_of(width, height)

    def padded(self, width: int, height: int) -> tuple[int, int]:
        """Columns sent beyond a number of them, because a byte holds eight."""
        return self.packing.padded(width, height)

    def says(self) -> str:
        """E.g. ``128×296 pixels in black, white and red``."""
        return f"{self.columns}×{self.rows} pixels in black, white and {self.third}"

    def encoded(self, colours: Colours) -> npt.NDArray[np.uint8]:
        """Which ink each colour is, in two bits; the last axis has one value."""
        chroma = colours.max(axis=-1).astype(np.int16) - colours.min(axis=-1)
        without = np.where(colours.mean(axis=-1) >= LEAST_WHITE, WHITE, BLACK)
        found: npt.NDArray[np.uint8] = np.where(chroma >= LEAST_CHROMA, THIRD, without).astype(np.uint8)[..., None]
        return found

    def decoded(self, values: npt.NDArray[np.int64]) -> Colours:
        """How pixels look that have these two bits."""
        white, black = LIGHTS[PAPER]
        inks = np.array([rgb(each) for each in (black, white, INKS[self.third], INKS[self.third])], np.uint8)
        found: Colours = inks[values & THIRD]
        return found

    def as_seen(self, colour: str) -> str:
        """``#rrggbb`` of a named colour in the ink that it becomes."""
        return f"#{bytes(self.kept([colour])[0]).hex()}"

    def ink_of(self, colour: str) -> str:
        """The name of the ink that a named colour becomes."""
        code = int(self.encoded(np.array(rgb(COLOURS[colour]), np.uint8))[0])
        return {BLACK: "black", WHITE: "white"}.get(code, self.third)

    def sent(self, frame: PixelFrame) -> bytes:
        """Both memories of a frame, one after the other."""
        built = turned(frame, -self.turns)
        assert isinstance(built, ColourFrame)
        codes = self.encoded(colours_of(built))[..., 0]
        codes = np.pad(codes, ((0, 0), (0, -self.width % BYTE)), constant_values=WHITE)
        third = (codes >> 1 & 1).astype(bool) ^ self.third_low
        return np.packbits(codes & 1, axis=1).tobytes() + np.packbits(third, axis=1).tobytes()

    def shown(self, data: bytes) -> ColourFrame:
        """The frame that both memories show. Raises ValueError where they are not a frame's."""
        if len(data) != self.frame_size:
            raise ValueError(
                f"a frame of {self.width}×{self.height} pixels in three inks has {self.frame_size} bytes, "
                f"not {len(data)}"
            )
        bits = np.unpackbits(np.frombuffer(data, np.uint8).reshape(2, self.height, self.row_bytes), axis=-1)
        white, third = bits[..., : self.width].astype(np.int64)
        frame = turned(colour_frame(self.decoded(white | (third ^ self.third_low) << 1), self.dark), self.turns)
        assert isinstance(frame, ColourFrame)
        return frame


def build_ink_panel(name: str, values: Mapping[str, Any], fonts: Mapping[str, Font]) -> InkPanel:
    """A panel from values by parameter name, and a person's own fonts. Raises ValueError with a clause."""
    if values["colour"] in INKS and values["colour"] != values["third"]:
        raise ValueError(f'colour = "{values["colour"]}"; its third ink is {values["third"]}')
    same: Sequence[str] = ("width", "height", "third", "colour", "third_low")
    return InkPanel(
        name=name,
        turns=TURNS[values["turned"]],
        pitch_mm=values["pitch"],
        bus=build_bus({**values, "at_once": 0}),
        fonts=fonts,
        start=read_start(values["start"]),
        change=SlowChange(values["change"]),
        **{each: values[each] for each in same},
    )


INKED = PanelKind("inks", PARAMETERS, lambda name, values, given: build_ink_panel(name, values, given.fonts))
