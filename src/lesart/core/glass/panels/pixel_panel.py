"""Panels of pixels: any size and colour of light, turned and mirrored, and their packing."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import field
from typing import Any

from lesart.core.dataclass_later import dataclass
from lesart.core.fit.cells import Cell
from lesart.core.glass.panels.frame import PixelFrame
from lesart.core.glass.panels.packing import BYTE, Packing, build_packing, modules_in, pack
from lesart.core.glass.panels.packing import PARAMETERS as PACKING
from lesart.core.glass.panels.panel import Memory, PixelGrid, Plain
from lesart.core.glass.panels.panel_kind import PanelKind
from lesart.core.glass.panels.pixels import frame_of, mirrored, pixels_of, turned
from lesart.core.glass.panels.set_up import PARAMETERS as SET_UP
from lesart.core.glass.panels.set_up import SetUp, build_set_up
from lesart.core.glass.panels.slow_change import PARAMETERS as SLOW_CHANGE
from lesart.core.glass.panels.slow_change import SlowChange, build_slow_change
from lesart.core.glass.panels.start_bytes import START, read_start
from lesart.core.glass.panels.transfer import FOUR_WIRE, Bus, build_bus
from lesart.core.glass.panels.transfer import PARAMETERS as BUS
from lesart.core.glyphs.fonts import Font, built_in, text_rows
from lesart.core.parameters import Parameter

PAPER = "paper"
LIGHTS = {
    "white": ("#05070a", "#dfe9f2"),
    "red": ("#0b0403", "#ff5a36"),
    "blue": ("#03060c", "#63b0ff"),
    "green": ("#050a05", "#7de05a"),
    "amber": ("#0b0804", "#ffb629"),
    "green light": ("#86a135", "#10160a"),
    "grey": ("#a9ad9b", "#23241f"),
    "blue light": ("#1c3f9e", "#e6efff"),
    PAPER: ("#d6d3c8", "#1b1a18"),
}
"""Colours behind a pixel and of a lit pixel: for self-lit panels, those in front of a light, and dark on paper."""
SELF_LIT = ("white", "red", "blue", "green", "amber")
DARK, BRIGHT = "dark", "bright"
MOST_WIDTH, MOST_HEIGHT = 800, 480
BEHIND = {DARK: "#20211d", BRIGHT: "#d9d4c6"}
"""Background of a see-through panel: a wall in the shade, or in the light."""
TURNS = {"not": 0, "a quarter": 1, "half": 2, "three quarters": 3}
DEFAULT_FONT = "text 7"

PARAMETERS = (
    Parameter(
        "width", "width", "integer", "pixels across, as its controller has them", 128, lowest=8, highest=MOST_WIDTH
    ),
    Parameter(
        "height", "height", "integer", "pixels down, as its controller has them", 64, lowest=8, highest=MOST_HEIGHT
    ),
    Parameter("light", "light", "choice", "of its pixels", "white", choices=tuple(LIGHTS)),
    Parameter("turned", "turned", "choice", "clockwise, as it is built in", "not", choices=tuple(TURNS)),
    Parameter("mirror", "mirrored", "flag", "seen from behind, as a see-through panel is", False),
    Parameter("pitch", "pixel pitch", "quantity", "from pixel to pixel", "0.17 mm", unit="mm", lowest=0, above=True),
    Parameter(
        "stripe", "stripe", "integer", "rows on top that have another light; 0: none", 0, lowest=0, highest=MOST_HEIGHT
    ),
    Parameter("stripe_light", "its light", "choice", "of the stripe", "amber", choices=SELF_LIT),
    Parameter("see_through", "see-through", "flag", "what is behind it shows", False),
    Parameter("behind", "behind it", "choice", "what one sees through it", DARK, choices=(DARK, BRIGHT)),
    Parameter(
        "backlight",
        "brightness",
        "quantity",
        "of its pixels, or of the light behind them",
        "100 %",
        unit="%",
        lowest=0,
        highest=100,
    ),
    Parameter(
        "low_lights", "low lights it", "flag", "a low level turns the backlight on, so its duty is the rest", False
    ),
    Parameter("dots", "its dots are", "choice", "as one sees them from near", "square", choices=("square", "round")),
    Parameter(
        "scan_rate",
        "scanned",
        "quantity",
        "times a second its rows are lit in turn, as a camera sees; 0: not known",
        "0 Hz",
        unit="Hz",
        lowest=0,
        highest=10_000,
    ),
    Parameter("keeps", "keeps its picture", "flag", "without power, as paper-like ones do", False),
    *SLOW_CHANGE,
    *SET_UP,
    START,
    *BUS,
    *PACKING,
)


@dataclass(frozen=True)
class PixelPanel(Plain):
    """``columns`` and ``rows`` are pixels as a person sees them; ``width`` and ``height`` those of the controller.

    Its memory is what a person sees: one row of integers, each a row of pixels.
    """

    name: str
    width: int
    height: int
    light: str
    turns: int = 0
    mirror: bool = False
    pitch_mm: float = 0.17
    packing: Packing = Packing()
    stripe: int = 0
    stripe_light: str = "amber"
    see_through: bool = False
    behind: str = DARK
    backlight: float = 100.0
    low_lights: bool = False
    bus: Bus = Bus()
    fonts: Mapping[str, Font] = field(default_factory=dict, compare=False, repr=False)
    """A person's own, beside those that are built in."""
    kind: str = "pixels"
    start: bytes = b""
    is_round: bool = False
    scan_hz: float = 0.0
    keeps: bool = False
    set_up: SetUp = SetUp()
    change: SlowChange = SlowChange()

    @property
    def columns(self) -> int:
        """Pixels across, as mounted."""
        return self.height if self.turns % 2 else self.width

    @property
    def rows(self) -> int:
        """Pixels down, as mounted."""
        return self.width if self.turns % 2 else self.height

    @property
    def planes(self) -> int:
        """No planes: all pixels have one light."""
        return 0

    @property
    def grid(self) -> PixelGrid:
        """Itself."""
        return self

    @property
    def line(self) -> int:
        """The visible cells: nothing can be written beyond the glass."""
        return self.columns

    @property
    def joined(self) -> str:
        """None: a point is a character like others."""
        return ""

    @property
    def frame_size(self) -> int:
        """Bytes of a frame as sent."""
        return self.size_of(self.width, self.height)

    @property
    def modules(self) -> int:
        """Number of chained 8×8 modules; 0 for other panels."""
        return modules_in(self.width, self.height) if self.packing.is_modules else 0

    def size_of(self, width: int, height: int) -> int:
        """Bytes of a number of pixels across and down, as sent."""
        return self.packing.size(width, height)

    def shown_after_s(self, count: int) -> float:
        """Time from the first of a number of data bytes until the panel shows them."""
        return self.bus.transfer_s(count) + self.change.usual_s

    def padded(self, width: int, height: int) -> tuple[int, int]:
        """Columns and rows sent beyond a number of them, because a byte holds eight."""
        return self.packing.padded(width, height)

    @property
    def sends_all(self) -> bool:
        """True where no pixel can be passed over, so that one that differs sends them all."""
        return False

    @property
    def is_self_lit(self) -> bool:
        """True where each pixel emits light, so that lit ones cost current and wear out."""
        return self.light in SELF_LIT

    @property
    def is_paper(self) -> bool:
        """True where pigment is moved: there is no light of its own to dim."""
        return self.light == PAPER

    @property
    def has_light_behind(self) -> bool:
        """True where pixels are dark before a light, which may be dimmed."""
        return not (self.is_self_lit or self.is_paper)

    @property
    def backlight_duty(self) -> float:
        """Share of time, in %, that the line of its backlight is high."""
        return 100.0 - self.backlight if self.low_lights else self.backlight

    def font(self, name: str) -> Font:
        """A person's own font or one of Lesart's; the default for an unknown name."""
        return self.fonts.get(name) or built_in().get(name) or built_in()[DEFAULT_FONT]

    def says(self) -> str:
        """E.g. ``128×64 pixels``."""
        return f"{self.columns}×{self.rows} pixels"

    def code(self, cell: Cell) -> int | None:
        """The Unicode number of its character, where Lesart's own font has it."""
        if cell.code is not None:
            return cell.code
        return ord(cell.letter) if cell.letter in built_in()[DEFAULT_FONT].glyphs else None

    def blank(self) -> Memory:
        """A dark memory."""
        return ((0,) * self.rows,)

    def lit(self, memory: Memory) -> PixelFrame:
        """As a person sees it."""
        return PixelFrame(self.columns, self.rows, memory[0])

    def seen(self, frame: PixelFrame) -> PixelFrame:
        """The frame as the glass shows it with the present settings of rows."""
        if self.set_up.is_right(self.height):
            return frame
        built = mirrored(frame) if self.mirror else frame
        shown = turned(self.set_up.seen(turned(built, -self.turns)), self.turns)
        return mirrored(shown) if self.mirror else shown

    def cells_lit(self, codes: tuple[int, ...]) -> PixelFrame:
        """Cells alone, each as wide as the widest."""
        font = built_in()[f"{DEFAULT_FONT} fixed"]
        width, rows = text_rows(font, [chr(code) for code in codes])
        return PixelFrame(max(width, 1), font.height, rows)

    def sent(self, frame: PixelFrame) -> bytes:
        """The bytes of a frame as a person sees it, in the controller's order."""
        seen = mirrored(frame) if self.mirror else frame
        return pack(turned(seen, -self.turns), self.packing)

    def shown(self, data: bytes) -> PixelFrame:
        """What bytes show to a person. Raises ValueError where they are not a frame's."""
        from lesart.core.glass.panels.packing import unpack

        frame = turned(unpack(data, self.width, self.height, self.packing), self.turns)
        return mirrored(frame) if self.mirror else frame


