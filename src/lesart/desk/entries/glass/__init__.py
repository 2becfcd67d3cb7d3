"""Entries of Glass: what + adds on each leaf, glyphs dot by dot, items moved, and lines as a program prints them."""
