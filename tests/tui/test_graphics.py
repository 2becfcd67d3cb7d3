"""Graphics of a terminal: what it answers is no key, and of a picture only what changed is sent."""

from __future__ import annotations

import random
from pathlib import Path

import pytest
from textual.events import Key
from textual.geometry import Region

from lesart.tui.graphics import over
from lesart.tui.graphics.answers import Answered, AnsweringParser, Asked, may_be_asked, per_inch
from lesart.tui.graphics.over import PicturedApp
from lesart.tui.graphics.terminal import PLACED, SIXEL, Graphics
from lesart.tui.widgets.lines import Lines
from tests.tui.driven import opened

ANSWERS = ("\x1b_Gi=31;OK\x1b\\", "\x1b[6;17;8t", "\x1b[?62;4;22c")


def read(pieces: list[str], *, waiting: bool = True) -> tuple[str, list[str]]:
    """The keys and the answers that come of what is read, in pieces."""
    AnsweringParser.waiting = waiting
    parser = AnsweringParser()
    keys, answers = "", []
    for piece in pieces:
        for message in parser.feed(piece):
            if isinstance(message, Answered):
                answers.append(message.answer)
            elif isinstance(message, Key):
                keys += message.character or f"<{message.key}>"
    return keys, answers


@pytest.mark.parametrize("seed", range(20))
def test_answers_among_keys(seed: int) -> None:
    """Wherever what is read is cut in two, keys stay keys, in their order, and answers are whole."""
    chance = random.Random(seed)
    typed = ["7", "g", "\x1b[A", "x", "\x1b[6~", "é"]
    parts = list(typed)
    for at, answer in zip(sorted(chance.randrange(len(typed) + 1) for _ in ANSWERS), ANSWERS, strict=True):
        parts.insert(at + sum(part in ANSWERS for part in parts), answer)
    whole = "".join(parts)
    wanted = read(["".join(typed)])[0]
    # Keys of several letters are cut nowhere: between a key and what follows there may be any time.
    ends = [sum(map(len, parts[:count])) for count in range(1, len(parts))]
    inside = [
        at
        for count, part in enumerate(parts)
        if part in ANSWERS
        for at in range(sum(map(len, parts[:count])) + 2, sum(map(len, parts[: count + 1])))
    ]
    for at in sorted({*ends, *inside}):
        keys, answers = read([whole[:at], whole[at:]])
        assert (keys, answers) == (wanted, list(ANSWERS)), at


def test_escape_is_not_held_back() -> None:
    """Once the last answer is there, half an answer is not waited for."""
    keys, answers = read(["\x1b[?62;4c", "a"])
    assert (keys, answers) == ("a", ["\x1b[?62;4c"])
    assert not AnsweringParser.waiting


@pytest.mark.parametrize(
    ("answers", "found"),
    [
        (("\x1b[6;17;8t", "\x1b[?62;4;22c"), Graphics(SIXEL, 8, 17)),
        (("\x1b_Gi=31;OK\x1b\\", "\x1b[6;20;10t", "\x1b[?62c"), Graphics(PLACED, 10, 20)),
        (("\x1b_Gi=31;EINVAL:no\x1b\\", "\x1b[6;20;10t", "\x1b[?62c"), None),
        (("\x1b[6;17;8t", "\x1b[?1;2c"), None),
        (("\x1b[?62;4c",), None),
        (("\x1b[6;0;0t", "\x1b[?62;4c"), None),
        (("\x1b[6;17;8t", "\x1b[?4;1c"), None),
    ],
)
def test_what_the_terminal_can(
    answers: tuple[str, ...], found: Graphics | None, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Sixels by its attributes, images by number by its own answer; nothing without the size of its letters."""
    monkeypatch.setattr("lesart.tui.graphics.answers.cell_in_pixels", lambda: None)
    asked = Asked()
    assert [asked.after(each) for each in answers][-1] == found


@pytest.mark.parametrize(
    ("environment", "may"),
    [
        ({"TERM": "xterm-256color"}, True),
        ({"TERM": "xterm", "TMUX": "/tmp/x,1,0"}, False),
        ({"TERM": "screen", "STY": "1.x"}, False),
        ({"TERM": "linux"}, False),
        ({}, False),
    ],
)
def test_who_is_asked(environment: dict[str, str], may: bool) -> None:
    """Not what stands between two terminals, nor what would show the question."""
    assert may_be_asked(environment) is may


@pytest.mark.parametrize(("said", "found"), [("220", 220.0), ("", 96.0), ("fine", 96.0), ("-3", 96.0), ("1e9", 96.0)])
def test_how_fine_the_screen_is(said: str, found: float) -> None:
    """As a person says it; the usual where it is absurd."""
    assert per_inch({"LESART_PIXELS_PER_INCH": said}) == found


async def test_only_what_changed_is_sent(yard: Path) -> None:
    """A change of a few dots sends the rows of letters that hold them; what lies over a panel is not drawn on."""
    async with opened(yard) as driven:
        sent: list[str] = []
        driven.app._has_pixels = True
        driven.app.can_draw(Graphics(SIXEL, 8, 17))
        await driven.press("g", "g", "4")
        rows = list(driven.app._sheet.query_one("#glass", Lines).pixels_in_sight())
        assert len(rows) > 10
        regions = [Region(x, y, width, 1) for x, y, width, _ in rows]
        assert all(driven.app._sheet.query_one("#glass").region.contains_region(each) for each in regions)

        def written(app: PicturedApp, update: over.CompositorUpdate) -> str:
            sent.append(original(app, update))
            return sent[-1]

        original = PicturedApp._pixels_over
        with pytest.MonkeyPatch.context() as patch:
            patch.setattr(PicturedApp, "_pixels_over", written)
            before = {(x, y): escape for x, y, _, escape in rows}
            await driven.press("full_stop", "full_stop", "full_stop")
            after = {
                (x, y): escape for x, y, _, escape in driven.app._sheet.query_one("#glass", Lines).pixels_in_sight()
            }
            changed = [place for place in after if before.get(place) != after[place]]
            counted = sum(text.count("\x1bP") for text in sent)
            assert 0 < len(changed) < len(after)
            assert len(changed) <= counted < len(after) * len(sent)


async def test_larger_letters(yard: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """Where the letters of the window change their size, pixels are counted anew."""
    async with opened(yard) as driven:
        driven.app.can_draw(Graphics(SIXEL, 8, 17))
        for size, cell, found in (((140, 47), (16, 34), (16, 34)), ((160, 47), None, (16, 34))):
            monkeypatch.setattr(over, "cell_in_pixels", lambda cell=cell: cell)
            await driven.pilot.resize_terminal(*size)
            await driven.pilot.pause()
            assert driven.app._scene.means.graphics == Graphics(SIXEL, *found)


async def test_another_way_by_one_key(yard: Path) -> None:
    """b goes through the ways there are, true pixels only where the terminal has them."""
    async with opened(yard) as driven:
        said = []
        for _ in range(4):
            await driven.press("b")
            said.append(driven.text("message").strip())
        assert said == [
            "Panels are drawn as: half blocks.",
            "Panels are drawn as: quarter blocks.",
            "Panels are drawn as: miniature.",
            "Panels are drawn as: the best that fits.",
        ]
        assert "miniature" not in driven.text("glass").splitlines()[0]
