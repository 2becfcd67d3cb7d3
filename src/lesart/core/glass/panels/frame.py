"""A frame: what a panel shows at one time. Terminal, SVG, PDF and bytes are all drawn from it."""

from __future__ import annotations

from lesart.core.dataclass_later import dataclass


@dataclass(frozen=True)
class SegmentFrame:
    """One mask per digit, leftmost first, in the bits of its alphabet: for seven segments bit 0 is segment a … bit 6
    segment g, bit 7 the point, bit 8 the colon after the digit."""

    masks: tuple[int, ...]
    alphabet: str = "7"


@dataclass(frozen=True)
class CharacterFrame:
    """``codes[row][column]`` as the panel's memory holds them, and ``dots[row][column]``: eight rows of five bits, the
    leftmost dot the highest bit."""

    codes: tuple[tuple[int, ...], ...]
    dots: tuple[tuple[tuple[int, ...], ...], ...]

    def lit(self, x: int, y: int) -> bool:
        """True where a dot is lit, counted over all cells without the gaps between them."""
        column, across = divmod(x, 5)
        row, down = divmod(y, 8)
        return bool(self.dots[row][column][down] >> (4 - across) & 1)


@dataclass(frozen=True)
class PixelFrame:
    """``rows`` from the top: integers of ``width`` bits, the leftmost pixel the highest."""

    width: int
    height: int
    rows: tuple[int, ...]

    def lit(self, x: int, y: int) -> bool:
        """True where a pixel is lit; False outside."""
        return 0 <= x < self.width and 0 <= y < self.height and bool(self.rows[y] >> (self.width - 1 - x) & 1)

    def part(self, x: int, y: int, width: int, height: int) -> PixelFrame:
        """A part of the frame; dark outside."""
        shift, mask = self.width - x - width, (1 << width) - 1

        def cut(row: int) -> int:
            return (row >> shift if shift >= 0 else row << -shift) & mask

        rows = tuple(cut(self.rows[at]) if 0 <= at < self.height else 0 for at in range(y, y + height))
        return PixelFrame(width, height, rows)

    @property
    def lit_count(self) -> int:
        """Number of lit pixels."""
        return sum(row.bit_count() for row in self.rows)

    @property
    def lit_share(self) -> float:
        """Share of lit pixels."""
        return self.lit_count / max(self.width * self.height, 1)


@dataclass(frozen=True)
class ColourFrame(PixelFrame):
    """A pixel frame in colours: ``colours`` has three bytes per pixel, red, green and blue, row by row.

    Pixels not of the panel's ground count as lit.
    """

    colours: bytes


Frame = SegmentFrame | CharacterFrame | PixelFrame
