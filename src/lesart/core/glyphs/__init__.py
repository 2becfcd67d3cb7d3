"""Glyphs: the shapes of letters and digits, our own drawings, for every kind of display."""
