"""The real program in a real terminal: keys go in, the screen is read, the files are looked at afterwards."""

from __future__ import annotations

import difflib
import re
import tomllib
from functools import partial
from pathlib import Path

import pytest
from tools.terminal import Terminal

from lesart.core.wire.faults.inspect import inspect_hookup
from lesart.demo.yard import project_text
from lesart.project.check import check_project
from tests.terminal.screens import edit_value, reading, stand

STEPS = (
    ("0", "every channel and panel at once"),
    ("1", "13 parts, 38 connections"),
    ("2", "column bridge_ct"),
    ("3", "signed converter on a bridge"),
    ("4", "compare with references"),
    ("5", "steady without being slow"),
    ("6", "film strip"),
    ("7", "4 digits, scanned"),
    ("8", "the loop, 24.4 ms of it"),
    ("9", "Nothing can overflow"),
)


def test_the_main_job(demo: Terminal, tmp_path: Path) -> None:
    """Walk all steps, edit a constant, see the glass change, undo, redo, save, leave, read the file."""
    for key, seen in STEPS:
        demo.keys(key)
        assert "Traceback" not in demo.until(seen, "hive 2 mass")
    before, lit = reading(demo.until(reading)), stand(demo)
    demo.keys("3")
    demo.until("load cell")
    edit_value(demo, 6, "2.2 mV/V")
    after = reading(demo.until("sensitivity = 2.2 mV/V", "unsaved", lambda screen: reading(screen) not in ("", before)))
    # The line through the references stays, so the reading shrinks by the ratio of the sensitivities but for its offset.
    assert float(after.split()[0]) == pytest.approx((float(before.split()[0]) + 0.22) * 2 / 2.2 - 0.22, abs=0.11)
    demo.until(lambda _: stand(demo) != lit)

    demo.keys("C-z")
    demo.until("Undone", lambda screen: reading(screen) == before, lambda _: stand(demo) == lit)
    demo.keys("C-y")
    demo.until(lambda screen: reading(screen) == after)
    demo.keys("C-s")
    demo.until("Saved lesart.toml")
    demo.keys("C-q")
    assert demo.exit_code() == 0

    saved = (tmp_path / "linden-yard/lesart.toml").read_text(encoding="utf-8")
    changed = [line for line in difflib.ndiff(project_text().splitlines(), saved.splitlines()) if line[0] in "+-"]
    assert changed == ['- sensitivity = "2 mV/V ± 0.5 %"', '+ sensitivity = "2.2 mV/V ± 0.5 %"']


@pytest.mark.long
def test_cursor_play_hand_and_mend(demo: Terminal) -> None:
    """The cursor moves, time passes, the hand drives the glass, a note is mended by its key."""
    demo.keys(".")
    demo.until("cursor 00:24:00.0")
    demo.keys("=", "=", "Space")
    demo.until(lambda screen: "▶ ×5" in screen and "00:24:00.0" not in screen)
    demo.keys("Space")
    demo.until("‖ ×5")
    demo.keys("h")
    demo.until("a raw value or a reading")
    demo.typed("-1.26 kg")
    demo.keys("Enter")
    demo.until(lambda screen: "hand −" in screen and reading(screen) == "−1.3 kg")
    demo.keys("h")
    demo.until("The hand is released")
    demo.keys("n", "n", "n")
    demo.until("the digits of stand")
    demo.keys("m")
    demo.until("mended: stand on time = 4.9 ms")
    demo.until(lambda screen: "refresh of stand" in screen and "refreshed at 41 Hz" not in screen)


@pytest.mark.long
def test_laws_by_keys(demo: Terminal) -> None:
    """The leaves of Law are turned, a law is added, moved and taken away; a field is shown in another unit."""
    demo.keys("3", "l")
    demo.until("combined, 95 % coverage")
    demo.until("one raw count is 0.0000926 kg over the whole range")
    demo.keys("+")
    demo.until("a law, like linear °C")
    demo.until("what it is, like a bridge")
    demo.typed("linear kg")
    demo.keys("Enter")
    demo.until("added: straight line")
    demo.until("3  straight line")
    demo.keys("K")
    demo.until("law 1 gives mV/V, but law 2 takes kg")
    demo.keys("Delete")
    demo.until("removed: linear")
    demo.keys("U")
    demo.until("hive 2 mass on stand is shown in")


@pytest.mark.long
def test_why_by_keys(demo: Terminal) -> None:
    """What it should read is typed, an answer is written and undone; then the looks of the panel are asked about."""
    demo.keys("2", "y")
    demo.until("why, it should read:")
    demo.typed("86 kg ± 1")
    demo.keys("Enter")
    demo.until("1 truth about hive 2 mass")
    demo.until("it would be 64")
    demo.keys("x")
    demo.until("written: gain of bridge converter 64")
    demo.until("That is right as it is")
    demo.keys("C-z", "7", "y", "Enter")
    demo.until("Which of these do you see?")
    demo.keys("y")
    demo.typed("1")
    demo.keys("Enter")
    demo.until("begins again")


