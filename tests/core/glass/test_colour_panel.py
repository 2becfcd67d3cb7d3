"""Panels of colours: their bytes by the standard, what they remember, what they show when they are told wrongly."""

from __future__ import annotations

import random
from dataclasses import replace
from typing import Any

import numpy as np
import pytest

from lesart.core.fit.field import Reading
from lesart.core.glass.bus.changes import changes_for, start_for
from lesart.core.glass.bus.controller import LINE, Command, Controller
from lesart.core.glass.bus.controllers import WINDOWS
from lesart.core.glass.bus.interpreter import Interpreted, interpret
from lesart.core.glass.bus.patterns import pattern, patterns_of
from lesart.core.glass.bus.transmissions import Transmission, transmissions_for
from lesart.core.glass.faces.face import Face, compose
from lesart.core.glass.faces.hue import Hue, with_hue
from lesart.core.glass.faces.inspect_face import inspect_face
from lesart.core.glass.faces.items import AlarmMark, Label
from lesart.core.glass.faces.partial_redraw import bytes_touched
from lesart.core.glass.panels.colour_panel import PARAMETERS, ColourPanel, build_colour_panel
from lesart.core.glass.panels.colour_set_up import ColourSetUp
from lesart.core.glass.panels.contrast import inspect_contrast
from lesart.core.glass.panels.inspect_panel import inspect_panel
from lesart.core.glass.panels.panel import Memory
from lesart.core.glass.panels.pixel_colours import COLOURS, PLACES, PLANES, decoded, encoded, rgb, values_of
from lesart.core.glass.panels.pixels import colours_of
from lesart.core.parameters import read_table
from lesart.core.raw.bus_bytes import Words

SMALL: dict[str, Any] = {"width": 12, "height": 9}
BYTE_WINDOWS = Controller(
    "byte windows",
    (Command(0x15, "columns from to", 0, 2), Command(0x75, "pages from to", 0, 2), Command(0xAF, "light")),
    LINE,
    cell_bytes=2,
)
"""One that has no command to write by: its windows are told by commands alone, and all data are pixels."""


def panel_of(**told: Any) -> ColourPanel:
    values, problems = read_table(PARAMETERS, {**SMALL, **told}, "panels.probe")
    assert not problems
    return build_colour_panel("probe", values, {})


def words_of(sent: tuple[Transmission, ...]) -> Words:
    """As they would be heard, a millisecond a transmission."""
    data = b"".join(each.data for each in sent)
    sizes = [len(each.data) for each in sent]
    part = np.repeat(np.arange(len(sent)), sizes)
    by_line = np.repeat([each.is_data for each in sent], sizes)
    starts = np.arange(len(sent)) * 1e-3
    return Words(part * 1e-3, np.frombuffer(data, np.uint8), by_line, part, starts, starts)


def obeyed(panel: ColourPanel, controller: Controller, sent: tuple[Transmission, ...]) -> Interpreted:
    size = panel.offset + panel.width, panel.row_offset + panel.height
    return interpret(replace(controller, cell_bytes=panel.pixel_bytes), words_of(sent), *size)


def glass_of(panel: ColourPanel, found: Interpreted) -> np.ndarray:
    """The colours that a controller's memory puts on the glass, as the controller lies."""
    held = found.memory(len(found))[: found.columns * found.pages].reshape(found.pages, found.columns)
    top, left = panel.row_offset, panel.offset
    return decoded(held[top : top + panel.height, left : left + panel.width], panel.depth)


def random_memory(panel: ColourPanel, chance: random.Random) -> Memory:
    """Boxes of colours, over lit and dark pixels."""
    lit = tuple(chance.getrandbits(panel.columns) for _ in range(panel.rows))
    memory: Memory = (lit, *panel.blank()[1:])
    for _ in range(chance.randrange(4)):
        box = (chance.randrange(-3, 9), chance.randrange(-3, 9), chance.randrange(1, 9), chance.randrange(1, 9))
        memory = with_hue(memory, panel.columns, box, chance.choice(PLACES))
    return memory


@pytest.mark.parametrize(
    ("colour", "two", "three"),
    [
        ("red", "F8 00", "FC 00 00"),
        ("green", "07 E0", "00 FC 00"),
        ("blue", "00 1F", "00 00 FC"),
        ("white", "FF FF", "FC FC FC"),
        ("black", "00 00", "00 00 00"),
        ("grey", "84 10", "80 80 80"),
        ("yellow", "FF E0", "FC FC 00"),
    ],
)
def test_bytes_of_colours_are_those_of_the_standard(colour: str, two: str, three: str) -> None:
    """Five, six and five bits, red on top; or six on top of each byte."""
    exact = np.array(rgb(COLOURS[colour]), np.uint8)
    assert encoded(exact, "16").tobytes() == bytes.fromhex(two)
    assert encoded(exact, "18").tobytes() == bytes.fromhex(three)


