"""Formulas of data sheets with V for a voltage: ``(V / 5 - 0.16) / 0.0062``, ``133.42 V^3 - 255.86 V^2 + 857.39 V``."""

from __future__ import annotations

import re

from lesart.core.errors import RequestError
from lesart.core.raw.spelled.unit_said import unit_said

VOLT_LETTERS = ("V", "v", "U", "u")
USUAL_V = 5.0
"""Up to so many volts a formula is made for."""
_LETTER = r"[VvU]"
_IS_NAME = re.compile(
    rf"(?:^|[=(*+,^−-]|(?<![A-Za-zΩ°%])/)\s*{_LETTER}(?=\s*(?:[-−+*/^),²³]|$))|(?<![A-Za-z]){_LETTER}\s*(?:\^|\*\*|²|³)"
)
"""It stands where a name stands, and not behind a number or a unit as a unit does, or it is raised to a power."""
_EACH = re.compile(rf"(?P<number>\d\s*\*?\s*)?(?<![A-Za-z_.]){_LETTER}(?![A-Za-z_\d])")
_HAS_SUM = re.compile(r"[-−+*/^²³]")


_IN_UNIT = re.compile(r"(?<=[\d)])\s+(?P<unit>[^\W\d_][^\s=]*|[°%µ]\S*)\s*$")
_READING, _VOLTS = re.compile(r"\b(?:x|volts)\b"), re.compile(r"\bvolts\b")


def with_unit_first(typed: str) -> str:
    """``distance = 27 * x^-1.2 cm`` as ``distance cm = …``, which is the unit of the whole; other lines unchanged.

    Raises RequestError for a word in that place that is no unit.
    """
    head, sign, formula = typed.rpartition("=")
    found = _IN_UNIT.search(formula)
    if "<" in typed or found is None or not (_READING if sign else _VOLTS).search(formula):
        return typed
    if unit_said(found["unit"]) is None:
        raise RequestError(
            f'"{typed.strip()}": "{found["unit"]}" is not a unit Lesart knows; leave it out, or name one.'
        )
    return f"{head.strip() or 'result'} {found['unit']} = {formula[: found.start()].strip()}"


def with_volts_named(typed: str) -> str:
    """The formula with ``volts`` for its letter, where that stands for a reading; any other line unchanged.

    Where one of them does, all do: behind a number it is a factor then, and no unit.
    """
    head, sign, formula = typed.rpartition("=")
    formula = formula.replace("²", "^2").replace("³", "^3")
    if "<" in typed or not _IS_NAME.search(formula) or not _HAS_SUM.search(formula) or re.search(r"\bx\b", formula):
        return typed

    def named(found: re.Match[str]) -> str:
        number = (found["number"] or "").strip().rstrip("*").strip()
        return f"{number} * volts" if number else "volts"

    return f"{head}{sign}{_EACH.sub(named, formula)}"
