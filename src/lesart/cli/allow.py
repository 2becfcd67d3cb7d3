"""``lesart allow``: permit a project that you trust to read files outside its folder, and to have links."""

from __future__ import annotations

import argparse
import sys

from lesart.core.errors import RequestError
from lesart.core.visible import visible
from lesart.project.check import read_tables
from lesart.project.folder.borders import all_stray, allow, is_allowed
from lesart.project.folder.store import FILE, project_folder, read_text
from lesart.project.named_files import named_files


def run(options: argparse.Namespace) -> int:
    """Name them, ask, and remember the answer on this computer; 1 where the answer was no."""
    folder = project_folder(options.project)
    names = [name for _, name in named_files(read_tables(read_text(folder / FILE)))]
    strays = [where for where in all_stray(folder, names) if not is_allowed(folder, where)]
    if not strays:
        print(f"{folder}: nothing in it leads outside, except what you allowed.")
        return 0
    print(f"{folder} leads to:")
    for where in strays:
        print(visible(f"  {where}"))
    if not options.yes:
        if not sys.stdin.isatty():
            raise RequestError("there is nobody to ask; --yes allows all of these.")
        if input("May it read and write there? y, or anything else for no: ").strip().lower() not in ("y", "yes"):
            print("Nothing was allowed.")
            return 1
    allow(folder, strays)
    print("Allowed on this computer, for as long as the project stays there.")
    return 0
