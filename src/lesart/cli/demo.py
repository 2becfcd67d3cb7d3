"""``lesart demo``: the linden yard."""

from __future__ import annotations

import argparse
from typing import TYPE_CHECKING

from lesart.cli.screen import show

if TYPE_CHECKING:
    from lesart.desk.desk import Desk


def run(options: argparse.Namespace) -> int:
    """Open it; or only make its files."""
    if options.make:
        from lesart.desk.project_folders import make_yard

        make_yard(options.folder)
        print(f"{options.folder}: the linden yard is there. lesart open {options.folder} shows it.")
        return 0

    def opener() -> Desk:
        from lesart.desk.opening import open_demo

        return open_demo(options.folder)

    return show(opener, str(options.folder), light=options.light, walk=options.walk)
