"""What people ask of a face that is no item: a value of one, or of the panel, a key, or a rule of another step."""

from __future__ import annotations

import re

_PANEL = "l turns to the leaf panel, and tab goes to its values"
_ASKS: tuple[tuple[str, str], ...] = (
    (r"(?:delete|remove|erase|take\s+away|get\s+rid\s+of)\b", "delete takes away the selected one; tab goes to them"),
    (
        r"(?:centre|center|align|justify|(?:right|left)[\s-]align)\b",
        "where an item stands are its values row and column; tab goes to them, and + arrange places all items anew",
    ),
    (r"(?:rotate|turn|flip|upside\s+down)\b", f'"turned" is a value of a panel of pixels; {_PANEL}'),
    (
        r"(?:brightness|brighter|dim|dimmer|back\s?light|contrast)\b",
        f"brightness, backlight and contrast are values of a panel; {_PANEL}",
    ),
    (
        r"(?:blink|flash)(?:s|ing)?\b",
        '"blinks at" is a value of a field, a label or a text; tab goes to it. For what is beyond a limit, + in 5 Calm '
        "adds an alarm, and + alarm CHANNEL here shows it",
    ),
    (
        r"(?:next|another|second|new|switch)\s+(?:pages?|screens?)\b",
        "a page is a face: + face NAME adds one, shown in turn with the others",
    ),
    (
        r"(?:big|bigger|large|larger|huge)\b",
        "how large it is says its font, a value of items on a panel of pixels; tab goes to it",
    ),
    (r".{0,60}\b\d+\s+(?:decimals?|places)\b", "decimals are a rule of its field; + in 6 Fit takes them"),
    (
        r"(?:the\s+)?(?:min(?:imum)?|max(?:imum)?|lowest|highest)\b",
        "a face shows what is read now; bar, trend and dial show it between lowest and highest",
    ),
)


def done_otherwise(typed: str) -> str:
    """How it is done; empty for what nobody asks for so."""
    bare = typed.strip().lower()
    return next((says for pattern, says in _ASKS if re.match(rf"(?:please\s+)?{pattern}", bare)), "")
