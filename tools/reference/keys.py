"""The keys, from the table that binds them, and those of each step."""

from __future__ import annotations

from lesart.tui.keys import KEYS

HEAD = """\
# Keys

`?` shows these with those of the open step first, `ctrl+p` lists what has a name, `/` finds a key by its words.

*This page is made from the program by `make reference`.*

| key | what it does |
| --- | --- |
"""


def page() -> str:
    """One line a key."""
    return HEAD + "".join(f"| `{_told(key.shown)}` | {_told(key.says)} |\n" for key in KEYS)


def _told(text: str) -> str:
    return text.replace("|", "\\|")
