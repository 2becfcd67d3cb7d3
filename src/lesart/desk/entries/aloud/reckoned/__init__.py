"""What is reckoned with a reading: arithmetic said aloud, formulas, lines of programs, ratios, units of results."""
