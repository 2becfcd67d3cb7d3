"""Long and hard use in a short time: two hours of a fast line, every key over ten million samples, a hundred kills.

Run by ``make endure``, a quarter of an hour. Each scenario prints a line for the page on how hard it is to break, and
fails where its promise is not held.
"""

from __future__ import annotations

import argparse
import asyncio
import gc
import json
import os
import random
import signal
import subprocess
import sys
import tempfile
import textwrap
import time
from collections.abc import Callable, Iterator, Sequence
from pathlib import Path
from typing import Any

import psutil

LINE_PROJECT = """lesart = 1
name = "line"
[sources.line]
[sources.line.line]
kind = "text line"
port = "none"
names = "a, b, c, d, e, f, g, h"
[panels.p]
kind = "segments"
[faces.f]
panel = "p"
[[faces.f.items]]
kind = "field"
channel = "a"
"""
CHANNEL = """
[channels.{name}]
source = "line"
column = "{name}"
raw_unit = "ct"
unit = "kg"
lowest = "0 kg"
highest = "20000 kg"
[[channels.{name}.law]]
kind = "linear"
input = "0 ct"
output = "0 kg"
slope = "1 kg/ct"
[[channels.{name}.calm]]
kind = "mean"
samples = 16
"""
LINES_A_SECOND = 1000
PART_S = 0.1
"""Of the line's time, heard at once."""
PICTURE_EVERY_S = 2.0
LONGEST_ANSWER_S = 0.3
MOST_GROWTH_MB = 30.0
"""Between half and whole of the time, once all buffers are full."""


def megabytes() -> float:
    """That this process holds."""
    return float(psutil.Process().memory_info().rss) / 1e6


class FastEar:
    """A line of so many rows a second whose hours pass as fast as they can be heard."""

    def __init__(self, length_s: float) -> None:
        from lesart.core.raw.lines.text_line import TextState

        self.now_s, self.length_s = 0.0, length_s
        self.over = False
        self._row = 0
        self._state = TextState(asked=tuple("abcdefgh"), byte_s=1e-6)

    def open(self) -> None:
        """It is always there."""

    def hear(self) -> Any:
        """The next tenth of a second."""
        from lesart.core.raw.lines.received import Received
        from lesart.core.raw.lines.text_line import take

        if self.now_s >= self.length_s:
            self.over = True
            time.sleep(0.01)
            return Received()
        count = round(LINES_A_SECOND * PART_S)
        lines = [
            ",".join(str((row * (7 + column)) % 9973) for column in range(8))
            for row in range(self._row, self._row + count)
        ]
        self._row += count
        self.now_s += PART_S
        self._state, heard = take(self._state, ("\n".join(lines) + "\n").encode(), self.now_s)
        return heard

    def close(self) -> None:
        """Nothing is held."""


