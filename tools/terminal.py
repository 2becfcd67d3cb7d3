"""A real terminal for a full-screen program: tmux holds it, keys go in, the screen comes out as text."""

from __future__ import annotations

import os
import shutil
import subprocess
import tempfile
import time
from collections.abc import Callable, Sequence
from pathlib import Path

_CONFIG = """\
set -g status off
set -g default-terminal "tmux-256color"
set -ga terminal-overrides ",*:Tc"
set -g escape-time 0
set -g remain-on-exit on
set -g mouse on
"""
_SHELL = '"$@"; echo $? > "$0.new"; mv "$0.new" "$0"'
"""Keeps the exit code in a file: the terminal itself now and then forgets to ask for it."""


class Terminal:
    """``columns`` × ``rows`` cells running ``command`` in ``folder``; a context manager, so that none is left behind.

    Nothing here waits a fixed time: ``until`` looks at the screen again and again, and says what it saw instead.
    """

    def __init__(self, command: Sequence[str | Path], folder: Path, columns: int = 160, rows: int = 47) -> None:
        self._own = Path(tempfile.mkdtemp(prefix="lesart-terminal-"))
        self._config = self._own / "tmux.conf"
        self._config.write_text(_CONFIG, encoding="utf-8")
        self.socket = self._own / "socket"
        self._ended = self._own / "ended"
        self._call(
            "new-session",
            "-d",
            "-x",
            str(columns),
            "-y",
            str(rows),
            "-c",
            str(folder),
            "-e",
            "COLORTERM=truecolor",
            "sh",
            "-c",
            _SHELL,
            str(self._ended),
            *map(str, command),
        )

    def __enter__(self) -> Terminal:
        return self

    def __exit__(self, *_: object) -> None:
        self._call("kill-server")
        shutil.rmtree(self._own, ignore_errors=True)

    def _call(self, *arguments: str) -> str:
        environment = {**os.environ, "LC_ALL": "C.UTF-8"}
        for name in ("TMUX", "COLUMNS", "LINES"):
            # Who runs this may say how large its own terminal is; this one is as large as it is asked to be.
            environment.pop(name, None)
        done = subprocess.run(
            ["tmux", "-u", "-S", self.socket, "-f", self._config, *arguments],
            capture_output=True,
            text=True,
            check=True,
            env=environment,
            timeout=60,
        )
        return done.stdout

    def keys(self, *names: str) -> None:
        """Press keys by the names tmux gives them: ``4``, ``Down``, ``C-s``."""
        for name in names:
            self._call("send-keys", "--", name)

    def keys_at_once(self, *names: str) -> None:
        """Press them all with no time between."""
        self._call("send-keys", "--", *names)

    @property
    def pid(self) -> int:
        """The program's process: the one child of the shell."""
        shell = int(self._call("list-panes", "-F", "#{pane_pid}"))
        return int(Path(f"/proc/{shell}/task/{shell}/children").read_text())

    def typed(self, text: str) -> None:
        """Type a text letter by letter."""
        self._call("send-keys", "-l", "--", text)

    def pasted(self, text: str) -> None:
        """Hand over a text at once, as a terminal does with what is pasted."""
        self._call("set-buffer", "--", text)
        self._call("paste-buffer", "-p", "-d")

    def resize(self, columns: int, rows: int) -> None:
        """Give the window another size."""
        self._call("resize-window", "-x", str(columns), "-y", str(rows))

    def screen(self, *, colours: bool = False) -> str:
        """What stands on the screen, with its control sequences for colours where they are wanted."""
        # When a program has ended, tmux scrolls by a line to say so: what stood first is above the screen then.
        from_line = ["-S", "-1"] if self._ended.exists() else []
        return self._call("capture-pane", "-p", *from_line, *(["-e"] if colours else []))

    def until(self, *seen: str | Callable[[str], object], seconds: float = 60.0) -> str:
        """The screen once all of the texts stand on it together, and all conditions hold.

        A program draws its screen in several steps: what was waited for may stand there before the rest of it does.
        Who asserts on the screen that this gives looks too early now and then, so all that is to be seen is named here.

        Raises TimeoutError with what did not come and the last screen.
        """
        ends, screen = time.monotonic() + seconds, self.screen()
        while missing := [each for each in seen if not _holds(each, screen)]:
            if time.monotonic() > ends:
                said = ", ".join(repr(each) for each in missing)
                raise TimeoutError(f"{said} did not come in {seconds:g} s; the screen was\n{screen}")
            time.sleep(0.02)
            screen = self.screen()
        return screen

    @property
    def has_ended(self) -> bool:
        """Is the program over?"""
        return self._ended.exists()

    def exit_code(self, seconds: float = 60.0) -> int:
        """Wait until the program has ended and give its exit code; the signal, negative, where one ended it."""
        ends = time.monotonic() + seconds
        while not self._ended.exists():
            if time.monotonic() > ends:
                raise TimeoutError(f"the program still runs after {seconds:g} s; the screen is\n{self.screen()}")
            time.sleep(0.02)
        code = int(self._ended.read_text())
        return 128 - code if code > 128 else code


def _holds(seen: str | Callable[[str], object], screen: str) -> object:
    return seen in screen if isinstance(seen, str) else seen(screen)
