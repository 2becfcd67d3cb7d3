"""Segment panels: wiring maps of any order, codes of letters, lamps that are there."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lesart.core.fit.cells import Cell, split_cells
from lesart.core.glass.bus.changes import changes_for, start_for
from lesart.core.glass.bus.controllers import CONTROLLERS, usual_controller
from lesart.core.glass.bus.sent_bytes import sent_for
from lesart.core.glass.bus.transmissions import transmissions_for
from lesart.core.glass.faces.face import Face
from lesart.core.glass.faces.redraw import drawing_of
from lesart.core.glass.panels.kinds import KINDS
from lesart.core.glass.panels.panel_kind import Given
from lesart.core.glass.panels.segment_panel import SegmentPanel
from lesart.core.glass.panels.segment_wiring import SegmentWiring
from lesart.core.glyphs.segments import ALPHABETS
from lesart.core.parameters import read_table


def panel_of(glyphs: dict[str, str] | None = None, **written: object) -> SegmentPanel:
    """As the project file would make it."""
    values, problems = read_table(KINDS["segments"].parameters, written, "p")
    assert not problems, problems
    panel = KINDS["segments"].build("p", values, Given(glyphs=glyphs or {}))
    assert isinstance(panel, SegmentPanel)
    return panel


@st.composite
def wirings(draw: st.DrawFn) -> SegmentWiring:
    """Any map there can be: bits in any order, some that light nothing, digits in any order, either level."""
    alphabet = draw(st.sampled_from(sorted(ALPHABETS)))
    names = [*ALPHABETS[alphabet].segments, ".", *draw(st.sampled_from([[], [":"], ["-"], [":", "-", "-"]]))]
    order = tuple(draw(st.permutations(names)))
    digits = tuple(draw(st.permutations(range(draw(st.integers(1, 16))))))
    return SegmentWiring(alphabet, order, digits, draw(st.integers(0, 1)))


@given(wiring=wirings(), data=st.data())
def test_every_wiring_map_goes_there_and_back(wiring: SegmentWiring, data: st.DataObject) -> None:
    """Masks to bits to masks, and bytes of the chain to masks to bytes: nothing lit is lost, nothing dark is lit."""
    kind = ALPHABETS[wiring.alphabet]
    lamps = kind.colon * (":" in wiring.order) | kind.point | (kind.point - 1)
    masks = tuple(data.draw(st.integers(0, 2 * kind.colon - 1)) & lamps for _ in wiring.digits)
    sent = wiring.sent(masks)
    assert len(sent) == len(wiring.digits) * wiring.bytes_a_digit
    assert wiring.lit(sent) == masks
    assert wiring.sent(wiring.lit(sent)) == sent


def test_bytes_by_hand() -> None:
    """A 4 lights b, c, f and g. As usual that is 0x66; turned round and on a common anode each bit is the other one."""
    four = panel_of().code(Cell("4")) or 0
    assert panel_of(digits=1).wiring.sent((four,)) == b"\x66"
    assert panel_of(digits=1, common="anode").wiring.sent((four,)) == b"\x99"
    assert panel_of(digits=1, common="anode", inverted=True).wiring.sent((four,)) == b"\x66"
    assert panel_of(digits=1, order=". g f e d c b a").wiring.sent((four,)) == b"\x66"
    assert panel_of(digits=1, order="g f e d c b a .").wiring.sent((four,)) == b"\x33"
    pair = panel_of(digits=2, chain="right to left")
    assert pair.sent(pair.lit(((four, 0),))) == b"\x00\x66"
    assert panel_of(digits=4, chain="3 1 2 4").wiring.sent((1, 2, 4, 8)) == b"\x04\x01\x02\x08"
    many = panel_of(digits=1, segments="14")
    assert many.wiring.sent((many.code(Cell("i")) or 0,)) == b"\x10\x00"  # m is bit 12 of two bytes


def test_points_and_colons_are_lit_where_they_are() -> None:
    """A colon only behind the digit that has one; its own cell where there is none at all."""
    clock = panel_of(colons="2")
    codes = tuple(clock.code(cell) or 0 for cell in split_cells("12:34", joined=clock.joined))
    assert [bool(mask & 0x100) for mask in clock.lit((codes,)).masks] == [False, True, False, False]
    late = tuple(clock.code(cell) or 0 for cell in split_cells("1:234", joined=clock.joined))
    assert not any(mask & 0x100 for mask in clock.lit((late,)).masks)
    assert panel_of().code(Cell("1", colon=True)) is None
    assert panel_of(points=False).joined == ""


def test_a_person_s_own_glyph_stands_first() -> None:
    """By naming segments; a code that was sent by mistake is lit as it is."""
    panel = panel_of({"k": "abefg", "5": "a f g"})
    assert panel.code(Cell("k")) == 0b1110011
    assert panel.code(Cell("5")) == panel_of({"x": "a f g"}).code(Cell("x"))
    assert panel_of().code(Cell("5", code=5)) == 5


WRONG = [
    ({"order": "a b c d e f g x"}, '"x" is not a segment'),
    ({"order": "a a b c d e f g"}, '"a" appears twice'),
    ({"order": "a b c d e f"}, "segment g has no bit"),
    ({"chain": "1 2 3"}, 'like "4 3 2 1"'),
    ({"chain": "1 2 2 4"}, "each digit once"),
    ({"colons": "5"}, "digits from 1 to 4"),
    ({"colons": "x"}, 'like "2"'),
    ({"drive": "numbered driver", "digits": 9}, "up to 8 digits of 7 segments"),
    ({"drive": "numbered driver", "segments": "14"}, "up to 8 digits of 7 segments"),
]


@pytest.mark.parametrize(("written", "says"), WRONG)
def test_a_wrong_map_says_what_would_be_right(written: dict[str, object], says: str) -> None:
    """With the value."""
    with pytest.raises(ValueError, match=says):
        panel_of(**written)
    with pytest.raises(ValueError, match='"q" is not a segment'):
        panel_of({"k": "a q"})


def test_a_numbered_driver_has_its_own_order_of_bits() -> None:
    """Its lowest bit lights the middle segment: 1 is 0x30. Dimmed in sixteen steps, of which ours are every second."""
    panel = panel_of(digits=3, drive="numbered driver", chain="right to left")
    memory = ((panel.alphabet.shapes["1"], 0, panel.alphabet.shapes["2"] | panel.alphabet.point),)
    sent = sent_for(panel, memory)
    assert [each.data.hex() for each in sent] == ["0a0f", "01ed", "0200", "0330"]
    assert [each.command for each in sent] == [True, False, False, False]


CLOCK = {
    "digits": 4,
    "drive": "driver with an address",
    "points": False,
    "colons": "2",
    "chain": "1 2 - 3 4",
    "colons_at": "4 1",
}


def test_a_driver_with_an_address_has_two_bytes_a_place() -> None:
    """12:34 of a clock whose colon has a place of its own in the middle; the lower byte of a place first."""
    panel = panel_of(**CLOCK)
    cells = split_cells("12:34", joined=panel.joined)
    memory = (tuple(panel.code(cell) or 0 for cell in cells),)
    data = panel.sent(panel.lit(memory))
    assert data.hex(" ") == "06 00 5b 00 02 00 4f 00 66 00 00 00 00 00 00 00"
    assert panel.shown(data) == panel.lit(memory)
    said = [(each.what, each.data.hex(), each.command) for each in sent_for(panel, memory)]
    assert said == [("brightness 7", "ef", True), ("from byte 0 on", "00", True), ("its memory", data.hex(), False)]
    wide = panel_of(digits=2, segments="14", drive="driver with an address")
    both = ((wide.alphabet.mask("m"), wide.alphabet.point),)
    # Bit 13 and bit 14 of fifteen: in the upper byte, which comes second.
    order = ALPHABETS["14"].segments
    assert wide.sent(wide.lit(both))[:4] == bytes((0, 1 << order.index("m") - 8, 0, 1 << len(order) - 8))


def test_a_driver_with_an_address_is_woken_and_takes_its_time() -> None:
    """Asleep and dark at first. Twenty bytes with their answers, two starts and stops: 184 clocks of 100 kHz."""
    panel = panel_of(**CLOCK)
    controller = CONTROLLERS[usual_controller(panel)]
    assert [each.data.hex() for each in start_for(panel, controller)] == ["21", "81"]
    blank = ((0,) * 4,)
    said = [each.data.hex() for each in transmissions_for(panel, controller, blank)]
    assert said == ["ef", "00" + 16 * "00"]
    one = ((0, 0, panel.code(Cell("7")) or 0, 0),)
    assert [each.data.hex() for each in changes_for(panel, controller, blank, one)] == ["0607"]
    drawing = drawing_of(Face("f", "p", ()), panel)
    assert drawing.seconds == pytest.approx(1.84e-3)
    assert (drawing.data, drawing.bus) == (18, "two-wire bus")
    assert panel_of(digits=4).bus is None


@pytest.mark.parametrize(
    ("written", "says"),
    [
        ({"digits": 9}, "has 8 places of 16 bits"),
        ({"segments": "16"}, "has 8 places of 16 bits"),
        ({"chain": "1 2 - 3"}, "each digit once"),
        ({"chain": "1 2 - - - - - 3 4"}, "has 8 places of 16 bits"),
        ({"colons_at": "16 0"}, 'colons at = "16 0"; it is a byte from 0 to 15'),
        ({"colons_at": "4"}, 'colons at = "4"; it is a byte from 0 to 15'),
    ],
)
def test_what_such_a_driver_has_no_room_for_is_said(written: dict[str, object], says: str) -> None:
    with pytest.raises(ValueError, match=says):
        panel_of(**{"drive": "driver with an address", "digits": 4, **written})


@pytest.mark.parametrize(("written", "place"), [("4 0", (4, 0)), ("0 7", (0, 7)), ("0xF 1", (15, 1))])
def test_any_bit_of_its_memory_may_light_the_colons(written: str, place: tuple[int, int]) -> None:
    panel = panel_of(drive="driver with an address", digits=4, points=False, colons="2", colons_at=written)
    assert panel.colons_at == place


@pytest.mark.parametrize("written", ["4 8", "16 0", "4 -1", "x 1"])
def test_no_other_place_may(written: str) -> None:
    with pytest.raises(ValueError, match="it is a byte from 0 to 15 and a bit from 0 to 7"):
        panel_of(drive="driver with an address", digits=4, points=False, colons="2", colons_at=written)
