"""A display as people say it, translated into the words of the catalogue: what it is, and how it is driven.

``a 16x2 lcd with a backpack`` is 16×2 characters on two wires, ``a 4-digit 7-segment display`` four scanned digits.
"""

from __future__ import annotations

import re

from lesart.core.glass.panels.catalogue import CATALOGUE, MODULES, has_third_ink, is_paper, named
from lesart.desk.entries.recipes.shown.displays import NUMBERS, display_in, hows_of
from lesart.desk.entries.recipes.shown.lamps_aloud import lamps_plainly

BEGINS = re.compile(r"^(?:an? |the )?(?=\w)", re.IGNORECASE)
SIZE = re.compile(r"\b(\d{1,3})\s*(?:x|×|\*|by)\s*(\d{1,3})\b")
DIGITS = re.compile(rf"(?<![/.\w])(\d{{1,2}}|single|{'|'.join(NUMBERS)})[\s-]+digits?\b")
SEGMENTS = re.compile(r"\b(14|16|fourteen|sixteen)[\s-]+segments?\b")
_OF_MODULES = re.compile(
    rf"(?:\b(?P<many>\d|{'|'.join(NUMBERS)})\b(?!\s*[x×*]).*?)?\b(?:(?P<across>8|16|32|64)\s*[x×*]\s*8|8\s*[x×*]\s*(?P<along>16|32|64))\b"
)
"""``four 8x8 modules``, ``32x8``, ``8x32``."""
INCHES = re.compile(
    r"(?<![\w.,])(\d(?:[.,]\d{1,2})?)(?:\s*(?:inch(?:es)?|in\b|\"|”|″)"
    r"|(?:(?<=[.,]\d)|(?<=[.,]\d\d))(?=\s+(?:oled|tft|e-?paper|e-?ink)\b|$))\s*"
)
"""``0.96 inch``; of a display without it too: ``0.96 oled``, ``e-paper 2.13``."""
OFINCHES = {
    "oled": {
        "0.96": "128x64",
        "1.3": "128x64",
        "0.91": "128x32",
        "0.66": "64x48",
        "0.69": "96x16",
        "0.42": "72x40",
        "0.49": "64x32",
        "2.42": "128x64",
        "3.12": "256x64",
    },
    "e-paper": {
        "1.54": "200x200",
        "2.13": "250x122",
        "2.7": "264x176",
        "2.9": "296x128",
        "4.2": "400x300",
        "7.5": "800x480",
    },
    "tft": {
        "0.96": "160x80",
        "1.14": "135x240",
        "1.28": "240x240",
        "1.3": "240x240",
        "1.44": "128x128",
        "1.47": "172x320",
        "1.54": "240x240",
        "1.69": "240x280",
        "1.9": "170x320",
        "1.8": "128x160",
        "2": "240x320",
        "2.0": "240x320",
        "2.2": "240x320",
        "2.4": "240x320",
        "2.8": "240x320",
        "3.2": "240x320",
        "3.5": "320x480",
        "4": "320x480",
        "4.0": "320x480",
    },
}
"""Pixels of displays known by their size alone; the message says what was assumed."""
IN_COLOURS = re.compile(r"\b(?:colou?rs?|colou?red|tft|rgb)\b")
ROUND = re.compile(r"\b(?:round|circular)\b|\b1[.,]28\s*(?:inch|in\b|\"|”|″)")
"""Round ones are all in colours, and of that size all are round."""
_OF_MATRIX = re.compile(r"\b(?:matrix|matrices|modules?)\b")
"""Made of blocks of eight by eight, and so of no other size."""
OF_PIXELS = re.compile(r"\b(?:oled|pixels?|graphics?|graphical|dot|dots|matrix)\b")
OF_PAPER = re.compile(r"\b(?:e[\s-]?(?:paper|ink)|(?:electronic|digital)[\s-]+(?:paper|ink)|paper(?:[\s-]?like)?)\b")
THIRD_INK = re.compile(
    r"\b(?:red|yellow|(?:tri|three|3)[\s-]*colou?r(?:s|ed)?|(?:three|3)[\s-]+inks?|bw[ry]|b\s*/\s*w\s*/\s*[ry])\b"
)
"""Of paper: a third ink beside black and white."""
OF_LETTERS = re.compile(r"\b(?:characters?|letters?|lcd|text|alphanumeric|vfd|lines?)\b")
ALPHANUMERIC = re.compile(r"\balpha[\s-]?numeric\b|\bstar[\s-]?burst\b")
COLON = re.compile(r"\b(?:clock|colons?)\b")
IS_DISPLAY = re.compile(
    rf"{OF_PAPER.pattern}|\b(?:display|panel|lcd|oled|tft|glass|screen|matrix|matrices|modules?|characters?|pixels?|colou?rs?|digits?|vfd)\b"
)
_SAYS_KIND = (
    OF_PAPER,
    ROUND,
    OF_LETTERS,
    re.compile(r"\b(?:colou?rs?|colou?red|tft)\b"),
    re.compile(r"\b(?:oled|pixels?|graphics?|graphical)\b"),
)
"""Of what kind a panel of any size is. One of lights in three colours is scanned by the board, or a chain."""
FIRST = re.compile(
    rf"\d|{'|'.join(NUMBERS)}|"
    r"(?:red|green|amber|yellow|blue|white|grey|see-through)[\s-]+(?=\w)|"
    r"(?:e[\s-]?paper|e[\s-]?ink|paper|tft|oled|lcd|vfd|(?:led|dot)[\s-]+matrix|matrix|colou?r|graphic(?:al)?|character|"
    r"display|screen|panel|i2c|i²c|spi|round|alpha[\s-]?numeric)\b"
)
"""Beginnings of displays without an article."""
LIT = re.compile(
    r"\b(?:red|green|amber|yellow|blue|white|grey|gray|black)\b(?=$|[\s,]+(?:on\b|back)|.*\b(?:light|lit|back\w*)\b)"
)
"""A light behind what is shown, or of it."""
SEVEN = re.compile(r"\b(?:7|seven)[\s-]*segments?\b[\s-]*")
DRIVEN = (
    (
        re.compile(r"\b0x[0-9a-f]{2}\b|\bi2c\b|\bi²c\b|\b(?:two|2)[\s-]+wires?\b|\bbackpack\b|\badapter\b"),
        "on two wires",
    ),
    (re.compile(r"\bspi\b|\b(?:four|4)[\s-]+wires?\b|\bserial\b"), "on four wires"),
    (re.compile(r"\bspi\b|\bserial\b|\bnumbered\b"), "on a numbered driver"),
    (re.compile(r"\b(?:4|four)[\s-]+(?:bits?|lines|data lines)\b|\bparallel\b"), "on four lines"),
    (re.compile(r"\b(?:8|eight)[\s-]+(?:bits?|lines|data lines)\b"), "on eight lines"),
    (re.compile(r"\bshift registers?\b"), "on shift registers"),
    (re.compile(r"\btwo registers\b"), "through registers"),
    (re.compile(r"\bscanned\b|\bmultiplexed\b|\bbare\b"), "scanned"),
    (re.compile(r"\b(?:two|2)[\s-]+line\b|\bclock and data\b"), "on a two-line driver"),
)
"""Words for how it is driven; the default is the usual way."""


