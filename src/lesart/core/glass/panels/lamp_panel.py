"""Chains of colour lamps on one line: each keeps the first bytes that reach it, and passes on all others."""

from __future__ import annotations

import dataclasses
from collections.abc import Mapping
from dataclasses import replace
from functools import lru_cache
from typing import Any

import numpy as np
import numpy.typing as npt

from lesart.core.dataclass_later import dataclass
from lesart.core.glass.panels.colour_panel import ColourPanel
from lesart.core.glass.panels.frame import ColourFrame, PixelFrame
from lesart.core.glass.panels.panel_kind import PanelKind
from lesart.core.glass.panels.pixel_colours import COLOURS, Colours
from lesart.core.glass.panels.pixel_panel import PARAMETERS as OF_PIXELS
from lesart.core.glass.panels.pixels import colour_frame, colours_of
from lesart.core.glass.panels.transfer import ONE_LINE, Bus
from lesart.core.glyphs.fonts import Font
from lesart.core.parameters import Parameter
from lesart.core.quantity import counted

GREEN_FIRST, RED_FIRST = "green, red, blue", "red, green, blue"
SENT = (
    GREEN_FIRST,
    RED_FIRST,
    "blue, green, red",
    "blue, red, green",
    "green, blue, red",
    "red, blue, green",
    f"{GREEN_FIRST}, white",
    f"{RED_FIRST}, white",
)
"""Orders of the bytes of a lamp, the usual one first; with a fourth one for lamps that have a white light as well."""
BY_ROWS, BY_COLUMNS = RUNS = ("row by row", "column by column")
CORNERS = ("top left", "top right", "bottom left", "bottom right")
MOST_ALONG, MOST_DOWN, MOST_LAMPS = 512, 64, 2048
BIT_HZ, REST_S = "800 kHz", "0.3 ms"
"""Bits a second on the line, and how long it is low before the lamps show what they got.

Source: data sheets of such lamps; older ones show after 0.05 ms.
"""
FULL = 255

_SAME = {each.name: each for each in OF_PIXELS}
PARAMETERS = (
    Parameter("width", "width", "integer", "lamps across, as one sees them", 8, lowest=1, highest=MOST_ALONG),
    Parameter("height", "height", "integer", "lamps down, as one sees them", 1, lowest=1, highest=MOST_DOWN),
    Parameter("colour", "colour", "choice", "of what is lit and has none of its own", "white", choices=tuple(COLOURS)),
    Parameter(
        "sent",
        "sent as",
        "choice",
        "order of a lamp's bytes; a white light beside the coloured ones stays dark",
        GREEN_FIRST,
        choices=SENT,
    ),
    Parameter("runs", "run of the line", "choice", "from lamp to lamp", BY_ROWS, choices=RUNS),
    Parameter(
        "to_and_fro", "to and fro", "flag", "every other row, or column, runs the other way, as on most mats", False
    ),
    Parameter("begins", "begins", "choice", "corner of the first lamp", CORNERS[0], choices=CORNERS),
    replace(_SAME["pitch"], title="lamp pitch", help="from lamp to lamp", default="16.7 mm"),
    replace(_SAME["backlight"], help="of its lamps, by smaller numbers in all their bytes"),
    replace(_SAME["dots"], default="round"),
    Parameter(
        "clock",
        "bits",
        "quantity",
        "a second on the line",
        BIT_HZ,
        unit="Hz",
        lowest=100_000,
        highest=1_000_000,
    ),
    Parameter(
        "rest",
        "rests",
        "quantity",
        "how long the line is low before they show what they got",
        REST_S,
        unit="s",
        lowest=6e-6,
        highest=0.1,
    ),
    Parameter(
        "light_current",
        "current of a light",
        "quantity",
        "of one of a lamp's colours at its brightest",
        "12 mA",
        unit="A",
        lowest=0,
        highest=0.1,
    ),
    Parameter(
        "dark_current", "current of a dark one", "quantity", "of a lamp", "1 mA", unit="A", lowest=0, highest=0.1
    ),
)


