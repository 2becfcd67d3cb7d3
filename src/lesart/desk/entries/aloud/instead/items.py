"""Requests to a face that are not items: a value of an item or of the panel, a key, or a rule of another step."""

from __future__ import annotations

from lesart.core.glass.panels.catalogue import CATALOGUE, has_third_ink, is_paper
from lesart.core.quantity import listed
from lesart.desk.entries.aloud.instead.asked import Asks, bare, first_of
from lesart.desk.entries.recipes.shown.displays_aloud import OF_PAPER

_PANEL = "l turns to the leaf panel, and tab goes to its values"
_PAPERS = listed([name for name, table in CATALOGUE.items() if is_paper(table) and not has_third_ink(table)])
ASKS: Asks = (
    (r"(?:delete|remove|erase|take\s+away|get\s+rid\s+of)\b", "delete removes the selected one; tab goes to them"),
    (
        r"(?:centre|center|align|justify|(?:right|left)[\s-]align)\b",
        "an item is placed by its values row and column; tab goes to them, and + arrange places all items",
    ),
    (r"(?:copy|duplicate|clone)\b", "C copies the chosen panel or face"),
    (r"(?:mirror|flip)\w*", f'"turned" and "mirrored" are values of a panel of pixels; {_PANEL}'),
    (r"(?:rotate|turn|upside\s+down)\b", f'"turned" is a value of a pixel panel; {_PANEL}'),
    (r"(?:invert|inverse|negative)\w*", f'"inverted" is a value of a panel; {_PANEL}'),
    (r"(?:rgb|colou?r|red|green|blue|yellow|white|amber)\b", f"its light or colour is a value of the panel; {_PANEL}"),
    (
        r"(?:move|shift|nudge|up|down|left|right)\b",
        "shift and arrows move the selected item, tab goes to it; row and column are values of it",
    ),
    (r"(?:clear|empty|reset)\b", "delete removes the selected item; tab goes to it"),
    (
        r"(?:scroll|marquee|ticker)\w*",
        "a face does not scroll; what has no room goes on another face, shown in turn: + face NAME",
    ),
    (r"pages?\s+\d", "a page is a face: + face NAME adds one, shown in turn with the others"),
    (
        r"(?:custom|own|user|degree|special)[\s-]+(?:characters?|chars?|glyphs?|symbols?|signs?)",
        "draw your own letters on the leaf glyphs: l turns to it, and + there takes the letter",
    ),
    (
        r"(?:\w+\s+)?(?:icon|logo|image|bitmap|symbol|arrow|battery\s+symbol|sprite)s?\b",
        "add the picture on the leaf pictures, like logo < pictures/logo.png; then + picture logo here, on pixels",
    ),
    (r"(?:circle|disc|ellipse|triangle|line)s?\b", "the only shape is a box, on pixels; a picture can show any other"),
    (r"units?\b", "the unit after a number is a rule of its field: + in 6 Fit, like no unit"),
    (
        rf"(?:.*\W)?{OF_PAPER.pattern}",
        f"say how large it is, like 2.9 inch e-paper; Lesart knows {_PAPERS}; red or yellow behind it is a third ink",
    ),
    (
        r"(?:no\s+|without\s+|more\s+|less\s+)?(?:brightness|brighter|dim|dimmer|back\s?light|contrast)\b",
        f"brightness, backlight and contrast are values of the panel; {_PANEL}",
    ),
    (
        r"(?:blink|flash)(?:s|ing)?\b",
        '"blinks at" is a value of a field, a label or a text; tab goes to it. For a limit, + in 5 Calm '
        "adds an alarm, and + alarm CHANNEL here shows it",
    ),
    (
        r"(?:next|another|second|new|switch)\s+(?:pages?|screens?)\b",
        "a page is a face: + face NAME adds one, shown in turn with the others",
    ),
    (
        r"(?:big|bigger|large|larger|huge|small|smaller|tiny|font)\b",
        "its size is that of its font, a value of items on pixel panels; tab goes to it",
    ),
    (r".{0,60}\b\d+\s+(?:decimals?|places)\b", "decimals are a rule of its field; + in 6 Fit takes them"),
    (
        r"(?:the\s+)?(?:min(?:imum)?|max(?:imum)?|lowest|highest)\b",
        "a face shows what is read now; bar, trend and dial show it between lowest and highest",
    ),
)


def done_otherwise(typed: str) -> str:
    """How it is done; empty where it is not recognised."""
    return first_of(ASKS, bare(typed))
