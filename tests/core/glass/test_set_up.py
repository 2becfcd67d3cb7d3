"""Panels told wrongly what they are, looked at from behind, left without power, before a camera, before three lamps."""

from __future__ import annotations

from dataclasses import replace

import pytest

from lesart.core.errors import QuantityError
from lesart.core.glass.panels.character_panel import PARAMETERS as CHARACTERS
from lesart.core.glass.panels.character_panel import CharacterPanel, build_character_panel
from lesart.core.glass.panels.frame import PixelFrame
from lesart.core.glass.panels.inspect_panel import inspect_panel
from lesart.core.glass.panels.pixel_panel import PixelPanel
from lesart.core.glass.panels.set_up import EVERY_SECOND, IN_TURN, SetUp
from lesart.core.pace.scan import on_camera
from lesart.core.quantity import parse_quantity
from lesart.core.units import parse_unit

LID = PixelPanel("lid", 8, 8, "white")
PERCENT = parse_unit("%")

# Of a glass of eight rows, worked by hand. On one wired so that even rows come first, lines 0 to 3 are rows 0, 2, 4, 6,
# lines 4 to 7 are rows 1, 3, 5, 7.
SEEN = {
    (0, EVERY_SECOND, EVERY_SECOND): [0, 1, 2, 3, 4, 5, 6, 7],
    (0, IN_TURN, IN_TURN): [0, 1, 2, 3, 4, 5, 6, 7],
    (8, EVERY_SECOND, EVERY_SECOND): [0, 1, 2, 3, 4, 5, 6, 7],
    # Told of half: rows 0 to 3 on lines 0 to 3, so on every second row.
    (4, EVERY_SECOND, IN_TURN): [0, None, 1, None, 2, None, 3, None],
    # Told of half and of the right order: the upper half only.
    (4, EVERY_SECOND, EVERY_SECOND): [0, 1, 2, 3, None, None, None, None],
    (4, IN_TURN, IN_TURN): [0, 1, 2, 3, None, None, None, None],
    # Told of all in the wrong order: both halves are interleaved.
    (0, EVERY_SECOND, IN_TURN): [0, 4, 1, 5, 2, 6, 3, 7],
    (0, IN_TURN, EVERY_SECOND): [0, 2, 4, 6, 1, 3, 5, 7],
}


@pytest.mark.parametrize("told", SEEN)
def test_where_rows_are_seen(told: tuple[int, str, str]) -> None:
    """Each row of the glass shows the row of the picture that was worked out by hand; others are dark."""
    set_up = SetUp(*told)
    assert set_up.rows(8) == SEEN[told]
    frame = PixelFrame(8, 8, tuple(range(1, 9)))
    seen = set_up.seen(frame)
    assert list(seen.rows) == [0 if row is None else row + 1 for row in SEEN[told]]
    assert set_up.is_right(8) == (SEEN[told] == list(range(8)))


def test_a_wrong_set_up_is_a_fault_that_is_mended() -> None:
    """What it is told, what is seen of that, and the values that put it right; turned panels too."""
    panel = replace(LID, height=64, width=128, set_up=SetUp(32, EVERY_SECOND, IN_TURN))
    (note,) = inspect_panel(panel)
    assert note.text == (
        "lid: its start sequence sets 32 rows, but it has 64: every second row is dark, as if the picture were "
        "twice as high; 32 rows of the picture are not seen."
    )
    assert (note.figure, note.limit) == (32.0, 64.0)
    assert [(mend.key[-1], mend.value) for mend in note.mend] == [("rows_told", 0), ("order_told", "as they lie")]
    assert inspect_panel(replace(panel, set_up=SetUp())) == []
    (note,) = inspect_panel(replace(panel, set_up=SetUp(0, IN_TURN, EVERY_SECOND)))
    assert note.text == (
        "lid: its start sequence says that its rows lie every second: rows of its upper and its lower half are "
        "interleaved."
    )
    (note,) = inspect_panel(replace(panel, set_up=SetUp(16)))
    assert note.text.endswith(
        "sets 16 rows, but it has 64: only rows 0 to 15 of 64 are lit; 48 rows of the picture are not seen."
    )
    (note,) = inspect_panel(replace(panel, set_up=SetUp(1)))
    assert note.text.endswith(
        "sets 1 row, but it has 64: only row 0 of 64 is lit; 63 rows of the picture are not seen."
    )
    (note,) = inspect_panel(replace(panel, set_up=SetUp(63)))
    assert note.text.endswith("only rows 0 to 62 of 64 are lit; 1 row of the picture is not seen.")
    turned = replace(LID, turns=1, set_up=SetUp(4, IN_TURN, IN_TURN))
    full = PixelFrame(8, 8, (0xFF,) * 8)
    # A quarter turned clockwise, the controller's upper half is the right one.
    assert turned.seen(full).rows == (0x0F,) * 8
    # Row 2 of what a person sees is a column of the glass; the left half of it is in the dark half.
    one_row = PixelFrame(8, 8, (0, 0, 0b1001_0110, 0, 0, 0, 0, 0))
    assert turned.seen(one_row).rows == (0, 0, 0b0000_0110, 0, 0, 0, 0, 0)


@pytest.mark.parametrize(
    ("see_through", "mirror", "keeps", "count"), [(1, 0, 0, 1), (1, 1, 0, 0), (0, 0, 1, 1), (1, 0, 1, 2)]
)
def test_from_behind_and_without_power(see_through: int, mirror: int, keeps: int, count: int) -> None:
    """Good to know of a panel that is see-through and not mirrored, and of one that keeps its picture."""
    panel = replace(LID, see_through=bool(see_through), mirror=bool(mirror), keeps=bool(keeps))
    assert [note.mark for note in inspect_panel(panel)] == ["·"] * count


