"""The keys: one table for the bindings, the list of keys and the list of commands, so that they cannot disagree."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Key:
    """``keys`` as the framework names them, ``shown`` as a person does; ``action`` of the application."""

    keys: str
    shown: str
    says: str
    action: str
    command: bool = True


KEYS = (
    Key("0", "0", "all channels and panels", "step(0)"),
    Key("1", "1", "Wire: what is joined to what", "step(1)"),
    Key("2", "2", "Raw: what the sensor really says", "step(2)"),
    Key("3", "3", "Law: what that is in real units", "step(3)"),
    Key("4", "4", "True: does it agree with a reference", "step(4)"),
    Key("5", "5", "Calm: steady without being slow", "step(5)"),
    Key("6", "6", "Fit: the number in its place", "step(6)"),
    Key("7", "7", "Glass: the panel, large", "step(7)"),
    Key("8", "8", "Pace: refreshed in time", "step(8)"),
    Key("9", "9", "Pack: carry it into firmware", "step(9)"),
    Key("up", "↑", "channel or value before", "up", False),
    Key("down", "↓", "next channel or value", "down", False),
    Key("tab", "tab", "↑ ↓ go through channels, or through values", "turn", False),
    Key("c", "c", "go to the channels", "channels"),
    Key("comma", ",", "cursor back by a sample", "cursor(-1)", False),
    Key("full_stop", ".", "cursor on by a sample", "cursor(1)", False),
    Key("less_than_sign", "<", "cursor back by a screen", "screen(-1)", False),
    Key("greater_than_sign", ">", "cursor on by a screen", "screen(1)", False),
    Key("left_square_bracket", "[", "zoom out", "zoom(-1)"),
    Key("right_square_bracket", "]", "zoom in", "zoom(1)"),
    Key("space", "space", "play, pause; follow a line, or hold", "play"),
    Key("minus", "-", "play slower", "speed(-1)", False),
    Key("equals_sign", "=", "play faster", "speed(1)", False),
    Key("pageup", "page ↑", "see what does not fit, above", "scroll(-1)", False),
    Key("pagedown", "page ↓", "see what does not fit, below", "scroll(1)", False),
    Key("o", "o", "listen to the channel's line, or leave it", "listen"),
    Key("O", "O", "listen to all lines, or leave them", "deed('listening', 'toggle_all')"),
    Key("r", "r", "record the channel's line, or end that", "record"),
    Key("u", "u", "ask who answers on a Modbus line, or stop asking", "deed('listening', 'toggle_survey')"),
    Key("h", "h", "hand: type a raw value or a reading; again to let go", "hand"),
    Key("n", "n", "next note, and go to its place", "note"),
    Key("m", "m", "mend the chosen note by its remedy", "mend"),
    Key("g", "g", "bring the next panel forward", "glass"),
    Key("enter", "enter", "edit the selected value", "edit", False),
    Key("plus", "+", "add a part, a channel, a law, a reference, a filter", "add"),
    Key("delete", "delete", "take the selected one away", "take_away"),
    Key("K", "K", "move the selected law or filter up", "move_entry(-1)"),
    Key("J", "J", "move the selected law or filter down", "move_entry(1)"),
    Key("v", "v", "look at the next variant of the channel", "deed('variants', 'next_variant')"),
    Key("V", "V", "new variant, as the one looked at", "deed('variants', 'new_variant')"),
    Key("a", "a", "adopt the variant looked at, or the calibration", "deed('adopting', 'adopt')"),
    Key("D", "D", "drop the variant looked at", "deed('variants', 'drop_variant')"),
    Key("R", "R", "rename the variant looked at", "rename_variant"),
    Key("shift+left", "shift+←", "move the selected item a cell", "deed('glass_deeds', 'move', 'left')", False),
    Key("shift+right", "shift+→", "move the selected item a cell", "deed('glass_deeds', 'move', 'right')", False),
    Key("shift+up", "shift+↑", "move the selected item a row", "deed('glass_deeds', 'move', 'up')", False),
    Key("shift+down", "shift+↓", "move the selected item a row", "deed('glass_deeds', 'move', 'down')", False),
    Key(
        "ctrl+left",
        "ctrl+←",
        "selected item to the next line it can stand in",
        "deed('glass_deeds', 'snap', 'left')",
        False,
    ),
    Key(
        "ctrl+right",
        "ctrl+→",
        "selected item to the next line it can stand in",
        "deed('glass_deeds', 'snap', 'right')",
        False,
    ),
    Key(
        "ctrl+up",
        "ctrl+↑",
        "selected item to the next line it can stand in",
        "deed('glass_deeds', 'snap', 'up')",
        False,
    ),
    Key(
        "ctrl+down",
        "ctrl+↓",
        "selected item to the next line it can stand in",
        "deed('glass_deeds', 'snap', 'down')",
        False,
    ),
    Key(
        "ctrl+shift+left",
        "ctrl+shift+←",
        "move the selected item by a letter",
        "deed('glass_deeds', 'move', 'left', 'cell')",
        False,
    ),
    Key(
        "ctrl+shift+right",
        "ctrl+shift+→",
        "move the selected item by a letter",
        "deed('glass_deeds', 'move', 'right', 'cell')",
        False,
    ),
    Key(
        "ctrl+shift+up",
        "ctrl+shift+↑",
        "move the selected item by a letter",
        "deed('glass_deeds', 'move', 'up', 'cell')",
        False,
    ),
    Key(
        "ctrl+shift+down",
        "ctrl+shift+↓",
        "move the selected item by a letter",
        "deed('glass_deeds', 'move', 'down', 'cell')",
        False,
    ),
    Key("E", "E", "equal distances between items", "deed('glass_deeds', 'space_evenly')"),
    Key("Z", "Z", "look at the item pixel by pixel, or at the panel", "deed('glass_deeds', 'look_closely')"),
    Key("B", "B", "look at see-through panels from behind", "deed('glass_deeds', 'look_from_behind')"),
    Key("A", "A", "align the selected item: left, middle, right", "deed('glass_deeds', 'align')"),
    Key("f", "f", "work on the next face of the panel", "deed('glass_deeds', 'next_face')"),
    Key("p", "p", "next test pattern on the panel", "deed('glass_deeds', 'next_pattern')"),
    Key(
        "x",
        "x",
        "turn a dot; before and after; keep figures of Pace",
        "deed('glass_deeds', 'turn_dot')",
    ),
    Key("i", "i", "say which segment is lit, line by line", "lit_line"),
    Key("z", "z", "tare: what is read at the cursor becomes nothing", "tare"),
    Key("U", "U", "show the field in the next unit: °C, °F, K", "next_unit"),
    Key("l", "l", "next leaf of a step that has several", "leaf(1)"),
    Key("L", "L", "leaf before", "leaf(-1)", False),
    Key("j", "j", "join all pins that are not joined, by their roles", "deed('hookup_deeds', 'join_by_role')"),
    Key("w", "w", "write the selected sum's result into the hook-up", "deed('hookup_deeds', 'write_sum')"),
    Key("left", "←", "selected value a step down", "nudge(-1)", False),
    Key("right", "→", "selected value a step up", "nudge(1)", False),
    Key("escape", "escape", "cancel; leave it as it was", "leave", False),
    Key("ctrl+z", "ctrl+z", "undo", "undo"),
    Key("ctrl+y", "ctrl+y", "redo", "redo"),
    Key("ctrl+s", "ctrl+s", "save", "save"),
    Key("e", "e", "export the open view as SVG or PDF", "export"),
    Key("ctrl+p", "ctrl+p", "every command by name", "command_palette", False),
    Key("question_mark", "?", "these keys", "keys"),
    Key("ctrl+q", "ctrl+q", "leave Lesart", "leave_lesart"),
)

MORE_COMMANDS = (Key("", "", "dark ink or light parchment", "parchment"),)
