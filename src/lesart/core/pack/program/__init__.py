"""Whole-number programs: what they are made of, that they never overflow, and their text in C and in Python."""
