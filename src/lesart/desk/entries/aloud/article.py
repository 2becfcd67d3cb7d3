"""The article before a noun, which carries no meaning."""

from __future__ import annotations

import re

ARTICLE = re.compile(r"^(?:an? |the )", re.IGNORECASE)


def without_article(said: str) -> str:
    """``10k resistor`` of ``a 10k resistor``."""
    return ARTICLE.sub("", said.strip())
