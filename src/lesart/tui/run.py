"""The full screen from its start to its end: the one door by which the command line reaches it."""

from __future__ import annotations

import signal
import sys
from collections.abc import Callable
from typing import TYPE_CHECKING

from lesart.project.folder.remembered import has_unsaved, remembered
from lesart.tui.app import LesartApp
from lesart.tui.framework import TerminalGone, own_screen, read_no_color
from lesart.tui.linked import MISTAKEN
from lesart.tui.sheet import Recent

if TYPE_CHECKING:
    from lesart.desk.ahead import Ahead
    from lesart.desk.desk import Desk


def run_screen(
    opener: Callable[[], Desk] | None,
    name: str,
    *,
    light: bool | None,
    walk: bool = False,
    first: Ahead | None = None,
) -> int:
    """The application until it is left; its exit code. What ended it by mistake stands on standard error.

    ``light`` is the look asked for, None the one of the run before; ``first`` is the first picture, being made ahead.
    """
    read_no_color()
    was = remembered()
    recent = tuple(Recent(folder, has_unsaved(folder)) for folder in was.recent)
    app = LesartApp(opener, name, light=was.light if light is None else light, recent=recent, first=first)
    if walk:
        app.begin_walk(was.walk)
    try:
        with own_screen():
            app.run()
    except TerminalGone:
        app.let_go()
        return 128 + signal.SIGHUP
    if app.mistake:
        print(f"lesart: {app.mistake}", file=sys.stderr)
        return MISTAKEN
    return app.return_value or 0
