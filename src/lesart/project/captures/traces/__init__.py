"""Edges of lines, and frames of bytes with the time that each came."""