def build_pixel_panel(name: str, values: Mapping[str, Any], fonts: Mapping[str, Font]) -> PixelPanel:
    """A panel from values by parameter name, and a person's own fonts."""
    packing = build_packing({parameter.name: values[parameter.name] for parameter in PACKING})
    bus = build_bus(dict(values))
    if packing.is_modules:
        _check_modules(values, bus)
    same = ("stripe", "stripe_light", "see_through", "behind", "backlight", "low_lights", "keeps")
    return PixelPanel(
        name=name,
        width=values["width"],
        height=values["height"],
        light=values["light"],
        turns=TURNS[values["turned"]],
        mirror=values["mirror"],
        pitch_mm=values["pitch"],
        packing=packing,
        bus=bus,
        fonts=fonts,
        start=read_start(values["start"]),
        is_round=values["dots"] == "round",
        scan_hz=values["scan_rate"],
        set_up=build_set_up({parameter.name: values[parameter.name] for parameter in SET_UP}),
        change=build_slow_change(values),
        **{each: values[each] for each in same},
    )


def _check_modules(values: Mapping[str, Any], bus: Bus) -> None:
    """Check the size of chained modules. Raises ValueError with a clause."""
    if bus.kind != FOUR_WIRE:
        raise ValueError(f'bus = "{bus.kind}"; chained modules use three of four wires: bus = "{FOUR_WIRE}"')
    if values["width"] % BYTE or values["height"] % BYTE or values["offset"] or values["beyond"]:
        raise ValueError(f"{values['width']}×{values['height']} pixels; chained modules have eight by eight each")


