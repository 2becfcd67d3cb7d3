"""Lines of styled text, drawn a line at a time, with clickable places.

Text is data here: it is never parsed as markup, and control characters in it are shown. A line too long, or too many
lines, end in a mark.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from rich.cells import cell_len
from rich.segment import Segment
from rich.style import Style
from textual.events import Click, MouseScrollDown, MouseScrollUp
from textual.geometry import Region
from textual.message import Message
from textual.strip import Strip
from textual.widget import Widget

from lesart.core.dataclass_later import dataclass
from lesart.core.visible import visible

WHEEL_LINES = 3
Piece = tuple[str, Style] | tuple[str, Style, object]
"""Text, style, and what a click on it means, if anything."""


@dataclass(frozen=True)
class InPixels:
    """A picture in the terminal's own pixels in place of a segment; ``meaning`` is that of a click."""

    escape: str
    meaning: object = None


@dataclass(frozen=True)
class Spot:
    """A clickable run of cells on a line."""

    start: int
    end: int
    meaning: object


def _laid_out(line: Sequence[Piece]) -> tuple[Strip, list[Spot], list[tuple[int, int, str]]]:
    """The line as the framework draws it, its clickable spots, and its pixels."""
    place, found, segments = 0, [], []
    pixels: list[tuple[int, int, str]] = []
    for piece in line:
        words = visible(piece[0])
        width = cell_len(words)
        segments.append(Segment(words, piece[1]))
        meaning = piece[2] if len(piece) == 3 else None
        if isinstance(meaning, InPixels):
            pixels.append((place, width, meaning.escape))
            meaning = meaning.meaning
        if meaning is not None:
            found.append(Spot(place, place + width, meaning))
        place += width
    return Strip(segments, place), found, pixels


class Lines(Widget):
    """Show lines with ``show``. Where there are more than fit, ``follow`` keeps one visible; wheel and keys scroll."""

    class Clicked(Message):
        """A place with a meaning was clicked."""

        def __init__(self, meaning: object) -> None:
            self.meaning = meaning
            super().__init__()

    def __init__(self, *, id: str | None = None, ground: str = "ink") -> None:
        super().__init__(id=id)
        self.ground = ground
        self._shown: list[list[Piece]] = []
        self._strips: list[Strip] = []
        self._spots: list[list[Spot]] = []
        self._base = Style()
        self._faint = Style()
        self._follow = 0
        self._scrolled = 0
        self._page: object = None
        self._pixels: dict[int, list[tuple[int, int, str]]] = {}

    def show(
        self, lines: Sequence[Sequence[Piece]], base: Style, faint: Style, follow: int = 0, page: object = None
    ) -> None:
        """Replace what is shown; ``base`` fills the rest of each line. Another ``page`` starts at its top again."""
        strips: list[Strip] = []
        spots: list[list[Spot]] = []
        shown = [list(line) for line in lines]
        self._pixels, pixels = {}, self._pixels
        for place, line in enumerate(shown):
            # Most lines are the same from picture to picture.
            if place < len(self._shown) and line == self._shown[place]:
                strip, found = self._strips[place], self._spots[place]
                in_pixels = pixels.get(place, [])
            else:
                strip, found, in_pixels = _laid_out(line)
            strips.append(strip)
            spots.append(found)
            if in_pixels:
                self._pixels[place] = in_pixels
        self._shown = shown
        before, top = (self._strips, self._base, self._faint), self.top
        if (follow, page) != (self._follow, self._page):
            self._scrolled = 0
        self._strips, self._spots, self._page = strips, spots, page
        self._base, self._faint, self._follow = base, faint, follow
        self._refresh_changed(before, top)

    def _refresh_changed(self, before: tuple[list[Strip], Style, Style], top: int) -> None:
        """Render only changed lines again: most of a picture stays the same."""
        strips, base, faint = before
        if (len(strips), base, faint, top) != (len(self._strips), self._base, self._faint, self.top):
            self.refresh()
            return
        pairs = enumerate(zip(strips, self._strips, strict=True))
        changed = [y for y, (old, new) in pairs if old is not new and old != new]
        width = self.size.width
        if changed:
            self.refresh(*(Region(0, y - top, width, 1) for y in changed if y >= top))

    def scroll_lines(self, by: int) -> None:
        """Show what is further down, or up; never past the ends."""
        before = self.top
        self._scrolled += by
        self._scrolled = self.top - self._resting
        if self.top != before:
            self.refresh()

    @property
    def top(self) -> int:
        """The first visible line."""
        if not self._follow and not self._scrolled:
            return 0
        most = max(len(self._strips) - self.size.height, 0)
        return min(max(self._resting + self._scrolled, 0), most)

    @property
    def _resting(self) -> int:
        """The top unless scrolled: the followed line is visible, with what follows if there is room."""
        height = self.size.height
        return min(max(self._follow - height + 3, 0), max(len(self._strips) - height, 0))

    def render_line(self, y: int) -> Strip:
        """One line of the screen."""
        (width, height), top = self.size, self.top
        index = top + y
        if index >= len(self._strips):
            return Strip([Segment(" " * width, self._base)], width)
        below = len(self._strips) - top - height
        if y == height - 1 and below > 0 and height > 1:
            return self._said(f"  ↓ {below + 1} more lines", width)
        if y == 0 and top > 0 and height > 1:
            return self._said(f"  ↑ {top + 1} more lines", width)
        strip = self._strips[index]
        if strip.cell_length > width:
            return Strip([*strip.crop(0, max(width - 1, 0)), Segment("…", self._faint)], width)
        return strip.adjust_cell_length(width, self._base)

    def pixels_in_sight(self) -> Iterator[tuple[int, int, int, str]]:
        """Column, row and width on the screen of visible pixel rows, and the escape that draws each."""
        if not self._pixels or not self.display:
            return
        region, top = self.content_region, self.top
        for y in range(self.size.height):
            if not self._is_said(y, top):
                for place, width, escape in self._pixels.get(top + y, ()):
                    if place + width <= self.size.width:
                        yield region.x + place, region.y + y, width, escape

    def _is_said(self, y: int, top: int) -> bool:
        """True where a mark there says that there are more lines."""
        height = self.size.height
        return height > 1 and ((y == height - 1 and len(self._strips) - top > height) or (y == 0 and top > 0))

    def _said(self, words: str, width: int) -> Strip:
        return Strip([Segment(words, self._faint)], cell_len(words)).adjust_cell_length(width, self._base)

    def place_of(self, meaning: object) -> tuple[int, int, int] | None:
        """Column, row and width of a spot on this widget; None where it is not visible."""
        for y in range(self.size.height):
            index = self.top + y
            if index < len(self._spots):
                for spot in self._spots[index]:
                    if spot.meaning == meaning:
                        return spot.start, y, spot.end - spot.start
        return None

    def on_mouse_scroll_down(self, event: MouseScrollDown) -> None:
        """Further down."""
        event.stop()
        self.scroll_lines(WHEEL_LINES)

    def on_mouse_scroll_up(self, event: MouseScrollUp) -> None:
        """Further up."""
        event.stop()
        self.scroll_lines(-WHEEL_LINES)

    def on_click(self, event: Click) -> None:
        """Post what was clicked."""
        index = self.top + event.y
        if index < len(self._spots):
            for spot in self._spots[index]:
                if spot.start <= event.x < spot.end:
                    self.post_message(self.Clicked(spot.meaning))
                    return