@pytest.mark.long
def test_references_and_a_variant_by_keys(demo: Terminal) -> None:
    """Two references are recorded and make a line; a variant of the channel is made, changed, and both stand there."""
    demo.keys("4", "Down")
    demo.until("No references yet")
    for value, said in (("36.0 °C ± 0.2 °C", "added: 36 °C"), ("34.8", "added: 34.8 °C")):
        demo.keys("+")
        demo.until("true value at the cursor")
        demo.typed(value)
        demo.keys("Enter")
        demo.until(said)
        demo.keys(">", ">", ">")
    demo.until("fit line")
    demo.until(lambda screen: re.search(r"known from 34\.8\d* to 36\.0", screen) is not None)
    demo.keys("5", "V")
    demo.until("new variant β of lid air")
    demo.keys("Tab", "Right")
    demo.until("lid air samples = 33")
    demo.keys("l")
    demo.until("○ α mean 32", "● β mean 33", *(partial(re.search, rf"{name} +\d\d\.\d") for name in "αβ"))
    demo.keys("a")
    demo.until("adopted: lid air β")


@pytest.mark.long
def test_a_two_line_face_from_nothing_by_keys(demo: Terminal) -> None:
    """A panel by its description, a label, two fields and a bar placed, moved and aligned, a glyph drawn, a pattern seen;
    undo takes it all back."""
    demo.keys("7", "L")
    demo.until("Panels by what they are")

    def add(question: str, typed: str, said: str) -> None:
        demo.keys("+")
        demo.until(question)
        demo.typed(typed)
        demo.keys("Enter")
        demo.until(said)

    add("panel and its name", "16x2 characters shed", "added: shed, 16×2 characters")
    demo.until("Glass shed, 16×2 characters")
    demo.until("No item yet")
    add("an item, like field", "label hive", "added: label hive")
    add("an item, like field", "field lid air", "added: field lid air")
    demo.keys("A", "A")
    demo.until(lambda screen: re.search(r"field of lid air at row 0, column \d+", screen) is not None)
    demo.keys("S-Down")
    demo.until(lambda screen: re.search(r"field of lid air at row 1, column \d+", screen) is not None)
    add("an item, like field", "bar hive 2 mass", "added: bar hive 2 mass")
    demo.until(lambda screen: "covers the" not in screen)
    demo.keys("l", "l")
    demo.until("No custom glyph yet")
    add("letter that the new glyph", "h", "added: glyph h")
    demo.keys("x")
    demo.until("h: dot 1 of row 1 turned")
    demo.keys("S-Right", "x")
    demo.until("h: dot 2 of row 1 turned")
    demo.until("##.../")
    demo.keys("p")
    demo.until("step 1 of 1")
    demo.until(lambda screen: "80" in screen and "C0" in screen)  # both rows are addressed
    demo.keys(*["C-z"] * 10)
    demo.until("Undone: added: shed")
    demo.until("Glass stand")


def test_a_wrong_value_says_what_would_be_right(demo: Terminal, tmp_path: Path) -> None:
    """Typed at the screen, refused in a sentence with the line left open; the file, the reading and the history stay as
    they were."""
    before = reading(demo.until(reading))
    demo.keys("3")
    demo.until("load cell")
    edit_value(demo, 6, "2 kg")
    demo.until("kg cannot be converted to mV/V", "sensitivity", lambda screen: reading(screen) == before)
    demo.until("sensitivity: 2 kg")
    demo.keys("Escape")
    demo.until(lambda screen: "sensitivity: 2 kg" not in screen)
    demo.keys("C-z")
    demo.until("Nothing is left to undo")
    assert (tmp_path / "linden-yard/lesart.toml").read_text(encoding="utf-8") == project_text()


def test_every_size(demo: Terminal) -> None:
    """Each size shows its own arrangement; what is not shown is a key away, and too small is said in a sentence."""
    demo.resize(120, 36)
    demo.until(lambda seen: "glass  stand" in seen and "variants of" not in seen and "glass  door" not in seen)
    demo.resize(80, 24)
    demo.until("Wire†→Raw")
    demo.keys("g")
    demo.until(lambda seen: "glass  stand" in seen)
    demo.keys("c")
    demo.until(lambda seen: "channels" in seen and "lid air" in seen)
    demo.keys("n", "n", "n")
    demo.until("refreshed at 41 Hz flicker")
    demo.resize(40, 10)
    demo.until(lambda seen: "needs 60×16 cells; here are 40×10" in " ".join(seen.split()))
    demo.resize(160, 47)
    screen = demo.until("glass  door")
    assert max(map(len, screen.splitlines())) <= 160


def test_keys_faster_than_pictures(demo: Terminal) -> None:
    """A hundred keys in one go: none is lost, the last state is shown."""
    demo.keys_at_once(*["."] * 60, *[","] * 40, "5")
    demo.until("cursor 00:24:01.9")
    demo.until("steady without being slow")


