"""BDF fonts: glyphs as rows of dots, by their encoding. The format is Adobe's published one, version 2.1."""

from __future__ import annotations

from pathlib import Path

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import CaptureError
from lesart.project.folder.files import read_whole

MOST_BYTES = 4_000_000
MOST_SIDE = 256
"""Most dots to a side of a glyph: larger ones are mistakes, or an attack."""


@dataclass(frozen=True)
class BdfGlyph:
    """``rows`` from the top, the leftmost dot the highest of ``width`` bits.

    ``left`` and ``bottom`` are the offset of its lower left corner from the origin, x to the right and y up;
    ``advance`` is the distance to the next one.
    """

    code: int
    name: str
    width: int
    height: int
    left: int
    bottom: int
    advance: int
    rows: tuple[int, ...]


@dataclass(frozen=True)
class BdfFont:
    """``ascent`` and ``descent`` are dots above and below the baseline; glyphs by code, those without one left out."""

    name: str
    ascent: int
    descent: int
    glyphs: dict[int, BdfGlyph]


def read_bdf(path: Path) -> BdfFont:
    """The font of a file. Raises CaptureError with the line where it is not valid."""
    return parse_bdf(read_whole(path, MOST_BYTES).decode("latin-1"), path.name)


def parse_bdf(text: str, name: str) -> BdfFont:
    """The font of a text. Raises CaptureError with the line."""
    return _Reader(name, text.splitlines()).font()


class _Reader:
    """One pass over the lines; ``line`` is the current one, from 1."""

    def __init__(self, name: str, lines: list[str]) -> None:
        self.name, self.lines, self.line = name, lines, 0
        self.glyphs: dict[int, BdfGlyph] = {}
        self.ascent: int | None = None
        self.descent: int | None = None
        self.box = (0, 0, 0, 0)
        self.font_name = ""

    def font(self) -> BdfFont:
        if not self.lines or not self.lines[0].startswith("STARTFONT"):
            raise CaptureError(f'{self.name}, line 1: a BDF font begins with "STARTFONT 2.1".')
        for words in self:
            match words:
                case ["FONT", *rest]:
                    self.font_name = " ".join(rest)
                case ["FONTBOUNDINGBOX", *_]:
                    self.box = self._numbers(words, 4)  # type: ignore[assignment]
                case ["FONT_ASCENT", *_]:
                    (self.ascent,) = self._numbers(words, 1)
                case ["FONT_DESCENT", *_]:
                    (self.descent,) = self._numbers(words, 1)
                case ["STARTCHAR", *rest]:
                    self._glyph(" ".join(rest))
                case ["ENDFONT"]:
                    return self._made()
        raise CaptureError(f"{self.name} ends before ENDFONT; it was cut off.")

    def __iter__(self) -> _Reader:
        return self

    def __next__(self) -> list[str]:
        if self.line >= len(self.lines):
            raise StopIteration
        self.line += 1
        return self.lines[self.line - 1].split()

    def _made(self) -> BdfFont:
        _, height, _, bottom = self.box
        ascent = self.ascent if self.ascent is not None else height + bottom
        descent = self.descent if self.descent is not None else -bottom
        return BdfFont(self.font_name, ascent, descent, self.glyphs)

    def _glyph(self, name: str) -> None:
        code, advance, box = -1, self.box[0], self.box
        for words in self:
            match words:
                case ["ENCODING", *_]:
                    code = self._numbers(words, 1)[0]
                case ["DWIDTH", *_]:
                    advance = self._numbers(words, 2)[0]
                case ["BBX", *_]:
                    box = self._numbers(words, 4)  # type: ignore[assignment]
                case ["BITMAP"]:
                    rows = self._rows(box[0], box[1])
                    if code >= 0:
                        self.glyphs[code] = BdfGlyph(code, name, *box, advance, rows)
                case ["ENDCHAR"]:
                    return
                case ["STARTCHAR" | "ENDFONT", *_]:
                    break
        raise self._wrong(f'glyph "{name}" has no ENDCHAR')

    def _rows(self, width: int, height: int) -> tuple[int, ...]:
        if not (0 <= width <= MOST_SIDE and 0 <= height <= MOST_SIDE):
            raise self._wrong(f"a glyph of {width}×{height} dots; {MOST_SIDE} to a side are taken")
        rows = []
        digits = -(-width // 8) * 2
        for _ in range(height):
            words = next(self, None)
            if words is None or len(words) != 1 or len(words[0]) < digits:
                raise self._wrong(f"a row of {digits} hexadecimal digits is missing")
            try:
                rows.append(int(words[0], 16) >> (4 * len(words[0]) - width))
            except ValueError:
                raise self._wrong(f'"{words[0][:20]}" is not hexadecimal') from None
        return tuple(rows)

    def _numbers(self, words: list[str], count: int) -> tuple[int, ...]:
        try:
            found = tuple(int(word) for word in words[1 : count + 1])
        except ValueError:
            found = ()
        if len(found) != count:
            raise self._wrong(f"{words[0]} needs {count} whole numbers")
        return found

    def _wrong(self, what: str) -> CaptureError:
        return CaptureError(f"{self.name}, line {self.line}: {what}.")
