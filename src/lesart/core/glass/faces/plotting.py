"""Lines, arcs, discs and boxes of single pixels, without grey: what a small panel can show of them."""

from __future__ import annotations

import math


class Canvas:
    """Dark pixels to begin with; what lies outside is not drawn."""

    def __init__(self, width: int, height: int) -> None:
        self.width, self.height = width, height
        self._rows = [0] * height

    def rows(self) -> tuple[int, ...]:
        """From the top, the leftmost pixel the highest of ``width`` bits."""
        return tuple(self._rows)

    def light(self, x: int, y: int) -> None:
        """One pixel."""
        if 0 <= x < self.width and 0 <= y < self.height:
            self._rows[y] |= 1 << (self.width - 1 - x)

    def box(self, x: int, y: int, width: int, height: int, *, filled: bool = True) -> None:
        """All of it or its outline."""
        for down in range(y, y + height):
            for across in range(x, x + width):
                on_edge = across in (x, x + width - 1) or down in (y, y + height - 1)
                if filled or on_edge:
                    self.light(across, down)

    def line(self, x0: float, y0: float, x1: float, y1: float) -> None:
        """From pixel to pixel, one in each column or row of the longer way: no gaps and no doubled corners."""
        left, top, right, foot = _nearest(x0), _nearest(y0), _nearest(x1), _nearest(y1)
        steps = max(abs(right - left), abs(foot - top))
        for step in range(steps + 1):
            share = step / steps if steps else 0.0
            self.light(_nearest(left + share * (right - left)), _nearest(top + share * (foot - top)))

    def arc(self, x: float, y: float, radius: float, first: float, last: float) -> None:
        """Pixels nearest to a circle from one angle to a larger one, in radians counterclockwise from the right."""
        steps = max(math.ceil(2 * radius * (last - first)), 1)
        for step in range(steps + 1):
            angle = first + (last - first) * step / steps
            self.light(_nearest(x + radius * math.cos(angle)), _nearest(y - radius * math.sin(angle)))

    def disc(self, x: float, y: float, size: int) -> None:
        """All pixels whose middle is within a circle of ``size`` pixels across."""
        for down in range(self.height):
            for across in range(self.width):
                if (across - x) ** 2 + (down - y) ** 2 <= (size / 2) ** 2:
                    self.light(across, down)


def _nearest(value: float) -> int:
    """Halves upwards always: rounding to even would bend a straight line."""
    return math.floor(value + 0.5)
