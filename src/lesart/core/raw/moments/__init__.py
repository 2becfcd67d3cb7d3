"""Moments as programs write them: recognised, read in any number at once, decided where two ways fit."""
