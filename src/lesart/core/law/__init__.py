"""Law: raw values become a physical quantity. One module a conversion; ``KINDS`` is the list of them all."""

from lesart.core.law.bridge import BRIDGE_CONVERTER, LOAD_CELL
from lesart.core.law.linear import LINEAR
from lesart.core.law.record import LawKind

KINDS: dict[str, LawKind] = {kind.name: kind for kind in (BRIDGE_CONVERTER, LOAD_CELL, LINEAR)}
"""By the name that stands as ``kind`` in the project file."""
