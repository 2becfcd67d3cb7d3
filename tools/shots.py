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

NEEDED = {
    "Xvfb": "xvfb",
    "xterm": "xterm",
    "tmux": "tmux",
    "import": "imagemagick",
    "xdpyinfo": "x11-utils",
    "xdotool": "xdotool",
}
"""Programs, and the packages that usually hold them."""
LETTER = {160: "10", 120: "12", 80: "20"}
"""Size of a letter, in points, with which a window of so many columns is 1280 pixels wide."""
SETTLED_S, OPENED_S = 0.8, 6.0
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
    pixels: bool = False
    """In a terminal that has graphics, with nothing between it and the program."""


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
    View("glass-pixels", ("7", "g", "g"), "its y by the upper edge"),
    View("glass-true-pixels", ("g", "g", "4"), "", pixels=True),
    View("pace", ("8",), "the loop, 24.4 ms"),
    View("pace-trace", ("8", *"llll", *"gg", "<"), "transmission 48 of 64"),
    View("pack", ("9", "Down", "Down"), "lines of different lengths"),
    View(
        "why",
        ("4", "y", "|42 kg ± 0.5", "Enter"),
        "it would be",
        arguments=("demo", "linden-yard-wrong", "--wrong"),
    ),
    View("fit-parchment", ("g", "6"), "film strip", arguments=("demo", "linden-yard", "--light")),
    View("welcome", (), "from the wire to the glass", arguments=()),
)


SHEET = "glass-sizes"
SIZES = ((160, 47), (120, 36), (80, 24))
OF_KINDS = {"stand": ("7",), "door": ("7", "g"), "lid": ("7", "g", "g")}
"""One picture of every kind of panel in windows of three sizes, side by side and made smaller."""


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
    names = {view.name for view in VIEWS} | {SHEET}
    wanted = set(options.views) or names
    if unknown := wanted - names:
        print(f"There is no view {', '.join(sorted(unknown))}.", file=sys.stderr)
        return 2
    folder.mkdir(parents=True, exist_ok=True)
    for view in VIEWS:
        if view.name in wanted:
            _take(view, folder / f"{view.name}.png")
            print(folder / f"{view.name}.png")
    if SHEET in wanted:
        _take_sheet(folder / f"{SHEET}.png")
        print(folder / f"{SHEET}.png")
    return 0


def _take_sheet(path: Path) -> None:
    """Sizes across, kinds down."""
    from PIL import Image

    width, height = 640, 400
    sheet = Image.new("RGB", (width * len(SIZES), height * len(OF_KINDS)))
    with tempfile.TemporaryDirectory() as work:
        for down, (panel, presses) in enumerate(OF_KINDS.items()):
            for across, (columns, rows) in enumerate(SIZES):
                one = Path(work) / "one.png"
                # A small window shows the panel first where g is pressed, and Glass where 7 is.
                keys = ("g", *presses[1:]) if columns == 80 else presses
                seen = f"glass  {panel}" if columns == 80 else f"Glass {panel}"
                _take(View(panel, keys, seen, columns, rows), one)
                with Image.open(one) as picture:
                    small = picture.convert("RGB").resize((width, height), Image.Resampling.LANCZOS)
                sheet.paste(small, (across * width, down * height))
    sheet.quantize(128).save(path, optimize=True)


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
    if view.pixels:
        _take_in_pixels(view, path)
        return
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


def _take_in_pixels(view: View, path: Path) -> None:
    """Keys are typed into the window itself: a multiplexer between would answer that there are no graphics."""
    with tempfile.TemporaryDirectory() as work, _display() as environment:
        quiet = {"stdout": subprocess.DEVNULL, "stderr": subprocess.DEVNULL}
        program = ["env", f"XDG_STATE_HOME={work}/state", ROOT / ".venv/bin/lesart", *view.arguments]
        look = ["-ti", "vt340", "-xrm", "XTerm*numColorRegisters: 256", *_look(view)]
        window = subprocess.Popen(["xterm", *look, "-e", *program], env=environment, cwd=work, **quiet)  # type: ignore[call-overload]
        try:
            time.sleep(OPENED_S)
            for press in view.presses:
                subprocess.run(["xdotool", "key", press], env=environment, check=True)
                time.sleep(SETTLED_S)
            time.sleep(2 * SETTLED_S)
            subprocess.run(["import", "-window", "root", path], check=True, env=environment)
        finally:
            window.terminate()
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


def _look(view: View) -> list[str]:
    """Letters, size and colours of a window."""
    size = f"{view.columns}x{view.rows}+0+0"
    plain = ["-geometry", size, "-b", "0", "-bw", "0", "+sb", "-bg", "#14120f", "-fg", "#e8dfcc"]
    return ["-fa", "DejaVu Sans Mono", "-fs", LETTER[view.columns], *plain, "-tn", "xterm-256color"]


@contextmanager
def _display() -> Iterator[dict[str, str]]:
    """An X server of its own; gives the environment in which programs find it."""
    number = next(free for free in range(40, 400) if not Path(f"/tmp/.X11-unix/X{free}").exists())
    display = f":{number}"
    quiet = {"stdout": subprocess.DEVNULL, "stderr": subprocess.DEVNULL}
    server = subprocess.Popen(["Xvfb", display, "-screen", "0", "1280x800x24"], **quiet)  # type: ignore[call-overload]
    try:
        environment = {**os.environ, "DISPLAY": display, "COLORTERM": "truecolor", "LC_ALL": "C.UTF-8"}
        environment.pop("TMUX", None)
        while subprocess.run(["xdpyinfo"], env=environment, check=False, **quiet).returncode != 0:  # type: ignore[call-overload]
            time.sleep(0.05)
        yield environment
    finally:
        server.terminate()
        server.wait()


@contextmanager
def _window(terminal: Terminal, view: View) -> Iterator[str]:
    """The terminal in a window; gives the display's name."""
    quiet = {"stdout": subprocess.DEVNULL, "stderr": subprocess.DEVNULL}
    with _display() as environment:
        attach = ["-e", "tmux", "-u", "-S", terminal.socket, "attach"]
        window = subprocess.Popen(["xterm", *_look(view), *attach], env=environment, **quiet)  # type: ignore[call-overload]
        try:
            yield environment["DISPLAY"]
        finally:
            window.terminate()


if __name__ == "__main__":
    sys.exit(main())
