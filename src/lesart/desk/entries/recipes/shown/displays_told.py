"""What else a line says of a display: its light, its size, which way it lies, its address, its supply.

Every word counts: what is left once all that is known has been taken out is refused, and never dropped in silence.
"""

from __future__ import annotations

import re
from math import hypot

from lesart.core.errors import RequestError
from lesart.core.glass.panels.catalogue import CATALOGUE, LAMPS, has_third_ink, is_chained, is_paper, named, of_size
from lesart.core.glass.panels.kinds import KINDS as PANELS
from lesart.core.glass.panels.pixel_panel import SELF_LIT
from lesart.core.quantity import listed, plain_number
from lesart.core.wire.catalogue import KINDS as PARTS
from lesart.desk.entries.recipes.recipe import Table
from lesart.desk.entries.recipes.shown.displays import NUMBERS, display_in, hows_of
from lesart.desk.entries.recipes.shown.displays_aloud import (
    ALPHANUMERIC,
    COLON,
    DIGITS,
    DRIVEN,
    IN_COLOURS,
    INCHES,
    IS_DISPLAY,
    OF_LETTERS,
    OF_PAPER,
    OF_PIXELS,
    ROUND,
    SEGMENTS,
    SEVEN,
    SIZE,
    THIRD_INK,
    display_plainly,
)
from lesart.desk.entries.recipes.shown.lamps_aloud import HOW, lamps_told
from lesart.desk.entries.said.modifiers import as_typed
from lesart.desk.entries.said.supply import without_supply

MM_PER_INCH = 25.4
QUARTER = "a quarter"
STRIPE_ROWS = 16
"""Rows of the stripe on panels of two lights, which all have it on top."""
_LIGHT = r"(?:yellow[\s-]?green|red|green|amber|yellow|blue|white|grey|gray|black)"
_NAMES = {"yellow": "amber", "gray": "grey", "yellow green": "green", "yellow-green": "green", "yellowgreen": "green"}
_GREYS = ("grey", "gray")
"""Of a self-lit panel these are no light but levels, which none here has."""
_LIGHTS = re.compile(
    rf"\b(?P<first>{_LIGHT})\b(?:(?:\s*(?P<between>[/+&,-]|\bon\b|\band\b)\s*|\s+)(?P<second>{_LIGHT})\b)?"
)
_ON_PAPER = re.compile(r"\b(?:black|white|b\s*/\s*w|monochrome|two[\s-]+colou?rs?)\b")
"""All there is on paper with one pigment."""
_IS_YELLOW = re.compile(r"\byellow\b|\bbwy\b|\bb\s*/\s*w\s*/\s*y\b")
_COMMON = re.compile(r"\bcommon[\s-]+(anode|cathode)\b")
_ADDRESS = re.compile(r"(?:\b(?:at|on)\s+)?(?:(?:i2c\s+)?address\s+)?\b(0x[0-9a-f]{2})\b", re.IGNORECASE)
_DEGREES = r"\s*(?:°|deg(?:rees?)?\b)"
_TURNED = (
    (re.compile(rf"\bupside[\s-]+down\b|\b(?:turned|rotated)\s+(?:by\s+)?(?:half\b|180(?:{_DEGREES}|\b))"), "half"),
    (
        re.compile(rf"\b(?:turned|rotated)\s+(?:by\s+)?(?:three\s+quarters\b|(?:-\s?90|270)(?:{_DEGREES}|\b))"),
        "three quarters",
    ),
    (re.compile(rf"\b(?:turned|rotated)\s+(?:by\s+)?(?:a\s+quarter\b|90(?:{_DEGREES}|\b))"), QUARTER),
)
_LIES = re.compile(r"\b(landscape|portrait)\b")
_MIRRORED = re.compile(r"\bmirrored\b")
_SEE_THROUGH = re.compile(r"\bsee[\s-]?through\b|\btransparent\b")
_CLOCK = re.compile(r"(?:\bat\s+)?\b(\d{1,4}(?:[.,]\d{1,3})?)\s*([km])hz\b(?:\s+clock\b)?")
_BRIGHT = re.compile(
    r"\b(?:brightness|backlight|dimmed|light)\s+(?:of\s+|at\s+|to\s+)?(\d{1,3})\s*%|\b(\d{1,3})\s*%\s+bright\w*"
)
_SMALL = re.compile(
    rf"\b(?:an?|the|with|of|on|over|via|by|in|and|using|its|my|that|is|driven|driver|bus|mode|interface|led|"
    rf"leds|backlight|backlit|light|lit|letters|text|mono(?:chrome)?|ips|controller|chained|cascaded|"
    rf"chain|orientation|display|adapter|data|each|usual|standard|{'|'.join(NUMBERS)})\b|[\s,;:/&+-]+"
)


