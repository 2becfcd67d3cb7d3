"""The keys: one table for the bindings, the list of keys and the list of commands, so that they cannot disagree."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from lesart.core.dataclass_later import dataclass
from lesart.core.step import Step
from lesart.tui import deeds

if TYPE_CHECKING:
    from lesart.desk.desk import Desk
    from lesart.tui.app import LesartApp


@dataclass(frozen=True)
class Key:
    """``keys`` as the framework names them, ``shown`` as a person does; ``does`` it in the application.

    ``command``: is it in the list of commands too?
    """

    keys: str
    shown: str
    says: str
    does: Callable[[LesartApp], None]
    command: bool = True


def _deed(deed: Callable[[Desk], None]) -> Callable[[LesartApp], None]:
    """Something the desk does that needs no question."""
    return lambda app: app.deed(deed)


KEYS = (
    Key("0", "0", "all channels and panels", lambda app: app.open_step(None)),
    Key("1", "1", "Wire: what is joined to what", lambda app: app.open_step(Step.WIRE)),
    Key("2", "2", "Raw: what the sensor really says", lambda app: app.open_step(Step.RAW)),
    Key("3", "3", "Law: what that is in real units", lambda app: app.open_step(Step.LAW)),
    Key("4", "4", "True: does it agree with a reference", lambda app: app.open_step(Step.TRUE)),
    Key("5", "5", "Calm: steady without being slow", lambda app: app.open_step(Step.CALM)),
    Key("6", "6", "Fit: the number in its place", lambda app: app.open_step(Step.FIT)),
    Key("7", "7", "Glass: the panel, large", lambda app: app.open_step(Step.GLASS)),
    Key("8", "8", "Pace: refreshed in time", lambda app: app.open_step(Step.PACE)),
    Key("9", "9", "Pack: carry it into firmware", lambda app: app.open_step(Step.PACK)),
    Key("up", "↑", "previous channel or value", lambda app: app.action_up(), False),
    Key("down", "↓", "next channel or value", lambda app: app.action_down(), False),
    Key("tab", "tab", "↑ ↓ go through channels, or through values", lambda app: app.action_turn(), False),
    Key("c", "c", "go to the channels", lambda app: app.action_channels()),
    Key("comma", ",", "cursor back by a sample", lambda app: app.action_cursor(-1), False),
    Key("full_stop", ".", "cursor forward by a sample", lambda app: app.action_cursor(1), False),
    Key("less_than_sign", "<", "cursor back by a screen", lambda app: app.action_screen(-1), False),
    Key("greater_than_sign", ">", "cursor forward by a screen", lambda app: app.action_screen(1), False),
    Key("left_square_bracket", "[", "zoom out", lambda app: app.action_zoom(-1)),
    Key("right_square_bracket", "]", "zoom in", lambda app: app.action_zoom(1)),
    Key("space", "space", "play, pause; follow a line, or hold", lambda app: app.action_play()),
    Key("minus", "-", "play slower", lambda app: app.action_speed(-1), False),
    Key("equals_sign", "=", "play faster", lambda app: app.action_speed(1), False),
    Key("pageup", "page ↑", "see what does not fit, above", lambda app: app.action_scroll(-1), False),
    Key("pagedown", "page ↓", "see what does not fit, below", lambda app: app.action_scroll(1), False),
    Key("o", "o", "listen to the channel's line, or stop listening", lambda app: app.action_listen()),
    Key("O", "O", "listen to all lines, or stop listening", _deed(deeds.toggle_all)),
    Key("r", "r", "record the channel's line, or stop recording", lambda app: app.action_record()),
    Key("u", "u", "ask who answers on a Modbus line, or stop asking", _deed(deeds.toggle_survey)),
    Key("h", "h", "hand: type a value or a reading; again to let go", lambda app: app.action_hand()),
    Key("y", "y", "why: say what it should read; the mistakes that explain it", lambda app: app.action_why()),
    Key("n", "n", "next note, and go to its place", lambda app: app.action_note()),
    Key("N", "N", "fold or unfold the remarks", _deed(lambda desk: desk.fold_remarks())),
    Key("F", "F", "notes of the open step only, or of all", _deed(lambda desk: desk.filter_notes())),
    Key("m", "m", "mend the chosen note by its remedy", lambda app: app.action_mend()),
    Key("H", "H", "go to a value's home, or to a note's limit", _deed(deeds.go_home)),
    Key("g", "g", "bring the next panel forward", lambda app: app.action_glass()),
    Key("enter", "enter", "edit the selected value", lambda app: app.action_edit(), False),
    Key("plus", "+", "add what this place takes: a part, a law, a filter", lambda app: app.action_add()),
    Key("delete", "delete", "remove the selected entry", lambda app: app.action_take_away()),
    Key("K", "K", "move the selected law or filter up", lambda app: app.action_move_entry(-1)),
    Key("J", "J", "move the selected law or filter down", lambda app: app.action_move_entry(1)),
    Key("v", "v", "look at the next variant of the channel", _deed(deeds.next_variant)),
    Key("V", "V", "new variant, a copy of the one looked at", _deed(deeds.new_variant)),
    Key("a", "a", "adopt the variant looked at, or the calibration", _deed(deeds.adopt)),
    Key("D", "D", "drop the variant looked at", _deed(deeds.drop_variant)),
    Key("R", "R", "rename the channel, variant, panel, face or part", lambda app: app.action_rename()),
    Key("C", "C", "copy the channel, panel, face or part", lambda app: app.action_copy()),
    Key(
        "shift+left", "shift+←", "move the selected item by a cell", _deed(lambda desk: deeds.move(desk, "left")), False
    ),
    Key(
        "shift+right",
        "shift+→",
        "move the selected item by a cell",
        _deed(lambda desk: deeds.move(desk, "right")),
        False,
    ),
    Key("shift+up", "shift+↑", "move the selected item by a row", _deed(lambda desk: deeds.move(desk, "up")), False),
    Key(
        "shift+down", "shift+↓", "move the selected item by a row", _deed(lambda desk: deeds.move(desk, "down")), False
    ),
    Key(
        "ctrl+left",
        "ctrl+←",
        "snap the selected item to the next line",
        _deed(lambda desk: deeds.snap(desk, "left")),
        False,
    ),
    Key(
        "ctrl+right",
        "ctrl+→",
        "snap the selected item to the next line",
        _deed(lambda desk: deeds.snap(desk, "right")),
        False,
    ),
    Key(
        "ctrl+up",
        "ctrl+↑",
        "snap the selected item to the next line",
        _deed(lambda desk: deeds.snap(desk, "up")),
        False,
    ),
    Key(
        "ctrl+down",
        "ctrl+↓",
        "snap the selected item to the next line",
        _deed(lambda desk: deeds.snap(desk, "down")),
        False,
    ),
    Key(
        "ctrl+shift+left",
        "ctrl+shift+←",
        "move the selected item by a letter",
        _deed(lambda desk: deeds.move(desk, "left", "cell")),
        False,
    ),
    Key(
        "ctrl+shift+right",
        "ctrl+shift+→",
        "move the selected item by a letter",
        _deed(lambda desk: deeds.move(desk, "right", "cell")),
        False,
    ),
    Key(
        "ctrl+shift+up",
        "ctrl+shift+↑",
        "move the selected item by a letter",
        _deed(lambda desk: deeds.move(desk, "up", "cell")),
        False,
    ),
    Key(
        "ctrl+shift+down",
        "ctrl+shift+↓",
        "move the selected item by a letter",
        _deed(lambda desk: deeds.move(desk, "down", "cell")),
        False,
    ),
    Key("E", "E", "equal distances between items", _deed(deeds.space_evenly)),
    Key("Z", "Z", "look closely at the item, or at the whole panel", _deed(deeds.look_closely)),
    Key("b", "b", "draw panels another way: pixels, blocks, miniature", lambda app: app.action_way()),
    Key("B", "B", "look at see-through panels from behind", _deed(deeds.look_from_behind)),
    Key("A", "A", "align the selected item: left, middle, right", _deed(deeds.align)),
    Key("f", "f", "next face or font; in Fit the channel's next field", _deed(deeds.next_place)),
    Key("p", "p", "next test pattern on the panel", _deed(deeds.next_pattern)),
    Key(
        "x",
        "x",
        "turn a dot; before, after; keep figures; own rule",
        _deed(deeds.turn_over),
    ),
    Key("i", "i", "say which segment is lit, line by line", lambda app: app.action_lit_line()),
    Key("z", "z", "tare: what is read at the cursor becomes zero", lambda app: app.action_tare()),
    Key("U", "U", "show the field in the next unit: °C, °F, K", lambda app: app.action_next_unit()),
    Key("l", "l", "next leaf of a step that has several", lambda app: app.action_leaf(1)),
    Key("L", "L", "previous leaf", lambda app: app.action_leaf(-1), False),
    Key("j", "j", "join all pins that are not joined, by their roles", lambda app: app.action_join()),
    Key("w", "w", "write the selected sum's result into the hook-up", lambda app: app.action_write_sum()),
    Key("left", "←", "selected value a step down", lambda app: app.action_nudge(-1), False),
    Key("right", "→", "selected value a step up", lambda app: app.action_nudge(1), False),
    Key("escape", "escape", "cancel; leave it as it was", lambda app: app.action_leave(), False),
    Key("ctrl+z", "ctrl+z", "undo", lambda app: app.action_undo()),
    Key("ctrl+y", "ctrl+y", "redo", lambda app: app.action_redo()),
    Key("ctrl+s", "ctrl+s", "save", lambda app: app.action_save()),
    Key("e", "e", "export the open view as SVG or PDF", lambda app: app.action_export()),
    Key("ctrl+p", "ctrl+p", "every command by name", lambda app: app.action_command_palette(), False),
    Key("slash", "/", "find a key, a note, a value or a name", lambda app: app.action_find()),
    Key("question_mark", "?", "these keys", lambda app: app.action_keys()),
    Key("ctrl+q", "ctrl+q", "leave Lesart", lambda app: app.action_leave_lesart()),
)

MORE_COMMANDS = (Key("", "", "dark ink or light parchment", lambda app: app.action_parchment()),)
