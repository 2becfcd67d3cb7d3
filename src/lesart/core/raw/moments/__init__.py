"""Dates and times as programs write them: recognised, read in bulk, decided where two readings fit."""
