"""Errors of a serial port, and the system's words for them.

The terminal library has an error of its own that is not an operating system error. It occurs where a port is removed
just as it is set up, or rejects a setting.
"""

from __future__ import annotations

import os
import termios

PORT_ERRORS = (OSError, ValueError, termios.error)


def number_of(error: Exception) -> int:
    """The system's error number; 0 without one."""
    first = error.args[0] if error.args else 0
    return getattr(error, "errno", None) or (first if isinstance(first, int) else 0)


def in_words(error: Exception) -> str:
    """The system's words, without those of a library around them."""
    number = number_of(error)
    return os.strerror(number) if number else str(error)
