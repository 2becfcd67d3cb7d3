"""Dot letters, two dots across and four down: their bits. Source: the Unicode standard, Braille patterns."""

from __future__ import annotations

ACROSS, DOWN = 2, 4
"""Dots of a letter."""
EMPTY = 0x2800
"""The letter without dots; the others follow it by their bits."""
BITS = ((0x01, 0x08), (0x02, 0x10), (0x04, 0x20), (0x40, 0x80))
"""By row and column of a dot in its letter."""
