"""Panels of 5×8 characters, as their controllers have them: a line of memory per row, eight custom glyphs."""

from __future__ import annotations

import dataclasses
from collections.abc import Mapping
from typing import Any

from lesart.core.dataclass_later import dataclass
from lesart.core.fit.cells import Cell
from lesart.core.glass.panels.bar_letters import FULL, PARTS
from lesart.core.glass.panels.frame import CharacterFrame
from lesart.core.glass.panels.panel import Memory, Plain
from lesart.core.glass.panels.panel_kind import PanelKind
from lesart.core.glass.panels.start_bytes import START, read_start
from lesart.core.glass.panels.transfer import TWO_WIRE, Bus
from lesart.core.glyphs.charsets import SETS, CharacterSet, Dots
from lesart.core.glyphs.dots import dots_of
from lesart.core.parameters import Parameter

LIGHTS = {
    "green light": ("#86a135", "#10160a"),
    "blue light": ("#1c3f9e", "#e6efff"),
    "grey": ("#a9ad9b", "#23241f"),
    "amber light": ("#c98f1e", "#1a1204"),
    "red light": ("#b03a2e", "#f6ded9"),
    "white light": ("#d6dde6", "#17202b"),
}
"""Colours of the backlight, and of a dark dot in front of it."""
EXPANDER = "two-wire expander"
HOOKUPS = ("8 lines", "4 lines", EXPANDER)
PORT_BYTES = 6
"""Bytes sent to an expander for one byte of the display, in a transmission of their own."""
SLOTS = 8
LINE, LINE_OF_FOUR = 40, 20
SECOND_LINE = 0x40
SET_ADDRESS, SET_GLYPH, CLEAR, HOME = 0x80, 0x40, 0x01, 0x02
SAME = "same"
LAMPS = "three lamps"
BRIGHTEST_LAMP = 255
LAMP_INK = "#12141a"
"""Dots before three lamps are dark, whatever the colour behind them."""
UNLIT_GLASS = 24
"""Of 255: a glass with all three lamps off, in the light of the room."""

PARAMETERS = (
    Parameter("columns", "columns", "integer", "characters in a row", 16, lowest=8, highest=40),
    Parameter("rows", "rows", "integer", "rows of characters", 2, lowest=1, highest=4),
    Parameter("light", "light", "choice", "behind the characters", "green light", choices=(*LIGHTS, LAMPS)),
    Parameter(
        "lamps", "lamps", "text", "red, green and blue, each 0 to 255, of three lamps: 255 120 0", "", longest=20
    ),
    Parameter("charset", "character set", "text", f"{'; '.join(SETS)}; or one of the project", next(iter(SETS))),
    Parameter("hookup", "hooked up by", "choice", "how bytes reach it", HOOKUPS[2], choices=HOOKUPS),
    Parameter(
        "clock",
        "bus clock",
        "quantity",
        "of the two wires to an expander",
        "100 kHz",
        unit="Hz",
        lowest=0,
        above=True,
        highest=10_000_000,
    ),
    Parameter("addresses", "row addresses", "text", "of the first cell of each row; empty as usual: 0x00 0x40", ""),
    Parameter(
        "counted_from", "counted from", "integer", "the first row and column are called 0 or 1", 0, lowest=0, highest=1
    ),
    Parameter("shift", "shifted by", "integer", "cells that the display shows further on", 0, lowest=0, highest=39),
    Parameter(
        "contrast",
        "contrast",
        "quantity",
        "50 % is right; less is pale, more shows dark dots",
        "50 %",
        unit="%",
        lowest=0,
        highest=100,
    ),
    Parameter("backlight", "backlight", "quantity", "how bright", "100 %", unit="%", lowest=0, highest=100),
    Parameter(
        "alarm_light",
        "light of alarms",
        "choice",
        "while an alarm of a shown channel is on",
        SAME,
        choices=(SAME, *LIGHTS, LAMPS),
    ),
    Parameter(
        "alarm_lamps", "lamps of alarms", "text", "as lamps, while an alarm is on; empty: the same", "", longest=20
    ),
    Parameter(
        "low_lights", "low lights it", "flag", "a low level turns the backlight on, so its duty is the rest", False
    ),
    Parameter("digit_height", "letter height", "quantity", "of a capital", "5 mm", unit="mm", lowest=0, above=True),
    Parameter("write_time", "a write takes", "quantity", "for one character or command", "40 µs", unit="µs", lowest=0),
    Parameter(
        "clear_time", "clearing takes", "quantity", "until it accepts the next byte", "1.6 ms", unit="ms", lowest=0
    ),
    START,
)


