"""Law: raw values become a physical quantity. One module a conversion; ``KINDS`` is the list of them all."""

from lesart.core.law.bridge import BRIDGE_CONVERTER, LOAD_CELL
from lesart.core.law.divider import DIVIDER, HALF, SHUNT
from lesart.core.law.linear import LINEAR
from lesart.core.law.record import LawKind

KINDS: dict[str, LawKind] = {kind.name: kind for kind in (BRIDGE_CONVERTER, LOAD_CELL, LINEAR, DIVIDER, HALF, SHUNT)}
"""By the name that stands as ``kind`` in the project file."""
