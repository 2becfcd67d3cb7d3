"""A bridge of strain gauges, and its phrases."""

from __future__ import annotations

import re

from lesart.core.errors import RequestError
from lesart.core.parameters import Parameter
from lesart.core.quantity import parse_quantity
from lesart.desk.entries.recipes.questions import PLAIN, bare, of_law
from lesart.desk.entries.recipes.recipe import Ask, Recipe, Said, Sketch, Table

ARMS = {"quarter": 4.0, "half": 2.0, "full": 1.0}
"""The change of a gauge's resistance is so many times the output of the bridge, both as shares. Source: the bridge of
four resistors for small changes, a quarter of ΔR ÷ R for each gauge, those in opposite arms stretched, the others
pressed. Strain is that change by the gauge factor."""


def _strained(said: Said) -> Sketch:
    factor = float(parse_quantity(bare(said["factor"]), PLAIN).value)
    if not factor:
        raise RequestError("A strain gauge has a gauge factor that is not 0.")
    change: Table = {
        "kind": "linear",
        "input": "0 mV/V",
        "output": "0 ppm",
        "slope": f"{1000.0 * ARMS[str(said['arms'])]:.12g} ppm·V/mV",
    }
    strain: Table = {"kind": "linear", "input": "0 ppm", "output": "0 µε", "slope": f"{1.0 / factor:.12g} µε/ppm"}
    return Sketch(({"kind": "bridge converter", "bits": said["bits"], "gain": said["gain"]}, change, strain))


FACTOR = Parameter(
    "factor", "gauge factor", "quantity", "change of resistance for a strain", "2", unit="1", lowest=-500, highest=500
)
OF_ARMS = Parameter(
    "arms", "bridge", "choice", "how many of its four arms are gauges: one, two or all", "quarter", choices=tuple(ARMS)
)
STRAIN = Recipe(
    "strain bridge",
    "strain gauges in a bridge on a converter for bridges, as microstrain",
    "a strain bridge, factor = 2.1, arms = half",
    (
        Ask("factor", FACTOR, (("laws", 2, "slope"),)),
        Ask("arms", OF_ARMS, (("laws", 1, "slope"),)),
        of_law("bridge converter", "bits", 24, ("laws", 0, "bits")),
        of_law("bridge converter", "gain", "128", ("laws", 0, "gain")),
    ),
    _strained,
)

_FACTOR = r"(?:gauge[\s-]factor|k[\s-]factor|GF)"
_SAID = re.compile(
    rf"\b{_FACTOR}\s*(?:of|is|=|:)?\s*(?P<behind>\d+(?:[.,]\d+)?)|(?<![\w.,])(?P<before>\d+(?:[.,]\d+)?)\s*{_FACTOR}\b",
    re.IGNORECASE,
)
_BRIDGE = re.compile(r"\b(?P<arms>quarter|half|full)[\s-]*bridge\b", re.IGNORECASE)
_GAUGE = re.compile(r"^(?:foil\s+)?strain(?:\s+gau?ges?)?\b[\s,:]*", re.IGNORECASE)
_CANCELS = re.compile(
    r"(?<![\w.,])\d+(?:[.,]\d+)?\s*(?:Ω|ohms?|R)(?:\s+gau?ges?)?(?!\w)|(?:excit(?:ation|ed)\s*(?:of|at|by|with|is|=)?\s*)?"
    r"(?<![\w.,])\d+(?:[.,]\d+)?\s*V(?:\s+excitation)?(?![\w/])",
    re.IGNORECASE,
)
"""The resistance of the gauges, and the supply that the converter compares with."""


def strained(said: str) -> str:
    """``strain gauge 350 ohm, gauge factor 2.1, half bridge, gain 128``."""
    factor, bridge = _SAID.search(said), _BRIDGE.search(said)
    if factor is None and not (bridge and _GAUGE.match(said)):
        return ""
    rest = _CANCELS.sub(" ", _BRIDGE.sub(" ", _SAID.sub(" ", _GAUGE.sub("", said.strip()), count=1), count=1))
    known = (
        f"factor = {factor['behind'] or factor['before']}" if factor else "",
        f"arms = {bridge['arms'].lower()}" if bridge else "",
        re.sub(r"[\s,;]*(?:[,;]|\s)[\s,;]*", " ", rest).strip(),
    )
    return ", ".join(("a strain bridge", *filter(None, known)))
