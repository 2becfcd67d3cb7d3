"""A platinum resistor on a converter that compares it with a known resistor, and its phrases."""

from __future__ import annotations

import re

from lesart.core.parameters import Parameter
from lesart.desk.entries.recipes.questions import bare, of_law
from lesart.desk.entries.recipes.recipe import Ask, Recipe, Said, Sketch, Table

_OHMS = (
    r"(?<![\w.,])\d{1,9}(?:[.,]\d{1,9})?\s*(?:(?:k|R(?![_-]?ref))\d*\s*(?:Ω|ohms?)?|Ω|ohms?)"
    r"(?:\s*±\s*\d+(?:\.\d+)?\s*%)?"
)
_CALLED = r"(?:r[\s_-]?ref|ref(?:erence)?(?:\s+resistor)?)"
REFERENCE_SAID = re.compile(
    rf"(?:(?:with|and|over)\s+)?(?:an?\s+)?(?P<before>{_OHMS})\s*{_CALLED}(?!\w)"
    r"(?:\s*(?P<within>±\s*\d+(?:\.\d+)?\s*%))?"
    rf"|\b{_CALLED}\s*(?:of\s+|is\s+|[=:]\s*)?(?P<behind>{_OHMS})(?!\w)"
    r"|\br[\s_-]?ref\s*(?:of\s+|is\s+|[=:]\s*)?(?P<bare>\d{1,9}(?:[.,]\d{1,9})?)(?![\w.,]*\s*V)",
    re.IGNORECASE,
)
"""``430 ohm reference``, ``Rref = 430``; one in volts is a converter's own."""
PLATINUM = re.compile(
    r"\b(?:(?:rtd\s+)?pt[\s-]?(?P<ohms>1000?)|rtd|platinum(?:\s+resistor)?)\b(?:\s+(?:sensor|probe|rtd))?",
    re.IGNORECASE,
)
_IDLE = re.compile(
    r"\b(?:through|on|via|with|behind|read\s+by|by)\s+(?:an?\s+)?(?=converter|amplifier|module)|\b(?:rtd\s+)?"
    r"(?:converter|amplifier|module|breakout)\b(?:\s+of\b)?|\b(?:rtd)?[\s-]*to[\s-]*digital\b",
    re.IGNORECASE,
)
_HALF = re.compile(r"\b(?:half|divider|series|fixed|pull)", re.IGNORECASE)


def _compared(said: Said) -> Sketch:
    """The law of the converter: 2^bits counts are the reference resistance."""
    share: Table = {"kind": "linear", "input": "0 ct", "output": "0", "slope": f"{2 ** int(said['bits'])} ct"}
    times: Table = {"kind": "linear", "input": "0", "output": "0 Ω", "slope": said["fixed"]}
    law: Table = {"kind": "platinum", "resistance": bare(said["resistance"])}
    return Sketch((share, times, law), {"probe": {"kind": "four-wire module"}}, "probe", span=("-50 °C", "250 °C"))


BITS = Parameter("bits", "bits", "integer", "of the code of the resistance", 15, lowest=8, highest=24)
REFERENCE = Parameter(
    "fixed", "reference resistor", "quantity", "beside the converter", "430 Ω", unit="Ω", toleranced=True
)
PLATINUM_CONVERTER = Recipe(
    "platinum converter",
    "a platinum resistor on a converter that compares it with a reference resistor",
    "a platinum converter, fixed = 430 Ω",
    (
        Ask("bits", BITS, (("laws", 0, "slope"),)),
        Ask("fixed", REFERENCE, (("laws", 1, "slope"),)),
        of_law("platinum", "resistance", "100 Ω", ("laws", 2, "resistance")),
    ),
    _compared,
)


def compared(bare_phrase: str) -> str:
    """``Pt100 with a 430 ohm reference`` as the recipe accepts it; empty for anything else."""
    reference = REFERENCE_SAID.search(bare_phrase)
    if reference is None or not PLATINUM.search(bare_phrase) or _HALF.search(bare_phrase):
        return ""
    at_zero = next((found["ohms"] for found in PLATINUM.finditer(bare_phrase) if found["ohms"]), "")
    ohms = (reference["before"] or reference["behind"] or reference["bare"]).strip()
    unit = "" if re.search(r"[ΩokR]", ohms, re.IGNORECASE) else " Ω"
    within = f" {reference['within']}" if reference["within"] else ""
    rest = REFERENCE_SAID.sub(" , ", bare_phrase, count=1)
    rest = PLATINUM.sub(" ", _IDLE.sub(" ", rest)).strip(" ,-")
    also = (f"resistance = {at_zero} Ω" if at_zero else "", rest)
    return ", ".join((f"a {PLATINUM_CONVERTER.name}, fixed = {ohms}{unit}{within}", *filter(None, also)))
