"""Arithmetic with a reading: spoken arithmetic, formulas, lines of code, ratios, units of results."""