@pytest.mark.parametrize(
    ("typed", "percent"),
    [
        ("50/255", 5000 / 255),
        ("50 of 255", 5000 / 255),
        ("50/255 low", 100 - 5000 / 255),
        ("255/255", 100),
        ("0/255 low", 100),
        ("80 %", 80),
        ("80", 80),
    ],
)
def test_levels_of_a_backlight(typed: str, percent: float) -> None:
    """As a program has them, from 0 to the highest, of either sense; and as a share."""
    assert parse_quantity(typed, PERCENT).to(PERCENT) == pytest.approx(percent, rel=1e-12)


def test_a_level_that_is_none() -> None:
    """Above the highest there is nothing."""
    with pytest.raises(QuantityError, match=r'"300/255" is not a level; write it like 50/255, from 0 to the highest\.'):
        parse_quantity("300/255", PERCENT)


def characters(**values: object) -> CharacterPanel:
    """With defaults for all others."""
    read = {each.name: each.read(each.default) for each in CHARACTERS}
    return build_character_panel("door", {**read, **values}, {}, {})


def test_three_lamps() -> None:
    """Their levels make the colour; an alarm has its own, and without any the same."""
    panel = characters(light="three lamps", lamps="255 0 0", alarm_light="three lamps", alarm_lamps="0, 255, 0")
    red, ink, says = panel.light_behind(alarm=False)
    green, other, alarmed = panel.light_behind(alarm=True)
    assert (red, green) == ("#ff1818", "#18ff18")
    assert ink == other
    assert (says, alarmed) == ("three lamps, 255 0 0", "three lamps, 0 255 0")
    assert characters(light="three lamps").light_behind(alarm=True)[0] == "#ffffff"
    assert characters(light="grey", alarm_light="red light").light_behind(alarm=True)[2] == "red light"
    for wrong in ("255 0", "256 0 0", "red"):
        with pytest.raises(ValueError, match=r'lamps = "[^"]*"; it needs red, green and blue from 0 to 255'):
            characters(light="three lamps", lamps=wrong)


def test_rows_before_a_camera() -> None:
    """By hand: 100 rounds a second, each row lit for a 64th. Open for 16.7 ms, a line sees one or two flashes: they
    differ by (2 − 1) / (2 + 1). At 1000 rounds it sees 16 or 17: 1 part in 33."""
    slow = on_camera("lid", 10 / 64, 10.0, 1000 / 60)
    assert slow.figure == pytest.approx(100 / 3)
    assert slow.note is not None
    assert slow.note.text.startswith("lid: a camera at 24, 25, 30, 40, 50 and 60 pictures a second shows bands")
    fast = on_camera("lid", 1 / 64, 1.0, 1000 / 60)
    assert fast.figure == pytest.approx(100 / 33)
    assert fast.note is None


@pytest.mark.parametrize(
    ("told", "rows", "says"),
    [
        ({"columns_off": 2}, (0b00110000, 0), "2 columns too far right"),
        ({"columns_off": -1}, (0b10000000, 0), "1 column too far left"),
        ({"right_left": True}, (0b00000011, 0), "mirrored"),
        ({"bottom_up": True}, (0, 0b11000000), "with its rows from the bottom up"),
        ({"bottom_up": True, "right_left": True}, (0, 0b00000011), "upside down"),
        ({"columns_off": 8, "bottom_up": True}, (0, 0), "8 columns too far right and with its rows from the bottom up"),
    ],
)
def test_a_picture_that_lies_elsewhere(told: dict[str, int | bool], rows: tuple[int, int], says: str) -> None:
    """Two dots in the upper left corner of eight by eight, worked by hand; the mends put it right."""
    panel = replace(LID, set_up=SetUp(**told))  # type: ignore[arg-type]
    seen = panel.seen(PixelFrame(8, 8, (0b11000000, *[0] * 7)))
    assert (seen.rows[0], seen.rows[7]) == rows
    assert not any(seen.rows[1:7])
    (note,) = inspect_panel(panel)
    assert note.text == f"lid: its picture lies {says}, because its start sequence says so."
    mended = replace(panel.set_up, **{str(mend.key[-1]): mend.value for mend in note.mend})  # type: ignore[arg-type]
    assert inspect_panel(replace(panel, set_up=mended)) == []
    assert set(told) == {mend.key[-1] for mend in note.mend}


@pytest.mark.parametrize(
    ("told", "lies"),
    [
        (SetUp(columns_off=1), ["1 column too far right"]),
        (SetUp(columns_off=2), ["2 columns too far right"]),
        (SetUp(columns_off=-1), ["1 column too far left"]),
        (SetUp(columns_off=-2, right_left=True), ["2 columns too far left", "mirrored"]),
        (SetUp(bottom_up=True, right_left=True), ["upside down"]),
        (SetUp(bottom_up=True), ["with its rows from the bottom up"]),
        (SetUp(), []),
    ],
)
def test_how_it_lies_is_said_as_it_looks(told: SetUp, lies: list[str]) -> None:
    """And where a column that is lit in the middle then stands."""
    assert told.lies() == lies
    seen = told.seen(PixelFrame(8, 8, (1 << 4,) * 8))  # the fourth from the left
    place = next(x for x in range(8) if seen.lit(x, 0))
    off = {"right": 1, "left": -1}
    moved = sum(int(each.split()[0]) * off[each.split()[-1]] for each in lies if "column" in each)
    mirrored = any("mirrored" in each or "upside" in each for each in lies)
    assert place == (7 - 3 if mirrored else 3) + moved
