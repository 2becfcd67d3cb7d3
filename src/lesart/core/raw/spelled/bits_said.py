"""Which bits of a word a line names: ``bits 31..18``, ``top 14 bits``, ``12 bits left justified``, ``>> 4``."""

from __future__ import annotations

import re

BITS_SAID = re.compile(
    r"(?:the\s+)?(?:"
    r"bits?\s+(?P<first>\d{1,2})\s*(?:to|through|downto|-|–|\.\.+|:)\s*(?P<last>\d{1,2})|"
    r"(?:top|upper|highest|most\s+significant)\s+(?P<top>\d{1,2})\s+bits?(?:\s+of\s+(?P<of>\d{1,2})(?:\s*bits?)?)?|"
    r"(?:low(?:er|est)?|bottom|least\s+significant)\s+(?P<low>\d{1,2})\s+bits?|"
    r"(?P<left>\d{1,2})[\s-]*bits?,?\s+left[\s-]+(?:justified|aligned|adjusted)|"
    r"(?:[a-z]\w*\s*)?>>\s*(?P<shift>\d{1,2})|"
    r"(?:right\s+shift(?:ed)?(?:\s+by)?|shift(?:ed)?(?:\s+it)?\s+right(?:\s+by)?|"
    r"(?:drop|without)\s+the\s+low(?:est|er)?)\s+(?P<right>\d{1,2})(?:\s+bits?)?)",
    re.IGNORECASE,
)


def names_bits(said: str) -> bool:
    """True where it names some bits of a word, so that their number alone says nothing."""
    return BITS_SAID.search(said) is not None