def told_aloud(typed: str, kind: str) -> Table:
    """Further values of a catalogue panel: its light, its size, how it is built in, and what segments share."""
    return _told(typed, kind)[0]


def left_over(typed: str, kind: str) -> str:
    """The words that say nothing Lesart knows of this display; a voltage is left too."""
    words = _SMALL.sub(" ", _told(typed, kind)[1]).split()
    return " ".join(as_typed(typed, word) for word in words)


def check_all_understood(typed: str, kind: str, part: str) -> None:
    """Raises RequestError for words that say nothing Lesart knows of this display, and for a supply that its part
    does not take."""
    left_said, panel = left_over(typed, kind), str(CATALOGUE[kind]["kind"])
    left = (without_supply(left_said, PARTS[part]) if part in PARTS else left_said).split()
    if has_third_ink(CATALOGUE[kind]) and {"red", "yellow"} <= set(re.findall(r"\w+", typed.lower())):
        raise RequestError(
            f'"{typed.strip()}" has four inks; Lesart knows e-paper in black, white and one of red and yellow.'
        )
    kind = _of_its_size(kind, typed)
    if left and kind == LAMPS:
        wanted = "how many there are, how their line runs, which byte comes first or their brightness"
        raise RequestError(f'"{_together(typed, left)}" is not understood of {kind}; say {wanted}.')
    if left:
        can_turn = any(each.name == "turned" for each in PANELS[panel].parameters)
        more = ", its address or how it is turned" if can_turn else " or its address"
        wanted = f"its size, how it is driven, its light{more}"
        raise RequestError(f'"{_together(typed, left)}" is not understood of {kind}; say {wanted}.')


def _of_its_size(kind: str, typed: str) -> str:
    """The kind, with the size of a panel that is not listed: ``170×333 colours``."""
    size = SIZE.search(typed.lower())
    if size is None or not of_size(kind, int(size[1]), int(size[2])):
        return kind
    return f"{size[1]}×{size[2]} {kind.partition(' ')[2]}"


def described(typed: str) -> str:
    """The display in the words of the catalogue, with its usual drive where what stands behind it describes it and is
    no name: ``128x64 pixels upside down``, or where it is known by its size in inches.

    Raises RequestError for more segments than the digits of the catalogue have.
    """
    plain = display_plainly(typed)
    found = named(plain)
    if found is not None and (segments := SEGMENTS.search(found[1])):
        of = listed([each for each in CATALOGUE if each.endswith(" segments")])
        raise RequestError(
            f'"{segments[0]}" is not understood of {found[0]}; of more than 7 segments Lesart knows {of}.'
        )
    if (display := display_in(plain)) is not None:
        kind, _, name = display
        is_described = bool(name) and not _is_kind(name) and not left_over(name, kind)
        return plain.strip().removesuffix(name).strip() if is_described else plain
    if found is None:
        return plain
    kind, behind = found
    if kind == LAMPS:
        return f"{plain} {HOW}" if not behind else plain
    is_listed = typed.strip() == kind  # chosen as the catalogue has it, which says nothing of its drive
    is_described = not left_over(behind, kind) if behind else not is_listed
    size = SIZE.search(plain.lower()) if not behind else None  # its own, of a kind that has several
    said = re.sub(r"(?<=\d)\s?x\s?(?=\d)", "×", plain) if size else kind
    return f"{said} {hows_of(kind)[0]}" if is_described else plain


