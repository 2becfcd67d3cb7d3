"""Figures of speed on this machine: medians, and ratios from one run in which both sides take turns.

Run by ``make measure``. The limits are those the project has set itself; see docs/newcomer.md.
"""

from __future__ import annotations

import argparse
import asyncio
import os
import pty
import select
import signal
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Sequence
from pathlib import Path

from lesart.desk.opening import open_desk
from lesart.desk.project_folders import make_yard
from lesart.tui.app import LesartApp

BARE = """
from textual.app import App
from textual.widgets import Static
class Bare(App):
    def compose(self):
        yield Static("first picture")
Bare().run()
"""
LESART = Path(sys.executable).with_name("lesart")
ROUNDS = 9
EDITS = 40


def first_picture_s(command: Sequence[str | Path], seen: bytes) -> float:
    """Seconds until a text has been written to a terminal of 160×47."""
    started = time.perf_counter()
    pid, terminal = pty.fork()
    if pid == 0:
        environment = {**os.environ, "TERM": "xterm-256color", "COLUMNS": "160", "LINES": "47"}
        os.execve(command[0], [str(part) for part in command], environment)
    written = b""
    while seen not in written:
        if not select.select([terminal], [], [], 30)[0]:
            raise TimeoutError(f"{seen!r} was not written")
        written += os.read(terminal, 65536)
    took = time.perf_counter() - started
    os.kill(pid, signal.SIGKILL)
    os.waitpid(pid, 0)
    os.close(terminal)
    return took


def command_s(arguments: Sequence[str | Path]) -> float:
    """Seconds of a command from start to end."""
    started = time.perf_counter()
    subprocess.run(arguments, stdout=subprocess.DEVNULL, check=False)
    return time.perf_counter() - started


async def edits_ms(yard: Path, step: str, downs: int) -> list[float]:
    """From the key that nudges a value to the refreshed screen with the new glass, one by one."""
    app = LesartApp(lambda: open_desk(yard), str(yard))
    took = []
    async with app.run_test(size=(160, 47)) as pilot:
        while not app._picture.notes:
            await pilot.pause(0.05)
        await pilot.press(*step, "tab", *["down"] * downs)
        await pilot.pause(0.5)
        for round_ in range(EDITS):
            await asyncio.sleep(0.2)
            drawn = asyncio.Event()
            started = time.perf_counter()
            app.action_nudge(1 if round_ % 2 else -1)
            while app._done < app._sent:
                await asyncio.sleep(0.0005)
            app.call_after_refresh(drawn.set)
            await drawn.wait()
            took.append((time.perf_counter() - started) * 1e3)
        if app._worker is not None:
            app._worker.stop()
    return sorted(took)


def main() -> None:
    """Measure and print."""
    argparse.ArgumentParser(prog="python -m tools.measure", description=(__doc__ or "").splitlines()[0]).parse_args()
    with tempfile.TemporaryDirectory() as work:
        yard = Path(work) / "linden-yard"
        make_yard(yard)
        turns = [
            (
                first_picture_s([sys.executable, "-c", BARE], b"first picture"),
                first_picture_s([LESART, "demo", yard], b"esart"),
                first_picture_s([LESART, "demo", yard], b"24-bit bridge"),
            )
            for _ in range(ROUNDS)
        ]
        bare, first, full = (statistics.median(each) for each in zip(*turns, strict=True))
        print(f"bare application of the framework  {bare * 1e3:6.0f} ms")
        print(f"first picture of lesart demo       {first * 1e3:6.0f} ms   {first / bare:.2f} × bare, 1.6 allowed")
        print(f"first picture with the reading     {full * 1e3:6.0f} ms")
        nothing = statistics.median(command_s([sys.executable, "-I", "-c", ""]) for _ in range(ROUNDS))
        print(f"interpreter alone                  {nothing * 1e3:6.0f} ms")
        for name, arguments in (
            ("lesart --help", [LESART, "--help"]),
            ("lesart hand", [LESART, "hand", yard, "hive 2 mass", "--raw", "461708"]),
            ("lesart check", [LESART, "check", yard]),
        ):
            took = statistics.median(command_s(arguments) for _ in range(ROUNDS))
            print(f"{name:<35}{took * 1e3:6.0f} ms")
        for name, step, downs in (
            ("sensitivity of the law", "3", 6),
            ("samples of the median", "5", 2),
            ("decimals of the field", "6", 1),
            ("on-time of the digits", "8ll", 0),
        ):
            took_ms = asyncio.run(edits_ms(yard, step, downs))
            worst = took_ms[int(len(took_ms) * 0.95) - 1]
            print(f"{name:<35}{statistics.median(took_ms):6.0f} ms   95 % within {worst:.0f} ms, 50 allowed")


if __name__ == "__main__":
    main()
