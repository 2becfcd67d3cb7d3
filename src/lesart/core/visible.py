"""Text from outside is data: what would steer a terminal in it is shown, never obeyed."""

from __future__ import annotations


def visible(words: str) -> str:
    """Control characters as ``\\x`` and two digits. Every way to a screen or a paper passes here."""
    if words.isprintable():
        return words
    return "".join(letter if letter.isprintable() else escaped(letter) for letter in words)


def escaped(letter: str) -> str:
    """One letter as it would be written in a program."""
    code = ord(letter)
    # From 0x7f on as JSON writes it too, which knows no \x: what is escaped in an object for a script can be read.
    return f"\\x{code:02x}" if code < 0x7F else f"\\u{code:04x}" if code < 0x10000 else f"\\U{code:08x}"