def test_what_is_shown_is_sent_as_it_came() -> None:
    """All 65 536 values of two bytes; white is full white, and black none."""
    values = np.arange(65536, dtype=np.int64)
    shown = decoded(values, "16")
    assert (values_of(encoded(shown, "16")) == values).all()
    assert shown[0].tolist() == [0, 0, 0]
    assert shown[-1].tolist() == [255, 255, 255]
    every = np.stack(np.meshgrid(*[np.arange(0, 256, 4)] * 3, indexing="ij"), axis=-1).reshape(-1, 3).astype(np.uint8)
    assert (encoded(decoded(values_of(every), "18"), "18") == every).all()


def test_a_frame_goes_into_the_window_of_its_glass() -> None:
    """Columns and rows of the controller count those before the glass; both ends are part of it."""
    panel = panel_of(width=160, height=80, offset=1, row_offset=26)
    sent = transmissions_for(panel, WINDOWS, panel.blank())
    said = [(each.is_data, each.data.hex(" ").upper()) for each in sent[:-1]]
    assert said == [
        (False, "2A"),
        (True, "00 01 00 A0"),
        (False, "2B"),
        (True, "00 1A 00 69"),
        (False, "2C"),
    ]
    assert sent[-1] == Transmission(bytes(160 * 80 * 2), True)


def test_the_start_wakes_it_and_tells_it_how_many_bits_a_pixel_has() -> None:
    """Out of its sleep, 5 for two bytes or 6 for three, inverted where the glass wants it, lit; or as a person says."""
    said = [(each.is_data, each.data.hex().upper()) for each in start_for(panel_of(), WINDOWS)]
    assert said == [(False, "11"), (False, "3A"), (True, "55"), (False, "13"), (False, "20"), (False, "29")]
    said = [each.data.hex().upper() for each in start_for(panel_of(depth="18", inverts=True), WINDOWS)]
    assert said == ["11", "3A", "66", "13", "21", "29"]
    grouped = start_for(panel_of(start="01; 11; B1 05 3C 3C; 36 60; 29"), WINDOWS)
    assert [(each.is_data, each.data.hex().upper()) for each in grouped] == [
        (False, "01"),
        (False, "11"),
        (False, "B1"),
        (True, "053C3C"),
        (False, "36"),
        (True, "60"),
        (False, "29"),
    ]
    cut = start_for(panel_of(start="11 36 60 29"), WINDOWS)
    assert [each.data.hex() for each in cut] == ["11", "36", "60", "29"]


WAYS = {
    "plain": ({}, WINDOWS),
    "three bytes": ({"depth": "18", "ground": "blue"}, WINDOWS),
    "beside the memory": ({"offset": 2, "row_offset": 3, "turned": "a quarter"}, WINDOWS),
    "turned": ({"turned": "three quarters", "colour": "red", "ground": "white"}, WINDOWS),
    "windows of bytes": ({"offset": 1}, BYTE_WINDOWS),
}


@pytest.mark.parametrize("way", WAYS)
def test_whatever_changes_the_controller_shows_what_the_desk_does(way: str) -> None:
    """All of a frame, then what changed, cut anywhere: the same colours, and never more than a frame."""
    told, controller = WAYS[way]
    panel, chance = panel_of(**told), random.Random(way)
    memories = [random_memory(panel, chance) for _ in range(12)]
    sent = transmissions_for(panel, controller, memories[0])
    for before, after in zip(memories, [*memories[1:], memories[-1]], strict=True):
        found = glass_of(panel, obeyed(panel, controller, sent))
        wanted = np.frombuffer(panel.sent(panel.lit(before)), np.uint8).reshape(panel.height, panel.width, -1)
        assert (found == decoded(values_of(wanted), panel.depth)).all()
        more = changes_for(panel, controller, before, after)
        assert sum(len(each.data) for each in more if len(each.data) > 4) <= panel.frame_size
        assert bool(more) == (panel.lit(before) != panel.lit(after))
        sent += more
    cut = tuple(
        Transmission(each.data[at : at + 7], each.is_data) for each in sent for at in range(0, len(each.data), 7)
    )
    assert (glass_of(panel, obeyed(panel, controller, cut)) == found).all()


