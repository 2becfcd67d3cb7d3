"""Text from outside is data: what would control a terminal is shown, never obeyed."""

from __future__ import annotations


def visible(words: str) -> str:
    """Control characters as ``\\x`` and two digits. Everything on its way to a screen or to paper passes here."""
    if words.isprintable():
        return words
    return "".join(letter if letter.isprintable() else escaped(letter) for letter in words)


def escaped(letter: str) -> str:
    """One character as a program would write it."""
    code = ord(letter)
    # From 0x7f on as JSON writes it too, which knows no \x: what is escaped in an object for a script can be read.
    return f"\\x{code:02x}" if code < 0x7F else f"\\u{code:04x}" if code < 0x10000 else f"\\U{code:08x}"
