"""Colour lamps in a chain as people say them: ``strip of 60 addressable leds``, ``16x16 rgb matrix, zigzag``."""

from __future__ import annotations

import re

from lesart.core.glass.panels.catalogue import LAMPS
from lesart.core.glass.panels.lamp_panel import BY_COLUMNS, BY_ROWS, GREEN_FIRST, SENT
from lesart.core.glass.panels.pixel_colours import COLOURS
from lesart.core.quantity import plain_number
from lesart.desk.entries.recipes.recipe import Table
from lesart.project.assumed import ASSUMED, joined

HOW = "on one line"
FEW = 8
"""Lamps where nobody says how many."""
MOST_DOWN_OF_MATS = 16
"""Higher panels of lights in three colours are scanned by the board, and no chains."""
_THING = r"(?:leds?|lamps?|lights?|pixels?|rgbw?)"
_FORM = r"(?:strips?|stripes?|rings?|sticks?|garlands?|mats?|matrix|matrices)"
_SIZE = re.compile(r"\b(\d{1,3})\s*(?:x|×|\*|by)\s*(\d{1,3})\b")
_SAID = re.compile(
    rf"\b(?:individually[\s-]+)?(?:addressable|smart|digital)\b.*\b(?:{_THING}|{_FORM})\b"
    rf"|\b{_FORM}\b.*\b{_THING}\b|\b{_THING}[\s-]+(?:strips?|stripes?|rings?|sticks?|garlands?)\b"
    rf"|\brgbw?\b.*\b{_FORM}\b|\bcolou?r(?:ed)?[\s-]+lamps?\b"
)
_IS_OTHER = re.compile(r"\b(?:tft|lcd|oled|e[\s-]?paper|digits?|segments?|characters?)\b")
_SINGLE = re.compile(r"\b(?:led|dot)[\s-]+matri")
_A_METRE = re.compile(rf"\b([1-9]\d{{1,2}})\s*(?:{_THING}\s*)?(?:/|per\s+)\s*m(?:et(?:re|er))?\b")
_LONG = re.compile(r"(?<![/\w.,])(\d{1,2}(?:[.,]\d{1,2})?)\s*(m|met(?:re|er)s?|cm)\b")
_COUNT = re.compile(r"(?<![\w.,×x])(\d{1,4})(?![\w%×]|[.,]\d|\s*(?:%|v\b|k?hz\b|mm\b|ma\b))")
_BYTES = {"".join(name[0] for name in order.split(", ")): order for order in SENT}
_ORDER = re.compile(rf"\b({'|'.join(sorted(_BYTES, key=len, reverse=True))})\b(\s+order(?:ed)?)?")
_COLOUR = re.compile(rf"\b({'|'.join(name for name in COLOURS if name != 'black')})\b")
_TO_AND_FRO = re.compile(r"\b(?:zig[\s-]?zag|serpentine|snak(?:e|ing)|to\s+and\s+fro|boustrophedon)\b")
_RUNS = re.compile(r"\b(row|column)(?:[\s-]+by[\s-]+(?:row|column)|s|wise)\b")
_BEGINS = re.compile(
    r"\b(?:(?:starts?|starting|begins?|beginning|first(?:\s+(?:lamp|led|pixel))?)\s+)(?:at\s+|in\s+|from\s+)?(?:the\s+)?"
    r"(top|bottom|upper|lower)[\s-]+(left|right)\b"
)
_SIDES = {"upper": "top", "lower": "bottom"}
_PITCH = re.compile(r"\b(\d{1,3}(?:[.,]\d{1,2})?)\s*mm(?:\s+(?:pitch|apart))?\b")
_WORDS = re.compile(rf"\b(?:{_THING}|{_FORM}|data|addressable|individually|smart|digital|colou?r(?:ed)?|of|in|long)\b")


def lamps_plainly(typed: str) -> str:
    """The phrase as the catalogue has it; empty where it says nothing of such lamps."""
    plain = typed.strip().lower()
    size = _SIZE.search(plain)
    is_mat = size is not None and min(int(size[1]), int(size[2])) <= MOST_DOWN_OF_MATS
    is_said = _SAID.search(plain) is not None and _IS_OTHER.search(plain) is None
    if not is_said or (size is not None and not is_mat) or (_SINGLE.search(plain) and not re.search("rgb|addr", plain)):
        return ""
    told, _ = lamps_told(plain)
    width, height = told["width"], told.get("height", 1)
    count = f"{width}×{height}" if height != 1 else f"{width}"
    return f"{count} {LAMPS} {HOW}"


def lamps_told(plain: str) -> tuple[Table, str]:
    """What is said of them, in lower case, and the rest of the words."""
    told, plain = _sized(plain)
    assumed = [] if "width" in told else ["width"]
    told.setdefault("width", FEW)
    if int(told.get("height", 1)) > 1:
        found = _RUNS.search(plain)
        is_long = int(told["width"]) > 2 * int(told["height"])
        told["runs"] = {"row": BY_ROWS, "column": BY_COLUMNS}[found[1]] if found else BY_COLUMNS if is_long else BY_ROWS
        told["to_and_fro"] = bool(_TO_AND_FRO.search(plain)) or (found is None and int(told["width"]) > 8)
        assumed += [] if found else ["runs"] if _TO_AND_FRO.search(plain) else ["runs", "to_and_fro"]
        plain = _TO_AND_FRO.sub(" ", _RUNS.sub(" ", plain))
    if begins := _BEGINS.search(plain):
        told["begins"] = f"{_SIDES.get(begins[1], begins[1])} {begins[2]}"
        plain = _BEGINS.sub(" ", plain)
    if colour := _COLOUR.search(plain):
        told["colour"] = colour[1]
        plain = _COLOUR.sub(" ", plain, count=1)
    for order in _ORDER.finditer(plain):
        if order[1] == "rgbw" and not order[2]:
            told["sent"] = f"{GREEN_FIRST}, white"
        elif order[1] != "rgb" or order[2]:
            told["sent"] = _BYTES[order[1]]
    if assumed:
        told[ASSUMED] = joined(assumed)
    return told, _WORDS.sub(" ", _ORDER.sub(" ", plain))


def _sized(plain: str) -> tuple[Table, str]:
    """How many there are, and how far apart, by what is said of them; and the other words."""
    told: Table = {}
    if size := _SIZE.search(plain):
        width, height = int(size[1]), int(size[2])
        # An 8×32 mat lies down.
        told["width"], told["height"] = (height, width) if height > MOST_DOWN_OF_MATS >= width else (width, height)
        plain = _SIZE.sub(" ", plain)
    dense, long = _A_METRE.search(plain), None
    if dense:
        told["pitch"] = f"{plain_number(1000 / int(dense[1]), 3)} mm"
        plain = _A_METRE.sub(" ", plain)
        long = _LONG.search(plain)
    if dense and long and "width" not in told:
        metres = float(long[1].replace(",", ".")) * (0.01 if long[2] == "cm" else 1.0)
        told["width"] = round(metres * int(dense[1]))
        plain = _LONG.sub(" ", plain)
    if pitch := _PITCH.search(plain):
        told["pitch"] = f"{pitch[1].replace(',', '.')} mm"
        plain = _PITCH.sub(" ", plain)
    if "width" not in told and (count := _COUNT.search(plain)):
        told["width"] = int(count[1])
        plain = f"{plain[: count.start()]} {plain[count.end() :]}"
    return told, plain


__all__ = ["HOW", "lamps_plainly", "lamps_told"]
