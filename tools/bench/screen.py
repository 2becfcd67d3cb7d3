"""What a person waits for: the first picture, the first reading, a command, an edit; and what it takes meanwhile."""

from __future__ import annotations

import asyncio
import os
import pty
import re
import select
import signal
import statistics
import subprocess
import sys
import time
from collections.abc import Iterator, Sequence
from pathlib import Path

import psutil
from tools.bench.files import LESART, PROJECT, write_csv
from tools.bench.sides import Row, in_turns, row

from lesart.core.glass.faces.face import compose
from lesart.desk.opening import open_desk
from lesart.desk.picture import look
from lesart.desk.project_folders import make_yard
from lesart.study.glass import glass_of
from lesart.tui.app import LesartApp
from lesart.tui.sheet import BLANK

BARE = """
from textual.app import App
from textual.widgets import Static
class Bare(App):
    def compose(self):
        yield Static("first picture")
Bare().run()
"""
SCREEN = {"TERM": "xterm-256color", "COLORTERM": "truecolor", "COLUMNS": "160", "LINES": "47"}
READING_OF_THE_YARD = b"24-bit bridge"
EDITS = 40
LOOKED_AT_S = 10.0


class Running:
    """A command in a terminal of 160×47, until it is left."""

    def __init__(self, command: Sequence[str | Path]) -> None:
        self.started = time.perf_counter()
        self.pid, self._terminal = pty.fork()
        if self.pid == 0:
            os.execve(command[0], [str(part) for part in command], {**os.environ, **SCREEN})

    def until(self, seen: bytes) -> float:
        """Seconds from the start until a text has been written."""
        written = b""
        while seen not in written:
            if not select.select([self._terminal], [], [], 60)[0]:
                raise TimeoutError(f"{seen!r} was not written")
            written += os.read(self._terminal, 65536)
        return time.perf_counter() - self.started

    def keys(self, keys: bytes) -> None:
        """Typed."""
        os.write(self._terminal, keys)

    def draw_for(self, seconds: float) -> int:
        """Take what is written; how many bytes that were."""
        end, count = time.perf_counter() + seconds, 0
        while (left := end - time.perf_counter()) > 0:
            if select.select([self._terminal], [], [], left)[0]:
                count += len(os.read(self._terminal, 65536))
        return count

    def share_of_a_core(self, seconds: float) -> float:
        """Of a core that it takes meanwhile."""
        process = psutil.Process(self.pid)
        before, started = sum(process.cpu_times()[:2]), time.perf_counter()
        self.draw_for(seconds)
        return (sum(process.cpu_times()[:2]) - before) / (time.perf_counter() - started)

    def end(self) -> None:
        """At once."""
        os.kill(self.pid, signal.SIGKILL)
        os.waitpid(self.pid, 0)
        os.close(self._terminal)


def first_s(command: Sequence[str | Path], seen: bytes) -> float:
    """Seconds until a text has been written."""
    running = Running(command)
    try:
        return running.until(seen)
    finally:
        running.end()


def start_rows(work: Path, rounds: int) -> Iterator[Row]:
    """First picture and first reading beside a bare application of the framework; commands beside the interpreter."""
    yard = work / "linden-yard"
    make_yard(yard)
    bare = "bare application"
    found: dict[str, list[float]] = {"bare": [], "first": [], "reading": []}
    for _ in range(rounds):
        found["bare"].append(first_s([sys.executable, "-c", BARE], b"first picture"))
        found["first"].append(first_s([LESART, "demo", yard], b"esart"))
        found["reading"].append(first_s([LESART, "demo", yard], READING_OF_THE_YARD))
    median = {name: statistics.median(times) for name, times in found.items()}
    yield Row("first picture of the demo", median["first"], (bare, median["bare"]), target=1.6)
    yield Row("first reading of the demo", median["reading"], (bare, median["bare"]), target=2.0)
    commands: dict[str, list[str | Path]] = {
        "lesart --help": [LESART, "--help"],
        "lesart hand": [LESART, "hand", yard, "hive 2 mass", "--raw", "461708"],
        "lesart check": [LESART, "check", yard],
    }
    allowed = {"lesart --help": 150, "lesart hand": 500, "lesart check": 1000}
    ways = {
        "interpreter": lambda: _run([sys.executable, "-I", "-c", ""]),
        **{name: (lambda command=command: _run(command)) for name, command in commands.items()},
    }
    times = in_turns(ways, rounds)
    for name in commands:
        scaled = allowed[name] * times["interpreter"] / 0.02
        remark = f"{allowed[name]} ms allowed where the interpreter takes 20, {scaled:.0f} here"
        yield Row(name, times[name], ("interpreter", times["interpreter"]), remark=remark)


def _run(command: Sequence[str | Path]) -> None:
    subprocess.run(command, stdout=subprocess.DEVNULL, check=False)