def display_plainly(typed: str) -> str:
    """The phrase as the catalogue has it; as it was where it is no display, or there is none such.

    Not what gives something a name: ``logo 16x16 < logo.png``.
    """
    plain = BEGINS.sub("", typed.strip().lower(), count=1)
    is_told = named(typed) is not None and not _is_of_other_digits(typed) and not _has_ink_unsaid(typed)
    if display_in(typed) is not None or is_told or re.search("[<=]", typed):
        return typed
    if lamps := lamps_plainly(typed):
        return lamps
    typed_as = _with_size(typed)
    if typed_as != typed:
        return display_plainly(typed_as)
    if plain == typed.strip().lower() and not FIRST.match(plain):
        return typed
    kind = _kind(plain) if SIZE.fullmatch(plain) or IS_DISPLAY.search(plain) or _is_told_size(plain) else ""
    base = _base_of(kind, plain)
    if not base:
        return typed
    hows, said = hows_of(base), _hows_said(plain)
    how = next((how for how in said if how in hows), "" if said else hows[0])
    return f"{kind} {how}" if how else typed


def _has_ink_unsaid(typed: str) -> bool:
    """True for paper of the catalogue in black and white, behind which a third ink is said."""
    found = named(typed)
    is_plain = found is not None and is_paper(CATALOGUE[found[0]]) and not has_third_ink(CATALOGUE[found[0]])
    return is_plain and THIRD_INK.search(typed.lower()) is not None


def _base_of(kind: str, plain: str) -> str:
    """The panel of the catalogue that it is, or that one of its size begins as where it is said of what kind it is;
    empty where there is none."""
    found = named(kind) if kind else None
    if found is None or found[1]:
        return ""
    is_said = kind.endswith(" characters") or any(pattern.search(plain) for pattern in _SAYS_KIND)
    return found[0] if kind in CATALOGUE or (is_said and not _OF_MATRIX.search(plain)) else ""