PIXELS = PanelKind("pixels", PARAMETERS, lambda name, values, given: build_pixel_panel(name, values, given.fonts))


def written_text(
    memory: Memory, columns: int, font: Font, x: int, y: int, cells: Sequence[Cell], *, room: int = 0
) -> Memory:
    """A text over what stands there, its upper left corner at x and y; its box of ``room`` pixels at least is cleared.

    What lies outside is cut.
    """
    width, rows = text_rows(font, [cell.letter if cell.code is None else chr(cell.code) for cell in cells])
    return _stamped(memory, columns, x, y, max(width, room), rows, width)


def written_box(memory: Memory, columns: int, x: int, y: int, width: int, height: int, *, filled: bool) -> Memory:
    """The memory with a box, filled or its outline only."""
    full, edge = (1 << width) - 1, (1 << width - 1) | 1
    rows = tuple(full if filled or line in (0, height - 1) else edge for line in range(height))
    return _stamped(memory, columns, x, y, width, rows, width)


def stamped(memory: Memory, columns: int, x: int, y: int, width: int, rows: Sequence[int]) -> Memory:
    """The memory with rows of ``width`` bits drawn into their box."""
    return _stamped(memory, columns, x, y, width, rows, width)


def _stamped(memory: Memory, columns: int, x: int, y: int, box: int, rows: Sequence[int], width: int) -> Memory:
    """Rows of ``width`` bits at the left of a box that is cleared first."""
    everything = (1 << columns) - 1
    clear, shift = ((1 << box) - 1), columns - x - box
    found = list(memory[0])
    for down, row in enumerate(rows, y):
        if 0 <= down < len(found):
            bits = row << (box - width)
            put = (bits << shift if shift >= 0 else bits >> -shift) & everything
            hole = (clear << shift if shift >= 0 else clear >> -shift) & everything
            found[down] = found[down] & ~hole | put
    return (tuple(found), *memory[1:])


__all__ = [
    "PARAMETERS",
    "PixelPanel",
    "build_pixel_panel",
    "frame_of",
    "pixels_of",
    "stamped",
    "written_box",
    "written_text",
]