async def _edits_s(project: Path, step: str, downs: int, turns_after: int) -> list[float]:
    """From the key that nudges a value to the refreshed screen with the new glass, one by one.

    It goes up ``turns_after`` times before it goes down: what was seen before is known, and costs little.
    """
    os.environ |= SCREEN
    app = LesartApp(lambda: open_desk(project), str(project))
    took = []
    async with app.run_test(size=(160, 47)) as pilot:
        while app._picture is BLANK or not app._picture.notes_are_fresh:
            await pilot.pause(0.05)
        await pilot.press(*step, "tab", *["down"] * downs)
        await pilot.pause(1.0)
        # Waited for and not asked for again and again, which would take the desk's thread its time away.
        pictured = asyncio.Event()
        app.pictured = pictured.set  # type: ignore[method-assign]
        for round_ in range(EDITS):
            await asyncio.sleep(0.2)
            drawn = asyncio.Event()
            started = time.perf_counter()
            app.action_nudge(-1 if round_ // turns_after % 2 else 1)
            while app._done < app._sent:
                pictured.clear()
                await pictured.wait()
            app.call_after_refresh(drawn.set)
            await drawn.wait()
            took.append(time.perf_counter() - started)
        if app._worker is not None:
            app._worker.stop()
    return sorted(took)


def _edit_row(project: Path, name: str, step: str, downs: int, allowed_ms: int, turns_after: int = EDITS) -> Row:
    took = asyncio.run(_edits_s(project, step, downs, turns_after))
    worst = took[int(len(took) * 0.95) - 1] * 1e3
    return Row(f"edit: {name}", statistics.median(took), remark=f"95 % within {worst:.0f} ms, {allowed_ms} allowed")


def edit_rows(work: Path) -> Iterator[Row]:
    """Edits of the demo."""
    yard = work / "linden-yard"
    if not yard.exists():
        make_yard(yard)
    for name, step, downs, turns_after in (
        ("sensitivity of a law", "3", 6, EDITS),
        ("samples of a median", "5", 2, EDITS),
        # There are but a few decimals.
        ("decimals of a field", "6", 1, 3),
        ("on-time of the digits", "8ll", 0, EDITS),
    ):
        yield _edit_row(yard, name, step, downs, 30, turns_after)


def large_rows(work: Path, rows: int) -> Iterator[Row]:
    """Ten million samples open: an edit, and the memory that is held with all steps shown."""
    folder = work / "large"
    folder.mkdir()
    write_csv(folder / "year.csv", rows)
    (folder / "lesart.toml").write_text(PROJECT, encoding="utf-8")
    _run([LESART, "read", folder, "air", "--to", "1"])
    size = f"{rows / 1e6:g} M samples"
    yield _edit_row(folder, f"samples of a mean, {size} open", "5", 0, 50)
    running = Running([LESART, "open", folder])
    try:
        running.until(b"samples")
        for key in b"123456789":
            running.keys(bytes([key]))
            running.draw_for(1.5)
        held_mb, own_mb = held_by(running.pid)
    finally:
        running.end()
    data = rows * 16
    yield Row(
        f"memory with {size}, all steps shown",
        float("nan"),
        remark=f"{held_mb:.0f} MB, {held_mb * 1e6 / data:.1f} × the data; without the capture's own file, which is "
        f"mapped and not copied, {own_mb:.0f} MB, {own_mb * 1e6 / data:.1f} ×; 3 allowed",
    )


def held_by(pid: int) -> tuple[float, float]:
    """Megabytes that a process has in memory, and those of them that are not a file's."""
    told = dict(re.findall(r"^(\w+): +(\d+) kB", Path(f"/proc/{pid}/smaps_rollup").read_text(), re.MULTILINE))
    return int(told["Rss"]) * 1.024e-3, int(told["Anonymous"]) * 1.024e-3


def still_rows(work: Path) -> Iterator[Row]:
    """What it takes of a core while nothing happens, and while the demo is played."""
    yard = work / "linden-yard"
    if not yard.exists():
        make_yard(yard)
    running = Running([LESART, "demo", yard])
    try:
        running.until(READING_OF_THE_YARD)
        running.draw_for(5)
        idle = running.share_of_a_core(LOOKED_AT_S)
        yield Row("idle", float("nan"), remark=f"{idle:.1%} of a core, 1 % allowed")
        running.keys(b" ")
        running.draw_for(1)
        playing = running.share_of_a_core(LOOKED_AT_S)
        yield Row("played, 20 pictures a second", float("nan"), remark=f"{playing:.0%} of a core, 30 % allowed")
    finally:
        running.end()


def panel_rows(work: Path, rounds: int) -> Iterator[Row]:
    """All panels of the demo composed and made into what is drawn, and a whole picture of the desk."""
    yard = work / "linden-yard"
    if not yard.exists():
        make_yard(yard)
    desk = open_desk(yard)
    look(desk)
    project = desk.state.project

    def glasses() -> None:
        for face in project.faces.values():
            panel = project.panels[face.panel]
            glass_of(panel, compose(face, panel, {}, panel.blank(), 0.0).frame)

    count = len(project.faces)
    found = row(f"{count} faces composed and drawn", glasses, rounds=rounds * 5)
    yield Row(found.name, found.ours_s, remark=f"{found.ours_s * 1e3 / count:.1f} ms a face, 7 allowed")
    moved = iter(range(10**6))

    def picture() -> None:
        desk.move_cursor(1 if next(moved) % 2 else -1)
        look(desk, wait_for_notes=False)

    yield row("picture of the desk, cursor moved", picture, rounds=rounds * 5)
    desk.close()
