"""What comes from outside the program: it is killed, its project is broken, holds what no terminal may obey, or is someone
else's file; and a mistake of its own."""

from __future__ import annotations

import os
import re
import shutil
import signal
import sys
from pathlib import Path

from tools.terminal import Terminal

from tests.terminal.screens import LESART, edit_value, says


def test_killed_and_opened_again(demo: Terminal, tmp_path: Path) -> None:
    """Unsaved work survives a kill: it is back as an edit that undo takes away."""
    demo.keys("3")
    demo.until("load cell")
    edit_value(demo, 6, "2.2 mV/V")
    demo.until("sensitivity = 2.2 mV/V")
    kept = tmp_path / "linden-yard/.lesart/unsaved.toml"
    demo.until(lambda _: kept.exists())
    os.kill(demo.pid, signal.SIGKILL)
    assert demo.exit_code() == -signal.SIGKILL
    with Terminal([LESART, "open", "linden-yard"], tmp_path) as again:
        again.until("Unsaved work of the last run is back")
        again.keys("3")
        again.until("sensitivity 2.2 mV/V")
        again.keys("C-z")
        again.until("sensitivity 2 mV/V")


def test_text_from_outside_is_shown_not_obeyed(tmp_path: Path, yard_once: Path) -> None:
    """Control sequences and markup in a project's names reach the screen as letters."""
    shutil.copytree(yard_once, tmp_path / "linden-yard")
    path = tmp_path / "linden-yard/lesart.toml"
    text = path.read_text(encoding="utf-8").replace('name = "linden yard"', r'name = "a\u001b[2J[red]b"')
    path.write_text(text.replace("hive 2 mass", r"m\u001b[31m[b]"), encoding="utf-8")
    with Terminal([LESART, "open", "linden-yard"], tmp_path) as terminal:
        terminal.until("m mends it", r"a\x1b[2J[red]b", r"m\x1b[31m[b]")


def test_a_broken_project_opens_when_it_is_mended(tmp_path: Path, yard_once: Path) -> None:
    """Every problem stands on the screen in a sentence, and mending the file opens it."""
    shutil.copytree(yard_once, tmp_path / "linden-yard")
    path = tmp_path / "linden-yard/lesart.toml"
    good = path.read_text(encoding="utf-8")
    path.write_text(good.replace('capacity = "200 kg"', 'capacity = "200 V"').replace("bits = 24", "bits = 99"))
    with Terminal([LESART, "open", "linden-yard"], tmp_path) as terminal:
        terminal.until(
            "Mend the file",
            says("law[0].bits = 99; it must be a whole number from 8 to 32"),
            says('capacity must be a mass or a force, like "200 kg", not 200 V'),
        )
        path.write_text(good)
        terminal.until("m mends it")


def test_a_mistake_of_lesart_s_own(tmp_path: Path, yard_once: Path) -> None:
    """An exception nobody thought of in the interface: a sentence and a file, no traceback, and the work is kept."""
    shutil.copytree(yard_once, tmp_path / "linden-yard")
    script = tmp_path / "broken.py"
    script.write_text(
        "import sys\nfrom lesart.cli.main import main\nfrom lesart.tui import app\n"
        "app.LesartApp.action_keys = lambda self: 1 // 0\nsys.exit(main(['open', 'linden-yard']))\n"
    )
    with Terminal([sys.executable, script], tmp_path) as terminal:
        terminal.until("m mends it")
        terminal.keys("8", "l", "l", "Tab", "Right")
        terminal.until("unsaved")
        terminal.keys("?")
        assert terminal.exit_code() == 3
        screen = terminal.until(says(".txt says what happened."))
        assert "Traceback" not in screen
        report = re.search(r"own; (\S+\.txt) says", " ".join(screen.split()))
        assert report is not None
        assert "ZeroDivisionError" in Path(report[1]).read_text()
        Path(report[1]).unlink()
    assert (tmp_path / "linden-yard/.lesart/unsaved.toml").exists()


def test_a_csv_of_someone_else(tmp_path: Path) -> None:
    """Any other CSV: nothing is asked, the reading stands on the glass, and leaving without a change asks nothing."""
    rows = "".join(f"{index * 50};{21 + index % 7 / 10:.1f}\n".replace(".", ",") for index in range(400))
    (tmp_path / "oven.csv").write_text("millis;temp [°C]\n" + rows, encoding="utf-8")
    with Terminal([LESART, "new", "oven.csv", "--open"], tmp_path) as terminal:
        terminal.until("no references", "temp [°C]", "20 Hz  400 samples")
        terminal.keys("6")
        terminal.until(lambda seen: "film strip" in seen and "on glass" in seen)
        terminal.keys("C-q")
        assert terminal.exit_code() == 0
