"""Pictures of every main view, from demo data: a terminal window of 1280×800 under a virtual X server.

Run by ``make shots``.
"""

from __future__ import annotations

import argparse
import os
import shutil
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path

from tools.terminal import Terminal

NEEDED = {"Xvfb": "xvfb", "xterm": "xterm", "tmux": "tmux", "import": "imagemagick", "xdpyinfo": "x11-utils"}
"""Programs, and the packages that usually hold them."""
LETTER = {160: "10", 120: "12", 80: "20"}
"""Size of a letter, in points, with which a window of so many columns is 1280 pixels wide."""
SETTLED_S = 0.8
MOST_TRIES = 20
ROOT = Path(__file__).resolve().parent.parent


@dataclass(frozen=True)
class View:
    """A picture: its file's name, what is pressed before it, what is on the screen then. ``|text`` is typed.

    ``arguments`` are the program's.
    """

    name: str
    presses: tuple[str, ...]
    seen: str
    columns: int = 160
    rows: int = 47
    arguments: tuple[str, ...] = ("demo", "linden-yard")


VIEWS = (
    View("all", ("0",), "every channel and panel at once"),
    View("wire", ("1", "n"), "gate.out (count out)"),
    View("raw", ("2",), "rows that could not be believed"),
    View("raw-lanes", ("Down", "Down", "Down", "2"), "least margin"),
    View("raw-live", (*["Down"] * 7, "2", "r"), "cursor 00:00:1"),
    View("law", ("Down", "Down", "3"), "thermistor by beta"),
    View("law-sure", (*["Up"] * 5, "3", "l"), "95 % coverage"),
    View("true", ("4",), "compare with references"),
    View("calm", ("5",), "steady without being slow"),
    View("fit", ("6",), "film strip"),
    View("glass", ("7", "g"), "cells written a minute"),
    View("glass-pixels", ("7", "g", "g"), "its y by the upper edge"),
    View("pace", ("8",), "the loop, 24.4 ms"),
    View("pace-trace", ("8", *"llll", *"gg", "<"), "transmission 48 of 64"),
    View("pack", ("9",), "firmware"),
    View("hand", ("6", "h", "|99.96 kg", "Enter"), "hand 1"),
    View("fit-80x24", ("6",), "width 4", 80, 24),
    View("fit-parchment", ("g", "6"), "film strip", arguments=("demo", "linden-yard", "--light")),
    View("welcome", (), "from the wire to the glass", arguments=()),
)


def main(arguments: Sequence[str] | None = None) -> int:
    """Take the pictures; 2 with a sentence where a program is missing."""
    parser = argparse.ArgumentParser(prog="python -m tools.shots", description=(__doc__ or "").splitlines()[0])
    parser.add_argument("folder", type=Path, nargs="?", default=Path("docs/screenshots"))
    parser.add_argument("views", nargs="*", metavar="VIEW", help=f"default: all of {', '.join(v.name for v in VIEWS)}")
    options = parser.parse_args(arguments)
    missing = [package for program, package in NEEDED.items() if shutil.which(program) is None]
    if missing and not _installed(missing):
        print(f"The pictures need {', '.join(missing)}: sudo apt-get install {' '.join(missing)}", file=sys.stderr)
        return 2
    folder: Path = options.folder
    wanted = set(options.views) or {view.name for view in VIEWS}
    if unknown := wanted - {view.name for view in VIEWS}:
        print(f"There is no view {', '.join(sorted(unknown))}.", file=sys.stderr)
        return 2
    folder.mkdir(parents=True, exist_ok=True)
    for view in VIEWS:
        if view.name in wanted:
            _take(view, folder / f"{view.name}.png")
            print(folder / f"{view.name}.png")
    return 0


def _installed(packages: list[str]) -> bool:
    """Install what is missing where we may."""
    if os.geteuid() != 0 or shutil.which("apt-get") is None:
        return False
    quiet = {"stdout": subprocess.DEVNULL, "stderr": subprocess.DEVNULL}
    subprocess.run(["apt-get", "update", "-qq"], check=False, **quiet)  # type: ignore[call-overload]
    wanted = [*packages, "fonts-dejavu-core"]
    return subprocess.run(["apt-get", "install", "-y", "-qq", *wanted], check=False, **quiet).returncode == 0  # type: ignore[call-overload, no-any-return]


def _take(view: View, path: Path) -> None:
    """A fresh demo for each picture, so that none depends on the one before."""
    with tempfile.TemporaryDirectory() as work:
        # What a run remembers of others is nobody's business in a picture.
        command = ["env", f"XDG_STATE_HOME={work}/state", ROOT / ".venv/bin/lesart", *view.arguments]
        with (
            Terminal(command, Path(work), view.columns, view.rows) as terminal,
            _window(terminal, view) as display,
        ):
            if view.arguments:
                terminal.until(lambda screen: "¹" in screen or "Pace†" in screen, seconds=30)
            for press in view.presses:
                terminal.typed(press[1:]) if press.startswith("|") else terminal.keys(press)
                time.sleep(0.15)
            terminal.until(view.seen)
            time.sleep(SETTLED_S)
            environment = {**os.environ, "DISPLAY": display}
            for _ in range(MOST_TRIES):
                subprocess.run(["import", "-window", "root", path], check=True, env=environment)
                if not _is_empty(path):
                    break
                time.sleep(SETTLED_S)  # the terminal holds the view already, its window does not show it yet
            else:
                raise RuntimeError(f"{view.name}: the window stays empty")
    _smaller(path)


def _is_empty(path: Path) -> bool:
    """Is it all of one colour?"""
    from PIL import Image

    with Image.open(path) as picture:
        return picture.convert("RGB").getcolors(1) is not None


def _smaller(path: Path) -> None:
    """A terminal has few colours: 128 of them are enough, and a third of the bytes."""
    from PIL import Image

    with Image.open(path) as picture:
        picture.convert("RGB").quantize(128).save(path, optimize=True)


@contextmanager
def _window(terminal: Terminal, view: View) -> Iterator[str]:
    """The terminal in a window of its own X server; gives the display's name."""
    number = next(free for free in range(40, 400) if not Path(f"/tmp/.X11-unix/X{free}").exists())
    display = f":{number}"
    quiet = {"stdout": subprocess.DEVNULL, "stderr": subprocess.DEVNULL}
    server = subprocess.Popen(["Xvfb", display, "-screen", "0", "1280x800x24"], **quiet)  # type: ignore[call-overload]
    window = None
    try:
        environment = {**os.environ, "DISPLAY": display, "COLORTERM": "truecolor", "LC_ALL": "C.UTF-8"}
        environment.pop("TMUX", None)
        while subprocess.run(["xdpyinfo"], env=environment, check=False, **quiet).returncode != 0:  # type: ignore[call-overload]
            time.sleep(0.05)
        window = subprocess.Popen(
            [
                "xterm",
                "-fa",
                "DejaVu Sans Mono",
                "-fs",
                LETTER[view.columns],
                "-geometry",
                f"{view.columns}x{view.rows}+0+0",
                "-b",
                "0",
                "-bw",
                "0",
                "+sb",
                "-bg",
                "#14120f",
                "-fg",
                "#e8dfcc",
                "-tn",
                "xterm-256color",
                "-e",
                "tmux",
                "-u",
                "-S",
                terminal.socket,
                "attach",
            ],
            env=environment,
            **quiet,
        )  # type: ignore[call-overload]
        yield display
    finally:
        if window is not None:
            window.terminate()
        server.terminate()
        server.wait()


if __name__ == "__main__":
    sys.exit(main())
