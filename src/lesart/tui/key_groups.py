"""The keys in groups for the page that lists them: those of the open step first, then by subject."""

from __future__ import annotations

from collections.abc import Mapping

from lesart.core.step import Step

HERE: Mapping[Step | None, tuple[str, ...]] = {
    Step.WIRE: ("plus", "delete", "j", "w", "enter", "R", "C"),
    Step.RAW: ("plus", "delete", "o", "r", "u", "enter", "R", "C"),
    Step.LAW: ("plus", "delete", "K", "J", "H", "enter", "h"),
    Step.TRUE: ("plus", "delete", "y", "x", "a", "z", "enter"),
    Step.CALM: ("plus", "delete", "K", "J", "v", "V", "a", "D", "R"),
    Step.FIT: ("enter", "x", "f", "U", "h", "g"),
    Step.GLASS: (
        "plus",
        "delete",
        "shift+left",
        "ctrl+left",
        "ctrl+shift+left",
        "A",
        "E",
        "Z",
        "b",
        "B",
        "f",
        "p",
        "x",
        "i",
        "g",
        "R",
        "C",
    ),
    Step.PACE: ("left_square_bracket", "right_square_bracket", "comma", "full_stop", "x", "plus", "delete", "enter"),
}
"""Keys of each step, by the framework's names."""
GROUPS: tuple[tuple[str, tuple[str, ...]], ...] = (
    ("steps", tuple("0123456789")),
    (
        "places",
        (
            "up",
            "down",
            "tab",
            "c",
            "l",
            "L",
            "slash",
            "n",
            "N",
            "F",
            "H",
            "g",
            "f",
            "pageup",
            "pagedown",
            "question_mark",
        ),
    ),
    (
        "values",
        ("enter", "left", "right", "plus", "delete", "K", "J", "m", "R", "C", "U", "x", "escape", "ctrl+z", "ctrl+y"),
    ),
    (
        "time",
        (
            "comma",
            "full_stop",
            "less_than_sign",
            "greater_than_sign",
            "left_square_bracket",
            "right_square_bracket",
            "space",
            "minus",
            "equals_sign",
            "h",
            "y",
        ),
    ),
    ("lines and recordings", ("o", "O", "r", "u")),
    ("variants and references", ("v", "V", "a", "D", "z")),
    ("hook-up", ("j", "w")),
    (
        "panels",
        (
            "shift+left",
            "shift+right",
            "shift+up",
            "shift+down",
            "ctrl+left",
            "ctrl+right",
            "ctrl+up",
            "ctrl+down",
            "ctrl+shift+left",
            "ctrl+shift+right",
            "ctrl+shift+up",
            "ctrl+shift+down",
            "A",
            "E",
            "Z",
            "b",
            "B",
            "p",
            "i",
        ),
    ),
    ("project", ("ctrl+s", "e", "ctrl+p", "ctrl+q")),
)
"""Every key of the table, by subject."""
WORDS = (
    ("† ‡ ·", "a fault, it will be wrong; a doubt, it may be; good to know. n goes through them, m mends"),
    ("thread", "the strip on top: one reading at all nine steps"),
    ("channel", "one measured quantity, from its source to its field"),
    ("leaf", "a page of a step; l turns them"),
    ("variant", "another way to read the same signal: α, β, γ"),
    ("hand", "a value you type, instead of the capture"),
    ("panel, face", "a display, and one page of what it shows"),
    ("home", "where a fact is stated; values in green are taken from there"),
)
"""Concepts that the screen assumes, a sentence each."""