def test_a_window_goes_round_and_what_is_no_pixel_is_none() -> None:
    """Bytes of a command that is not known are not written; a byte that is left over is none; a window is filled from
    its corner again, and a write on goes on where it was."""
    panel = panel_of()
    window = [(False, "2A"), (True, "00020003"), (False, "2B"), (True, "00010001"), (False, "2C")]

    def shown(*more: tuple[bool, str]) -> list[str]:
        sent = tuple(Transmission(bytes.fromhex(data), is_data) for is_data, data in (*window, *more))
        found = obeyed(panel, WINDOWS, sent)
        return [f"{found.memory(len(found))[12 + column]:04X}" for column in range(1, 5)]

    assert shown((True, "F80007E0")) == ["0000", "F800", "07E0", "0000"]
    assert shown((True, "F80007E0001F")) == ["0000", "001F", "07E0", "0000"]
    assert shown((True, "F80007"), (True, "E0001F")) == ["0000", "001F", "07E0", "0000"]
    assert shown((True, "F800"), (False, "E0"), (True, "07E007E0")) == ["0000", "F800", "0000", "0000"]
    assert shown((True, "F800"), (False, "3C"), (True, "001F")) == ["0000", "F800", "001F", "0000"]
    assert shown((True, "F800"), (False, "2C"), (True, "001F")) == ["0000", "001F", "0000", "0000"]
    # Two by two: the fifth pixel is at the corner again, and the sixth beside it, also after another command.
    square = [(False, "2B"), (True, "00010002"), (False, "2C"), (True, "F800" * 5), (False, "3C"), (True, "001F")]
    assert shown(*square) == ["0000", "F800", "001F", "0000"]
    assert shown((False, "3A"), (True, "66"), (False, "2C"), (True, "FC0000")) == ["0000", "FC0000", "0000", "0000"]


def test_what_was_written_keeps_its_colour_until_it_is_written_over() -> None:
    """A label in blue over the first letters of one in red."""
    panel = panel_of(width=64, height=16)
    first = Face("one", "probe", (Label("MMMM", 2, 2, hue=Hue("red")),))
    second = Face("two", "probe", (Label("I", 2, 2, hue=Hue("blue")),))
    memory = compose(second, panel, {}, compose(first, panel, {}).memory).memory
    colours = colours_of(panel.lit(memory))
    lit = colours.any(axis=-1)
    width = panel.font("text 7").measure("I")
    assert {tuple(each) for each in colours[:, : 2 + width][lit[:, : 2 + width]]} == {(0, 0, 255)}
    assert {tuple(each) for each in colours[:, 2 + width :][lit[:, 2 + width :]]} == {(255, 0, 0)}


def test_an_alarm_gives_an_item_its_colour() -> None:
    """While it is on, of the channel that the item shows; else as ever."""
    panel = panel_of(width=64, height=16, colour="green")
    face = Face("one", "probe", (AlarmMark("mass", 2, 2, "!", hue=Hue(alarm="red")), Label("m", 2, 20)))

    def colours(*alarms: str) -> set[tuple[int, ...]]:
        frame = panel.lit(compose(face, panel, {"mass": Reading(1.0, alarms=alarms)}).memory)
        return {tuple(each) for row in colours_of(frame).tolist() for each in row}

    assert colours() == {(0, 0, 0), (0, 255, 0)}
    assert colours("heavy") == {(0, 0, 0), (0, 255, 0), (255, 0, 0)}


LIES: dict[str, tuple[ColourSetUp, str]] = {
    "swapped": (ColourSetUp(swapped=True), "its picture has red for blue"),
    "negative": (ColourSetUp(negative=True), "its picture is a negative"),
    "columns_off": (ColourSetUp(columns_off=2), "its picture lies 2 columns too far right"),
    "rows_off": (ColourSetUp(rows_off=-1), "its picture lies 1 row too far up"),
    "bottom_up": (ColourSetUp(bottom_up=True), "its picture has its rows from the bottom up"),
    "right_left": (ColourSetUp(right_left=True), "its picture is mirrored"),
}


