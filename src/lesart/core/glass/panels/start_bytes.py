"""A panel's start sequence, as a person writes it down from the data sheet."""

from __future__ import annotations

from lesart.core.parameters import Parameter

START = Parameter(
    "start",
    "set up by",
    "text",
    "bytes of commands that are sent first, like AE A8 3F AF; empty: what lights it",
    "",
    longest=400,
)


def read_start(written: str) -> bytes:
    """Bytes in hex with blanks or commas between. Raises ValueError with a clause."""
    parts = written.replace(",", " ").replace(";", " ").split()
    try:
        found = [int(part, 16) for part in parts]
    except ValueError:
        found = [-1]
    if any(not 0 <= byte <= 0xFF for byte in found):
        wrong = next(
            (
                part
                for part in parts
                if not set(part.lower().removeprefix("0x")) <= set("0123456789abcdef")
                or len(part.lower().removeprefix("0x")) > 2
            ),
            written,
        )
        raise ValueError(f'set up by = "{written}"; "{wrong}" is not a byte in hex, like AE or 0x3F')
    return bytes(found)


def read_groups(written: str) -> tuple[bytes, ...]:
    """The bytes by command, separated by ``;``, each with its parameters. Raises ValueError with a clause."""
    return tuple(found for each in written.split(";") if (found := read_start(each)))
