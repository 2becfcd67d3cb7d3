"""What all filter stages share: the unit stays the same, and a steady value passes unchanged."""

from __future__ import annotations

from lesart.core.dataclass_later import dataclass
from lesart.core.units import Unit


@dataclass(frozen=True)
class Passing:
    """Unit in is unit out; slope 1; a steady value passes unchanged."""

    unit_in: Unit

    @property
    def unit_out(self) -> Unit:
        """A filter stays in the reading's unit."""
        return self.unit_in

    def slope(self, x: float) -> float:
        """A slow change passes in full."""
        return 1.0

    def inverse(self, y: float) -> float:
        """A steady value passes unchanged."""
        return y
