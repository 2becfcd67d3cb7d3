"""Questions of several recipes, and how an answer is written."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from lesart.core.law import KINDS as LAWS
from lesart.core.notes import Key, Written
from lesart.core.parameters import Parameter
from lesart.core.units import parse_unit
from lesart.core.wire.catalogue import KINDS as PARTS
from lesart.desk.entries.recipes.recipe import Ask, Said, Table

PLAIN = parse_unit("1")
COUNT = parse_unit("ct")
VOLT = parse_unit("V")
OHM = parse_unit("Ω")
PERCENT = parse_unit("%")


def _of(parameters: Sequence[Parameter], name: str, usual: Written) -> Parameter:
    return replace(next(each for each in parameters if each.name == name), default=usual)


def of_law(kind: str, name: str, usual: Written, *places: Key, word: str = "") -> Ask:
    """A question for a law's value, which goes to ``places``."""
    return Ask(word or name.replace("_", " "), _of(LAWS[kind].parameters, name, usual), places)


def of_part(kind: str, name: str, usual: Written, part: str, word: str) -> Ask:
    """A question for the value of a part of the sketch."""
    return Ask(word, _of(PARTS[kind].parameters, name, usual), (("parts", part, name),))


BITS = of_law("converter", "bits", 10, ("laws", 0, "bits"))
REFERENCE = of_law("converter", "reference", "5 V", ("laws", 0, "reference"))


def converter(said: Said) -> Table:
    """The converter law, with which most begin."""
    return {"kind": "converter", "bits": said["bits"], "reference": said["reference"]}


def bare(written: Written) -> str:
    """A value without its tolerance."""
    return str(written).partition("±")[0].strip()
