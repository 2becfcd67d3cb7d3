"""Keys and commands: each does something, and the page and the list name all of them."""

from __future__ import annotations

from pathlib import Path

import pytest

from lesart.core.step import Step
from lesart.tui.key_groups import GROUPS, HERE, WORDS
from lesart.tui.keys import KEYS, MORE_COMMANDS
from lesart.tui.regions import KEYS_SMALL, KEYS_WIDE, keys_line
from lesart.tui.theme import DARK, LIGHT
from tests.small import make_small
from tests.tui.driven import SMALL, opened


@pytest.mark.long
async def test_every_key_and_command_does_what_it_can(tmp_path: Path) -> None:
    """Each key of the table is taken by the desk, and what it asks is left again; nothing ends Lesart."""
    async with opened(make_small(tmp_path)) as driven:
        for step in (Step.GLASS,):
            for key in (*KEYS, *MORE_COMMANDS):
                if key.keys in ("ctrl+q", "u", "o", "O", "r"):
                    continue  # leaving; lines and surveys have tests of their own, with a rig at the other end
                driven.app.open_step(step)
                key.does(driven.app)
                await driven.pilot.pause()
                if len(driven.app.screen_stack) > 1:
                    driven.app.pop_screen()
                    await driven.pilot.pause()
                driven.app.action_leave()
                await driven.until(lambda sent=driven.app._sent: driven.app._done >= sent)
                assert not driven.app.mistake, key.says
        assert driven.app._picture.workspace.step is not None


async def test_commands_by_name_while_pictures_come(yard: Path) -> None:
    """ctrl+p lists every command; the list lies over the sheet, which goes on being drawn."""
    async with opened(yard) as driven:
        await driven.pilot.press("ctrl+p", *"parchment")
        driven.app._do(lambda desk: desk.open_step(Step.CALM))
        await driven.settled()
        await driven.pilot.press("enter")
        assert driven.text("head").startswith(" Calm")
        await driven.until(lambda: driven.app._scene.palette is LIGHT)


async def test_the_list_of_keys(yard: Path) -> None:
    """? shows every key; what does not fit can be scrolled to; the keys named at the foot exist."""
    async with opened(yard, SMALL) as driven:
        await driven.press("question_mark")
        seen = driven.text("body")
        for _ in range(12):
            await driven.press("pagedown")
            seen += driven.text("body")
        for key in KEYS:
            assert key.says in seen
        for word, _ in WORDS:
            assert word in seen
        await driven.press("escape")
        assert "keys" not in driven.text("head")
    shown = " ".join(key.shown for key in KEYS)
    for keys, _ in (*KEYS_WIDE, *KEYS_SMALL):
        assert all(part in shown for part in keys.replace("0–9", "0 9").replace("↑↓", "↑ ↓").split())


def test_every_key_has_its_group() -> None:
    """Once among all; and those of a step are keys that there are."""
    grouped = [name for _, names in GROUPS for name in names]
    assert sorted(grouped) == sorted(key.keys for key in KEYS)
    assert set(HERE) == set(Step) - {Step.PACK}
    assert {name for names in HERE.values() for name in names} <= set(grouped)


@pytest.mark.long
async def test_the_keys_of_the_open_step_come_first(yard: Path) -> None:
    """With what + takes there; no line is cut on a wide screen."""
    by_name = {key.keys: key for key in KEYS}
    async with opened(yard) as driven:
        for step in HERE:
            assert step is not None
            await driven.press("escape", str(step.number), "question_mark")
            lines = driven.text("body").splitlines()
            assert lines[0].strip() == f"in {step.number} {step.shown}"
            first = "\n".join(lines[: lines.index(" steps")])
            assert [name for name in HERE[step] if by_name[name].says not in first] == []
            adds = driven.app._picture.workspace.adds
            assert not adds or adds.split(",")[0].rstrip(": ")[:40] in first


@pytest.mark.parametrize("width", [60, 80, 100, 120, 160, 200])
def test_the_foot_never_loses_what_one_needs(width: int) -> None:
    """Keys, notes and saving stand there at every width that Lesart is drawn at."""
    keys = KEYS_SMALL if width < 110 else KEYS_WIDE
    said = "".join(piece[0] for piece in keys_line(DARK, width, keys))
    for key in ("n m ", "? keys", "ctrl+s save", "0–9 step"):
        assert key in said
    assert len(said) <= width