def long_line(work: Path, hours: float) -> str:
    """Heard, recorded, and looked at every other second of it."""
    from lesart.core.raw.source import Source
    from lesart.desk.opening import open_desk
    from lesart.desk.picture import picture_of
    from lesart.live.listening import Listening
    from lesart.project.captures.capture_read import read_capture

    folder = work / "line"
    (folder / "captures").mkdir(parents=True)
    text = LINE_PROJECT + "".join(CHANNEL.format(name=name) for name in "abcdefgh")
    (folder / "lesart.toml").write_text(text, encoding="utf-8")
    ear = FastEar(hours * 3600)
    desk = open_desk(folder)
    source = desk.state.project.sources["line"]

    class Fast(Listening):
        def clock(self) -> float:
            return ear.now_s

    listening = Fast(source, folder, lambda *_: ear)
    listening.record(folder / "captures/line.csv")
    desk.lines._open["line"] = listening
    listening.start()
    held, looked, pictures = [], 0.0, 0
    while not ear.over:
        if ear.now_s < looked:
            time.sleep(0.001)
            continue
        looked = ear.now_s + PICTURE_EVERY_S
        desk.hear()
        picture_of(desk)
        pictures += 1
        held.append((ear.now_s, megabytes()))
    rows = listening.state.tally.rows
    recorded = listening.stop()
    assert recorded is not None
    desk.lines._open.clear()
    half = next(mb for at, mb in held if at >= hours * 1800)
    growth = held[-1][1] - half
    wanted = round(hours * 3600 * LINES_A_SECOND)
    kept = len(read_capture(folder / "captures/line.csv", Source("s", "line.csv", format="recording")).t)
    assert kept == recorded.rows >= wanted - 2, (kept, recorded.rows, wanted)
    assert growth < MOST_GROWTH_MB, held[:: max(len(held) // 10, 1)]
    return (
        f"{hours:g} h of a line of {LINES_A_SECOND} rows a second with 8 columns, recorded, {pictures} pictures: "
        f"{rows} rows heard, {kept} recorded; {half:.0f} MB at half of the time, {held[-1][1]:.0f} MB at its end"
    )


def every_key(work: Path, rows: int) -> str:
    """Each key of the table at each step, and how long the screen did not listen."""
    from tools.bench.screen import PROJECT, write_csv

    folder = work / "large"
    folder.mkdir()
    write_csv(folder / "year.csv", rows)
    (folder / "lesart.toml").write_text(PROJECT, encoding="utf-8")
    subprocess.run(
        [sys.executable, "-m", "lesart", "read", folder, "air", "--to", "1"], check=True, capture_output=True
    )
    pressed, worst, key = asyncio.run(_press_all(folder))
    assert worst <= LONGEST_ANSWER_S, (worst, key)
    return (
        f"{rows / 1e6:g} M samples open, {pressed} keys at nine steps: the screen never stopped listening for longer "
        f"than {worst:.2f} s"
    )


def told(doing: str) -> None:
    """For who waits."""
    print(f"\r{doing:<30}", end="", file=sys.stderr, flush=True)


async def _press_all(folder: Path) -> tuple[int, float, str]:
    from lesart.cli.main import COLLECT_AFTER
    from lesart.desk.opening import open_desk
    from lesart.tui.app import LesartApp
    from lesart.tui.keys import KEYS

    gc.set_threshold(*COLLECT_AFTER)
    last, worst, slowest, done = time.perf_counter(), 0.0, "", False
    at_hand = "start"

    async def watch() -> None:
        nonlocal last, worst, slowest
        while not done:
            await asyncio.sleep(0.005)
            now = time.perf_counter()
            if now - last - 0.005 > worst:
                worst, slowest = now - last - 0.005, at_hand
            last = now

    app = LesartApp(open_desk(folder))
    pressed = 0
    async with app.run_test(size=(160, 47)) as pilot:
        for _ in range(500):
            await pilot.pause(0.02)
            if app._done >= app._sent and app._picture is not None:
                break
        last = time.perf_counter()
        watching = asyncio.create_task(watch())
        for step in "123456789":
            await pilot.press(step)
            for key in KEYS:
                if key.keys in ("ctrl+q", "ctrl+z", "ctrl+s") or key.keys.isdigit():
                    continue
                at_hand = f"{step} {key.keys}"
                told(at_hand)
                await pilot.press(key.keys)
                await pilot.press("escape", "escape")
                pressed += 1
                for _ in range(200):
                    if app._done >= app._sent:
                        break
                    await pilot.pause(0.005)
            await pilot.press("escape", "escape")
        done = True
        await watching
        if app._worker is not None:
            app._worker.stop()
    return pressed, worst, slowest


SAVER = """
import sys
from pathlib import Path
from lesart.desk.opening import open_desk
desk = open_desk(Path({folder!r}))
k = {first}
while True:
    k += 1
    desk.edit(("channels", "room", "highest"), str(k) + " °C")
    desk.keep_work()
    print("edited", k, flush=True)
    if k % 5 == 0:
        desk.save()
        print("saved", k, flush=True)
"""


def kills_of_saving(work: Path, count: int) -> str:
    """Killed at any moment of editing and saving: what was saved is there, what was edited comes back."""
    from lesart.desk.opening import open_desk
    from lesart.desk.project_folders import make_job

    folder = make_job("hut", work / "hut")
    chance, k, came_back = random.Random(1), 50, 0
    for _ in range(count):
        script = textwrap.dedent(SAVER.format(folder=str(folder), first=k))
        process = subprocess.Popen([sys.executable, "-c", script], stdout=subprocess.PIPE, text=True)
        assert process.stdout is not None
        lines = [process.stdout.readline()]
        ends = time.monotonic() + chance.uniform(0.0, 0.25)
        while time.monotonic() < ends:
            lines.append(process.stdout.readline())
        process.send_signal(signal.SIGKILL)
        lines += process.stdout.readlines()
        process.wait()
        told = [line.split() for line in lines if len(line.split()) == 2 and line.endswith("\n")]
        saved = max((int(n) for what, n in told if what == "saved"), default=0)
        edited = max(int(n) for what, n in told if what == "edited")
        on_disk = _highest((folder / "lesart.toml").read_text(encoding="utf-8"))
        assert on_disk >= saved, (on_disk, saved)
        desk = open_desk(folder)
        now = _highest(desk.state.history.text)
        assert now >= edited, (now, edited)
        came_back += now > on_disk
        desk.save()
        desk.close()
        k = max(now, edited)
    return (
        f"{count} kills while a project is edited and saved: nothing saved was lost, nor an edit that was shown; "
        f"unsaved work came back {came_back} times"
    )


def _highest(text: str) -> int:
    """The value that the saver counts up."""
    import tomllib

    return int(tomllib.loads(text)["channels"]["room"]["highest"].split()[0])


def kills_of_recording(work: Path, count: int) -> str:
    """Killed at any moment of listening to the rig: its rows are whole to the last second."""
    from datetime import UTC, datetime

    from lesart.core.raw.source import Source
    from lesart.desk.project_folders import make_yard
    from lesart.live.rig.rig import Rig
    from lesart.project.captures.capture_read import read_capture

    yard = work / "yard"
    make_yard(yard)
    rig = Rig(yard / "rig", rate_hz=200.0)
    rig.start()
    chance, worst = random.Random(2), 0.0
    for turn in range(count):
        path = yard / f"killed-{turn}.csv"
        command = [sys.executable, "-m", "lesart", "record", str(yard), "hive 1", "--to", str(path)]
        process = subprocess.Popen(command, stderr=subprocess.DEVNULL)
        while not (path.exists() and path.stat().st_size > 500):
            assert process.poll() is None, f"{path.name}: nothing was recorded"
            time.sleep(0.01)
        time.sleep(chance.uniform(0.05, 1.2))
        process.kill()
        killed = datetime.now(UTC)
        process.wait()
        read = read_capture(path, Source("s", path.name, format="recording"))
        began = datetime.fromisoformat(path.read_text(encoding="utf-8").splitlines()[2].rpartition(" ")[2])
        assert all(block.usable.all() for block in read.columns.values())
        worst = max(worst, (killed - began).total_seconds() - float(read.t[-1]))
        path.unlink()
    rig.stop()
    assert worst < 1.5, worst
    return f"{count} kills while recording: every row whole, at most the last {worst:.2f} s missing"


def at_rest(work: Path) -> str:
    """What the open demo takes of a core while nobody does anything."""
    from tools.bench.screen import still_rows

    told = {row.name: row.remark for row in still_rows(work)}
    return f"the demo open, nothing pressed: {told['idle']}"


SCENARIOS: dict[str, Callable[[Path, argparse.Namespace], str]] = {
    "line": lambda work, options: long_line(work, options.hours),
    "keys": lambda work, options: every_key(work, options.rows),
    "saving": lambda work, options: kills_of_saving(work, options.kills),
    "recording": lambda work, options: kills_of_recording(work, options.kills),
    "rest": lambda work, options: at_rest(work),
}


def _run(names: Sequence[str], options: argparse.Namespace) -> Iterator[tuple[str, str, bool]]:
    for name in names:
        with tempfile.TemporaryDirectory(prefix="lesart-endure-") as folder:
            # What it opens is not what a person opened before.
            os.environ["XDG_STATE_HOME"] = f"{folder}/state"
            try:
                yield name, SCENARIOS[name](Path(folder), options), True
            except AssertionError as error:
                yield name, f"not held: {error}", False


def main(arguments: Sequence[str] | None = None) -> int:
    """1 where a promise was not held."""
    parser = argparse.ArgumentParser(prog="python -m tools.endure", description=(__doc__ or "").splitlines()[0])
    parser.add_argument("--only", choices=SCENARIOS, action="append", default=[], help="default: all of them")
    parser.add_argument("--hours", type=float, default=2.0, help="of the line; default: 2")
    parser.add_argument("--rows", type=int, default=10_000_000, help="of the large capture; default: 10 million")
    parser.add_argument("--kills", type=int, default=100, help="of each kind; default: 100")
    parser.add_argument("--json", action="store_true", help="for a script")
    options = parser.parse_args(arguments)
    held = True
    for name, says, ok in _run(options.only or list(SCENARIOS), options):
        held &= ok
        print(json.dumps({"scenario": name, "held": ok, "says": says}) if options.json else f"- {says}.", flush=True)
    return 0 if held else 1


if __name__ == "__main__":
    sys.exit(main())