@dataclass(frozen=True)
class LampPanel(ColourPanel):
    """Its memory is that of any panel in colours; a frame is sent whole, lamp by lamp, as the line runs."""

    kind: str = "lamps"
    depth: str = "24"
    order: str = GREEN_FIRST
    runs: str = BY_ROWS
    to_and_fro: bool = False
    begins: str = CORNERS[0]
    light_a: float = 0.012
    dark_a: float = 0.001
    bus: Bus = dataclasses.field(default_factory=lambda: Bus(ONE_LINE, 800_000.0, rest_s=0.3e-3))

    @property
    def count(self) -> int:
        """Lamps of the chain."""
        return self.width * self.height

    @property
    def pixel_bytes(self) -> int:
        """Bytes sent for a lamp: one for each of its lights."""
        return len(self.order.split(", "))

    @property
    def sends_all(self) -> bool:
        """True: each lamp takes the first bytes that reach it."""
        return True

    @property
    def is_self_lit(self) -> bool:
        """True: each lamp emits light."""
        return True

    @property
    def level(self) -> int:
        """What 255 is sent as at the set brightness."""
        return round(FULL * self.backlight / 100)

    def says(self) -> str:
        """E.g. ``60 colour lamps``, ``8×8 colour lamps``."""
        if min(self.width, self.height) > 1:
            return f"{self.width}×{self.height} colour lamps"
        return counted(self.count, "colour lamp")

    def encoded(self, colours: Colours) -> npt.NDArray[np.uint8]:
        """Bytes in sending order, the last axis those of a lamp."""
        scaled = (colours.astype(np.uint16) * self.level + FULL // 2) // FULL
        lights = {name: scaled[..., place] for place, name in enumerate(("red", "green", "blue"))}
        dark = np.zeros(scaled.shape[:-1], np.uint16)
        return np.stack([lights.get(name, dark) for name in self.order.split(", ")], axis=-1).astype(np.uint8)

    def decoded(self, values: npt.NDArray[np.int64]) -> Colours:
        """What lamps show whose bytes, the first one highest, make up these values; a white light adds to all."""
        names = self.order.split(", ")
        shifts = {name: 8 * (len(names) - 1 - place) for place, name in enumerate(names)}
        white = values >> shifts["white"] & FULL if "white" in shifts else np.zeros_like(values)
        lights = [np.minimum((values >> shifts[name] & FULL) + white, FULL) for name in ("red", "green", "blue")]
        level = max(self.level, 1)
        found = np.stack([np.minimum((each * FULL + level // 2) // level, FULL) for each in lights], axis=-1)
        return found.astype(np.uint8)

    def sent(self, frame: PixelFrame) -> bytes:
        """The bytes of a frame, lamp by lamp."""
        assert isinstance(frame, ColourFrame)
        return self.encoded(colours_of(frame).reshape(-1, 3)[self.places]).tobytes()

    def of_values(self, values: npt.NDArray[np.int64]) -> ColourFrame:
        """The frame of lamps in the order of the line, each an integer as it was sent."""
        colours = np.empty((self.count, 3), np.uint8)
        colours[self.places] = self.decoded(values.reshape(-1))
        return colour_frame(colours.reshape(self.height, self.width, 3), self.dark)

    @property
    def places(self) -> npt.NDArray[np.int64]:
        """Where each lamp of the line is, row by row from the top left: shape (count,)."""
        return chain_places(self.width, self.height, self.runs, self.begins, to_and_fro=self.to_and_fro)

    def current_a(self, frame: ColourFrame) -> float:
        """Current of a frame: that of every light in proportion to its byte."""
        lit = float(self.encoded(colours_of(frame)).sum()) / FULL
        return lit * self.light_a + self.count * self.dark_a

    @property
    def usual_a(self) -> float:
        """Current while all lamps are lit in the panel's own colour."""
        full = ((1 << self.columns) - 1,) * self.rows
        return self.current_a(self.lit((full, *self.blank()[1:])))

    @property
    def most_a(self) -> float:
        """Current while all lights of all lamps have what white is sent as at the set brightness."""
        return self.count * (3 * self.light_a * self.level / FULL + self.dark_a)


@lru_cache(maxsize=16)
def chain_places(width: int, height: int, runs: str, begins: str, *, to_and_fro: bool) -> npt.NDArray[np.int64]:
    """Where each lamp of a line is, row by row from the top left: shape (width · height,).

    From its corner the line runs along a row or a column, and then along the next one: from the same side again, or
    back where it goes to and fro.
    """
    grid = np.arange(width * height).reshape(height, width)
    down, across = begins.split()
    grid = grid[::-1] if down == "bottom" else grid
    grid = grid[:, ::-1] if across == "right" else grid
    lines = (grid if runs == BY_ROWS else grid.T).copy()
    if to_and_fro:
        lines[1::2] = lines[1::2, ::-1]
    return lines.reshape(-1)


def build_lamp_panel(name: str, values: Mapping[str, Any], fonts: Mapping[str, Font]) -> LampPanel:
    """A panel from values by parameter name, and a person's own fonts. Raises ValueError with a clause."""
    count = values["width"] * values["height"]
    if count > MOST_LAMPS:
        raise ValueError(f"{values['width']}×{values['height']} lamps are {count}; a line drives up to {MOST_LAMPS}")
    same = ("width", "height", "colour", "runs", "to_and_fro", "begins", "backlight")
    return LampPanel(
        name=name,
        light="white",
        pitch_mm=values["pitch"],
        bus=Bus(ONE_LINE, values["clock"], rest_s=values["rest"]),
        fonts=fonts,
        is_round=values["dots"] == "round",
        depth=str(8 * len(values["sent"].split(", "))),
        order=values["sent"],
        light_a=values["light_current"],
        dark_a=values["dark_current"],
        **{each: values[each] for each in same},
    )


LAMPS = PanelKind("lamps", PARAMETERS, lambda name, values, given: build_lamp_panel(name, values, given.fonts))