def _is_told_size(plain: str) -> bool:
    """True for a size and how it is driven or lit, without a word that it is a display: ``20x4 i2c``, ``16x2 blue``."""
    how = bool(_hows_said(plain)) or LIT.search(plain) is not None or ROUND.search(plain) is not None
    return SIZE.search(plain) is not None and how


def _is_of_other_digits(typed: str) -> bool:
    """True for digits of the catalogue that the rest of the line makes other ones: ``4 digits 14 segments``."""
    found, kind = named(typed), _kind(BEGINS.sub("", typed.strip().lower(), count=1))
    return found is not None and "digit" in kind and kind in CATALOGUE and kind != found[0]


def driven_otherwise(typed: str) -> str:
    """A sentence where a panel of the catalogue is not driven as it is said; empty for everything else."""
    plain = BEGINS.sub("", _with_size(typed).strip().lower(), count=1)
    kind = _kind(plain) if FIRST.match(plain) and IS_DISPLAY.search(plain) else ""
    said = _hows_said(plain)
    base = _base_of(kind, plain)
    if not base or not said or set(said) & set(hows_of(base)):
        return ""
    ways = " or ".join(hows_of(base))
    return f'"{typed.strip()}": Lesart knows {kind} only {ways}, not {said[0]}.'


def _hows_said(plain: str) -> list[str]:
    return [how for pattern, how in DRIVEN if pattern.search(plain)]


def _is_in_colours(typed: str) -> bool:
    return any(pattern.search(typed.lower()) for pattern in (IN_COLOURS, ROUND))


def _with_size(typed: str) -> str:
    """``0.96 inch oled`` with its usual number of pixels; unchanged where a size is stated, or unknown."""
    inches = INCHES.search(typed.lower())
    if inches is None or SIZE.search(typed):
        return typed
    kind = next((kind for kind in OFINCHES if kind in typed.lower()), "tft" if _is_in_colours(typed) else "")
    kind = "e-paper" if OF_PAPER.search(typed.lower()) else kind
    size = OFINCHES.get(kind, {}).get(inches[1].replace(",", "."))
    rest = f"{typed[: inches.start()]}{typed[inches.end() :]}".strip()
    return f"{size} {BEGINS.sub('', rest, count=1)}" if size else typed


def _kind(plain: str) -> str:
    """The kind in the catalogue, or its name there."""
    if (modules := _OF_MODULES.search(plain)) and not IN_COLOURS.search(plain):
        chains = int(NUMBERS.get(modules["many"], modules["many"] or "1"))
        many = chains * int(modules["across"] or modules["along"]) // 8
        return next((name for name, count in MODULES.items() if count == many), f"8×8 modules, {many}")
    if digits := DIGITS.search(SEVEN.sub("", re.sub(r"\s+", " ", ALPHANUMERIC.sub("", plain)))):
        count = {"single": "1", **NUMBERS}.get(digits[1], digits[1])
        more = " with colon" if COLON.search(plain) and count == "4" else ""
        if segments := SEGMENTS.search(plain):
            more = f" of {segments[1].replace('fourteen', '14').replace('sixteen', '16')} segments"
        stem = f"{count} digit{'' if count == '1' else 's'}"
        if segments is None and ALPHANUMERIC.search(plain):
            more = next((more for more in (" of 14 segments", " of 16 segments") if f"{stem}{more}" in CATALOGUE), more)
        return f"{stem}{more}"
    size = SIZE.search(plain)
    if size is None:
        return ""
    if OF_PAPER.search(plain):
        return _either_way(size, "e-paper with red" if THIRD_INK.search(plain) else "e-paper")
    across = f"{size[1]}×{size[2]}"
    if IN_COLOURS.search(plain) or ROUND.search(plain):
        return _either_way(size, "colours")
    letters = f"{across} characters"
    is_small = int(size[2]) <= 4 and not OF_PIXELS.search(plain)
    if is_small:
        return letters
    # A size that only coloured ones have says it.
    pixels, colours = _either_way(size, "pixels"), _either_way(size, "colours")
    return colours if SIZE.fullmatch(plain) and pixels not in CATALOGUE and colours in CATALOGUE else pixels


def _either_way(size: re.Match[str], of: str) -> str:
    """The panel as stated, or with width and height swapped where only that is in the catalogue."""
    said, upright = f"{size[1]}×{size[2]} {of}", f"{size[2]}×{size[1]} {of}"
    return upright if said not in CATALOGUE and upright in CATALOGUE else said
