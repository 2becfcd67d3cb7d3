"""Edges of lines, and frames of bytes with their times."""
