"""What an edit of entries leaves: the new text, and what was done."""

from __future__ import annotations

from lesart.core.dataclass_later import dataclass
from lesart.core.notes import Key


@dataclass(frozen=True)
class Edited:
    """A new text, what was done in a few words, and the value to select, if one comes to mind."""

    text: str
    deed: str
    select: Key | None = None
