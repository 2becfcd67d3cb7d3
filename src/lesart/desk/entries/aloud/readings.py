"""A channel meant by another word than its name: ``the temperature``, ``the reading``, ``it``."""

from __future__ import annotations

from collections.abc import Mapping

from lesart.core.units import Unit, parse_unit
from lesart.desk.entries.aloud.article import without_article
from lesart.project.called import channel_called as called_by_name

CHOSEN = frozenset({"it", "this", "value", "reading", "measurement", "number", "channel", "result"})
QUANTITIES: Mapping[str, str] = {
    "temperature": "°C",
    "temp": "°C",
    "pressure": "Pa",
    "weight": "kg",
    "mass": "kg",
    "load": "kg",
    "voltage": "V",
    "current": "A",
    "power": "W",
    "distance": "m",
    "level": "m",
    "height": "m",
    "depth": "m",
    "speed": "m/s",
    "frequency": "Hz",
    "angle": "°",
    "resistance": "Ω",
    "illuminance": "lx",
}
"""Words for quantities, and a unit of each."""


def channel_called(said: str, units: Mapping[str, Unit], chosen: str) -> str:
    """The channel that is meant, among those with ``units`` by name: the ``chosen`` one where possible, else the only
    one of that quantity. The words unchanged where there is none, or several."""
    bare = without_article(said.strip()).lower()
    if (found := called_by_name(said, units) or called_by_name(bare, units)) is not None:
        return found
    if bare in CHOSEN:
        return chosen
    unit = QUANTITIES.get(bare)
    if unit is None:
        return said
    fit = [name for name, own in units.items() if own.same_dimension(parse_unit(unit))]
    if chosen in fit:
        return chosen
    return fit[0] if len(fit) == 1 else said