@dataclass(frozen=True)
class CharacterPanel(Plain):
    """Cells of 5×8 dots. ``glyphs`` are a person's own, by letter, in the order of their codes 0 to 7.

    ``addresses`` are the cursor addresses of each row's first cell.
    """

    name: str
    columns: int
    rows: int
    light: str
    kind: str = "characters"
    charset: str = next(iter(SETS))
    hookup: str = HOOKUPS[2]
    addresses: tuple[int, ...] = ()
    counted_from: int = 0
    shift: int = 0
    contrast: float = 50.0
    backlight: float = 100.0
    alarm_light: str = SAME
    write_us: float = 40.0
    clear_ms: float = 1.6
    glyphs: Mapping[str, Dots] = dataclasses.field(default_factory=dict, hash=False)
    own_set: CharacterSet | None = None
    digit_mm: float = 5.0
    clock_hz: float = 100_000.0
    start: bytes = b""
    lamps: tuple[int, ...] = ()
    alarm_lamps: tuple[int, ...] = ()
    low_lights: bool = False

    def light_behind(self, *, alarm: bool) -> tuple[str, str, str]:
        """The colour behind the dots, that of the dots, and its name; ``alarm``: an alarm of a shown channel is on."""
        name = self.alarm_light if alarm and self.alarm_light != SAME else self.light
        if name != LAMPS:
            return (*LIGHTS[name], name)
        levels = self.alarm_lamps if alarm and self.alarm_lamps else self.lamps
        parts = [UNLIT_GLASS + level * (BRIGHTEST_LAMP - UNLIT_GLASS) // BRIGHTEST_LAMP for level in levels]
        colour = "#" + "".join(f"{part:02x}" for part in parts)
        return colour, LAMP_INK, f"{LAMPS}, " + " ".join(map(str, levels))

    @property
    def backlight_duty(self) -> float:
        """Duty cycle of its backlight line, in %."""
        return 100.0 - self.backlight if self.low_lights else self.backlight

    @property
    def joined(self) -> str:
        """None: a point takes a cell of its own."""
        return ""

    @property
    def set(self) -> CharacterSet:
        """The character set: built into the controller, or one of the project."""
        return self.own_set or SETS[self.charset]

    @property
    def line(self) -> int:
        """Writable cells of a row, some of them beyond the glass until the display is shifted."""
        return max(self.columns, LINE if self.rows <= 2 else LINE_OF_FOUR)

    @property
    def bus(self) -> Bus | None:
        """For an expander, six port bytes per byte of the panel, each in a transmission with only the address; else
        lines of its own."""
        return Bus(TWO_WIRE, self.clock_hz, at_once=PORT_BYTES, head=1) if self.hookup == EXPANDER else None

    @property
    def bar_letters(self) -> tuple[str, ...]:
        """Bars in steps of a column of dots."""
        return (*PARTS, FULL)

    @property
    def slots(self) -> tuple[int, int]:
        """Its glyphs, and room for eight."""
        return len(self.glyphs), SLOTS

    def substitute(self, letter: str) -> str | None:
        """The nearest letter of its set."""
        return self.set.substitute(letter)

    def says(self) -> str:
        """E.g. ``16×2 characters``."""
        return f"{self.columns}×{self.rows} characters"

    def code(self, cell: Cell) -> int | None:
        """The code to send; a person's own glyphs come first."""
        if cell.code is not None:
            return cell.code
        own = list(self.glyphs)
        if cell.letter in own[:SLOTS]:
            return own.index(cell.letter)
        return self.set.code(cell.letter)

    def blank(self) -> Memory:
        """The memory full of blanks, as after a clear."""
        return ((ord(" "),) * self.line,) * self.rows

    def dots(self, code: int) -> Dots:
        """The dots of a code. Codes 8 to 15 repeat the person's own glyphs."""
        own = list(self.glyphs.values())
        if code < 2 * SLOTS:
            slot = code % SLOTS
            return own[slot] if slot < len(own) else (0,) * 8
        return self.set.dots(code)

    def letter(self, code: int) -> str:
        """The letter that a code shows; a blank where it shows nothing."""
        own = list(self.glyphs)
        if code < 2 * SLOTS:
            slot = code % SLOTS
            return own[slot] if slot < len(own) else " "
        return self.set.letters.get(code, " ")

    def lit(self, memory: Memory) -> CharacterFrame:
        """The part of each line that the glass shows; a code without a glyph is dark."""
        seen = tuple(tuple(row[(column + self.shift) % len(row)] for column in range(self.columns)) for row in memory)
        return CharacterFrame(seen, tuple(tuple(self.dots(code) for code in row) for row in seen))

    def cells_lit(self, codes: tuple[int, ...]) -> CharacterFrame:
        """Dots of cells alone, independent of position."""
        return CharacterFrame((codes,), (tuple(self.dots(code) for code in codes),))

    def controller(self, row: int) -> int:
        """The controller of a row, 0 or 1: each has an enable line of its own."""
        return int(self.columns * self.rows > 2 * LINE and row >= 2)

    def address(self, row: int, column: int) -> int:
        """Address of a cell in its controller's memory."""
        return self.addresses[row] + column


def usual_addresses(columns: int, rows: int) -> tuple[int, ...]:
    """Rows three and four continue where one and two end; a 40×4 panel has a second controller that begins again."""
    if columns * rows > 2 * LINE:
        return (0, SECOND_LINE, 0, SECOND_LINE)
    return (0, SECOND_LINE, columns, SECOND_LINE + columns)[:rows]


def build_character_panel(
    name: str, values: Mapping[str, Any], glyphs: Mapping[str, str], charsets: Mapping[str, CharacterSet]
) -> CharacterPanel:
    """A panel from values by parameter name, and glyphs as drawings. Raises ValueError with a clause."""
    columns, rows = values["columns"], values["rows"]
    known = {**SETS, **charsets}
    if values["charset"] not in known:
        sets = ", ".join(f'"{each}"' for each in known)
        raise ValueError(f'character set = "{values["charset"]}"; it must be one of {sets}')
    own = {}
    for letter, drawn in glyphs.items():
        try:
            own[letter] = dots_of(drawn)
        except ValueError as error:
            raise ValueError(f'glyph "{letter}" = "{drawn}"; {error}') from error
    return CharacterPanel(
        name=name,
        columns=columns,
        rows=rows,
        light=values["light"],
        kind="characters",
        charset=values["charset"],
        hookup=values["hookup"],
        addresses=_addresses(values["addresses"], columns, rows),
        counted_from=values["counted_from"],
        shift=values["shift"],
        contrast=values["contrast"],
        backlight=values["backlight"],
        alarm_light=values["alarm_light"],
        write_us=values["write_time"],
        clear_ms=values["clear_time"],
        glyphs=own,
        own_set=charsets.get(values["charset"]),
        digit_mm=values["digit_height"],
        clock_hz=values["clock"],
        start=read_start(values["start"]),
        lamps=_levels("lamps", values["lamps"]) or (BRIGHTEST_LAMP,) * 3,
        alarm_lamps=_levels("lamps of alarms", values["alarm_lamps"]),
        low_lights=values["low_lights"],
    )


def _levels(title: str, written: str) -> tuple[int, ...]:
    """Levels of the three lamps. Raises ValueError with a clause."""
    parts = written.replace(",", " ").split()
    if not parts:
        return ()
    levels = tuple(int(part) if part.isdecimal() else -1 for part in parts)
    if len(levels) != 3 or any(not 0 <= level <= BRIGHTEST_LAMP for level in levels):
        raise ValueError(f'{title} = "{written}"; it needs red, green and blue from 0 to 255, like "255 120 0"')
    return levels


def _addresses(written: str, columns: int, rows: int) -> tuple[int, ...]:
    if not written.strip():
        return usual_addresses(columns, rows)
    try:
        found = tuple(int(part, 0) for part in written.split())
    except ValueError:
        found = ()
    if len(found) != rows or any(not 0 <= address < SET_ADDRESS for address in found):
        usual = " ".join(f"0x{address:02X}" for address in usual_addresses(columns, rows))
        raise ValueError(f'row addresses = "{written}"; it needs {rows} of them from 0x00 to 0x7F, like "{usual}"')
    return found


CHARACTERS = PanelKind(
    "characters",
    PARAMETERS,
    lambda name, values, given: build_character_panel(name, values, given.glyphs, given.charsets),
    has_glyphs=True,
)
