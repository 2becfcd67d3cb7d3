"""Offers for typing: a list that narrows with every letter, to choose from and to complete by."""

from __future__ import annotations

from collections.abc import Callable

from rich.text import Text
from textual.widgets import OptionList
from textual.widgets.option_list import Option

from lesart.study.views import Offer, Offers

MOST_SHOWN = 9
MOST_LISTED = 100
"""Most offers listed; typing narrows them."""


def token_of(offers: Offers, typed: str) -> tuple[str, str, tuple[Offer, ...]]:
    """The text before the word being typed, that word, and its offers: ``ntc = therm`` is a name and a sign, the
    beginning of a kind, and all kinds."""
    at, group = 0, offers.get("", ())
    for sign, each in offers.items():
        place = typed.rfind(sign) + len(sign) if sign and sign in typed else 0
        if place > at:
            at, group = place, each
    word = typed[at:].lstrip()
    return typed[: len(typed) - len(word)], word, group


def narrowed(offers: Offers, typed: str) -> list[Offer]:
    """Offers that begin with the word, in order, then those that contain it, in the name before the description."""
    _, word, group = token_of(offers, typed)
    low = _plain(word.strip())
    ways: tuple[Callable[[Offer], bool], ...] = (
        lambda each: _plain(each.text).startswith(low),
        lambda each: low in _plain(each.text),
        lambda each: low in _plain(each.says),
    )
    found: dict[str, Offer] = {}
    for way in ways:
        found.update({each.text: each for each in group if way(each) and each.text not in found})
    return list(found.values())[:MOST_LISTED]


def longest(offers: Offers) -> int:
    """Width of the widest line."""
    return max((len(each.text) + 2 + len(each.says) for group in offers.values() for each in group), default=0)


def _line(offer: Offer, room: int, width: int) -> Text:
    """An offer and its description on one line, with a mark where it is cut."""
    line = Text.assemble((offer.text.ljust(room), "bold"), offer.says, no_wrap=True)
    line.truncate(max(width - 2, 4), overflow="ellipsis")
    return line


def _plain(text: str) -> str:
    """The text as it may be typed: x for ×."""
    return text.casefold().replace("×", "x")


class OfferList(OptionList, can_focus=False):
    """The list above the input line. It never has the focus: the line passes on its keys."""

    def __init__(self, *, id: str | None = None) -> None:
        super().__init__(id=id, compact=True)
        self.display = False
        self._offers: Offers = {}
        self._found: list[Offer] = []
        self._typed = ""
        self._grows_down = False
        self.is_chosen = False

    def open(self, offers: Offers, left: int, at: int, width: int, *, grows_down: bool = False) -> None:
        """Show the offers, with the last line at ``at``, or the first one where it grows down."""
        self._offers, self._place, self._grows_down = offers, (left, at, width), grows_down
        self.narrow("")

    def close(self) -> None:
        """Close the list."""
        self._offers, self._found, self.display = {}, [], False

    def narrow(self, typed: str) -> None:
        """Show what fits what has been typed so far."""
        if not self._offers:
            self.close()
            return
        self._typed, self.is_chosen = typed, False
        self._found = narrowed(self._offers, typed)
        left, at, width = self._place
        shown = min(len(self._found), MOST_SHOWN)
        self.display = bool(shown)
        if not shown:
            return
        self.styles.width, self.styles.height = width, shown
        self.styles.offset = (left, at if self._grows_down else max(at - shown + 1, 0))
        room = max((len(each.text) for each in self._found[:40]), default=0) + 2
        self.clear_options()
        self.add_options([Option(_line(each, room, width)) for each in self._found])
        # Nothing is chosen by letters alone: enter takes the text of the line.
        self.highlighted = None

    def move(self, by: int) -> None:
        """Choose the first offer, or move from the chosen one."""
        if self._found:
            self.is_chosen = True
            self.highlighted = 0 if self.highlighted is None else (self.highlighted + by) % len(self._found)

    def choose(self, index: int) -> None:
        """Choose an offer by index."""
        self.is_chosen, self.highlighted = True, index

    def completed(self) -> tuple[str, bool] | None:
        """The line with its last word replaced by the chosen or first offer, and whether it is then complete; None
        without any."""
        if not self.display or not self._found:
            return None
        before, _, _ = token_of(self._offers, self._typed)
        offer = self._found[self.highlighted or 0]
        gap = "" if not before or before.endswith(" ") else " "
        return f"{before}{gap}{offer.text}", offer.is_whole
