"""A person's words in generated code: they are in comments, and can never end one."""

from __future__ import annotations

import re

from lesart.core.visible import visible

_HARMLESS = str.maketrans({"\\": "/", '"': "'"})
_TRIGRAPH = re.compile(r"\?(?=\?)")
"""Two question marks and a sign are a trigraph in C99: ``??/`` escapes a line end, and compilers warn about it."""


def plain(words: str) -> str:
    """Fit for a comment of C, for one of Python, and for a docstring: one line, no end of any of them within.

    Names come from projects that strangers made, and the Python that is written is run as the model.
    """
    harmless = visible(words).translate(_HARMLESS).replace("*/", "* /").replace("/*", "/ *")
    return _TRIGRAPH.sub("? ", harmless)
