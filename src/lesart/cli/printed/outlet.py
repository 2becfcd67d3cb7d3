"""Standard output and error for untrusted text: nothing in it controls the terminal, and any encoding works.

All commands print through these two, so that no command has to think about it.
"""

from __future__ import annotations

import codecs
import contextlib
import io
import os
import re
import sys
import unicodedata
from collections.abc import Iterator

from lesart.core.errors import StorageError
from lesart.core.visible import escaped

_STEERING = re.compile(
    "[\x00-\x08\x0b-\x1f\x7f-\x9f\xad\u200b-\u200f\u2028-\u202e\u2060-\u206f\ufeff\ud800-\udfff\ufff9-\ufffb]"
)
"""Control characters except tab and line end, bidirectional and invisible characters, lone surrogates."""
_PLAIN = {
    "−": "-",
    "–": "-",
    "—": "-",
    "×": "x",
    "·": ".",
    "†": "(!)",
    "‡": "(?)",
    "→": "->",
    "←": "<-",
    "↑": "^",
    "↓": "v",
    "÷": "/",
    "±": "+/-",
    "°": "deg",
    "µ": "u",
    "μ": "u",
    "Ω": "Ohm",
    "Δ": "Delta",
    "√": "sqrt",
    "≤": "<=",
    "≥": ">=",
    "≠": "!=",
    "…": "...",
    "σ": "sigma",
    "α": "alpha",
    "β": "beta",
    "γ": "gamma",
    "δ": "delta",
    "ε": "epsilon",
    "●": "*",
    "○": "o",
    "█": "#",
    "▌": "|",
    "│": "|",
    "─": "-",
    "✓": "ok",
    "‰": "per mille",
    "“": '"',
    "”": '"',
    "‘": "'",
    "’": "'",
}
"""Substitutes for letters of Lesart's own sentences, where a terminal's encoding lacks them."""
ERRORS = "lesart-plain"


def _plainly(error: UnicodeError) -> tuple[str, int]:
    """Substitutes for letters that an encoding lacks: ``−`` as ``-``, ``é`` as ``e``, else its code."""
    if not isinstance(error, UnicodeEncodeError):
        raise error
    lost = error.object[error.start : error.end]
    return "".join(_PLAIN.get(letter) or _without_marks(letter) for letter in lost), error.end


def _without_marks(letter: str) -> str:
    bare = unicodedata.normalize("NFKD", letter).encode("ascii", "ignore").decode()
    return bare or escaped(letter)


codecs.register_error(ERRORS, _plainly)


class Outlet(io.TextIOBase):
    """Writes to ``stream``. Raises StorageError where that is full, BrokenPipeError where nobody reads."""

    def __init__(self, stream: io.TextIOBase, name: str) -> None:
        self._stream, self._name = stream, name

    @property
    def encoding(self) -> str:  # type: ignore[override]
        """That of the stream."""
        return getattr(self._stream, "encoding", None) or "utf-8"

    @property
    def writes_all(self) -> bool:
        """True where its encoding has every letter."""
        return codecs.lookup(self.encoding).name.startswith("utf")

    def isatty(self) -> bool:
        """True for a terminal."""
        return self._stream.isatty()

    def fileno(self) -> int:
        """That of the stream."""
        return self._stream.fileno()

    def writable(self) -> bool:
        """True."""
        return True

    def write(self, text: str) -> int:
        """Write text in letters that the terminal can show."""
        # A year of readings is all plain letters; checking that is quicker than searching for others.
        if not (text.isascii() and text.replace("\n", "").isprintable()):
            text = _STEERING.sub(lambda found: escaped(found[0]), text)
        self._pass_on(text)
        return len(text)

    def over(self, text: str) -> None:
        """Replace the terminal's present line."""
        self._pass_on("\r" + _STEERING.sub(lambda found: escaped(found[0]), text))
        self.flush()

    def _pass_on(self, text: str) -> None:
        if not text.isascii() and not self.writes_all:
            text = text.encode(self.encoding, ERRORS).decode(self.encoding)
        with self._failing():
            self._stream.write(text)

    def flush(self) -> None:
        """Flush the stream."""
        with self._failing():
            self._stream.flush()

    def close(self) -> None:
        """Does nothing: the stream belongs to somebody else, and may already be closed."""

    @contextlib.contextmanager
    def _failing(self) -> Iterator[None]:
        try:
            yield
        except BrokenPipeError:
            raise
        except OSError as error:
            raise StorageError(f"{self._name}: it cannot be written ({error.strerror}).") from error


@contextlib.contextmanager
def outlets() -> Iterator[None]:
    """Make standard output and error outlets for a while."""
    out, err = sys.stdout, sys.stderr
    sys.stdout, sys.stderr = Outlet(out, "standard output"), Outlet(err, "standard error")  # type: ignore[arg-type]
    try:
        yield
    finally:
        sys.stdout, sys.stderr = out, err


def give_up_output() -> None:
    """Drop the rest of the output, which cannot be written: Python would complain at exit when it flushes."""
    with contextlib.suppress(OSError, ValueError):
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.__stdout__.fileno() if sys.__stdout__ else 1)