@pytest.mark.parametrize("lie", LIES)
def test_what_it_is_told_wrongly_is_seen_and_said(lie: str) -> None:
    """A blue pixel near a corner of an orange ground; the note's remedy takes away this lie alone."""
    told, says = LIES[lie]
    panel = replace(panel_of(ground="orange", colour="blue"), told=told)
    rows = [0] * 9
    rows[1] = 1 << 10  # column 1 of 12
    seen = colours_of(panel.seen(panel.lit((tuple(rows), *panel.blank()[1:]))))  # type: ignore[arg-type]
    plain = colours_of(replace(panel, told=ColourSetUp()).lit((tuple(rows), *panel.blank()[1:])))
    orange, blue = plain[0, 0].tolist(), plain[1, 1].tolist()
    at, colour, ground = {
        "swapped": ((1, 1), blue[::-1], orange[::-1]),
        "negative": ((1, 1), [255 - each for each in blue], [255 - each for each in orange]),
        "columns_off": ((1, 3), blue, orange),
        "rows_off": ((0, 1), blue, orange),
        "bottom_up": ((7, 1), blue, orange),
        "right_left": ((1, 10), blue, orange),
    }[lie]
    assert seen[at].tolist() == colour
    assert seen[4, 6].tolist() == ground
    (note,) = inspect_panel(panel)
    assert note.text == f"probe: {says}, because its start sequence says so."
    assert [(each.key, each.value) for each in note.mend] == [(("panels", "probe", lie), 0 if "off" in lie else False)]
    assert not inspect_panel(replace(panel, told=ColourSetUp()))


def test_colours_that_are_hardly_seen_are_pointed_out() -> None:
    """Blue on black has (0.0722 + 0.05) ÷ 0.05 = 2.44; of items, in an alarm too, and of the panel itself."""
    panel = panel_of(colour="blue")
    (note,) = inspect_contrast(panel)
    assert note.text == "probe: blue on black has a contrast of 2.4; 3 is needed to be read."
    assert note.figure == pytest.approx(2.444)
    assert [(each.key, each.value) for each in note.mend] == [(("panels", "probe", "colour"), "white")]
    items = (
        Label("a", 0, 0, hue=Hue("cyan")),
        Label("b", 0, 0, hue=Hue("black")),
        AlarmMark("x", 0, 0, "!", hue=Hue("red", "blue")),
    )
    notes = [each for each in inspect_face(Face("one", "probe", items), panel_of()) if each.place[-1] != "column"]
    assert [(each.text, each.place[-2:]) for each in notes] == [
        ('probe: the label "b": black on black cannot be seen.', (1, "colour")),
        (
            "probe: the alarm mark of x in an alarm: blue on black has a contrast of 2.4; 3 is needed to be read.",
            (2, "alarm_colour"),
        ),
    ]
    yellow = (Label("a", 0, 0, hue=Hue("yellow")),)
    (note,) = (
        each
        for each in inspect_face(Face("one", "probe", yellow), panel_of(ground="white", colour="black"))
        if each.place[-1] == "colour"
    )
    assert [each.value for each in note.mend] == ["black"]


def test_an_item_costs_its_pixels() -> None:
    """Two bytes or three each, cut where the glass ends."""
    item = Label("II", 3, 2)
    width, high = panel_of().font("text 7").measure("II"), panel_of().font("text 7").height
    assert bytes_touched(panel_of(width=40, height=40), item) == width * high * 2
    assert bytes_touched(panel_of(width=40, height=40, depth="18"), item) == width * high * 3
    assert bytes_touched(panel_of(width=8), item) == 6 * 6 * 2


def test_there_are_patterns_for_each_of_the_three_colours() -> None:
    """All red is red alone, whatever the panel's own colour is."""
    panel = panel_of(colour="yellow")
    for name in ("red", "green", "blue"):
        frame = panel.lit(pattern(panel, f"all {name}", 0))
        assert (colours_of(frame) == np.array(rgb(COLOURS[name]))).all()
    assert "pages" not in patterns_of(panel)
    assert {tuple(each) for each in colours_of(panel.lit(pattern(panel, "all on", 0))).reshape(-1, 3)} == {
        (255, 255, 0)
    }


def test_planes_have_room_for_every_colour() -> None:
    """And the panel's own stands at 0."""
    assert len(PLACES) <= 2**PLANES
    assert len(panel_of().blank()) == 1 + PLANES
    panel = panel_of()
    for place, name in enumerate(PLACES[1:], 1):
        memory = with_hue((((1 << 12) - 1,) * 9, *panel.blank()[1:]), 12, (0, 0, 12, 9), name)
        assert memory[1:] == tuple((((1 << 12) - 1) * (place >> bit & 1),) * 9 for bit in range(PLANES))
        assert decoded(values_of(encoded(np.array(rgb(COLOURS[name]), np.uint8), "16")), "16").tolist() == (
            colours_of(panel.lit(memory))[0, 0].tolist()
        )
