"""Fonts and pictures that a project's tables name: read from its folder, and cached until the file or the table
changes.

A file that cannot be read is not a mistake of the project: it opens, with a placeholder, and a note says why.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from lesart.core.errors import LesartError, Problem
from lesart.core.glyphs.fonts import FONTS, Font
from lesart.core.parameters import read_table, shown
from lesart.project.assets.font_files import FONT_FILE, read_font
from lesart.project.assets.shown_picture import PICTURE_FILE, ShownPicture, crossed_out, shown_picture
from lesart.project.folder.borders import WRITTEN_INTO, is_allowed, leads_to
from lesart.project.folder.watched import WatchedFiles
from lesart.project.named_files import named_files

Table = Mapping[str, Any]
ALLOW = "lesart allow {folder}"
"""How to allow a file outside the folder."""
KEPT = 200
"""Number of cached results: edits go back and forth between few."""


@dataclass
class Assets:
    """``folder`` is that of the project file; None where there is none, and nothing can be read."""

    folder: Path | None = None
    files: WatchedFiles = field(default_factory=WatchedFiles)
    _kept: dict[tuple[object, ...], Any] = field(default_factory=dict)
    _within: set[str] = field(default_factory=set)

    def check_font(self, name: str, table: Table) -> tuple[Font | str | None, list[Problem]]:
        """The font, the sentence why it cannot be read, or every problem of its table."""
        place = f"fonts.{name}"
        values, problems = read_table(FONT_FILE, table, place)
        if name in FONTS:
            problems.append(Problem(place, "", "a font of this name is built in; give it another"))
        if problems:
            return None, problems
        try:
            return self._once(values, lambda path: read_font(path, name, values), name), []
        except LesartError as error:
            return str(error), []

    def check_picture(self, name: str, table: Table) -> tuple[ShownPicture | None, list[Problem]]:
        """The picture, or every problem of its table."""
        values, problems = read_table(PICTURE_FILE, table, f"pictures.{name}")
        if problems:
            return None, problems
        try:
            return self._once(values, lambda path: shown_picture(path, values), ""), []
        except LesartError as error:
            return crossed_out(values, str(error)), []

    def stray(self, tables: Table) -> list[Problem]:
        """Each file that tables name outside the project's folder without permission."""
        if self.folder is None:
            return []
        problems = []
        for place, name in (*((each, each) for each in WRITTEN_INTO), *named_files(tables)):
            if name in self._within:
                continue
            where = leads_to(self.folder, name)
            if where is None or is_allowed(self.folder, where):
                self._within.add(name)
                continue
            is_folder = place == name
            mend = "have a folder of its own there" if is_folder else "copy it into captures"
            wanted = f"it leads out of the project, to {where}; {mend}, or, if you trust the project: {{}}"
            allowed_by = ALLOW.format(folder=self.folder)
            problems.append(Problem(place, "" if is_folder else shown(name), wanted.format(allowed_by)))
        return problems

    def _once(self, values: Mapping[str, Any], read: Callable[[Path], Any], name: str) -> Any:
        """The cached result for the same file, or a new one. Raises what ``read`` raises."""
        path = (self.folder or Path()) / values["file"]
        try:
            there = path.stat()
        except OSError:
            return read(path)  # which says what is wrong
        key = (name, path, there.st_mtime_ns, there.st_size, *values.items())
        if key not in self._kept:
            if len(self._kept) >= KEPT:
                self._kept.clear()
            self.files.note(path)
            self._kept[key] = read(path)
        return self._kept[key]
