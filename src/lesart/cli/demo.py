"""``lesart demo``: the linden yard."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import TYPE_CHECKING

from lesart.cli.screen import show
from lesart.project.folder.store import FILE

if TYPE_CHECKING:
    from lesart.desk.desk import Desk


def run(options: argparse.Namespace) -> int:
    """Open it; or only make its files."""
    folder = options.folder or Path("linden-yard-wrong" if options.wrong else "linden-yard")
    if options.wrong and not (folder / FILE).exists():
        from lesart.desk.project_folders import make_wrong_yard

        make_wrong_yard(folder)
        if options.make:
            print(f"{folder}: the linden yard is there, with two mistakes in it. lesart open {folder}; y asks why.")
            return 0
    elif options.make:
        from lesart.desk.project_folders import make_yard

        make_yard(folder)
        print(f"{folder}: the linden yard is there. lesart open {folder} shows it.")
        return 0

    def opener() -> Desk:
        from lesart.desk.opening import open_demo

        return open_demo(folder)

    return show(opener, str(folder), light=options.light, walk=options.walk)
