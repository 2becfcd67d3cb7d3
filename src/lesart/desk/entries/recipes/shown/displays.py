"""A display described in a line: its panel, how it is driven, its part in the hook-up, and a channel on its face."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from dataclasses import replace

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import RequestError
from lesart.core.fit.field import Field
from lesart.core.fit.inspect import width_that_shows
from lesart.core.glass.panels.catalogue import CATALOGUE, MOST_ON_TWO, is_chained, is_paper, named
from lesart.core.glass.panels.panel import Panel, PixelGrid
from lesart.core.glass.panels.pixel_panel import DEFAULT_FONT
from lesart.core.glass.panels.segment_panel import ADDRESSED, MOST_NUMBERED, NUMBERED, THROUGH
from lesart.core.glyphs.fonts import FONTS
from lesart.core.notes import Written
from lesart.core.quantity import listed
from lesart.core.wire.catalogue import KINDS as PARTS
from lesart.core.wire.entry import free_name
from lesart.desk.entries.arranging import arranged
from lesart.desk.entries.edit_result import Edited
from lesart.desk.entries.recipes.hooked import with_joined
from lesart.desk.entries.recipes.recipe import Table
from lesart.desk.state import State
from lesart.project.assumed import ASSUMED, joined
from lesart.project.check import check_project
from lesart.project.model import Channel, Project
from lesart.project.text import Editor

NUMBERS = {
    word: str(number) for number, word in enumerate(["one", "two", "three", "four", "five", "six", "seven", "eight"], 1)
}
CHAINED = "chained modules"
LEAST_FOR_TWO = 16
"""Rows of pixels for a name above a number."""
LEAST_FOR_LETTERS = 5
"""Rows of pixels for any letter."""
SIZES = {"columns", "rows", "width", "height"}
DEGREE = "°"


@dataclass(frozen=True)
class Driven:
    """One way to drive a kind of panel: the values of its table, and its part in the hook-up, if the catalogue has
    one."""

    says: str
    table: Table
    part: str = ""
    also: str = ""
    """Another part that it needs."""


HOW: Mapping[str, Mapping[str, Driven]] = {
    "characters": {
        "on two wires": Driven("an adapter for the two-wire bus", {}, "two-wire character display"),
        "on four lines": Driven("four data lines", {"hookup": "4 lines"}, "character display", "potentiometer"),
        "on eight lines": Driven("eight data lines", {"hookup": "8 lines"}, "character display", "potentiometer"),
    },
    "pixels": {
        "on two wires": Driven("the two-wire bus", {"bus": "two-wire"}, "two-wire pixel display"),
        "on four wires": Driven("clock, data, select and command", {"bus": "four-wire"}, "four-wire pixel display"),
        "in a chain": Driven("clock, data and select, one behind the other", {"bus": "four-wire"}, CHAINED),
    },
    "e-paper": {
        "on four wires": Driven("clock, data, select, command and busy", {"bus": "four-wire"}, "e-paper display"),
    },
    "colours": {
        "on four wires": Driven("clock, data, select and command", {"bus": "four-wire"}, "colour display"),
    },
    "lamps": {
        "on one line": Driven("one line of pulses, from lamp to lamp", {}, "colour lamps"),
    },
    "segments": {
        "scanned": Driven("lit in turn by the board", {"drive": "scanned"}, "four digits"),
        "direct": Driven("each segment on a line of its own", {"drive": "direct"}, "one digit"),
        "on a two-line driver": Driven(
            "a driver that scans by itself", {"drive": "two-line driver"}, "digits on two lines"
        ),
        "on two wires": Driven(
            "a driver with an address on the two-wire bus", {"drive": ADDRESSED}, "digits with an address"
        ),
        "on a numbered driver": Driven(
            "a driver that is told each digit's number", {"drive": NUMBERED}, "numbered digits"
        ),
        "through registers": Driven("lit in turn through two registers", {"drive": THROUGH}, "digits on registers"),
        "on shift registers": Driven("a register for each digit", {"drive": "shift registers"}),
    },
}
"""Ways to drive each kind of panel, and their words."""
MOST_CHOSEN = 8
"""Most digits selected by the bits of one byte and scanned often enough."""
DIGITS_OF = {"four digits": 4, "one digit": 1}
"""Parts for one panel only."""


def displays() -> dict[str, str]:
    """Every display that can be typed, with a description; the usual ones first."""
    usual = ("16×2 characters on two wires", "four scanned digits", "128×64 pixels on two wires")
    found = {
        _called(kind, how): f"{driven.says}, and its part" if _has_part(kind, driven) else driven.says
        for kind, table in CATALOGUE.items()
        for how, driven in ways_of(kind).items()
        if _can_be(table, driven)
    }
    return {**{name: found[name] for name in usual}, **found}


def hows_of(kind: str) -> tuple[str, ...]:
    """The ways in which a panel of the catalogue can be driven, the usual one first."""
    table = CATALOGUE[kind]
    return tuple(how for how, driven in ways_of(kind).items() if _can_be(table, driven))


def ways_of(kind: str) -> Mapping[str, Driven]:
    """All ways to drive what a panel of the catalogue is, by their words."""
    table = CATALOGUE[kind]
    return HOW["e-paper" if is_paper(table) else str(table["kind"])]


def _called(kind: str, how: str) -> str:
    """A display as one says it: ``four scanned digits``."""
    words = {number: word for word, number in NUMBERS.items()}
    count, _, rest = kind.partition(" ")
    return f"{words[count]} scanned {rest}" if how == "scanned" and count in words else f"{kind} {how}"


def _can_be(table: Mapping[str, Written], driven: Driven) -> bool:
    if is_chained(table) != (driven.part == CHAINED):
        return False
    if driven.table.get("bus") == "two-wire" and int(table["width"]) * int(table["height"]) > MOST_ON_TWO:
        return False
    drive = driven.table.get("drive")
    if drive == "scanned" and table.get("drive", "scanned") != "scanned":
        return False
    if drive == ADDRESSED and (int(table["digits"]) > MOST_CHOSEN or table.get("segments", "7") == "16"):
        return False
    if drive == THROUGH and not 1 < int(table["digits"]) <= MOST_CHOSEN:
        return False
    if drive == NUMBERED and (int(table["digits"]) > MOST_NUMBERED or table.get("segments", "7") != "7"):
        return False
    if drive == "direct" and table["digits"] != 1:
        return False
    return driven.part not in DIGITS_OF or table["digits"] == DIGITS_OF[driven.part] or drive == "scanned"


def display_in(typed: str) -> tuple[str, Driven, str] | None:
    """The panel of the catalogue, how it is driven, and the rest as a name; None where the drive is not stated."""
    plain = re.sub(r"^(?:an? |the )", "", typed.strip().lower())
    plain = re.sub(r"\b(one|two|three|four|five|six|seven|eight) (?=(?:scanned )?digits?\b)", _digits, plain)
    plain = re.sub(r"\bscanned (digits?)\b", r"\1 scanned", plain)
    found = named(plain)
    if found is None:
        return None
    kind, rest = found
    for how, driven in ways_of(kind).items():
        if re.match(rf"{how}\b", rest) and _can_be(CATALOGUE[kind], driven):
            end = len(rest) - len(rest[len(how) :].lstrip())
            name = rest[end:].strip()
            return kind, driven, typed.strip()[-len(name) :] if name else ""
    return None


def _digits(match: re.Match[str]) -> str:
    return f"{NUMBERS[match[1]]} "


def with_display(
    editor: Editor, state: State, typed: str, told: Callable[[str], Table] = lambda kind: {}, address: str = ""
) -> Edited:
    """A display more, with the chosen channel on it; ``told`` is what else is known of a panel of some kind,
    ``address`` the stated one of its part.

    Raises RequestError for a name that is taken, and for an address that its part has not.
    """
    found = display_in(typed)
    if found is None:
        raise RequestError(f'"{typed.strip()}" is not one of {", ".join(displays())}.')
    kind, driven, name = found
    project = state.project
    is_listed = not SIZES & set(told(kind))  # of another size than the catalogue's, it is no panel that is there
    alike = _panel_without_part(project, kind, driven) if not name and is_listed else ""
    there = "" if name else _part_without_panel(project, driven.part)
    _check_address(driven.part, address, typed)
    name = alike or there or name or _free(project, "glass" if CATALOGUE[kind]["kind"] != "segments" else "digits")
    if name in project.panels and not alike:
        raise RequestError(f'There is a panel "{name}" already; give this one another name.')
    text = state.history.text
    if alike:
        for key, value in (driven.table | told(kind)).items():
            text = editor.with_value(text, ("panels", name, key), value)
    else:
        table = {**CATALOGUE[kind], **driven.table, **_colons(kind, driven), **told(kind)}
        text = editor.with_table(text, ("panels", name), table)
    if _has_part(kind, driven) and name not in project.hookup.parts:
        text = editor.with_table(text, ("parts", name), _part(driven.part) | ({"address": address} if address else {}))
        new = [name]
        if driven.also:
            new.append(free_name(project.hookup.parts, f"{name} contrast"))
            text = editor.with_table(text, ("parts", new[-1]), {"kind": driven.also})
        text = with_joined(editor, text, project, new)
    elif address:
        text = editor.with_value(text, ("parts", name, "address"), address)
    if alike and project.faces_on(name):
        return Edited(text, f"{name}: {typed.strip()}, with its part and the face that it has")
    face = free_name(project.faces, name)
    text = editor.with_table(text, ("faces", face), {"panel": name, **_seldom(kind)})
    text, placed = _with_channel(editor, text, state, name, face)
    return Edited(text, f"added: {name}, {typed.strip()}, with {placed} on it")


def _seldom(kind: str) -> Table:
    """How often a slow panel is drawn at first: about a tenth of the time it changes."""
    if not is_paper(CATALOGUE[kind]):
        return {}
    return {"redraw": "0.02 Hz" if CATALOGUE[kind].get("quick_change", "0 s") == "0 s" else "0.2 Hz"}


def _colons(kind: str, driven: Driven) -> Table:
    """The colon of a clock, which has a position of its own in a driver with an address."""
    is_clock = CATALOGUE[kind].get("colons") == "2" and driven.table.get("drive") == ADDRESSED
    return {"chain": "1 2 - 3 4", "colons_at": "4 1"} if is_clock else {}


def _part(kind: str) -> Table:
    """The table of a part, with an assumed current of its lamps."""
    lamps = [each for each in PARTS[kind].parameters if each.name in ("forward", "current")]
    table: Table = {"kind": kind, **{each.name: str(each.default) for each in lamps}}
    return {**table, ASSUMED: joined(each.name for each in lamps)} if lamps else table


def _check_address(part: str, address: str, typed: str) -> None:
    """Raises RequestError where a part has no such address."""
    can_be = PARTS[part].addresses if part in PARTS else ()
    if address and not can_be:
        raise RequestError(f'"{typed.strip()}" is on no bus with addresses; {address} says nothing there.')
    if address and int(address, 16) not in can_be:
        known = listed([f"0x{each:02X}" for each in can_be])
        raise RequestError(f"{address} is no address of {PARTS[part].called}; it can have {known}.")


def _has_part(kind: str, driven: Driven) -> bool:
    return bool(driven.part) and CATALOGUE[kind].get("digits", 0) == DIGITS_OF.get(
        driven.part, CATALOGUE[kind].get("digits", 0)
    )


def _panel_without_part(project: Project, kind: str, driven: Driven) -> str:
    """A panel of this kind that is not wired yet, as in a new project: that one is meant."""
    for name, table in project.tables.get("panels", {}).items():
        same = all(table.get(key) == value for key, value in CATALOGUE[kind].items())
        if same and driven.part and name not in project.hookup.parts:
            return str(name)
    return ""


def _part_without_panel(project: Project, kind: str) -> str:
    """A part of this kind in the hook-up without a panel."""
    parts = project.hookup.parts.values()
    return next((part.name for part in parts if part.kind.name == kind and part.name not in project.panels), "")


def _free(project: Project, name: str) -> str:
    return free_name((*project.panels, *project.hookup.parts), name)


def _with_channel(editor: Editor, text: str, state: State, panel: str, face: str) -> tuple[str, str]:
    """The text with the chosen channel on a face, placed by rules; with its name where there is room."""
    channel = state.project.channels[state.channel]
    project = check_project(text, state.project)
    on = project.panels[panel]
    if on.rows < LEAST_FOR_LETTERS and on.grid is not None:
        bar: Table = {"kind": "bar", "channel": channel.name, "width": on.columns, "tall": on.rows}
        return editor.with_entry(text, ("faces", face, "items"), bar), f"a bar of {channel.name}"
    label = channel.name.encode("ascii", "ignore").decode().strip()
    has_label = bool(label) and on.rows >= (2 if on.grid is None else LEAST_FOR_TWO) and len(label) <= on.columns
    if has_label:
        text = editor.with_entry(
            text, ("faces", face, "items"), {"kind": "label", "text": label, "row": on.counted_from}
        )
    entry: Table = {"kind": "field", "channel": channel.name, "row": on.counted_from + has_label}
    text = editor.with_entry(text, ("faces", face, "items"), {**entry, **_dress(channel, on)})
    project = check_project(text, state.project)
    there = replace(state, project=project, history=state.history.done(text, ""))
    try:
        return arranged(editor, there, on, project.faces[face], "").text, channel.name
    except RequestError:  # no room for the name as well; cut text has a note
        return (editor.without(text, ("faces", face, "items", 0)) if has_label else text), channel.name


def _dress(channel: Channel, panel: Panel) -> Table:
    """The field's own rules so that every value of the range is shown: first it drops letters of its unit, then
    decimals. Where nothing shows them all, a bare integer shows most, and a note says so."""
    field, room, font = channel.field, panel.columns, dict[str, str]()
    if panel.grid is not None:
        font = {"font": _font_for(panel.grid, field.width)}
        room = _cells_in(panel.grid, font["font"])
        if field.width <= room:
            return {"width": field.width, **font}
    for unit_text, decimals in _dresses(field):
        dressed = replace(field, unit_text=unit_text, decimals=decimals)
        if width := width_that_shows(dressed, channel.lowest, channel.highest, panel.joined, range(1, room + 1)):
            own: Table = {"width": room if panel.rows == 1 else width, **font}
            if unit_text != field.unit_text:
                own["unit_text"] = unit_text
            if decimals != field.decimals:
                own["decimals"] = decimals
            return own
    own = {"width": min(field.width, room), **font}
    bare: Table = {"unit_text": "", "decimals": 0}
    return {**own, **{name: value for name, value in bare.items() if value != getattr(field, name)}}


def _cells_in(grid: PixelGrid, font: str) -> int:
    """Cells that fit side by side; at least one."""
    cells = 1
    while grid.font(font).field_width(cells + 1) <= grid.columns:
        cells += 1
    return cells


def _font_for(grid: PixelGrid, cells: int) -> str:
    """The default font where the cells fit, else the largest that fits; the smallest where none does."""
    fonts = sorted(FONTS, key=lambda name: (name != DEFAULT_FONT, -grid.font(name).height))
    there = (
        name
        for name in fonts
        if grid.font(name).field_width(cells) <= grid.columns and grid.font(name).height <= grid.rows
    )
    return next(there, min(FONTS, key=lambda name: grid.font(name).field_width(cells)))


def _dresses(field: Field) -> list[tuple[str, int]]:
    units = [field.unit_text, *([DEGREE] if field.unit_text.strip().startswith(DEGREE) else []), ""]
    return [(unit, decimals) for decimals in range(field.decimals, -1, -1) for unit in dict.fromkeys(units)]
