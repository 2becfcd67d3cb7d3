"""Letters that cells of bars are drawn by: of no script, so that no text can mean them."""

from __future__ import annotations

from lesart.core.glyphs.dots import WIDTH

FULL = "█"
PARTS = tuple(chr(0xE000 + step) for step in range(1, WIDTH))
"""For cells that are lit from the left to one dot less than their width."""
BARS = "\ue010"
"""For both upright pairs of segments of a digit."""