@pytest.mark.long
def test_a_hookup_from_parts_to_a_sheet(demo: Terminal, tmp_path: Path) -> None:
    """Both faults of the yard mended by keys, a part added and joined, a value measured, the sheet drawn, all saved."""
    demo.keys("1")
    demo.until("13 parts, 38 connections · † 2")
    demo.keys("n")
    demo.until("▌¹  † Wire")
    demo.keys("m")
    demo.until("mended: ")
    demo.until("· † 1")
    demo.keys("n")
    demo.keys("m")
    demo.until(lambda screen: "14 parts, 38 connections" in screen and "· †" not in screen)
    demo.keys("+")
    demo.until("add a part, like a 10k resistor")
    demo.typed("wing lamp = lamp")
    demo.keys("Enter")
    demo.until("added: wing lamp, lamp")
    demo.keys("j")
    demo.until("joined by role: 2 connections")
    demo.keys("L")
    demo.until("types what the meter shows")
    # At once: letters behind enter belong to what is typed, however far the screen is behind.
    demo.keys_at_once("Tab", "Enter", "y", "e", "s", "Enter")
    demo.until("✓ Before power: the print on lid probe")
    demo.keys("e")
    demo.until("drawings/linden-yard-hook-up.svg")
    demo.keys("Enter")
    demo.until("Drawn: ")
    demo.keys("C-s")
    demo.until("Saved lesart.toml")
    demo.keys("C-q")
    assert demo.exit_code() == 0
    assert "wing lamp" in (tmp_path / "linden-yard/drawings/linden-yard-hook-up.svg").read_text(encoding="utf-8")
    saved = (tmp_path / "linden-yard/lesart.toml").read_text(encoding="utf-8")
    hookup = check_project(saved).hookup
    assert [note.text for note in inspect_hookup(hookup) if note.is_fault] == []
    gone = [line for line in project_text().splitlines() if line not in saved.splitlines()]
    # Four connections were changed; nothing else of the file went away.
    assert len(gone) == 4
    assert all(" pin = " in line for line in gone)


def test_a_line_is_listened_to_recorded_and_kept(demo: Terminal, tmp_path: Path) -> None:
    """The demo brings its rig: the scale of hive 1 is heard, held, recorded, left; the file is its capture then."""
    demo.keys("2", *["Down"] * 7)
    demo.until("not listened to")
    demo.keys("o")
    demo.until(lambda screen: "▶ live" in screen and re.search(r"● \d+/s", screen) is not None)
    demo.keys("r")
    demo.until(lambda screen: "● recording" in screen and re.search(r"hive-1-\d{8}-\d{6}\.csv +[2-9]\d rows", screen))
    demo.keys("Space")
    held = re.search(r"cursor (\S+)", demo.until("‖ held"))
    assert held is not None
    demo.keys("0")
    demo.until("○ not listened to", "● recorded", f"cursor {held[1]}")
    demo.keys("2", "o")
    demo.until(lambda screen: "Recorded" in screen and "▶ live" not in screen)
    demo.keys("C-s")
    demo.until("Saved lesart.toml")
    demo.keys("C-q")
    assert demo.exit_code() == 0
    folder = tmp_path / "linden-yard"
    name = tomllib.loads((folder / "lesart.toml").read_text(encoding="utf-8"))["sources"]["hive 1"]["capture"]
    rows = [line for line in (folder / name).read_text(encoding="utf-8").splitlines()[4:] if line[0] != "#"]
    assert len(rows) > 20
    assert not (folder / "rig" / "scale").exists()


@pytest.mark.long
def test_who_answers_is_asked_from_the_bring_up_list(demo: Terminal) -> None:
    demo.keys("u")
    demo.until(lambda screen: "asked" in screen and "u stops it" in screen)
    demo.until(lambda screen: re.search(r"asked [1-9]\d+ of 247", screen) is not None)
    demo.keys("u")
    demo.until("· mast at 7 answered")


@pytest.mark.long
def test_pace_by_keys(demo: Terminal) -> None:
    """The loop longer and on, a task added, figures kept beside, a sweep, a trace gone through byte by byte."""
    demo.keys("8")
    demo.until("the loop, 24.4 ms of it")
    demo.keys("[")
    demo.until("the loop, 48.8 ms of it")
    demo.keys(".")
    demo.until("48.8 ms of it from 12.2 ms on")
    demo.keys("x")
    demo.until("figures are kept, to compare")
    demo.keys("l", "+")
    demo.until("add a task, like log every 5 s")
    demo.typed("log every 50 ms takes 20 ms")
    demo.keys("Enter")
    demo.until("added: log")
    demo.keys("l", "l", "x")
    demo.until("limit 50 at 4.9")
    demo.keys("l", "g", "g")
    demo.until("transmission 64 of 64")
    demo.keys("<")
    demo.until("transmission 48 of 64")
    demo.keys("x")
    demo.until("should leave")
