"""A glyph written as rows of dots, ``..#../.###./…``, as drawings and project files have it."""

from __future__ import annotations

WIDTH, HEIGHT = 5, 8
LIT, DARK = "#", "."


def dots_of(drawn: str) -> tuple[int, ...]:
    """Eight rows of five bits, the leftmost dot the highest; rows that are not written are dark.

    Raises ValueError with a clause where it is not such a drawing.
    """
    rows = drawn.split("/")
    if len(rows) > HEIGHT or any(len(row) != WIDTH or row.strip(LIT + DARK) for row in rows):
        raise ValueError('it must be up to eight rows of five dots, like ".###./#...#/.###."')
    found = [int(row.replace(LIT, "1").replace(DARK, "0"), 2) for row in rows]
    return tuple(found + [0] * (HEIGHT - len(found)))


def drawn_of(dots: tuple[int, ...]) -> str:
    """The rows as a text that ``dots_of`` reads."""
    return "/".join(f"{row:05b}".replace("1", LIT).replace("0", DARK) for row in dots)
