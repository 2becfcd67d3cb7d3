"""Panels: segments, characters or pixels, their memory and what the glass shows."""
