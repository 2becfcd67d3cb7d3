"""Lamps in a chain: how the line runs, what each lamp is sent, what it takes, and what the pulses say."""

from __future__ import annotations

from itertools import product

import numpy as np
import pytest

from lesart.core.glass.bus.changes import changes_for, start_for
from lesart.core.glass.bus.controllers import CHAIN, usual_controller
from lesart.core.glass.bus.lamp_chain import obeyed_by_lamps
from lesart.core.glass.bus.patterns import pattern, patterns_of
from lesart.core.glass.bus.transmissions import Transmission, transmissions_for
from lesart.core.glass.faces.face import Face
from lesart.core.glass.faces.hue import Hue
from lesart.core.glass.faces.inspect_face import inspect_face
from lesart.core.glass.faces.redraw import drawing_of
from lesart.core.glass.faces.shapes import Box
from lesart.core.glass.panels.contrast import inspect_contrast
from lesart.core.glass.panels.kinds import KINDS
from lesart.core.glass.panels.lamp_panel import CORNERS, RUNS, SENT, LampPanel, chain_places
from lesart.core.glass.panels.panel_kind import Given
from lesart.core.pace.edge_writer import one_line
from lesart.core.parameters import read_table
from lesart.core.raw.bus_bytes import Words, one_line_words
from lesart.core.raw.edges import edges_of


def lamps(**told: object) -> LampPanel:
    values, problems = read_table(KINDS["lamps"].parameters, told, "p")
    assert not problems
    panel = KINDS["lamps"].build("p", values, Given())
    assert isinstance(panel, LampPanel)
    return panel


@pytest.mark.parametrize(
    ("runs", "begins", "to_and_fro", "places"),
    [
        ("row by row", "top left", False, [0, 1, 2, 3, 4, 5]),
        ("row by row", "top left", True, [0, 1, 2, 5, 4, 3]),
        ("row by row", "bottom right", False, [5, 4, 3, 2, 1, 0]),
        ("row by row", "bottom left", True, [3, 4, 5, 2, 1, 0]),
        ("column by column", "top left", False, [0, 3, 1, 4, 2, 5]),
        ("column by column", "top right", True, [2, 5, 4, 1, 0, 3]),
    ],
)
def test_the_line_runs_as_it_is_said(runs: str, begins: str, to_and_fro: bool, places: list[int]) -> None:
    """Of three by two lamps, numbered row by row."""
    assert chain_places(3, 2, runs, begins, to_and_fro=to_and_fro).tolist() == places


@pytest.mark.parametrize("told", list(product(RUNS, CORNERS, (False, True))))
def test_a_line_reaches_each_lamp_once_and_turns_by_one(told: tuple[str, str, bool]) -> None:
    places = chain_places(5, 4, told[0], told[1], to_and_fro=told[2])
    assert sorted(places) == list(range(20))
    if told[2]:
        y, x = np.divmod(places, 5)
        assert set((abs(np.diff(x)) + abs(np.diff(y))).tolist()) == {1}


@pytest.mark.parametrize(
    ("sent", "bright", "red", "white"),
    [
        ("green, red, blue", "100 %", "00ff00", "ffffff"),
        ("red, green, blue", "100 %", "ff0000", "ffffff"),
        ("blue, green, red", "20 %", "000033", "333333"),
        ("green, red, blue, white", "50 %", "00800000", "80808000"),
    ],
)
def test_what_a_lamp_is_sent(sent: str, bright: str, red: str, white: str) -> None:
    panel = lamps(width=2, sent=sent, backlight=bright)
    assert panel.sent(panel.lit(pattern(panel, "all red", 0))).hex() == 2 * red
    assert panel.sent(panel.lit(pattern(panel, "all on", 0))).hex() == 2 * white


@pytest.mark.parametrize("sent", SENT)
@pytest.mark.parametrize("bright", ["100 %", "37 %", "3 %"])
def test_bytes_come_back_as_what_is_lit(sent: str, bright: str) -> None:
    panel = lamps(width=7, height=5, sent=sent, backlight=bright, runs="column by column", to_and_fro=True)
    for name in patterns_of(panel):
        frame = panel.lit(pattern(panel, name, 0))
        data = panel.sent(frame)
        assert len(data) == 35 * panel.pixel_bytes == panel.frame_size
        assert panel.shown(data) == frame


def test_a_white_light_is_seen_with_the_others() -> None:
    panel = lamps(width=1, sent="green, red, blue, white")
    assert panel.shown(bytes((0, 200, 0, 55))).colours == bytes((255, 55, 55))


def test_time_and_current_of_sixty() -> None:
    """24 bits of 1.25 µs each, and the rest; three lights of 12 mA and 1 mA each lamp, a fifth as bright."""
    panel = lamps(width=60)
    box = Face("f", "p", (Box(row=0, column=0, width=60, tall=1, filled=True),))
    assert drawing_of(box, panel).seconds == pytest.approx(60 * 24 * 1.25e-6 + 0.3e-3)
    assert panel.most_a == pytest.approx(60 * 0.037)
    assert lamps(width=60, colour="red").usual_a == pytest.approx(60 * 0.013)
    dim = lamps(width=60, backlight="20 %")
    assert dim.most_a == pytest.approx(60 * (3 * 0.012 / 5 + 0.001))
    assert dim.current_a(dim.lit(dim.blank())) == pytest.approx(0.06)


