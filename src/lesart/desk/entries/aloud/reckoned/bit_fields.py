"""A value in some bits of a word, with its sign and its step, as data sheets print it: ``bits 31..18 signed, 0.25 °C``,
``12 bits left justified, 0.0625 °C per LSB``, ``>> 4, signed, * 0.5``.
"""

from __future__ import annotations

import re
from collections.abc import Sequence

from lesart.core.block import Floats
from lesart.core.errors import RequestError
from lesart.core.raw.spelled.bits_said import BITS_SAID
from lesart.core.raw.spelled.unit_said import unit_said
from lesart.desk.entries.aloud.reckoned.expressions import Reckoned, Scene

SIZES = (8, 10, 12, 16, 24, 32)
"""Widths of integers, as converters and registers have them, bits."""
MOST_BITS = 64
REGISTERS = (16, 24, 32)
"""Widths of words in which fewer bits may be left-justified."""
_SIGNED = re.compile(
    r"(?:as\s+|is\s+)?(?:(?P<before>\d{1,2})[\s-]*bits?\s+)?(?<!un)(?:signed|two'?s[\s-]+complement)"
    r"(?:\s+(?P<behind>\d{1,2})[\s-]*bits?)?",
    re.IGNORECASE,
)
_STEP = re.compile(
    r"(?:[*×]|times|in\s+(?:steps\s+of\s+)?|steps?\s+of)?\s*(?P<step>\d{1,12}(?:[.,]\d{1,12})?(?:e-?\d{1,2})?|1/\d{1,12})"
    r"(?:\s*(?P<unit>(?!(?:per|bits?)\b)[^\s\d,;=/]+(?:/(?!(?:LSB|count|bit|digit|step)s?\b)[^\s\d,;=]+)?))?"
    r"(?:\s*(?:/|per)\s*(?:an?\s+)?(?:LSB|count|ct|bit|digit|step))?",
    re.IGNORECASE,
)


def bit_field(said: str, scene: Scene) -> Reckoned | None:
    """The law for named bits; None where none are.

    A whole word may have a sign and a step too: ``16 bits signed, 0.01 °C``.
    """
    taken = BITS_SAID.match(said)
    is_whole = taken is None and _SIGNED.match(said) is not None
    if not (taken or is_whole) or scene.end.symbol not in ("ct", "1"):
        return None
    rest = said[taken.end() :] if taken else said
    signed = _SIGNED.search(rest)
    rest = rest if signed is None else f"{rest[: signed.start()]} {rest[signed.end() :]}"
    rest = re.sub(r"^[\s,;]+(?:unsigned\b)?[\s,;]*|[\s,;]+$", "", rest)
    step = _STEP.fullmatch(rest)
    if (rest and step is None) or not (rest or taken):
        return None
    unit = unit_said(step["unit"]) if step and step["unit"] else None
    if step and step["unit"] and unit is None:
        return None
    x = scene.values()
    bits, width = _bits_taken(taken, x) if taken else ("x", _smallest(SIZES, x, 1))
    if signed and not (x.size and float(x.min()) < 0):
        width = max(int(signed["before"] or signed["behind"] or width), 1)
        bits = f"({bits} - {2**width} if {bits} >= {2 ** (width - 1)} else {bits})"
    text = f"{bits} * {_step_of(scene, step['step'])}" if step else bits
    return scene.by_formula(text, {}, into=unit or scene.end)


def _bits_taken(taken: re.Match[str], x: Floats) -> tuple[str, int]:
    """The bits as a formula of x, and their number. Raises RequestError for more than a word has."""
    asked = [int(each) for each in taken.groups() if each]
    none = "0" in (taken["top"], taken["left"], taken["low"])
    if none or max(asked) > MOST_BITS or (not max(asked) and not taken["first"]):
        raise RequestError(f'"{taken[0]}": a word has from 1 to {MOST_BITS} bits, the lowest of them is bit 0.')
    if taken["first"]:
        low, high = sorted((int(taken["first"]), int(taken["last"])))
        return f"(floor(x / {2**low}) - {2 ** (high - low + 1)} * floor(x / {2 ** (high + 1)}))", high - low + 1
    if taken["low"]:
        width = int(taken["low"])
        return f"(x - {2**width} * floor(x / {2**width}))", width
    word = int(taken["of"] or 0)
    if width := int(taken["top"] or taken["left"] or 0):
        if word and width > word:
            raise RequestError(f'"{taken[0]}": a word of {word} bits has no {width}.')
        sizes = SIZES if taken["top"] else REGISTERS
        word = word or _smallest(sizes, x, width)
        return f"floor(x / {2 ** max(word - width, 0)})", width
    drop = int(taken["shift"] or taken["right"])
    return f"floor(x / {2**drop})", _smallest(SIZES, x, drop + 1) - drop


def _smallest(sizes: Sequence[int], x: Floats, least: int) -> int:
    """The smallest word that holds all values and ``least`` bits."""
    most = float(abs(x).max(initial=0.0))
    return next((size for size in sizes if size >= least and most < 2**size), sizes[-1])


def _step_of(scene: Scene, said: str) -> str:
    """The step as part of a formula. Raises RequestError for a step of 0."""
    above, _, below = said.replace(",", ".").partition("/")
    if not float(above) or (below and not float(below)):
        raise RequestError(f'"{scene.typed.strip()}": a step of {said} gives no reading; say what one count is worth.')
    return f"({said})" if below else above
