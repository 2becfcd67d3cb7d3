"""Private characters for the cells of bars: of no script, so that no text can contain them."""

from __future__ import annotations

from lesart.core.glyphs.dots import WIDTH

FULL = "█"
PARTS = tuple(chr(0xE000 + step) for step in range(1, WIDTH))
"""Characters for cells lit from the left, up to one dot less than their width."""
BARS = "\ue010"
"""Characters for one and for both vertical pairs of segments of a digit."""
