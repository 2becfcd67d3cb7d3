"""Values of a divider or a converter by the names they have in programs: ``vcc=3.3``, ``adc=4095``, ``r1=10k``."""

from __future__ import annotations

import re
from collections.abc import Collection

_NUMBER = r"\d+(?:[.,]\d+)?"
_TWICE = re.compile(rf"(?<![\w.,])2\s*[x×]\s*({_NUMBER}\s*[kMΩR]\d*(?:Ω|ohms?)?)")
_UPPER = re.compile(r"[\s,]*\br_?(?:1|top|upper|high)\s*=\s*(?=\d)", re.IGNORECASE)
_LOWER = re.compile(r"[\s,]*\br_?(?:2|bottom|lower|low)\s*=\s*(?=\d)", re.IGNORECASE)
_MOST = re.compile(
    r"[\s,]*\b(?:adc|adc\s?max|max|full[\s-]?scale)\s*=\s*(255|256|1023|1024|4095|4096|16383|65535|65536)(?![\w.])",
    re.IGNORECASE,
)
_SUPPLY = re.compile(
    rf"[\s,]*\b(?:v?cc|vdd|a?v?ref|vin|supply)(?:\s*=\s*(?P<volts>{_NUMBER})\s*V?|\s+(?P<said>{_NUMBER})\s*V)(?![\w/])",
    re.IGNORECASE,
)
_SERIES = re.compile(r"[\s,]*\b(?:r|r_?s|r1|r_?series|r_?fixed|series)\s*=\s*(?=\d)", re.IGNORECASE)


def by_program_names(rest: str, words: Collection[str]) -> str:
    """What is known of a signal, in the ``words`` of its questions where a program's name stands for one."""
    if "upper" in words:
        rest = _LOWER.sub(", lower = ", _UPPER.sub(", upper = ", rest))
        rest = _TWICE.sub(r"\1 \1", rest)
    if {"bits", "reference"} <= set(words):
        rest = _MOST.sub(lambda found: f", bits = {(int(found[1]) - 1).bit_length()}, ", rest)
    if {"bits", "reference"} <= set(words) and "supply" not in words:
        rest = _SUPPLY.sub(lambda found: f", reference = {found['volts'] or found['said']} V, ", rest)
    return _SERIES.sub(", fixed = ", rest) if {"beta", "fixed"} <= set(words) else rest
