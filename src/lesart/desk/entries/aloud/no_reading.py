"""Raw values that mean no reading, as people say it: ``-9999 is no reading``, ``ignore -127``."""

from __future__ import annotations

import re

from lesart.desk.entries.aloud.article import without_article
from lesart.desk.entries.aloud.figures import NUMBER

_VALUE = rf"{NUMBER}(?:\s?(?!(?:is|are|as|for|and|or|means?)\b)[^\s\d,=]{{1,6}})?"
_VALUES = rf"(?P<values>{_VALUE}(?:(?:\s*,\s*and|\s*,|\s+and|\s+or)\s+{_VALUE})*)"
_THING = r"(?:readings?|values?|data|samples?|numbers?|codes?)"
_BAD = r"(?:bad|invalid|missing|errors?|faults?|failures?|wrong)"
_NOTHING = (
    rf"(?:(?:no|not\s+an?)[\s-]+(?:{_BAD}\s+)?{_THING}|(?:an?\s+|the\s+)?{_BAD}(?:\s+{_THING})?|"
    r"nan|n/?a|none|nothing|null)"
)
"""Words that mean no reading: without them, value = 3 is a channel."""
_IS = r"(?:\s+(?:is|are|means?|stands?\s+for|says?|as)\s+|\s*=\s*)"
_SAID = tuple(
    re.compile(rf"(?:the\s+)?(?:{pattern})", re.IGNORECASE)
    for pattern in (
        rf"(?:raw\s+)?(?:values?\s+(?:of\s+)?)?{_VALUES}{_IS}{_NOTHING}",
        rf"{_NOTHING}{_IS}{_VALUES}",
        rf"{_NOTHING}\s+(?:if|when|at)\s+(?:it\s+(?:is|reads|says)\s+|=+\s*)?{_VALUES}",
        rf"(?:ignore|drop|reject|throw\s+out|leave\s+out|mark|without)\s+(?:the\s+|all\s+)*(?:raw\s+)?(?:values?\s+(?:of\s+)?)?{_VALUES}",
        rf"(?:treat|take|read|mark|count)\s+(?:the\s+|all\s+)*(?:raw\s+)?(?:values?\s+(?:of\s+)?)?{_VALUES}\s+(?:as|for)\s+{_NOTHING}",
    )
)


def no_reading_said(typed: str) -> tuple[str, ...] | None:
    """The values as stated, with their units; None where it is something else."""
    said = without_article(typed.strip().rstrip("."))
    match = next((found for pattern in _SAID if (found := pattern.fullmatch(said))), None)
    return None if match is None else tuple(re.findall(_VALUE, match["values"]))