def test_all_are_sent_where_one_differs_and_none_at_first() -> None:
    panel = lamps(width=4)
    assert usual_controller(panel) == CHAIN.name
    assert start_for(panel, CHAIN) == ()
    dark, lit = panel.blank(), ((0b0100,), *panel.blank()[1:])
    assert changes_for(panel, CHAIN, dark, dark) == ()
    assert changes_for(panel, CHAIN, dark, lit) == transmissions_for(panel, CHAIN, lit)
    assert [each.data.hex() for each in transmissions_for(panel, CHAIN, lit)] == ["000000ffffff000000000000"]


def test_too_many_for_a_line_are_refused() -> None:
    values, _ = read_table(KINDS["lamps"].parameters, {"width": 100, "height": 21}, "p")
    with pytest.raises(ValueError, match=r"^100×21 lamps are 2100; a line drives up to 2048$"):
        KINDS["lamps"].build("p", values, Given())


def test_only_black_is_not_seen_of_a_lamp() -> None:
    """Blue on black has too little contrast for a text on a screen, and shines as a lamp."""
    assert inspect_contrast(lamps(colour="blue")) == []
    assert [each.text for each in inspect_contrast(lamps(colour="black"))] == ["p: black on black cannot be seen."]

    def noted(colour: str) -> list[str]:
        box = Box(row=0, column=0, width=2, tall=1, filled=True, hue=Hue(colour))
        return [each.text for each in inspect_face(Face("f", "p", (box,)), lamps())]

    assert noted("blue") == []
    assert noted("black") == ["p: the line: black on black cannot be seen."]


def pulses(bits: str, zero_s: float, one_s: float, bit_s: float, first_s: float = 0.0) -> list[tuple[float, int]]:
    found = []
    for place, bit in enumerate(bits):
        start = first_s + place * bit_s
        found += [(start, 1), (start + (one_s if bit == "1" else zero_s), 0)]
    return found


def words_of(found: list[tuple[float, int]]) -> Words:
    return one_line_words(edges_of([t for t, _ in found], [level for _, level in found], 0, -1e-3, found[-1][0] + 1e-3))


@pytest.mark.parametrize(
    ("zero_s", "one_s", "bit_s"),
    [(0.4e-6, 0.8e-6, 1.25e-6), (0.35e-6, 0.7e-6, 1.25e-6), (0.3e-6, 0.9e-6, 1.2e-6), (0.5e-6, 1.2e-6, 2.5e-6)],
)
def test_pulses_of_data_sheets_are_their_bits(zero_s: float, one_s: float, bit_s: float) -> None:
    """All of ones or of zeroes as well, where nothing can be compared; bits left over are counted."""
    for data in ("0f5533", "ffffff", "000000"):
        bits = f"{int(data, 16):024b}"
        assert words_of(pulses(bits, zero_s, one_s, bit_s)).value.tobytes().hex() == data
    cut = words_of(pulses("101010101", zero_s, one_s, bit_s))
    assert (cut.value.tobytes().hex(), cut.broken) == ("aa", 1)


def test_a_rest_ends_a_transmission() -> None:
    first = pulses("0" * 8 + "1" * 8, 0.4e-6, 0.8e-6, 1.25e-6)
    then = pulses("10000001", 0.4e-6, 0.8e-6, 1.25e-6, first[-1][0] + 50e-6)
    found = words_of([*first, *then])
    assert (found.value.tolist(), found.part.tolist()) == ([0, 255, 0x81], [0, 0, 1])
    assert found.start_s.tolist() == [first[0][0], then[0][0]]


def test_what_is_written_is_read_again() -> None:
    told = [(1e-3, Transmission(bytes(range(60)), True)), (1.1e-3, Transmission(b"\xff\x00\x7e", True))]
    found = one_line_words(one_line(told, 800e3, 0.3e-3, 5e-3)["data"])
    assert found.value.tobytes() == bytes(range(60)) + b"\xff\x00\x7e"
    assert found.start_s[0] == pytest.approx(1e-3)
    # The second one waits until the first has been shown.
    assert found.start_s[1] == pytest.approx(1e-3 + 60 * 8 * 1.25e-6 + 0.3e-3)


def test_lamps_keep_the_first_bytes_and_pass_on_the_rest() -> None:
    data = bytes((1, 2, 3, 4, 5, 6, 7, 8, 9, 9, 9, 8, 7))
    part = np.array([0] * 9 + [1] * 4)
    words = Words(np.arange(13.0), np.frombuffer(data, np.uint8), np.ones(13, bool), part, np.zeros(2), np.zeros(2))
    obeyed = obeyed_by_lamps(words, 2, 3)
    assert obeyed.cell.tolist() == [0, 1, 0]
    assert obeyed.value.tolist() == [0x010203, 0x040506, 0x090908]
    assert obeyed.t.tolist() == [2.0, 5.0, 11.0]
    assert obeyed.beside == 3
    assert obeyed.memory(len(obeyed)).tolist()[:2] == [0x090908, 0x040506]
