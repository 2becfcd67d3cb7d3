"""Panels of 7, 14 or 16 segments: one row of digits, with their points and colons."""

from __future__ import annotations

import dataclasses
from collections.abc import Mapping
from typing import Any

from lesart.core.dataclass_later import dataclass
from lesart.core.fit.cells import Cell
from lesart.core.glass.panels.bar_letters import BARS, PARTS
from lesart.core.glass.panels.frame import SegmentFrame
from lesart.core.glass.panels.panel import Memory, Plain
from lesart.core.glass.panels.panel_kind import PanelKind
from lesart.core.glass.panels.scan import Scan
from lesart.core.glass.panels.segment_wiring import (
    BYTE,
    OPEN,
    SegmentWiring,
    read_digits,
    read_order,
    usual_order,
    usual_wiring,
)
from lesart.core.glass.panels.start_bytes import START, read_start
from lesart.core.glass.panels.transfer import TWO_WIRE, Bus
from lesart.core.glyphs.segments import ALPHABETS, Alphabet
from lesart.core.parameters import Parameter

COLOURS = {"red": "#ff5a36", "green": "#7de05a", "amber": "#ffb629", "blue": "#69a8ff", "white": "#e9f1ff"}
SCANNED, DIRECT, REGISTERS, DRIVER, THROUGH, NUMBERED, ADDRESSED = DRIVES = (
    "scanned",
    "direct",
    "shift registers",
    "two-line driver",
    "scanned through registers",
    "numbered driver",
    "driver with an address",
)
COMMON = {"cathode": 1, "anode": 0}
MOST_DIGITS = 16
MOST_NUMBERED, NUMBERED_ORDER = 8, "g f e d c b a ."
"""Most digits of a numbered driver, and its bit order: the lowest lights the middle segment.

Source: the data sheets of such drivers.
"""
ROOM, BYTES_A_PLACE = 16, 2
"""Bytes of a two-wire driver, two for each digit, the lower one first. Source: the data sheets of such drivers."""
BRIGHTEST = 7
ROOM_OF_DRIVER = 16
"""Bytes of a two-line driver: its address has four bits. Source: the data sheets of such drivers."""
MOST_BYTE = 0xFF
BEFORE, BEHIND = "the byte before", "the byte behind"

PARAMETERS = (
    Parameter("digits", "digits", "integer", "digits in the row", 4, lowest=1, highest=MOST_DIGITS),
    Parameter("points", "points", "flag", "each digit has a decimal point", True),
    Parameter("colour", "colour", "choice", "of the light", "red", choices=tuple(COLOURS)),
    Parameter("segments", "segments", "choice", "of each digit", "7", choices=tuple(ALPHABETS)),
    Parameter("colons", "colons after", "text", "digits, counted from 1 at the left, that a colon follows: 2", ""),
    Parameter("common", "common", "choice", "what the segments of a digit share", "cathode", choices=tuple(COMMON)),
    Parameter("inverted", "inverted", "flag", "a transistor between inverts the segment lines", False),
    Parameter(
        "order",
        "bits light",
        "text",
        "segments from bit 0 on, - for none; empty as usual: a b c d e f g .",
        "",
    ),
    Parameter(
        "chain",
        "sent first",
        "text",
        "left to right, right to left, or digits like 4 3 2 1; of a driver with an address - for a place without one",
        "left to right",
    ),
    Parameter("drive", "driven", "choice", "how the lines are held", DRIVES[0], choices=DRIVES),
    Parameter("dimmed_by", "dimmed by", "text", "command to which a driver's brightness step is added: 0x88", ""),
    Parameter("begins_by", "begins by", "text", "command that a driver wants before the first digit: 0xC0", ""),
    Parameter(
        "colons_at",
        "colons at",
        "text",
        "byte and bit that light them, of a driver with an address: 4 1; empty: a bit of the digit before",
        "",
    ),
    Parameter(
        "clock",
        "bus clock",
        "quantity",
        "of the two-wire bus, where the driver is on one",
        "100 kHz",
        unit="Hz",
        lowest=0,
        above=True,
        highest=5_000_000,
    ),
    Parameter("digit_height", "digit height", "quantity", "of a digit", "14 mm", unit="mm", lowest=0, above=True),
    Parameter(
        "chosen",
        "digits chosen by",
        "choice",
        "of registers that digits are scanned through: the byte sent before their segments, or after them",
        BEHIND,
        choices=(BEFORE, BEHIND),
    ),
    Parameter("chosen_low", "chosen by low", "flag", "a low bit of that byte lights its digit", True),
    Parameter("latch", "latched", "flag", "shift registers show all digits at once, when all have arrived", True),
    Parameter(
        "brightness",
        "brightness",
        "integer",
        "step of a driver that has them, 0 to 7",
        BRIGHTEST,
        lowest=0,
        highest=BRIGHTEST,
    ),
    Parameter(
        "scan_rate",
        "scanned",
        "quantity",
        "times a second a driver lights its digits in turn, as a camera sees; 0: not known",
        "0 Hz",
        unit="Hz",
        lowest=0,
        highest=10_000,
    ),
    START,
)


