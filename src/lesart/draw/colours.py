"""Colours between two others. Light to import: a screen needs it before anything is open."""

from __future__ import annotations


def blend(ground: str, lit: str, share: float) -> str:
    """A colour on the way from ground to lit."""
    pairs = zip(bytes.fromhex(ground[1:]), bytes.fromhex(lit[1:]), strict=True)
    return "#" + "".join(f"{round(a + (b - a) * share):02x}" for a, b in pairs)
