"""Wire on the screen: leaves turned by keys and clicks, parts typed, all joined, notes gone to and mended."""

from __future__ import annotations

from pathlib import Path

import pytest

from tests.tui.driven import MIDDLE, SMALL, WIDE, opened


async def test_leaves_turn_by_keys_and_clicks(yard: Path) -> None:
    async with opened(yard) as driven:
        await driven.press("1")
        assert "joins   parts   sums   supply   why   bring-up" in driven.text("head")
        assert "stand resistors 270Ω" not in driven.text("body")
        await driven.press("l")
        assert "large 3.3 V board" in driven.text("body")
        await driven.press("L", "L")
        assert "Without power" in driven.text("body")
        await driven.click("head", "supply")
        assert "pack.+  gives 2 A" in driven.text("body")
        await driven.press("2", "l")
        assert "one leaf only" in driven.text("message")


async def test_a_note_is_gone_to_and_its_place_is_in_sight(yard: Path) -> None:
    """The row is far below the first ones; n brings it up, m mends it, and the wire is whole."""
    async with opened(yard) as driven:
        await driven.press("n", "n")
        assert "two-wire character display" in driven.text("body")
        assert "╌†╌" in driven.text("body")
        await driven.press("m")
        await driven.until(lambda: "bus up to 5 V" not in driven.text("notes"))
        assert "door levels" in driven.text("body")


async def test_a_part_is_typed_and_all_is_joined(yard: Path) -> None:
    async with opened(yard) as driven:
        await driven.press("1", "plus")
        assert "add a part, like a 10k resistor, or join pins, like a.pin > b.pin through r:" in driven.text("message")
        await driven.press(*"lamp 1 = lamp", "enter")
        assert "added: lamp 1, lamp" in driven.text("message")
        await driven.press("j")
        assert "joined by role: 2 connections, with lamp 1 resistor, door levels." in driven.text("message")
        await driven.press("ctrl+z")
        assert "Undone: joined by role" in driven.text("message")


@pytest.mark.long
async def test_a_measured_value_is_typed_in_its_place(yard: Path) -> None:
    async with opened(yard) as driven:
        await driven.press("1", "L", "tab", "down", "down", "down", "enter")
        await driven.press(*"12", "enter")
        assert "measured 12 Ω" in driven.text("body")
        await driven.until(lambda: "pack.+ short: 12 Ω, where 100 Ω or more would be right" in driven.text("notes"))
        await driven.press("delete")
        assert "not measured: pack.+ short" in driven.text("message")


async def test_a_sum_is_written(yard: Path) -> None:
    async with opened(yard) as driven:
        await driven.press("1", "l", "l", "tab", "down", "enter")
        await driven.press(*"1k", "enter")
        assert "brood half has resistance 10 kΩ; w writes it" in driven.text("body")
        await driven.press("w")
        # √(1 kΩ × 33 kΩ) = 5.74 kΩ; the nearest of E24 is 5.6 kΩ.
        assert "brood half is a resistor of 5.6 kΩ" in driven.text("message")


async def test_a_key_changes_only_what_is_seen(yard: Path) -> None:
    """After another leaf is turned up, ← and → act on its first value, not on the one selected before."""
    async with opened(yard) as driven:
        await driven.press("1", "tab", "down", "down", "l", "right")
        assert "node kind = 3.3 V computer" in driven.text("message") or "node has the pins" in driven.text("message")


@pytest.mark.parametrize("size", [*(pytest.param(size, marks=pytest.mark.long) for size in (WIDE, MIDDLE)), SMALL])
@pytest.mark.parametrize("leaf", range(5))
async def test_every_leaf_at_every_size(yard_once: Path, size: tuple[int, int], leaf: int) -> None:
    """Nothing is cut without a mark."""
    async with opened(yard_once, size) as driven:
        await driven.press("1", *["l"] * leaf)
        body = driven.app._sheet.query_one("#body")
        below = len(driven.app._picture.workspace.lines) - body.size.height
        assert ("more lines" in driven.text("body")) is (below > 0)
        assert "…" not in driven.text("body")
