"""Write the pages that are made from the program's own records. Run by ``make reference``."""

from __future__ import annotations

import argparse
from pathlib import Path

from tools.reference.pages import pages


def main() -> None:
    """Into a folder; what is there under these names is replaced."""
    parser = argparse.ArgumentParser(prog="python -m tools.reference", description=__doc__)
    parser.add_argument("folder", type=Path, nargs="?", default=Path("docs"))
    folder = parser.parse_args().folder
    for name, text in pages().items():
        path = folder / name
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_text(text, encoding="utf-8")


if __name__ == "__main__":
    main()
