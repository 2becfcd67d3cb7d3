"""Lines, arcs, discs and boxes of pixels without grey, as a small panel can show them."""

from __future__ import annotations

import math


class Canvas:
    """A canvas of dark pixels; anything outside is not drawn."""

    def __init__(self, width: int, height: int) -> None:
        self.width, self.height = width, height
        self._rows = [0] * height

    def rows(self) -> tuple[int, ...]:
        """Rows from the top, the leftmost pixel the highest of ``width`` bits."""
        return tuple(self._rows)

    def light(self, x: int, y: int) -> None:
        """Light one pixel."""
        if 0 <= x < self.width and 0 <= y < self.height:
            self._rows[y] |= 1 << (self.width - 1 - x)

    def box(self, x: int, y: int, width: int, height: int, *, filled: bool = True) -> None:
        """Draw a box, filled or its outline."""
        for down in range(y, y + height):
            for across in range(x, x + width):
                on_edge = across in (x, x + width - 1) or down in (y, y + height - 1)
                if filled or on_edge:
                    self.light(across, down)

    def line(self, x0: float, y0: float, x1: float, y1: float) -> None:
        """Draw a line with one pixel in each column or row of its longer direction: no gaps and no doubled corners."""
        left, top, right, foot = _nearest(x0), _nearest(y0), _nearest(x1), _nearest(y1)
        steps = max(abs(right - left), abs(foot - top))
        for step in range(steps + 1):
            share = step / steps if steps else 0.0
            self.light(_nearest(left + share * (right - left)), _nearest(top + share * (foot - top)))

    def arc(self, x: float, y: float, radius: float, first: float, last: float) -> None:
        """Draw an arc of the pixels nearest to a circle, from one angle to a larger one, in radians counterclockwise
        from the right."""
        steps = max(math.ceil(2 * radius * (last - first)), 1)
        for step in range(steps + 1):
            angle = first + (last - first) * step / steps
            self.light(_nearest(x + radius * math.cos(angle)), _nearest(y - radius * math.sin(angle)))

    def disc(self, x: float, y: float, size: int) -> None:
        """Draw a disc: all pixels whose centre is within a circle of ``size`` pixels across."""
        for down in range(self.height):
            for across in range(self.width):
                if (across - x) ** 2 + (down - y) ** 2 <= (size / 2) ** 2:
                    self.light(across, down)


def _nearest(value: float) -> int:
    """The nearest pixel, halves always upwards: rounding to even would bend a straight line."""
    return math.floor(value + 0.5)
