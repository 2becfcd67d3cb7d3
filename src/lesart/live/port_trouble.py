"""What a serial port may fail with, and the system's words for it.

The library for terminals has an error of its own that is none of the operating system's. It comes where a port is
pulled out just as it is set up, or does not take a setting.
"""

from __future__ import annotations

import os
import termios

PORT_ERRORS = (OSError, ValueError, termios.error)


def number_of(error: Exception) -> int:
    """The system's number of it; 0 without one."""
    first = error.args[0] if error.args else 0
    return getattr(error, "errno", None) or (first if isinstance(first, int) else 0)


def in_words(error: Exception) -> str:
    """Without those of a library around them."""
    number = number_of(error)
    return os.strerror(number) if number else str(error)