@dataclass(frozen=True)
class SegmentPanel(Plain):
    """Digits in one row. Its codes are the masks of its alphabet; ``glyphs`` are custom ones, by letter."""

    name: str
    digits: int
    points: bool
    colour: str
    scan: Scan | None = None
    kind: str = "segments"
    segments: str = "7"
    colons: tuple[int, ...] = ()
    wiring: SegmentWiring = dataclasses.field(default_factory=usual_wiring)
    drive: str = DRIVES[0]
    brightness: int = BRIGHTEST
    glyphs: Mapping[str, int] = dataclasses.field(default_factory=dict, hash=False)
    latch: bool = True
    digit_mm: float = 14.0
    start: bytes = b""
    scan_hz: float = 0.0
    commands: tuple[int | None, int | None] = (None, None)
    """Commands of a driver: the one to which brightness is added, and the one before the first digit; None without."""

    chosen: str = BEHIND
    chosen_low: bool = True
    places: tuple[int, ...] = ()
    """For a driver with an address: position of each digit of the chain in its memory, in pairs of bytes."""
    colons_at: tuple[int, int] | None = None
    clock_hz: float = 100_000.0

    @property
    def is_addressed(self) -> bool:
        """True where its driver is a two-wire device with a memory of its own."""
        return self.drive == ADDRESSED

    @property
    def bus(self) -> Bus | None:
        """The two-wire bus of a driver with an address; data come after its address and their position."""
        return Bus(TWO_WIRE, self.clock_hz, 0, 1) if self.is_addressed else None

    @property
    def sent_size(self) -> int:
        """Bytes of a whole frame as sent."""
        return ROOM if self.is_addressed else self.digits * self.wiring.bytes_a_digit

    @property
    def is_numbered(self) -> bool:
        """True where each digit is sent as its number and one byte."""
        return self.drive == NUMBERED

    def numbered(self, masks: tuple[int, ...]) -> tuple[tuple[int, int], ...]:
        """The number of each digit of such a driver, from 1 on, and its byte."""
        return tuple((number, self.wiring.bits(masks[digit])) for number, digit in enumerate(self.wiring.digits, 1))

    @property
    def is_shifted(self) -> bool:
        """True where its segments and its digit select come through the same registers."""
        return self.drive == THROUGH

    def slot(self, digit: int, mask: int) -> bytes:
        """The bytes shifted for one digit: its segments, and the byte that selects it, in the order of ``chosen``."""
        place = 1 << self.wiring.digits.index(digit)
        size = -(-self.digits // BYTE)
        choice = (place ^ ((1 << BYTE * size) - 1) if self.chosen_low else place).to_bytes(size, "big")
        lit = self.wiring.bits(mask).to_bytes(self.wiring.bytes_a_digit, "big")
        return choice + lit if self.chosen == BEFORE else lit + choice

    @property
    def alphabet(self) -> Alphabet:
        """The shapes of letters."""
        return ALPHABETS[self.segments]

    @property
    def columns(self) -> int:
        """Number of digits."""
        return self.digits

    @property
    def rows(self) -> int:
        """Always one row."""
        return 1

    @property
    def line(self) -> int:
        """Writable cells of a row."""
        return self.digits

    @property
    def joined(self) -> str:
        """The marks that share a digit's cell, where it has points or colons."""
        return ("." if self.points else "") + (":" if self.colons else "")

    @property
    def bar_letters(self) -> tuple[str, ...]:
        """One vertical pair of segments, then both."""
        return (PARTS[0], BARS)

    def says(self) -> str:
        """E.g. ``4 digits, scanned``."""
        kind = "" if self.segments == "7" else f" of {self.segments} segments"
        how = "steady" if self.drive == DRIVES[0] and self.scan is None else self.drive
        return f"{self.digits} digit{'s' if self.digits != 1 else ''}{kind}, {how}"

    def code(self, cell: Cell) -> int | None:
        """The segment mask; None for a letter without a shape, or a mark that no digit has."""
        if cell.code is not None:
            return cell.code
        shape = self.glyphs.get(cell.letter, self.alphabet.shapes.get(cell.letter))
        if shape is None or (cell.point and not self.points) or (cell.colon and not self.colons):
            return None
        return shape | (self.alphabet.point if cell.point else 0) | (self.alphabet.colon if cell.colon else 0)

    def sent_code(self, code: int) -> int:
        """The value sent for the mask of one digit: its bits in wiring order, inverted where active low."""
        return self.wiring.bits(code)

    def blank(self) -> Memory:
        """All dark."""
        return ((0,) * self.digits,)

    def lit(self, memory: Memory) -> SegmentFrame:
        """The frame of a memory, without segments that do not exist."""
        alphabet = self.alphabet
        there = [
            (alphabet.point if self.points else 0)
            | (alphabet.colon if place in self.colons else 0)
            | (alphabet.point - 1)
            for place in range(1, self.digits + 1)
        ]
        return SegmentFrame(tuple(code & lamps for code, lamps in zip(memory[0], there, strict=True)), self.segments)

    def cells_lit(self, codes: tuple[int, ...]) -> SegmentFrame:
        """Cells by themselves, wherever they will stand."""
        return SegmentFrame(codes, self.segments)

    def sent(self, frame: SegmentFrame) -> bytes:
        """The bytes of a frame in the order of the chain; for a driver with an address its whole memory."""
        if not self.is_addressed:
            return self.wiring.sent(frame.masks)
        held = bytearray(ROOM)
        for place, digit in zip(self.places, self.wiring.digits, strict=True):
            bits = self.wiring.bits(frame.masks[digit]).to_bytes(BYTES_A_PLACE, "little")
            held[BYTES_A_PLACE * place : BYTES_A_PLACE * (place + 1)] = bits
        if self.colons_at is not None and any(mask & self.alphabet.colon for mask in frame.masks):
            held[self.colons_at[0]] |= 1 << self.colons_at[1]
        return bytes(held)

    def shown(self, data: bytes) -> SegmentFrame:
        """The frame of bytes sent in this order."""
        if not self.is_addressed:
            return SegmentFrame(self.wiring.lit(data), self.segments)
        masks = [0] * self.digits
        for place, digit in zip(self.places, self.wiring.digits, strict=True):
            bits = data[BYTES_A_PLACE * place : BYTES_A_PLACE * (place + 1)]
            masks[digit] = self.wiring.mask(int.from_bytes(bits, "little"))
        if self.colons_at is not None and data[self.colons_at[0]] >> self.colons_at[1] & 1:
            masks = [mask | (self.alphabet.colon if at in self.colons else 0) for at, mask in enumerate(masks, 1)]
        return SegmentFrame(tuple(masks), self.segments)


def build_segment_panel(
    name: str, values: Mapping[str, Any], scan: Scan | None, glyphs: Mapping[str, str]
) -> SegmentPanel:
    """A panel from values by parameter name, and glyphs as segments by name. Raises ValueError with a clause."""
    segments, digits = values["segments"], values["digits"]
    if values["drive"] == NUMBERED and (segments != "7" or digits > MOST_NUMBERED):
        raise ValueError(f'driven = "{NUMBERED}"; such a driver has up to {MOST_NUMBERED} digits of 7 segments')
    usual = NUMBERED_ORDER if values["drive"] == NUMBERED else usual_order(segments)
    order = read_order(values["order"] or usual, segments)
    lit_by = COMMON[values["common"]] ^ int(values["inverted"])
    chain, places = values["chain"], tuple(range(digits))
    if values["drive"] == ADDRESSED:
        chain, places = _places(chain, digits, -(-len(order) // BYTE))
    wiring = SegmentWiring(segments, order, read_digits(chain, digits), lit_by)
    alphabet = ALPHABETS[segments]
    own = {letter: alphabet.mask(lit) for letter, lit in glyphs.items()}
    return SegmentPanel(
        name=name,
        digits=digits,
        points=values["points"],
        colour=values["colour"],
        scan=scan,
        kind="segments",
        segments=segments,
        colons=_colons(values["colons"], digits),
        wiring=wiring,
        drive=values["drive"],
        brightness=values["brightness"],
        glyphs=own,
        latch=values["latch"],
        chosen=values["chosen"],
        chosen_low=values["chosen_low"],
        digit_mm=values["digit_height"],
        start=read_start(values["start"]),
        scan_hz=values["scan_rate"],
        places=places,
        colons_at=_colons_at(values["colons_at"]),
        clock_hz=values["clock"],
        commands=(_command("dimmed by", values["dimmed_by"]), _command("begins by", values["begins_by"])),
    )


def _places(chain: str, digits: int, bytes_a_digit: int) -> tuple[str, tuple[int, ...]]:
    """The chain without its gaps, and the position of each of its digits. Raises ValueError with a clause."""
    parts = chain.split()
    has_gaps = OPEN in parts
    places = tuple(at for at, part in enumerate(parts) if part != OPEN) if has_gaps else tuple(range(digits))
    if bytes_a_digit > BYTES_A_PLACE or places[-1:] >= (ROOM // BYTES_A_PLACE,):
        raise ValueError(
            f'driven = "{ADDRESSED}"; such a driver has {ROOM // BYTES_A_PLACE} places of {8 * BYTES_A_PLACE} bits'
        )
    return " ".join(part for part in parts if part != OPEN), places


def _colons_at(written: str) -> tuple[int, int] | None:
    if not written.strip():
        return None
    try:
        byte, bit = (int(part, 0) for part in written.split())
    except ValueError:
        byte, bit = -1, -1
    if not (0 <= byte < ROOM and 0 <= bit < BYTE):
        raise ValueError(
            f'colons at = "{written}"; it is a byte from 0 to {ROOM - 1} and a bit from 0 to 7, like "4 1"'
        )
    return byte, bit


def _command(title: str, written: str) -> int | None:
    if not written.strip():
        return None
    try:
        found = int(written, 0)
    except ValueError:
        found = -1
    if not 0 <= found <= MOST_BYTE:
        raise ValueError(f'{title} = "{written}"; it is a byte from 0x00 to 0xFF, like "0x88"')
    return found


def _colons(written: str, digits: int) -> tuple[int, ...]:
    try:
        found = tuple(sorted({int(part) for part in written.split()}))
    except ValueError:
        found = (0,)
    if any(not 0 < place <= digits for place in found):
        raise ValueError(f'colons after = "{written}"; they are digits from 1 to {digits}, like "2"')
    return found


def _is_scanned(values: Mapping[str, Any]) -> bool:
    return values.get("drive") in (SCANNED, THROUGH) and values.get("digits", 1) > 1


SEGMENTS = PanelKind(
    "segments",
    PARAMETERS,
    lambda name, values, given: build_segment_panel(name, values, given.scan, given.glyphs),
    has_glyphs=True,
    is_scanned=_is_scanned,
    may_be_scanned=True,
)