def _is_kind(name: str) -> bool:
    """True for words of what it is, which describe nothing more and so are a name: ``oled``."""
    rest = name.lower()
    for pattern in (IN_COLOURS, OF_PAPER, OF_PIXELS, OF_LETTERS, IS_DISPLAY):
        rest = pattern.sub("", rest)
    return not rest.strip()


def address_said(typed: str) -> str:
    """The stated address of a display, as the project file writes it; empty for none."""
    found = _ADDRESS.search(typed)
    return f"0x{int(found[1], 16):02X}" if found else ""


def _told(typed: str, kind: str) -> tuple[Table, str]:
    """What is told, and the rest of the line without it."""
    if kind == LAMPS:
        return _told_of_lamps(typed.lower())
    panel = str(CATALOGUE[kind]["kind"])
    parameters = {each.name for each in PANELS[panel].parameters}
    plain = typed.lower()
    told: Table = {"turned": QUARTER} if _is_across(plain, kind) or _is_laid(plain, kind) else {}
    if size := SIZE.search(plain):
        told |= of_size(kind, int(size[1]), int(size[2]))
    if is_paper(CATALOGUE[kind]):
        told |= {"third": "yellow"} if has_third_ink(CATALOGUE[kind]) and _IS_YELLOW.search(plain) else {}
        plain = _without(_ON_PAPER, _without(THIRD_INK, plain) if has_third_ink(CATALOGUE[kind]) else plain)
    elif (found := _LIGHTS.search(plain)) and not ("oled" in plain and found["first"] in _GREYS):
        told |= _light(found, plain, panel)
        plain = _without(_LIGHTS, plain)
    table = {**CATALOGUE[kind], **told}
    if "disc" in parameters and table["width"] == table["height"] and ROUND.search(plain):
        told["disc"] = True
        plain = re.sub(r"\b(?:round|circular)\b", " ", plain)
    if inches := INCHES.search(plain):
        pitch = _of_inches(float(inches[1].replace(",", ".")), table, is_round="disc" in told)
        told, plain = told | pitch, _without(INCHES, plain) if pitch else plain
    if kind == "6 digits" and COLON.search(plain):
        told["colons"], plain = "2 4", _without(COLON, plain)
    if "common" in parameters and (common := _COMMON.search(plain)):
        told["common"] = common[1]
        plain = _without(_COMMON, plain)
    if "turned" in parameters:
        for pattern, turn in _TURNED:
            if pattern.search(plain):
                told["turned"], plain = turn, _without(pattern, plain)
    for name, pattern in (("mirror", _MIRRORED), ("see_through", _SEE_THROUGH)):
        if name in parameters and pattern.search(plain):
            told[name], plain = True, _without(pattern, plain)
    if "clock" in parameters and (clock := _CLOCK.search(plain)):
        told["clock"] = f"{clock[1].replace(',', '.')} {'M' if clock[2] == 'm' else 'k'}Hz"
        plain = _without(_CLOCK, plain)
    if "backlight" in parameters and (bright := _BRIGHT.search(plain)):
        told["backlight"] = f"{bright[1] or bright[2]} %"
        plain = _without(_BRIGHT, plain)
    if _can_lie(kind):
        plain = _without(_LIES, plain)
    driven = (*(re.compile(rf"\b{how}\b") for how in hows_of(kind)), *(pattern for pattern, _ in DRIVEN))
    of_kind = (_ADDRESS, SIZE, SEVEN, DIGITS, *driven)
    of_segments = [SEGMENTS, ALPHANUMERIC] if re.search(r"of 1[46] segments$", kind) else []
    of_colon = [COLON] if kind.endswith("with colon") else []
    for pattern in (*of_kind, *of_segments, *of_colon, IN_COLOURS, OF_PAPER, OF_PIXELS, OF_LETTERS, IS_DISPLAY):
        plain = _without(pattern, plain)
    return told, re.sub(r"\b\d(?=\s*$)|^\s*\d\b", " ", plain) if "module" in kind else plain


