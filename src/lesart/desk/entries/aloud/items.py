"""An item of a face as people say it, with its place: ``show room on the second line``, ``a bar of room``."""

from __future__ import annotations

import re
from collections.abc import Callable, Collection

from lesart.core.dataclass_later import dataclass
from lesart.core.errors import RequestError
from lesart.core.glass.faces.items import ITEMS
from lesart.core.glass.panels.panel import Panel
from lesart.desk.entries.aloud.article import without_article

_OF_CHANNELS = ("field", "bar", "trend", "dial", "spectrum", "alarm")
ORDER = {"first": 0, "top": 0, "second": 1, "third": 2, "fourth": 3, "last": -1, "bottom": -1, "upper": 0, "lower": -1}
_CALLED = (
    (r"bar[\s-]?graph|level\s+bar|progress\s+bar", "bar"),
    (r"(?:line\s+)?(?:graph|chart|plot|curve|history|sparkline)", "trend"),
    (r"gauge|needle|pointer", "dial"),
    (r"frame|rectangle|border|outline", "box"),
    (r"(?:a\s+)?(?:text|label|line)\s+(?:saying|that\s+says|reading)", "label"),
    (r"(?:the\s+)?(?:word|words|caption|title)", "label"),
    (r"(?:the\s+)?(?:clock|time(?:\s+of\s+day)?)$", "text time of day"),
    (r"(?:the\s+)?date\s+and\s+time$", "text date and time"),
    (r"(?:the\s+)?(?:date|day)$", "text date"),
)
_AS = re.compile(
    r"^(?P<what>\S(?:.*\S)?)\s+as\s+(?:an?\s+)?(?P<item>bar(?:[\s-]?graph)?|trend|graph|chart|dial|gauge|needle|field|spectrum)$",
    re.IGNORECASE,
)
_SIZED = re.compile(
    r"\s+(?:in|with)\s+(?:an?\s+)?(?:large|larger|big|bigger|huge|small|smaller|tiny|bold)\s+(?:font|letters|digits|type|text)$",
    re.IGNORECASE,
)
_SHOWS = re.compile(r"^(?:please\s+)?(?:show|display|put|print|write)\s+", re.IGNORECASE)
_AT = r"[\s,]+(?:(?:at|on|in)\s+(?:the\s+)?)"
_PLACES = tuple(
    re.compile(f"{pattern}$", re.IGNORECASE)
    for pattern in (
        rf"(?:{_AT}|[\s,]+)(?P<down>top|bottom|upper|lower)(?:[\s-]+(?P<side>left|right))?(?:\s+corner)?",
        rf"{_AT}(?P<nth>first|second|third|fourth|last|top|bottom)\s+(?:line|row)",
        rf"{_AT}line\s+(?P<line>\d{{1,3}})",
        rf"{_AT}(?P<at_row>\d{{1,4}})\s*[,;/]?\s*(?<=[\s,;/])(?P<at_column>\d{{1,4}})",
        rf"(?:{_AT}|[\s,]+)row\s+(?P<row>\d{{1,4}})(?:[\s,]+(?:and\s+)?col(?:umn)?\s+(?P<column>\d{{1,4}}))?",
    )
)


@dataclass(frozen=True)
class Place:
    """Counted from 0, -1 for the last; ``column`` is None where it is not stated, and ``is_right`` at the right end."""

    row: int
    column: int | None = None
    is_right: bool = False

    def on(self, panel: Panel, need: int) -> tuple[int, int]:
        """Row and column for something of this many cells. Raises RequestError where the panel has no such place."""
        row = panel.rows - 1 if self.row < 0 else self.row
        column = max(panel.columns - need, 0) if self.is_right else self.column or 0
        if row >= panel.rows or column >= panel.columns:
            first = panel.counted_from
            raise RequestError(
                f"{panel.says()} has rows {first} to {panel.rows - 1 + first} and columns {first} to "
                f"{panel.columns - 1 + first}."
            )
        return row, column


def item_plainly(
    typed: str, channels: Collection[str], panel: Panel, called: Callable[[str], str] = str
) -> tuple[str, Place | None]:
    """The words that 7 Glass takes, and the place where one is said. As it was where nothing in it is put otherwise.

    ``called`` gives the channel that goes by other words, or these words again.
    """
    if _SIZED.search(typed):
        raise RequestError(f'"{typed.strip()}": its size is that of its font, a value of items on pixel panels.')
    is_whole = typed.strip() in channels or typed.strip().partition(" ")[2] in channels
    said, place = (typed.strip(), None) if is_whole else placed(typed.strip(), panel)
    bare = without_article(_SHOWS.sub("", said))
    if bare not in channels and bare.partition(" ")[0] not in ITEMS and (turned := _AS.match(bare)):
        bare = f"{turned['item']} {without_article(turned['what'])}"
    if called(bare) in channels:
        return f"field {called(bare)}", place
    for pattern, word in _CALLED:
        if found := re.match(rf"(?:{pattern})(?:\s+(?:of|for))?(?:\s+|$)", bare, re.IGNORECASE):
            return f"{word} {_of(bare[found.end() :], word, called)}".strip(), place
    word, _, rest = bare.partition(" ")
    if word in _OF_CHANNELS:
        return f"{word} {_of(rest, word, called)}".strip(), place
    if word == "label" and len(rest) > 2 and rest[0] == rest[-1] and rest[0] in "\"'":
        return f"label {rest[1:-1]}", place
    if len(bare) > 2 and bare[0] == bare[-1] and bare[0] in "\"'" and bare[0] not in bare[1:-1]:
        return f"label {bare[1:-1]}", place
    what, in_, unit = bare.rpartition(" in ")
    if called(what) in channels:
        return f"field {called(what)}{in_}{unit}", place
    return (bare, place) if word in ITEMS else (typed, None)  # a sentence names it as it was typed


def _of(said: str, word: str, called: Callable[[str], str]) -> str:
    """The subject of an item, by the channel's own name where another was used."""
    if word not in _OF_CHANNELS:
        return said
    what, in_, unit = said.rpartition(" in ")
    bare = (what or unit).removeprefix("of ").removeprefix("for ")
    found = called(bare)
    return said if found == said else f"{found}{in_}{unit if in_ else ''}"


def placed(said: str, panel: Panel) -> tuple[str, Place | None]:
    """The text before the place, and the place. Lines are counted from 1, rows as the panel counts them."""
    for pattern in _PLACES:
        found = pattern.search(said)
        if found is None or (" " not in said[: found.start()].strip() and said.lower().startswith("label")):
            continue
        parts = found.groupdict()
        rest = said[: found.start()]
        if parts.get("row"):
            row, column = int(parts["row"]) - panel.counted_from, parts.get("column")
            return rest, Place(max(row, 0), int(column) - panel.counted_from if column else None)
        if parts.get("at_row"):
            row, column = (int(parts[each]) - panel.counted_from for each in ("at_row", "at_column"))
            return rest, Place(max(row, 0), max(column, 0))
        if panel.grid is not None:
            raise RequestError(f"On {panel.says()} a place is a row and a column of pixels, like row 16, column 0.")
        if parts.get("line"):
            return rest, Place(max(int(parts["line"]) - 1, 0))
        return rest, Place(ORDER[(parts.get("nth") or parts["down"]).lower()], is_right=parts.get("side") == "right")
    return said, None