def _told_of_lamps(plain: str) -> tuple[Table, str]:
    bright = _BRIGHT.search(plain)
    told, plain = lamps_told(_without(_BRIGHT, plain).replace(HOW, " "))
    return {**told, **({"backlight": f"{bright[1] or bright[2]} %"} if bright else {})}, plain


def _without(pattern: re.Pattern[str], plain: str) -> str:
    return pattern.sub(" ", plain)


def _together(typed: str, left: list[str]) -> str:
    """What is left, from its first word to its last where it stands together; else its words."""
    found = re.search(r"\W*?".join(re.escape(word) for word in left), typed, re.IGNORECASE)
    return found[0].strip() if found else " ".join(left)


def _light(found: re.Match[str], plain: str, panel: str) -> Table:
    """Its light: of ``white on blue`` what is behind the letters, of two lights of self-lit pixels the stripe as
    well."""
    parameters = {each.name: each.choices for each in PANELS[panel].parameters}
    if panel == "colours":  # what is red of them is the board
        return {}
    key = "light" if "light" in parameters else "colour"
    first, second = (_NAMES.get(name, name) for name in (found["first"], found["second"] or ""))
    is_on = found["between"] == "on"
    shines = panel == "segments" or "oled" in plain
    lights = [each for each in (first, second) if each in SELF_LIT]
    if panel == "pixels" and not is_on and len(lights) == 2:
        stripe = "amber" if "amber" in lights else lights[0]
        rest = next((each for each in lights if each != stripe), stripe)
        return {"light": rest, "stripe": STRIPE_ROWS, "stripe_light": stripe}
    own = second if is_on and not shines else first
    if own == "black":
        return {}
    behind = f"{own} light"
    # Characters and liquid crystals have a backlight; self-lit panels have only a colour.
    found_as = own if shines or behind not in parameters[key] else behind
    return {key: found_as} if found_as in parameters[key] else {}


def _of_inches(inches: float, table: Table, *, is_round: bool) -> Table:
    """The pitch of pixels by the diagonal, or by the diameter of a round panel; the height of digits, which is what is
    stated of them."""
    if table["kind"] == "segments":
        return {"digit_height": f"{plain_number(inches * MM_PER_INCH, 3)} mm"}
    if "width" not in table or is_chained(table):  # of modules nobody says a diagonal
        return {}
    across = float(table["width"]) if is_round else hypot(float(table["width"]), float(table["height"]))
    return {"pitch": f"{plain_number(inches * MM_PER_INCH / across, 3)} mm"}


def _can_lie(kind: str) -> bool:
    return "height" in CATALOGUE[kind]


def _is_across(plain: str, kind: str) -> bool:
    """True where width and height are swapped compared with the catalogue, as 320×240 for an upright panel."""
    size = SIZE.search(plain)
    return size is not None and kind.startswith(f"{size[2]}×{size[1]} ") and size[1] != size[2]


def _is_laid(plain: str, kind: str) -> bool:
    """True for a panel said to lie the other way than in the catalogue."""
    wide, high = (int(CATALOGUE[kind].get(each, 0)) for each in ("width", "height"))
    lies = "landscape" if high > wide else "portrait" if wide > high > 8 else ""
    size = SIZE.search(plain)
    return bool(lies) and lies in plain and (size is None or kind.startswith(f"{size[1]}×{size[2]} "))
